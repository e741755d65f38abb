'use client';

import { Button } from 'antd';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { msg } from './messages';

/** Comes when it is asked for. */
const HistoryDrawer = dynamic(() => import('./drawer').then((m) => m.HistoryDrawer), { ssr: false });

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
