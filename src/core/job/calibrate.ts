import type { CarDoc } from '../documents/job';
import { solveReference, type EngineProblem, type CompiledIntake } from '../engine/induction';
import { MANIFOLD_VE } from '../engine/charge';
import type { DrawThroughEngine } from '../engine/draw-through';
import { driveRatio } from '../engine/pulley';
import { isFailure, type Failure } from '../failure';
import { knotCurve } from '../numbers/curve';

/** Ratios this close are the same pulleys. */
const SAME_RATIO = 1e-4;

/**
 * The problem with what a measured boost teaches. One that was measured with other pulleys, or at one engine speed only, is no
 * boost of the engine as it stands: the efficiency that reproduces it then is worked out with the pulleys of then, and held.
 * Everything else is returned unchanged. Airflow basis §8.
 */
export function calibrated(car: CarDoc, problem: EngineProblem, intake: CompiledIntake): EngineProblem | Failure {
  const { boost } = car.measured;
  if (problem.kind !== 'drawThrough' || car.induction.kind !== 'drawThrough' || car.from.efficiency !== 'boost' || !boost) return problem;
  const { input } = problem;
  const then = boost.driveRatio ?? driveRatio(car.induction.blower);
  const single = boost.rpm.length === 1;
  if (!single && Math.abs(then / input.blower.ratio - 1) <= SAME_RATIO) return problem;
  const rpm = single ? boost.rpm : input.rpm;
  const pressures = knotCurve(boost);
  const table = knotCurve(input.manifoldVe ?? MANIFOLD_VE);
  if (isFailure(pressures)) return { ...pressures, where: 'boost_Pa' };
  if (isFailure(table)) return { ...table, where: 've' };
  const taught = solveReference(
    {
      kind: 'drawThrough',
      input: {
        ...input,
        rpm,
        blower: { ...input.blower, ratio: then },
        boost_Pa: rpm.map(pressures),
        // Only its air is asked for here: a power told at each of the other engine speeds does not belong to these.
        power: car.power,
      },
    },
    intake,
  );
  if (isFailure(taught)) return taught;
  const eta = taught.result.etaManifold;
  const { boost_Pa: _measured, ...rest } = input;
  if (!single) return { kind: 'drawThrough', input: { ...rest, manifoldVe: { rpm: [...rpm], value: eta } } };
  const scaled = (by: number): DrawThroughEngine => ({
    ...rest,
    manifoldVe: { rpm: [...input.rpm], value: input.rpm.map((n) => table(n) * by) },
  });
  const read = { rpm: boost.rpm[0]!, boost_Pa: boost.value[0]!, ratio: then };
  return { kind: 'drawThrough', input: scaled(factorFor(scaled, read, eta[0]! / table(read.rpm), intake)) };
}

/** Steps of the search for the factor, and how close the boost has to come, Pa. */
const FACTOR_STEPS = 8;
const CLOSE_Pa = 0.1;
/** Second guess of the search, against the first. */
const SECOND_GUESS = 1.002;

/**
 * What the table of efficiency is multiplied by for the whole engine to make the boost that was read at one speed: the cooler's
 * loss goes with the flow against the largest, so one speed alone does not tell it exactly.
 */
function factorFor(
  scaled: (by: number) => DrawThroughEngine,
  read: { readonly rpm: number; readonly boost_Pa: number; readonly ratio: number },
  start: number,
  intake: CompiledIntake,
): number {
  const short = (by: number): number => {
    const engine = scaled(by);
    const rpm = [...engine.rpm, read.rpm];
    const power = 'value_W' in engine.power ? { value_W: [...engine.power.value_W, 0] } : engine.power;
    const input = { ...engine, rpm, power, blower: { ...engine.blower, ratio: read.ratio } };
    const solved = solveReference({ kind: 'drawThrough', input }, intake);
    return isFailure(solved) || solved.kind !== 'drawThrough' ? NaN : solved.result.boost_Pa.at(-1)! - read.boost_Pa;
  };
  let a = start;
  let fa = short(a);
  let b = start * SECOND_GUESS;
  for (let i = 0; i < FACTOR_STEPS && Math.abs(fa) > CLOSE_Pa; i += 1) {
    const fb = short(b);
    const next = b - (fb * (b - a)) / (fb - fa);
    if (!(next > 0) || !Number.isFinite(next)) return a;
    [a, fa, b] = [b, fb, next];
  }
  return a;
}
