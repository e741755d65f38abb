'use client';

import { App, Button, Skeleton } from 'antd';
import { useEffect, useState } from 'react';
import { documentChanges, MOST_CHANGES } from '@/core/documents/changes';
import { send } from '@/ui/post';
import { usePrefs } from '@/ui/theme/prefs';
import { valueText } from './value-text';
import styles from './history.module.css';
import { SideSheet } from '@/ui/dialog';
import { msg } from './messages';

/** A document as it once was, as the server tells it. */
interface Version {
  readonly version: number;
  readonly doc: object;
  readonly savedBy: string;
  readonly savedAt: string;
}

const SHOWN = 8;

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
      {versions === null && !wrong && <Skeleton active title={false} paragraph={{ rows: 8 }} />}
      {versions?.length === 1 && <p className="quiet">{msg.itHasNotBeenChangedSince}</p>}
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
                  <span className="quiet">{msg.asItIsNow}</span>
                ) : (
                  <Button size="small" aria-label={`Restore version ${v.version}`} onClick={() => restore(v)}>
                    {msg.restore}
                  </Button>
                )}
              </div>
              {!before && <p className="quiet">{msg.theOldestThatIsKept}</p>}
              <ul>
                {changes.slice(0, SHOWN).map((c, k) => (
                  <li key={k}>
                    {c.place.join(', ')}: {valueText(c.from, c, pack)} → {valueText(c.to, c, pack)}
                  </li>
                ))}
                {changes.length > SHOWN && (
                  <li className="quiet">
                    {msg.and} {changes.length >= MOST_CHANGES ? 'many' : changes.length - SHOWN} {msg.more}
                  </li>
                )}
              </ul>
            </li>
          );
        })}
      </ol>
    </SideSheet>
  );
}
