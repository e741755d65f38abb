import type { ReadRefusal } from '@/core/read/result';
import { columnValues } from '@/core/read/result';
import { ServerProblem } from '../errors';
import { openTableThread } from './read-table';

/** Largest file that is read for a table to be pasted, and most rows of it. */
const LIMIT_BYTES = 20 * 1024 * 1024;
const MOST_ROWS = 20_000;

/** A file's table as a text of tabs with names and units, read in a thread; or why it cannot be. */
export async function tableText(
  body: ReadableStream<Uint8Array>,
  table: string | null,
  signal: AbortSignal,
): Promise<{ text: string; container: string } | ReadRefusal> {
  const stop = new AbortController();
  const reader = openTableThread(AbortSignal.any([signal, stop.signal]), table);
  try {
    let size = 0;
    for await (const piece of body) {
      size += piece.byteLength;
      if (size > LIMIT_BYTES)
        throw new ServerProblem(413, 'too_large', 'A table for this place has at most 20 MB. Cut it down to the rows that are needed.');
      await reader.push(piece);
    }
    const read = await reader.finish();
    if (read.refused !== null) return read;
    if (read.report.rows > MOST_ROWS)
      throw new ServerProblem(413, 'too_large', `A table for this place has at most ${MOST_ROWS} rows; this has ${read.report.rows}.`);
    const columns = read.columns.filter((c) => c.count > 0);
    const values = columns.map((c) => columnValues(c));
    const header = columns.map((c) => (c.unit ? `${c.name} (${c.unit})` : c.name).replace(/\s+/g, ' '));
    const rows = Array.from({ length: read.report.rows }, (_, i) =>
      values.map((v) => (Number.isFinite(v[i]) ? String(v[i]) : '')).join('\t'),
    );
    return { text: [header.join('\t'), ...rows].join('\n'), container: read.report.container ?? '' };
  } finally {
    stop.abort();
  }
}
