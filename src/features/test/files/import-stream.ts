import 'server-only';
import type { RunSide, StoredRun } from '@/core/documents/run';
import type { JobFindings } from '@/core/job/findings';
import type { ImportReport, ReadRefusal } from '@/core/runs/read/reader';
import { db } from '@/server/db/client';
import { problemOf, ServerProblem } from '@/server/errors';
import { filePieces, fileSize } from '@/server/files/store';
import { refreshFinding } from '@/server/jobs';
import { logOfFile } from '@/server/logs';
import { addRuns, runsOfLog, type NewRuns } from '@/server/runs';
import { refusalText } from './refusal-text';
import { readTableInThread } from '@/server/work/read-table';

/** What an import says as it goes, a line each. */
export type ImportEvent =
  | { readonly event: 'reading'; readonly bytes: number; readonly of: number }
  | { readonly event: 'storing'; readonly share: number }
  | {
      readonly event: 'done';
      /** One for each pull in the file. */
      readonly runs: readonly StoredRun[];
      readonly report: ImportReport;
      readonly findings: JobFindings | null;
      readonly known: boolean;
    }
  | { readonly event: 'refused'; readonly refusal: ReadRefusal }
  | { readonly event: 'failed'; readonly message: string };

/** Progress is told at most this often, bytes read apart. */
const TELL_EVERY_BYTES = 1 << 20;

export interface ImportRequest {
  readonly jobId: string;
  readonly hash: string;
  readonly fileName: string;
  readonly side: RunSide | null;
}

async function runImport(wanted: ImportRequest, signal: AbortSignal, tell: (event: ImportEvent) => void): Promise<void> {
  const known = await logOfFile(db(), wanted.jobId, wanted.hash);
  if (known) {
    tell({ event: 'done', runs: await runsOfLog(db(), known.id), report: known.report, findings: null, known: true });
    return;
  }
  const size = await fileSize(db(), wanted.hash);
  if (size === null) throw new ServerProblem(404, 'not_found', 'The file did not arrive. Send it again.');
  let told = 0;
  const onBytes = (bytes: number): void => {
    if (bytes - told < TELL_EVERY_BYTES && bytes < size) return;
    told = bytes;
    tell({ event: 'reading', bytes, of: size });
  };
  const read = await readTableInThread(filePieces(db(), wanted.hash), onBytes, signal);
  if (read.refused !== null) return tell({ event: 'refused', refusal: read });
  const { runs, findings } = await takeIn({ ...wanted, columns: read.columns, report: read.report }, signal, (share) =>
    tell({ event: 'storing', share }),
  );
  tell({ event: 'done', runs, report: read.report, findings, known: false });
}

/** The whole import in one go, for a caller that waits for it; a refused file is a problem with its sentence. */
export async function importNow(
  wanted: ImportRequest,
  signal: AbortSignal,
): Promise<{ runs: StoredRun[]; report: ImportReport; known: boolean }> {
  let done: Extract<ImportEvent, { event: 'done' }> | null = null;
  await runImport(wanted, signal, (event) => {
    if (event.event === 'refused') throw new ServerProblem(422, event.refusal.refused, refusalText(event.refusal));
    if (event.event === 'done') done = event;
  });
  if (done === null) throw new Error('the import ended without a word');
  const { runs, report, known } = done as Extract<ImportEvent, { event: 'done' }>;
  return { runs: [...runs], report, known };
}

/** A read file becomes runs of its job, in one transaction; nothing is left of one that is cancelled on the way. */
export async function takeIn(
  file: NewRuns,
  signal: AbortSignal,
  onShare: (share: number) => void = () => {},
): Promise<{ runs: StoredRun[]; findings: JobFindings }> {
  return db()
    .transaction()
    .execute(async (trx) => {
      const runs = await addRuns(trx, file, (done, of) => {
        if (signal.aborted) throw new Error('cancelled');
        onShare(done / of);
      });
      if (signal.aborted) throw new Error('cancelled');
      return { runs, findings: await refreshFinding(trx, file.jobId) };
    });
}

/** The import as a stream of JSON lines. The reader is a thread; an abort ends it and leaves nothing behind. */
export function importStream(wanted: ImportRequest, request: AbortSignal): ReadableStream<Uint8Array> {
  const stop = new AbortController();
  request.addEventListener('abort', () => stop.abort(), { once: true });
  const encoder = new TextEncoder();
  return new ReadableStream<Uint8Array>({
    async start(controller) {
      const tell = (event: ImportEvent): void => {
        if (!stop.signal.aborted) controller.enqueue(encoder.encode(`${JSON.stringify(event)}\n`));
      };
      try {
        await runImport(wanted, stop.signal, tell);
      } catch (error) {
        if (!stop.signal.aborted) tell({ event: 'failed', message: problemOf(error).message });
      }
      if (!stop.signal.aborted) controller.close();
    },
    cancel() {
      stop.abort();
    },
  });
}
