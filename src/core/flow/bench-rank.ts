import { isFailure } from '../failure';
import { benchCeiling, benchLossCoefficient, benchMoveToDepression } from './bench';

/** A flow record of any part, with what its figure is read against. */
export interface BenchEntry {
  readonly id: string;
  readonly name: string;
  readonly bench: string;
  readonly flow_m3ps: number;
  readonly depression_Pa: number;
  readonly entryK: number;
  /** Round bore of the part's whole gross area, m. */
  readonly bore_m: number;
  readonly netArea_m2: number;
  readonly grossArea_m2: number;
}

export interface BenchRanked extends BenchEntry {
  /** The figure at the depression all are compared at, m³/s, and by the hand rule. */
  readonly moved_m3ps: number;
  readonly handRule_m3ps: number;
  /** Share of the ideal nozzle of the gross bore. */
  readonly ratio: number;
  readonly rating: 'ok' | 'doubtful' | 'cannot be';
  /** Loss coefficient on the net area; null where the figure cannot be or leaves none to find. */
  readonly K: number | null;
  readonly aboveBore: boolean;
  /** Bore of an ideal nozzle that passes this figure, m. */
  readonly trueBore_m: number;
}

export interface BenchGroup {
  readonly bench: string;
  readonly entryK: number;
  readonly entries: readonly BenchRanked[];
}

function ranked(e: BenchEntry, at_Pa: number): BenchRanked | null {
  const moved = benchMoveToDepression(e.flow_m3ps, e.depression_Pa, at_Pa);
  if (isFailure(moved)) return null;
  const ceiling = benchCeiling(e.flow_m3ps, e.depression_Pa, e.bore_m);
  const ratio = ceiling.ratio ?? NaN;
  const K = benchLossCoefficient(e);
  return {
    ...e,
    moved_m3ps: moved.flow_m3ps,
    handRule_m3ps: moved.handRule_m3ps,
    ratio,
    rating: 'error' in ceiling ? 'cannot be' : ceiling.rating,
    K: isFailure(K) ? null : K.K,
    aboveBore: !isFailure(K) && K.aboveBore,
    trueBore_m: e.bore_m * Math.sqrt(ratio),
  };
}

/**
 * Flow records brought to one depression and ranked, in groups that can fairly be compared: one bench and one entry each.
 * Figures of different benches are never put in one order: their errors differ. Airflow basis §7.
 */
export function rankBench(entries: readonly BenchEntry[], at_Pa: number): BenchGroup[] {
  const groups = new Map<string, BenchGroup>();
  for (const entry of entries) {
    const r = ranked(entry, at_Pa);
    if (!r) continue;
    const key = `${entry.bench.trim().toLowerCase()}/${entry.entryK}`;
    const group = groups.get(key) ?? { bench: entry.bench, entryK: entry.entryK, entries: [] };
    groups.set(key, { ...group, entries: [...group.entries, r].sort((a, b) => b.moved_m3ps - a.moved_m3ps) });
  }
  return [...groups.values()].sort((a, b) => b.entries.length - a.entries.length);
}
