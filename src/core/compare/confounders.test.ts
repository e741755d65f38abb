import { must } from '../failure';
import { NO_GEARBOX, NO_PLAN } from '../documents/blank';
import type { PlanDoc } from '../documents/plan';
import { runDoc, type RunDoc } from '../documents/run';
import type { DynoRun } from '../runs/dyno-run';
import { breaking, confounders, type ComparedRun, type Confounder, type FairContext } from './confounders';
import { compareSides } from './sides';

const rpm = Array.from({ length: 220 }, (_, i) => 2000 + 22 * i);
const curve = (scale: number) => ({ rpm, power_W: rpm.map((n) => 20 * n * scale) });

describe('confounders', () => {
  const record = runDoc.parse({
    schema: 1,
    name: 'run',
    side: null,
    channels: [],
    measuredAt: 'wheels',
    carried: 'none',
    carriedSmoothing_rpm: 0,
    weather: { p_Pa: 100_000, T_K: 293, rh: 0.4 },
    takenOn: '2026-04-18',
    gear: '4',
    fuel: '98',
    tune: 'stock',
    otherChanges: '',
    coolantStart_K: 355,
    leftOut: null,
  });
  const run: DynoRun = {
    rpm: Float64Array.from(rpm),
    power_W: Float64Array.from(curve(1).power_W),
    extra: {},
    correction: 'SAE J1349',
    factor: 1,
    samples: 0,
    swept: 0,
    block: 1,
    inletAirStart_K: 295,
    inletAirPeak_K: 300,
    coolantStart_K: 355,
  };
  const of = (doc: Partial<RunDoc> = {}, more: Partial<DynoRun> = {}): ComparedRun => ({
    id: 'x',
    doc: { ...record, ...doc },
    run: { ...run, ...more },
  });
  const found = (
    a: ComparedRun[],
    b: ComparedRun[],
    plan: Partial<PlanDoc> = {},
    gearbox = NO_GEARBOX,
    uncorrected_pct: number | null = null,
    more: Partial<FairContext> = {},
  ) =>
    confounders(a, b, {
      plan: { ...NO_PLAN, order: 'A-B', ...plan },
      gearbox,
      comparison: must(
        compareSides(
          a.map((r) => r.run),
          b.map((r) => r.run),
          { fwhm_rpm: 0 },
        ),
      ),
      uncorrected_pct,
      ...more,
    });
  let unlike = 0;
  /** Two runs that are not the same to the last figure. */
  const pairOf = (doc: Partial<RunDoc> = {}, more: Partial<DynoRun> = {}) =>
    [1, 1.001].map((k) => of(doc, { ...more, power_W: run.power_W.map((w) => w * k + k * (unlike += 1e-6)) }));
  const codes = (...input: Parameters<typeof found>): Confounder['code'][] => found(...input).map((c) => c.code);

  it('a humidity that nobody gave is told where the correction wants it and the other side is in other air', () => {
    const guessed = (more: Partial<RunDoc> = {}) => of({ weatherGuessed: ['rh'], ...more });
    const told = (a: ComparedRun[], b: ComparedRun[]) => found(a, b).find((c) => c.code === 'humidity_unknown');
    // 20 to 80 % of 2.3 kPa in 98.6 kPa, times 1.18: half of 1.7 %, on half of a side's runs.
    expect(told([of(), of()], [guessed({ name: 'one' }), of()])).toMatchObject({ runs: ['one'], taken: 0.5 });
    expect((told([of(), of()], [guessed(), of()]) as { worth_pct: number }).worth_pct).toBeCloseTo(0.42, 2);
    expect(told([guessed(), guessed()], [guessed(), guessed()])).toBeUndefined();
    // Half of each side lacks it on one day: the same air for both, whatever it was.
    expect(told([guessed(), of()], [of(), guessed()])).toBeUndefined();
    const apart = told([guessed(), guessed()], [guessed({ takenOn: '2026-04-19' }), guessed({ takenOn: '2026-04-19' })]);
    expect((apart as { worth_pct: number }).worth_pct).toBeCloseTo(1.68, 1);
    expect(
      told([guessed({ takenOn: null }), guessed({ takenOn: null })], [guessed({ takenOn: null }), guessed({ takenOn: null })]),
    ).toBeDefined();
    expect(told([of(), of()], [guessed({ carried: 'SAE J1349' }), of()])).toBeUndefined();
    // What it may be worth takes a small gain's word away, and leaves a large one's.
    const gained = (by: number) =>
      [0, 1, 2, 3].map((k) => of({ weatherGuessed: ['rh'] }, { power_W: run.power_W.map((w) => w * (by + 1e-4 * k)) }));
    const stock = [0, 1, 2, 3].map((k) => of({}, { power_W: run.power_W.map((w) => w * (1 + 1e-4 * k)) }));
    for (const [by, decides] of [
      [1.015, true],
      [1.05, false],
    ] as const) {
      const confounded = found(stock, gained(by));
      expect(confounded.find((c) => c.code === 'humidity_unknown')).toMatchObject({ decides });
      expect(breaking(confounded).map((c) => c.code)).toEqual(decides ? ['humidity_unknown'] : []);
    }
    // Nothing is corrected where pressure or temperature are guesses.
    expect(told([of(), of()], [guessed({ weatherGuessed: ['T_K', 'rh'] }), of()])).toBeUndefined();
  });

  it('finds nothing between repeated runs of equal conditions', () => {
    expect(codes(pairOf(), pairOf())).toEqual(['one_stay_a_side']);
  });

  it.each<[string, FairContext['oneKind'], Confounder | undefined]>([
    [
      'by the wheels, two of them laid down to it',
      { kind: { at: 'wheels', carried: 'none' }, changed: ['x', 'y'] },
      { code: 'one_kind', runs: ['x', 'y'], at: 'wheels', carried: 'none' },
    ],
    [
      'by what nobody knows of either',
      { kind: { at: null, carried: null }, changed: ['x'] },
      { code: 'one_kind', runs: ['x'], at: 'unknown', carried: 'unknown' },
    ],
    ['by one kind they all had', { kind: { at: 'hub', carried: 'SAE J1349' }, changed: [] }, undefined],
    ['by none', { kind: null, changed: ['x'] }, undefined],
    ['by what was not asked', undefined, undefined],
  ])('runs compared %s: says so where some had to give way for it', (_, oneKind, told) => {
    const all = found(pairOf(), pairOf(), {}, NO_GEARBOX, null, oneKind && { oneKind });
    expect(all.find((c) => c.code === 'one_kind')).toEqual(told);
  });

  it('finds each thing that differs', () => {
    const pair = pairOf();
    expect(codes(pair, [of({}, { correction: 'STD' })])).toContain('mixed_correction');
    expect(codes([of({}, { correction: 'unknown' })], [of({}, { correction: 'unknown' })])).toContain('unknown_correction');
    expect(codes(pair, [of({ carriedSmoothing_rpm: 200 })])).toContain('smoothing');
    expect(codes(pair, [of({}, { inletAirStart_K: 299 })])).toContain('inlet_air');
    expect(codes(pair, [of({}, { inletAirStart_K: 297 })])).not.toContain('inlet_air');
    expect(codes(pair, [of({}, { coolantStart_K: 362 })])).toContain('coolant');
    expect(codes(pair, [of({ weather: { p_Pa: 98_000, T_K: 293, rh: 0.4 } })])).toContain('air_density');
    expect(codes(pair, [of({ takenOn: '2026-04-20' })])).toContain('days_apart');
    expect(codes(pair, [of({ gear: '3' })])).toContain('other_record');
    expect(codes(pair, [of({ gear: '4th gear' })])).not.toContain('other_record');
    // One gear in two wordings on one side is no other gear, nor are two pulleys in another order other pulleys.
    expect(codes(pair, [of({ gear: '4' }), of({ gear: '4th' }), of({ gear: 'Fourth gear' })])).not.toContain('other_record');
    expect(codes([of({ fuel: '98RON' })], [of({ fuel: '98 ron' })])).not.toContain('other_record');
    expect(codes([of({ tune: 'map 1 2' })], [of({ tune: 'Map 12' })])).toContain('other_record');
    const pulleys = [of({ pulley: '84 mm' }), of({ pulley: '78 mm' })];
    expect(codes(pulleys, pulleys.toReversed())).not.toContain('other_record');
    expect(found(pulleys, [of({ pulley: '84mm' }), of({ pulley: '84 mm' })])).toContainEqual(
      expect.objectContaining({ code: 'other_record', a: '84 mm, 78 mm', b: '84mm' }),
    );
    expect(codes(pair, [of({ otherChanges: 'smaller pulley' })])).toContain('more_changed');
    expect(codes(pair, [of({ pulley: '78 mm' })])).not.toContain('other_record');
    expect(codes([of({ pulley: '84 mm' })], [of({ pulley: '78 mm' })])).toContain('other_record');
    // Where some were measured and nobody knows of the others, it is no comparison.
    const unsaid = found(pairOf({ measuredAt: 'unknown' }), pairOf({ measuredAt: 'wheels' }));
    expect(breaking(unsaid)).toMatchObject([{ code: 'unknown_place', runs: ['run', 'run'], others: 'wheels', worth_pct: 15 }]);
    expect(codes([of({ measuredAt: 'unknown' })], [of({ measuredAt: 'unknown' })])).not.toContain('unknown_place');
    expect(codes(pair, [of({ oilStart_K: 380 })])).not.toContain('oil');
    expect(codes([of({ oilStart_K: 360 })], [of({ oilStart_K: 380 })])).toContain('oil');
    expect(codes(pair, [of({ carriedSmoothing_rpm: null })])).toContain('smoothing_unknown');
    expect(codes([of({ name: 'a' })], [of({ name: 'b' })])).toContain('duplicate');
    expect(breaking(found([of({ name: 'a' })], [of({ name: 'b' })]))).toMatchObject([{ code: 'duplicate', runs: ['a', 'b'] }]);
    expect(codes(pair, pairOf(), {}, NO_GEARBOX, 1.4)).toEqual(['overcorrected', 'one_stay_a_side']);
    const box = { ratios: [3.4, 2, 1.4, 1.02, 0.8], final: null, tyre_m: null };
    expect(codes([of({ gear: '2nd' })], [of({ gear: '2nd' })], {}, box)).toContain('gear_far');
    expect(codes([of({ gear: '4th' })], [of({ gear: '4th' })], {}, box)).not.toContain('gear_far');
  });

  it('names runs on a level no throttle makes, the fewer of them: another car, or hp taken for kW', () => {
    const level = (name: string, factor: number): ComparedRun => of({ name }, { power_W: run.power_W.map((p) => p * factor) });
    const named = (a: ComparedRun[], b: ComparedRun[]) => found(a, b).find((c) => c.code === 'other_level');
    expect(named([level('s', 1), level('t', 1.01)], [level('n', 1.12), level('m', 1.15)])).toBeUndefined();
    expect(named([level('s', 1), level('hp', 1.341)], [level('n', 1.02), level('m', 1.03)])).toEqual({
      code: 'other_level',
      runs: ['hp'],
      share: expect.closeTo(1.341 / (3.05 / 3), 6) as number,
    });
    expect(named([level('s', 1), level('t', 1)], [level('n', 1.36), level('m', 1.37)])).toMatchObject({ runs: ['s', 't'] });
    const small = named([level('s', 1), level('x', 0.5)], [level('n', 1.02), level('y', 0.51), level('z', 1.01)]);
    expect(small).toMatchObject({ runs: ['x', 'y'], share: expect.closeTo(0.5, 2) as number });
    expect(breaking([small!])).toEqual([small]);
  });

  it('names the runs that are not as most are, where leaving them out could mend it', () => {
    const odd = (a: ComparedRun[], b: ComparedRun[], code: Confounder['code']) => {
      const one = found(a, b).find((c) => c.code === code);
      return one && 'odd' in one ? one.odd : null;
    };
    const gears = (...written: string[]) => written.map((gear, i) => of({ gear, name: `${gear} ${i}` }));
    expect(odd(gears('4', '4th'), gears('4', '3', ''), 'other_record')).toEqual([{ has: '3', runs: ['3 1'] }]);
    expect(odd(gears('4', '3'), gears('4', 'third', '5', '4'), 'other_record')).toEqual([
      { has: '3', runs: ['3 1', 'third 1'] },
      { has: '5', runs: ['5 2'] },
    ]);
    // Sides that part cleanly have no odd runs, nor has a day of which one half is as good as the other.
    expect(odd(gears('4', '4', '4'), gears('3'), 'other_record')).toEqual([]);
    expect(odd(gears('4', '3'), gears('3', '4', '5', '5'), 'other_record')).toEqual([]);
    const carried = (...corrections: DynoRun['correction'][]) => corrections.map((correction) => of({ name: correction }, { correction }));
    expect(odd(carried('STD', 'STD'), carried('STD', 'none'), 'mixed_correction')).toEqual([{ has: 'none', runs: ['none'] }]);
    expect(odd(carried('STD', 'STD'), carried('none'), 'mixed_correction')).toEqual([]);
  });

  it('holds against the plan, and breaks on what is no longer the same car', () => {
    const warm = [of({}, { inletAirStart_K: 296.5 })];
    expect(codes([of()], warm)).not.toContain('inlet_air');
    expect(codes([of()], warm, { holds: { ...NO_PLAN.holds, inletAir_K: 1 } })).toContain('inlet_air');
    expect(breaking(found(pairOf(), pairOf({ otherChanges: 'headers' }, { inletAirStart_K: 320 }))).map((c) => c.code)).toEqual([
      'more_changed',
    ]);
    const short = [of({}, { rpm: Float64Array.from(rpm.slice(0, 90)), power_W: Float64Array.from(curve(1).power_W.slice(0, 90)) })];
    expect(codes([of()], short)).toContain('short_range');
  });

  it('says warmer inlet air takes power away, and what density is worth uncorrected', () => {
    const warm = found([of(), of()], [of({}, { inletAirStart_K: 305 })]).find((c) => c.code === 'inlet_air');
    expect(warm).toMatchObject({ apart_K: 10, worth_pct: expect.closeTo(-1.69, 1) });
    const raw = { correction: 'none' as const };
    const thin = found([of({}, raw), of({}, raw)], [of({ weather: { p_Pa: 98_000, T_K: 293, rh: 0.4 } }, raw)]).find(
      (c) => c.code === 'air_density',
    );
    expect(thin).toMatchObject({ worth_pct: expect.closeTo(-2, 0) });
  });
});
