/** What a change cost and what it gained, with the interval of the gain. */
export interface GainCost {
  readonly parts: number;
  readonly fitting: number;
  readonly testing: number;
  readonly total: number;
  readonly gain_W: number;
  readonly low_W: number;
  readonly high_W: number;
  /** Money per watt; null where nothing was gained. */
  readonly perW: number | null;
  /** Its bounds: dear end null where the gain's interval reaches nothing. */
  readonly cheap: number | null;
  readonly dear: number | null;
}

/** Cost per gained watt of parts, fitting and testing, with the gain's interval. Testing basis §5. */
export function gainCost(
  cost: { readonly parts: number; readonly fitting: number; readonly testing: number },
  gain: { readonly gain_W: number; readonly low_W: number; readonly high_W: number },
): GainCost {
  const total = cost.parts + cost.fitting + cost.testing;
  const per = (w: number): number | null => (w > 0 ? total / w : null);
  return { ...cost, total, ...gain, perW: per(gain.gain_W), cheap: per(gain.high_W), dear: per(gain.low_W) };
}
