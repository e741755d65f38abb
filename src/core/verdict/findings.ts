import type { JobDoc } from '../documents/job';
import type { StoredUnit } from '../documents/unit';
import type { AnswerWord } from '../inference/answer';
import { studyLikelihood } from '../inference/history';
import type { KeptRig } from '../inference/shop-history';
import type { StudyRun } from '../inference/study';
import { drivenBand } from '../compare/used-bands';
import { breaking, type Confounder } from '../compare/confounders';
import type { AdviceWord } from '../documents/verdict';
import type { StripAnalysis } from '../strip/analysis';
import { adviseOn } from './advice';
import type { SideComparison } from '../compare/sides';
import { isFailure } from '../failure';
import { leftOnTable } from '../job/knee';
import { jobModel } from '../job/model';
import { fitFacts } from '../fit/facts';
import { openingCheck } from '../fit/openings';
import { judgeFit } from '../fit/rule';
import { FIT_RULES } from '../fit/rules';
import type { SheetEvent } from '../documents/sheet-event';
import { sheetState, startLocks, stepsLeft } from '../install/run-sheet';
import { gatesOf, jobSteps } from '../install/steps';
import { effectiveOpening, grossBore } from '../documents/openings';
import { leaderOf, rankUnits, type RankedVerdict } from '../job/ranking';

export type StopState = 'empty' | 'started' | 'needs a look' | 'settled';

/** What a stop has to say in one line, as facts: the sentence and its units are the interface's. */
export type StopFinding =
  | {
      readonly stop: 'car';
      readonly state: StopState;
      readonly displacement_m3: number;
      readonly cylinders: number;
      readonly bore_m: number;
      readonly control: JobDoc['car']['controls']['kind'];
    }
  | {
      readonly stop: 'air';
      readonly state: StopState;
      readonly givesOut_rpm: number | null;
      readonly left_pct: number | null;
      readonly failed: string | null;
    }
  | {
      readonly stop: 'pick';
      readonly state: StopState;
      readonly name: string | null;
      readonly gain_pct: number | null;
      readonly chosen: boolean;
      /** What the ranking says of it, missing in older findings: a gain alone does not tell that it suits. */
      readonly word?: RankedVerdict | null;
    }
  | {
      readonly stop: 'fit';
      readonly state: StopState;
      readonly overhang_m: number | null;
      readonly tooFar: boolean;
      /** Title of the first check that rules it out, the opening's apart; and how many ask for something. Missing in older findings. */
      readonly ruledOut?: string | null;
      readonly needs?: number;
    }
  | {
      readonly stop: 'install';
      readonly state: StopState;
      readonly steps: number;
      readonly gates: number;
      /** Steps and checks that are left, and whether the first start is made. Missing in older findings. */
      readonly left?: number;
      readonly started?: boolean;
    }
  | {
      readonly stop: 'test';
      readonly state: StopState;
      readonly runsA: number;
      readonly runsB: number;
      readonly best_pct: number | null;
      readonly noise_pct: number | null;
      /** What the deciding stretch says; findings of an older release have other words. */
      readonly kind: AnswerWord | null;
      readonly from_rpm?: number | null;
      /** What its studies leave to the shop's history: ln likelihood on the grid, by rig. Missing in older findings. */
      readonly leaves?: StudyLeaves | null;
      /** What the strip says by its trap speeds. Missing in older findings. */
      readonly strip?: StripFinding | null;
      /** The unit it is about, its bore over stock's, and the deciding stretch's interval: what other jobs learn from. */
      readonly learnt?: Learnt | null;
      /** Something besides the throttle differs: the figures are no comparison. */
      readonly unfair?: boolean;
    }
  | {
      readonly stop: 'verdict';
      readonly state: StopState;
      readonly predicted_pct: number | null;
      readonly measured_pct: number | null;
      readonly noise_pct: number | null;
      readonly strip?: StripFinding | null;
      /** What it comes to, a person's own decision first. Missing in older findings. */
      readonly word?: AdviceWord | null;
      readonly decides_pct?: number | null;
      readonly unfair?: boolean;
    };

export interface Learnt {
  readonly unit: string;
  readonly boreRatio: number;
  readonly mean_pct: number;
  readonly low_pct: number;
  readonly high_pct: number;
  readonly word?: AnswerWord;
}

/** What a job's studies say of the sizes of a rig, to be added up over the shop. */
export interface StudyLeaves {
  readonly dyno?: readonly number[];
  readonly stripTime?: readonly number[];
  readonly stripSpeed?: readonly number[];
}

export interface StripFinding {
  readonly word: AnswerWord;
  readonly passes: number;
}

/** What the sums behind a finding are as of: counted up whenever a figure on the board would come out otherwise. */
export const FINDINGS_EDITION = 7;

export interface JobFindings {
  readonly stops: readonly StopFinding[];
  /** Edition of the sums it was worked out with; missing in older findings. */
  readonly edition?: number;
  /** Mark of the shop's history its answers were worked out with; missing where no study is among them. */
  readonly history?: string;
}

function sizing(doc: JobDoc, units: readonly StoredUnit[]): [StopFinding, StopFinding, number | null] {
  const shown = units.filter((u) => doc.pick.shown.includes(u.id) || u.id === doc.pick.chosen);
  const model = jobModel(
    doc,
    shown.map((unit) => ({ unit, opening: doc.pick.opening })),
  );
  if (isFailure(model)) {
    const air: StopFinding = { stop: 'air', state: 'needs a look', givesOut_rpm: null, left_pct: null, failed: model.error };
    return [air, { stop: 'pick', state: 'empty', name: null, gain_pct: null, chosen: false }, null];
  }
  const ranked = rankUnits(doc, model, shown);
  const chosen = ranked.find((r) => r.unit.id === doc.pick.chosen);
  const leader = chosen ?? leaderOf(ranked);
  const air: StopFinding = {
    stop: 'air',
    state: 'settled',
    givesOut_rpm: model.stock.givesOut_rpm,
    left_pct: leftOnTable(doc, model),
    failed: null,
  };
  const pick: StopFinding = {
    stop: 'pick',
    state: chosen
      ? chosen.verdict === 'worth buying' || chosen.verdict === 'worth testing'
        ? 'settled'
        : 'needs a look'
      : ranked.length > 0
        ? 'started'
        : 'empty',
    name: leader?.unit.doc.name ?? null,
    gain_pct: leader?.peakGain_pct ?? null,
    chosen: chosen !== undefined,
    word: leader?.verdict ?? null,
  };
  return [air, pick, chosen?.peakGain_pct ?? null];
}

/** What the Install step says in the spine, from the job and what stands on its sheet. */
export function installFinding(doc: JobDoc, hasUnit: boolean, events: readonly SheetEvent[]): Extract<StopFinding, { stop: 'install' }> {
  const steps = jobSteps(doc);
  const gates = gatesOf(steps);
  const state = sheetState(events, gates);
  const left = stepsLeft(steps, state);
  return {
    stop: 'install',
    state: left === 0 ? 'settled' : hasUnit ? 'started' : 'empty',
    steps: steps.length,
    gates: gates.length,
    left,
    started: state.done.has('start') && startLocks(state, gates).length === 0,
  };
}

/** The chosen throttle's bore against the opening it bolts to, and the work that follows. */
function fitting(doc: JobDoc, units: readonly StoredUnit[], events: readonly SheetEvent[]): StopFinding[] {
  const unit = units.find((u) => u.id === doc.pick.chosen);
  const install = installFinding(doc, unit !== undefined, events);
  const check = unit && openingCheck(unit.doc.throttle, grossBore(unit.doc.throttle), effectiveOpening(doc), unit.doc.largestOpening_m);
  if (!check || isFailure(check)) return [{ stop: 'fit', state: 'empty', overhang_m: null, tooFar: false }, install];
  const done = check.lipSide !== 'into the flow' || (doc.pick.opening === 'matched' && check.verdict !== 'does not fit');
  const others = judgeFit(FIT_RULES, fitFacts(doc, unit.doc), doc.fit.mounting.have).filter((c) => c.rule.id !== 'opening');
  const ruledOut = others.find((c) => c.word === 'does not fit')?.rule.title ?? null;
  const needs = others.filter((c) => c.word === 'needs something').length;
  const onPlate = doc.fit.mounting.adapter !== null;
  const fit: StopFinding = {
    stop: 'fit',
    state: (done || onPlate) && ruledOut === null && needs === 0 ? 'settled' : 'needs a look',
    overhang_m: check.overhang_m,
    tooFar: check.verdict === 'does not fit' && !onPlate,
    ruledOut,
    needs,
  };
  return [fit, install];
}

/** What the board says of the strip: the trap speed's answer, or the time's where no speed was read. */
function stripFinding(analysis: StripAnalysis | null): StripFinding | null {
  if (!analysis) return null;
  const { trap_mps, et_s } = analysis.effects;
  const found = isFailure(trap_mps) ? et_s : trap_mps;
  return isFailure(found) ? null : { word: found.answer.word, passes: analysis.countA + analysis.countB };
}

/** The advice by what was measured alone, without what the logs and the model add to it. */
const adviceOf = (
  doc: JobDoc,
  comparison: SideComparison | null,
  confounders: readonly Confounder[],
  strip: StripAnalysis | null,
): AdviceWord =>
  adviseOn({
    comparison,
    driven: comparison ? drivenBand(comparison, doc.test.bands_rpm.length) : null,
    confounders,
    strip,
    manners: null,
    inletAir: null,
    idle_rpm: 0,
    idleFloor_rpm: null,
    lip_m: null,
    predicted_pct: null,
    next: null,
  }).word;

const rounded = (logs: readonly number[]): number[] => logs.map((v) => Math.round(v * 1e4) / 1e4);

/** Fewest runs of a study that say anything of the sizes. */
const FEWEST_RUNS = 3;

const left = new WeakMap<readonly StudyRun[], Map<KeptRig, readonly number[] | null>>();

/** What a study's runs say of the sizes, once for the same study: most saves of a job change nothing in its runs. */
function runsLeave(runs: readonly StudyRun[], rig: KeptRig): readonly number[] | null {
  const byRig = left.get(runs) ?? new Map<KeptRig, readonly number[] | null>();
  left.set(runs, byRig);
  const known = byRig.get(rig);
  if (known !== undefined) return known;
  const logs = studyLikelihood(runs, { rig });
  const found = isFailure(logs) ? null : rounded(logs);
  byRig.set(rig, found);
  return found;
}

function leavesOf(dyno: readonly StudyRun[] | null, strip: StripAnalysis | null): StudyLeaves | null {
  const of = (runs: readonly StudyRun[] | null, rig: KeptRig): readonly number[] | null =>
    !runs || runs.length < FEWEST_RUNS ? null : runsLeave(runs, rig);
  const effect = (e: StripAnalysis['effects']['et_s'] | undefined): readonly StudyRun[] | null => (!e || isFailure(e) ? null : e.runs);
  const [d, t, v] = [of(dyno, 'dyno'), of(effect(strip?.effects.et_s), 'stripTime'), of(effect(strip?.effects.trap_mps), 'stripSpeed')];
  return d || t || v ? { ...(d && { dyno: d }), ...(t && { stripTime: t }), ...(v && { stripSpeed: v }) } : null;
}

function learntOf(
  doc: JobDoc,
  units: readonly StoredUnit[],
  { compared, unitId }: { readonly compared: SideComparison | null; readonly unitId?: string | null },
): Learnt | null {
  const unit = units.find((u) => u.id === unitId);
  if (!unit || !compared) return null;
  const { answer } = compared.deciding;
  return {
    unit: unit.doc.name,
    boreRatio: grossBore(unit.doc.throttle) / grossBore(doc.car.stock.throttle),
    mean_pct: answer.estimate,
    low_pct: answer.low,
    high_pct: answer.high,
    word: answer.word,
  };
}

function testState(dyno: AnswerWord | null, strip: AnswerWord | null, runs: number): StopState {
  const words = [dyno, strip].filter((w) => w !== null);
  if (words.some((w) => w !== "can't tell yet")) return 'settled';
  return words.length > 0 || runs > 0 ? 'started' : 'empty';
}

/** A job's runs, with their comparison where both sides have one. */
interface FoundRuns {
  readonly stock: number;
  readonly other: number;
  readonly compared: SideComparison | null;
  readonly unitId?: string | null;
  readonly confounders?: readonly Confounder[];
  /** The dyno runs as a study, also of repeat baselines alone. */
  readonly study?: readonly StudyRun[] | null;
}

/** What runs and passes say together. */
interface Measured {
  readonly runs: FoundRuns;
  readonly analysis: StripAnalysis | null;
  readonly strip: StripFinding | null;
  readonly confounders: readonly Confounder[];
  readonly unfair: boolean;
}

function testFinding(doc: JobDoc, units: readonly StoredUnit[], { runs, analysis, strip, unfair }: Measured): StopFinding {
  const { compared } = runs;
  return {
    stop: 'test',
    state: testState(compared?.word ?? null, strip?.word ?? null, runs.stock + runs.other),
    runsA: runs.stock,
    runsB: runs.other,
    best_pct: compared?.deciding.mean_pct ?? null,
    noise_pct: compared?.noise_pct ?? null,
    kind: compared?.word ?? null,
    from_rpm: compared?.clear.find((r) => r.sign === 1)?.from_rpm ?? null,
    leaves: leavesOf(unfair ? null : (runs.study ?? compared?.study ?? null), analysis),
    strip,
    learnt: unfair ? null : learntOf(doc, units, runs),
    unfair,
  };
}

function verdictFinding(doc: JobDoc, { runs, analysis, strip, confounders, unfair }: Measured, predicted_pct: number | null): StopFinding {
  const { compared } = runs;
  const measured = compared ? 100 * (compared.peakB.smoothed_W / compared.peakA.smoothed_W - 1) : null;
  const decided = doc.verdict.override?.advice;
  const nothing = measured === null && strip === null;
  return {
    stop: 'verdict',
    state: nothing ? 'empty' : doc.verdict.note.trim() === '' && decided === undefined ? 'started' : 'settled',
    predicted_pct,
    measured_pct: measured,
    noise_pct: compared?.noise_pct ?? null,
    strip,
    word: nothing ? null : (decided ?? adviceOf(doc, compared, confounders, analysis)),
    decides_pct: compared?.deciding.mean_pct ?? null,
    unfair,
  };
}

/** The one-line findings of a job's stops: with its runs' comparison, where both sides have one, and what stands on its run-sheet. */
export function jobFindings(
  doc: JobDoc,
  units: readonly StoredUnit[],
  runs: FoundRuns,
  events: readonly SheetEvent[] = [],
  analysis: StripAnalysis | null = null,
): JobFindings {
  const [air, pick, predicted_pct] = sizing(doc, units);
  const confounders = runs.confounders ?? [];
  const measured: Measured = {
    runs,
    analysis,
    strip: stripFinding(analysis),
    confounders,
    unfair: runs.compared !== null && breaking(confounders).length > 0,
  };
  return {
    edition: FINDINGS_EDITION,
    stops: [
      {
        stop: 'car',
        state: Object.values(doc.marks).some((m) => m !== 'assumed') ? 'settled' : 'started',
        displacement_m3: doc.car.engine.displacement_m3,
        cylinders: doc.car.engine.cylinders,
        bore_m: doc.car.stock.throttle.shape === 'oval' ? (doc.car.stock.throttle.width_m ?? 0) : doc.car.stock.throttle.bore_m,
        control: doc.car.controls.kind,
      },
      air,
      pick,
      ...fitting(doc, units, events),
      testFinding(doc, units, measured),
      verdictFinding(doc, measured, predicted_pct),
    ],
  };
}
