import type { Provenance } from '../documents/job';
import type { MeasureName } from '../units/measures';
import type { FormulaId } from './formulas';

/** A number that went into a formula, in SI, with the measure it is shown in and where it came from. */
export interface Term {
  readonly symbol: string;
  readonly label: string;
  readonly value: number;
  readonly measure: MeasureName;
  readonly from: Provenance | 'computed' | 'constant' | 'default';
}

export interface WorkingStep {
  readonly formula: FormulaId;
  readonly terms: readonly Term[];
  readonly result: Term;
}

/** How a number on a screen came about: steps in the order they were taken, and what was assumed on the way. */
export interface Working {
  readonly title: string;
  readonly steps: readonly WorkingStep[];
  readonly notes: readonly string[];
}

export const term = (symbol: string, label: string, value: number, measure: MeasureName, from: Term['from'] = 'computed'): Term => ({
  symbol,
  label,
  value,
  measure,
  from,
});
export const step = (formula: FormulaId, terms: readonly Term[], result: Term): WorkingStep => ({ formula, terms, result });
