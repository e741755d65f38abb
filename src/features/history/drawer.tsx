'use client';

import { App, Button } from 'antd';
import { useEffect, useState } from 'react';
import { documentChanges, MOST_CHANGES, type DocumentChange } from '@/core/documents/changes';
import type { UnitPack } from '@/core/units/measures';
import { formatQuantity } from '@/core/units/quantity';
import { send } from '@/ui/post';
import { usePrefs } from '@/ui/theme/prefs';
import styles from './history.module.css';
import { SideSheet } from '@/ui/dialog';

/** A document as it once was, as the server tells it. */
interface Version {
  readonly version: number;
  readonly doc: object;
  readonly savedBy: string;
  readonly savedAt: string;
}

const LONGEST = 60;
const SHOWN = 8;

function valueText(value: unknown, change: DocumentChange, pack: UnitPack): string {
  if (value === null || value === undefined || value === '') return 'nothing';
  if (typeof value === 'number') return change.measure ? formatQuantity(value, change.measure, pack) : String(value);
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (Array.isArray(value))
    return value.every((v) => typeof v === 'string') ? value.join(', ').slice(0, LONGEST) || 'none' : `${value.length} of them`;
  if (typeof value === 'object') return 'something';
  return `“${String(value).slice(0, LONGEST)}”`;
}

/** Everything a document was: who changed what and when; any of it becomes the newest again. */
export function HistoryDrawer({
  kind,
  id,
  title,
  onRestored,
  onClose,
}: {
  kind: string;
  id: string;
  title: string;
  onRestored: () => void;
  onClose: () => void;
}) {
  const { pack, dates } = usePrefs();
  const { message } = App.useApp();
  const [versions, setVersions] = useState<readonly Version[] | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const address = `/api/history/${kind}/${id}`;
  useEffect(() => {
    let current = true;
    send<Version[]>('GET', address)
      .then((list) => current && setVersions(list))
      .catch((e: Error) => current && setWrong(e.message));
    return () => {
      current = false;
    };
  }, [address]);
  const restore = (v: Version): void => {
    send<Version[]>('POST', address, { version: v.version, at: versions![0]!.version })
      .then((list) => {
        setVersions(list);
        void message.success('Restored. What stood there before is kept above it.');
        onRestored();
      })
      .catch((e: Error) => setWrong(e.message));
  };
  return (
    <SideSheet open title={`History of ${title}`} size={520} onClose={onClose} destroyOnHidden>
      {wrong && (
        <p role="alert" className={styles['wrong']}>
          {wrong}
        </p>
      )}
      {versions === null && !wrong && <p className="quiet">Reading…</p>}
      {versions?.length === 1 && <p className="quiet">It has not been changed since it was made.</p>}
      <ol className={styles['list']}>
        {versions?.map((v, i) => {
          const before = versions[i + 1];
          const changes = before ? documentChanges(before.doc, v.doc) : [];
          return (
            <li key={v.version}>
              <div className={styles['head']}>
                <b>
                  {dates.dayTime(v.savedAt)}, {v.savedBy || 'nobody named'}
                </b>
                {i === 0 ? (
                  <span className="quiet">as it is now</span>
                ) : (
                  <Button size="small" aria-label={`Restore version ${v.version}`} onClick={() => restore(v)}>
                    Restore
                  </Button>
                )}
              </div>
              {!before && <p className="quiet">the oldest that is kept</p>}
              <ul>
                {changes.slice(0, SHOWN).map((c, k) => (
                  <li key={k}>
                    {c.place.join(', ')}: {valueText(c.from, c, pack)} → {valueText(c.to, c, pack)}
                  </li>
                ))}
                {changes.length > SHOWN && (
                  <li className="quiet">and {changes.length >= MOST_CHANGES ? 'many' : changes.length - SHOWN} more</li>
                )}
              </ul>
            </li>
          );
        })}
      </ol>
    </SideSheet>
  );
}
