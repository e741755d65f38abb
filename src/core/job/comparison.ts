import { confounders, type ComparedRun, type Confounder } from '../compare/confounders';
import { compareExtras, type SideExtra } from '../compare/extras';
import { costsOf, lookOf } from '../compare/look';
import { baselineStudy, compareSides, type SideComparison, type SideOptions } from '../compare/sides';
import { usedBands } from '../compare/used-bands';
import type { JobDoc } from '../documents/job';
import type { StoredRun } from '../documents/run';
import { isFailure } from '../failure';
import type { StudyRun } from '../inference/study';
import { dynoRun, type RunChannel } from '../runs/dyno-run';
import { runsOfOneKind, type OneKind } from '../runs/kind';
import { inOrder, sideRun, type ReadyRun } from '../runs/order';
import { comparedUnit } from './compared-unit';

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
  /** Of what was logged beside power a verdict asks the inlet air alone; `extrasOfSides` gives the others. */
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

/** What of a job its dyno runs are compared by. */
export type ComparedJob = {
  readonly car: { readonly gearbox: JobDoc['car']['gearbox']; readonly engine: Pick<JobDoc['car']['engine'], 'redline_rpm'> };
  readonly test: JobDoc['test'];
};

/** A job's dyno runs by side, brought into their order and to one kind of power; nothing of their figures is read yet. */
export interface SidedRuns {
  readonly counted: readonly StoredRun[];
  readonly unitId: string | null;
  readonly orderGuessed: boolean;
  /** The runs of both sides, those that a person left out among them. */
  readonly oneKind: OneKind<StoredRun>;
}

const isStock = (run: StoredRun): boolean => run.doc.side?.kind === 'stock';

/** Finds the two sides among a job's runs: stock, and `chosen` or the throttle that was run. */
export function sidedRuns(runs: readonly StoredRun[], { pick, test }: Pick<JobDoc, 'pick' | 'test'>): SidedRuns {
  const all = runs.filter((r) => r.doc.kind === 'dyno' && r.doc.side !== null);
  const counted = all.filter((r) => r.doc.leftOut === null);
  const unitId = comparedUnit(pick.chosen, counted);
  const isEither = (run: StoredRun): boolean => isStock(run) || (run.doc.side?.kind === 'unit' && run.doc.side.unitId === unitId);
  const inTurn = inOrder(all);
  return {
    counted: counted.filter(isEither),
    unitId,
    orderGuessed: inTurn.guessed,
    oneKind: runsOfOneKind(inTurn.runs.filter(isEither), test.correction),
  };
}

interface ReadySides {
  readonly a: readonly ReadyRun[];
  readonly b: readonly ReadyRun[];
  /** Runs of either side that a person left out. */
  readonly leftOut: readonly ReadyRun[];
  readonly order: ReadonlyMap<ReadyRun, number>;
}

function readySides(
  { oneKind }: SidedRuns,
  channels: readonly (readonly RunChannel[])[],
  { correction }: Pick<JobDoc['test'], 'correction'>,
): ReadySides {
  const ready = oneKind.runs.flatMap((stored, i): ReadyRun[] => {
    const run = dynoRun(channels[i]!, stored.doc, correction);
    return isFailure(run) ? [] : [{ stored, run }];
  });
  const counts = (r: ReadyRun): boolean => r.stored.doc.leftOut === null;
  return {
    a: ready.filter((r) => isStock(r.stored) && counts(r)),
    b: ready.filter((r) => !isStock(r.stored) && counts(r)),
    leftOut: ready.filter((r) => !counts(r)),
    order: new Map(ready.map((r, i) => [r, i])),
  };
}

/** A job's runs compared, and what they are as a study: also baselines of one part alone. */
function comparedSides(
  { a, b, leftOut, order }: ReadySides,
  orderGuessed: boolean,
  doc: ComparedJob,
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

/**
 * Compares a job's dyno runs as its Test step does. `channels`: what was logged of each of `sides.oneKind.runs`, in that order.
 * `history`: the shop's own on this rig, ln likelihood on the grid. Testing basis §4.
 */
export function compareSidedRuns(
  sides: SidedRuns,
  channels: readonly (readonly RunChannel[])[],
  doc: ComparedJob,
  history: readonly number[] | undefined,
): JobComparison {
  const ready = readySides(sides, channels, doc.test);
  const { a, b } = ready;
  const stock = sides.counted.filter(isStock).length;
  const count = { stock, other: sides.counted.length - stock, unitId: sides.unitId };
  const { compared, study } = comparedSides(ready, sides.orderGuessed, doc, history);
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

/** What was logged beside power on both sides of a comparison. */
export function extrasOfSides(
  sides: SidedRuns,
  channels: readonly (readonly RunChannel[])[],
  doc: ComparedJob,
  compared: SideComparison,
): SideExtra[] {
  const { a, b } = readySides(sides, channels, doc.test);
  return compareExtras(a, b, compared);
}
