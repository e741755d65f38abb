'use client';

import { Button, Checkbox, Progress as Bar } from 'antd';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { RunSide, StoredRun } from '@/core/documents/run';
import type { TableInside } from '@/core/read/result';
import { useJob, useJobStore, useRuns, useShelf } from '@/features/job/provider';
import { importFile, ImportRefused, sideOfName, type Progress } from './import-file';
import type { ImportDone } from '@/core/verdict/imported';
import { saveRun } from './save-run';
import styles from '../test.module.css';
import runsStyles from '../dyno/runs.module.css';
import filesStyles from './files.module.css';
import { msg } from './messages';

export interface ImportItem {
  readonly key: number;
  readonly name: string;
  readonly progress: Progress | null;
  readonly error: string | null;
  readonly note: string | null;
  readonly abort: AbortController;
  /** Tables of the file, where one has to be chosen. */
  readonly tables: readonly TableInside[];
  /** Runs of it that are on another side than the one it was sent for, and that side. */
  readonly move: { readonly runs: readonly StoredRun[]; readonly side: RunSide } | null;
}

/** What a file that was taken in leaves to be said. */
function notesOf(done: ImportDone): string[] {
  const skipped = done.report.skippedTotal;
  return [
    ...(done.report.container ? [`Read ${done.report.container}.`] : []),
    ...(!done.known && (done.report.unread?.length ?? 0) > 0 ? [`Not read: ${done.report.unread!.join(', ')}.`] : []),
    ...(done.known ? [`This very file is already here, as “${done.runs.map((r) => r.doc.name).join('”, “')}”.`] : []),
    ...(!done.known && done.runs.length > 1 ? [`${done.runs.length} pulls were found in it; each is a run.`] : []),
    ...(!done.known && skipped > 0
      ? [
          `Read ${done.report.rows.toLocaleString('en-US')} rows; ${skipped} ${skipped === 1 ? 'line was' : 'lines were'} left out, first line ${done.report.skipped[0]!.line}: ${done.report.skipped[0]!.reason}.`,
        ]
      : []),
  ];
}

/** Hears a table that is pasted anywhere on the page but into a field. */
function usePastes(paste: (text: string) => void): void {
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
}

/** The imports under way and those that ended with something to say. */
export function useImports(): {
  items: readonly ImportItem[];
  take: (files: Iterable<File>) => void;
  /** Text from the clipboard, taken in as a file would be. */
  paste: (text: string) => void;
  dismiss: (key: number) => void;
  /** Takes these tables of a file of several. */
  choose: (key: number, tables: readonly string[]) => void;
  /** Moves the runs of a file that was here already to the side it was sent for. */
  move: (key: number) => void;
  /** A picture that was dropped among the files: its curve is to be read off it. */
  picture: File | null;
  closePicture: () => void;
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

  const importDone = useCallback(
    (key: number, done: ImportDone) => {
      setRuns((runs) => [...runs, ...done.runs.filter((d) => !runs.some((r) => r.id === d.id))]);
      if (done.findings) store.setState({ findings: done.findings });
      const notes = notesOf(done);
      const move = done.otherSide === null ? null : { runs: done.runs, side: done.otherSide };
      patch(key, notes.length > 0 || move ? { progress: null, note: notes.join(' '), move } : null);
    },
    [patch, setRuns, store],
  );

  const files = useRef(new Map<number, File>());
  const [picture, setPicture] = useState<File | null>(null);
  const take = useCallback(
    (chosen: Iterable<File>, table?: string) => {
      const all = [...chosen];
      const shot = all.find((f) => /^image\/(png|jpeg|webp)$/.test(f.type));
      if (shot) setPicture(shot);
      for (const [nth, file] of all.filter((f) => f !== shot).entries()) {
        const key = (counter.current += 1);
        const abort = new AbortController();
        files.current.set(key, file);
        const name = table === undefined ? file.name : `${file.name}, ${table}`;
        const item: ImportItem = {
          key,
          name,
          progress: { phase: 'sending', share: 0 },
          error: null,
          note: null,
          abort,
          tables: [],
          move: null,
        };
        setItems((list) => [...list, item]);
        const place = { table, nth: file.name.startsWith('pasted ') ? undefined : nth };
        importFile(id, file, sideOfName(name, shelf), abort.signal, (progress) => patch(key, { progress }), place)
          .then((done) => importDone(key, done))
          .catch((error: unknown) => {
            if (abort.signal.aborted) patch(key, null);
            else
              patch(key, {
                progress: null,
                tables: error instanceof ImportRefused ? error.tables : [],
                error:
                  error instanceof ImportRefused
                    ? error.message
                    : 'The server is away; the file was not taken in. Drop it again when it is back.',
              });
          });
      }
    },
    [id, shelf, patch, importDone],
  );
  const pasted = useRef(0);
  const paste = useCallback(
    (text: string) => {
      pasted.current += 1;
      take([new File([text], `pasted ${pasted.current}.txt`, { type: 'text/plain' })]);
    },
    [take],
  );
  usePastes(paste);
  const choose = (key: number, tables: readonly string[]): void => {
    const file = files.current.get(key);
    patch(key, null);
    if (file) for (const table of tables) take([file], table);
  };
  const move = (key: number): void => {
    const wanted = items.find((i) => i.key === key)?.move;
    if (!wanted) return;
    void (async () => {
      try {
        for (const run of wanted.runs) {
          const saved = await saveRun(run, { ...run.doc, side: wanted.side });
          setRuns((runs) => runs.map((r) => (r.id === saved.run.id ? saved.run : r)));
          store.setState({ findings: saved.findings });
        }
        patch(key, null);
      } catch (error) {
        patch(key, { error: (error as Error).message });
      }
    })();
  };
  return { items, take, paste, dismiss: (key) => patch(key, null), choose, move, picture, closePicture: () => setPicture(null) };
}

/** Which of a file's tables are meant: one, or several as runs of their own. */
function ChooseTables({ item, onChoose }: { item: ImportItem; onChoose: (tables: readonly string[]) => void }) {
  const [chosen, setChosen] = useState<readonly string[]>([]);
  return (
    <div className={filesStyles['ask']} role="group" aria-label={`Tables of ${item.name}`}>
      {item.tables.map((t) => (
        <Checkbox
          key={t.name}
          checked={chosen.includes(t.name)}
          onChange={(e) => setChosen((c) => (e.target.checked ? [...c, t.name] : c.filter((n) => n !== t.name)))}
        >
          {t.name}{' '}
          <span className="quiet">
            {t.rows.toLocaleString('en-US')} {msg.rows}
            {t.columns > 0 && `, ${t.columns} columns`}
          </span>
        </Checkbox>
      ))}
      <Button size="small" type="primary" disabled={chosen.length === 0} onClick={() => onChoose(chosen)}>
        {msg.take} {chosen.length > 1 ? `these ${chosen.length}` : 'this one'}
      </Button>
    </div>
  );
}

export function ImportList({ imports }: { imports: Pick<ReturnType<typeof useImports>, 'items' | 'dismiss' | 'choose' | 'move'> }) {
  const shelf = useShelf();
  const nameOf = (side: RunSide): string =>
    side.kind === 'stock' ? 'stock' : (shelf.find((u) => u.id === side.unitId)?.doc.name ?? 'that side');
  const { items, dismiss: onDismiss } = imports;
  return (
    <>
      {items.map((item) => (
        <div key={item.key} className={filesStyles['importing']} role="status">
          <div className={runsStyles['runHead']}>
            <span className={runsStyles['runName']}>{item.name}</span>
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
          {item.tables.length > 0 && <ChooseTables item={item} onChoose={(tables) => imports.choose(item.key, tables)} />}
          {item.note && <p className="quiet">{item.note}</p>}
          {item.move && (
            <Button size="small" onClick={() => imports.move(item.key)}>
              {msg.moveTo} {nameOf(item.move.side)}
            </Button>
          )}
        </div>
      ))}
    </>
  );
}
