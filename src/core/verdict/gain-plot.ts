import type { SheetCurve } from './customer-sheet';

export interface Plot {
  readonly x: (rpm: number) => number;
  readonly y: (pct: number) => number;
  readonly rpmTicks: readonly number[];
  readonly pctTicks: readonly number[];
  readonly measured: readonly (readonly [number, number])[];
  readonly predicted: readonly (readonly [number, number])[];
  /** The band as one closed outline. */
  readonly band: readonly (readonly [number, number])[];
}

export interface PlotBox {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

function stepOf(span: number, about: number): number {
  const raw = span / about;
  const size = 10 ** Math.floor(Math.log10(raw));
  return [1, 2, 5, 10].map((m) => m * size).find((s) => s >= raw)!;
}

const ticks = (low: number, high: number, about: number): number[] => {
  const step = stepOf(high - low, about);
  const first = Math.ceil(low / step - 1e-9);
  return Array.from({ length: Math.floor(high / step + 1e-9) - first + 1 }, (_, i) => (first + i) * step);
};

/** Where everything of the difference curve lies in a box; screen and paper draw it with their own pens. */
export function gainPlot(curve: SheetCurve, box: PlotBox): Plot {
  const [from, to] = [curve.rpm[0]!, curve.rpm.at(-1)!];
  const all = [...curve.measured_pct, ...curve.low_pct, ...curve.high_pct, ...(curve.predicted?.gain_pct ?? [])];
  const reach = 1.05 * all.reduce((m, v) => Math.max(m, Math.abs(v)), 0.5);
  const x = (rpm: number): number => box.left + ((rpm - from) / (to - from)) * box.width;
  const y = (pct: number): number => box.top + ((reach - pct) / (2 * reach)) * box.height;
  const upper = curve.rpm.map((n, i) => [x(n), y(curve.high_pct[i]!)] as const);
  const lower = curve.rpm.map((n, i) => [x(n), y(curve.low_pct[i]!)] as const);
  return {
    x,
    y,
    rpmTicks: ticks(from, to, 6),
    pctTicks: ticks(-reach, reach, 5),
    measured: curve.rpm.map((n, i) => [x(n), y(curve.measured_pct[i]!)] as const),
    predicted: (curve.predicted?.rpm ?? []).map((n, i) => [x(n), y(curve.predicted!.gain_pct[i]!)] as const),
    band: [...upper, ...lower.toReversed()],
  };
}
