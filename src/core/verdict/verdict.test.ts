import fc from 'fast-check';
import { comparedSides, factsOf, stripOf } from '../../../test/facts';
import { units, larkspur } from '../../../test/render-job';
import { drivenBand } from '../compare/used-bands';
import { barReach, effectBars } from './bars';
import { adviseOn, type AdviceInput } from './advice';
import { gainCost } from './cost';
import { boostStep, verdictReport } from './report';
import { learntPrediction, modelRecord } from './learning';
import { similarEngines, type FinishedJob } from './similar';
import type { SideManners } from '../logs/side-manners';

const NOTHING: AdviceInput = {
  comparison: null,
  driven: null,
  confounders: [],
  strip: null,
  manners: null,
  inletAir: null,
  idle_rpm: 750,
  idleFloor_rpm: 400,
  lip_m: null,
  predicted_pct: null,
  next: null,
};
const MANNERS: SideManners = {
  logs: 1,
  idle_rpm: 750,
  spread_rpm: 10,
  spreadError_rpm: 2,
  hunting_s: null,
  huntingBy_rpm: null,
  steps: 3,
  air_s: 0.08,
  airError_s: 0.012,
  airBy: ['manifold pressure'],
  acceleration_s: 0.2,
};
const codes = (i: Partial<AdviceInput>): string[] => adviseOn({ ...NOTHING, ...i }).reasons.map((r) => r.code);
const word = (i: Partial<AdviceInput>): string => adviseOn({ ...NOTHING, ...i }).word;

describe('advice', () => {
  it('keeps a gain, sends a loss back, and a throttle that makes no difference too', () => {
    expect(word({ comparison: comparedSides(0, 0.06) })).toBe('keep');
    expect(word({ comparison: comparedSides(0, -0.06) })).toBe('back');
    expect(word({ comparison: comparedSides(0, 0, 14) })).toBe('back');
    expect(word({ comparison: comparedSides(0, 0, 1) })).toBe('more');
    expect(word({ strip: stripOf(10, 0.06) })).toBe('keep');
    expect(word({ strip: stripOf(10, -0.06) })).toBe('back');
  });

  it('an unfair comparison decides nothing, and says why first', () => {
    const unfair = {
      comparison: comparedSides(0, 0.06),
      confounders: [{ code: 'other_record', field: 'pulley', a: '84 mm', b: '78 mm', odd: [] } as const],
    };
    expect(word(unfair)).toBe('more');
    expect(codes(unfair)[0]).toBe('unfair');
    // The strip may still decide.
    expect(word({ ...unfair, strip: stripOf(10, 0.06) })).toBe('keep');
  });

  it('nothing run, single runs, and sides that disagree want more', () => {
    expect(word({})).toBe('more');
    expect(codes({})).toEqual(['nothing_run']);
    expect(word({ comparison: comparedSides(0, 0.005, 1) })).toBe('more');
    expect(word({ comparison: comparedSides(0, 0.06), strip: stripOf(10, -0.06) })).toBe('more');
  });

  it('better in one place and worse in another: the band that is driven decides', () => {
    const swap = comparedSides(-0.06, 0.06, 3, [[5300, 6700]]);
    expect(swap.word).toBe('gain');
    const low = comparedSides(-0.06, 0, 3, [[5300, 6700]]);
    expect(codes({ comparison: low, driven: low.own[0]! })).toContain('clear');
    const below = comparedSides(-0.06, 0, 3, [[2100, 3500]]);
    expect(word({ comparison: below, driven: below.own[0]! })).toBe('back');
    expect(codes({ comparison: below, driven: below.own[0]! })).toContain('used');
    // Without a gearbox nobody knows where the engine is driven, and the reason is not given.
    expect(codes({ comparison: below })).not.toContain('used');
  });

  it('says how many passes the strip counts on both sides, and which part of the course moved', () => {
    const strip = { ...stripOf(10, 0.06), countA: 6, countB: 4, moved: [{ part: 'start', better: false } as const] };
    const said = adviseOn({ ...NOTHING, strip: strip as never }).reasons;
    expect(said).toContainEqual(expect.objectContaining({ code: 'strip', passes: 10 }));
    expect(said).toContainEqual({ code: 'strip_moved', moved: strip.moved });
    expect(codes({ strip: { ...strip, moved: [] } as never })).not.toContain('strip_moved');
  });

  it('warmer air is worth power lost, half its share of the kelvins; a little of it is no reason, and the strip may still decide', () => {
    const comparison = comparedSides(0, 0.01);
    const hot = adviseOn({ ...NOTHING, comparison, inletAir: { a_K: 300, b_K: 312 } });
    expect(hot.reasons).toContainEqual({ code: 'rerun_cool', by_K: 12, worth_pct: -2 });
    const cool = adviseOn({ ...NOTHING, comparison, inletAir: { a_K: 300, b_K: 288 } });
    expect(cool.reasons).toContainEqual({ code: 'rerun_cool', by_K: -12, worth_pct: 2 });
    // A kelvin is within what two sensors differ by, even where it is worth more than nothing at all.
    expect(codes({ comparison: comparedSides(0, 0), inletAir: { a_K: 300, b_K: 301 } })).not.toContain('rerun_cool');
    expect(word({ comparison, inletAir: { a_K: 300, b_K: 312 }, strip: stripOf(10, 0.06) })).toBe('keep');
  });

  it('a gain with a fault is kept with the fault put right, and the faults are named', () => {
    const gain = { comparison: comparedSides(0, 0.06) };
    const hunts = { stock: MANNERS, other: { ...MANNERS, hunting_s: 1.4, huntingBy_rpm: 60 } };
    expect(word({ ...gain, manners: hunts })).toBe('fix');
    expect(adviseOn({ ...NOTHING, ...gain, manners: hunts }).faults).toEqual([{ code: 'idle_hunts', every_s: 1.4, by_rpm: 60 }]);
    expect(word({ ...gain, manners: { stock: MANNERS, other: { ...MANNERS, air_s: 0.14 } } })).toBe('fix');
    expect(word({ ...gain, manners: { stock: MANNERS, other: { ...MANNERS, spread_rpm: 22 } } })).toBe('fix');
    expect(word({ ...gain, lip_m: 0.003 })).toBe('fix');
    expect(word({ ...gain, idleFloor_rpm: 900 })).toBe('fix');
    // What was logged at idle outweighs the expectation.
    expect(word({ ...gain, idleFloor_rpm: 900, manners: { stock: MANNERS, other: MANNERS } })).toBe('keep');
    // Nothing is worth mending on a throttle that comes off again.
    expect(adviseOn({ ...NOTHING, comparison: comparedSides(0, -0.06), lip_m: 0.003 }).faults).toEqual([]);
  });

  it('says when the money is better spent elsewhere, when the air was warmer, and how near the model was', () => {
    const comparison = comparedSides(0, 0.01);
    expect(codes({ comparison, next: { name: 'meter housing', gain_pct: 2.2 } })).toContain('elsewhere');
    expect(codes({ comparison, next: { name: 'filter', gain_pct: 0.4 } })).not.toContain('elsewhere');
    expect(codes({ comparison: comparedSides(0, 0.06), inletAir: { a_K: 298, b_K: 303 } })).toContain('inlet');
    // Worth more than the whole difference, it decides nothing: run again cool.
    const hot = adviseOn({ ...NOTHING, comparison, inletAir: { a_K: 298, b_K: 310 } });
    expect(hot.word).toBe('more');
    expect(hot.reasons.map((r) => r.code)).toContain('rerun_cool');
    expect(hot.reasons.map((r) => r.code)).not.toContain('next_runs');
    expect(adviseOn({ ...NOTHING, comparison, predicted_pct: 1 }).reasons).toContainEqual(
      expect.objectContaining({ code: 'predicted', within: true }),
    );
    expect(adviseOn({ ...NOTHING, comparison, predicted_pct: 5 }).reasons).toContainEqual(
      expect.objectContaining({ code: 'predicted', within: false }),
    );
  });
});

it('the driven band is the gearbox’s, not a person’s own', () => {
  const c = comparedSides(0, 0.02, 3, [
    [2100, 2600],
    [5300, 6700],
  ]);
  expect(drivenBand(c, 1)).toMatchObject({ from_rpm: 5300 });
  expect(drivenBand(c, 2)).toBeNull();
});

describe('cost', () => {
  const spent = { unit: 350, otherParts: 50, fitting: 200, testing: 150 };
  it('of a gain has the range of the gain’s interval, its dear end open where the gain could be none', () => {
    const told = { word: 'gain', fair: true } as const;
    expect(gainCost(spent, { gain_W: 1500, low_W: 1000, high_W: 2000, ...told })).toMatchObject({
      parts: 400,
      total: 750,
      perW: 0.5,
      cheap: 0.375,
      dear: 0.75,
      unpriced: null,
    });
    expect(gainCost(spent, { gain_W: 500, low_W: -100, high_W: 1100, ...told }).dear).toBeNull();
    expect(gainCost(spent, { gain_W: -500, low_W: -1000, high_W: -100, word: 'loss', fair: true }).perW).toBeNull();
  });

  it.each([
    ['unfair', { word: 'gain', fair: false }, 350],
    ["can't tell yet", { word: "can't tell yet", fair: true }, 350],
    ['nothing gained', { word: 'no difference that matters', fair: true }, 350],
    ['no price', { word: 'gain', fair: true }, null],
  ] as const)('is not told where it would be made up: %s', (unpriced, by, unit) => {
    const cost = gainCost({ ...spent, unit }, { gain_W: 1500, low_W: 1000, high_W: 2000, ...by });
    expect(cost).toMatchObject({ unpriced, perW: null, cheap: null, dear: null, total: 400 + (unit ?? 0) });
  });

  it('is never cheaper than at its cheap end', () => {
    const positive = fc.double({ min: 1, max: 1e4, noNaN: true });
    fc.assert(
      fc.property(positive, positive, positive, (low, more, total) => {
        const c = gainCost(
          { unit: total, otherParts: 0, fitting: 0, testing: 0 },
          { gain_W: low + more / 2, low_W: low, high_W: low + more, word: 'gain', fair: true },
        );
        expect(c.cheap!).toBeLessThanOrEqual(c.perW! * (1 + 1e-12));
        expect(c.perW!).toBeLessThanOrEqual(c.dear! * (1 + 1e-12));
      }),
    );
  });
});

describe('engines alike', () => {
  const job = (id: string, mean_pct: number, half = 0.5, more: Partial<FinishedJob> = {}): FinishedJob => ({
    id,
    name: id,
    unit: 'some 66',
    boreRatio: 1.1,
    mean_pct,
    low_pct: mean_pct - half,
    high_pct: mean_pct + half,
    predicted_pct: null,
    induction: 'na',
    displacement_m3: 0.0029,
    ...more,
  });
  const me = { id: 'me', induction: 'na' as const, displacement_m3: 0.003 };

  it('few of them say nothing of a kind; of other kinds and sizes, and smaller bores, none counts', () => {
    const few = similarEngines(
      [
        job('a', 1),
        job('b', 2),
        job('me', 3),
        job('c', 9, 0.5, { induction: 'turbo' }),
        job('d', 9, 0.5, { displacement_m3: 0.006 }),
        job('e', -3, 0.5, { boreRatio: 0.9 }),
      ],
      me,
    );
    expect(few.jobs.map((j) => j.id)).toEqual(['a', 'b']);
    expect(few.pooled).toBeNull();
  });

  it('together they lie between the smallest and the largest, surer ones counting more, and wider the more they differ', () => {
    const alike = similarEngines([job('a', 1), job('b', 1.1), job('c', 0.9)], me).pooled!;
    const apart = similarEngines([job('a', 0), job('b', 3), job('c', 1)], me).pooled!;
    expect(alike.mean_pct).toBeCloseTo(1, 6);
    expect(apart.high_pct - apart.low_pct).toBeGreaterThan(alike.high_pct - alike.low_pct);
    const sure = similarEngines([job('a', 1, 0.1), job('b', 1.6, 2), job('c', 1.8, 2)], me).pooled!;
    expect(sure.mean_pct).toBeLessThan(1.3);
  });
});

describe('the report', () => {
  it('puts together what was predicted, measured and paid, and stands on one scale', () => {
    const report = verdictReport(
      larkspur,
      units,
      factsOf({ comparison: comparedSides(0, 0.02), strip: stripOf(8, 0.02, 'unit-1'), stripCost: 55 }),
    );
    expect(report.predicted!.peak_pct).toBeCloseTo(1.9, 0);
    expect(report.predictedStrip!.trap_share).toBeGreaterThan(0);
    expect(report.predictedStrip!.et_share).toBeCloseTo(-report.predictedStrip!.trap_share, 12);
    expect(report.cost!.total).toBeGreaterThan(385 + 204);
    expect(report.next[0]!.gain_pct).toBeGreaterThan(0);
    expect(report.bars.map((b) => b.of)).toEqual(['dyno', 'et_s', 'trap_mps', 'sixty_s']);
    expect(report.word).toBe(report.advice.word);
  });

  it('an unfair comparison puts no price on what it seems to gain', () => {
    const report = verdictReport(
      larkspur,
      units,
      factsOf({
        comparison: comparedSides(0, 0.06),
        confounders: [{ code: 'other_record', field: 'pulley', a: '84 mm', b: '78 mm', odd: [] }],
      }),
    );
    expect(report.cost).toMatchObject({ unpriced: 'unfair', perW: null });
  });

  it('a person’s own decision stands over the figures’', () => {
    const doc = { ...larkspur, verdict: { ...larkspur.verdict, override: { advice: 'back' as const, reason: 'too loud', by: 'Maud' } } };
    const report = verdictReport(doc, units, factsOf({ comparison: comparedSides(0, 0.06) }));
    expect([report.word, report.advice.word]).toEqual(['back', 'keep']);
  });

  it('without a unit and without runs it is empty, not wrong', () => {
    const report = verdictReport(larkspur, units, factsOf({ unitId: null }));
    expect(report).toMatchObject({ unit: null, predicted: null, cost: null, ranked: null, next: [], whatIf: null, word: 'more' });
    expect(boostStep(larkspur)).toBeNull();
  });

  it('bars of times lie to the right when they are shorter', () => {
    const strip = stripOf(12, 0.1);
    const [et] = effectBars(null, strip, { et_s: 0.05, trap_mps: 0.22, sixty_s: 0.02 });
    expect(et!.middle).toBeGreaterThan(0);
    expect(et!.low).toBeLessThanOrEqual(et!.middle);
    expect(barReach([])).toBe(2);
    expect(barReach([{ of: 'dyno', middle: 3, low: -5.2, high: 4 }])).toBe(6);
  });
});

describe('what the shop has learnt of the model', () => {
  const job = (id: string, predicted_pct: number | null, mean_pct: number, more: Partial<FinishedJob> = {}): FinishedJob => ({
    id,
    name: id,
    unit: 'u',
    boreRatio: 1.1,
    mean_pct,
    low_pct: mean_pct - 0.4,
    high_pct: mean_pct + 0.4,
    word: 'gain',
    induction: 'na',
    displacement_m3: 0.0029,
    predicted_pct,
    ...more,
  });
  const me = { id: 'me', induction: 'na' as const };

  it('is nothing without predictions that were written down, and of other kinds', () => {
    expect(modelRecord([job('a', null, 1), job('b', 2, 1, { induction: 'turbo' }), job('me', 3, 1)], me)).toBeNull();
    expect(modelRecord([job('a', 2, 1, { word: "can't tell yet" })], me)).toBeNull();
  });

  it('is pulled to nothing while jobs are few, and comes to their own error with many', () => {
    const one = modelRecord([job('a', 2, 1)], me)!;
    expect(one.bias_pct).toBeGreaterThan(0.2);
    expect(one.bias_pct).toBeLessThan(0.6);
    const many = modelRecord(
      Array.from({ length: 20 }, (_, i) => job(`j${i}`, 2 + 0.2 * (i % 3), 1)),
      me,
    )!;
    expect(many.bias_pct).toBeCloseTo(1.2, 1);
    expect(many.biasSd_pct).toBeLessThan(one.biasSd_pct);
  });

  it('shifts the next prediction and never narrows its range', () => {
    const record = modelRecord([job('a', 2, 1), job('b', 2.2, 1)], me)!;
    const next = learntPrediction({ predicted: 1.6, low: 1.4, high: 1.7 }, record);
    expect(next.predicted).toBeLessThan(1.6);
    expect(next.high - next.low).toBeGreaterThan(0.3);
  });
});
