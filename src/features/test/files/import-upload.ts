import 'server-only';
import type { StoredRun } from '@/core/documents/run';
import type { JobFindings } from '@/core/job/findings';
import type { ImportReport, ReadRefusal } from '@/core/read/result';
import { db } from '@/server/db/client';
import { problemOf, ServerProblem } from '@/server/errors';
import { storeFile } from '@/server/files/store';
import type { Upload } from '@/server/files/upload';
import { refreshFinding } from '@/server/jobs';
import { logOfFile } from '@/server/logs';
import { addRuns, bringBackRuns, runsOfLog } from '@/server/runs';
import { openTableThread } from '@/server/work/read-table';
import { refusalText } from './refusal-text';

export interface ImportDone {
  /** One for each pull in the file. */
  readonly runs: readonly StoredRun[];
  readonly report: ImportReport;
  /** Null where nothing was added. */
  readonly findings: JobFindings | null;
  /** This very file was here already. */
  readonly known: boolean;
}

/** What an import says as it goes, a line each. */
export type ImportEvent =
  | { readonly event: 'storing'; readonly share: number }
  | ({ readonly event: 'done' } & ImportDone)
  | { readonly event: 'refused'; readonly refusal: ReadRefusal }
  | { readonly event: 'failed'; readonly message: string };

/**
 * A file becomes runs of its job as it comes in: every piece is kept and read in a thread at once, then its channels are
 * stored in one transaction. A refused file is kept too, but nothing of it is in the job; an abort leaves nothing there.
 */
async function importUpload(upload: Upload, signal: AbortSignal, onShare: (share: number) => void): Promise<ImportDone | ReadRefusal> {
  const stop = new AbortController();
  const reader = openTableThread(AbortSignal.any([signal, stop.signal]));
  try {
    const { hash } = await db()
      .transaction()
      .execute((trx) => storeFile(trx, upload.body, (piece) => reader.push(piece)));
    const known = await logOfFile(db(), upload.jobId, hash);
    if (known)
      return await db()
        .transaction()
        .execute(async (trx) => {
          const back = await bringBackRuns(trx, known.id);
          const findings = back > 0 ? await refreshFinding(trx, upload.jobId) : null;
          return { runs: await runsOfLog(trx, known.id), report: known.report, findings, known: back === 0 };
        });
    const read = await reader.finish();
    if (read.refused !== null) return read;
    return await db()
      .transaction()
      .execute(async (trx) => {
        const runs = await addRuns(trx, { ...upload, hash, columns: read.columns, report: read.report }, (done, of) => {
          signal.throwIfAborted();
          onShare(done / of);
        });
        signal.throwIfAborted();
        return { runs, report: read.report, findings: await refreshFinding(trx, upload.jobId), known: false };
      });
  } finally {
    // Ends a thread that is still reading; a finished one does not notice.
    stop.abort();
  }
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
  const stop = new AbortController();
  const signal = AbortSignal.any([request, stop.signal]);
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
      if (!stop.signal.aborted) controller.close();
    },
    cancel() {
      stop.abort();
    },
  });
}
