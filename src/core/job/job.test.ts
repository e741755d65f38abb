import { aRecord, aUnit } from '../../../test/units';
import { jobDoc, type JobDoc } from '../documents/job';
import { isFailure, must } from '../failure';
import { openingCheck } from '../fit/openings';
import { STAGES, usualSteps, type StepFacts } from '../install/steps';
import { FORMULAS } from '../working/formulas';
import {
  demandWorking,
  givesOutWorking,
  lipWorking,
  mannersWorking,
  passesWorking,
  plenumWorking,
  powerWorking,
  priceWorking,
  throttleLossWorking,
} from '../working/sizing-working';
import type { Working } from '../working/working';
import { baselineStudy } from '../compare/sides';
import { studyLikelihood } from '../inference/history';
import { jobFindings } from '../verdict/findings';
import { leftOnTable } from './knee';
import { allowedLoss, jobModel, modelRpm, sideStart, throttleLoss, sideLadder } from './model';
import { effectiveOpening, grossBore } from '../documents/openings';
import { jobPath, stockFitted, unitFitted } from './path';
import { NO_DEFAULTS } from '../documents/blank';
import { ENGINE_PRESETS, presetJob, VE_SHAPES, veOfShape } from './presets';
import { jobBounds } from './bounds';
import { rankUnits } from './ranking';

const base = presetJob('Test car', 'straight six, 2.9 L');
const job: JobDoc = {
  ...base,
  car: {
    ...base.car,
    ve: { rpm: [1500, 2500, 3500, 4500, 5500, 6200, 6800], value: [0.76, 0.83, 0.885, 0.92, 0.9, 0.865, 0.82] },
    weather: { p_Pa: 100_400, T_K: 293.15, rh: 0.45 },
  },
};

const units = [aUnit(62), aUnit(66), aUnit(74)];
const model = (opening: 'as it is' | 'matched', doc = job) =>
  must(
    jobModel(
      doc,
      units.map((u) => ({ unit: u, opening })),
    ),
  );

describe('the mildly restricted six', () => {
  it('gives out well before the redline and leaves some percent on the table', () => {
    const m = model('matched');
    expect(m.stock.givesOut_rpm).toBeGreaterThan(4800);
    expect(m.stock.givesOut_rpm).toBeLessThan(5800);
    const left = leftOnTable(job, m)!;
    expect(left).toBeGreaterThan(1.5);
    expect(left).toBeLessThan(4);
  });

  it('a 66 on a manifold bored to match is worth buying, on the old opening it brings about a third, a 74 is too big', () => {
    const matched = rankUnits(job, model('matched'), units);
    const asItIs = rankUnits(job, model('as it is'), units);
    const gain = (ranked: typeof matched, id: string): number => ranked.find((r) => r.unit.id === id)!.peakGain_pct!;
    expect(matched[0]!).toMatchObject({ verdict: 'worth buying', unit: { id: 'u66' } });
    expect(gain(matched, 'u66')).toBeGreaterThan(1.5);
    expect(gain(asItIs, 'u66') / gain(matched, 'u66')).toBeLessThan(0.45);
    expect(matched.at(-1)).toMatchObject({ verdict: 'too big for its manners', unit: { id: 'u74' } });
    expect(matched[0]!.thirds_pct![0]).toBeLessThan(0.4);
  });

  it('the flow at the allowed loss really loses that much', () => {
    const m = model('matched');
    for (const side of [m.stock, ...m.candidates]) {
      const rpmless = { ...m, demand_kgps: [side.passes_kgps![0]!] };
      const ladder = must(sideLadder(rpmless, { ...side, solved: { error: 'choked' } }, 0));
      expect(throttleLoss(side.compiled, ladder)).toBeCloseTo(allowedLoss(job), 2);
    }
  });

  it('solves on round rpm from the lowest to the redline', () => {
    const rpm = modelRpm(job);
    expect(rpm[0]).toBe(1500);
    expect(rpm.at(-1)).toBe(6800);
    expect(rpm.length).toBeLessThanOrEqual(60);
    expect(rpm.slice(1, -1).every((n) => n % 25 === 0)).toBe(true);
    expect(rpm.every((n, i) => i === 0 || n > rpm[i - 1]!)).toBe(true);
  });

  it('an electronic throttle on an electronic car may open more at once', () => {
    const electronic = { ...job, car: { ...job.car, controls: { ...job.car.controls, kind: 'electronic-digital' as const } } };
    const m = must(jobModel(electronic, [{ unit: aUnit(74, { controls: 'electronic-digital' }), opening: 'matched' }]));
    expect(rankUnits(electronic, m, [aUnit(74, { controls: 'electronic-digital' })])[0]!.verdict).toBe('worth buying');
    expect(jobBounds(electronic, m).limits.tipIn).toBe(2.2);
  });

  it('a bore that chokes is a limit from an rpm on, with what it costs', () => {
    const tiny = aUnit(28);
    const m = must(jobModel(job, [{ unit: tiny, opening: 'as it is' }]));
    const ranked = rankUnits(job, m, [tiny])[0]!;
    expect(ranked).toMatchObject({ verdict: 'costs power', pricePerW: null, choking: { part: 'throttle' } });
    expect(ranked.choking!.from_rpm).toBeGreaterThan(1500);
    expect(ranked.peakGain_pct!).toBeLessThan(-20);
    const top = sideLadder(m, m.candidates[0]!, m.rpm.length - 1);
    if (isFailure(top)) throw new Error('not solved');
    const solved = m.candidates[0]!.solved;
    if (isFailure(solved)) throw new Error('not solved');
    expect(top.end_Pa).toBeCloseTo(solved.plenum_Pa.at(-1)!, 6);
    expect(top.dp_Pa.reduce((a, b) => a + b, top.exit_Pa)).toBeCloseTo(top.total_Pa, 6);
  });

  it('says why when the car itself cannot be solved', () => {
    expect(jobModel({ ...job, car: { ...job.car, weather: { p_Pa: 1, T_K: 293, rh: 0 } } }, [])).toMatchObject({
      error: 'pressure_out_of_range',
    });
    expect(jobModel({ ...job, car: { ...job.car, ve: { rpm: [2000, 1000], value: [1, 1] } } }, [])).toMatchObject({
      error: 'bad_input',
      where: 've',
    });
    const small = { ...job.car.stock, throttle: { ...job.car.stock.throttle, shape: 'oval' as const, width_m: 0.03, height_m: 0.031 } };
    expect(jobModel({ ...job, car: { ...job.car, stock: small } }, [])).toMatchObject({ error: 'bad_geometry' });
  });
});

describe('the path of a job', () => {
  it('takes the bore from the car and the opening from the narrower of manifold and gasket', () => {
    expect(effectiveOpening(job)).toBe(0.058);
    const narrowGasket = { ...job, car: { ...job.car, stock: { ...job.car.stock, gasketOpening_m: 0.055 } } };
    expect(effectiveOpening(narrowGasket)).toBe(0.055);
    const parts = jobPath(job, stockFitted(job)).parts;
    expect(parts.find((p) => p.type === 'throttle')).toMatchObject({ throttle: { bore_m: 0.058 } });
    expect(parts.at(-1)).toMatchObject({ type: 'section', name: 'opening', bore_m: 0.058 });
  });

  it('a matched opening is as wide as the throttle, and never narrower than it was', () => {
    expect(unitFitted(job, aUnit(66).doc, 'matched').opening_m).toBeCloseTo(0.066, 9);
    expect(unitFitted(job, aUnit(50).doc, 'matched').opening_m).toBe(0.058);
    expect(unitFitted(job, aUnit(66).doc, 'as it is').opening_m).toBe(0.058);
  });

  it('uses a throttle’s bench record in place of the usual K', () => {
    const measured = aUnit(66, {
      bench: [aRecord(0.3)],
    });
    const part = jobPath(job, unitFitted(job, measured.doc, 'matched')).parts.find((p) => p.type === 'throttle');
    expect(part).toMatchObject({ benchFlow_m3ps: 0.3 });
  });

  it('a twin counts as the round bore of its whole area', () => {
    expect(grossBore({ ...job.car.stock.throttle, shape: 'twin', bore_m: 0.05, count: 2 })).toBeCloseTo(0.05 * Math.SQRT2, 9);
  });
});

describe('findings', () => {
  const withPick = { ...job, pick: { ...job.pick, shown: units.map((u) => u.id), chosen: 'u66', opening: 'matched' as const } };
  const none = { stock: 0, other: 0, compared: null };

  it('has one for every stop, in order', () => {
    expect(jobFindings(withPick, units, none).stops.map((s) => s.stop)).toEqual([
      'car',
      'air',
      'pick',
      'fit',
      'install',
      'test',
      'verdict',
    ]);
  });

  it('of three runs of one part keep what they say of the shop’s scatter, worked out once', () => {
    const rpm = Array.from({ length: 60 }, (_, i) => 2000 + 75 * i);
    const curve = (scale: number) => ({ rpm, power_W: rpm.map((n) => 20 * n * scale) });
    const study = baselineStudy([curve(1), curve(1.004), curve(0.997)], { fwhm_rpm: 0 })!;
    const leaves = () => {
      const found = jobFindings(job, units, { stock: 3, other: 0, compared: null, study }).stops.find((s) => s.stop === 'test')!;
      return found.stop === 'test' ? found.leaves?.dyno : null;
    };
    const said = leaves()!;
    const exact = studyLikelihood(study, { rig: 'dyno' }) as number[];
    expect(said).toEqual(exact.map((v) => expect.closeTo(v, 4)));
    expect(leaves()).toBe(said);
    const two = jobFindings(job, units, { stock: 2, other: 0, compared: null, study: study.slice(0, 2) });
    expect(two.stops.find((s) => s.stop === 'test')).toMatchObject({ leaves: null });
  });

  it('the pick is settled by a good choice and wants a look after a bad one', () => {
    const state = (chosen: string | null) =>
      jobFindings({ ...withPick, pick: { ...withPick.pick, chosen } }, units, none).stops.find((s) => s.stop === 'pick')!.state;
    expect(state('u66')).toBe('settled');
    expect(state('u74')).toBe('needs a look');
    expect(state(null)).toBe('started');
  });

  it('a car that cannot be solved is told on the Air step', () => {
    const broken = {
      ...withPick,
      car: {
        ...withPick.car,
        weather: { ...withPick.car.weather, p_Pa: 1 },
      },
    };
    expect(jobFindings(broken, units, none).stops[1]).toMatchObject({
      stop: 'air',
      state: 'needs a look',
      failed: 'pressure_out_of_range',
    });
  });
});

describe('openings', () => {
  const t = aUnit(66).doc.throttle;
  it('says what must be worked and what cannot be', () => {
    expect(must(openingCheck(t, 0.066, 0.058, null))).toMatchObject({
      verdict: 'needs something',
      lipSide: 'into the flow',
      overhang_m: expect.closeTo(0.004, 9),
    });
    expect(must(openingCheck(t, 0.066, 0.058, 0.06))).toMatchObject({ verdict: 'does not fit' });
    expect(must(openingCheck(t, 0.066, 0.058, null)).verdict).toBe('needs something');
    expect(must(openingCheck(t, 0.066, 0.058, 0.066)).verdict).toBe('needs something');
    expect(must(openingCheck(t, 0.066, 0.07, null))).toMatchObject({ verdict: 'fits', lipSide: 'behind the bore' });
    expect(must(openingCheck(t, 0.066, 0.0661, null))).toMatchObject({ verdict: 'fits', lipSide: 'none' });
    expect(openingCheck(t, 0.066, 0, null)).toMatchObject({ error: 'bad_geometry' });
  });

  it('the lip is the difference of the areas', () => {
    expect(must(openingCheck(t, 0.066, 0.058, null)).lip_m2).toBeCloseTo((Math.PI / 4) * (0.066 ** 2 - 0.058 ** 2), 12);
  });
});

describe('the order of work', () => {
  const installSteps = (controls: StepFacts['controls'], bored: boolean) =>
    usualSteps({ controls, bored, adapter: false, coolant: false, boosted: false });
  it('has checks before the first start on every kind of control, and cable work only on cables', () => {
    for (const control of ['cable', 'electronic-analogue', 'electronic-digital'] as const) {
      const steps = installSteps(control, false);
      const start = steps.findIndex((s) => s.id === 'start');
      const gates = steps.filter((s) => s.gate);
      expect(gates.length).toBe(6);
      expect(gates.every((g) => (g.cures ?? []).every((c) => steps.some((s) => s.id === c)))).toBe(true);
      expect(gates.every((g) => steps.indexOf(g) < start)).toBe(true);
      expect(steps.some((s) => s.id === 'closed-stop')).toBe(control === 'cable');
      expect(steps.some((s) => s.id === 'bore')).toBe(false);
    }
    expect(installSteps('cable', true).some((s) => s.id === 'bore')).toBe(true);
  });

  it('keeps the stages in order', () => {
    const order = STAGES.map((s) => s.stage);
    const steps = installSteps('cable', true).map((s) => order.indexOf(s.stage));
    expect(steps).toEqual([...steps].sort((a, b) => a - b));
  });
});

describe('presets', () => {
  it.each(Object.keys(ENGINE_PRESETS))('%s is a valid job that solves', (preset) => {
    const doc = jobDoc.parse(presetJob('x', preset));
    expect(isFailure(jobModel(doc, []))).toBe(false);
  });

  it('begins with the shop’s own limits, and with nothing picked', () => {
    const own = { ...NO_DEFAULTS, allowedLoss_Pa: 1500, speed_mps: 95, tipIn: 1.8 };
    const doc = presetJob('x', 'straight six, 2.9 L', own);
    expect(doc.air.allowedLoss_Pa).toBe(1500);
    expect(doc.sizing).toMatchObject({ speed_mps: 95, tipIn: 1.8, fit_m: null });
    expect(doc.pick).toMatchObject({ shown: [], chosen: null, opening: 'matched' });
  });

  it.each(Object.keys(VE_SHAPES))('shape %s rises in rpm at any redline', (shape) => {
    for (const redline of [4500, 6800, 9000]) {
      const { rpm } = veOfShape(shape as keyof typeof VE_SHAPES, redline);
      expect(rpm.every((n, i) => i === 0 || n > rpm[i - 1]!)).toBe(true);
    }
  });

  it('does not know a preset that is not there', () => {
    expect(() => presetJob('x', 'rotary')).toThrow(RangeError);
  });
});

describe('workings', () => {
  const m = model('matched');
  const side = m.candidates[1]!;
  const ladder = must(sideLadder(m, m.stock, 40));
  const ranked = rankUnits(job, m, units)[0]!;
  const all: [string, Working][] = [
    ['demand', demandWorking(job, m, 40)],
    ['passes', passesWorking(job, m, m.stock)],
    ['gives out', givesOutWorking(job, m, m.stock)],
    ['loss', throttleLossWorking(job, m.stock, ladder, m.demand_kgps[40]!, sideStart(m, m.stock, 40))],
    ['plenum', plenumWorking(job, m, m.stock, ladder, 40)],
    ['power', powerWorking(job, m, side, 40)],
    ['manners', mannersWorking(job, ranked)],
    ['lip', lipWorking(job, 'Unit 66', 0.066, (Math.PI / 4) * 0.066 ** 2, 0.058)],
    ['price', priceWorking('Unit 66', 385, 2800)],
  ];

  it.each(all)('%s has steps with known formulas and finite numbers', (_name, working) => {
    expect(working.steps.length).toBeGreaterThan(0);
    for (const step of working.steps) {
      expect(FORMULAS[step.formula].tex).not.toBe('');
      for (const t of [...step.terms, step.result]) expect(Number.isFinite(t.value)).toBe(true);
    }
  });

  it('end in the very number the screen shows', () => {
    const last = (w: Working) => w.steps.at(-1)!.result.value;
    expect(last(passesWorking(job, m, m.stock))).toBe(m.stock.passes_kgps![0]);
    expect(last(givesOutWorking(job, m, m.stock))).toBe(m.stock.givesOut_rpm);
    expect(last(plenumWorking(job, m, m.stock, ladder, 40))).toBe(ladder.end_Pa);
    expect(last(throttleLossWorking(job, m.stock, ladder, m.demand_kgps[40]!, sideStart(m, m.stock, 40)))).toBe(
      throttleLoss(m.stock.compiled, ladder),
    );
    expect(100 * last(powerWorking(job, m, side, 40))).toBeCloseTo(side.gain_pct![40]!, 9);
  });
});
