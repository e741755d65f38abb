import { sql } from 'kysely';
import { confounders, type ComparedRun, type Confounder } from '@/core/compare/confounders';
import { compareExtras, type SideExtra } from '@/core/compare/extras';
import { costsOf, lookOf } from '@/core/compare/look';
import { baselineStudy, compareSides, type SideComparison, type SideOptions } from '@/core/compare/sides';
import { usedBands } from '@/core/compare/used-bands';
import type { JobDoc } from '@/core/documents/job';
import type { StoredRun } from '@/core/documents/run';
import { isFailure } from '@/core/failure';
import { historyLogs, type ShopHistory } from '@/core/inference/shop-history';
import type { StudyRun } from '@/core/inference/study';
import { comparedUnit } from '@/core/job/compared-unit';
import { dynoRun } from '@/core/runs/dyno-run';
import { runsOfOneKind, type OneKind } from '@/core/runs/kind';
import { inOrder, sideRun, type ReadyRun } from '@/core/runs/order';
import type { Db, Trx } from './db/client';
import { dynoChannels, listRuns } from './runs';
import { shopHistory } from './shop-history';

/** A job's dyno runs compared as its Test step shows it: stock against one throttle, runs left out not counted. */
export interface JobComparison {
  /** Runs of either side that count. */
  readonly stock: number;
  readonly other: number;
  readonly unitId: string | null;
  /** Null where a side is missing. */
  readonly compared: SideComparison | null;
  /** The runs as a study, also of repeat baselines alone; null: none. */
  readonly study: readonly StudyRun[] | null;
  /** What makes it an unfair one. */
  readonly confounders: readonly Confounder[];
  /** Of what was logged beside power a verdict asks the inlet air alone; `jobExtras` gives the others. */
  readonly inletAir: SideExtra['mean'] | null;
  readonly runs: readonly { readonly id: string; readonly name: string; readonly side: 'A' | 'B' }[];
}

export const NO_COMPARISON: JobComparison = {
  stock: 0,
  other: 0,
  unitId: null,
  compared: null,
  study: null,
  confounders: [],
  inletAir: null,
  runs: [],
};

interface PreparedSides {
  readonly counted: readonly StoredRun[];
  readonly unitId: string | null;
  readonly a: readonly ReadyRun[];
  readonly b: readonly ReadyRun[];
  /** Runs of either side that a person left out. */
  readonly leftOut: readonly ReadyRun[];
  readonly order: ReadonlyMap<ReadyRun, number>;
  readonly orderGuessed: boolean;
  readonly oneKind: OneKind<StoredRun>;
}

const isStock = (run: StoredRun): boolean => run.doc.side?.kind === 'stock';

async function preparedSides(db: Db | Trx, jobId: string, doc: JobDoc): Promise<PreparedSides> {
  const all = (await listRuns(db, jobId)).filter((r) => r.doc.kind === 'dyno' && r.doc.side !== null);
  const counted = all.filter((r) => r.doc.leftOut === null);
  const unitId = comparedUnit(doc.pick.chosen, counted);
  const isOther = (run: StoredRun): boolean => run.doc.side?.kind === 'unit' && run.doc.side.unitId === unitId;
  const ready: ReadyRun[] = [];
  const inTurn = inOrder(all);
  const oneKind = runsOfOneKind(
    inTurn.runs.filter((run) => isStock(run) || isOther(run)),
    doc.test.correction,
  );
  for (const run of oneKind.runs) {
    const dyno = dynoRun(await dynoChannels(db, run), run.doc, doc.test.correction);
    if (!isFailure(dyno)) ready.push({ stored: run, run: dyno });
  }
  return {
    counted: counted.filter((r) => isStock(r) || isOther(r)),
    unitId,
    a: ready.filter((r) => isStock(r.stored) && r.stored.doc.leftOut === null),
    b: ready.filter((r) => isOther(r.stored) && r.stored.doc.leftOut === null),
    leftOut: ready.filter((r) => r.stored.doc.leftOut !== null),
    order: new Map(ready.map((r, i) => [r, i])),
    orderGuessed: inTurn.guessed,
    oneKind,
  };
}

/** A job's runs compared, and what they are as a study: also baselines of one part alone. */
function comparedSides(
  { a, b, leftOut, order, orderGuessed }: PreparedSides,
  doc: JobDoc,
  history: readonly number[] | undefined,
): { compared: SideComparison | null; study: readonly StudyRun[] | null } {
  const { plan, bands_rpm, ...test } = doc.test;
  const bands = [...bands_rpm, ...usedBands(doc.car.gearbox, test.shift_rpm ?? doc.car.engine.redline_rpm)];
  const sides = (list: readonly ReadyRun[]) => list.map((r) => sideRun(r, order.get(r)!));
  const options: SideOptions = {
    ...test,
    ...plan,
    bands_rpm: bands,
    orderKnown: !orderGuessed,
    history,
    costs: costsOf(plan),
    lookAt: (study) => lookOf(plan, study),
    leftOut: leftOut.map((r) => ({ side: isStock(r.stored) ? 'A' : 'B', run: sideRun(r, order.get(r)!) })),
  };
  if (a.length === 0 || b.length === 0) return { compared: null, study: baselineStudy(sides(a.length > 0 ? a : b), options) };
  const compared = compareSides(sides(a), sides(b), options);
  return isFailure(compared) ? { compared: null, study: null } : { compared, study: compared.study };
}

async function worked(db: Db | Trx, jobId: string, doc: JobDoc, history: readonly number[] | undefined): Promise<JobComparison> {
  const sides = await preparedSides(db, jobId, doc);
  const { a, b, unitId } = sides;
  const stock = sides.counted.filter(isStock).length;
  const count = { stock, other: sides.counted.length - stock, unitId };
  const { compared, study } = comparedSides(sides, doc, history);
  if (!compared) return { ...NO_COMPARISON, ...count, study };
  const asCompared = (r: ReadyRun): ComparedRun => ({ id: r.stored.id, doc: r.stored.doc, run: r.run });
  const named = (side: 'A' | 'B') => (r: ReadyRun) => ({ id: r.stored.id, name: r.stored.doc.name, side });
  return {
    ...count,
    compared,
    study,
    confounders: confounders(a.map(asCompared), b.map(asCompared), {
      plan: doc.test.plan,
      gearbox: doc.car.gearbox,
      comparison: compared,
      uncorrected_pct: null,
      orderGuessed: sides.orderGuessed,
      oneKind: sides.oneKind,
    }),
    inletAir: compareExtras(a, b, compared, ['inlet air'])[0]?.mean ?? null,
    runs: [...a.map(named('A')), ...b.map(named('B'))],
  };
}

/** What was logged beside power on both sides of a job's comparison. */
export async function jobExtras(db: Db | Trx, jobId: string, doc: JobDoc, compared: SideComparison): Promise<SideExtra[]> {
  const { a, b } = await preparedSides(db, jobId, doc);
  return compareExtras(a, b, compared);
}

/** Comparisons by everything they hang on: most saves of a job change nothing in its runs. */
const known = new Map<string, JobComparison>();
const MOST_KNOWN = 200;

/** By the records' own words, not their versions: one that was rolled back may have had the same version as the next. */
async function keyOf(db: Db | Trx, jobId: string, doc: JobDoc, history: readonly number[] | undefined): Promise<string> {
  const { rows } = await sql<{ runs: string | null }>`
    SELECT string_agg(id || md5(doc::text), ',' ORDER BY created_at, id) AS runs FROM run WHERE job_id = ${jobId} AND trashed_at IS NULL`.execute(
    db,
  );
  const { strip: _strip, road: _road, ...test } = doc.test;
  return JSON.stringify([jobId, rows[0]?.runs ?? '', test, doc.car.gearbox, doc.car.engine.redline_rpm, doc.pick.chosen, history]);
}

/** `shop`: the shop's history without this job, where it is at hand. */
export async function jobComparison(db: Db | Trx, jobId: string, doc: JobDoc, shop?: ShopHistory): Promise<JobComparison> {
  const history = historyLogs(shop ?? (await shopHistory(db, jobId))).dyno;
  const key = await keyOf(db, jobId, doc, history);
  const before = known.get(key);
  if (before) return before;
  const found = await worked(db, jobId, doc, history);
  if (known.size >= MOST_KNOWN) known.delete(known.keys().next().value!);
  known.set(key, found);
  return found;
}
