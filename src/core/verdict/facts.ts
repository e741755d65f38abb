import type { Confounder } from '../compare/confounders';
import type { SideComparison } from '../compare/sides';
import type { StoredPrediction } from '../documents/prediction';
import type { SideManners } from '../logs/side-manners';
import type { StripAnalysis } from '../strip/analysis';

/** What a job's runs, passes and logs have shown: everything a verdict stands on besides the job's own document. */
export interface JobFacts {
  /** The throttle all of it is about; null: none has been run or chosen. */
  readonly unitId: string | null;
  readonly comparison: SideComparison | null;
  readonly confounders: readonly Confounder[];
  /** Inlet air over the runs, mean of each side, K; null where it was not logged. */
  readonly inletAir: { readonly a_K: number; readonly b_K: number } | null;
  readonly strip: StripAnalysis | null;
  /** Fees of the strip visits. */
  readonly stripCost: number;
  readonly guesses: readonly StoredPrediction[];
  readonly manners: { readonly stock: SideManners; readonly other: SideManners } | null;
}

export const NO_FACTS: JobFacts = {
  unitId: null,
  comparison: null,
  confounders: [],
  inletAir: null,
  strip: null,
  stripCost: 0,
  guesses: [],
  manners: null,
};
