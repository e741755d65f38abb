import { runDoc, type RunDoc, type RunSide, type StoredRun } from '@/core/documents/run';
import { compareSides, type SideComparison } from '@/core/compare/sides';
import { isFailure } from '@/core/failure';
import { guessChannels } from '@/core/runs/read/guess';
import { preambleFacts } from '@/core/runs/read/preamble';
import type { ImportReport, ReadColumn } from '@/core/runs/read/reader';
import { dynoRun, type DynoRun, type RunChannel } from '@/core/runs/dyno-run';
import { comparedUnit } from '@/core/job/compared-unit';
import type { JobDoc } from '@/core/documents/job';
import type { Db, Trx } from './db/client';
import { notFound, stale } from './errors';

type Row = { id: string; job_id: string; version: number; file_name: string; file_hash: string; columns: unknown; doc: unknown };
const COLUMNS = ['id', 'job_id', 'version', 'file_name', 'file_hash', 'columns', 'doc'] as const;

const stored = (row: Row): StoredRun => ({
  id: row.id,
  jobId: row.job_id,
  version: row.version,
  fileName: row.file_name,
  fileHash: row.file_hash,
  columns: row.columns as StoredRun['columns'],
  doc: runDoc.parse(row.doc),
});

export async function listRuns(db: Db | Trx, jobId: string): Promise<StoredRun[]> {
  const rows = await db.selectFrom('run').select(COLUMNS).where('job_id', '=', jobId).orderBy('created_at').orderBy('id').execute();
  return rows.map(stored);
}

export async function runReport(db: Db | Trx, id: string): Promise<ImportReport> {
  const row = await db.selectFrom('run').select('report').where('id', '=', id).executeTakeFirst();
  if (!row) throw notFound('run');
  return row.report;
}

export async function runOfFile(db: Db | Trx, jobId: string, hash: string): Promise<StoredRun | null> {
  const row = await db.selectFrom('run').select(COLUMNS).where('job_id', '=', jobId).where('file_hash', '=', hash).executeTakeFirst();
  return row ? stored(row) : null;
}

/** What a freshly read file becomes: columns guessed, the lines above the table taken at their word. */
export function newRunDoc(fileName: string, columns: readonly ReadColumn[], report: ImportReport, side: RunSide | null): RunDoc {
  const facts = preambleFacts(report.layout.preamble);
  const { p_Pa, T_K, rh } = facts.weather;
  const guessed = guessChannels(columns.map((c) => ({ name: c.name, unit: c.unit, high: highOf(c.values) })));
  return {
    schema: 1,
    name: fileName.replace(/\.[A-Za-z0-9]{1,5}$/, '').slice(0, 120) || 'run',
    side,
    channels: guessed.map(({ column, quantity, unit }) => ({ column, quantity, unit })),
    measuredAt: facts.measuredAt,
    carried: facts.carried,
    carriedSmoothing_rpm: 0,
    weather: p_Pa !== undefined && T_K !== undefined ? { p_Pa, T_K, rh: rh ?? 0 } : null,
    takenOn: facts.takenOn,
    gear: facts.gear,
    fuel: '',
    tune: '',
    otherChanges: '',
    coolantStart_K: facts.coolantStart_K,
    leftOut: null,
  };
}

/** A high figure of a column that one wild sample does not set: the 95 % point of a spread of its samples. */
function highOf(values: Float64Array): number {
  const stride = Math.max(1, Math.floor(values.length / 2000));
  const some: number[] = [];
  for (let i = 0; i < values.length; i += stride) if (Number.isFinite(values[i])) some.push(values[i]!);
  some.sort((a, b) => a - b);
  return some[Math.floor(some.length * 0.95)] ?? 0;
}

/** Doubles as they are stored: this machine's byte order is little-endian, as is every one Node runs on here. */
const bytesOf = (values: Float64Array): Buffer => Buffer.from(values.buffer, values.byteOffset, values.byteLength);

export async function addRun(
  trx: Trx,
  run: { jobId: string; hash: string; fileName: string; columns: readonly ReadColumn[]; report: ImportReport; doc: RunDoc },
): Promise<StoredRun> {
  const row = await trx
    .insertInto('run')
    .values({
      job_id: run.jobId,
      file_hash: run.hash,
      file_name: run.fileName,
      columns: JSON.stringify(run.columns.map(({ name, unit, count }) => ({ name, unit, count }))),
      report: JSON.stringify(run.report),
      doc: JSON.stringify(runDoc.parse(run.doc)),
    })
    .returning(COLUMNS)
    .executeTakeFirstOrThrow();
  for (const [col, column] of run.columns.entries()) {
    await trx
      .insertInto('run_channel')
      .values({ run_id: row.id, col, data: bytesOf(column.values) })
      .execute();
  }
  return stored(row);
}

export async function saveRun(trx: Trx, id: string, version: number, doc: RunDoc): Promise<StoredRun> {
  const row = await trx
    .updateTable('run')
    .set({ doc: JSON.stringify(runDoc.parse(doc)), version: version + 1 })
    .where('id', '=', id)
    .where('version', '=', version)
    .returning(COLUMNS)
    .executeTakeFirst();
  if (row) return stored(row);
  const current = await trx.selectFrom('run').select(COLUMNS).where('id', '=', id).executeTakeFirst();
  throw current ? stale(stored(current)) : notFound('run');
}

/** Takes a run out of its job; the original file stays. Resolves with the job it was in. */
export async function removeRun(trx: Trx, id: string): Promise<string> {
  const row = await trx.deleteFrom('run').where('id', '=', id).returning('job_id').executeTakeFirst();
  if (!row) throw notFound('run');
  return row.job_id;
}

/** One channel as doubles; reads nothing of the others. */
export async function readChannel(db: Db | Trx, runId: string, col: number): Promise<Buffer> {
  const row = await db.selectFrom('run_channel').select('data').where('run_id', '=', runId).where('col', '=', col).executeTakeFirst();
  if (!row) throw notFound('channel');
  return row.data;
}

function doubles(bytes: Buffer): Float64Array {
  const copy = new Uint8Array(bytes.byteLength);
  copy.set(bytes);
  return new Float64Array(copy.buffer);
}

/** The channels of a run that a dyno comparison needs, and no others. */
export async function dynoChannels(db: Db | Trx, run: StoredRun): Promise<RunChannel[]> {
  const wanted = run.doc.channels.filter((c) => ['rpm', 'power', 'torque', 'throttle', 'inlet air', 'coolant'].includes(c.quantity));
  const out: RunChannel[] = [];
  for (const map of wanted) out.push({ map, values: doubles(await readChannel(db, run.id, map.column)) });
  return out;
}

export interface ComparedRuns {
  readonly stock: number;
  readonly other: number;
  readonly compared: SideComparison | null;
}

/** The job's dyno comparison as its Test stop shows it: stock against the chosen unit, runs left out not counted. */
export async function compareJobRuns(db: Db | Trx, jobId: string, doc: JobDoc): Promise<ComparedRuns> {
  const runs = (await listRuns(db, jobId)).filter((r) => r.doc.leftOut === null && r.doc.side !== null);
  const stock = runs.filter((r) => r.doc.side!.kind === 'stock');
  const unitId = comparedUnit(doc.pick.chosen, runs);
  const other = runs.filter((r) => r.doc.side?.kind === 'unit' && r.doc.side.unitId === unitId);
  const ready = async (list: StoredRun[]): Promise<DynoRun[]> => {
    const out: DynoRun[] = [];
    for (const run of list) {
      const dyno = dynoRun(await dynoChannels(db, run), run.doc, doc.test.correction);
      if (!isFailure(dyno)) out.push(dyno);
    }
    return out;
  };
  const a = await ready(stock);
  const b = await ready(other);
  const compared = a.length > 0 && b.length > 0 ? compareSides(a, b, doc.test) : null;
  return { stock: stock.length, other: other.length, compared: compared && !isFailure(compared) ? compared : null };
}
