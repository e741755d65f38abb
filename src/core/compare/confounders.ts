import { airState } from '../air/state';
import type { GearboxDoc } from '../documents/job';
import type { PlanDoc } from '../documents/plan';
import type { PowerKind, RunDoc } from '../documents/run';
import { isFailure } from '../failure';
import { NORMAL_975 } from '../numbers/normal';
import { CORRECTION_METHODS } from '../documents/kinds';
import { correctionFactor } from '../runs/correction';
import { airOf, givenAir, USUAL_AIR } from '../runs/air';
import { correctionOf, type DynoRun } from '../runs/dyno-run';
import type { SideComparison } from './sides';
import { meaningOf, meanings } from './same-words';

export interface ComparedRun {
  readonly id: string;
  readonly doc: RunDoc;
  readonly run: DynoRun;
}

export type RecordField = 'gear' | 'fuel' | 'tune' | 'measuredAt' | 'pulley' | 'tyres';

/** Runs that are not as most are in one thing: what they have, and which they are. */
export interface Odd {
  readonly has: string;
  readonly runs: readonly string[];
}

/** Something other than the throttle that could have made the difference. Facts are SI or percent, as named. */
export type Confounder =
  | { readonly code: 'mixed_correction'; readonly a: string; readonly b: string; readonly odd: readonly Odd[]; readonly worth_pct: number }
  | { readonly code: 'unknown_correction'; readonly runs: readonly string[]; readonly worth_pct: number }
  /** The correction wants the humidity, these runs have the usual one, and what they are set against is not in the same air. */
  | {
      readonly code: 'humidity_unknown';
      readonly runs: readonly string[];
      readonly taken: number;
      readonly worth_pct: number;
      /** The true one could take the answer's word away. */
      readonly decides: boolean;
    }
  | { readonly code: 'overcorrected'; readonly corrected_pct: number; readonly uncorrected_pct: number }
  | { readonly code: 'smoothing'; readonly a: number | null; readonly b: number | null }
  | { readonly code: 'smoothing_unknown'; readonly runs: readonly string[] }
  | { readonly code: 'widened'; readonly to_rpm: number }
  | { readonly code: 'inlet_air'; readonly apart_K: number; readonly limit_K: number; readonly worth_pct: number }
  | { readonly code: 'coolant' | 'oil'; readonly apart_K: number; readonly limit_K: number }
  | {
      readonly code: 'air_density';
      readonly apart_pct: number;
      readonly limit_pct: number;
      readonly worth_pct: number;
      readonly corrected: boolean;
    }
  | { readonly code: 'days_apart'; readonly days: number; readonly bothEachDay: boolean }
  | { readonly code: 'other_record'; readonly field: RecordField; readonly a: string; readonly b: string; readonly odd: readonly Odd[] }
  | { readonly code: 'more_changed'; readonly text: string }
  /** Some runs say where they were measured, others do not: between wheels and engine lies more than any throttle makes. */
  | { readonly code: 'unknown_place'; readonly runs: readonly string[]; readonly others: string; readonly worth_pct: number }
  | { readonly code: 'gear_far'; readonly gear: string; readonly ratio: number; readonly better: number }
  | { readonly code: 'short_range'; readonly share: number }
  /** A side stayed on the car once: a refit alone could make the difference, by this much, 95 %. */
  | { readonly code: 'one_stay_a_side'; readonly worth_pct: number }
  /** These make so much of what the others make as no throttle does: another car, gear or unit. */
  | { readonly code: 'other_level'; readonly runs: readonly string[]; readonly share: number }
  /** Two files hold the very same run. */
  | { readonly code: 'duplicate'; readonly runs: readonly string[] }
  /** Nothing says in which order the runs were driven. */
  | { readonly code: 'order_guessed' }
  /** Some runs gave way to another of their columns, so that all are of one kind of power. */
  | { readonly code: 'one_kind'; readonly runs: readonly string[]; readonly at: string; readonly carried: string };

const BREAKING: ReadonlySet<Confounder['code']> = new Set([
  'other_record',
  'more_changed',
  'mixed_correction',
  'unknown_place',
  'duplicate',
  'other_level',
]);
/** What a drivetrain takes between engine and wheels, about, %. */
const DRIVETRAIN_pct = 15;

/** Those that make the figures speak of something else than the part: until they are gone there is no comparison. */
export const breaking = (found: readonly Confounder[]): readonly Confounder[] =>
  found.filter((c) => BREAKING.has(c.code) || (c.code === 'humidity_unknown' && c.decides));

/** Limits beyond which a difference in the conditions counts where the plan says nothing. Testing basis §1. */
const CONFOUNDER_LIMITS = { inletAir_K: 3, coolant_K: 5, oil_K: 10, density_pct: 1 } as const;
/** Two methods on one day differ by about this much, %, where the weather is not known (STD against J1349). */
const METHOD_APART_pct = 4;
/** A common range shorter than this share of the widest run leaves too much unsaid. */
const SHORT_RANGE = 0.75;
/** Ratios this far from 1:1 and further than another gear's make a chassis run worse than it need be. */
const GEAR_FAR = 0.15;
const RECORD_FIELDS: readonly RecordField[] = ['measuredAt', 'gear', 'fuel', 'tune', 'pulley', 'tyres'];

const mean = (values: readonly (number | null)[]): number | null => {
  const known = values.filter((v): v is number => v !== null);
  return known.length === 0 ? null : known.reduce((s, v) => s + v, 0) / known.length;
};
const apart = (a: readonly (number | null)[], b: readonly (number | null)[]): number | null => {
  const [ma, mb] = [mean(a), mean(b)];
  return ma === null || mb === null ? null : mb - ma;
};

const densityOf = ({ doc }: ComparedRun): number | null => {
  const weather = airOf(doc);
  const air = weather && airState(weather);
  return !air || isFailure(air) ? null : air.density_kgpm3;
};

export interface FairContext {
  readonly plan: PlanDoc;
  readonly gearbox: GearboxDoc;
  readonly comparison: SideComparison;
  /** The deciding difference without any correction, %, where a wastegate makes corrections doubtful. */
  readonly uncorrected_pct: number | null;
  /** The order of the runs is a guess. */
  readonly orderGuessed?: boolean;
  /** What the runs are compared by, and which of them had to give way for it. */
  readonly oneKind?: { readonly kind: PowerKind | null; readonly changed: readonly string[] };
}

/**
 * The runs that are not as most are, where a side is not of one kind in itself: leaving them out may mend it. None where the sides
 * part cleanly, and none where no kind is the commonest.
 * @param kindOf what a run has by its meaning and in its own words; null: it does not say
 */
function oddOnes(
  a: readonly ComparedRun[],
  b: readonly ComparedRun[],
  kindOf: (r: ComparedRun) => { readonly meaning: string; readonly has: string } | null,
): Odd[] {
  const kinds = new Map<string, { has: string; runs: string[] }>();
  const within = [a, b].map((runs) => {
    const seen = new Set<string>();
    for (const r of runs) {
      const kind = kindOf(r);
      if (!kind) continue;
      seen.add(kind.meaning);
      const one = kinds.get(kind.meaning) ?? { has: kind.has, runs: [] };
      one.runs.push(r.doc.name);
      kinds.set(kind.meaning, one);
    }
    return seen.size;
  });
  const [most, ...others] = [...kinds.values()].sort((x, y) => y.runs.length - x.runs.length);
  return Math.max(...within) < 2 || !most || most.runs.length === others[0]!.runs.length ? [] : others;
}

/** Runs of which it is not known where they were measured, among others of which it is. */
function places(runs: readonly ComparedRun[]): Confounder[] {
  const unknown = runs.filter((r) => r.doc.measuredAt === 'unknown');
  const known = [...new Set(runs.map((r) => r.doc.measuredAt).filter((m) => m !== 'unknown'))];
  if (unknown.length === 0 || known.length === 0) return [];
  return [{ code: 'unknown_place', runs: unknown.map((r) => r.doc.name), others: known.join(', '), worth_pct: DRIVETRAIN_pct }];
}

function corrections(a: readonly ComparedRun[], b: readonly ComparedRun[], context: FairContext): Confounder[] {
  const found: Confounder[] = [];
  const words = (runs: readonly ComparedRun[]): string => [...new Set(runs.map((r) => r.run.correction))].join(', ');
  const all = [...a, ...b];
  const unknown = all.filter((r) => r.run.correction === 'unknown');
  if (words(a) !== words(b) || new Set(all.map((r) => r.run.correction)).size > 1)
    found.push({
      code: 'mixed_correction',
      a: words(a),
      b: words(b),
      odd: oddOnes(a, b, ({ run }) => ({ meaning: run.correction, has: run.correction })),
      worth_pct: methodsApart(all),
    });
  else if (unknown.length > 0)
    found.push({ code: 'unknown_correction', runs: unknown.map((r) => r.doc.name), worth_pct: METHOD_APART_pct });
  found.push(...humidity(a, b, context.comparison));
  if (context.uncorrected_pct !== null)
    found.push({ code: 'overcorrected', corrected_pct: context.comparison.deciding.mean_pct, uncorrected_pct: context.uncorrected_pct });
  return found;
}

/** Humidities between which most days lie. */
const USUAL_HUMIDITIES = [0.2, 0.8] as const;
/** Less than this is not told, %. */
const TOLD_pct = 0.05;

/**
 * Runs corrected with the usual humidity because nobody gave theirs, and what the true one may make of the difference between the
 * sides. Those of one day had the same air: what both sides lack alike falls out; of an unknown day each run has its own.
 */
function humidity(a: readonly ComparedRun[], b: readonly ComparedRun[], { deciding }: SideComparison): Confounder[] {
  const unknown = [...a, ...b].filter((r) => humidityWorth(r) > 0);
  const byDay = new Map<string, number>();
  for (const [side, sign] of [
    [a, -1],
    [b, 1],
  ] as const)
    side.forEach((r, i) => {
      const day = r.doc.takenOn ?? `${sign} ${i}`;
      byDay.set(day, (byDay.get(day) ?? 0) + (sign * humidityWorth(r)) / side.length);
    });
  const worth_pct = [...byDay.values()].reduce((sum, w) => sum + Math.abs(w), 0);
  if (worth_pct < TOLD_pct) return [];
  const { low, high } = deciding.answer;
  const toNothing_pct = Math.max(low, -high);
  const decides = toNothing_pct > 0 && worth_pct >= toNothing_pct;
  return [{ code: 'humidity_unknown', runs: unknown.map((r) => r.doc.name), taken: USUAL_AIR.rh, worth_pct, decides }];
}

/** Half of what a run's corrected figures move by between a dry day and a damp one, %, where nobody gave its humidity. */
function humidityWorth({ doc, run }: ComparedRun): number {
  const air = airOf(doc);
  if (!air || givenAir(doc).rh !== null || run.correction === 'unknown') return 0;
  const to = run.correction;
  const [dry, damp] = USUAL_HUMIDITIES.map((rh) => correctionOf({ ...doc, weather: { ...air, rh } }, to).factor) as [number, number];
  return 50 * (damp / dry - 1);
}

/** How far the methods differ in the runs' own weather, %; the usual figure where none of it is known. */
function methodsApart(runs: readonly ComparedRun[]): number {
  const weather = runs.map((r) => airOf(r.doc)).find((air) => air !== null);
  if (!weather) return METHOD_APART_pct;
  const used = new Set(runs.map((r) => r.run.correction));
  const factors = CORRECTION_METHODS.filter((m) => used.has(m) || used.has('unknown')).flatMap((m) => {
    const c = correctionFactor(m, weather);
    return isFailure(c) ? [] : [c.factor];
  });
  return factors.length < 2 ? METHOD_APART_pct : 100 * (Math.max(...factors) / Math.min(...factors) - 1);
}

function smoothing(a: readonly ComparedRun[], b: readonly ComparedRun[], context: FairContext): Confounder[] {
  const widths = (runs: readonly ComparedRun[]): Set<number | null> => new Set(runs.map((r) => r.doc.carriedSmoothing_rpm));
  const [wa, wb] = [widths(a), widths(b)];
  const found: Confounder[] = [];
  const unknown = [...a, ...b].filter((r) => r.doc.carriedSmoothing_rpm === null);
  if (unknown.length > 0) found.push({ code: 'smoothing_unknown', runs: unknown.map((r) => r.doc.name) });
  else if (new Set([...wa, ...wb]).size > 1) found.push({ code: 'smoothing', a: [...wa][0] ?? null, b: [...wb][0] ?? null });
  if (context.comparison.widened) found.push({ code: 'widened', to_rpm: context.comparison.fwhm_rpm });
  return found;
}

function figures(a: readonly ComparedRun[], b: readonly ComparedRun[], { holds }: PlanDoc): Confounder[] {
  const found: Confounder[] = [];
  const starts = a.map((r) => r.run.inletAirStart_K);
  const inlet = apart(
    starts,
    b.map((r) => r.run.inletAirStart_K),
  );
  const inletLimit = holds.inletAir_K ?? CONFOUNDER_LIMITS.inletAir_K;
  // Power goes with the square root of the charge's temperature: half its relative change, the other way.
  if (inlet !== null && Math.abs(inlet) > inletLimit)
    found.push({ code: 'inlet_air', apart_K: inlet, limit_K: inletLimit, worth_pct: (-50 * inlet) / mean(starts)! });
  const cool = apart(
    a.map((r) => r.run.coolantStart_K),
    b.map((r) => r.run.coolantStart_K),
  );
  const coolLimit = holds.coolant_K ?? CONFOUNDER_LIMITS.coolant_K;
  if (cool !== null && Math.abs(cool) > coolLimit) found.push({ code: 'coolant', apart_K: cool, limit_K: coolLimit });
  const oil = apart(
    a.map((r) => r.doc.oilStart_K),
    b.map((r) => r.doc.oilStart_K),
  );
  if (oil !== null && Math.abs(oil) > CONFOUNDER_LIMITS.oil_K) found.push({ code: 'oil', apart_K: oil, limit_K: CONFOUNDER_LIMITS.oil_K });
  const rhoA = mean(a.map(densityOf));
  const rhoB = mean(b.map(densityOf));
  const densityLimit = holds.density === null ? CONFOUNDER_LIMITS.density_pct : 100 * holds.density;
  if (rhoA !== null && rhoB !== null) {
    const apart_pct = 100 * (rhoB / rhoA - 1);
    const corrected = ![...a, ...b].some((r) => r.run.correction === 'none' || r.run.correction === 'unknown');
    if (Math.abs(apart_pct) > densityLimit)
      found.push({ code: 'air_density', apart_pct, limit_pct: densityLimit, worth_pct: apart_pct, corrected });
  }
  return found;
}

function records(a: readonly ComparedRun[], b: readonly ComparedRun[]): Confounder[] {
  const found: Confounder[] = [];
  const saidOf = (r: ComparedRun, field: RecordField): string | null => {
    const said = r.doc[field].trim();
    return said === '' || said === 'unknown' ? null : said;
  };
  const words = (runs: readonly ComparedRun[], field: RecordField): string[] => runs.flatMap((r) => saidOf(r, field) ?? []);
  for (const field of RECORD_FIELDS) {
    const [ma, mb] = [meanings(field, words(a, field)), meanings(field, words(b, field))];
    const same = ma.size === mb.size && [...ma.keys()].every((m) => mb.has(m));
    if (ma.size === 0 || mb.size === 0 || same) continue;
    const odd = oddOnes(a, b, (r) => {
      const has = saidOf(r, field);
      return has === null ? null : { meaning: meaningOf(field, has), has };
    });
    found.push({ code: 'other_record', field, a: [...ma.values()].join(', '), b: [...mb.values()].join(', '), odd });
  }
  const changed = [...new Set([...a, ...b].map((r) => r.doc.otherChanges.trim()).filter((t) => t !== ''))];
  if (changed.length > 0) found.push({ code: 'more_changed', text: changed.join('; ') });
  const dates = (runs: readonly ComparedRun[]): string[] => [...new Set(runs.flatMap((r) => r.doc.takenOn ?? []))];
  const days = [...dates(a), ...dates(b)].map((d) => Date.parse(d) / 86_400_000);
  const between = days.length > 1 ? Math.max(...days) - Math.min(...days) : 0;
  const bothEachDay = dates(a).length > 0 && dates(a).every((d) => dates(b).includes(d)) && dates(a).length === dates(b).length;
  if (between >= 1) found.push({ code: 'days_apart', days: Math.round(between), bothEachDay });
  return found;
}

/** Runs of one side this far apart are not of one car, and no throttle makes this of an engine: hp taken for kW is 1.34. */
const SIDE_APART = 1.2;
const SIDES_APART = 1.3;

/** A run's mean power over its samples between two speeds, W. */
function meanPower({ run }: ComparedRun, from_rpm: number, to_rpm: number): number {
  let work = 0;
  let over = 0;
  for (let i = 1; i < run.rpm.length; i += 1) {
    if (run.rpm[i - 1]! < from_rpm || run.rpm[i]! > to_rpm) continue;
    const step = run.rpm[i]! - run.rpm[i - 1]!;
    work += (step * (run.power_W[i]! + run.power_W[i - 1]!)) / 2;
    over += step;
  }
  return work / over;
}

interface Level {
  readonly name: string;
  readonly power_W: number;
}

/** Runs that lie on another level than the rest, whatever is compared; the fewer of the two groups are named. */
function levels(a: readonly ComparedRun[], b: readonly ComparedRun[], grid_rpm: readonly number[]): Confounder[] {
  const [from, to] = [grid_rpm[0]!, grid_rpm.at(-1)!];
  const [la, lb] = [a, b].map((runs) => runs.map((r) => ({ name: r.doc.name, power_W: meanPower(r, from, to) }))) as [Level[], Level[]];
  const apartBy = (runs: readonly Level[]): number => Math.max(...runs.map((r) => r.power_W)) / Math.min(...runs.map((r) => r.power_W));
  const all = [...la, ...lb];
  if (!(Math.max(apartBy(la), apartBy(lb)) > SIDE_APART || apartBy(all) > SIDES_APART)) return [];
  const middle = Math.sqrt(Math.max(...all.map((r) => r.power_W)) * Math.min(...all.map((r) => r.power_W)));
  const [low, high] = [all.filter((r) => r.power_W < middle), all.filter((r) => r.power_W >= middle)];
  const [named, others] = high.length < low.length ? [high, low] : [low, high];
  const of = (runs: readonly Level[]): number => runs.reduce((sum, r) => sum + r.power_W, 0) / runs.length;
  return [{ code: 'other_level', runs: named.map((r) => r.name), share: of(named) / of(others) }];
}
interface Level {
  readonly name: string;
  readonly power_W: number;
}

/** Runs whose samples are the same to the last figure: one run, exported twice. */
function duplicates(runs: readonly ComparedRun[]): Confounder[] {
  const same = new Map<string, string[]>();
  for (const { doc, run } of runs) {
    const key = `${run.rpm.length}|${run.rpm.slice(0, 40).join()}|${run.power_W.slice(0, 40).join()}|${run.power_W.at(-1)}`;
    same.set(key, [...(same.get(key) ?? []), doc.name]);
  }
  return [...same.values()].flatMap((names): Confounder[] => (names.length > 1 ? [{ code: 'duplicate', runs: names }] : []));
}

/** A chassis run wants the gear nearest 1:1. */
function gearFar(runs: readonly ComparedRun[], { ratios }: GearboxDoc): Confounder[] {
  const off = (ratio: number): number => Math.abs(Math.log(ratio));
  for (const { doc } of runs) {
    const gear = Number(/\d+/.exec(doc.gear)?.[0] ?? NaN);
    const ratio = ratios[gear - 1];
    if (ratio === undefined || doc.measuredAt === 'crank') continue;
    const best = ratios.reduce((k, r, i) => (off(r) < off(ratios[k]!) ? i : k), 0);
    if (off(ratio) > GEAR_FAR && best !== gear - 1) return [{ code: 'gear_far', gear: doc.gear, ratio, better: best + 1 }];
  }
  return [];
}

/**
 * Everything in the runs' records, and in the plan that was made for them, that makes side B (new) against side A (stock)
 * an unfair comparison, with what it could be worth where that can be said. Testing basis §1.
 */
export function confounders(a: readonly ComparedRun[], b: readonly ComparedRun[], context: FairContext): Confounder[] {
  const { plan, comparison } = context;
  const found: Confounder[] = [
    ...levels(a, b, comparison.grid_rpm),
    ...records(a, b),
    ...places([...a, ...b]),
    ...corrections(a, b, context),
    ...smoothing(a, b, context),
    ...figures(a, b, plan),
    ...gearFar([...a, ...b], context.gearbox),
  ];
  const widest = [...a, ...b].reduce((m, { run }) => Math.max(m, run.rpm.at(-1)! - run.rpm[0]!), 0);
  const share = (comparison.grid_rpm.at(-1)! - comparison.grid_rpm[0]!) / widest;
  if (share < SHORT_RANGE) found.push({ code: 'short_range', share });
  if (context.orderGuessed) found.push({ code: 'order_guessed' });
  else if (comparison.staysA === 1 || comparison.staysB === 1) {
    const { refit } = comparison.deciding.answer.sizes;
    const stays = 1 / comparison.staysA + 1 / comparison.staysB;
    found.push({ code: 'one_stay_a_side', worth_pct: NORMAL_975 * refit.sd * Math.sqrt(stays) });
  }
  found.push(...duplicates([...a, ...b]));
  const { kind = null, changed = [] } = context.oneKind ?? {};
  if (kind && changed.length > 0)
    found.push({ code: 'one_kind', runs: changed, at: kind.at ?? 'unknown', carried: kind.carried ?? 'unknown' });
  return found;
}
