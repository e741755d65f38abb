import type { SideComparison, Stretch } from '../compare/sides';
import { breaking } from '../compare/confounders';
import { drivenBand } from '../compare/used-bands';
import { ledgerScore, type LedgerScore } from '../compare/ledger';
import type { JobDoc } from '../documents/job';
import type { AdviceWord } from '../documents/verdict';
import type { StoredUnit } from '../documents/unit';
import { isFailure } from '../failure';
import { jobModel, type CandidateSide, type JobModel } from '../job/model';
import { effectiveOpening, grossBore } from '../documents/openings';
import { predictedOver } from '../job/predicted';
import { rankUnits, type RankedUnit } from '../job/ranking';
import { nextRestrictions, type Restriction } from '../job/restriction';
import { jobWhatIf, type WhatIf } from '../job/what-if';
import { peakGain, peakOf } from '../numbers/peak';
import { adviseOn, type Advice } from './advice';
import { effectBars, type EffectBar } from './bars';
import { gainCost, type GainCost } from './cost';
import type { JobFacts } from './facts';

/** What the model said of the throttle, over the engine speeds that were measured where there are any. */
export interface PredictedGain {
  readonly rpm: readonly number[];
  readonly stock_W: readonly number[];
  readonly other_W: readonly number[];
  readonly gain_pct: readonly number[];
  readonly peak_pct: number;
  readonly whole_pct: number;
  readonly thirds_pct: readonly [number, number, number];
  /** Over the stretch that decides. */
  readonly deciding_pct: number;
  /** Over the band driven between changes; null where it is not known. */
  readonly used_pct: number | null;
}

/** What the predicted gain would be at the strip: ΔV/V = ΔP/3P. */
export interface PredictedStrip {
  readonly trap_share: number;
  readonly et_share: number;
}

export interface VerdictReport {
  readonly unit: StoredUnit | null;
  readonly predicted: PredictedGain | null;
  readonly predictedStrip: PredictedStrip | null;
  readonly facts: JobFacts;
  readonly ledger: readonly LedgerScore[];
  readonly cost: GainCost | null;
  readonly ranked: RankedUnit | null;
  /** What stands in the way now, the largest first. */
  readonly next: readonly Restriction[];
  /** The same unit with other boost than now, where the job asks. */
  readonly whatIf: WhatIf | null;
  readonly advice: Advice;
  /** The band driven between changes, where it was measured. */
  readonly driven: Stretch | null;
  /** Every measured effect on one scale. */
  readonly bars: readonly EffectBar[];
  /** The advice after a person's own decision. */
  readonly word: AdviceWord;
}

const MOST_NEXT = 3;
/** A boosted engine's next step where the job names none: a tenth more of what it is driven by. */
const USUAL_STEP = 1.1;

function predictedGain(model: JobModel, side: CandidateSide, c: SideComparison | null, driven: Stretch | null): PredictedGain | null {
  if (!side.gain_pct || isFailure(side.solved)) return null;
  const stock = model.reference.result.power_W;
  const range: [number, number] = c ? [c.grid_rpm[0]!, c.grid_rpm.at(-1)!] : [model.rpm[0]!, model.rpm.at(-1)!];
  const over = predictedOver(model.rpm, stock, side.solved.power_W, range);
  const own = c ? predictedOver(model.rpm, stock, side.solved.power_W, [c.deciding.from_rpm, c.deciding.to_rpm]).whole : over.whole;
  return {
    rpm: model.rpm,
    stock_W: stock,
    other_W: side.solved.power_W,
    gain_pct: side.gain_pct,
    peak_pct: peakGain(side.solved.power_W, stock),
    whole_pct: over.whole,
    thirds_pct: [over.bottom, over.middle, over.top],
    deciding_pct: own,
    used_pct: driven ? predictedOver(model.rpm, stock, side.solved.power_W, [driven.from_rpm, driven.to_rpm]).whole : null,
  };
}

/** A change of boost to try on paper: the job's own, else a step of the usual size; null for an engine without any. */
export function boostStep(doc: JobDoc): JobDoc['pick']['whatIf'] | null {
  const own = doc.pick.whatIf;
  if (own.pulley_m !== null || own.pressureRatio !== null || own.boost_Pa !== null) return own;
  const { induction } = doc.car;
  const none = { pulley_m: null, pressureRatio: null, boost_Pa: null };
  if (induction.kind === 'drawThrough') return { ...none, pulley_m: induction.blower.blowerPulley_m / USUAL_STEP };
  if (induction.kind === 'centrifugal') return { ...none, pressureRatio: 1 + (induction.compressor.pressureRatio - 1) * USUAL_STEP };
  if (induction.kind === 'turbo') return { ...none, boost_Pa: peakOf(induction.compressor.boost.value) * USUAL_STEP };
  return null;
}

/** Gain in watts with its interval, from the dyno's deciding stretch, else from the strip's trap speed on the model's power. */
function gainOf(model: JobModel | null, facts: JobFacts): Parameters<typeof gainCost>[1] | null {
  const c = facts.comparison;
  if (c) {
    const a = c.deciding.a_W / 100;
    const { estimate, low, high } = c.deciding.answer;
    const fair = breaking(facts.confounders).length === 0;
    return { gain_W: estimate * a, low_W: low * a, high_W: high * a, word: c.word, fair };
  }
  const { strip } = facts;
  const by = strip?.powerBySpeed;
  if (!by || !model || isFailure(strip.effects.trap_mps)) return null;
  const peak = peakOf(model.reference.result.power_W);
  const { word } = strip.effects.trap_mps.answer;
  return { gain_W: by.share * peak, low_W: by.low * peak, high_W: by.high * peak, word, fair: true };
}

/** What the model says of the chosen unit, where the job can be solved with it. */
function modelled(doc: JobDoc, unit: StoredUnit | null, facts: JobFacts) {
  const solved = unit ? jobModel(doc, [{ unit, opening: doc.pick.opening }]) : null;
  const driven = facts.comparison ? drivenBand(facts.comparison, doc.test.bands_rpm.length) : null;
  const model = solved === null || isFailure(solved) ? null : solved;
  const side = model?.candidates[0] ?? null;
  const predicted = model && side ? predictedGain(model, side, facts.comparison, driven) : null;
  const [ranked = null] = model && unit ? rankUnits(doc, model, [unit]) : [];
  const next = model && side ? nextRestrictions(model, side).slice(0, MOST_NEXT) : [];
  const step = boostStep(doc);
  const whatIf = model && step ? jobWhatIf(doc, model, step) : null;
  return { driven, model, predicted, ranked, next, whatIf: whatIf === null || isFailure(whatIf) ? null : whatIf };
}

/** What the part, its fitting and the testing cost for each gain; null where nothing was gained or nothing has a price. */
function costOf(doc: JobDoc, unit: StoredUnit | null, facts: JobFacts, model: JobModel | null) {
  const { plan } = doc.test;
  const runs = facts.comparison ? facts.comparison.runsA + facts.comparison.runsB : 0;
  const visits = new Set(facts.comparison?.deciding.runs.map((r) => r.visit) ?? []).size;
  const gain = gainOf(model, facts);
  if (!gain) return null;
  const cost = gainCost(
    {
      unit: unit?.doc.price ?? null,
      otherParts: doc.verdict.otherParts,
      fitting: doc.verdict.fitting,
      testing: plan.costPerVisit * Math.max(visits, runs > 0 ? 1 : 0) + plan.costPerRun * runs + facts.stripCost,
    },
    gain,
  );
  // Without a price there is no price per gain.
  return cost.total > 0 ? cost : null;
}

/** Everything a verdict says, from the job's document, the units it speaks of and what was measured. Testing basis §5. */
export function verdictReport(doc: JobDoc, units: readonly StoredUnit[], facts: JobFacts): VerdictReport {
  const unit = units.find((u) => u.id === facts.unitId) ?? null;
  const { driven, model, predicted, ranked, next, whatIf } = modelled(doc, unit, facts);
  const cost = costOf(doc, unit, facts, model);
  const lip_m = unit && doc.pick.opening === 'as it is' ? (grossBore(unit.doc.throttle) - effectiveOpening(doc)) / 2 : null;
  const advice = adviseOn({
    comparison: facts.comparison,
    driven,
    confounders: facts.confounders,
    strip: facts.strip,
    manners: facts.manners,
    inletAir: facts.inletAir,
    idle_rpm: doc.car.engine.idle_rpm,
    idleFloor_rpm: ranked?.idleFloor_rpm ?? null,
    lip_m,
    predicted_pct: predicted?.deciding_pct ?? null,
    next: next[0] ? { name: next[0].name, gain_pct: next[0].gain_pct } : null,
  });
  const trap_share = predicted ? predicted.deciding_pct / 300 : 0;
  return {
    unit,
    predicted,
    predictedStrip: predicted && facts.strip ? { trap_share, et_share: -trap_share } : null,
    facts,
    ledger: ledgerScore(facts.guesses.flatMap((g) => (g.measured === null ? [] : [{ ...g, measured: g.measured }]))),
    cost,
    ranked,
    next,
    whatIf,
    advice,
    driven,
    bars: effectBars(facts.comparison, facts.strip, doc.test.strip),
    word: doc.verdict.override?.advice ?? advice.word,
  };
}
