import { airState } from '../air/state';
import type { RunDoc } from '../documents/run';
import { isFailure } from '../failure';
import type { DynoRun } from '../runs/dyno-run';

export interface ComparedRun {
  readonly id: string;
  readonly doc: RunDoc;
  readonly run: DynoRun;
}

/** Something other than the throttle that could have made the difference. Facts are SI or percent, as named. */
export type Confounder =
  | { readonly code: 'mixed_correction'; readonly a: string; readonly b: string; readonly worth_pct: number }
  | { readonly code: 'unknown_correction'; readonly runs: readonly string[]; readonly worth_pct: number }
  | { readonly code: 'smoothing'; readonly a: number | null; readonly b: number | null }
  | { readonly code: 'inlet_air'; readonly apart_K: number; readonly worth_pct: number }
  | { readonly code: 'coolant'; readonly apart_K: number }
  | { readonly code: 'air_density'; readonly apart_pct: number; readonly worth_pct: number }
  | { readonly code: 'days_apart'; readonly days: number }
  | { readonly code: 'other_record'; readonly field: 'gear' | 'fuel' | 'tune' | 'measuredAt'; readonly a: string; readonly b: string }
  | { readonly code: 'more_changed'; readonly text: string }
  | { readonly code: 'one_run_a_side' }
  | { readonly code: 'stock_once' };

/** Limits beyond which a difference in the conditions counts. Testing basis §1. */
export const CONFOUNDER_LIMITS = { inletAir_K: 3, coolant_K: 5, density_pct: 1 } as const;
/** Two methods on one day differ by about this much, % (STD against J1349). */
const METHOD_APART_pct = 4;

const mean = (values: readonly (number | null)[]): number | null => {
  const known = values.filter((v): v is number => v !== null);
  return known.length === 0 ? null : known.reduce((s, v) => s + v, 0) / known.length;
};

const densityOf = ({ doc }: ComparedRun): number | null => {
  const air = doc.weather && airState(doc.weather);
  return !air || isFailure(air) ? null : air.density_kgpm3;
};

function figures(a: readonly ComparedRun[], b: readonly ComparedRun[], corrected: boolean): Confounder[] {
  const found: Confounder[] = [];
  const inletA = mean(a.map((r) => r.run.inletAirStart_K));
  const inletB = mean(b.map((r) => r.run.inletAirStart_K));
  if (inletA !== null && inletB !== null && Math.abs(inletB - inletA) > CONFOUNDER_LIMITS.inletAir_K) {
    // Power goes with the square root of the charge's temperature: half its relative change, the other way.
    found.push({ code: 'inlet_air', apart_K: inletB - inletA, worth_pct: (-50 * (inletB - inletA)) / inletA });
  }
  const coolA = mean(a.map((r) => r.run.coolantStart_K));
  const coolB = mean(b.map((r) => r.run.coolantStart_K));
  if (coolA !== null && coolB !== null && Math.abs(coolB - coolA) > CONFOUNDER_LIMITS.coolant_K)
    found.push({ code: 'coolant', apart_K: coolB - coolA });
  const rhoA = mean(a.map(densityOf));
  const rhoB = mean(b.map(densityOf));
  if (rhoA !== null && rhoB !== null) {
    const apart_pct = 100 * (rhoB / rhoA - 1);
    if (Math.abs(apart_pct) > CONFOUNDER_LIMITS.density_pct)
      found.push({ code: 'air_density', apart_pct, worth_pct: corrected ? 0 : apart_pct });
  }
  return found;
}

function records(a: readonly ComparedRun[], b: readonly ComparedRun[]): Confounder[] {
  const found: Confounder[] = [];
  const word = (runs: readonly ComparedRun[], field: 'gear' | 'fuel' | 'tune' | 'measuredAt'): string =>
    [...new Set(runs.map((r) => r.doc[field].trim()).filter((v) => v !== '' && v !== 'unknown'))].join(', ');
  for (const field of ['measuredAt', 'gear', 'fuel', 'tune'] as const) {
    const wa = word(a, field);
    const wb = word(b, field);
    if (wa !== '' && wb !== '' && wa.toLowerCase() !== wb.toLowerCase()) found.push({ code: 'other_record', field, a: wa, b: wb });
  }
  const changed = [...new Set([...a, ...b].map((r) => r.doc.otherChanges.trim()).filter((t) => t !== ''))];
  if (changed.length > 0) found.push({ code: 'more_changed', text: changed.join('; ') });
  const days = [...a, ...b].flatMap((r) => (r.doc.takenOn ? [Date.parse(r.doc.takenOn) / 86_400_000] : []));
  const apart = days.length > 1 ? Math.max(...days) - Math.min(...days) : 0;
  if (apart >= 1) found.push({ code: 'days_apart', days: Math.round(apart) });
  return found;
}

/** Everything in the runs' records that makes side B (new) against side A (stock) an unfair comparison. Testing basis §1. */
export function confounders(a: readonly ComparedRun[], b: readonly ComparedRun[]): Confounder[] {
  const found: Confounder[] = [];
  const words = (runs: readonly ComparedRun[]): string => [...new Set(runs.map((r) => r.run.correction))].join(', ');
  const unknown = [...a, ...b].filter((r) => r.run.correction === 'unknown');
  if (words(a) !== words(b)) found.push({ code: 'mixed_correction', a: words(a), b: words(b), worth_pct: METHOD_APART_pct });
  else if (unknown.length > 0)
    found.push({ code: 'unknown_correction', runs: unknown.map((r) => r.doc.name), worth_pct: METHOD_APART_pct });
  const smoothA = a[0]?.doc.carriedSmoothing_rpm ?? null;
  const smoothB = b[0]?.doc.carriedSmoothing_rpm ?? null;
  if (smoothA !== smoothB) found.push({ code: 'smoothing', a: smoothA, b: smoothB });
  const corrected = ![...a, ...b].some((r) => r.run.correction === 'none' || r.run.correction === 'unknown');
  found.push(...figures(a, b, corrected), ...records(a, b));
  if (a.length === 1 && b.length === 1) found.push({ code: 'one_run_a_side' });
  if (a.length < 2) found.push({ code: 'stock_once' });
  return found;
}
