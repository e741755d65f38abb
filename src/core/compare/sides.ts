import type { SideRun } from '../runs/side-run';
import { THRESHOLD_pct, type Deciding } from '../documents/kinds';
import { failure, isFailure, type Failure } from '../failure';
import { inferSides, inferStretches, type AnswerWord, type Look, type SidesAnswer, type StretchesInput } from '../inference/answer';
import { curveOf, decidingValues } from '../inference/curve';
import { nextStay, type NextAnswer } from '../inference/next';
import type { TestCosts } from '../inference/design';
import type { StudyRun } from '../inference/study';
import { peakIndex } from '../numbers/peak';
import { thirdOf } from '../numbers/thirds';
import type { Peak } from './compare';
import { allPrepared, asPct, bare, commonRange, laidOut, opens, prepared, studyRuns, type Laid, type Ready } from './lay';
import type { SideMark } from './permutation';

export interface SideOptions {
  readonly fwhm_rpm: number;
  /** Smallest difference that matters, % of power. */
  readonly threshold_pct?: number | undefined;
  readonly decidesOn?: Deciding | undefined;
  readonly bands_rpm?: readonly (readonly [number, number])[] | undefined;
  /** Compared from and to these engine speeds at most; what a run says outside is left alone. */
  readonly range_rpm?: readonly [number, number] | null | undefined;
  /** False where the order of the runs is only a guess: they are then taken as one stay a side and day, which tells least. */
  readonly orderKnown?: boolean | undefined;
  /** When one looks, by the runs there are; left out: at the planned end. */
  readonly lookAt?: ((study: readonly StudyRun[]) => Look) | undefined;
  /** Runs that a person left out: they only count in the answer told the other way. */
  readonly leftOut?: readonly { readonly side: SideMark; readonly run: SideRun }[] | undefined;
  /** The shop's own history on this rig: ln likelihood on the grid. */
  readonly history?: readonly number[] | undefined;
  /** Where given, what the next stay or run would tell is worked out while the answer is open. */
  readonly costs?: Partial<TestCosts> | undefined;
}

/** One run's mean over a stretch, % of the geometric mean of A's runs. */
export interface StretchRun {
  readonly side: SideMark;
  readonly visit: string;
  readonly value_pct: number;
  readonly index: number;
  /** First run of a stay. */
  readonly opensStay: boolean;
  /** How probable it is that this run went wrong. */
  readonly outlierP: number;
}

/** The mean over a stretch of engine speed on both sides, and what the runs say about its difference. */
export interface Stretch {
  readonly id: string;
  readonly from_rpm: number;
  readonly to_rpm: number;
  /** Plain means of each side, W. */
  readonly a_W: number;
  readonly b_W: number;
  /** Estimated difference, W and %. */
  readonly mean_W: number;
  readonly mean_pct: number;
  /** Estimate, interval and word, in %. */
  readonly answer: SidesAnswer;
  /** Every run's own mean, in run order. */
  readonly runs: readonly StretchRun[];
}

/** A stretch in which the whole band lies on one side of nothing. */
export interface ClearRegion {
  readonly from_rpm: number;
  readonly to_rpm: number;
  readonly sign: 1 | -1;
}

/** The simultaneous 95 % band of the difference curve, %. */
export interface Band {
  readonly low_pct: readonly number[];
  readonly high_pct: readonly number[];
}

/** The answer with a run more or less, told where it is another word. */
export interface OtherWay {
  /** Indices of the runs, among all that were given; those left out behind the others. */
  readonly runs: readonly number[];
  readonly word: AnswerWord;
  readonly mean_pct: number;
  readonly low_pct: number;
  readonly high_pct: number;
}

export interface SideComparison {
  readonly grid_rpm: number[];
  readonly a_W: number[];
  readonly b_W: number[];
  readonly difference_W: number[];
  readonly difference_pct: number[];
  readonly peakA: Peak;
  readonly peakB: Peak;
  readonly runsA: number;
  readonly runsB: number;
  /** Smoothing every run was brought to, and whether a file's own made it wider than asked. */
  readonly fwhm_rpm: number;
  readonly widened: boolean;
  readonly band: Band;
  readonly clear: readonly ClearRegion[];
  readonly thirds: readonly [Stretch, Stretch, Stretch];
  readonly whole: Stretch;
  readonly own: readonly Stretch[];
  readonly deciding: Stretch;
  readonly threshold_pct: number;
  readonly word: AnswerWord;
  /** Half of the deciding interval, %. */
  readonly noise_pct: number;
  /** Stays of either side, and days. */
  readonly staysA: number;
  readonly staysB: number;
  readonly visits: number;
  /** The runs of the deciding stretch as the inference took them: what a study leaves to the shop's history. */
  readonly study: readonly StudyRun[];
  /** With the runs that were left out; null: none was. */
  readonly withLeftOut: OtherWay | null;
  /** Without the run that stands apart most; null: none does. */
  readonly withoutSuspect: OtherWay | null;
  /** What the next stay or run would tell; null where it was not asked, or the word stands. */
  readonly next: NextAnswer | null;
}

/** A stretch of the band shorter than this clears nothing: grid points next to one another go together. */
const LEAST_CLEAR_rpm = 100;
export const BRIDGED_rpm = 250;

const meanCurve = (curves: readonly (readonly number[])[]): number[] =>
  curves[0]!.map((_, i) => curves.reduce((s, c) => s + c[i]!, 0) / curves.length);

function sidePeak(peaks: readonly Peak[], rpm: readonly number[], mean: readonly number[]): Peak {
  if (peaks.length === 1) return peaks[0]!;
  const unsmoothed = peaks.reduce((a, p) => (p.unsmoothed_W > a.unsmoothed_W ? p : a));
  const top = peakIndex(mean);
  return { ...unsmoothed, smoothed_W: mean[top]!, smoothed_rpm: rpm[top]!, difference_W: unsmoothed.unsmoothed_W - mean[top]! };
}

const answerInPct = (a: SidesAnswer): SidesAnswer => ({ ...a, estimate: asPct(a.estimate), low: asPct(a.low), high: asPct(a.high) });

function stretchOf(
  id: string,
  ends: readonly [number, number],
  span: readonly [number, number],
  runs: readonly Laid[],
  answer: SidesAnswer,
): Stretch {
  const [first, last] = span;
  const meanOver = (power: readonly number[]): number => power.slice(first, last + 1).reduce((s, v) => s + v, 0) / (last - first + 1);
  const sideMean = (side: SideMark): number => {
    const own = runs.filter((r) => r.side === side);
    return own.reduce((s, r) => s + meanOver(r.power_W), 0) / own.length;
  };
  const values = decidingValues(runs, span);
  const [a_W, b_W] = [sideMean('A'), sideMean('B')];
  const mean_pct = asPct(answer.estimate);
  return {
    id,
    from_rpm: ends[0],
    to_rpm: ends[1],
    a_W,
    b_W,
    mean_pct,
    mean_W: (mean_pct * a_W) / 100,
    answer: answerInPct(answer),
    runs: runs.map((r, i) => ({
      side: r.side,
      visit: String(r.visit),
      index: r.index,
      value_pct: 100 + asPct(values[i]!),
      opensStay: opens(runs, i),
      outlierP: answer.outlierP[i]!,
    })),
  };
}

function clearRegions(rpm: readonly number[], difference: readonly number[], band: Band): ClearRegion[] {
  const found: { from: number; to: number; sign: 1 | -1 }[] = [];
  difference.forEach((_, i) => {
    const sign = band.low_pct[i]! > 0 ? 1 : band.high_pct[i]! < 0 ? -1 : null;
    if (sign === null) return;
    const last = found.at(-1);
    // A short dip of the band's edge over nothing, the difference itself on its side all along, parts no region.
    const joins =
      last && last.sign === sign && rpm[i]! - rpm[last.to]! <= BRIDGED_rpm && difference.slice(last.to, i).every((v) => v * sign > 0);
    if (joins) last.to = i;
    else found.push({ from: i, to: i, sign });
  });
  return found
    .filter((r) => rpm[r.to]! - rpm[r.from]! >= LEAST_CLEAR_rpm)
    .map((r) => ({ from_rpm: rpm[r.from]!, to_rpm: rpm[r.to]!, sign: r.sign }));
}

const THIRD_IDS = ['bottom', 'middle', 'top'] as const;

interface Span {
  readonly id: string;
  readonly ends: readonly [number, number];
  readonly span: readonly [number, number];
}

/** The stretches of a range, as indices of its grid: the whole, its thirds, and a person's own that hold a point. */
function spansOf(rpm: readonly number[], bands: SideOptions['bands_rpm']): { whole: Span; thirds: Span[]; own: Span[] } {
  const [from, to] = [rpm[0]!, rpm.at(-1)!];
  const of = (id: string, ends: readonly [number, number], keep: (n: number) => boolean): Span | null => {
    const first = rpm.findIndex(keep);
    return first < 0 ? null : { id, ends, span: [first, rpm.findLastIndex(keep)] };
  };
  const whole = of('whole', [from, to], () => true)!;
  const edge = (k: number): number => from + ((to - from) * k) / 3;
  const thirds = THIRD_IDS.map((id, k) => of(id, [edge(k), edge(k + 1)], (n) => thirdOf(n, from, to) === k) ?? whole);
  const own = (bands ?? []).flatMap(([lo, hi], i) => of(`own-${i}`, [lo, hi], (n) => n >= lo && n <= hi) ?? []);
  return { whole, thirds, own };
}

function decidingSpan(spans: ReturnType<typeof spansOf>, decidesOn: Deciding | undefined): Span {
  const decides = decidesOn ?? 'top';
  if (decides === 'whole') return spans.whole;
  if (decides === 'own') return spans.own[0] ?? spans.whole;
  return spans.thirds[THIRD_IDS.indexOf(decides)]!;
}

interface Told {
  readonly stretch: Stretch;
  /** As it was inferred: in hundredths of a logarithm, which the curve is in too. */
  readonly answer: SidesAnswer;
}

/** Each stretch once, by its name; a failure where one of them cannot be told. */
function stretchesOf(
  spans: readonly Span[],
  runs: readonly Laid[],
  input: Omit<StretchesInput, 'runs' | 'values'>,
): ((span: Span) => Told) | Failure {
  const once = [...new Map(spans.map((s) => [s.id, s])).values()];
  const answers = inferStretches({ ...input, runs: bare(runs), values: once.map((s) => decidingValues(runs, s.span)) });
  const found = new Map<string, Told>();
  for (const [i, { id, ends, span }] of once.entries()) {
    const answer = answers[i]!;
    if (isFailure(answer)) return answer;
    found.set(id, { stretch: stretchOf(id, ends, span, runs, answer), answer });
  }
  return ({ id }) => found.get(id)!;
}

/**
 * Repeat baselines of one part as the inference takes them: what they leave to the shop's history. Null where fewer than two
 * runs have a stretch in common.
 */
export function baselineStudy(runs: readonly SideRun[], options: SideOptions): StudyRun[] | null {
  const all = allPrepared(runs, [], options.fwhm_rpm);
  if (isFailure(all) || all.length < 2) return null;
  const range = commonRange(all, options.range_rpm);
  if (!range) return null;
  const rpm = all[0]!.ready.grid.rpm.filter((n) => n >= range[0] && n <= range[1]);
  const { span } = decidingSpan(spansOf(rpm, options.bands_rpm), options.decidesOn);
  return studyRuns(laidOut(all, rpm, options.orderKnown ?? true), span);
}

/**
 * Side B against side A, any number of runs each: one smoothing, one grid, and what the runs of stays and days say of the mean
 * over the stretch that decides, of the thirds and of a person's own bands, each with its interval and one of the four words;
 * the curve of the difference by the same run weights, with its band. Testing basis §1, §4.
 */
export function compareSides(a: readonly SideRun[], b: readonly SideRun[], options: SideOptions): SideComparison | Failure {
  const carried = [...a, ...b].reduce((m, r) => Math.max(m, r.carriedSmoothing_rpm ?? 0), 0);
  const fwhm_rpm = Math.max(options.fwhm_rpm, carried);
  const threshold_pct = options.threshold_pct ?? THRESHOLD_pct;
  const all = allPrepared(a, b, fwhm_rpm);
  if (isFailure(all)) return all;
  const of = (side: SideMark): Ready[] => all.filter((r) => r.side === side);
  if (of('A').length === 0 || of('B').length === 0) return failure('too_few_runs');
  const range = commonRange(all, options.range_rpm);
  const shared = range ?? commonRange(all, null);
  if (!shared) return failure('no_common_range');
  // What they share lies outside the range that was set.
  if (!range) return failure('no_common_range', { reason: 'beyond_range', facts: { from_rpm: shared[0], to_rpm: shared[1] } });
  const rpm = all[0]!.ready.grid.rpm.filter((n) => n >= range[0] && n <= range[1]);
  const orderKnown = options.orderKnown ?? true;
  const runs = laidOut(all, rpm, orderKnown);
  const spans = spansOf(rpm, options.bands_rpm);
  const decides = decidingSpan(spans, options.decidesOn);
  const study = studyRuns(runs, decides.span);
  const base = { rig: 'dyno' as const, threshold: threshold_pct, look: options.lookAt?.(study), history: options.history };
  const told = stretchesOf([decides, spans.whole, ...spans.thirds, ...spans.own], runs, base);
  if (isFailure(told)) return told;
  const deciding = told(decides);
  const stretch = (s: Span): Stretch => told(s).stretch;
  const curve = curveOf(deciding.answer, { runs, rpm, deciding: decides.span, fwhm_rpm });
  const { difference_pct: drawn, halfWidth_pct: half } = curve;
  const powersOf = (side: SideMark): (readonly number[])[] => runs.filter((r) => r.side === side).map((r) => r.power_W);
  const [a_W, b_W] = [meanCurve(powersOf('A')), meanCurve(powersOf('B'))];
  const difference_pct = drawn.map(asPct);
  const band = bandOf(drawn, half);
  const staysOf = (side: SideMark): number => runs.filter((r, i) => r.side === side && opens(runs, i)).length;
  const open = curve.word === "can't tell yet" && options.costs;
  const next = open ? nextStay({ ...base, runs: study, costs: options.costs }) : null;
  const peaksOf = (side: SideMark): Peak[] => of(side).map((r) => r.ready.peak);
  return {
    grid_rpm: rpm,
    a_W,
    b_W,
    difference_W: difference_pct.map((d, i) => (d * a_W[i]!) / 100),
    difference_pct,
    peakA: sidePeak(peaksOf('A'), rpm, a_W),
    peakB: sidePeak(peaksOf('B'), rpm, b_W),
    runsA: of('A').length,
    runsB: of('B').length,
    fwhm_rpm,
    widened: fwhm_rpm > options.fwhm_rpm,
    band,
    clear: clearRegions(rpm, difference_pct, band),
    thirds: spans.thirds.map(stretch) as unknown as readonly [Stretch, Stretch, Stretch],
    whole: stretch(spans.whole),
    own: spans.own.map(stretch),
    deciding: deciding.stretch,
    threshold_pct,
    word: curve.word,
    noise_pct: (asPct(curve.high) - asPct(curve.low)) / 2,
    staysA: staysOf('A'),
    staysB: staysOf('B'),
    visits: new Set(runs.map((r) => r.visit)).size,
    study,
    withLeftOut: withLeftOut(options.leftOut ?? [], fwhm_rpm, all, rpm, orderKnown, decides.span, base),
    withoutSuspect: withoutSuspect(runs, study, curve, base),
    next: next === null || isFailure(next) ? null : next,
  };
}

type Base = Omit<Parameters<typeof inferSides>[0], 'runs'>;

const bandOf = (drawn: readonly number[], half: readonly number[]): Band => ({
  low_pct: drawn.map((d, i) => asPct(d - half[i]!)),
  high_pct: drawn.map((d, i) => asPct(d + half[i]!)),
});

function otherWay(runs: readonly number[], study: readonly StudyRun[], base: Base): OtherWay | null {
  const answer = inferSides({ ...base, runs: study });
  if (isFailure(answer)) return null;
  return { runs, word: answer.word, mean_pct: asPct(answer.estimate), low_pct: asPct(answer.low), high_pct: asPct(answer.high) };
}

/** The answer with what a person left out; a run that does not reach the range cannot be counted back in. */
function withLeftOut(
  leftOut: NonNullable<SideOptions['leftOut']>,
  fwhm_rpm: number,
  counted: readonly Ready[],
  rpm: readonly number[],
  orderKnown: boolean,
  span: readonly [number, number],
  base: Base,
): OtherWay | null {
  const back = leftOut.flatMap(({ side, run }, i): Ready[] => {
    const ready = prepared(run, fwhm_rpm);
    const reaches = !isFailure(ready) && ready.grid.rpm[0]! <= rpm[0]! && ready.grid.rpm.at(-1)! >= rpm.at(-1)!;
    return reaches ? [{ side, run, ready, index: counted.length + i }] : [];
  });
  if (back.length === 0) return null;
  return otherWay(
    back.map((r) => r.index),
    studyRuns(laidOut([...counted, ...back], rpm, orderKnown), span),
    base,
  );
}

/** The answer without the run that stands apart most. */
function withoutSuspect(runs: readonly Laid[], study: readonly StudyRun[], answer: SidesAnswer, base: Base): OtherWay | null {
  if (answer.suspects.length === 0) return null;
  const worst = answer.suspects.reduce((m, i) => (answer.outlierP[i]! > answer.outlierP[m]! ? i : m));
  // Where it opened its stay by being strapped down anew, the next run of it does now.
  const rest = study.map((r, i) => (i === worst + 1 && study[worst]!.newStay === true ? { ...r, newStay: true } : r));
  return otherWay(
    [runs[worst]!.index],
    rest.filter((_, i) => i !== worst),
    base,
  );
}
