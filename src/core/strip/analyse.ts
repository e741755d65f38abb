import { answerFrom, moreRuns, type Answer, type Better } from '../compare/answer';
import { permutationTest, type Permutation, type SideMark } from '../compare/permutation';
import type { StoredPass, StripBook, StripVisitDoc, WeatherReadingDoc } from '../documents/strip';
import type { InductionKind } from '../documents/induction';
import { isFailure, type Failure } from '../failure';
import { minuteOf } from '../numbers/clock';
import { meanOf } from '../numbers/moments';
import { nextPass, type NextPass } from './design';
import { passPower, type PassPower } from './estimates';
import { correctPass, matchedPairs, sideEffect, type Pass, type PowerKind, type SideEffect } from './passes';
import { FINISH, slipIssues, type Slip } from './slip';

/** How an engine's power goes with the air: what its passes are corrected by. */
export function powerKind(kind: InductionKind): PowerKind {
  return kind === 'turbo' ? 'turbo' : kind === 'drawThrough' || kind === 'centrifugal' ? 'belt' : 'na';
}

export interface NearestWeather {
  readonly reading: WeatherReadingDoc;
  /** Minutes between the reading and the pass; null: the pass has no time of day. */
  readonly gap_min: number | null;
}

/** The reading nearest in time to a pass; of a day with one reading that one, whatever the pass says. Null: none was taken. */
export function nearestWeather(readings: readonly WeatherReadingDoc[], at: string | null): NearestWeather | null {
  if (readings.length === 0) return null;
  if (at === null) return readings.length === 1 ? { reading: readings[0]!, gap_min: null } : null;
  const gaps = readings.map((r) => Math.abs(minuteOf(r.at) - minuteOf(at)));
  const k = gaps.reduce((best, g, i) => (g < gaps[best]! ? i : best), 0);
  return { reading: readings[k]!, gap_min: gaps[k]! };
}

/** What a pass is judged by. Lower is better for times, higher for the speed over the line. */
export const STRIP_MEASURES = ['et_s', 'trap_mps', 'sixty_s'] as const;
export type StripMeasure = (typeof STRIP_MEASURES)[number];
/** Stretches of the course that tell where the difference was made. */
export const STRIP_PARTS = ['launch', 'traction', 'power'] as const;
export type StripPart = (typeof STRIP_PARTS)[number];

export interface ReadPass {
  readonly stored: StoredPass;
  readonly visit: string;
  readonly side: SideMark;
  readonly slip: Slip;
  readonly et_s: number | null;
  readonly trap_mps: number | null;
  readonly sixty_s: number | null;
  readonly weather: NearestWeather | null;
  readonly densityAltitude_m: number | null;
  /** As it would have been in the reference air; null without weather. */
  readonly corrected: { readonly et_s: number; readonly trap_mps: number; readonly factor: number } | null;
  readonly power: PassPower | null;
  readonly doubtful: boolean;
}

export interface MeasuredEffect {
  readonly effect: SideEffect;
  readonly answer: Answer;
  readonly permutation: Permutation;
  /** Means as they were driven. */
  readonly meanA: number;
  readonly meanB: number;
}

export interface StripPair {
  readonly a: ReadPass;
  readonly b: ReadPass;
  readonly apart_m: number;
}

export interface StripAnalysis {
  readonly passes: readonly ReadPass[];
  readonly countA: number;
  readonly countB: number;
  readonly effects: Readonly<Record<StripMeasure, MeasuredEffect | Failure>>;
  /** Seconds over each part of the course, side B less side A. */
  readonly parts: Readonly<Record<StripPart, SideEffect | Failure>>;
  /** Which part of the course moved for certain; empty: none did. */
  readonly moved: readonly { readonly part: StripPart; readonly better: boolean }[];
  readonly pairs: readonly StripPair[];
  /** Change of power by the trap speed and by the time, as shares with their intervals (ΔP/P = 3·ΔV/V and −3·ΔET/ET). */
  readonly powerBySpeed: { readonly share: number; readonly low: number; readonly high: number } | null;
  readonly powerByTime: { readonly share: number; readonly low: number; readonly high: number } | null;
  readonly next: readonly NextPass[];
}

export interface StripThresholds {
  readonly et_s: number;
  readonly trap_mps: number;
  readonly sixty_s: number;
}

/** Smallest differences that matter unless a person says otherwise: 0.05 s, half a mile an hour. Testing basis §4. */
export const STRIP_THRESHOLDS: StripThresholds = { et_s: 0.05, trap_mps: 0.5 * 0.44704, sixty_s: 0.02 };

const BETTER: Readonly<Record<StripMeasure, Better>> = { et_s: 'lower', trap_mps: 'higher', sixty_s: 'lower' };

const finishOf = (slip: Slip, { course }: StripVisitDoc): { et_s: number | null; trap_mps: number | null } => ({
  et_s: slip[FINISH[course]],
  trap_mps: course === 'quarter' ? slip.v402_mps : slip.v201_mps,
});

/** Seconds over each part: the start to 60 ft, from there to 330 ft, and the last half of the course. */
function partsOf(slip: Slip, { course }: StripVisitDoc): Readonly<Record<StripPart, number | null>> {
  const between = (from: number | null, to: number | null): number | null => (from === null || to === null ? null : to - from);
  return {
    launch: slip.t18_s,
    traction: between(slip.t18_s, slip.t100_s),
    power: course === 'quarter' ? between(slip.t201_s, slip.t402_s) : between(slip.t100_s, slip.t201_s),
  };
}

function read(stored: StoredPass, visit: { id: string; doc: StripVisitDoc }, kind: PowerKind, unitId: string | null): ReadPass | null {
  const { doc } = stored;
  const { side } = doc;
  if (doc.leftOut !== null || side === null) return null;
  if (side.kind === 'unit' && side.unitId !== unitId) return null;
  const { et_s, trap_mps } = finishOf(doc.slip, visit.doc);
  const weather = nearestWeather(visit.doc.weather, doc.at);
  const done = weather === null ? null : correctPass({ kind, weather: weather.reading, et_s: et_s ?? 1, trapSpeed_mps: trap_mps ?? 1 });
  const known = done !== null && !isFailure(done);
  const mass = visit.doc.mass_kg;
  return {
    stored,
    visit: visit.id,
    side: side.kind === 'stock' ? 'A' : 'B',
    slip: doc.slip,
    et_s,
    trap_mps,
    sixty_s: doc.slip.t18_s,
    weather,
    densityAltitude_m: known ? done.densityAltitude_m : null,
    corrected: known && et_s !== null && trap_mps !== null ? { et_s: done.et_s, trap_mps: done.trapSpeed_mps, factor: done.factor } : null,
    // Hale's relations hold for the quarter mile.
    power:
      mass !== null && et_s !== null && trap_mps !== null && visit.doc.course === 'quarter'
        ? passPower({ mass_kg: mass, trapSpeed_mps: trap_mps, et_s })
        : null,
    doubtful: slipIssues(doc.slip).length > 0,
  };
}

const asPass = (p: ReadPass): Pass => ({
  side: p.side,
  visit: p.visit,
  densityAltitude_m: p.densityAltitude_m ?? undefined,
  coolant_K: p.stored.doc.coolant_K ?? undefined,
  inlet_K: p.stored.doc.inlet_K ?? undefined,
});

function valued(passes: readonly ReadPass[], f: (p: ReadPass) => number | null): (Pass & { value: number })[] {
  return passes.flatMap((p) => {
    const value = f(p);
    return value === null ? [] : [{ ...asPass(p), value }];
  });
}

function measured(passes: readonly ReadPass[], measure: StripMeasure, threshold: number): MeasuredEffect | Failure {
  const values = valued(passes, (p) => p[measure]);
  const effect = sideEffect(values);
  if (isFailure(effect)) return effect;
  const permutation = permutationTest({
    values: values.map((v) => v.value),
    side: values.map((v) => v.side),
    visit: values.map((v) => v.visit),
  });
  if (isFailure(permutation)) return permutation;
  const found = answerFrom(effect, threshold, BETTER[measure]);
  const mean = (side: SideMark): number => meanOf(values.filter((v) => v.side === side).map((v) => v.value));
  const smaller = Math.min(values.filter((v) => v.side === 'A').length, values.filter((v) => v.side === 'B').length);
  const answer: Answer =
    found.answer === "can't tell yet" ? { ...found, moreRunsPerSide: moreRuns(threshold, effect.residualSd, smaller) } : found;
  return { effect, answer, permutation, meanA: mean('A'), meanB: mean('B') };
}

/**
 * Stock against one unit at the strip, over every visit: ET, trap speed and 60 ft each with one of the four answers, which
 * part of the course moved, matched pairs, and what the next pass would tell. Passes left out, without a side or with
 * another unit are not counted. Testing basis §3 and §4.
 */
export function analyseStrip(
  book: StripBook,
  options: { readonly kind: PowerKind; readonly unitId: string | null; readonly thresholds?: StripThresholds | undefined },
): StripAnalysis {
  const thresholds = options.thresholds ?? STRIP_THRESHOLDS;
  const passes = book.visits.flatMap((visit) =>
    book.passes.filter((p) => p.visitId === visit.id).flatMap((p) => read(p, visit, options.kind, options.unitId) ?? []),
  );
  const visitDoc = new Map(book.visits.map((v) => [v.id, v.doc]));
  const effects = {
    et_s: measured(passes, 'et_s', thresholds.et_s),
    trap_mps: measured(passes, 'trap_mps', thresholds.trap_mps),
    sixty_s: measured(passes, 'sixty_s', thresholds.sixty_s),
  };
  const part = (name: StripPart): SideEffect | Failure => sideEffect(valued(passes, (p) => partsOf(p.slip, visitDoc.get(p.visit)!)[name]));
  const parts = { launch: part('launch'), traction: part('traction'), power: part('power') };
  const sure = (e: SideEffect | Failure): number => (isFailure(e) ? 0 : e.high < 0 ? 1 : e.low > 0 ? -1 : 0);
  const { trap_mps } = effects;
  // Sure but smaller than matters is not a move worth naming.
  const named = (e: MeasuredEffect | Failure, sign: number): number => (isFailure(e) || e.answer.equivalent ? 0 : sign);
  const bySpeed = isFailure(trap_mps) ? 0 : named(trap_mps, -sure(trap_mps.effect));
  const signs: Readonly<Record<StripPart, number>> = {
    launch: named(effects.sixty_s, sure(parts.launch)),
    traction: sure(parts.traction),
    // Speed over the line is the witness of power: a good start shortens the last stretch too. Only unmeasured, time speaks for it.
    power: isFailure(trap_mps) ? sure(parts.power) : bySpeed,
  };
  const share = (e: MeasuredEffect | Failure, times: number): StripAnalysis['powerBySpeed'] => {
    if (isFailure(e)) return null;
    const of = (x: number): number => (times * x) / e.meanA;
    const [x, y] = [of(e.effect.low), of(e.effect.high)];
    return { share: of(e.effect.effect), low: Math.min(x, y), high: Math.max(x, y) };
  };
  const values = valued(passes, (p) => p.trap_mps);
  return {
    passes,
    countA: passes.filter((p) => p.side === 'A').length,
    countB: passes.filter((p) => p.side === 'B').length,
    effects,
    parts,
    moved: STRIP_PARTS.flatMap((name) => (signs[name] === 0 ? [] : [{ part: name, better: signs[name] > 0 }])),
    pairs: matchedPairs(passes.map(asPass)).map(([i, j]) => ({
      a: passes[i]!,
      b: passes[j]!,
      apart_m: passes[j]!.densityAltitude_m! - passes[i]!.densityAltitude_m!,
    })),
    powerBySpeed: share(trap_mps, 3),
    powerByTime: share(effects.et_s, -3),
    next: isFailure(trap_mps) ? [] : nextPass(values, trap_mps.effect.terms, trap_mps.effect.residualSd),
  };
}
