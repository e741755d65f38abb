import { join } from 'node:path';
import Piscina from 'piscina';
import { ServerProblem } from '../errors';
import type { PackageDocument } from '../package/document';

/** Longer than this no job that a shop has takes, ms. */
const LONGEST_ms = 30_000;

const holder = globalThis as { vannerPackageDocs?: Piscina };
const pool = (): Piscina =>
  (holder.vannerPackageDocs ??= new Piscina({
    filename: join(process.cwd(), 'dist/workers/package-doc.mjs'),
    maxThreads: 1,
    minThreads: 0,
    idleTimeout: 30_000,
    resourceLimits: { maxOldGenerationSizeMb: 768 },
  }));

/** Reads job.json in a thread of its own, with a bound on its memory and its time: the server goes on answering meanwhile. */
export async function packageDocumentInThread(bytes: Uint8Array): Promise<PackageDocument> {
  try {
    return (await pool().run(bytes, { signal: AbortSignal.timeout(LONGEST_ms) })) as PackageDocument;
  } catch (error) {
    const { name, code } = error as { name?: string; code?: string };
    if (name === 'AbortError' || name === 'TimeoutError' || code === 'ERR_WORKER_OUT_OF_MEMORY')
      throw new ServerProblem(422, 'too_large', 'The job.json of this archive is more than can be read: no job has that much in it.');
    throw error;
  }
}
