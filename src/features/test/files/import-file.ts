import type { RunSide } from '@/core/documents/run';
import { UPLOAD_LIMIT_BYTES } from '@/core/documents/kinds';
import type { StoredUnit } from '@/core/documents/unit';
import type { ReadRefusal, TableInside } from '@/core/read/result';
import type { ImportDone, ImportEvent } from '@/core/verdict/imported';
import { refusalText } from '@/core/read/refusal-text';

const MEGABYTE = 1024 * 1024;
const AWAY = 'The server is away; the file was not taken in. Drop it again when it is back.';

/** How far it has come is told so often and no more: a page that draws itself anew with every event takes time from what it sends. */
const BETWEEN_TOLD_ms = 250;

export interface Progress {
  /** The server reads while the file is being sent. */
  readonly phase: 'sending' | 'reading' | 'storing';
  /** Null: it takes a moment, how long is not known. */
  readonly share: number | null;
}

/** An import that ended without a run, with the sentence for it. */
export class ImportRefused extends Error {
  /** The tables of a file that holds several: which one is meant is asked. */
  readonly tables: readonly TableInside[];
  constructor(message: string, refusal?: ReadRefusal) {
    super(message);
    this.tables = refusal?.refused === 'which_table' ? refusal.tables : [];
  }
}

/** What goes along with a file: the table meant in one of several, and its place among the files chosen with it. */
export interface FileWith {
  readonly table?: string | undefined;
  readonly nth?: number | undefined;
}

const sideText = (side: RunSide | null): Record<string, string> =>
  side === null ? {} : { side: side.kind === 'stock' ? 'stock' : side.unitId };

/** What an event of the import means: progress, the end, or why there is none. */
function handleEvent(event: ImportEvent, onProgress: (p: Progress) => void): ImportDone | null {
  switch (event.event) {
    case 'storing':
      onProgress({ phase: 'storing', share: event.share });
      return null;
    case 'refused':
      throw new ImportRefused(refusalText(event.refusal), event.refusal);
    case 'failed':
      throw new ImportRefused(event.message);
    case 'done':
      return event;
  }
}

/**
 * Sends a file and has it read into the job. Throws ImportRefused with the sentence, or an AbortError when cancelled.
 * By XMLHttpRequest: fetch cannot tell how far an upload has come.
 */
export function importFile(
  jobId: string,
  file: File,
  side: RunSide | null,
  signal: AbortSignal,
  onProgress: (p: Progress) => void,
  { table, nth }: FileWith = {},
): Promise<ImportDone> {
  if (file.size === 0) return Promise.reject(new ImportRefused(refusalText({ refused: 'empty_file' })));
  if (file.size > UPLOAD_LIMIT_BYTES) {
    const wrong = `The file has ${Math.round(file.size / MEGABYTE)} MB; up to ${UPLOAD_LIMIT_BYTES / MEGABYTE} MB are taken in one go. Cut the log down to the pull, or export it with fewer channels.`;
    return Promise.reject(new ImportRefused(wrong));
  }
  return new Promise((resolve, reject) => {
    const xhr = new XMLHttpRequest();
    const query = new URLSearchParams({ job: jobId, fileName: file.name, ...sideText(side) });
    if (table !== undefined) query.set('table', table);
    if (nth !== undefined) query.set('nth', String(nth));
    // A text from the clipboard has no time of its own; a file's tells when the run was saved.
    if (file.lastModified > 0 && nth !== undefined) query.set('modified', new Date(file.lastModified).toISOString());
    xhr.open('POST', `/api/imports?${query}`);
    let told_ms = -Infinity;
    xhr.upload.onprogress = (e) => {
      const now_ms = performance.now();
      if (now_ms - told_ms < BETWEEN_TOLD_ms) return;
      told_ms = now_ms;
      onProgress({ phase: 'sending', share: e.lengthComputable ? e.loaded / e.total : 0 });
    };
    xhr.upload.onload = () => onProgress({ phase: 'reading', share: null });
    let heard = 0;
    const listen = (): void => {
      if (xhr.status >= 300) return;
      const end = xhr.responseText.lastIndexOf('\n') + 1;
      const lines = xhr.responseText.slice(heard, end).split('\n');
      heard = Math.max(heard, end);
      try {
        for (const line of lines) {
          const done = line === '' ? null : handleEvent(JSON.parse(line) as ImportEvent, onProgress);
          if (done) resolve(done);
        }
      } catch (error) {
        reject(error instanceof Error ? error : new ImportRefused(AWAY));
      }
    };
    xhr.onprogress = listen;
    xhr.onload = () => {
      listen();
      // Settled already where the last line said how it ended.
      const stopped = 'The server stopped in the middle of the file. Nothing of it was kept; drop it again.';
      reject(new ImportRefused(xhr.status < 300 ? stopped : messageOf(xhr.responseText)));
    };
    xhr.onerror = () => reject(new ImportRefused(AWAY));
    xhr.onabort = () => reject(new DOMException('cancelled', 'AbortError'));
    signal.addEventListener('abort', () => xhr.abort(), { once: true });
    xhr.send(file);
  });
}

function messageOf(text: string): string {
  try {
    return (JSON.parse(text) as { message?: string }).message ?? 'The server refused the file.';
  } catch {
    return 'The server refused the file.';
  }
}

/** What a shop calls the part that the car came with. */
const STOCK_WORDS = ['stock', 'serie', 'oem'];
/** Words that turn it about, or set one against the other. */
const OTHER_WORDS = ['not', 'non', 'vs', 'versus', 'against', 'gegen', 'new', 'neu', 'after', 'nachher'];

/**
 * Which side a file's name speaks of, if it speaks of one: stock, or a unit by the words of its name. Null, to be asked, where it
 * names both, two units alike, or stock with a word that turns it about.
 */
export function sideOfName(fileName: string, units: readonly StoredUnit[]): RunSide | null {
  const words = (text: string): string[] =>
    text
      .toLowerCase()
      .split(/[^\p{L}\p{N}]+/u)
      .filter(Boolean);
  const name = words(fileName);
  const says = (list: readonly string[], but?: ReadonlySet<string>): boolean => list.some((w) => name.includes(w) && !but?.has(w));
  const named = units
    .map((u) => ({ id: u.id, own: new Set(words(u.doc.name)) }))
    .filter(({ own }) => own.size > 0 && [...own].every((w) => name.includes(w)));
  const most = Math.max(...named.map((u) => u.own.size));
  // "Hollin 62 long" is no "Hollin 62"; two that are named as fully as each other are not told apart.
  const [unit, ...alike] = named.filter((u) => u.own.size === most);
  if (!unit) return says(STOCK_WORDS) && !says(OTHER_WORDS) ? { kind: 'stock' } : null;
  return alike.length > 0 || says(STOCK_WORDS, unit.own) ? null : { kind: 'unit', unitId: unit.id };
}
