import { join } from 'node:path';
import Piscina from 'piscina';
import type { ReadRefusal } from '@/core/read/result';
import { ServerProblem } from '../errors';
import type { TableText } from '../read/table-text';
import { tooMuchMemory } from './read-table';

/** Largest file that is read for a table to be pasted. */
const LIMIT_BYTES = 20 * 1024 * 1024;

const holder = globalThis as { vannerTableTexts?: Piscina };
const pool = (): Piscina =>
  (holder.vannerTableTexts ??= new Piscina({
    filename: join(process.cwd(), 'dist/workers/table-text.mjs'),
    maxThreads: 1,
    minThreads: 0,
    idleTimeout: 30_000,
    resourceLimits: { maxOldGenerationSizeMb: 1024 },
  }));

/** A file's table as text, read in a thread; or why it cannot be. */
export async function tableText(
  body: ReadableStream<Uint8Array>,
  table: string | null,
  signal: AbortSignal,
): Promise<TableText | ReadRefusal> {
  const parts: Uint8Array[] = [];
  let size = 0;
  for await (const piece of body) {
    size += piece.byteLength;
    if (size > LIMIT_BYTES)
      throw new ServerProblem(413, 'too_large', 'A table for this place has at most 20 MB. Cut it down to the rows that are needed.');
    parts.push(piece);
  }
  signal.throwIfAborted();
  try {
    return (await pool().run({ bytes: Buffer.concat(parts), table })) as TableText | ReadRefusal;
  } catch (error) {
    throw tooMuchMemory(error);
  }
}
