/** Prepares and compares dyno runs off the interface thread. */
import { expose } from 'comlink';
import { costsOf, lookOf } from '@/core/compare/look';
import { compareSides, type SideComparison, type SideOptions } from '@/core/compare/sides';
import { confounders, type ComparedRun, type Confounder } from '@/core/compare/confounders';
import { compareExtras, type SideExtra } from '@/core/compare/extras';
import { heldThings, type HeldThing } from '@/core/compare/holds';
import type { GearboxDoc } from '@/core/documents/job';
import type { PlanDoc } from '@/core/documents/plan';
import type { StoredRun } from '@/core/documents/run';
import { isFailure, type Failure } from '@/core/failure';
import type { CorrectionMethod } from '@/core/documents/kinds';
import { dynoRun, type DynoRun } from '@/core/runs/dyno-run';
import { gridRun } from '@/core/runs/grid';
import { runsOfOneKind } from '@/core/runs/kind';
import { inOrder, sideRun, type OrderBasis, type ReadyRun } from '@/core/runs/order';
import { smoothOverRpm } from '@/core/runs/smooth';
import { dynoChannels } from '@/features/job/dyno-channels';

export interface CompareRequest {
  readonly runs: readonly StoredRun[];
  readonly unitId: string | null;
  readonly fwhm_rpm: number;
  readonly correction: CorrectionMethod;
  /** The shop's own history on the dyno; left out: none yet. */
  readonly history?: readonly number[] | undefined;
  readonly plan: PlanDoc;
  readonly bands_rpm: readonly (readonly [number, number])[];
  readonly range_rpm: readonly [number, number] | null;
  readonly gearbox: GearboxDoc;
  /** A wastegate holds the boost whatever the air: corrections over-correct, and the uncorrected figure is wanted beside. */
  readonly wastegated: boolean;
}

/** A run as the overlay draws it, or why it cannot be. */
export interface PreparedRun {
  readonly id: string;
  readonly failure: Failure | null;
  readonly rpm: readonly number[];
  readonly power_W: readonly number[];
  readonly correction: DynoRun['correction'] | null;
  readonly factor: number;
  readonly swept: number;
  readonly samples: number;
  readonly block: number;
  readonly inletAirStart_K: number | null;
  readonly inletAirPeak_K: number | null;
}

export interface CompareReply {
  readonly prepared: readonly PreparedRun[];
  readonly comparison: SideComparison | Failure | null;
  readonly extras: readonly SideExtra[];
  readonly confounders: readonly Confounder[];
  /** What the plan holds, against the runs there are. */
  readonly held: readonly HeldThing[];
  /** Ids of the runs compared, in the order the comparison counts them: side A's, then side B's. */
  readonly compared: readonly string[];
  /** What the order of the runs rests on. */
  readonly order: OrderBasis;
}

function overlay(run: DynoRun, fwhm: number): { rpm: number[]; power_W: number[] } {
  const grid = gridRun(run.rpm, smoothOverRpm(run.rpm, run.power_W, fwhm));
  return isFailure(grid) ? { rpm: [], power_W: [] } : { rpm: grid.rpm, power_W: grid.value };
}

const EMPTY = {
  rpm: [],
  power_W: [],
  correction: null,
  factor: 1,
  swept: 0,
  samples: 0,
  block: 1,
  inletAirStart_K: null,
  inletAirPeak_K: null,
};

async function prepare(
  run: StoredRun,
  request: Pick<CompareRequest, 'correction' | 'fwhm_rpm'>,
): Promise<{ shown: PreparedRun; dyno: DynoRun | null }> {
  const dyno = dynoRun(await dynoChannels(run), run.doc, request.correction);
  if (isFailure(dyno)) return { shown: { ...EMPTY, id: run.id, failure: dyno }, dyno: null };
  const { correction, factor, swept, samples, block, inletAirStart_K, inletAirPeak_K } = dyno;
  const more = { correction, factor, swept, samples, block, inletAirStart_K, inletAirPeak_K };
  return { shown: { ...overlay(dyno, request.fwhm_rpm), id: run.id, failure: null, ...more }, dyno };
}

const optionsOf = ({ fwhm_rpm, plan, bands_rpm, range_rpm, history }: CompareRequest): SideOptions => ({
  fwhm_rpm,
  ...plan,
  bands_rpm,
  range_rpm,
  history,
  lookAt: (study) => lookOf(plan, study),
});

/** The deciding difference with every correction undone, %; null where the weather of a run is not known. */
async function uncorrected(
  request: CompareRequest,
  a: readonly ReadyRun[],
  b: readonly ReadyRun[],
  orders: ReadonlyMap<string, number>,
): Promise<number | null> {
  const raw = async (list: readonly ReadyRun[]): Promise<ReturnType<typeof sideRun>[] | null> => {
    const out = [];
    for (const r of list) {
      const run = dynoRun(await dynoChannels(r.stored), r.stored.doc, 'none');
      if (isFailure(run) || run.correction !== 'none') return null;
      out.push(sideRun({ stored: r.stored, run }, orders.get(r.stored.id)!));
    }
    return out;
  };
  const [ra, rb] = [await raw(a), await raw(b)];
  const compared = ra && rb ? compareSides(ra, rb, optionsOf(request)) : null;
  return compared && !isFailure(compared) ? compared.deciding.mean_pct : null;
}

const isStock = (run: StoredRun): boolean => run.doc.side?.kind === 'stock';
const isOther = (run: StoredRun, unitId: string | null): boolean => run.doc.side?.kind === 'unit' && run.doc.side.unitId === unitId;

async function compare(request: CompareRequest): Promise<CompareReply> {
  const prepared: PreparedRun[] = [];
  const ready: ReadyRun[] = [];
  const inTurn = inOrder(request.runs);
  const sided = inTurn.runs.filter((r) => isStock(r) || isOther(r, request.unitId));
  const oneKind = runsOfOneKind(sided, request.correction);
  const brought = new Map(oneKind.runs.map((r) => [r.id, r]));
  for (const stored of inTurn.runs) {
    const run = brought.get(stored.id) ?? stored;
    const { shown, dyno } = await prepare(run, request);
    prepared.push(shown);
    if (dyno) ready.push({ stored: run, run: dyno });
  }
  const counts = (r: ReadyRun): boolean => r.stored.doc.leftOut === null;
  const a = ready.filter((r) => isStock(r.stored) && counts(r));
  const b = ready.filter((r) => isOther(r.stored, request.unitId) && counts(r));
  const asCompared = (r: ReadyRun): ComparedRun => ({ id: r.stored.id, doc: r.stored.doc, run: r.run });
  const held = heldThings(request.plan.holds, [...a, ...b].map(asCompared));
  const nothing = { prepared, extras: [], confounders: [], held, order: inTurn.basis };
  if (a.length === 0 || b.length === 0) return { ...nothing, comparison: null, compared: [] };
  const orders = new Map(ready.map((r, i) => [r.stored.id, i]));
  const sides = (list: readonly ReadyRun[]) => list.map((r) => sideRun(r, orders.get(r.stored.id)!));
  const leftOut = ready
    .filter((r) => !counts(r) && (isStock(r.stored) || isOther(r.stored, request.unitId)))
    .map((r) => ({ side: isStock(r.stored) ? ('A' as const) : ('B' as const), run: sideRun(r, orders.get(r.stored.id)!) }));
  const options: SideOptions = { ...optionsOf(request), orderKnown: !inTurn.guessed, costs: costsOf(request.plan), leftOut };
  const comparison = compareSides(sides(a), sides(b), options);
  const compared = [...a, ...b].map((r) => r.stored.id);
  if (isFailure(comparison)) return { ...nothing, comparison, compared };
  const uncorrected_pct = request.wastegated && request.correction !== 'none' ? await uncorrected(request, a, b, orders) : null;
  return {
    prepared,
    comparison,
    held,
    extras: compareExtras(a, b, comparison),
    confounders: confounders(a.map(asCompared), b.map(asCompared), {
      plan: request.plan,
      gearbox: request.gearbox,
      comparison,
      uncorrected_pct,
      orderGuessed: inTurn.guessed,
      oneKind,
    }),
    compared,
    order: inTurn.basis,
  };
}

/** One run as a changed record would make it: so that a mapping shows its effect before it is saved. */
async function preview(run: StoredRun, request: Pick<CompareRequest, 'correction' | 'fwhm_rpm'>): Promise<PreparedRun> {
  return (await prepare(run, request)).shown;
}

export const api = { compare, preview };
export type CompareApi = typeof api;
expose(api);
