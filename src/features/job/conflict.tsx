'use client';

import { App, Button } from 'antd';
import { useEffect } from 'react';
import { documentChanges, type DocumentChange } from '@/core/documents/changes';
import { valueText } from '@/features/history/value-text';
import { Dialog } from '@/ui/dialog';
import { usePrefs } from '@/ui/theme/prefs';
import { useJob, useJobStore } from './provider';
import { msg } from './messages';

const SHOWN = 12;
/** Changes named in the notice of what came from elsewhere. */
const NAMED = 3;
const NOTICE_S = 8;

const ofFigures = (list: readonly DocumentChange[]): readonly DocumentChange[] => list.filter((c) => c.place[0] !== 'marks');

/** Says what another window or person changed meanwhile, and that it stands beside one's own. */
function useJoined(): void {
  const { message } = App.useApp();
  const { pack } = usePrefs();
  const store = useJobStore();
  const joined = useJob((s) => s.joined);
  useEffect(() => {
    if (!joined) return;
    store.setState({ joined: null });
    const changes = ofFigures(documentChanges(joined.from, joined.to));
    if (changes.length === 0) return;
    const named = changes.slice(0, NAMED).map((c) => `${c.place.join(', ')} ${valueText(c.from, c, pack)} → ${valueText(c.to, c, pack)}`);
    const more = changes.length > NAMED ? ` and ${changes.length - NAMED} more` : '';
    void message.info(`Changed elsewhere and taken in beside yours: ${named.join('; ')}${more}.`, NOTICE_S);
  }, [joined, message, pack, store]);
}

/**
 * Two people saved the same job. What does not touch is in both already; here stands only what both changed, and a choice.
 * Nothing is thrown away before it is made.
 */
export function Conflict() {
  useJoined();
  const { dates, pack } = usePrefs();
  const theirs = useJob((s) => s.theirs);
  const doc = useJob((s) => s.doc);
  const takeTheirs = useJob((s) => s.takeTheirs);
  const keepMine = useJob((s) => s.keepMine);
  if (!theirs) return null;
  const changes = ofFigures(documentChanges(doc, theirs.doc));
  return (
    <Dialog
      open
      closable={false}
      title={`This job was saved elsewhere at ${dates.time(theirs.savedAt)}`}
      width={620}
      footer={[
        <Button key="theirs" onClick={takeTheirs}>
          {msg.takeTheirsMineStaysInUndo}
        </Button>,
        <Button key="mine" type="primary" onClick={keepMine}>
          {msg.keepMine}
        </Button>,
      ]}
    >
      <p>
        {msg.whatYouTypedIsStillHere} {changes.length === 1 ? 'this' : 'these'}:
      </p>
      <table className="plain" style={{ marginTop: 12 }}>
        <thead>
          <tr>
            <th>{msg.what}</th>
            <th className="num">{msg.mine}</th>
            <th className="num">{msg.theirs}</th>
          </tr>
        </thead>
        <tbody>
          {changes.slice(0, SHOWN).map((c) => (
            <tr key={c.place.join('.')}>
              <td>{c.place.join(', ')}</td>
              <td className="num">{valueText(c.from, c, pack)}</td>
              <td className="num">{valueText(c.to, c, pack)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {changes.length > SHOWN && (
        <p className="quiet">
          {msg.and} {changes.length - SHOWN} {msg.more}
        </p>
      )}
    </Dialog>
  );
}
