import { failure, type Failure } from '../failure';

export const GRID_STEP_rpm = 25;

export interface GriddedCurve {
  readonly rpm: number[];
  readonly value: number[];
}

/** Samples sorted by engine speed, those at equal speed averaged. */
function sortedByRpm(rpm: ArrayLike<number>, value: ArrayLike<number>): { rpm: number[]; value: number[] } {
  const order = Array.from({ length: rpm.length }, (_, i) => i).sort((a, b) => rpm[a]! - rpm[b]!);
  const x: number[] = [];
  const y: number[] = [];
  let count = 0;
  for (const i of order) {
    if (x.length > 0 && x.at(-1) === rpm[i]) {
      count += 1;
      y[y.length - 1]! += (value[i]! - y.at(-1)!) / count;
    } else {
      x.push(rpm[i]!);
      y.push(value[i]!);
      count = 1;
    }
  }
  return { rpm: x, value: y };
}

/**
 * A run on multiples of the step within its own ends, linear between samples. `no_common_range` where no multiple of the
 * step lies inside the run. Testing basis §1.
 */
export function gridRun(rpm: ArrayLike<number>, value: ArrayLike<number>, step_rpm = GRID_STEP_rpm): GriddedCurve | Failure {
  const { rpm: x, value: y } = sortedByRpm(rpm, value);
  if (x.length === 0 || !(step_rpm > 0)) return failure('no_common_range');
  const first = Math.ceil(x[0]! / step_rpm);
  const last = Math.floor(x.at(-1)! / step_rpm);
  if (last < first) return failure('no_common_range');
  const out: GriddedCurve = { rpm: [], value: [] };
  let i = 0;
  for (let k = first; k <= last; k += 1) {
    const at = k * step_rpm;
    while (i < x.length - 2 && x[i + 1]! < at) i += 1;
    const x1 = x[i + 1];
    out.rpm.push(at);
    out.value.push(x1 === undefined ? y[i]! : y[i]! + ((at - x[i]!) / (x1 - x[i]!)) * (y[i + 1]! - y[i]!));
  }
  return out;
}
