/** Bounds that are not known are null. */
export interface AirBounds {
  readonly loss?: number | null | undefined;
  readonly gasSpeed?: number | null | undefined;
  readonly bench?: number | null | undefined;
  readonly power?: number | null | undefined;
}
export interface MannersBounds {
  readonly idle?: number | null | undefined;
  readonly tipIn?: number | null | undefined;
  readonly fit?: number | null | undefined;
}

export interface SizingWindow {
  readonly lower_m: number | null;
  readonly lowerBy: keyof AirBounds | null;
  readonly upper_m: number | null;
  readonly upperBy: keyof MannersBounds | null;
  readonly empty: boolean;
}

/** The largest of the air side's smallest bores and the smallest of the manners side's largest. Airflow basis §9. */
export function sizingWindow(air_m: AirBounds, manners_m: MannersBounds): SizingWindow {
  let lower: [keyof AirBounds, number] | null = null;
  for (const [by, bore] of Object.entries(air_m) as [keyof AirBounds, number | null | undefined][]) {
    if (bore != null && (lower === null || bore > lower[1])) lower = [by, bore];
  }
  let upper: [keyof MannersBounds, number] | null = null;
  for (const [by, bore] of Object.entries(manners_m) as [keyof MannersBounds, number | null | undefined][]) {
    if (bore != null && (upper === null || bore < upper[1])) upper = [by, bore];
  }
  return {
    lower_m: lower?.[1] ?? null,
    lowerBy: lower?.[0] ?? null,
    upper_m: upper?.[1] ?? null,
    upperBy: upper?.[0] ?? null,
    empty: lower !== null && upper !== null && lower[1] > upper[1],
  };
}

export type SizingVerdict = 'does not fit' | 'too big for its manners' | 'not the restriction' | 'worth testing' | 'worth buying';

/** Gains, %, below which a unit is not the restriction, and above which it is worth buying. Airflow basis §9. */
export const VERDICT_GAIN_pct = { notTheRestriction: 0.5, worthBuying: 1.5 } as const;

/** The verdict word on a bore, in the order that the worst news comes first. Airflow basis §9. */
export function sizingVerdict(v: {
  readonly bore_m: number;
  readonly largestGain_pct: number;
  readonly air_m?: number | null | undefined;
  readonly idle_m?: number | null | undefined;
  readonly tipIn_m?: number | null | undefined;
  readonly fit_m?: number | null | undefined;
}): SizingVerdict {
  if (v.fit_m != null && v.bore_m > v.fit_m) return 'does not fit';
  if ((v.idle_m != null && v.bore_m > v.idle_m) || (v.tipIn_m != null && v.bore_m > v.tipIn_m)) return 'too big for its manners';
  if (v.largestGain_pct < VERDICT_GAIN_pct.notTheRestriction) return 'not the restriction';
  if (v.largestGain_pct > VERDICT_GAIN_pct.worthBuying && (v.air_m == null || v.bore_m >= v.air_m)) return 'worth buying';
  return 'worth testing';
}
