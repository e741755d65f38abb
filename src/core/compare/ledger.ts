/** One guess and what was then read, in one unit. */
export interface LedgerEntry {
  readonly source: string;
  readonly predicted: number;
  readonly low: number;
  readonly high: number;
  readonly measured: number;
}

export interface LedgerScore {
  readonly source: string;
  readonly count: number;
  /** Mean of predicted − measured. */
  readonly bias: number;
  readonly meanAbsoluteError: number;
  /** Share of readings inside the guess's own range, ends included. */
  readonly hitRate: number;
}

/** How well each source guesses, in the order they first appear. Testing basis §4. */
export function ledgerScore(entries: readonly LedgerEntry[]): LedgerScore[] {
  const sources = [...new Set(entries.map((e) => e.source))];
  return sources.map((source) => {
    const own = entries.filter((e) => e.source === source);
    const mean = (f: (e: LedgerEntry) => number): number => own.reduce((sum, e) => sum + f(e), 0) / own.length;
    return {
      source,
      count: own.length,
      bias: mean((e) => e.predicted - e.measured),
      meanAbsoluteError: mean((e) => Math.abs(e.predicted - e.measured)),
      hitRate: mean((e) => (e.measured >= e.low && e.measured <= e.high ? 1 : 0)),
    };
  });
}
