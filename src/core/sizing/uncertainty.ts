import { thirdOf } from '../numbers/thirds';
import { BLOWER_DEFAULTS, type DrawThroughEngine } from '../engine/draw-through';
import { solveCandidate, solveReference, type EngineProblem, type Solve, type SolveKind } from '../engine/induction';
import { QUICK_STEP } from '../engine/flow-root';
import { isFailure, type Failure } from '../failure';
import { benchLossCoefficient } from '../flow/bench';
import { compilePath, facingAreas, FIGURE, FIGURES, type CompiledPath } from '../flow/compile';
import type { Path } from '../flow/path';
import { sortedQuantile } from '../numbers/quantile';
import { seededRandom } from '../numbers/random';

/** How far each kind of input may be off, as a share; each is drawn evenly within ±. Airflow basis §9. */
export interface Tolerances {
  readonly ve: number;
  readonly K: number;
  readonly eta0: number;
  readonly bench: number;
  readonly fmep: number;
}
export const TOLERANCES: Tolerances = { ve: 0.04, K: 0.25, eta0: 0.02, bench: 0.03, fmep: 0.15 };
/** Draws of a whole run. */
export const UNCERTAINTY_DRAWS = 2000;

export interface GainRange {
  readonly peak_pct: { readonly p10: number; readonly p50: number; readonly p90: number };
  readonly thirds_pct: { readonly p10: number[]; readonly p90: number[] };
  /** Draws that could be solved; the others choked. */
  readonly solved: number;
}

/** A path whose rows are drawn: each by its name's factor, or by its bench figure's. */
interface DrawnPath {
  readonly path: CompiledPath;
  readonly rows: readonly {
    readonly name: number;
    /** The row's own factor before any draw (its pulsation). */
    readonly factor: number;
    readonly bench: ((factor: number) => number) | null;
    /** How far its bench figure may be off, where that is not what a reading may be. */
    readonly benchTolerance: number | null;
  }[];
}

/**
 * Makes a path whose rows can be drawn; `names` collects the names that share a factor. `apart`: its throttle's own
 * coefficient is drawn by itself.
 */
function drawnPath(path: Path, end: 'dump' | 'compressor', names: string[], apart: string | null = null): DrawnPath | Failure {
  const compiled = compilePath(path, end);
  if (isFailure(compiled)) return compiled;
  const rows = compiled.rows.map((row) => {
    const part = row.junction ? undefined : path.parts[row.part];
    const name = apart !== null && part?.type === 'throttle' ? `${row.what} ${apart}` : row.what;
    if (!names.includes(name)) names.push(name);
    const bench = part?.benchFlow_m3ps !== undefined && part.type !== 'filter' ? benchK(part, facingAreas(part)) : null;
    return { name: names.indexOf(name), factor: row.pulsation, bench, benchTolerance: part?.benchTolerance ?? null };
  });
  return { path: compiled, rows };
}

function benchK(
  part: Path['parts'][number],
  areas: { readonly net_m2: number; readonly gross_m2: number } | null,
): ((factor: number) => number) | null {
  if (areas === null) return null;
  return (factor) => {
    const loss = benchLossCoefficient({
      flow_m3ps: part.benchFlow_m3ps! * factor,
      depression_Pa: part.benchDepression_Pa!,
      entryK: part.benchEntryK!,
      netArea_m2: areas.net_m2,
      grossArea_m2: areas.gross_m2,
    });
    return isFailure(loss) ? NaN : loss.K;
  };
}

/** Sets a path's rows by the draws of their names, each within ±1 of its tolerance. */
function applyDraw(drawn: DrawnPath, K: Float64Array, bench: Float64Array, tolerance: Tolerances): void {
  const figures = drawn.path.figures;
  drawn.rows.forEach(({ name, factor, bench: toK, benchTolerance }, i) => {
    if (toK) figures[i * FIGURES + FIGURE.K] = toK(1 + (benchTolerance ?? tolerance.bench) * bench[name]!);
    else figures[i * FIGURES + FIGURE.factor] = factor * (1 + tolerance.K * K[name]!);
  });
}

export interface UncertaintyRun {
  /** Takes more draws; returns how many have been taken in all. */
  readonly draw: (count: number) => number;
  /** The 10–90 % range of each candidate's gain, from the draws so far. */
  readonly ranges: () => GainRange[];
}

class Gains {
  private readonly peak: number[] = [];
  private readonly thirds: [number[], number[], number[]] = [[], [], []];

  add(rpm: readonly number[], reference: readonly number[], candidate: readonly number[], stretch: number): void {
    let a = 0;
    let b = 0;
    const sums = [0, 0, 0, 0, 0, 0];
    for (let i = 0; i < rpm.length; i += 1) {
      if (reference[i]! > a) a = reference[i]!;
      if (candidate[i]! > b) b = candidate[i]!;
      const third = thirdOf(rpm[i]!, this.lowest(rpm), this.highest(rpm));
      sums[2 * third]! += reference[i]!;
      sums[2 * third + 1]! += candidate[i]!;
    }
    this.peak.push(stretch * 100 * (b / a - 1));
    this.thirds.forEach((list, k) => list.push(stretch * 100 * (sums[2 * k + 1]! / sums[2 * k]! - 1)));
  }

  private lo = NaN;
  private hi = NaN;
  private lowest(rpm: readonly number[]): number {
    if (Number.isNaN(this.lo)) this.lo = Math.min(...rpm);
    return this.lo;
  }
  private highest(rpm: readonly number[]): number {
    if (Number.isNaN(this.hi)) this.hi = Math.max(...rpm);
    return this.hi;
  }

  range(): GainRange {
    const peak = Float64Array.from(this.peak).sort();
    const thirds = this.thirds.map((list) => Float64Array.from(list).sort());
    return {
      peak_pct: { p10: sortedQuantile(peak, 0.1), p50: sortedQuantile(peak, 0.5), p90: sortedQuantile(peak, 0.9) },
      thirds_pct: { p10: thirds.map((t) => sortedQuantile(t, 0.1)), p90: thirds.map((t) => sortedQuantile(t, 0.9)) },
      solved: peak.length,
    };
  }
}

/** The problem's input with this draw's efficiency, slip and friction. */
function variedProblem(problem: EngineProblem, ve: number, eta0: number, fmep: number): EngineProblem {
  const varied = { veFactor: ve, frictionFactor: fmep, flowStep: QUICK_STEP };
  if (problem.kind !== 'drawThrough') return { ...problem, input: { ...problem.input, ...varied } } as EngineProblem;
  const blower = { ...problem.input.blower, eta0: (problem.input.blower.eta0 ?? BLOWER_DEFAULTS.eta0) * eta0 };
  return { kind: 'drawThrough', input: { ...problem.input, ...varied, blower } satisfies DrawThroughEngine };
}

/**
 * Monte Carlo over the inputs' tolerances, resumable so that a worker can report and be stopped. A draw multiplies the
 * whole efficiency curve, every part's and junction's loss by its name (the same in reference and candidates), a bench
 * part's flow instead of its loss, the blower's η₀, and FMEP. Seeded: the same seed gives the same ranges. Airflow basis §9.
 */
export function uncertaintyRun(input: {
  readonly problem: EngineProblem;
  readonly before?: Path | null | undefined;
  readonly reference: Path;
  readonly candidates: readonly Path[];
  readonly tolerances?: Partial<Tolerances> | undefined;
  readonly seed: number;
  /** For each candidate, whether its throttle's coefficient is drawn apart from stock's: unless one bench read both. */
  readonly apart?: readonly boolean[] | undefined;
  /** The model's own error, by which the gain itself is stretched, as a share (0). Airflow basis §9. */
  readonly modelError?: number | undefined;
}): UncertaintyRun | Failure {
  const tolerance = { ...TOLERANCES, ...input.tolerances };
  const names: string[] = [];
  const before = input.before ? drawnPath(input.before, 'compressor', names) : null;
  if (isFailure(before)) return before;
  const reference = drawnPath(input.reference, 'dump', names);
  if (isFailure(reference)) return { ...reference, side: 'reference' };
  const candidates: DrawnPath[] = [];
  for (const [i, path] of input.candidates.entries()) {
    const drawn = drawnPath(path, 'dump', names, input.apart?.[i] ? String(i + 1) : null);
    if (isFailure(drawn)) return { ...drawn, side: 'candidate' };
    candidates.push(drawn);
  }
  const random = seededRandom(input.seed);
  const within = (t: number): number => 1 + t * (2 * random() - 1);
  const K = new Float64Array(names.length);
  const bench = new Float64Array(names.length);
  const gains = candidates.map(() => new Gains());
  let taken = 0;
  const one = (): void => {
    const problem = variedProblem(input.problem, within(tolerance.ve), within(tolerance.eta0), within(tolerance.fmep));
    for (let i = 0; i < names.length; i += 1) {
      K[i] = within(1) - 1;
      bench[i] = within(1) - 1;
    }
    const stretch = input.modelError ? within(input.modelError) : 1;
    if (before) applyDraw(before, K, bench, tolerance);
    applyDraw(reference, K, bench, tolerance);
    const ref = solveReference(problem, { before: before?.path ?? null, path: reference.path });
    if (isFailure(ref)) return;
    candidates.forEach((drawn, i) => {
      applyDraw(drawn, K, bench, tolerance);
      const solved = solveCandidate(ref, drawn.path);
      if (!isFailure(solved)) gains[i]!.add(problem.input.rpm, ref.result.power_W, solved.power_W, stretch);
    });
  };
  return {
    draw: (count) => {
      for (let i = 0; i < count; i += 1) one();
      taken += count;
      return taken;
    },
    ranges: () => gains.map((g) => g.range()),
  };
}

/** One candidate's gain and its range, drawn to the end. */
export function uncertaintyGain(input: {
  readonly kind: SolveKind;
  readonly solve: Solve;
  readonly tolerances?: Partial<Tolerances> | undefined;
  readonly draws?: number | undefined;
  readonly seed?: number | undefined;
}): GainRange | Failure {
  const { kind, solve } = input;
  const run = uncertaintyRun({
    problem: { kind, input: solve } as EngineProblem,
    before: solve.before,
    reference: solve.reference,
    candidates: [solve.candidate],
    tolerances: input.tolerances,
    seed: input.seed ?? 1,
  });
  if (isFailure(run)) return run;
  run.draw(input.draws ?? UNCERTAINTY_DRAWS);
  return run.ranges()[0]!;
}
