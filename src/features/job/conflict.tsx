'use client';

import { Button } from 'antd';
import { differingPaths, valueAt } from './paths';
import { usePrefs } from '@/ui/theme/prefs';
import { useJob } from './provider';
import { Dialog } from '@/ui/dialog';

const SHOWN = 12;

const plain = (value: unknown): string =>
  value === undefined || value === null ? '—' : typeof value === 'object' ? 'changed' : String(value);

/** Two people saved the same job: both versions side by side, and a choice. Nothing is thrown away before it is made. */
export function Conflict() {
  const { dates } = usePrefs();
  const theirs = useJob((s) => s.theirs);
  const doc = useJob((s) => s.doc);
  const takeTheirs = useJob((s) => s.takeTheirs);
  const keepMine = useJob((s) => s.keepMine);
  if (!theirs) return null;
  const paths = differingPaths(doc, theirs.doc).filter((p) => !p.startsWith('marks'));
  const time = dates.time(theirs.savedAt);
  return (
    <Dialog
      open
      closable={false}
      title={`This job was saved elsewhere at ${time}`}
      width={620}
      footer={[
        <Button key="theirs" onClick={takeTheirs}>
          Take theirs (mine stays in undo)
        </Button>,
        <Button key="mine" type="primary" onClick={keepMine}>
          Keep mine
        </Button>,
      ]}
    >
      <p>What you typed is still here. These figures differ (as stored, in SI units):</p>
      <table className="plain" style={{ marginTop: 12 }}>
        <thead>
          <tr>
            <th>figure</th>
            <th className="num">mine</th>
            <th className="num">theirs</th>
          </tr>
        </thead>
        <tbody>
          {paths.slice(0, SHOWN).map((p) => (
            <tr key={p}>
              <td>{p.replaceAll('.', ' › ')}</td>
              <td className="num">{plain(valueAt(doc, p))}</td>
              <td className="num">{plain(valueAt(theirs.doc, p))}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {paths.length > SHOWN && <p className="quiet">… and {paths.length - SHOWN} more.</p>}
    </Dialog>
  );
}
