'use client';

import { App, Button } from 'antd';
import { useState } from 'react';
import { StopPage } from '@/ui/answer/stop-page';
import { usePrefs } from '@/ui/theme/prefs';
import { send } from '@/ui/post';
import { DataTable } from '@/ui/table/data-table';
import { msg } from './messages';

/** Something thrown away, as the server tells it. */
interface Trashed {
  readonly kind: 'job' | 'run' | 'strip_visit' | 'strip_pass' | 'unit' | 'tested_part';
  readonly id: string;
  readonly name: string;
  readonly job: string | null;
  readonly trashedAt: string;
}

const KINDS: Readonly<Record<Trashed['kind'], string>> = {
  job: 'job',
  run: 'run',
  strip_visit: 'day at the strip',
  strip_pass: 'pass',
  unit: 'throttle',
  tested_part: 'bench part',
};

/** Trash: what was thrown away or taken off the shelf, each brought back with one button. */
export function TrashRoom({ trashed: trashed0 }: { trashed: readonly Trashed[] }) {
  const { message } = App.useApp();
  const { dates } = usePrefs();
  const [trashed, setTrashed] = useState(trashed0);
  const back = (t: Trashed): void => {
    send('POST', '/api/trash', { kind: t.kind, id: t.id, trashed: false })
      .then(() => {
        setTrashed((list) => list.filter((x) => x.id !== t.id));
        void message.success(`${t.name} is back.`);
      })
      .catch((e: Error) => void message.error(e.message));
  };
  const n = trashed.length;
  return (
    <StopPage
      answer={n === 0 ? 'The trash is empty.' : `${n} ${n === 1 ? 'thing lies' : 'things lie'} in the trash.`}
      reason={msg.nothingInHereCountsInA}
      aside={<p className="quiet">{msg.aFileDroppedIntoItsJob}</p>}
    >
      {n > 0 && (
        <DataTable
          name="trash"
          rows={trashed}
          rowKey={(t) => `${t.kind}${t.id}`}
          columns={[
            { key: 'what', title: msg.what, text: (t) => KINDS[t.kind], filter: (t) => KINDS[t.kind] },
            { key: 'name', title: msg.name, text: (t) => t.name, by: (t) => t.name },
            { key: 'of', title: msg.ofWord, text: (t) => t.job ?? '—', by: (t) => t.job, filter: (t) => t.job ?? '—' },
            { key: 'at', title: msg.thrownAway, text: (t) => dates.dayTime(t.trashedAt), by: (t) => t.trashedAt },
            {
              key: 'tools',
              title: '',
              text: () => '',
              tool: true,
              render: (t) => (
                <Button size="small" aria-label={`Bring back ${t.name}`} onClick={() => back(t)}>
                  {msg.bringBack}
                </Button>
              ),
            },
          ]}
        />
      )}
    </StopPage>
  );
}
