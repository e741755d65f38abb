import type { SideMark } from '../compare/permutation';
import type { StoredPass, StripBook, StripVisitDoc } from '../documents/strip';
import type { InductionKind } from '../documents/induction';
import { failure, isFailure, type Failure } from '../failure';
import { inferSides, inferStrip, prepareStrip, type SidesAnswer, type StripAnswer } from '../inference/answer';
import { nextStay, nextStripStay, type NextAnswer } from '../inference/next';
import { predictRun, type Prediction } from '../inference/predict';
import { RIG_ROWS, type Components } from '../inference/rig';
import { staysOf, type StudyRun } from '../inference/study';
import { meanOf } from '../numbers/moments';
import { airOfPass, nightMinutes } from './air-of-day';
import { passPower } from './estimates';
import { correctPass, matchedPairs, type Pass, type PowerKind } from './passes';
import { FINISH, slipIssues, type SlipField } from '../documents/slip';
import {
  STRIP_PARTS,
  type StripPart,
  STRIP_DISTANCES,
  type StripDistance,
  type ReadPass,
  type MeasuredEffect,
  type StripWarning,
  type DistanceEffect,
  type StripAnalysis,
  type StripThresholds,
  type StripOptions,
} from './analysis';

/** How an engine's power goes with the air: what its passes are corrected by. */
export function powerKind(kind: InductionKind): PowerKind {
  return kind === 'turbo' ? 'turbo' : kind === 'drawThrough' || kind === 'centrifugal' ? 'belt' : 'na';
}

const TIME_OF: Readonly<Record<StripDistance, SlipField>> = { quarter: 't402_s', thousand: 't305_s', eighth: 't201_s' };
const SPEED_OF: Readonly<Record<StripDistance, SlipField | null>> = { quarter: 'v402_mps', thousand: null, eighth: 'v201_mps' };
/** Smallest differences that matter unless a person says otherwise: 0.05 s, half a mile an hour. Testing basis §4. */
const STRIP_THRESHOLDS: StripThresholds = { et_s: 0.05, trap_mps: 0.5 * 0.44704, sixty_s: 0.02 };

/** The first part of a run scatters by this much less than the whole: 60 ft, and 60 to 330 ft. */
const PART_OF_TIME = { sixty: 0.4, traction: 0.4 } as const;

function scaled(share: number): Partial<Components> {
  const { run, refit, day, sideByVisit, drift, warmup, start } = RIG_ROWS.stripTime;
  return {
    run: run * share,
    refit: refit * share,
    day: day * share,
    sideByVisit: sideByVisit * share,
    drift: drift * share,
    warmup: warmup * share,
    start: start * share,
  };
}

function read(
  stored: StoredPass,
  visit: { id: string; doc: StripVisitDoc },
  minute: number | null,
  readings: Parameters<typeof airOfPass>[0],
  { kind, unitId }: StripOptions,
): ReadPass | null {
  const { doc } = stored;
  const { side } = doc;
  if (doc.leftOut !== null || side === null) return null;
  if (side.kind === 'unit' && side.unitId !== unitId) return null;
  const { course } = visit.doc;
  const et_s = doc.slip[FINISH[course]];
  const trap_mps = course === 'quarter' ? doc.slip.v402_mps : doc.slip.v201_mps;
  const weather = airOfPass(readings, minute);
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
    minute,
    weather,
    densityAltitude_m: known ? done.densityAltitude_m : null,
    corrected: known && et_s !== null && trap_mps !== null ? { et_s: done.et_s, trap_mps: done.trapSpeed_mps, factor: done.factor } : null,
    // Hale's relations hold for the quarter mile.
    power:
      mass !== null && et_s !== null && trap_mps !== null && course === 'quarter'
        ? passPower({ mass_kg: mass, trapSpeed_mps: trap_mps, et_s })
        : null,
    doubtful: slipIssues(doc.slip).length > 0,
  };
}

/** The passes of a visit in the order they were driven, on the night's own clock. */
function readVisit(visit: { id: string; doc: StripVisitDoc }, stored: readonly StoredPass[], options: StripOptions): ReadPass[] {
  const { weather } = visit.doc;
  const minutes = nightMinutes([...stored.map((p) => p.doc.at), ...weather.map((w) => w.at)]);
  const readings = weather.map((reading, i) => ({ reading, minute: minutes[stored.length + i]! }));
  return stored
    .map((p, i) => ({ p, i, minute: minutes[i]! }))
    .sort((a, b) => (a.minute !== null && b.minute !== null ? a.minute - b.minute : 0) || a.i - b.i)
    .flatMap(({ p, minute }) => read(p, visit, minute, readings, options) ?? []);
}

const asPass = (p: ReadPass): Pass => ({
  side: p.side,
  visit: p.visit,
  densityAltitude_m: p.densityAltitude_m ?? undefined,
  coolant_K: p.stored.doc.coolant_K ?? undefined,
  inlet_K: p.stored.doc.inlet_K ?? undefined,
});

interface Asked {
  readonly measure: 'time' | 'speed';
  readonly threshold: number;
  readonly components?: Partial<Components>;
}

const rigOf = (measure: Asked['measure']) => (measure === 'time' ? 'stripTime' : 'stripSpeed');

/** Passes with the figure that is asked for, as the inference takes them. */
function studyRuns(passes: readonly ReadPass[], f: (p: ReadPass) => number | null): { passes: ReadPass[]; runs: StudyRun[] } {
  const kept = passes.filter((p) => f(p) !== null);
  // What warms between passes is one column: the coolant where every pass has it, else the inlet air.
  const temperature = (['coolant_K', 'inlet_K'] as const).find((key) => kept.every((p) => p.stored.doc[key] !== null));
  return {
    passes: kept,
    runs: kept.map((p) => ({
      side: p.side,
      value: f(p)!,
      visit: p.visit,
      ...(p.densityAltitude_m !== null && { densityAltitude_m: p.densityAltitude_m }),
      ...(temperature && { start_K: p.stored.doc[temperature]! }),
    })),
  };
}

const airKnown = (runs: readonly StudyRun[]): boolean => runs.every((r) => r.densityAltitude_m !== undefined);

function measured(passes: readonly ReadPass[], f: (p: ReadPass) => number | null, asked: Asked, o: StripOptions): MeasuredEffect | Failure {
  const { passes: kept, runs } = studyRuns(passes, f);
  const { measure, threshold, components } = asked;
  const history = o.history?.[rigOf(measure)];
  const base = { runs, threshold, components, history };
  const answer: StripAnswer | SidesAnswer | Failure = airKnown(runs)
    ? inferStrip({ ...base, measure, kind: o.kind })
    : inferSides({ ...base, rig: rigOf(measure) });
  if (isFailure(answer)) return answer.error === 'too_few_runs' ? failure('too_few_passes') : answer;
  const mean = (side: SideMark): number => meanOf(runs.filter((r) => r.side === side).map((r) => r.value));
  return {
    answer,
    perMetre: 'perMetre' in answer ? (answer as StripAnswer).perMetre : null,
    meanA: mean('A'),
    meanB: mean('B'),
    passes: kept,
    stays: staysOf(runs).at(-1)! + 1,
    runs,
  };
}

const timed = (distance: StripDistance) => (p: ReadPass) => p.slip[TIME_OF[distance]];
const crossed =
  (distance: StripDistance) =>
  (p: ReadPass): number | null => {
    const field = SPEED_OF[distance];
    return field === null ? null : p.slip[field];
  };

/** The longest distance that both sides have a figure for; with none, the longest there is. */
function decidingDistance(passes: readonly ReadPass[]): StripDistance {
  const both = (d: StripDistance): boolean =>
    (['A', 'B'] as const).every((side) => passes.some((p) => p.side === side && (timed(d)(p) !== null || crossed(d)(p) !== null)));
  return (
    STRIP_DISTANCES.find(both) ??
    STRIP_DISTANCES.find((d) => passes.some((p) => timed(d)(p) !== null || crossed(d)(p) !== null)) ??
    'quarter'
  );
}

/** Side means farther apart than this are told: Pa, rpm, K, kg. */
const APART = { tyre: 10_000, launch: 200, coolant: 5, inlet: 5, mass: 10 } as const;
/** A side that took one lane this much more often than the other is told. */
const LANE_APART = 0.5;

function warningsOf(passes: readonly ReadPass[], book: StripBook, main: MeasuredEffect | Failure, distance: StripDistance): StripWarning[] {
  const found: StripWarning[] = [];
  const of = (side: SideMark): ReadPass[] => passes.filter((p) => p.side === side);
  const [a, b] = [of('A'), of('B')];
  if (a.length === 0 || b.length === 0) return found;
  const days = (list: readonly ReadPass[]): Set<string> => new Set(list.map((p) => p.visit));
  if ([...days(a)].every((v) => !days(b).has(v))) found.push({ code: 'sides_by_day' });
  else if (!isFailure(main) && main.stays === 2) found.push({ code: 'one_stay' });
  const left = (list: readonly ReadPass[]): number | null => {
    const known = list.filter((p) => p.stored.doc.lane !== '');
    return known.length === 0 ? null : known.filter((p) => p.stored.doc.lane === 'left').length / known.length;
  };
  const [la, lb] = [left(a), left(b)];
  if (la !== null && lb !== null && Math.abs(la - lb) > LANE_APART)
    found.push({ code: 'lane', a: la > 0.5 ? 'left' : 'right', b: lb > 0.5 ? 'left' : 'right' });
  const mean = (list: readonly ReadPass[], f: (p: ReadPass) => number | null): number | null => {
    const known = list.flatMap((p) => f(p) ?? []);
    return known.length === 0 ? null : meanOf(known);
  };
  const apart = (f: (p: ReadPass) => number | null): number => {
    const [x, y] = [mean(a, f), mean(b, f)];
    return x === null || y === null ? 0 : y - x;
  };
  const mass = new Map(book.visits.map((v) => [v.id, v.doc.mass_kg]));
  const apart_kg = apart((p) => mass.get(p.visit) ?? null);
  if (Math.abs(apart_kg) > APART.mass) found.push({ code: 'mass', apart_kg });
  for (const [code, field] of [
    ['tyre', 'tyre_Pa'],
    ['launch', 'launch_rpm'],
    ['coolant', 'coolant_K'],
    ['inlet', 'inlet_K'],
  ] as const) {
    const by = apart((p) => p.stored.doc[field]);
    if (Math.abs(by) > APART[code]) found.push({ code, apart: by });
  }
  const airless = passes.filter((p) => p.densityAltitude_m === null).length;
  if (airless > 0) found.push({ code: 'no_air', passes: airless });
  const others = STRIP_DISTANCES.filter((d) => d !== distance).flatMap((d) => {
    // A shorter mark of the same passes is no other distance: only passes that have not this one count.
    const n = passes.filter((p) => timed(d)(p) !== null && timed(distance)(p) === null).length;
    return n > 0 ? [{ distance: d, passes: n }] : [];
  });
  if (others.length > 0) found.push({ code: 'distances', others });
  return found;
}

/** The next pass on a side, in the air and on the car of the last one. */
function comingPass(
  side: SideMark,
  passes: readonly ReadPass[],
  effect: MeasuredEffect | Failure | null,
  measure: Asked['measure'],
  o: StripOptions,
): Prediction | null {
  if (effect === null || isFailure(effect)) return null;
  const last = passes.at(-1)!;
  const known = effect.runs;
  const final = known.at(-1)!;
  const asked: StudyRun = {
    side,
    value: 0,
    visit: last.visit,
    ...(final.start_K !== undefined && { start_K: final.start_K }),
    ...(last.densityAltitude_m !== null && { densityAltitude_m: last.densityAltitude_m }),
  };
  const row = { ...RIG_ROWS[rigOf(measure)] };
  if (!airKnown([...known, asked])) return predictRun([...known, asked], row, effect.answer);
  const prepared = prepareStrip({ runs: known, measure, kind: o.kind });
  if (isFailure(prepared)) return null;
  const middle = meanOf(known.map((r) => r.densityAltitude_m!));
  const bare = (r: StudyRun): number => prepared.perMetre * (r.densityAltitude_m! - middle);
  const runs = [...known.map((r) => ({ ...r, value: r.value - bare(r) })), asked];
  const found = predictRun(runs, row, effect.answer, [{ values: runs.map((r) => r.densityAltitude_m!), sd: prepared.air.sd }]);
  const by = bare(asked);
  return { value: found.value + by, low: found.low + by, high: found.high + by };
}

/**
 * Stock against one unit at the strip, over every visit: time, trap speed and 60 ft each with one of the four words, which part
 * of the course moved, matched pairs, what would tell next and what the next pass will do. Distances stand for themselves.
 * Passes left out, without a side or with another unit are not counted. Testing basis §3 and §4.
 */
export function analyseStrip(book: StripBook, options: StripOptions): StripAnalysis {
  const thresholds = options.thresholds ?? STRIP_THRESHOLDS;
  const passes = book.visits.flatMap((visit) =>
    readVisit(
      visit,
      book.passes.filter((p) => p.visitId === visit.id),
      options,
    ),
  );
  const distance = decidingDistance(passes);
  const time = { measure: 'time', threshold: thresholds.et_s } as const;
  const speed = { measure: 'speed', threshold: thresholds.trap_mps } as const;
  const effects = {
    et_s: measured(passes, timed(distance), time, options),
    trap_mps: measured(passes, crossed(distance), speed, options),
    sixty_s: measured(
      passes,
      (p) => p.sixty_s,
      { measure: 'time', threshold: thresholds.sixty_s, components: scaled(PART_OF_TIME.sixty) },
      options,
    ),
  };
  const traction = measured(
    passes,
    ({ slip }) => (slip.t18_s === null || slip.t100_s === null ? null : slip.t100_s - slip.t18_s),
    { measure: 'time', threshold: thresholds.sixty_s, components: scaled(PART_OF_TIME.traction) },
    options,
  );
  const without = (d: StripDistance): readonly ReadPass[] => passes.filter((p) => timed(distance)(p) === null && timed(d)(p) !== null);
  const others = STRIP_DISTANCES.filter((d) => d !== distance && without(d).length > 0).map((d): DistanceEffect => ({
    distance: d,
    et_s: measured(passes, timed(d), time, options),
    trap_mps: SPEED_OF[d] === null ? null : measured(passes, crossed(d), speed, options),
  }));
  // Sure but smaller than matters is not a move worth naming: the word alone counts.
  const sign = (e: MeasuredEffect | Failure): number =>
    isFailure(e) ? 0 : e.answer.word === 'gain' ? 1 : e.answer.word === 'loss' ? -1 : 0;
  const { trap_mps, et_s } = effects;
  const signs: Readonly<Record<StripPart, number>> = { launch: sign(effects.sixty_s), traction: sign(traction), power: sign(trap_mps) };
  const share = (e: MeasuredEffect | Failure, times: number): StripAnalysis['powerBySpeed'] => {
    if (isFailure(e)) return null;
    const of = (x: number): number => (times * x) / e.meanA;
    const [x, y] = [of(e.answer.low), of(e.answer.high)];
    return { share: of(e.answer.estimate), low: Math.min(x, y), high: Math.max(x, y) };
  };
  const main = isFailure(trap_mps) ? et_s : trap_mps;
  const sides = (['A', 'B'] as const).filter((side) => passes.some((p) => p.side === side));
  return {
    passes,
    countA: passes.filter((p) => p.side === 'A').length,
    countB: passes.filter((p) => p.side === 'B').length,
    distance,
    effects,
    others,
    traction,
    moved: STRIP_PARTS.flatMap((name) => (signs[name] === 0 ? [] : [{ part: name, better: signs[name] > 0 }])),
    pairs: matchedPairs(passes.map(asPass)).map(([i, j]) => ({
      a: passes[i]!,
      b: passes[j]!,
      apart_m: passes[j]!.densityAltitude_m! - passes[i]!.densityAltitude_m!,
    })),
    powerBySpeed: share(trap_mps, 3),
    powerByTime: share(et_s, -3),
    warnings: warningsOf(passes, book, main, distance),
    next: nextOf(main, isFailure(trap_mps) ? time : speed, options),
    coming: sides.map((side) => ({
      side,
      et: comingPass(side, passes, et_s, 'time', options),
      trap: comingPass(side, passes, trap_mps, 'speed', options),
    })),
  };
}

/** Passes of a stay that would be added. */
const PASSES_A_STAY = 3;

function nextOf(main: MeasuredEffect | Failure, { measure, threshold }: Asked, o: StripOptions): NextAnswer | null {
  if (isFailure(main) || main.answer.word !== "can't tell yet" || !o.costs) return null;
  const base = { runs: main.runs, threshold, history: o.history?.[rigOf(measure)], costs: o.costs, runsPerStay: PASSES_A_STAY };
  const found = airKnown(main.runs) ? nextStripStay({ ...base, measure, kind: o.kind }) : nextStay({ ...base, rig: rigOf(measure) });
  return isFailure(found) ? null : found;
}
