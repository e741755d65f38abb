import { sql } from 'kysely';
import type { ChannelMap, RememberedChannel, StoredColumn } from '@/core/documents/run';
import {
  dimensionOf,
  factsOf,
  guessChannels,
  headerSignature,
  type FoundColumn,
  type GuessContext,
  type GuessedChannel,
} from '@/core/read/guess';
import { packedBlocks } from '@/core/read/packed-block';
import { BLOCK_ROWS, type ImportReport, type ReadColumn } from '@/core/read/result';
import type { Db, Trx } from './db/client';
import { notFound } from './errors';
import { putBlocks, storedValues, type StagedLog } from './log-blocks';

export interface MappedColumns {
  readonly channels: ChannelMap[];
  readonly columns: StoredColumn[];
}

/** What the columns of a freshly read file are: as a person said for an earlier file with this header, else guessed. */
export async function mapColumns(db: Db | Trx, columns: readonly FoundColumn[], context: GuessContext = {}): Promise<MappedColumns> {
  const facts = columns.map(factsOf);
  const guessed = guessChannels(facts, context);
  const row = await db.selectFrom('header_map').select('channels').where('signature', '=', headerSignature(columns)).executeTakeFirst();
  const remembered: readonly RememberedChannel[] = row?.channels ?? [];
  const chosen = guessed.map((g, i): GuessedChannel & { remembered: boolean } => {
    const said = remembered[i];
    const dimension = said && dimensionOf(said.quantity);
    // What nobody had decided then is not decided now; what the figures belie is not taken from an earlier file either.
    const undecided = !said || (said.unit === null && dimension !== null && dimension !== 'plain') || (said.quantity === 'other' && g.ask);
    if (undecided || g.doubt === 'power and torque disagree' || g.doubt === 'unit does not suit the figures' || g.doubt === 'no figures')
      return { ...g, remembered: false };
    const { power } = g;
    return {
      column: i,
      quantity: said.quantity,
      unit: said.unit,
      ...(power && { power }),
      confidence: 1,
      doubt: null,
      ask: false,
      remembered: true,
    };
  });
  return {
    channels: chosen.map(({ column, quantity, unit, power }) => ({ column, quantity, unit, ...(power && { power }) })),
    columns: columns.map((c, i) => ({
      name: c.name,
      unit: c.unit,
      count: c.count,
      low: facts[i]!.low,
      high: facts[i]!.high,
      confidence: chosen[i]!.confidence,
      doubt: chosen[i]!.doubt,
      remembered: chosen[i]!.remembered,
      ...(chosen[i]!.ask && { ask: true }),
      ...(c.made !== undefined && { made: c.made }),
    })),
  };
}

/** Remembers what a person said the columns of a header are. */
export async function rememberHeader(trx: Trx, columns: readonly StoredColumn[], channels: readonly ChannelMap[]): Promise<void> {
  const said = JSON.stringify(
    columns.map((c, i): RememberedChannel => {
      const channel = channels.find((m) => m.column === i);
      return { name: c.name, quantity: channel?.quantity ?? 'other', unit: channel?.unit ?? null };
    }),
  );
  await trx
    .insertInto('header_map')
    .values({ signature: headerSignature(columns), channels: said })
    .onConflict((c) => c.column('signature').doUpdateSet({ channels: said, saved_at: new Date() }))
    .execute();
}

export interface NewLog {
  readonly jobId: string;
  readonly hash: string;
  readonly part: string;
  readonly fileName: string;
  readonly columns: readonly FoundColumn[];
  readonly stored: readonly StoredColumn[];
  readonly report: ImportReport;
}

/** A column that has its rows; one that let them go is stored already. */
function withRows(column: FoundColumn): ReadColumn {
  if ('facts' in column) throw new Error(`the rows of ${column.name} are not here to be stored`);
  return column;
}

/** Stores a recording, or gives the one that was stored as it was read its name; resolves with its id. */
export async function addLog(trx: Trx, log: NewLog, staged?: StagedLog): Promise<string> {
  const values = {
    file_hash: log.hash,
    part: log.part,
    file_name: log.fileName,
    columns: JSON.stringify(log.stored),
    report: JSON.stringify(log.report),
    rows: log.report.rows,
  };
  if (staged) {
    await staged.checkWhole(trx);
    await trx.updateTable('log').set(values).where('id', '=', staged.id).execute();
    await trx.deleteFrom('file').where('hash', '=', staged.file).execute();
    return staged.id;
  }
  const { id } = await trx
    .insertInto('log')
    .values({ job_id: log.jobId, ...values })
    .returning('id')
    .executeTakeFirstOrThrow();
  for (const block of packedBlocks(log.columns.map(withRows))) await putBlocks(trx, id, [block]);
  return id;
}

/** The recording that a file, or a table of it, already is in a job. */
export async function logOfFile(
  db: Db | Trx,
  jobId: string,
  hash: string,
  part: string,
): Promise<{ id: string; report: ImportReport } | null> {
  const row = await db
    .selectFrom('log')
    .select(['id', 'report'])
    .where('job_id', '=', jobId)
    .where('file_hash', '=', hash)
    .where('part', '=', part)
    .executeTakeFirst();
  return row ?? null;
}

/** Rows [first, last] of some channels, in the order asked for; reads no other channel and no block outside them. */
export async function readRows(
  db: Db | Trx,
  logId: string,
  cols: readonly number[],
  first: number,
  last: number,
): Promise<Float64Array<ArrayBuffer>[]> {
  const out = cols.map(() => new Float64Array(Math.max(0, last - first + 1)));
  if (cols.length === 0) return out;
  for (let block = Math.floor(first / BLOCK_ROWS), at = 0; block <= Math.floor(last / BLOCK_ROWS); block += 1) {
    const from = Math.max(0, first - block * BLOCK_ROWS);
    const rows = Math.min(BLOCK_ROWS, last + 1 - block * BLOCK_ROWS) - from;
    const read = await db
      .selectFrom('log_block')
      .select(['col', sql<Buffer>`substring(data FROM ${from}::int * width + 1 FOR ${rows}::int * width)`.as('data'), 'width', 'decimals'])
      .where('log_id', '=', logId)
      .where('col', 'in', cols)
      .where('block', '=', block)
      .execute();
    const byColumn = new Map(read.map((r) => [r.col, r]));
    for (const [i, col] of cols.entries()) {
      const stored = byColumn.get(col);
      if (!stored) throw notFound('channel');
      out[i]!.set(storedValues(stored), at);
    }
    at += rows;
  }
  return out;
}
