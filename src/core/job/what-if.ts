import { peakIndex, peakOf } from '../numbers/peak';
import { solveChanged, type SideResult } from '../engine/induction';
import { failure, isFailure, type Failure } from '../failure';
import { compilePath } from '../flow/compile';
import { ladderOf } from '../flow/ladder';
import { pathStart, throttleLoss, type JobModel, type ModelSide } from './model';
import { compressorLimits, type CompressorLimit } from './compressor-limits';
import type { SizedJob } from './path';
import { jobProblem, type BoostChange } from './problem';
import { idealPeakAt } from './knee';

/** What a side does at another boost. */
export interface WhatIfSide {
  readonly id: string;
  readonly name: string;
  readonly peak_W: number | null;
  /** Gain in peak power over stock at the same boost, %. */
  readonly gain_pct: number | null;
  /** What throttle and manifold bore lose at the changed peak, Pa. */
  readonly loss_Pa: number | null;
}

export interface WhatIf {
  readonly boostNow_Pa: number;
  readonly boostThen_Pa: number;
  readonly stockNow: { readonly peak_W: number; readonly loss_Pa: number | null };
  readonly sides: readonly WhatIfSide[];
  /** Peak power, %, that no throttle at all would bring, now and then. */
  readonly leftNow_pct: number | null;
  readonly leftThen_pct: number | null;
  /** What the blower or compressor runs into then. */
  readonly limits: readonly CompressorLimit[];
}

function lossAtPeak(model: JobModel, side: ModelSide, solved: SideResult): number | null {
  const at = peakIndex(solved.power_W);
  const { p0_Pa, T0_K } = pathStart(model.problem, model.reference.flowBase_kgps, solved, at);
  const ladder = ladderOf(side.compiled, solved.massFlow_kgps[at]!, p0_Pa, T0_K);
  return isFailure(ladder) ? null : throttleLoss(side.compiled, ladder);
}

/**
 * The same engine with more (or less) boost: stock and the throttles on show solved anew, the engine's own efficiency held.
 * A throttle that is no restriction now can become one. Null for an engine without a compressor; a Failure where the
 * changed engine cannot be.
 */
export function jobWhatIf(doc: SizedJob, model: JobModel, change: BoostChange): WhatIf | Failure | null {
  if (model.reference.kind === 'na') return null;
  const changed = jobProblem(doc.car, model.rpm, change);
  if (isFailure(changed)) return changed;
  const now = model.reference.result;
  const stock = solveChanged(model.reference, changed, model.stock.compiled);
  if (isFailure(stock)) return stock;
  // Spun so slowly that the engine draws past it at every speed, it is no blower any more.
  if (stock.without_rpm?.length === model.rpm.length)
    return failure(changed.kind === 'drawThrough' ? 'no_blower_solution' : 'no_boost', { side: 'reference' });
  const stockPeak = peakOf(stock.power_W);
  const sides = [model.stock, ...model.candidates].map((side): WhatIfSide => {
    const solved = side.id === 'stock' ? stock : solveChanged(model.reference, changed, side.compiled);
    if (isFailure(solved)) return { id: side.id, name: side.name, peak_W: null, gain_pct: null, loss_Pa: null };
    const peak_W = peakOf(solved.power_W);
    return { id: side.id, name: side.name, peak_W, gain_pct: 100 * (peak_W / stockPeak - 1), loss_Pa: lossAtPeak(model, side, solved) };
  });
  const boostAt = (r: SideResult): number => ('boost_Pa' in r ? peakOf(r.boost_Pa) : 0);
  const nowPeak = peakOf(now.power_W);
  const left = (ideal: number | null, peak: number): number | null => (ideal === null ? null : 100 * (ideal / peak - 1));
  const solveIdeal = (path: Parameters<typeof compilePath>[0]): number | null => {
    const compiled = compilePath(path);
    if (isFailure(compiled)) return null;
    const solved = solveChanged(model.reference, changed, compiled);
    return isFailure(solved) ? null : peakOf(solved.power_W);
  };
  return {
    boostNow_Pa: boostAt(now),
    boostThen_Pa: boostAt(stock),
    stockNow: { peak_W: nowPeak, loss_Pa: lossAtPeak(model, model.stock, now) },
    sides,
    leftNow_pct: left(idealPeakAt(doc, model, 'matched'), nowPeak),
    limits: compressorLimits(doc, model.rpm, stock, change.pulley_m),
    leftThen_pct: left(idealPeakAt(doc, model, 'matched', solveIdeal), stockPeak),
  };
}
