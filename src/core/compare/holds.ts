import { airState } from '../air/state';
import type { HoldsDoc } from '../documents/plan';
import { isFailure } from '../failure';
import { airOf } from '../runs/air';
import type { ComparedRun } from './confounders';
import { meanings } from './same-words';

export type HoldKey = keyof HoldsDoc;
export type HoldState = 'kept' | 'broken' | 'not recorded' | 'waits';

/** One thing the plan holds, and whether the runs so far kept to it. Spreads are K, or a share for density. */
export interface HeldThing {
  readonly key: HoldKey;
  readonly limit: number | null;
  readonly state: HoldState;
  readonly spread: number | null;
  /** The words or days that differ, where it is not a figure. */
  readonly words: readonly string[];
}

const NUMBERS = ['inletAir_K', 'coolant_K', 'density'] as const;
const WORDS = { gear: 'gear', tune: 'tune', fuel: 'fuel', pulley: 'pulley', sameDay: 'takenOn' } as const;

const FIGURE: Readonly<Record<(typeof NUMBERS)[number], (r: ComparedRun) => number | null>> = {
  inletAir_K: (r) => r.run.inletAirStart_K,
  coolant_K: (r) => r.run.coolantStart_K,
  density: ({ doc }) => {
    const weather = airOf(doc);
    const air = weather && airState(weather);
    return !air || isFailure(air) ? null : air.density_kgpm3;
  },
};

/** The plan's list of what is to be the same, held against the runs there are: the checklist at the dyno. */
export function heldThings(holds: HoldsDoc, runs: readonly ComparedRun[]): HeldThing[] {
  const figures = NUMBERS.flatMap((key): HeldThing[] => {
    const limit = holds[key];
    if (limit === null) return [];
    const known = runs.map(FIGURE[key]).filter((v): v is number => v !== null);
    const low = Math.min(...known);
    const spread = known.length < 2 ? null : key === 'density' ? Math.max(...known) / low - 1 : Math.max(...known) - low;
    const broken = spread !== null && spread > limit;
    const state = runs.length < 2 ? 'waits' : broken ? 'broken' : known.length < runs.length ? 'not recorded' : 'kept';
    return [{ key, limit, state, spread, words: [] }];
  });
  const words = (Object.keys(WORDS) as (keyof typeof WORDS)[]).flatMap((key): HeldThing[] => {
    if (!holds[key]) return [];
    const said = runs.map((r) => (r.doc[WORDS[key]] ?? '').trim());
    const distinct = [
      ...meanings(
        key,
        said.filter((w) => w !== ''),
      ).values(),
    ];
    const state = runs.length < 2 ? 'waits' : distinct.length > 1 ? 'broken' : said.includes('') ? 'not recorded' : 'kept';
    return [{ key, limit: null, state, spread: null, words: distinct }];
  });
  return [...figures, ...words];
}
