import type { StoredUnit } from '../documents/unit';
import { solveCandidate, solveReference, isBoosted, type EngineProblem, type EngineReference, type SideResult } from '../engine/induction';
import { coolerFigures } from '../engine/charge';
import { isFailure, type Failure } from '../failure';
import { compilePath, pathOfRows, type CompiledPath } from '../flow/compile';
import { chokingPart, chokingRow, compiledCapacity, drawnDown, endPressure, ladderOf, type Ladder } from '../flow/ladder';
import type { Path } from '../flow/path';
import { knotCurve } from '../numbers/curve';
import { fallingRoot, fallingRootNear } from '../numbers/root';
import { SIZING_LIMITS, type SizingUse } from '../sizing/own-loss';
import { calibrated } from './calibrate';
import type { OpeningChoice } from '../documents/openings';
import { jobIntake, stockFitted, unitFitted, type Fitted, type SizedJob } from './path';
import { jobProblem, type BoostChange } from './problem';

/** Most points over the rpm range at which the screens solve. */
const MODEL_POINTS = 60;
/** The points fall on multiples of this, so that the rpm people read are round. */
const ROUND_rpm = 25;

/** Air at the start of the path the throttle is in: ambient, or what a compressor and its cooler hand on. */
export interface PathStart {
  readonly p0_Pa: number;
  readonly T0_K: number;
}

/** One thing that can be on the car, with what the model says of it. */
export interface ModelSide {
  readonly id: string;
  readonly name: string;
  readonly fitted: Fitted;
  readonly path: Path;
  readonly compiled: CompiledPath;
  readonly solved: SideResult | Failure;
  /** Largest flow, kg/s, at which the throttle and its opening lose no more than allowed, at each rpm; null: it passes nothing. */
  readonly passes_kgps: readonly number[] | null;
  /** Engine speed from which the engine needs more than that; null: never within the range. */
  readonly givesOut_rpm: number | null;
}

export interface CandidateSide extends ModelSide {
  readonly opening: OpeningChoice;
  /** Power against stock at each rpm, %; null where either chokes. */
  readonly gain_pct: readonly number[] | null;
}

export interface JobModel {
  readonly rpm: readonly number[];
  readonly allowedLoss_Pa: number;
  readonly problem: EngineProblem;
  readonly reference: EngineReference;
  readonly demand_kgps: readonly number[];
  /** What lies ahead of a compressor that stands before the throttle. */
  readonly before: { readonly path: Path; readonly compiled: CompiledPath } | null;
  /** Parts of the job ahead of the throttle's own path (the compressor included). */
  readonly offset: number;
  readonly stock: ModelSide;
  readonly candidates: readonly CandidateSide[];
}

/** Which set of usual limits holds for a job. Airflow basis §9. */
export function sizingUse(doc: SizedJob): SizingUse {
  switch (doc.car.induction.kind) {
    case 'drawThrough':
      return 'draw-through';
    case 'centrifugal':
    case 'turbo':
      return 'blow-through';
    default:
      return doc.car.use === 'race' ? 'na-race' : 'na-street';
  }
}

/** Loss the throttle may cost, Pa: the job's own figure, else the usual one for the use. Airflow basis §9.1. */
export function allowedLoss(doc: SizedJob): number {
  return doc.air.allowedLoss_Pa ?? SIZING_LIMITS[sizingUse(doc)].limit_Pa;
}

/** Engine speeds from the lowest to the redline in round steps, both ends included, rpm. */
export function modelRpm(doc: SizedJob, points = MODEL_POINTS): number[] {
  const { lowest_rpm, redline_rpm } = doc.car.engine;
  const step = Math.ceil((redline_rpm - lowest_rpm) / (points - 2) / ROUND_rpm) * ROUND_rpm;
  const out = [lowest_rpm];
  for (let n = Math.floor(lowest_rpm / step + 1) * step; n < redline_rpm; n += step) out.push(n);
  return [...out, redline_rpm];
}

/** First and last ladder row that are the throttle's own: from it to the far side of its opening. */
export function throttleRows(compiled: CompiledPath): { first: number; last: number; exit: boolean } {
  const first = compiled.rows.findIndex((r) => !r.junction && r.what === 'throttle');
  const openingPart = compiled.rows[first]!.part + 1;
  let last = first;
  compiled.rows.forEach((r, i) => {
    if (r.part === openingPart) last = i;
  });
  return { first, last, exit: last === compiled.rows.length - 1 };
}

/**
 * What the throttle and the opening it bolts to cost in a ladder, Pa: its own loss, the step into the opening, and the
 * head lost where the opening ends in the plenum. Airflow basis §9.1 (K·q plus its exit or junction loss).
 */
export function throttleLoss(compiled: CompiledPath, ladder: Ladder): number {
  const { first, last, exit } = throttleRows(compiled);
  let sum = exit ? ladder.exit_Pa : 0;
  for (let i = first; i <= last; i += 1) sum += ladder.dp_Pa[i]!;
  return sum;
}

/**
 * Finder of the largest flow, kg/s, at which throttle and manifold bore lose no more than `limit_Pa` in their own path from a
 * given start; null when blocked. The loss is the fall from the path cut before the throttle to the path cut after its
 * opening: two walks, no arrays, because this runs at every keystroke.
 */
function lossFinder(compiled: CompiledPath, limit_Pa: number): (start: PathStart, guess_kgps: number) => number | null {
  const { first, last, exit } = throttleRows(compiled);
  const before = pathOfRows(compiled.rows.slice(0, first), 0, 1);
  const after = pathOfRows(
    compiled.rows.slice(0, last + 1),
    exit ? compiled.exitArea_m2 : 0,
    compiled.exitPulsation,
    compiled.exitEventShare,
  );
  return ({ p0_Pa, T0_K }, guess) => {
    const spare = (m: number): number => (limit_Pa - (endPressure(before, m, p0_Pa, T0_K) - endPressure(after, m, p0_Pa, T0_K))) / limit_Pa;
    return fallingRootNear(spare, guess, guess * 1e-6, guess * 1e3, 0.3, 1e-9)?.x ?? null;
  };
}

/** Where the throttle's path starts for a solved side at one of the model's rpm. */
export function pathStart(problem: EngineProblem, flowBase_kgps: number, solved: SideResult, index: number): PathStart {
  if (problem.kind === 'na' || problem.kind === 'drawThrough' || !isBoosted(solved)) {
    return { p0_Pa: problem.input.ambient.p_Pa, T0_K: problem.input.inletT_K ?? problem.input.ambient.T_K };
  }
  const loss = coolerFigures(problem.input.cooler).loss_Pa * (solved.massFlow_kgps[index]! / flowBase_kgps) ** 2;
  return { p0_Pa: solved.compressorOut_Pa[index]! - loss, T0_K: solved.manifold_K[index]! };
}

/** One rpm in this many at which a changing start is looked at; the flow passed is smooth between them. */
const START_STRIDE = 6;

/** The flow a side passes at the allowed loss, at each rpm. */
function passesOver(
  compiled: CompiledPath,
  limit_Pa: number,
  rpm: readonly number[],
  startAt: (index: number) => PathStart,
  changing: boolean,
  guess_kgps: number,
): number[] | null {
  const find = lossFinder(compiled, limit_Pa);
  if (!changing) {
    const passes = find(startAt(0), guess_kgps);
    return passes === null ? null : rpm.map(() => passes);
  }
  const at = rpm.map((_, i) => i).filter((i) => i % START_STRIDE === 0 || i === rpm.length - 1);
  const found = at.map((i) => find(startAt(i), guess_kgps));
  if (found.includes(null)) return null;
  const curve = knotCurve({ rpm: at.map((i) => rpm[i]!), value: found as number[] });
  return isFailure(curve) ? null : rpm.map(curve);
}

/** First engine speed at which demand passes what is passed, rpm; null when it never does. */
function firstAbove(rpm: readonly number[], demand_kgps: readonly number[], passes_kgps: readonly number[]): number | null {
  const at = rpm.findIndex((_, i) => demand_kgps[i]! > passes_kgps[i]!);
  if (at <= 0) return at < 0 ? null : rpm[0]!;
  const spare = knotCurve({ rpm, value: rpm.map((_, i) => passes_kgps[i]! - demand_kgps[i]!) });
  return isFailure(spare) ? rpm[at]! : fallingRoot(spare, rpm[at - 1]!, rpm[at]!, 1e-9).x;
}

export interface UnitOnShow {
  readonly unit: StoredUnit;
  readonly opening: OpeningChoice;
}

/**
 * Everything the Air and Pick screens show of a job: demand, the stock unit and some others, each with the flow it
 * passes at the allowed loss, the rpm at which that stops being enough, and its solved engine. `change` solves it with
 * another boost, the engine's own efficiency held. SI; arrays follow `rpm`.
 */
export function jobModel(
  doc: SizedJob,
  units: readonly UnitOnShow[],
  rpm: readonly number[] = modelRpm(doc),
  change: BoostChange = {},
): JobModel | Failure {
  const asked = jobProblem(doc.car, rpm, change);
  if (isFailure(asked)) return asked;
  const fitted = stockFitted(doc);
  const intake = jobIntake(doc, fitted);
  const compiledBefore = intake.before ? compilePath(intake.before, 'compressor') : null;
  if (isFailure(compiledBefore)) return { ...compiledBefore, side: 'reference' };
  const stockPath = compilePath(intake.path);
  if (isFailure(stockPath)) return { ...stockPath, side: 'reference' };
  const problem = calibrated(doc.car, asked, { before: compiledBefore, path: stockPath });
  if (isFailure(problem)) return problem;
  const reference = solveReference(problem, { before: compiledBefore, path: stockPath });
  if (isFailure(reference)) return reference;
  const demand = reference.result.massFlow_kgps;
  const limit_Pa = allowedLoss(doc);
  const guess = demand.reduce((a, b) => Math.max(a, b), 0);
  const changing = problem.kind === 'centrifugal' || problem.kind === 'turbo';
  const sideOf = (
    base: { id: string; name: string; fitted: Fitted },
    path: Path,
    compiled: CompiledPath,
    solved: SideResult | Failure,
  ): ModelSide => {
    const state = isFailure(solved) ? reference.result : solved;
    const startAt = (i: number): PathStart => pathStart(problem, reference.flowBase_kgps, state, i);
    const passes_kgps = passesOver(compiled, limit_Pa, rpm, startAt, changing, guess);
    const givesOut_rpm = passes_kgps === null ? null : firstAbove(rpm, demand, passes_kgps);
    return { ...base, path, compiled, solved, passes_kgps, givesOut_rpm };
  };
  const stock = sideOf({ id: 'stock', name: 'stock', fitted }, intake.path, stockPath, reference.result);
  const candidates: CandidateSide[] = [];
  for (const { unit, opening } of units) {
    const other = unitFitted(doc, unit.doc, opening);
    const { path } = jobIntake(doc, other);
    const compiled = compilePath(path);
    if (isFailure(compiled)) return { ...compiled, side: 'candidate', where: unit.doc.name };
    const solved = solveCandidate(reference, compiled);
    const side = sideOf({ id: unit.id, name: unit.doc.name, fitted: other }, path, compiled, solved);
    candidates.push({ ...side, opening, gain_pct: gainPct(reference.result, solved) });
  }
  const before = intake.before && compiledBefore ? { path: intake.before, compiled: compiledBefore } : null;
  return { rpm, allowedLoss_Pa: limit_Pa, problem, reference, demand_kgps: demand, before, offset: intake.offset, stock, candidates };
}

/** More units on an already solved model: what they pass is left out, their power is all that is asked. */
export function candidateSides(doc: SizedJob, model: JobModel, units: readonly UnitOnShow[]): CandidateSide[] {
  return units.flatMap(({ unit, opening }): CandidateSide[] => {
    const fitted = unitFitted(doc, unit.doc, opening);
    const { path } = jobIntake(doc, fitted);
    const compiled = compilePath(path);
    if (isFailure(compiled)) return [];
    const solved = solveCandidate(model.reference, compiled);
    const gain_pct = gainPct(model.reference.result, solved);
    return [{ id: unit.id, name: unit.doc.name, fitted, path, compiled, solved, passes_kgps: null, givesOut_rpm: null, opening, gain_pct }];
  });
}

function gainPct(reference: SideResult, solved: SideResult | Failure): number[] | null {
  if (isFailure(solved)) return null;
  return solved.power_W.map((p, i) => 100 * (p / reference.power_W[i]! - 1));
}

/** Flow of a side at one engine speed, kg/s: its own, or where it chokes what the engine needs. */
export const sideFlow = (model: JobModel, side: ModelSide, index: number): number =>
  isFailure(side.solved) ? model.demand_kgps[index]! : side.solved.massFlow_kgps[index]!;

/** Start of a side's throttle path at one engine speed. */
export function sideStart(model: JobModel, side: ModelSide, index: number): PathStart {
  return pathStart(model.problem, model.reference.flowBase_kgps, isFailure(side.solved) ? model.reference.result : side.solved, index);
}

/** Pressure that the engine or its blower leaves at the end of a side's path, Pa; where the path chokes it lies below the ladder's. */
function pathEnd(model: JobModel, side: ModelSide, index: number): number {
  const { solved } = side;
  if (isFailure(solved)) return Infinity;
  return model.problem.kind === 'drawThrough' && isBoosted(solved) ? solved.inlet_Pa[index]! : solved.plenum_Pa[index]!;
}

/**
 * Ladder of the path a side's throttle is in, at one engine speed and that side's own flow. Where the path chokes, what the
 * engine draws the plenum down to beyond that is lost behind the part that chokes.
 */
export function sideLadder(model: JobModel, side: ModelSide, index: number): Ladder | Failure {
  const { p0_Pa, T0_K } = sideStart(model, side, index);
  const ladder = ladderOf(side.compiled, sideFlow(model, side, index), p0_Pa, T0_K);
  if (isFailure(ladder) || !chokesAt(model, side, index)) return ladder;
  return drawnDown(ladder, chokingRow(side.compiled, sideFlow(model, side, index), p0_Pa, T0_K), pathEnd(model, side, index));
}

/** Whether a side is held by a path that chokes at one of the model's engine speeds. */
export function chokesAt(model: JobModel, side: ModelSide, index: number): boolean {
  return !isFailure(side.solved) && (side.solved.choked_rpm ?? []).includes(model.rpm[index]!);
}

/** Where a side chokes: from which engine speed, and what part; null: nowhere. */
export interface Choking {
  readonly from_rpm: number;
  /** Name of the part. */
  readonly part: string;
}

export function chokingOf(model: JobModel, side: ModelSide): Choking | null {
  const from_rpm = isFailure(side.solved) ? null : (side.solved.chokedFrom_rpm ?? null);
  if (from_rpm === null) return null;
  const index = model.rpm.indexOf(from_rpm);
  const { ambient, inletT_K } = model.problem.input;
  const T0_K = inletT_K ?? ambient.T_K;
  const flow = sideFlow(model, side, index);
  if (model.before && compiledCapacity(model.before.compiled, ambient.p_Pa, T0_K) <= flow * (1 + 1e-9))
    return { from_rpm, part: chokingPart(model.before.compiled, flow, ambient.p_Pa, T0_K) ?? 'inlet' };
  const start = sideStart(model, side, index);
  return { from_rpm, part: chokingPart(side.compiled, flow, start.p0_Pa, start.T0_K) ?? 'throttle' };
}

/** Ladder of what lies before the compressor, where there is one ahead of the throttle. */
export function beforeLadder(model: JobModel, side: ModelSide, index: number): Ladder | Failure | null {
  if (!model.before) return null;
  const { ambient, inletT_K } = model.problem.input;
  return ladderOf(model.before.compiled, sideFlow(model, side, index), ambient.p_Pa, inletT_K ?? ambient.T_K);
}
