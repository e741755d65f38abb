import { capital } from '@/core/cut-text';
import type { Confounder, Odd } from '@/core/compare/confounders';
import { BRIDGED_rpm, type SideComparison, type Stretch } from '@/core/compare/sides';
import type { Deciding } from '@/core/documents/kinds';
import type { UnitPack } from '@/core/units/measures';
import { formatNumber, formatQuantity, formatSigned } from '@/core/units/quantity';
import { nextWords, widestWords, WORD_TITLES } from '@/ui/answer/inference-words';
import { rpmText } from '@/ui/answer/words';

const STRETCH_WORDS: Readonly<Record<string, string>> = {
  whole: 'the whole range',
  bottom: 'the bottom third',
  middle: 'the middle third',
  top: 'the top third',
};

/** A stretch of the range in words. */
export const stretchName = (s: Pick<Stretch, 'id' | 'from_rpm' | 'to_rpm'>): string =>
  STRETCH_WORDS[s.id] ?? `${formatNumber(s.from_rpm, 0)} to ${rpmText(s.to_rpm)}`;

export const DECIDING_WORDS: Readonly<Record<Deciding, string>> = {
  whole: 'the whole range',
  bottom: 'the bottom third',
  middle: 'the middle third',
  top: 'the top third',
  own: 'the first own band',
};

const pct = (value: number): string => formatSigned(value, 1, '%');
const count = (n: number, one: string): string => `${n} ${one}${n === 1 ? '' : 's'}`;

const stays = (n: number): string => (n === 1 ? 'one stay' : `${n} stays`);

/** What it rests on: "6 stock and 6 new runs in 2 and 2 stays". */
export function runsEach(c: SideComparison): string {
  if (c.runsA === 1 && c.runsB === 1) return 'one run a side';
  const runs = `${c.runsA} stock and ${c.runsB} new ${c.runsA + c.runsB > 2 ? 'runs' : 'run'}`;
  const each = c.staysA === c.staysB ? `${stays(c.staysA)} a side` : `${stays(c.staysA)} and ${stays(c.staysB)}`;
  return `${runs}, ${each}${c.visits > 1 ? ` on ${c.visits} days` : ''}`;
}

export const intervalText = (s: Stretch): string => `95 % interval ${pct(s.answer.low)} to ${pct(s.answer.high)}`;

/** Of the only clear stretch what lies outside it; a sliver at an end is left unsaid: it would read as half the range. */
function restWords(c: SideComparison, one: SideComparison['clear'][number]): string {
  const below = one.from_rpm - c.grid_rpm[0]! > BRIDGED_rpm;
  const above = c.grid_rpm.at(-1)! - one.to_rpm > BRIDGED_rpm;
  return below && above ? ', nothing sure elsewhere' : below ? ', nothing sure below' : above ? ', nothing sure above' : '';
}

/** Where the band is clear of nothing: "gain above 5,200 rpm, nothing below". */
export function clearWords(c: SideComparison): string {
  const words = c.clear.map((r) => {
    const what = r.sign > 0 ? 'gain' : 'loss';
    if (r.to_rpm === c.grid_rpm.at(-1) && r.from_rpm === c.grid_rpm[0]) return `${what} from end to end`;
    if (r.to_rpm === c.grid_rpm.at(-1)) return `${what} above ${rpmText(r.from_rpm)}`;
    if (r.from_rpm === c.grid_rpm[0]) return `${what} below ${rpmText(r.to_rpm)}`;
    return `${what} from ${formatNumber(r.from_rpm, 0)} to ${rpmText(r.to_rpm)}`;
  });
  if (words.length === 0) return '';
  return `${words.join('; ')}${c.clear.length === 1 ? restWords(c, c.clear[0]!) : ''}`;
}

/** The answer to "did it do anything?", no stronger than the runs allow. */
export function comparisonAnswer(c: SideComparison, name: string): string {
  const d = c.deciding;
  const where = stretchName(d);
  const by = pct(d.mean_pct);
  const clear = clearWords(c);
  switch (c.word) {
    case 'gain':
      return `Gain: ${name} made ${by} over ${where}${clear ? `; ${clear}` : ''}.`;
    case 'loss':
      return `Loss: ${name} made ${by} over ${where}${clear ? `; ${clear}` : ''}.`;
    case 'no difference that matters':
      return clear
        ? `No difference that matters over ${where}, but ${clear}.`
        : `No difference that matters: ${name} is within ±${formatNumber(c.threshold_pct, 1)} % of stock over ${where}.`;
    default:
      return clear
        ? `Can’t tell over ${where} yet (${by}), but ${clear}.`
        : `Can’t tell yet: ${by} over ${where}, ${pct(d.answer.low)} to ${pct(d.answer.high)}.`;
  }
}

const percent = (half: number): string => `${formatNumber(half, 1)} %`;

/** The answer told the other way, where one run more or less makes another word of it. */
function otherWayWords(c: SideComparison): string[] {
  const told = (w: NonNullable<SideComparison['withLeftOut']>): string =>
    `${WORD_TITLES[w.word].toLowerCase()}, ${pct(w.mean_pct)} (${pct(w.low_pct)} to ${pct(w.high_pct)})`;
  const out: string[] = [];
  const { withoutSuspect, withLeftOut, deciding } = c;
  if (withoutSuspect) {
    const at = deciding.runs.findIndex((r) => r.index === withoutSuspect.runs[0]) + 1;
    out.push(
      `Run ${at} of the day stands apart: make one more run before the part comes off. ${withoutSuspect.word === c.word ? 'Without it the word is the same' : 'Without it the word is another'}: ${told(withoutSuspect)}.`,
    );
  }
  if (withLeftOut) out.push(`With what was left out: ${told(withLeftOut)}${withLeftOut.word === c.word ? '' : ' — the word hangs on it'}.`);
  return out;
}

export function comparisonReason(c: SideComparison, money: (amount: number) => string): string {
  const d = c.deciding;
  const parts = [`${intervalText(d)} from ${runsEach(c)}.`, widestWords(d.answer, percent), ...otherWayWords(c)];
  const last = d.runs.at(-1)!.side;
  if (c.next) parts.push(nextWords(c.next, last, 'dyno', money, `at most ${pct(d.answer.low)} to ${pct(d.answer.high)}`));
  const others = c.thirds.filter((t) => t.id !== d.id).map((t) => `${STRETCH_WORDS[t.id]} ${pct(t.mean_pct)}`);
  parts.push(`${capital(others.join(', '))}.`);
  return parts.join(' ');
}

export interface ConfounderWords {
  readonly what: string;
  readonly worth: string | null;
  readonly todo: string;
}

const FIELD = { gear: 'Gear', fuel: 'Fuel', tune: 'Tune', measuredAt: 'Where it was measured', pulley: 'Pulley', tyres: 'Tyres' } as const;
const and = (list: string): string => list.replace(/, ([^,]*)$/, ' and $1');
/** So many runs are named; once those are put right, the others are. */
const MOST_NAMED = 4;
/** Runs by their names, which may hold commas of their own: "“stock 3” and “Fenwick 66, 2”". */
const named = (runs: readonly string[]): string => {
  const quoted = runs.slice(0, runs.length > MOST_NAMED ? MOST_NAMED - 1 : MOST_NAMED).map((r) => `“${r}”`);
  if (runs.length > MOST_NAMED) quoted.push(`${runs.length - MOST_NAMED + 1} more`);
  return quoted.length < 2 ? quoted.join('') : `${quoted.slice(0, -1).join(', ')} and ${quoted.at(-1)}`;
};
/** More runs than this are a half of the day, not the odd ones. */
const MOST_ODD = 3;
/** The runs that are not as most are, behind what differs; `words` says what they have. */
function oddWords(odd: readonly Odd[], words: (has: string) => string): string {
  const few = odd.filter((o) => o.runs.length <= MOST_ODD);
  return few.length === 0 ? '' : ` (${few.map((o) => `${words(o.has)}: ${named(o.runs)}`).join('; ')})`;
}
const smoothed = (width: number | null): string => (width === null ? 'unknown' : width === 0 ? 'none' : `${width} rpm`);

const WHERE: Readonly<Record<string, string>> = { wheels: 'wheel power', hub: 'hub power', crank: 'engine power', unknown: 'power' };
const carriedWords = (carried: string): string =>
  carried === 'none' ? 'uncorrected' : carried === 'unknown' ? 'in a correction not known' : `corrected by ${carried}`;

/** A kind of power in words: "wheel power, uncorrected". */
const kindWords = ({ at, carried }: { readonly at: string | null; readonly carried: string | null }): string =>
  `${WHERE[at ?? 'unknown'] ?? 'power'}, ${carriedWords(carried ?? 'unknown')}`;

type Rise = (kelvin: number) => string;
type Of<K extends Confounder['code']> = Confounder & { readonly code: K };

const fluidWords = (c: Of<'coolant' | 'oil'>, rise: Rise): ConfounderWords => ({
  what: `${c.code === 'oil' ? 'Oil' : 'Coolant'} was ${rise(c.apart_K)} ${c.apart_K > 0 ? 'warmer' : 'cooler'} on the new side (held: within ${rise(c.limit_K)}).`,
  worth: null,
  todo: 'Start every pull from the same temperature.',
});

/** Each confounder in words, by its code: what it is, what it could be worth, what to do about it. */
const WORDS_OF: { readonly [K in Confounder['code']]: (c: Of<K>, rise: Rise) => ConfounderWords } = {
  mixed_correction: (c) => ({
    what: `Corrections are mixed: stock’s runs are ${and(c.a.split(', ').map(carriedWords).join(', '))}, the new side’s ${and(c.b.split(', ').map(carriedWords).join(', '))}${oddWords(c.odd, carriedWords)}.`,
    worth: `up to ${formatNumber(c.worth_pct, 1)} %`,
    todo: 'Enter what correction and weather each file has; it is then undone.',
  }),
  unknown_correction: (c) => ({
    what: `It is not known what correction ${named(c.runs)} ${c.runs.length === 1 ? 'carries' : 'carry'}.`,
    worth: `up to ${formatNumber(c.worth_pct, 0)} %`,
    todo: 'Ask the dyno, and set it in the run’s details.',
  }),
  humidity_unknown: (c) => ({
    what: `The humidity of ${named(c.runs)} is not known: ${formatNumber(100 * c.taken, 0)} % is taken.`,
    worth: `±${percent(c.worth_pct)} between a dry day and a damp one`,
    todo: 'Give it in the run’s details, from the dyno’s own station or the day’s weather.',
  }),
  overcorrected: (c) => ({
    what: 'A wastegate holds the boost in any air, so the correction over-corrects.',
    worth: `${pct(c.corrected_pct)} corrected, ${pct(c.uncorrected_pct)} uncorrected`,
    todo: 'Believe the uncorrected figure, or run both sides in the same air.',
  }),
  smoothing: (c) => ({
    what: `The files were smoothed differently before they came here: ${smoothed(c.a)} against ${smoothed(c.b)}.`,
    worth: null,
    todo: 'The rawer ones are smoothed to match. Export both raw if you can.',
  }),
  smoothing_unknown: (c) => ({
    what: `How much ${named(c.runs)} ${c.runs.length === 1 ? 'was' : 'were'} smoothed before is not known.`,
    worth: null,
    todo: 'Set it in the run’s details: a smoothed peak against a raw one is a false gain.',
  }),
  widened: (c) => ({
    what: `A file came smoothed by ${c.to_rpm} rpm, so every run is smoothed by that.`,
    worth: null,
    todo: 'Raw exports would show more.',
  }),
  inlet_air: (c, rise) => ({
    what: `Inlet air at the start was ${rise(c.apart_K)} ${c.apart_K > 0 ? 'warmer' : 'cooler'} on the new side (held: within ${rise(c.limit_K)}).`,
    worth: `about ${pct(c.worth_pct)} on the new side`,
    todo: 'Let it cool to the same start, or alternate the sides.',
  }),
  coolant: fluidWords,
  oil: fluidWords,
  air_density: (c) => ({
    what: `The air was ${formatNumber(Math.abs(c.apart_pct), 1)} % ${c.apart_pct > 0 ? 'denser' : 'thinner'} on the new side (held: within ${formatNumber(c.limit_pct, 1)} %).`,
    worth: c.corrected ? null : `about ${pct(c.worth_pct)}`,
    todo: c.corrected
      ? `Uncorrected it would be worth about ${pct(c.worth_pct)}; the correction takes out most of it.`
      : 'Choose a correction, or run both sides in the same hour.',
  }),
  days_apart: (c) =>
    c.bothEachDay
      ? {
          what: `The runs lie ${count(c.days, 'day')} apart, both sides on each day.`,
          worth: null,
          todo: 'Each day is compared with itself.',
        }
      : { what: `The runs are ${count(c.days, 'day')} apart.`, worth: null, todo: 'Run both sides on one day.' },
  other_record: (c) => ({
    what: `${FIELD[c.field]} differs: stock ran with ${and(c.a)}, the new side with ${and(c.b)}${oddWords(c.odd, (has) => has)}.`,
    worth: null,
    todo: 'Change one thing at a time, or leave the odd runs out.',
  }),
  more_changed: (c) => ({
    what: `Something else was changed too: ${c.text}.`,
    worth: null,
    todo: 'The difference belongs to both changes together.',
  }),
  gear_far: (c) => ({
    what: `Run in ${c.gear} (${formatNumber(c.ratio, 2)} : 1).`,
    worth: null,
    todo: `Gear ${c.better} is nearer to 1 : 1: less torque through the tyres, less slip.`,
  }),
  short_range: (c) => ({
    what: `Only ${formatNumber(100 * c.share, 0)} % of the widest run is common to all of them.`,
    worth: null,
    todo: 'Leave out a run that began late or ended early.',
  }),
  one_stay_a_side: (c) => ({
    what: 'A part was on the car only once: taking it off and on alone could make the difference.',
    worth: `±${percent(c.worth_pct)}`,
    todo: 'Put the other part on once more; more runs in one stay cannot make up for it.',
  }),
  other_level: (c) => ({
    what: `${named(c.runs)} ${c.runs.length === 1 ? 'makes' : 'make'} ${c.share.toFixed(2)} times the power of the others.`,
    worth: null,
    todo: 'No throttle does that: look for another car, gear or unit, put it right in the details, or leave them out.',
  }),
  duplicate: (c) => ({
    what: `${named(c.runs)} are the same run to the last figure.`,
    worth: null,
    todo: 'Leave one of them out: a run counted twice looks like one that repeated.',
  }),
  unknown_place: (c) => ({
    what: `It is not known where ${named(c.runs)} ${c.runs.length === 1 ? 'was' : 'were'} measured, and the others were at the ${c.others}.`,
    worth: `up to ${c.worth_pct} %`,
    todo: 'Say it in the run’s details: between engine and wheels lies more than a throttle makes.',
  }),
  order_guessed: () => ({
    what: 'Nothing says in which order these runs were driven, so each side is taken as one stay a day, which tells least.',
    worth: null,
    todo: 'Drag the runs into the order they were driven, or give each its time of day.',
  }),
  one_kind: (c) => ({
    what: `The files hold several kinds of power. All runs are compared by the one they share: ${kindWords(c)}; ${named(c.runs)} gave way to it.`,
    worth: null,
    todo: 'Nothing, where that is the kind you mean; else change which column is the power in the records.',
  }),
};

/** A confounder in words, its temperatures in the reader's units. */
export function confounderWords(c: Confounder, pack: UnitPack): ConfounderWords {
  const words = WORDS_OF[c.code] as (c: Confounder, rise: Rise) => ConfounderWords;
  return words(c, (kelvin) => formatQuantity(Math.abs(kelvin), 'temperatureRise', pack));
}
