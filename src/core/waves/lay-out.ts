import { junctionK } from '../flow/losses';
import { Ducts } from './ducts';
import type { WaveEngine } from './input';
import { openEnd, type OpenEnd } from './mouth';
import { ductsOf, type DuctCells } from './shape';

const { max, min } = Math;
const RUNNER_WARMER_K = 15;
const EXHAUST_WALL_K = 900;
const SMOOTH_m = 1.5e-6;

/** A line of ducts, end to end. */
export interface Line {
  /** First and last duct. */
  readonly from: number;
  readonly to: number;
}

/** An engine's ducts, and which of them is what. */
export interface LayOut {
  readonly cut: readonly DuctCells[];
  readonly ducts: Ducts;
  readonly runners: readonly Line[];
  readonly pipeLine: Line | null;
  readonly primaries: readonly Line[];
  /** Steps of the bore inside a line: duct d meets duct d + 1. */
  readonly joints: readonly { readonly d: number; readonly widening: number; readonly narrowing: number }[];
  readonly mouth: OpenEnd;
  readonly pipeMouth: OpenEnd | null;
  /** Length that the air before a runner's mouth adds to it, m. */
  readonly before: number;
}

/** Lays out the ducts of `n` cylinders: runners, the pipe to the plenum, exhaust primaries. Source: docs/basis/waves.md §2, §3. */
export function layOut(input: WaveEngine, n: number, cell: number): LayOut {
  const Ta = input.ambient?.T_K ?? 298.15;
  const plenum = input.plenum ?? null;
  const pipe = plenum ? (input.pipe ?? null) : null;
  const primary = input.exhaust?.primary ?? null;
  // Ducts: runners, the pipe, primaries.
  const cut: DuctCells[] = [];
  const add = (made: readonly DuctCells[]): Line => {
    cut.push(...made);
    return { from: cut.length - made.length, to: cut.length - 1 };
  };
  const first = input.runner.segments[0]!;
  const mouth = openEnd(first.inBore_m, input.runner.mouth);
  const before = plenum ? (input.runner.endCorrection_m ?? 0) : mouth.endCorrection_m;
  const runnerWalls = {
    roughness_m: input.runner.roughness_m ?? SMOOTH_m,
    wall_K: input.runner.wall_K ?? Ta + RUNNER_WARMER_K,
    friction: true,
  };
  const lengthened = (delta: number, bore_m: number) => (delta > 0 ? [{ length_m: delta, inBore_m: bore_m, outBore_m: bore_m }] : []);
  const runners = Array.from({ length: n }, (_, k): Line => {
    const own = input.runner.lengthOf_m?.[k];
    const segments = own === undefined ? input.runner.segments : [{ ...first, outBore_m: first.inBore_m, length_m: own }];
    const losses = (input.runner.losses ?? []).map((l) => ({ ...l, at_m: l.at_m + before }));
    return add(ductsOf([...lengthened(before, first.inBore_m), ...segments], losses, 0, runnerWalls, cell));
  });
  const pipeMouth = pipe && openEnd(pipe.segments[0]!.inBore_m, pipe.mouth);
  const pipeLine =
    pipe &&
    add(
      ductsOf(
        [...lengthened(pipeMouth!.endCorrection_m, pipe.segments[0]!.inBore_m), ...pipe.segments],
        (pipe.losses ?? []).map((l) => ({ ...l, at_m: l.at_m + pipeMouth!.endCorrection_m })),
        pipe.bendsK ?? 0,
        { roughness_m: pipe.roughness_m ?? SMOOTH_m, wall_K: pipe.wall_K ?? Ta, friction: true },
        cell,
      ),
    );
  const primaries = primary
    ? Array.from({ length: n }, () =>
        add(
          ductsOf(
            [{ length_m: primary.length_m, inBore_m: primary.bore_m, outBore_m: primary.bore_m }],
            [],
            0,
            { roughness_m: SMOOTH_m, wall_K: primary.wall_K ?? EXHAUST_WALL_K, friction: true },
            cell,
          ),
        ),
      )
    : [];
  const ducts = new Ducts(cut);
  const areas = ducts.endArea_m2;
  // Steps of the bore inside a line: duct d meets duct d + 1.
  const joints: { readonly d: number; readonly widening: number; readonly narrowing: number }[] = [];
  for (const line of [...runners, ...(pipeLine ? [pipeLine] : []), ...primaries])
    for (let d = line.from; d < line.to; d += 1) {
      const [a, b] = [areas[2 * d + 1]!, areas[2 * d + 2]!];
      joints.push({ d, widening: junctionK(min(a, b), max(a, b)), narrowing: junctionK(max(a, b), min(a, b)) });
    }
  return { cut, ducts, runners, pipeLine, primaries, joints, mouth, pipeMouth, before };
}
