import { isFailure, type Failure } from '../failure';
import { isMeasured, SIZES, type Size } from './grid';
import { mixtureCdf, mixtureMean, mixtureQuantile, mixtureSd } from './mixture';
import { posteriorOf, posteriorsOf, type Posterior } from './posterior';
import { rigRow, ROAD_GRADES, type Better, type RigOptions, type RigRow, type RoadGrade } from './rig';
import { GROUPS, studyFailure, studyOf, type Covariate, type Group, type Study, type StudyRun } from './study';

/** The four words, in the order in which they are asked for. */
export const WORDS = ['no difference that matters', 'gain', 'loss', "can't tell yet"] as const;
export type AnswerWord = (typeof WORDS)[number];

/** When one looks: before the planned end, at it, or after it; without a written plan every look is after. */
export const LOOKS = ['before', 'at', 'after'] as const;
export type Look = (typeof LOOKS)[number];

/** What is asked of a gain or a loss, and of no difference, at each look. Testing basis §4.8. */
export const LOOK_LIMITS: Readonly<Record<Look, { readonly side: number; readonly none: number }>> = {
  before: { side: 0.995, none: 0.975 },
  at: { side: 0.975, none: 0.95 },
  after: { side: 0.99, none: 0.975 },
};

/** At this chance of being an outlier a run is shown as a suspect. */
export const SUSPECT_CHANCE = 0.2;

export interface SidesAnswer {
  /** B − A. */
  readonly estimate: number;
  /** Standard deviation of what is known of it. */
  readonly sd: number;
  /** 95 % interval. */
  readonly low: number;
  readonly high: number;
  readonly pGain: number;
  readonly pLoss: number;
  /** Chance that the difference is as large as matters. */
  readonly pMatters: number;
  readonly word: AnswerWord;
  readonly threshold: number;
  readonly better: Better;
  readonly look: Look;
  /** What carries the width, summing to one. */
  readonly shares: Readonly<Record<Group, number>>;
  readonly widest: Group;
  readonly widestIs: 'measured' | 'assumed';
  /** Sizes of run, refit and day as they stand after these runs, and whether they are measured. */
  readonly sizes: Readonly<Record<Size, { readonly sd: number; readonly assumed: number; readonly measured: boolean }>>;
  readonly outlierP: readonly number[];
  readonly suspects: readonly number[];
  /** Run weights: the estimate is weights·values. */
  readonly weights: readonly number[];
}

export interface SidesInput extends RigOptions {
  readonly runs: readonly StudyRun[];
  readonly look?: Look | undefined;
  /** ln likelihood on the grid out of the shop's own studies, from `historyOf`. */
  readonly history?: readonly number[] | undefined;
}

/** One of the four words. Testing basis §4.7. */
export function wordOf(p: { pGain: number; pLoss: number; pMatters: number }, look: Look): AnswerWord {
  const limits = LOOK_LIMITS[look];
  if (1 - p.pMatters >= limits.none) return 'no difference that matters';
  if (p.pGain >= limits.side) return 'gain';
  return p.pLoss >= limits.side ? 'loss' : "can't tell yet";
}

/** A study with its row, as the answer and what would tell next both need it. */
export interface Prepared {
  readonly study: Study;
  readonly row: RigRow;
}

function answered({ study, row }: Prepared, posterior: Posterior, look: Look): SidesAnswer {
  const { mixture, shares } = posterior;
  const below = mixtureCdf(mixture, 0);
  const pGain = row.better === 'higher' ? 1 - below : below;
  const within = mixtureCdf(mixture, row.threshold) - mixtureCdf(mixture, -row.threshold);
  const p = { pGain, pLoss: 1 - pGain, pMatters: 1 - within };
  const widest = GROUPS.reduce((most, g) => (shares[g] > shares[most] ? g : most), GROUPS[0]);
  const size = (s: Size) => ({
    sd: row[s] * 2 ** posterior.sizes[s].mean,
    assumed: row[s],
    measured: isMeasured(s, posterior.sizes[s].variance),
  });
  const sizes = { run: size('run'), refit: size('refit'), day: size('day') };
  const known = SIZES.find((s) => s === widest);
  return {
    estimate: mixtureMean(mixture),
    sd: mixtureSd(mixture),
    low: mixtureQuantile(mixture, 0.025),
    high: mixtureQuantile(mixture, 0.975),
    ...p,
    word: wordOf(p, look),
    threshold: row.threshold,
    better: row.better,
    look,
    shares,
    widest,
    widestIs: known && sizes[known].measured ? 'measured' : 'assumed',
    sizes,
    outlierP: posterior.outlierP,
    suspects: posterior.outlierP.flatMap((v, i) => (v >= SUSPECT_CHANCE && study.n > 2 ? [i] : [])),
    weights: posterior.weights,
  };
}

/** The study of two sides laid out, or why it cannot be. */
export function prepareSides(input: SidesInput): Prepared | Failure {
  const wrong = studyFailure(input.runs);
  if (wrong) return wrong;
  const row = rigRow(input);
  return { study: studyOf(input.runs, row), row };
}

/** Side B against side A: the estimate, its interval, one of the four words, and what carries the width. Testing basis §4. */
export function inferSides(input: SidesInput): SidesAnswer | Failure {
  const prepared = prepareSides(input);
  if (isFailure(prepared)) return prepared;
  return answered(prepared, posteriorOf(prepared.study, prepared.row, input.history), input.look ?? 'at');
}

/** Several values of the same runs, as of the stretches of one curve: by value, then by run. */
export interface StretchesInput extends Omit<SidesInput, 'runs'> {
  readonly runs: readonly Omit<StudyRun, 'value'>[];
  readonly values: readonly (readonly number[])[];
}

/** What `inferSides` gives of each set of values, worked together. */
export function inferStretches({ runs, values, ...input }: StretchesInput): (SidesAnswer | Failure)[] {
  const studies = values.map((own) => prepareSides({ ...input, runs: runs.map((r, i) => ({ ...r, value: own[i]! })) }));
  const sound = studies.filter((s): s is Prepared => !isFailure(s));
  if (sound.length === 0) return studies as Failure[];
  const posteriors = posteriorsOf(
    sound[0]!.study,
    sound.map((s) => s.study.y),
    sound[0]!.row,
    input.history,
  );
  return studies.map((s) => (isFailure(s) ? s : answered(s, posteriors[sound.indexOf(s)]!, input.look ?? 'at')));
}

/** Share of time or speed that a metre of density altitude takes, and a turbo's share of that. Testing basis §4.11. */
const PER_METRE = 3.5e-5;
const TURBO_SHARE = 0.3;

export interface StripInput extends Omit<SidesInput, 'rig'> {
  readonly measure: 'time' | 'speed';
  readonly kind?: 'na' | 'belt' | 'turbo' | undefined;
}

/** Passes with the prior part of weather corrected, and the air as a column beside it. */
export function prepareStrip(input: StripInput): (Prepared & { readonly air: Covariate; readonly perMetre: number }) | Failure {
  const { runs, measure, kind = 'na' } = input;
  const missing = runs.findIndex((r) => !Number.isFinite(r.densityAltitude_m));
  const wrong = studyFailure(runs);
  if (wrong && wrong.error !== 'one_side_only') return wrong;
  if (missing >= 0) return { error: 'bad_input', facts: { run: missing } };
  if (wrong) return wrong;
  const row = rigRow({ ...input, rig: measure === 'time' ? 'stripTime' : 'stripSpeed' });
  const mean = runs.reduce((s, r) => s + r.value, 0) / runs.length;
  const perMetre = PER_METRE * mean * (kind === 'turbo' ? TURBO_SHARE : 1) * (measure === 'time' ? 1 : -1);
  const heights = runs.map((r) => r.densityAltitude_m!);
  const middle = heights.reduce((s, v) => s + v, 0) / runs.length;
  const bare = runs.map((r, i) => ({ ...r, value: r.value - perMetre * (heights[i]! - middle) }));
  const air = { values: heights, sd: Math.abs(perMetre) / 2 };
  return { study: studyOf(bare, row, [air]), row, air, perMetre };
}

export interface StripAnswer extends SidesAnswer {
  /** What a metre of density altitude does, in the unit, after these passes. */
  readonly perMetre: number;
}

/** Passes of two sides: raw values, the air a column like any other. Testing basis §4.11. */
export function inferStrip(input: StripInput): StripAnswer | Failure {
  const prepared = prepareStrip(input);
  if (isFailure(prepared)) return prepared;
  const { study, row, air, perMetre } = prepared;
  const column = study.columns.find((c) => c.group === 'weather');
  const middle = air.values.reduce((s, v) => s + v, 0) / study.n;
  const entries = column?.entries ?? Float64Array.from(air.values, (v) => v - middle);
  const posterior = posteriorOf(study, row, input.history, { entries, sd: air.sd });
  return { ...answered(prepared, posterior, input.look ?? 'at'), perMetre: perMetre + posterior.coefficient! };
}

export interface RoadInput extends Omit<SidesInput, 'rig'> {
  readonly grade?: RoadGrade | undefined;
}

/** Road runs: ground and wind belong to the place and the outing. Testing basis §4.12. */
export function prepareRoad(input: RoadInput): Prepared | Failure {
  const wrong = studyFailure(input.runs);
  if (wrong) return wrong;
  const row = rigRow({
    ...input,
    rig: 'road',
    components: { place: ROAD_GRADES[input.grade ?? 'unknown'], ...input.components },
  });
  const runs = input.runs.map((r) => {
    const place = r.place ?? r.side;
    return { ...r, place, wind: r.wind ?? `${String(r.visit ?? 1)}|${r.side}|${place}` };
  });
  return { study: studyOf(runs, row), row };
}

export function inferRoad(input: RoadInput): SidesAnswer | Failure {
  const prepared = prepareRoad(input);
  if (isFailure(prepared)) return prepared;
  return answered(prepared, posteriorOf(prepared.study, prepared.row, input.history), input.look ?? 'at');
}
