import { airState } from '../air/state';
import type { StoredUnit } from '../documents/unit';
import { sweptRate } from '../engine/demand';
import { solveNaCandidate, solveNaReference, type NaEngine, type NaReference, type NaResult } from '../engine/na';
import { isFailure, type Failure } from '../failure';
import { compilePath, type CompiledPath } from '../flow/compile';
import { endPressure, ladderOf, type Ladder } from '../flow/ladder';
import type { Path } from '../flow/path';
import { knotCurve } from '../numbers/curve';
import { fallingRoot, fallingRootNear } from '../numbers/root';
import { SIZING_LIMITS } from '../sizing/own-loss';
import { jobPath, stockFitted, unitFitted, type Fitted, type OpeningChoice, type SizedJob } from './path';

/** Most points over the rpm range at which the screens solve. */
export const MODEL_POINTS = 60;
/** The points fall on multiples of this, so that the rpm people read are round. */
const ROUND_rpm = 25;

/** One thing that can be on the car, with what the model says of it. */
export interface ModelSide {
  readonly id: string;
  readonly name: string;
  readonly fitted: Fitted;
  readonly path: Path;
  readonly compiled: CompiledPath;
  readonly solved: NaResult | Failure;
  /** Largest flow, kg/s, at which the throttle and its opening lose no more than allowed; null where it cannot be said. */
  readonly passes_kgps: number | null;
  /** Engine speed from which the engine asks for more than that; null: never within the range. */
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
  readonly engine: NaEngine;
  readonly reference: NaReference;
  readonly demand_kgps: readonly number[];
  readonly stock: ModelSide;
  readonly candidates: readonly CandidateSide[];
}

/** Loss the throttle may cost, Pa: the job's own figure, else the usual one for the use. Airflow basis §9.1. */
export function allowedLoss(doc: SizedJob): number {
  return doc.air.allowedLoss_Pa ?? SIZING_LIMITS[doc.car.use === 'race' ? 'na-race' : 'na-street'].limit_Pa;
}

/** Engine speeds from the lowest to the redline in round steps, both ends included, rpm. */
export function modelRpm(doc: SizedJob, points = MODEL_POINTS): number[] {
  const { lowest_rpm, redline_rpm } = doc.car.engine;
  const step = Math.ceil((redline_rpm - lowest_rpm) / (points - 2) / ROUND_rpm) * ROUND_rpm;
  const out = [lowest_rpm];
  for (let n = Math.floor(lowest_rpm / step + 1) * step; n < redline_rpm; n += step) out.push(n);
  return [...out, redline_rpm];
}

export function jobEngine(doc: SizedJob, rpm: readonly number[]): NaEngine {
  const { engine, induction, ve, power, weather } = doc.car;
  return {
    ambient: weather,
    engine: { displacement_m3: engine.displacement_m3, compressionRatio: engine.compressionRatio },
    rpm,
    ve,
    heating_K: induction.heating_K,
    exhaust_Pa: induction.exhaust_Pa,
    power,
  };
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
 * Largest flow, kg/s, at which throttle and opening lose no more than `limit_Pa` in their own path; null when blocked.
 * The loss is the fall from the path cut before the throttle to the path cut after its opening: two walks, no arrays,
 * because this runs at every keystroke.
 */
export function flowAtLoss(compiled: CompiledPath, p0_Pa: number, T0_K: number, limit_Pa: number, guess_kgps: number): number | null {
  const { first, last, exit } = throttleRows(compiled);
  const before: CompiledPath = { ...compiled, rows: compiled.rows.slice(0, first), exitArea_m2: 0 };
  const after: CompiledPath = { ...compiled, rows: compiled.rows.slice(0, last + 1), exitArea_m2: exit ? compiled.exitArea_m2 : 0 };
  const spare = (m: number): number => (limit_Pa - (endPressure(before, m, p0_Pa, T0_K) - endPressure(after, m, p0_Pa, T0_K))) / limit_Pa;
  return fallingRootNear(spare, guess_kgps, guess_kgps * 1e-6, guess_kgps * 1e3, 0.3)?.x ?? null;
}

/** First engine speed at which demand passes `passes_kgps`, rpm; null when it never does. */
function firstAbove(rpm: readonly number[], demandAt: (rpm: number) => number, passes_kgps: number): number | null {
  for (let i = 0; i < rpm.length; i += 1) {
    if (demandAt(rpm[i]!) <= passes_kgps) continue;
    if (i === 0) return rpm[0]!;
    return fallingRoot((n) => passes_kgps - demandAt(n), rpm[i - 1]!, rpm[i]!, 1e-9).x;
  }
  return null;
}

function modelSide(
  base: { id: string; name: string; fitted: Fitted },
  doc: SizedJob,
  solve: (path: Path) => NaResult | Failure,
  ask: { rpm: readonly number[]; demandAt: (rpm: number) => number; limit_Pa: number; guess_kgps: number },
): ModelSide | Failure {
  const path = jobPath(doc, base.fitted);
  const compiled = compilePath(path);
  if (isFailure(compiled)) return compiled;
  const passes_kgps = flowAtLoss(compiled, doc.car.weather.p_Pa, doc.car.weather.T_K, ask.limit_Pa, ask.guess_kgps);
  const givesOut_rpm = passes_kgps === null ? null : firstAbove(ask.rpm, ask.demandAt, passes_kgps);
  return { ...base, path, compiled, solved: solve(path), passes_kgps, givesOut_rpm };
}

/**
 * Everything the Air and Pick screens show of a job: demand, the stock unit and up to a few others, each with the flow
 * it passes at the allowed loss, the rpm at which that stops being enough, and its solved engine. SI; arrays follow `rpm`.
 */
export function jobModel(
  doc: SizedJob,
  units: readonly { readonly unit: StoredUnit; readonly opening: OpeningChoice }[],
  rpm: readonly number[] = modelRpm(doc),
): JobModel | Failure {
  const air = airState(doc.car.weather);
  if (isFailure(air)) return air;
  const ve = knotCurve(doc.car.ve);
  if (isFailure(ve)) return { ...ve, where: 've' };
  const engine = jobEngine(doc, rpm);
  const fitted = stockFitted(doc);
  const reference = solveNaReference(engine, jobPath(doc, fitted));
  if (isFailure(reference)) return reference;
  const demandAt = (n: number): number => ve(n) * sweptRate(engine.engine.displacement_m3, n) * air.density_kgpm3;
  const ask = { rpm, demandAt, limit_Pa: allowedLoss(doc), guess_kgps: Math.max(...reference.result.massFlow_kgps) };
  const stock = modelSide({ id: 'stock', name: 'stock', fitted }, doc, () => reference.result, ask);
  if (isFailure(stock)) return stock;
  const candidates: CandidateSide[] = [];
  for (const { unit, opening } of units) {
    const base = { id: unit.id, name: unit.doc.name, fitted: unitFitted(doc, unit.doc, opening) };
    const side = modelSide(base, doc, (path) => solveNaCandidate(reference, path), ask);
    if (isFailure(side)) return { ...side, side: 'candidate', where: unit.doc.name };
    candidates.push({ ...side, opening, gain_pct: gainPct(reference.result, side.solved) });
  }
  return { rpm, allowedLoss_Pa: ask.limit_Pa, engine, reference, demand_kgps: reference.result.massFlow_kgps, stock, candidates };
}

function gainPct(reference: NaResult, solved: NaResult | Failure): number[] | null {
  if (isFailure(solved)) return null;
  return solved.power_W.map((p, i) => 100 * (p / reference.power_W[i]! - 1));
}

/** Ladder of a side at one engine speed, at that side's own flow. */
export function sideLadder(model: JobModel, side: ModelSide, index: number): Ladder | Failure {
  const flow = isFailure(side.solved) ? model.demand_kgps[index]! : side.solved.massFlow_kgps[index]!;
  return ladderOf(side.compiled, flow, model.engine.ambient.p_Pa, model.engine.ambient.T_K);
}
