'use client';

import { App, Button } from 'antd';
import { useState } from 'react';
import { StopPage } from '@/ui/answer/stop';
import { send } from '@/ui/post';

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
  unit: 'unit',
  tested_part: 'bench part',
};

const when = (iso: string): string =>
  new Date(iso).toLocaleString('en-GB', { day: 'numeric', month: 'short', year: 'numeric', hour: '2-digit', minute: '2-digit' });

/** Trash: what was thrown away or taken off the shelf, each brought back with one button. */
export function TrashRoom({ trashed: trashed0 }: { trashed: readonly Trashed[] }) {
  const { message } = App.useApp();
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
      reason="Nothing in here counts in a comparison or is found by a search. Nothing is ever thrown away for good from here: files, samples and records stay whole."
      aside={<p className="quiet">A file dropped into its job again brings its runs back too.</p>}
    >
      {n > 0 && (
        <table className="plain" style={{ marginTop: 14 }}>
          <thead>
            <tr>
              <th>what</th>
              <th>name</th>
              <th>of</th>
              <th>thrown away</th>
              <td />
            </tr>
          </thead>
          <tbody>
            {trashed.map((t) => (
              <tr key={`${t.kind}${t.id}`}>
                <td>{KINDS[t.kind]}</td>
                <td>{t.name}</td>
                <td>{t.job ?? '—'}</td>
                <td suppressHydrationWarning>{when(t.trashedAt)}</td>
                <td className="num">
                  <Button size="small" aria-label={`Bring back ${t.name}`} onClick={() => back(t)}>
                    Bring back
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </StopPage>
  );
}
