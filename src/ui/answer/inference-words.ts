import { capital } from '@/core/cut-text';
import type { AnswerWord, SidesAnswer } from '@/core/inference/answer';
import type { NextAnswer, NextOption, NextStep } from '@/core/inference/next';
import type { Group } from '@/core/inference/study';
import { NORMAL_975 } from '@/core/numbers/normal';
import { formatNumber } from '@/core/units/quantity';

/** One of the four words as it begins a sentence. */
export const WORD_TITLES: Readonly<Record<AnswerWord, string>> = {
  'no difference that matters': 'No difference that matters',
  gain: 'Gain',
  loss: 'Loss',
  "can't tell yet": 'Can’t tell yet',
};

interface GroupWords {
  /** As a name in a table. */
  readonly name: string;
  /** "…alone could make ±0.6 %". */
  readonly alone: string;
  readonly todo: string;
}

export const GROUP_WORDS: Readonly<Record<Group, GroupWords>> = {
  run: { name: 'single runs', alone: 'the scatter of single runs', todo: 'more runs help' },
  refit: {
    name: 'taking it off and on',
    alone: 'taking the part off and on, and strapping down,',
    todo: 'more runs do not help, only putting the other part on once more does',
  },
  day: { name: 'the day', alone: 'the day, not the part,', todo: 'run both parts on one day, or on more days' },
  sideByVisit: {
    name: 'the part from day to day',
    alone: 'what the part does from one day to another',
    todo: 'only another day with both parts helps',
  },
  drift: { name: 'drift of the day', alone: 'the drift of the day', todo: 'go back to stock and run it again' },
  warmup: { name: 'warming up', alone: 'the engine still warming up', todo: 'warm it up first, and go back to stock' },
  weather: { name: 'the air', alone: 'the air, which differed between the sides,', todo: 'run both sides in the same air' },
  place: { name: 'the ground', alone: 'the road, not the car,', todo: 'drive both sides over one stretch, both ways' },
  wind: { name: 'the wind', alone: 'the wind, not the car,', todo: 'drive both sides in the same hour, both ways' },
  reading: { name: 'reading the picture', alone: 'reading the curve off a picture', todo: 'ask for the file' },
};

/** How much of the 95 % interval a group makes by itself, half of it. */
export const aloneHalf = (a: SidesAnswer, group: Group): number => NORMAL_975 * a.sd * Math.sqrt(a.shares[group]);

/** What carries the width, and what helps: "Taking the part off and on … alone could make ±0.6 % (assumed): …". */
export function widestWords(a: SidesAnswer, text: (half: number) => string): string {
  const { alone, todo } = GROUP_WORDS[a.widest];
  const words = `${alone} alone could make ±${text(aloneHalf(a, a.widest))}${a.widestIs === 'assumed' ? ', by an assumed size' : ''}: ${todo}.`;
  return capital(words);
}

const count = (n: number, one: string, many: string): string => `${n} more ${n === 1 ? one : many}`;

export const RUN_NAMES = {
  dyno: (n: number) => count(n, 'run', 'runs'),
  strip: (n: number) => count(n, 'pass', 'passes'),
} as const;

/** A step in words: "put stock back on for 3 runs". */
function stepWords(o: Pick<NextOption, 'step' | 'runs'>, last: 'A' | 'B', rig: keyof typeof RUN_NAMES): string {
  const [other, same] = last === 'B' ? ['stock', 'the new part'] : ['the new part', 'stock'];
  const runs = RUN_NAMES[rig];
  const STEPS: Readonly<Record<NextStep, string>> = {
    run: `make ${runs(o.runs)} as it stands`,
    stay: `put ${other} on once more, for ${runs(o.runs)}`,
    twoStays: `put ${other} on once more and then ${same}, ${runs(o.runs)} in all`,
    'visit A-B-A': `come back for a day of stock, new, stock, ${runs(o.runs)}`,
    'visit A-B-A-B': `come back for a day of stock, new, stock, new, ${runs(o.runs)}`,
  };
  return STEPS[o.step];
}

const per100 = (p: number): string => `${formatNumber(100 * p, 0)} in 100`;
const hours = (h: number): string => (h < 0.95 ? `${formatNumber(60 * h, 0)} min` : `${formatNumber(h, 1)} h`);

/** What the cheapest next step would be and how likely it settles it; else what the best would reach. */
export function nextWords(
  next: NextAnswer,
  last: 'A' | 'B',
  rig: keyof typeof RUN_NAMES,
  money: (amount: number) => string,
  range: string,
): string {
  const chosen = next.best === null ? null : next.options[next.best]!;
  if (chosen) {
    const cost = chosen.money > 0 ? `, ${money(chosen.money)}` : '';
    return `Cheapest that is as likely as not to tell: ${stepWords(chosen, last, rig)} (${hours(chosen.hours)}${cost}; ${per100(chosen.pWord)}).`;
  }
  const most = next.bestChance === null ? null : next.options[next.bestChance]!;
  return `Nothing within one more visit is likely to tell${most ? ` (at best ${per100(most.pWord)}, if you ${stepWords(most, last, rig)})` : ''}: treat the difference as ${range}.`;
}
