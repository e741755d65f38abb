import 'server-only';
import type { RunSide } from '@/core/documents/run';
import type { ImportDone, ImportEvent } from '@/core/verdict/imported';
import { refusalText } from '@/core/read/refusal-text';
import type { ReadRefusal } from '@/core/read/result';
import { sql } from 'kysely';
import type { GuessContext } from '@/core/read/guess';
import { db, type Trx } from './db/client';
import { problemOf, ServerProblem } from './errors';
import { IncomingFile } from './files/store';
import type { Upload } from './files/upload';
import { refreshFinding, readJob } from './jobs';
import { StagedLog } from './log-blocks';
import { logOfFile } from './logs';
import { addRuns, bringBackRuns, runsOfLog } from './runs';
import { openTableThread } from './work/read-table';

/**
 * A file becomes runs of its job as it comes in: every piece is kept and read in a thread at once, and stored as it is read;
 * at the end one transaction puts it into the job. A refused file is kept too, but nothing of it is in the job; an abort leaves
 * nothing there.
 */
async function importUpload(upload: Upload, signal: AbortSignal, onShare: (share: number) => void): Promise<ImportDone | ReadRefusal> {
  const context = await guessContext(upload.jobId);
  const staged = new StagedLog(db(), upload.jobId, onShare);
  const reader = openTableThread(signal, upload.table, (blocks) => staged.put(blocks));
  const file = new IncomingFile(db(), async (piece) => {
    await staged.room();
    await reader.push(piece);
  });
  try {
    for await (const piece of upload.body) await file.push(piece);
    await file.settle();
    const part = upload.table ?? '';
    const { hash, before } = await db()
      .transaction()
      .execute(async (trx) => {
        const named = await file.finish(trx);
        return { ...named, before: await knownFile(trx, upload, named.hash, part) };
      });
    if (before) return before;
    const read = await reader.finish();
    if (read.refused !== null) return read;
    await staged.settle();
    return await db()
      .transaction()
      .execute(async (trx) => {
        // The same file from two senders at once: the second waits here, then finds it known.
        await sql`SELECT pg_advisory_xact_lock(hashtextextended(${`${upload.jobId}/${hash}/${part}`}, 0))`.execute(trx);
        const meanwhile = await knownFile(trx, upload, hash, part);
        if (meanwhile) return meanwhile;
        const say = { came: { stampedAt: null, modifiedAt: upload.modifiedAt, nth: upload.nth } };
        const runs = await addRuns(trx, { ...upload, hash, part, columns: read.columns, report: read.report, context, say }, staged);
        signal.throwIfAborted();
        return { runs, report: read.report, findings: await refreshFinding(trx, upload.jobId), known: false, otherSide: null };
      });
  } finally {
    // Lets a thread go that is still reading; a finished one does not notice.
    reader.drop();
    // What is in the job by now has another name, and stays.
    await Promise.all([file.discard(), staged.discard()]).catch(() => {});
  }
}

/** What became of this file when it came in before; null: it did not. Runs of it in the trash are brought back. */
async function knownFile(trx: Trx, upload: Upload, hash: string, part: string): Promise<ImportDone | null> {
  const known = await logOfFile(trx, upload.jobId, hash, part);
  if (!known) return null;
  const back = await bringBackRuns(trx, known.id);
  const findings = back > 0 ? await refreshFinding(trx, upload.jobId) : null;
  const runs = await runsOfLog(trx, known.id);
  const elsewhere = upload.side !== null && runs.some((r) => !sameSide(r.doc.side, upload.side));
  return { runs, report: known.report, findings, known: back === 0, otherSide: elsewhere ? upload.side : null };
}

const sameSide = (a: RunSide | null, b: RunSide | null): boolean =>
  a?.kind === b?.kind && (a?.kind !== 'unit' || (b?.kind === 'unit' && a.unitId === b.unitId));

/** Least and most mean pressure on the pistons that any engine's peak power stands for, Pa, and the boost it may have. */
const LEAST_MEP_Pa = 4e5;
const MOST_MEP_Pa = 4.5e6;

/** What this car's engine can make at all: it decides between units only where one alone is possible. */
async function guessContext(jobId: string): Promise<GuessContext> {
  const { displacement_m3, redline_rpm } = (await readJob(db(), jobId)).doc.car.engine;
  const watts = (mep_Pa: number, rpm: number): number => (mep_Pa * displacement_m3 * rpm) / 120;
  return { engine_W: [watts(LEAST_MEP_Pa, 0.5 * redline_rpm), watts(MOST_MEP_Pa, redline_rpm)] };
}

const isRefusal = (answer: ImportDone | ReadRefusal): answer is ReadRefusal => 'refused' in answer;

/** The import in one go, for a caller that waits for it; a refused file is a problem with its sentence. */
export async function importNow(upload: Upload, signal: AbortSignal): Promise<ImportDone> {
  const answer = await importUpload(upload, signal, () => {});
  if (isRefusal(answer)) throw new ServerProblem(422, answer.refused, refusalText(answer));
  return answer;
}

/** The import as a stream of JSON lines. */
export function importStream(upload: Upload, request: AbortSignal): ReadableStream<Uint8Array> {
  const ending = new AbortController();
  const signal = AbortSignal.any([request, ending.signal]);
  const encoder = new TextEncoder();
  return new ReadableStream<Uint8Array>({
    async start(controller) {
      const tell = (event: ImportEvent): void => {
        if (!signal.aborted) controller.enqueue(encoder.encode(`${JSON.stringify(event)}\n`));
      };
      try {
        const answer = await importUpload(upload, signal, (share) => tell({ event: 'storing', share }));
        tell(isRefusal(answer) ? { event: 'refused', refusal: answer } : { event: 'done', ...answer });
      } catch (error) {
        if (!signal.aborted) tell({ event: 'failed', message: problemOf(error).message });
      }
      // A reader that cancelled has closed it already.
      if (!ending.signal.aborted) controller.close();
    },
    cancel() {
      ending.abort();
    },
  });
}
