'use client';

import { Button } from 'antd';
import { useState } from 'react';
import { msg } from './messages';
import { later } from '@/ui/later';

/** Comes when it is asked for. */
const HistoryDrawer = later(() => import('./drawer').then((m) => m.HistoryDrawer));

/** Opens the history of one document; after a restore the page is read anew. */
export function HistoryButton({ kind, id, title }: { kind: 'unit' | 'run' | 'strip_visit' | 'strip_pass'; id: string; title: string }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button size="small" type="text" onClick={() => setOpen(true)}>
        {msg.history}
      </Button>
      {open && <HistoryDrawer kind={kind} id={id} title={title} onRestored={() => location.reload()} onClose={() => setOpen(false)} />}
    </>
  );
}
