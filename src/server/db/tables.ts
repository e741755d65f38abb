import type { ColumnType, Generated, JSONColumnType } from 'kysely';
import type { SheetEventDoc } from '@/core/documents/sheet';
import type { JobDoc } from '@/core/documents/job';
import type { StripPassDoc, StripVisitDoc } from '@/core/documents/strip';
import type { PracticeCurve, PracticeDecision, PracticeRun, PracticeSetup, PracticeTruth } from '@/core/documents/practice';
import type { RememberedChannel, RunDoc, StoredColumn } from '@/core/documents/run';
import type { TestedPartDoc, UnitDoc } from '@/core/documents/unit';
import type { JobFindings } from '@/core/verdict/findings';
import type { ImportReport } from '@/core/read/result';

/** Whose document it is now, and since when; what it was before stands in `document_version`. */
interface Saved {
  saved_by: ColumnType<string, string | undefined, string>;
  saved_at: ColumnType<Date, Date | undefined, Date>;
  /** What a search looks into: made by the database from the document. */
  search: ColumnType<string | null, never, never>;
}

export interface JobTable extends Saved {
  id: Generated<string>;
  number: Generated<number>;
  doc: JSONColumnType<JobDoc>;
  /** What lists show of the document: made by the database from it, null in one that has none. */
  name: ColumnType<string | null, never, never>;
  owner: ColumnType<string | null, never, never>;
  plate: ColumnType<string | null, never, never>;
  tags: ColumnType<string[] | null, never, never>;
  /** Of what its study left to the shop's history, made by the database; null: it left nothing. */
  study_hash: ColumnType<string | null, never, never>;
  finding: JSONColumnType<JobFindings>;
  version: Generated<number>;
  created_at: ColumnType<Date, never, never>;
  archived_at: ColumnType<Date | null, Date | null | undefined, Date | null>;
  trashed_at: ColumnType<Date | null, Date | null | undefined, Date | null>;
}

export interface UnitTable extends Saved {
  id: Generated<string>;
  doc: JSONColumnType<UnitDoc>;
  version: Generated<number>;
  /** Taken off the shelf; kept for the jobs that speak of it. */
  retired_at: ColumnType<Date | null, Date | null | undefined, Date | null>;
  created_at: ColumnType<Date, never, never>;
}

export interface TestedPartTable extends Saved {
  id: Generated<string>;
  doc: JSONColumnType<TestedPartDoc>;
  version: Generated<number>;
  retired_at: ColumnType<Date | null, Date | null | undefined, Date | null>;
  created_at: ColumnType<Date, never, never>;
}

export interface PredictionTable {
  id: Generated<string>;
  /** What kind of thing was guessed at, and which one. */
  subject: string;
  subject_id: string | null;
  title: string;
  source: string;
  predicted: number;
  low: number;
  high: number;
  measured: number | null;
  made_at: ColumnType<Date, never, never>;
  measured_at: ColumnType<Date | null, Date | null | undefined, Date | null>;
}

export interface SheetEventTable {
  seq: Generated<string>;
  id: string;
  job_id: string;
  event: JSONColumnType<SheetEventDoc>;
  search: ColumnType<string | null, never, never>;
  written_at: ColumnType<Date, never, never>;
}

export interface FileTable {
  hash: string;
  size: string | number;
  created_at: ColumnType<Date, never, Date>;
}

export interface FileChunkTable {
  hash: string;
  seq: number;
  bytes: Buffer;
}

export interface LogTable {
  id: Generated<string>;
  job_id: string;
  file_hash: string;
  /** Which table of the file it is; empty: the only one. */
  part: Generated<string>;
  file_name: string;
  columns: JSONColumnType<StoredColumn[]>;
  report: JSONColumnType<ImportReport>;
  rows: number;
  created_at: ColumnType<Date, never, never>;
}

export interface LogBlockTable {
  log_id: string;
  col: number;
  block: number;
  /** The samples as they stood in the file, packed: core/read/packed-block. */
  data: Buffer;
  width: Generated<number>;
  decimals: Generated<number>;
}

export interface RunTable extends Saved {
  id: Generated<string>;
  job_id: string;
  log_id: string;
  first_row: number;
  last_row: number;
  doc: JSONColumnType<RunDoc>;
  version: Generated<number>;
  trashed_at: ColumnType<Date | null, Date | null | undefined, Date | null>;
  created_at: ColumnType<Date, never, never>;
}

export interface HeaderMapTable {
  signature: string;
  channels: JSONColumnType<RememberedChannel[]>;
  saved_at: ColumnType<Date, Date | undefined, Date>;
}

export interface ApiKeyTable {
  id: Generated<string>;
  name: string;
  hash: string;
  created_at: ColumnType<Date, never, never>;
  used_at: ColumnType<Date | null, Date | null | undefined, Date | null>;
  revoked_at: ColumnType<Date | null, Date | null | undefined, Date | null>;
  scope: Generated<'read' | 'write'>;
  /** The one job it opens; null: all. */
  job_id: string | null;
}

/** The answer of a write that may be sent again under the same key; no status yet: it is still being worked on. */
export interface ApiAnswerTable {
  key: string;
  fingerprint: string;
  status: number | null;
  headers: JSONColumnType<Record<string, string>> | null;
  body: string | null;
  created_at: ColumnType<Date, Date | undefined, Date>;
}

export interface PracticeTable {
  id: Generated<string>;
  job_id: string;
  seed: number;
  setup: JSONColumnType<PracticeSetup>;
  truth: JSONColumnType<PracticeTruth & { readonly curve: PracticeCurve }>;
  decision: ColumnType<PracticeDecision | null, string | null | undefined, string | null>;
  created_at: ColumnType<Date, never, never>;
}

export interface PracticeRunTable {
  practice_id: string;
  seq: number;
  run: JSONColumnType<PracticeRun>;
}

export interface StripVisitTable extends Saved {
  id: Generated<string>;
  job_id: string;
  doc: JSONColumnType<StripVisitDoc>;
  version: Generated<number>;
  created_at: ColumnType<Date, never, never>;
  trashed_at: ColumnType<Date | null, Date | null | undefined, Date | null>;
}

export interface StripPassTable extends Saved {
  id: Generated<string>;
  visit_id: string;
  doc: JSONColumnType<StripPassDoc>;
  version: Generated<number>;
  created_at: ColumnType<Date, never, never>;
  trashed_at: ColumnType<Date | null, Date | null | undefined, Date | null>;
}

export interface DocumentVersionTable {
  /** The table the document is in. */
  kind: string;
  doc_id: string;
  version: number;
  doc: JSONColumnType<object>;
  saved_by: string;
  saved_at: ColumnType<Date, Date, never>;
  kept_at: ColumnType<Date, never, never>;
}

export interface ShareLinkTable {
  id: Generated<string>;
  job_id: string;
  token_hash: string;
  pack: string;
  made_by: string;
  created_at: ColumnType<Date, never, never>;
  expires_at: ColumnType<Date, Date, Date>;
  revoked_at: ColumnType<Date | null, Date | null | undefined, Date | null>;
  opened: Generated<number>;
  opened_at: ColumnType<Date | null, Date | null | undefined, Date | null>;
}

export interface SignInAttemptTable {
  id: Generated<string>;
  who: string;
  at: ColumnType<Date, Date | undefined, never>;
  /** These were the words. */
  passed: Generated<boolean>;
}

/** What was worked out before, by the hash of what went in and of the release. */
export interface KeptSumTable {
  key: string;
  result: Buffer;
  kept_at: ColumnType<Date, Date | undefined, Date>;
}

export interface MetaTable {
  key: string;
  value: JSONColumnType<object>;
}

export interface SessionEndTable {
  id: string;
  at: ColumnType<Date, Date | undefined, never>;
}

export interface WorkTable {
  id: string;
  kind: string;
  state: Generated<'waiting' | 'running' | 'done' | 'failed' | 'cancelled'>;
  share: Generated<number>;
  result: JSONColumnType<object> | null;
  problem: JSONColumnType<{ status: number; code: string; message: string }> | null;
  stop: Generated<boolean>;
  asked_by: Generated<string>;
  created_at: ColumnType<Date, never, never>;
  ended_at: ColumnType<Date | null, never, Date>;
}

export interface Database {
  job: JobTable;
  unit: UnitTable;
  tested_part: TestedPartTable;
  prediction: PredictionTable;
  sheet_event: SheetEventTable;
  file: FileTable;
  file_chunk: FileChunkTable;
  log: LogTable;
  log_block: LogBlockTable;
  run: RunTable;
  header_map: HeaderMapTable;
  api_key: ApiKeyTable;
  api_answer: ApiAnswerTable;
  practice: PracticeTable;
  practice_run: PracticeRunTable;
  strip_visit: StripVisitTable;
  strip_pass: StripPassTable;
  document_version: DocumentVersionTable;
  share_link: ShareLinkTable;
  sign_in_attempt: SignInAttemptTable;
  session_end: SessionEndTable;
  work: WorkTable;
  meta: MetaTable;
  kept_sum: KeptSumTable;
}
