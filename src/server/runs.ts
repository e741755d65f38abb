import { cutText } from '@/core/cut-text';
import { readKept } from '@/core/documents/kept';
import { runDoc, type ChannelMap, type RunDoc, type RunSide, type StoredRun } from '@/core/documents/run';
import { preambleFacts } from '@/core/read/preamble';
import { columnValues, type ImportReport } from '@/core/read/result';
import { channelSI, factsOf, headerSignature, isSettled, type FoundColumn, type GuessContext } from '@/core/read/guess';
import { sideBySide } from '@/core/read/side-by-side';
import { airFrom } from '@/core/runs/air';
import { DYNO_QUANTITIES, type RunChannel } from '@/core/runs/dyno-run';
import { splitPulls } from '@/core/runs/split';
import { acceptedChange } from './accept';
import type { Db, Trx } from './db/client';
import { notFound, stale } from './errors';
import { personNow } from './who';
import type { StagedLog } from './log-blocks';
import { addLog, mapColumns, readRows, rememberHeader } from './logs';

const RUN_COLUMNS = ['run.id', 'run.job_id', 'run.log_id', 'run.first_row', 'run.last_row', 'run.version', 'run.doc'] as const;
const LOG_COLUMNS = ['log.file_name', 'log.file_hash', 'log.columns'] as const;

const selectRuns = (db: Db | Trx) =>
  db.selectFrom('run').innerJoin('log', 'log.id', 'run.log_id').select(RUN_COLUMNS).select(LOG_COLUMNS).where('run.trashed_at', 'is', null);
type Row = Awaited<ReturnType<ReturnType<typeof selectRuns>['executeTakeFirstOrThrow']>>;

const stored = (row: Row): StoredRun => ({
  id: row.id,
  jobId: row.job_id,
  logId: row.log_id,
  firstRow: row.first_row,
  lastRow: row.last_row,
  version: row.version,
  fileName: row.file_name,
  fileHash: row.file_hash,
  columns: row.columns,
  doc: readKept(runDoc, row.doc),
});

export async function listRuns(db: Db | Trx, jobId: string): Promise<StoredRun[]> {
  const rows = await selectRuns(db).where('run.job_id', '=', jobId).orderBy('run.created_at').orderBy('run.id').execute();
  return rows.map(stored);
}

export async function readRun(db: Db | Trx, id: string): Promise<StoredRun> {
  const row = await selectRuns(db).where('run.id', '=', id).executeTakeFirst();
  if (!row) throw notFound('run');
  return stored(row);
}

export async function runReport(db: Db | Trx, id: string): Promise<ImportReport> {
  const row = await db
    .selectFrom('run')
    .innerJoin('log', 'log.id', 'run.log_id')
    .select('report')
    .where('run.id', '=', id)
    .executeTakeFirst();
  if (!row) throw notFound('run');
  return row.report;
}

export async function runsOfLog(db: Db | Trx, logId: string): Promise<StoredRun[]> {
  const rows = await selectRuns(db).where('run.log_id', '=', logId).orderBy('run.first_row').execute();
  return rows.map(stored);
}

/** What a freshly read file becomes: its mapped columns, the lines above the table taken at their word. */
export function newRunDoc(fileName: string, channels: readonly ChannelMap[], report: ImportReport, side: RunSide | null): RunDoc {
  const facts = preambleFacts(report.layout.preamble);
  const kind = (channels.find((c) => c.quantity === 'power') ?? channels.find((c) => c.quantity === 'torque'))?.power;
  const has = (quantity: ChannelMap['quantity']): boolean => channels.some((c) => c.quantity === quantity);
  return runDoc.parse({
    schema: 1,
    kind: has('power') || has('torque') || !has('time') ? 'dyno' : 'log',
    name: cutText(fileName.replace(/\.[A-Za-z0-9]{1,5}$/, ''), 120) || 'run',
    side,
    channels: [...channels],
    // What the column says of itself goes before what stands above the table.
    measuredAt: kind?.at ?? facts.measuredAt,
    carried: kind?.carried ?? facts.carried,
    carriedSmoothing_rpm: 0,
    ...airFrom(facts.weather),
    takenOn: facts.takenOn,
    takenAt: facts.takenAt,
    gear: facts.gear,
    pulley: facts.pulley,
    fuel: facts.fuel,
    tune: facts.tune,
    otherChanges: '',
    coolantStart_K: facts.coolantStart_K,
    keyOn_Pa: facts.keyOn_Pa,
    picture: facts.picture,
    leftOut: null,
  } satisfies Partial<RunDoc>);
}

export interface NewRuns {
  readonly jobId: string;
  readonly hash: string;
  readonly fileName: string;
  readonly side: RunSide | null;
  readonly columns: readonly FoundColumn[];
  readonly report: ImportReport;
  /** Changes to what the file itself says, where the caller knows more. */
  readonly say?: Partial<RunDoc> | undefined;
  /** Which table of the file it is, where it holds several. */
  readonly part?: string;
  readonly context?: GuessContext;
}

/** Takes a read file into a job, all of it or nothing: its channels (unless they are `staged` already), and a run for each pull in it. */
export async function addRuns(trx: Trx, file: NewRuns, staged?: StagedLog): Promise<StoredRun[]> {
  const mapped = await mapColumns(trx, file.columns, file.context);
  const logId = await addLog(trx, { ...file, part: file.part ?? '', stored: mapped.columns }, staged);
  const named = file.part ? `${file.fileName.replace(/\.[A-Za-z0-9]{1,5}$/, '')}, ${file.part}` : file.fileName;
  const rows = (col: number): Promise<Float64Array> => {
    const column = file.columns[col]!;
    return 'facts' in column
      ? readRows(trx, logId, [col], 0, file.report.rows - 1).then(([values]) => values!)
      : Promise.resolve(columnValues(column));
  };
  for (const { name, doc, span } of await runsIn(file, named, mapped.channels, rows)) {
    await trx
      .insertInto('run')
      .values({
        job_id: file.jobId,
        log_id: logId,
        first_row: span.first,
        last_row: Math.max(0, span.last),
        doc: JSON.stringify(runDoc.parse({ ...doc, name })),
        saved_by: personNow(),
      })
      .execute();
  }
  return runsOfLog(trx, logId);
}

/** The runs a read file holds: a run for each group of columns that stands side by side, and for each pull in it. */
async function runsIn(
  file: NewRuns,
  fileName: string,
  channels: readonly ChannelMap[],
  rows: (col: number) => Promise<Float64Array>,
): Promise<{ name: string; doc: RunDoc; span: { first: number; last: number } }[]> {
  const found: { name: string; doc: RunDoc; span: { first: number; last: number } }[] = [];
  for (const { label, channels: own } of sideBySide(file.columns, channels)) {
    const base = newRunDoc(fileName, own, file.report, file.side);
    const stamped = stampOf(file.columns, own, base);
    const doc: RunDoc = { ...base, ...file.say, came: { stampedAt: stamped, modifiedAt: null, nth: null, ...file.say?.came } };
    const title = label === '' ? doc.name : cutText(`${cutText(doc.name, 90)}, ${label}`, 120);
    const rpm = own.find((c) => c.quantity === 'rpm');
    const spans =
      doc.kind === 'dyno' && rpm && isSettled(rpm)
        ? splitPulls(channelSI(await rows(rpm.column), rpm), file.report.sections)
        : [{ first: 0, last: file.report.rows - 1 }];
    found.push(...spans.map((span, k) => ({ doc, span, name: spans.length === 1 ? title : `${cutText(title, 108)}, pull ${k + 1}` })));
  }
  return found;
}

/** Seconds since the epoch from which a clock is a date and not a count: 1990. */
const EPOCH_FROM_s = 631_152_000;

/** The first moment of a file's clock where it is a date and a time, or a time of day beside the date above the table. */
function stampOf(columns: readonly FoundColumn[], channels: readonly ChannelMap[], doc: RunDoc): string | null {
  const time = channels.find((c) => c.quantity === 'time');
  if (!time || !isSettled(time)) return null;
  const [first] = channelSI(Float64Array.from(factsOf(columns[time.column]!).sample.slice(0, 1)), time);
  if (first === undefined || !Number.isFinite(first)) return null;
  if (first > EPOCH_FROM_s && first < 10 * EPOCH_FROM_s) return new Date(first * 1000).toISOString();
  const clock = doc.takenOn !== null && first > 3600 && first < 86_400 && /time of day|clock|uhrzeit/i.test(columns[time.column]!.name);
  return clock ? new Date(Date.parse(`${doc.takenOn}T00:00:00Z`) + first * 1000).toISOString() : null;
}

const sameMapping = (a: readonly ChannelMap[], b: readonly ChannelMap[]): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Saves a run's record. What a person says of its columns is remembered for the next file with this header. */
export async function saveRun(trx: Trx, id: string, version: number, doc: RunDoc): Promise<StoredRun> {
  const before = await readRun(trx, id);
  if (before.version !== version) throw stale(before);
  const parsed = acceptedChange(runDoc, before.doc, doc);
  const row = await trx
    .updateTable('run')
    .set({ doc: JSON.stringify(parsed), version: version + 1, saved_by: personNow(), saved_at: new Date() })
    .where('id', '=', id)
    .where('version', '=', version)
    .returning('id')
    .executeTakeFirst();
  if (!row) throw stale(await readRun(trx, id));
  if (!sameMapping(before.doc.channels, parsed.channels)) await rememberHeader(trx, before.columns, parsed.channels);
  return readRun(trx, id);
}

/**
 * An answer about a column holds for the job's other files of this header that still ask the same: their channels take its
 * unit. Resolves with the runs that changed.
 */
export async function settleAlike(trx: Trx, run: StoredRun): Promise<StoredRun[]> {
  const signature = headerSignature(run.columns);
  const changed: StoredRun[] = [];
  for (const other of await listRuns(trx, run.jobId)) {
    if (other.id === run.id || headerSignature(other.columns) !== signature) continue;
    const channels = other.doc.channels.map((c): ChannelMap => {
      const said = run.doc.channels.find((m) => m.column === c.column);
      const same = said !== undefined && said.quantity === c.quantity && isSettled(said);
      return same && !isSettled(c) ? { ...c, unit: said.unit } : c;
    });
    if (sameMapping(channels, other.doc.channels)) continue;
    changed.push(await saveRun(trx, other.id, other.version, { ...other.doc, channels }));
  }
  return changed;
}

/** Puts a run into the trash; its file and its channels stay. Resolves with the job it was in. */
export async function removeRun(trx: Trx, id: string): Promise<string> {
  const row = await trx
    .updateTable('run')
    .set({ trashed_at: new Date() })
    .where('id', '=', id)
    .where('trashed_at', 'is', null)
    .returning('job_id')
    .executeTakeFirst();
  if (!row) throw notFound('run');
  return row.job_id;
}

/** Brings back what was thrown away of a recording: its file was dropped in again. Resolves with how many runs that was. */
export async function bringBackRuns(trx: Trx, logId: string): Promise<number> {
  const done = await trx
    .updateTable('run')
    .set({ trashed_at: null })
    .where('log_id', '=', logId)
    .where('trashed_at', 'is not', null)
    .executeTakeFirst();
  return Number(done.numUpdatedRows);
}

/** Some channels of a run as doubles, in the order asked for; reads nothing of the others, nor of the file's other pulls. */
export async function readChannels(db: Db | Trx, runId: string, cols: readonly number[]): Promise<Float64Array<ArrayBuffer>[]> {
  const run = await db.selectFrom('run').select(['log_id', 'first_row', 'last_row']).where('id', '=', runId).executeTakeFirst();
  if (!run) throw notFound('run');
  return readRows(db, run.log_id, cols, run.first_row, run.last_row);
}

/** The channels of a run that a dyno comparison needs, and no others. */
export async function dynoChannels(db: Db | Trx, run: StoredRun): Promise<RunChannel[]> {
  const maps = run.doc.channels.filter((c) => DYNO_QUANTITIES.includes(c.quantity));
  const values = await readRows(
    db,
    run.logId,
    maps.map((m) => m.column),
    run.firstRow,
    run.lastRow,
  );
  return maps.map((map, i) => ({ map, values: values[i]! }));
}
