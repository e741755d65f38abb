import type { EngineProblem, Solve, SolveKind } from '@/core/engine/induction';
import type { Path } from '@/core/flow/path';
import type { Random } from '@/core/numbers/random';

/** Open end, pipe, throttle and, unless it is to be the last part, an opening matched to the bore. */
export const intake = (bore_m: number, opening_m: number | null = bore_m, pipe_m = 0.08): Path => ({
  parts: [
    { type: 'openEnd', bore_m: pipe_m, edgeRadius_m: 0.1 * pipe_m },
    { type: 'pipe', bore_m: pipe_m, length_m: 0.4 },
    { type: 'throttle', throttle: { shape: 'single', bore_m, shaft_m: 0.008 } },
    ...(opening_m === null ? [] : [{ type: 'section' as const, name: 'opening', bore_m: opening_m }]),
  ],
});

/** What lies before a compressor. */
export const AHEAD: Path = {
  parts: [
    { type: 'openEnd', bore_m: 0.08, edgeRadius_m: 0.008 },
    { type: 'filter', bore_m: 0.11, ratedFlow_m3ps: 0.25, ratedLoss_Pa: 350 },
    { type: 'pipe', bore_m: 0.075, length_m: 0.5 },
  ],
};

const COMMON = {
  ambient: { p_Pa: 100_000, T_K: 293.15, rh: 0.4 },
  engine: { displacement_m3: 0.003, compressionRatio: 9.2 },
  power: { bsfc_kgpJ: 9.5e-8, afr: 11.8 },
} as const;

/** One engine of each kind, at these speeds. */
export function engineOf(kind: SolveKind, rpm: readonly number[] = [2000, 3500, 5000, 6200]): EngineProblem {
  switch (kind) {
    case 'na':
      return { kind, input: { ...COMMON, rpm, ve: 0.88 } };
    case 'drawThrough':
      return {
        kind,
        input: {
          ...COMMON,
          rpm,
          blower: { displacement_m3: 0.0014, ratio: 1.9 },
          cooler: { effectiveness: 0.7, coolant_K: 315, loss_Pa: 4000 },
        },
      };
    case 'centrifugal':
      return {
        kind,
        input: {
          ...COMMON,
          rpm,
          compressor: { pressureRatio: 1.6, rpm: 6200 },
          cooler: { effectiveness: 0.7, coolant_K: 315, loss_Pa: 4000 },
        },
      };
    case 'turbo':
      return {
        kind,
        input: {
          ...COMMON,
          rpm,
          compressor: { target_Pa: 180_000, targetAt: 'plenum' },
          cooler: { effectiveness: 0.7, coolant_K: 315, loss_Pa: 4000 },
        },
      };
  }
}

export const KINDS: readonly SolveKind[] = ['na', 'drawThrough', 'centrifugal', 'turbo'];

export const solveOf = (problem: EngineProblem, reference: Path, candidate: Path): Solve =>
  ({
    ...problem.input,
    reference,
    candidate,
    ...((problem.kind === 'centrifugal' || problem.kind === 'turbo') && { before: AHEAD }),
  }) as Solve;

/** An engine nobody would pick, but which may come in: sizes, boost and speeds drawn wide. */
export function wildEngine(random: Random): { readonly problem: EngineProblem; readonly stock_m: number; readonly other_m: number } {
  const between = (low: number, high: number): number => low + (high - low) * random();
  const kind = KINDS[Math.floor(random() * KINDS.length)]!;
  const displacement_m3 = between(0.0005, 0.009);
  const top = between(3500, 9500);
  const { input } = engineOf(kind, [0.3 * top, 0.65 * top, top]);
  const engine = { displacement_m3, compressionRatio: between(7, 14) };
  const ambient = { p_Pa: between(65_000, 105_000), T_K: between(250, 320), rh: random() };
  const stock_m = between(0.025, 0.1);
  const other_m = between(0.025, 0.11);
  const wild = { ...input, engine, ambient };
  if (kind === 'na') return { problem: { kind, input: { ...wild, ve: between(0.4, 1.25) } } as EngineProblem, stock_m, other_m };
  const manifoldVe = between(0.6, 1.1);
  if (kind === 'drawThrough') {
    const blower = { displacement_m3: displacement_m3 * between(0.15, 1.1), ratio: between(0.8, 3) };
    return { problem: { kind, input: { ...wild, manifoldVe, blower } } as EngineProblem, stock_m, other_m };
  }
  if (kind === 'centrifugal') {
    const compressor = { pressureRatio: between(1.02, 3), rpm: top };
    return { problem: { kind, input: { ...wild, manifoldVe, compressor } } as EngineProblem, stock_m, other_m };
  }
  const compressor = { target_Pa: between(60_000, 300_000), targetAt: random() < 0.5 ? 'plenum' : 'compressor' };
  return { problem: { kind, input: { ...wild, manifoldVe, compressor } } as EngineProblem, stock_m, other_m };
}
