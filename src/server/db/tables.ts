import type { ColumnType, Generated, JSONColumnType } from 'kysely';
import type { JobDoc } from '@/core/documents/job';
import type { RunDoc } from '@/core/documents/run';
import type { UnitDoc } from '@/core/documents/unit';
import type { JobFindings } from '@/core/job/findings';
import type { ImportReport } from '@/core/runs/read/reader';

export interface JobTable {
  id: Generated<string>;
  number: Generated<number>;
  doc: JSONColumnType<JobDoc>;
  finding: JSONColumnType<JobFindings>;
  version: Generated<number>;
  created_at: ColumnType<Date, never, never>;
  saved_at: ColumnType<Date, Date | undefined, Date>;
  archived_at: ColumnType<Date | null, Date | null | undefined, Date | null>;
}

export interface UnitTable {
  id: Generated<string>;
  doc: JSONColumnType<UnitDoc>;
  version: Generated<number>;
  created_at: ColumnType<Date, never, never>;
}

export interface FileTable {
  hash: string;
  size: string | number;
  created_at: ColumnType<Date, never, never>;
}

export interface FileChunkTable {
  hash: string;
  seq: number;
  bytes: Buffer;
}

export interface StoredColumn {
  name: string;
  unit: string;
  count: number;
}

export interface RunTable {
  id: Generated<string>;
  job_id: string;
  file_hash: string;
  file_name: string;
  columns: JSONColumnType<StoredColumn[]>;
  report: JSONColumnType<ImportReport>;
  doc: JSONColumnType<RunDoc>;
  version: Generated<number>;
  created_at: ColumnType<Date, never, never>;
}

export interface RunChannelTable {
  run_id: string;
  col: number;
  /** Doubles, little-endian, as they stood in the file; NaN where there was nothing. */
  data: Buffer;
}

export interface MetaTable {
  key: string;
  value: JSONColumnType<object>;
}

export interface Database {
  job: JobTable;
  unit: UnitTable;
  file: FileTable;
  file_chunk: FileChunkTable;
  run: RunTable;
  run_channel: RunChannelTable;
  meta: MetaTable;
}
