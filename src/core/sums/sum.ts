import type { Failure } from '../failure';
import type { MeasureName } from '../units/measures';
import type { WorkingStep } from '../working/working';

/** A figure a sum asks for. `start` and the limits are SI. */
export interface NumberField {
  readonly kind: 'number';
  readonly key: string;
  readonly label: string;
  readonly measure: MeasureName;
  readonly start: number;
  readonly least: number;
  readonly most: number;
  /** Whether the sum asks for it, given what else was typed or picked. */
  readonly when?: (values: SumValues) => boolean;
}

export interface ChoiceField {
  readonly kind: 'choice';
  readonly key: string;
  readonly label: string;
  readonly start: string;
  readonly options: readonly { readonly value: string; readonly label: string }[];
  readonly when?: (values: SumValues) => boolean;
}

export type SumField = NumberField | ChoiceField;

/** What was typed (SI) and picked. */
export interface SumValues {
  readonly n: Readonly<Record<string, number>>;
  readonly pick: Readonly<Record<string, string>>;
}

export interface SumRow {
  readonly label: string;
  readonly value: number;
  readonly measure: MeasureName;
  /** What the figure means, in a few words. */
  readonly note?: string;
}

/** Writes a figure in the unit the reader wants. */
export type Say = (si: number, measure: MeasureName) => string;

export interface SumResult {
  /** The answer in one sentence. */
  readonly answer: (say: Say) => string;
  /** Something that must not be overlooked. */
  readonly warning?: ((say: Say) => string) | undefined;
  readonly rows: readonly SumRow[];
  readonly steps: readonly WorkingStep[];
  readonly notes: readonly string[];
}

/** One small computation that needs no job. */
export interface Sum {
  readonly key: string;
  readonly title: string;
  readonly group: 'air' | 'throttle' | 'bench' | 'boost' | 'fuel' | 'fit';
  /** What it answers and when it is wanted. */
  readonly about: string;
  readonly fields: readonly SumField[];
  readonly solve: (values: SumValues) => SumResult | Failure;
}

export const number = (
  key: string,
  label: string,
  measure: MeasureName,
  start: number,
  [least, most]: readonly [number, number],
  when?: NumberField['when'],
): NumberField => ({ kind: 'number', key, label, measure, start, least, most, ...(when && { when }) });

export const choice = (
  key: string,
  label: string,
  options: readonly (readonly [value: string, label: string])[],
  when?: ChoiceField['when'],
): ChoiceField => ({
  kind: 'choice',
  key,
  label,
  start: options[0]![0],
  options: options.map(([value, name]) => ({ value, label: name })),
  ...(when && { when }),
});

/** The figures a sum starts from. */
export function startValues(sum: Sum): SumValues {
  const n: Record<string, number> = {};
  const pick: Record<string, string> = {};
  for (const f of sum.fields) {
    if (f.kind === 'number') n[f.key] = f.start;
    else pick[f.key] = f.start;
  }
  return { n, pick };
}

/** Keys of the asked fields whose figures are outside what can be. */
export function outside(sum: Sum, values: SumValues): string[] {
  return sum.fields.flatMap((f) => {
    if (f.kind !== 'number' || f.when?.(values) === false) return [];
    const x = values.n[f.key]!;
    return x >= f.least && x <= f.most ? [] : [f.key];
  });
}
