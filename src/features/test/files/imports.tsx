'use client';

import { Button, Progress as Bar } from 'antd';
import { useCallback, useEffect, useRef, useState } from 'react';
import { useJob, useJobStore, useRuns, useShelf } from '@/features/job/provider';
import { importFile, ImportRefused, sideOfName, type Progress } from './import-file';
import type { ImportDone } from './import-upload';
import styles from '../test.module.css';

export interface ImportItem {
  readonly key: number;
  readonly name: string;
  readonly progress: Progress | null;
  readonly error: string | null;
  readonly note: string | null;
  readonly abort: AbortController;
}

/** The imports under way and those that ended with something to say. */
export function useImports(): {
  items: readonly ImportItem[];
  take: (files: Iterable<File>) => void;
  /** Text from the clipboard, taken in as a file would be. */
  paste: (text: string) => void;
  dismiss: (key: number) => void;
} {
  const store = useJobStore();
  const id = useJob((s) => s.id);
  const shelf = useShelf();
  const { setRuns } = useRuns();
  const [items, setItems] = useState<readonly ImportItem[]>([]);
  const counter = useRef(0);
  const patch = useCallback(
    (key: number, change: Partial<ImportItem> | null) =>
      setItems((list) =>
        change === null ? list.filter((i) => i.key !== key) : list.map((i) => (i.key === key ? { ...i, ...change } : i)),
      ),
    [],
  );

  const landed = useCallback(
    (key: number, done: ImportDone) => {
      setRuns((runs) => [...runs, ...done.runs.filter((d) => !runs.some((r) => r.id === d.id))]);
      if (done.findings) store.setState({ findings: done.findings });
      const skipped = done.report.skippedTotal;
      const notes = [
        ...(done.known ? [`This very file is already here, as “${done.runs.map((r) => r.doc.name).join('”, “')}”.`] : []),
        ...(!done.known && done.runs.length > 1 ? [`${done.runs.length} pulls were found in it; each is a run.`] : []),
        ...(!done.known && skipped > 0
          ? [
              `Read ${done.report.rows.toLocaleString('en-US')} rows; ${skipped} ${skipped === 1 ? 'line was' : 'lines were'} left out, first line ${done.report.skipped[0]!.line}: ${done.report.skipped[0]!.reason}.`,
            ]
          : []),
      ];
      patch(key, notes.length > 0 ? { progress: null, note: notes.join(' ') } : null);
    },
    [patch, setRuns, store],
  );

  const take = useCallback(
    (files: Iterable<File>) => {
      for (const file of files) {
        const key = (counter.current += 1);
        const abort = new AbortController();
        setItems((list) => [...list, { key, name: file.name, progress: { phase: 'sending', share: 0 }, error: null, note: null, abort }]);
        importFile(id, file, sideOfName(file.name, shelf), abort.signal, (progress) => patch(key, { progress }))
          .then((done) => landed(key, done))
          .catch((error: unknown) => {
            if (abort.signal.aborted) patch(key, null);
            else
              patch(key, {
                progress: null,
                error:
                  error instanceof ImportRefused
                    ? error.message
                    : 'The server is away; the file was not taken in. Drop it again when it is back.',
              });
          });
      }
    },
    [id, shelf, patch, landed],
  );
  const pasted = useRef(0);
  const paste = useCallback(
    (text: string) => {
      pasted.current += 1;
      take([new File([text], `pasted ${pasted.current}.txt`, { type: 'text/plain' })]);
    },
    [take],
  );
  useEffect(() => {
    const onPaste = (e: ClipboardEvent): void => {
      const field = e.target instanceof HTMLElement && e.target.closest('input, textarea, [contenteditable]');
      const text = e.clipboardData?.getData('text/plain') ?? '';
      // A line or two are no table: they were meant for something else.
      if (field || text.split('\n').length < 4) return;
      e.preventDefault();
      paste(text);
    };
    document.addEventListener('paste', onPaste);
    return () => document.removeEventListener('paste', onPaste);
  }, [paste]);
  return { items, take, paste, dismiss: (key) => patch(key, null) };
}

export function ImportList({ items, onDismiss }: { items: readonly ImportItem[]; onDismiss: (key: number) => void }) {
  return (
    <>
      {items.map((item) => (
        <div key={item.key} className={styles['importing']} role="status">
          <div className={styles['runHead']}>
            <span className={styles['runName']}>{item.name}</span>
            <Button size="small" type="text" onClick={() => (item.progress ? item.abort.abort() : onDismiss(item.key))}>
              {item.progress ? 'Cancel' : 'Dismiss'}
            </Button>
          </div>
          {item.progress && (
            <>
              <Bar
                percent={Math.round((item.progress.share ?? 1) * 100)}
                status={item.progress.share === null ? 'active' : 'normal'}
                size="small"
                showInfo={false}
              />
              <span className="quiet">{item.progress.phase}…</span>
            </>
          )}
          {item.error && (
            <p className={styles['wrong']} role="alert">
              {item.error}
            </p>
          )}
          {item.note && <p className="quiet">{item.note}</p>}
        </div>
      ))}
    </>
  );
}
