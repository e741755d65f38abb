import { airState, saturationPressure, weatherFailure, type WeatherReading } from '../air/state';
import { failure, isFailure, type Failure } from '../failure';
import { ZERO_CELSIUS_K } from '../flow/constants';
import { leastSquares } from '../numbers/least-squares';
import { studentQuantile } from '../numbers/student';
import type { SideMark } from '../compare/permutation';
import type { Estimate } from '../compare/answer';

export type PowerKind = 'na' | 'belt' | 'turbo';

/** Share of full power's reciprocal that a day's air leaves: the factor observed power is multiplied by. Testing basis §3. */
function airFactor(kind: PowerKind, weather: WeatherReading): number {
  const t = weather.T_K - ZERO_CELSIUS_K;
  const dry_hPa = (weather.p_Pa - weather.rh * saturationPressure(weather.T_K)) / 100;
  const x = (990 / dry_hPa) * Math.sqrt((t + 273) / 298);
  return kind === 'na' ? 1.18 * x - 0.18 : kind === 'belt' ? x : x ** 0.3;
}

export interface CorrectedPass {
  readonly densityAltitude_m: number;
  readonly factor: number;
  readonly et_s: number;
  readonly trapSpeed_mps: number;
}

/** A pass as it would have been in the reference air, or in another day's. Refuses weather that cannot be. Testing basis §3. */
export function correctPass(input: {
  readonly kind: PowerKind;
  readonly weather: WeatherReading;
  readonly to?: WeatherReading | undefined;
  readonly et_s: number;
  readonly trapSpeed_mps: number;
}): CorrectedPass | Failure {
  const refused = weatherFailure(input.weather) ?? (input.to && weatherFailure(input.to));
  if (refused) return refused;
  const air = airState(input.weather);
  if (isFailure(air)) return air;
  const factor = airFactor(input.kind, input.weather) / (input.to ? airFactor(input.kind, input.to) : 1);
  return {
    densityAltitude_m: air.densityAltitude_m,
    factor,
    et_s: input.et_s * factor ** (-1 / 3),
    trapSpeed_mps: input.trapSpeed_mps * factor ** (1 / 3),
  };
}

export interface Pass {
  readonly side: SideMark;
  readonly visit: string;
  /** Missing where no weather was read. */
  readonly densityAltitude_m?: number | undefined;
  readonly coolant_K?: number | undefined;
  readonly inlet_K?: number | undefined;
}

/** Passes may differ by less than this and still be a matched pair. Testing basis §3. */
export const PAIR_LIMITS = { densityAltitude_m: 30, temperature_K: 5 } as const;

/** Pairs [A, B] of one visit in nearly the same air and with the engine nearly as warm, by index. */
export function matchedPairs(passes: readonly Pass[]): [number, number][] {
  const near = (x: number | undefined, y: number | undefined, within: number): boolean =>
    x !== undefined && y !== undefined && Math.abs(x - y) < within;
  return passes.flatMap((a, i) =>
    a.side !== 'A'
      ? []
      : passes.flatMap((b, j): [number, number][] =>
          b.side === 'B' &&
          a.visit === b.visit &&
          near(a.densityAltitude_m, b.densityAltitude_m, PAIR_LIMITS.densityAltitude_m) &&
          near(a.coolant_K, b.coolant_K, PAIR_LIMITS.temperature_K) &&
          near(a.inlet_K, b.inlet_K, PAIR_LIMITS.temperature_K)
            ? [[i, j]]
            : [],
        ),
  );
}

export const EFFECT_TERMS = ['visit', 'densityAltitude', 'coolant'] as const;
export type EffectTerm = (typeof EFFECT_TERMS)[number];

export interface SideEffect extends Estimate {
  readonly effect: number;
  readonly low: number;
  readonly high: number;
  readonly terms: readonly EffectTerm[];
  readonly dropped: readonly EffectTerm[];
  /** Scatter of single passes about the fit. */
  readonly residualSd: number;
  readonly perMetre?: number;
  readonly perKelvin?: number;
}

/** Terms that the passes have figures for. */
function affordable(passes: readonly Pass[]): EffectTerm[] {
  const wanted: EffectTerm[] = [];
  if (new Set(passes.map((p) => p.visit)).size > 1) wanted.push('visit');
  if (passes.every((p) => p.densityAltitude_m !== undefined)) wanted.push('densityAltitude');
  if (passes.every((p) => p.coolant_K !== undefined)) wanted.push('coolant');
  return wanted;
}

/** The columns of a fit with these terms: a constant, the side, then the terms in their order. */
export function effectColumns(passes: readonly Pass[], terms: readonly EffectTerm[]): number[][] {
  const visits = [...new Set(passes.map((p) => p.visit))];
  const centred = (f: (p: Pass) => number): number[] => {
    const mean = passes.reduce((s, p) => s + f(p), 0) / passes.length;
    return passes.map((p) => f(p) - mean);
  };
  return [
    passes.map(() => 1),
    passes.map((p) => (p.side === 'B' ? 1 : 0)),
    ...(terms.includes('visit') ? visits.slice(1).map((v) => passes.map((p) => (p.visit === v ? 1 : 0))) : []),
    ...(terms.includes('densityAltitude') ? [centred((p) => p.densityAltitude_m!)] : []),
    ...(terms.includes('coolant') ? [centred((p) => p.coolant_K!)] : []),
  ];
}

/** Residual degrees of freedom asked for before another term is afforded. */
const LEAST_DF = 3;

/**
 * Side B against A over several visits: y = side + visit + b·density altitude (+ c·coolant), terms given up where there are
 * too few passes for them. `one_side_only`, `too_few_passes`. Testing basis §4.
 */
export function sideEffect(passes: readonly (Pass & { readonly value: number })[]): SideEffect | Failure {
  if (!passes.some((p) => p.side === 'A') || !passes.some((p) => p.side === 'B')) return failure('one_side_only');
  const wanted = affordable(passes);
  const y = passes.map((p) => p.value);
  const dropped: EffectTerm[] = [];
  for (;;) {
    const terms = wanted.filter((t) => !dropped.includes(t));
    const columns = effectColumns(passes, terms);
    const fit = leastSquares(columns, y);
    if (fit && fit.df >= (terms.length === 0 ? 1 : LEAST_DF)) {
      const difference = fit.coefficients[1]!;
      const standardError = fit.standardErrors[1]!;
      const half = studentQuantile(0.975, fit.df) * standardError;
      const last = columns.length - 1;
      const coolant = terms.includes('coolant');
      return {
        effect: difference,
        difference,
        standardError,
        df: fit.df,
        low: difference - half,
        high: difference + half,
        terms,
        dropped,
        residualSd: Math.sqrt(fit.variance),
        ...(terms.includes('densityAltitude') && { perMetre: fit.coefficients[coolant ? last - 1 : last]! }),
        ...(coolant && { perKelvin: fit.coefficients[last]! }),
      };
    }
    const next = terms.at(-1);
    if (next === undefined) return failure('too_few_passes');
    dropped.push(next);
  }
}
