import { gaussian } from '../numbers/random';
import { RIG_ROWS } from '../inference/rig';
import type { StudyRun } from '../inference/study';

/** How a test is troubled: what really happens, %, where it differs from a usual shop. */
export interface Trouble {
  readonly name: string;
  /** Sides in their order; "|" begins another day, "'" straps down anew. */
  readonly order: string;
  /** True effect of the part. */
  readonly effect: number;
  readonly run?: number;
  readonly refit?: number;
  readonly day?: number;
  /** Change from run to run of a day, of either sign. */
  readonly drift?: number;
  /** How far the first run is off, of either sign; gone after a few. */
  readonly warmup?: number;
  /** Correlation from one run to the next. */
  readonly correlated?: number;
  /** B's scatter over A's. */
  readonly ratio?: number;
  /** Chance of a run gone wrong, and by how many run scatters. */
  readonly outlier?: readonly [chance: number, times: number];
}

/** The troubles that tests meet, at the sizes they are known for. */
export const TROUBLES: readonly Trouble[] = [
  { name: 'A-B-A, refit scatter 0.4 %', order: 'AAABBBAAA', effect: 0, refit: 0.4 },
  { name: 'A-B-A-B, refit scatter 0.4 %', order: 'AAABBBAAABBB', effect: 0, refit: 0.4 },
  { name: 'runs that follow one another, 0.6', order: 'AAABBBAAA', effect: 0, correlated: 0.6, refit: 0 },
  { name: 'a warm-up that fades', order: 'AAABBBAAA', effect: 0, warmup: 2, refit: 0.2 },
  { name: 'stock one day, the new part another', order: 'AAAAA|BBBBB', effect: 0 },
  { name: 'A then B with a drift of 0.1 % a run', order: 'AAAAABBBBB', effect: 0, drift: 0.1, refit: 0.2 },
  { name: 'unequal scatter, three to one', order: 'AAABBBAAABBB', effect: 0, ratio: 3 },
  { name: 'unequal scatter, one to three', order: 'AAAAAABBB', effect: 0, ratio: 1 / 3 },
  { name: 'a run gone wrong now and then', order: 'AAABBBAAABBB', effect: 0, outlier: [0.05, 6] },
  { name: 'six alternating pairs', order: 'ABABABABABAB', effect: 0 },
  { name: 'two days with both parts', order: 'AABBAA|AABBAA', effect: 0 },
  { name: 'one run a side', order: 'AB', effect: 0 },
  { name: 'A-B-A, +1 %', order: 'AAABBBAAA', effect: 1 },
  { name: 'A-B-A-B, +1 %', order: 'AAABBBAAABBB', effect: 1 },
  { name: 'six alternating pairs, +1 %', order: 'ABABABABABAB', effect: 1 },
  { name: 'A-B-A-B, +2 %', order: 'AAABBBAAABBB', effect: 2 },
  { name: 'A-B, +2 %', order: 'AAABBB', effect: 2 },
];

/** The runs of one such test. */
export function troubledRuns(t: Trouble, random: () => number): StudyRun[] {
  const row = RIG_ROWS.dyno;
  const { run = row.run, refit = row.refit, day = row.day, drift = 0, warmup = 0, correlated = 0, ratio = 1, outlier = [0, 0] } = t;
  const runs: StudyRun[] = [];
  let visit = 1;
  let anew = false;
  let [dayOff, stayOff, slope, warm, before, k] = [day * gaussian(random), 0, 0, 0, gaussian(random), 0];
  const sign = (): number => (random() < 0.5 ? -1 : 1);
  const begin = (): void => {
    k = 0;
    slope = drift * sign();
    warm = warmup * sign();
  };
  begin();
  for (const c of t.order) {
    if (c === '|') {
      visit += 1;
      dayOff = day * gaussian(random);
      before = gaussian(random);
      begin();
      continue;
    }
    if (c === "'") {
      anew = true;
      continue;
    }
    const side = c as 'A' | 'B';
    const last = runs.at(-1);
    if (!last || last.side !== side || last.visit !== visit || anew) stayOff = refit * gaussian(random);
    before = correlated * before + Math.sqrt(1 - correlated ** 2) * gaussian(random);
    const scatter = run * (side === 'B' ? Math.sqrt(ratio) : 1 / Math.sqrt(ratio)) * before;
    const wrong = random() < outlier[0] ? outlier[1] * run * gaussian(random) : 0;
    const part = side === 'B' ? t.effect : 0;
    runs.push({
      side,
      visit,
      newStay: anew,
      value: part + dayOff + stayOff + scatter + wrong + slope * k + warm * Math.exp(-k / 2),
    });
    anew = false;
    k += 1;
  }
  return runs;
}
