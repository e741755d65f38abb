'use client';

import { LeftOutlined, RightOutlined } from '@ant-design/icons';
import { Link } from '@/ui/link';
import { usePathname, useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { issueLine } from '@/core/documents/issue-text';
import { sameDocument } from '@/core/documents/merge';
import { usePrefs } from '@/ui/theme/prefs';
import { useCommands } from '@/ui/shell/commands';
import { stopLine } from './finding-text';
import { valueAt } from './paths';
import { useJob, useJobStore } from './provider';
import { STOPS } from './stops';
import styles from './job.module.css';
import { msg } from './messages';
import { later } from '@/ui/later';

/** Comes when it is asked for. */
const HistoryDrawer = later(() => import('@/features/history/drawer').then((m) => m.HistoryDrawer));

function SavedMark() {
  const save = useJob((s) => s.save);
  const savedAt = useJob((s) => s.savedAt);
  const refusal = useJob((s) => s.refusal);
  const late = useJob((s) => s.late);
  const pending = useJob((s) => Object.values(s.pending)[0]);
  const waiting = useJob((s) => s.waiting);
  // Taken in under wider bounds, and as it was then: the answers rest on it.
  const old = useJob((s) => s.amiss.find((i) => sameDocument(valueAt(s.doc, i.path), i.value)));
  const number = useJob((s) => s.number);
  const { dates, pack } = usePrefs();
  const time = dates.time(savedAt);
  const words = {
    saved: `saved ${time}`,
    unsaved: 'typing…',
    saving: 'saving…',
    away: refusal ? `not saved: ${refusal}` : 'not saved: the server is away. Kept here, tried again.',
    conflict: 'not saved: changed elsewhere',
    refused: `not saved: ${refusal ?? 'refused'}`,
  }[waiting > 0 ? 'unsaved' : save];
  // Whatever was not taken is told here too: not every place a figure is typed in can say it.
  const refused = late ?? pending;
  return (
    <>
      <div className={styles['saved']} data-state={refused ? 'refused' : save} role="status" suppressHydrationWarning>
        {msg.no} {number} · {refused ? `not taken: ${issueLine(refused, pack)}` : words}
      </div>
      {old && (
        <div className={styles['saved']} data-state="refused">
          {msg.fromEarlier} {issueLine(old, pack)}
        </div>
      )}
    </>
  );
}

function JobName() {
  const name = useJob((s) => s.doc.name);
  const set = useJob((s) => s.set);
  return (
    <input
      key={name}
      className={styles['title']}
      aria-label={msg.nameOfTheJob}
      defaultValue={name}
      maxLength={80}
      onBlur={(e) => (e.target.value.trim() ? set('name', e.target.value.trim()) : (e.target.value = name))}
      onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
    />
  );
}

const TEXTLESS_INPUTS = ['radio', 'checkbox', 'button', 'range', 'file'];

/** Whether a key was meant for a field in which one writes, and not for the page. */
function isWriting(e: KeyboardEvent): boolean {
  const at = e.target;
  if (!(at instanceof HTMLElement)) return false;
  // A dialog over the page has the keys to itself.
  if (at.closest('[role=dialog]')) return true;
  if (at instanceof HTMLInputElement) return !TEXTLESS_INPUTS.includes(at.type);
  return at instanceof HTMLTextAreaElement || at.isContentEditable;
}
const KEYS = { enableOnFormTags: true, ignoreEventWhen: isWriting } as const;

/** The job's stops down the left: state, one line each, keys 1 to 7. */
export function Spine({ folded, onFold }: { folded: boolean; onFold: () => void }) {
  const { pack } = usePrefs();
  const router = useRouter();
  const path = usePathname();
  const store = useJobStore();
  const id = useJob((s) => s.id);
  const findings = useJob((s) => s.findings);
  const offer = useCommands((s) => s.offer);
  const [history, setHistory] = useState(false);
  const go = (key: string): void => router.push(`/jobs/${id}/${key}`);
  useHotkeys(
    '1,2,3,4,5,6,7',
    (_event, handler) => {
      const stop = STOPS[Number(handler.keys?.[0]) - 1];
      if (stop) go(stop.key);
    },
    KEYS,
  );
  useHotkeys('ctrl+z, meta+z', () => store.getState().undo(), { ...KEYS, preventDefault: true });
  useHotkeys('ctrl+shift+z, meta+shift+z, ctrl+y', () => store.getState().redo(), { ...KEYS, preventDefault: true });
  useEffect(() => {
    offer('job', [
      ...STOPS.map((s, i) => ({
        id: `stop-${s.key}`,
        title: s.title,
        hint: `stop ${i + 1}`,
        run: () => router.push(`/jobs/${id}/${s.key}`),
      })),
      { id: 'undo', title: msg.undo, hint: msg.ctrlZ, run: () => store.getState().undo() },
      { id: 'history', title: msg.historyOfThisJob, hint: msg.whoChangedWhatAndBack, run: () => setHistory(true) },
      {
        id: 'package',
        title: msg.exportThisJob,
        hint: msg.theWholeJobAsOneArchive,
        run: () => location.assign(`/api/jobs/${id}/package`),
      },
      { id: 'redo', title: msg.redo, hint: msg.ctrlShiftZ, run: () => store.getState().redo() },
    ]);
    return () => offer('job', []);
  }, [offer, router, id, store]);
  return (
    <nav className={styles['spine']} aria-label={msg.stepsOfThisJob} data-tour="spine">
      <div className={styles['head']}>
        <JobName />
        <SavedMark />
      </div>
      <ol className={styles['stops']}>
        {STOPS.map(({ key, title }, i) => {
          const found = stopLine(findings, key, pack);
          return (
            <li key={key} className={styles['stop']}>
              <Link
                href={`/jobs/${id}/${key}`}
                aria-current={path.endsWith(`/${key}`) ? 'page' : undefined}
                aria-label={folded ? title : undefined}
              >
                <span className={styles['dot']} data-state={found?.state ?? 'empty'}>
                  {i + 1}
                </span>
                <span className={styles['name']}>{title}</span>
                {found && (
                  <span className={styles['line']}>
                    {found.line.replaceAll(' %', '\u00a0%')}
                    <span className="visually-hidden">, {found.state}</span>
                  </span>
                )}
              </Link>
            </li>
          );
        })}
      </ol>
      <div className={styles['foot']}>
        <button type="button" className={styles['fold']} onClick={onFold} aria-expanded={!folded}>
          {folded ? (
            <RightOutlined aria-label={msg.unfold} />
          ) : (
            <>
              <LeftOutlined aria-hidden /> {msg.fold}
            </>
          )}
        </button>
        <button type="button" className={styles['fold']} data-more onClick={() => setHistory(true)}>
          {msg.history}
        </button>
        <a className={styles['fold']} data-more href={`/api/jobs/${id}/package`} download>
          {msg.exportJob}
        </a>
      </div>
      {history && (
        <HistoryDrawer kind="job" id={id} title={msg.thisJob} onRestored={() => location.reload()} onClose={() => setHistory(false)} />
      )}
    </nav>
  );
}
