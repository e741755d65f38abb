import type { EffectBar } from './bars';

/** A table of a customer's page: a head and rows, the first cell words and the others figures. */
export interface SheetTable {
  readonly title: string;
  readonly head: readonly string[];
  readonly rows: readonly (readonly string[])[];
}

/** The measured difference over engine speed, and what was predicted of it. */
export interface SheetCurve {
  readonly rpm: readonly number[];
  readonly measured_pct: readonly number[];
  /** Simultaneous 95 % band. */
  readonly low_pct: readonly number[];
  readonly high_pct: readonly number[];
  readonly predicted: { readonly rpm: readonly number[]; readonly gain_pct: readonly number[] } | null;
}

/** A measured effect with the name that the page has for it. */
export type NamedBar = EffectBar & { readonly name: string };

/** What a customer is told, in words and figures: the page, the PDF and the print are all made from it. */
export interface CustomerSheet {
  readonly shop: string;
  readonly car: string;
  /** Of owner and car, what the shop ticked: names and words. */
  readonly about: readonly (readonly [name: string, text: string])[];
  /** Captions of the pictures that are shown, by their place. */
  readonly photos: readonly { readonly at: number; readonly caption: string }[];
  readonly unit: string;
  readonly answer: string;
  readonly reasons: readonly string[];
  readonly decided: string | null;
  readonly curve: SheetCurve | null;
  readonly bars: readonly NamedBar[];
  readonly tables: readonly SheetTable[];
  readonly note: string;
  readonly small: readonly string[];
}
