import type { RunSide, StoredRun } from '../documents/run';
import type { ImportReport, ReadRefusal } from '../read/result';
import type { JobFindings } from './findings';

/** What became of a file that was sent. */
export interface ImportDone {
  /** One for each pull in the file. */
  readonly runs: readonly StoredRun[];
  readonly report: ImportReport;
  /** Null where nothing was added. */
  readonly findings: JobFindings | null;
  /** This very file was here already. */
  readonly known: boolean;
  /** It was sent for another side than the one its runs are on: nothing was changed, moving them is offered. */
  readonly otherSide: RunSide | null;
}

/** What an import says as it goes, a line each. */
export type ImportEvent =
  | { readonly event: 'storing'; readonly share: number }
  | ({ readonly event: 'done' } & ImportDone)
  | { readonly event: 'refused'; readonly refusal: ReadRefusal }
  | { readonly event: 'failed'; readonly message: string };
