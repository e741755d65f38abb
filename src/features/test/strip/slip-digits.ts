import { NO_SLIP, placePoint, type Slip, type SlipField } from '@/core/documents/slip';

/** What is typed of a slip: the digits of each field, without their points. */
export type SlipDigits = Readonly<Partial<Record<SlipField, string>>>;

export const SPEED_mps = { mph: 0.44704, kmh: 1 / 3.6 } as const;

/** The slip that the digits say, in SI. */
export function slipOf(digits: SlipDigits, speeds: 'mph' | 'kmh'): Slip {
  const slip: Record<SlipField, number | null> = { ...NO_SLIP };
  for (const [field, typed] of Object.entries(digits) as [SlipField, string][]) {
    if (typed === '') continue;
    const value = Number(placePoint(field, typed, speeds).text);
    slip[field] = field.startsWith('v') ? value * SPEED_mps[speeds] : value;
  }
  return slip;
}

/** A figure as the pad writes it: thousandths of a second, hundredths of a speed. */
export const figure = (field: SlipField, value: number, speeds: 'mph' | 'kmh'): string =>
  field.startsWith('v') ? (value / SPEED_mps[speeds]).toFixed(2) : value.toFixed(3);
export const figureOf = (field: SlipField, text: string, speeds: 'mph' | 'kmh'): number =>
  Number(text) * (field.startsWith('v') ? SPEED_mps[speeds] : 1);

/** A kept slip as the digits that would have been typed. */
export function digitsOf(slip: Slip, speeds: 'mph' | 'kmh'): SlipDigits {
  return Object.fromEntries(
    (Object.entries(slip) as [SlipField, number | null][]).flatMap(([field, value]) =>
      value === null ? [] : [[field, figure(field, value, speeds).replace('.', '')]],
    ),
  );
}
