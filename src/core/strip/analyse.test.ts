import { must } from '../failure';
import type { StripBook, StripPassDoc } from '../documents/strip';
import { stripPassDoc, stripVisitDoc } from '../documents/strip';
import { clockOf } from '../numbers/clock';
import { stationReadings } from '../stand-ins/weather-station';
import { towerSlip } from '../stand-ins/tower';
import { airOfPass, nightMinutes, nightOrder } from './air-of-day';
import { analyseStrip, powerKind } from './analyse';
import type { StripAnalysis } from './analysis';
import { NO_SLIP, type Slip } from '../documents/slip';
import { oddFigures } from './slip-check';

const UNIT = '00000000-0000-4000-8000-000000000001';
const visit = (id: string, over: object = {}) => ({
  id,
  jobId: 'j',
  version: 1,
  doc: stripVisitDoc.parse({
    schema: 1,
    track: 'Thornby strip',
    takenOn: '2026-04-25',
    mass_kg: 1500,
    weather: [...stationReadings({ noon: { p_Pa: 100_400, T_K: 291, rh: 0.5 }, seed: 2, from_min: 540, to_min: 960, every_min: 15 })].map(
      ({ at_min, ...w }) => ({ ...w, at: clockOf(at_min), from: 'stand-in' }),
    ),
    ...over,
  }),
});

/** A book of passes by the stand-in: `gain` of power and of start on the new side. */
function book(n: number, gain: number, start = 0, seed = 1, more: (i: number) => Partial<StripPassDoc> = () => ({})): StripBook {
  const passes = Array.from({ length: n }, (_, i) => {
    const isNew = i % 2 === 1;
    const car = { power_W: 150_000 * (1 + (isNew ? gain : 0)), mass_kg: 1500, launch_mps2: 4.6 * (1 + (isNew ? start : 0)) };
    return {
      id: `p${i}`,
      visitId: 'v1',
      version: 1,
      doc: stripPassDoc.parse({
        schema: 1,
        at: clockOf(560 + 30 * i),
        side: isNew ? { kind: 'unit', unitId: UNIT } : { kind: 'stock' },
        slip: towerSlip({ car, seed, pass: i }),
        coolant_K: 356 + (i % 3),
        inlet_K: 300 + (i % 2),
        ...more(i),
      }),
    };
  });
  return { visits: [visit('v1')], passes };
}
const analyse = (b: StripBook): StripAnalysis => analyseStrip(b, { kind: 'na', unitId: UNIT });

describe('the strip', () => {
  it('finds more power in the trap speed and names it', () => {
    const a = analyse(book(12, 0.06));
    expect(must(a.effects.trap_mps).answer.word).toBe('gain');
    expect(a.moved.map((m) => m.part)).toContain('power');
    expect(a.moved.map((m) => m.part)).not.toContain('launch');
    expect(a.powerBySpeed!.low).toBeLessThan(0.06);
    expect(a.powerBySpeed!.high).toBeGreaterThan(0.045);
  });

  it('a better start is a launch, not power', () => {
    const a = analyse(book(14, 0, 0.07));
    expect(a.moved).toContainEqual({ part: 'launch', better: true });
    expect(a.moved).not.toContainEqual({ part: 'power', better: true });
    expect(must(a.effects.sixty_s).answer.word).toBe('gain');
    expect(must(a.effects.et_s).answer.word).toBe('gain');
  });

  it('claims a difference where there is none in no more than one series in twenty', () => {
    let claims = 0;
    const series = 200;
    for (let seed = 1; seed <= series; seed += 1) {
      const word = must(analyse(book(10, 0, 0, seed)).effects.trap_mps).answer.word;
      if (word === 'gain' || word === 'loss') claims += 1;
    }
    expect(claims / series).toBeLessThan(0.05 + 3 * Math.sqrt((0.05 * 0.95) / series));
  });

  it('raw and corrected stand side by side, with the density altitude of the nearest reading', () => {
    const [p] = analyse(book(6, 0)).passes;
    expect(p!.weather!.gap_min).toBeLessThanOrEqual(8);
    expect(p!.densityAltitude_m).toBeGreaterThan(0);
    // Dense air flatters: in the reference air the pass takes longer.
    expect(p!.corrected!.factor).toBeLessThan(1);
    expect(p!.corrected!.et_s).toBeGreaterThan(p!.et_s!);
    expect(p!.power!.fromSpeed_W).toBeGreaterThan(130_000);
    expect(p!.power!.disagreement).toBeLessThan(0);
  });

  it('lists matched pairs of one air, says what would tell, and what the next pass will do', () => {
    const b = book(8, 0.01);
    const a = analyseStrip(b, { kind: 'na', unitId: UNIT, costs: { run_min: 20 } });
    expect(a.pairs.length).toBeGreaterThan(0);
    for (const pair of a.pairs) expect(Math.abs(pair.apart_m)).toBeLessThan(30);
    expect(must(a.effects.trap_mps).answer.word).toBe("can't tell yet");
    expect(a.next!.options.map((o) => o.step)).toContain('stay');
    expect(a.coming.map((c) => c.side)).toEqual(['A', 'B']);
    const [stock] = a.coming;
    expect(stock!.et!.value).toBeCloseTo(must(a.effects.et_s).meanA, 0);
    expect(stock!.et!.high - stock!.et!.low).toBeGreaterThan(0.1);
  });

  it('the next pass falls where it was said to in about nineteen of twenty', () => {
    let inside = 0;
    const series = 120;
    for (let seed = 1; seed <= series; seed += 1) {
      const whole = book(9, 0.02, 0, seed);
      const before = { ...whole, passes: whole.passes.slice(0, 8) };
      const said = analyse(before).coming.find((c) => c.side === 'A')!.trap!;
      const then = whole.passes[8]!.doc.slip.v402_mps!;
      if (then >= said.low && then <= said.high) inside += 1;
    }
    expect(inside / series).toBeGreaterThan(0.9);
  });

  it('two days, a throttle each, are no gain whatever the weather made of them', () => {
    const day = (id: string, unit: boolean, power: number): StripBook['passes'] =>
      Array.from({ length: 6 }, (_, i) => ({
        id: `${id}${i}`,
        visitId: id,
        version: 1,
        doc: stripPassDoc.parse({
          schema: 1,
          at: clockOf(600 + 25 * i),
          side: unit ? { kind: 'unit', unitId: UNIT } : { kind: 'stock' },
          slip: towerSlip({ car: { power_W: power, mass_kg: 1500, launch_mps2: 4.6 }, seed: unit ? 3 : 4, pass: i }),
        }),
      }));
    const b: StripBook = {
      visits: [visit('v1'), visit('v2', { takenOn: '2026-05-02' })],
      passes: [...day('v1', false, 150_000), ...day('v2', true, 158_000)],
    };
    const a = analyse(b);
    const { answer, meanA, meanB } = must(a.effects.trap_mps);
    expect(meanB - meanA).toBeGreaterThan(0.4);
    expect(answer).toMatchObject({ word: "can't tell yet", widest: 'day' });
    expect(a.warnings.map((w) => w.code)).toContain('sides_by_day');
  });

  it('never puts two distances into one pot: the eighth of an aborted quarter counts as an eighth', () => {
    const whole = book(10, 0.05);
    const cut = whole.passes.map((p, i) =>
      i < 3 ? { ...p, doc: { ...p.doc, slip: { ...p.doc.slip, t305_s: null, t402_s: null, v402_mps: null } } } : p,
    );
    const a = analyse({ ...whole, passes: cut });
    expect(a.distance).toBe('quarter');
    expect(must(a.effects.et_s).passes).toHaveLength(7);
    expect(must(a.effects.et_s).meanA).toBeGreaterThan(11);
    expect(a.others.map((o) => o.distance)).toContain('eighth');
    const eighth = must(a.others.find((o) => o.distance === 'eighth')!.et_s);
    expect(eighth.passes).toHaveLength(10);
    expect(eighth.meanA).toBeLessThan(11);
    expect(must(a.effects.et_s).meanA).toBeGreaterThan(14);
    expect(a.warnings.find((w) => w.code === 'distances')).toBeDefined();
  });

  it('warns of what went with the sides: lanes, tyres, launch, and passes without air', () => {
    const b = book(10, 0, 0, 1, (i) => ({
      lane: i % 2 === 0 ? ('left' as const) : ('right' as const),
      tyre_Pa: i % 2 === 0 ? 150_000 : 180_000,
      launch_rpm: i % 2 === 0 ? 3000 : 3600,
      ...(i === 9 && { at: '23:50' }),
    }));
    expect(analyse(b).warnings.map((w) => w.code)).toEqual(expect.arrayContaining(['lane', 'tyre', 'launch', 'no_air']));
    expect(must(analyse(b).effects.trap_mps).perMetre).toBeNull();
  });

  it('leaves out what was left out, what has no side, and another unit’s passes', () => {
    const b = book(8, 0, 0, 1, (i) =>
      i === 0 ? { leftOut: 'missed a gear' } : i === 1 ? { side: null } : i === 3 ? { side: { kind: 'unit', unitId: 'other' } } : {},
    );
    const a = analyse(b);
    expect([a.countA, a.countB]).toEqual([3, 2]);
  });

  it('goes without weather and without a quarter mile, and says less', () => {
    const bare = book(8, 0.05);
    const eighth = { ...bare, visits: [visit('v1', { weather: [], course: 'eighth' })] };
    const a = analyse(eighth);
    expect(a.passes[0]!.densityAltitude_m).toBeNull();
    expect(a.passes[0]!.corrected).toBeNull();
    expect(a.passes[0]!.power).toBeNull();
    expect(a.passes[0]!.et_s).toBeLessThan(12);
    expect(must(a.effects.et_s).perMetre).toBeNull();
    expect(must(a.effects.et_s).answer.word).not.toBe('loss');
  });

  it('one side alone is no comparison, and two passes are hardly one', () => {
    const one = analyse(book(1, 0));
    expect(one.effects.et_s).toMatchObject({ error: 'one_side_only' });
    expect(must(analyse(book(2, 0)).effects.et_s).answer.word).toBe("can't tell yet");
    expect(one.powerBySpeed).toBeNull();
    expect(one.moved).toEqual([]);
  });
});

it('the air of a pass lies between its readings, and is not known when the nearest is over an hour away', () => {
  const w = (minute: number, T_K = 290) => ({
    minute,
    reading: { at: clockOf(minute % 1440), p_Pa: 100_000, T_K, rh: 0.5, from: 'typed' as const, rhGuessed: false },
  });
  expect(airOfPass([w(600, 290), w(660, 296)], 620)).toMatchObject({ gap_min: 20, between: true, reading: { T_K: 292 } });
  expect(airOfPass([w(600)], 655)).toMatchObject({ gap_min: 55, between: false });
  expect(airOfPass([w(600)], 661)).toBeNull();
  expect(airOfPass([w(600)], null)).toBeNull();
  expect(airOfPass([w(600, 290), w(900, 300)], 610)).toMatchObject({ between: false, reading: { T_K: 290 } });
});

it('a night goes on past midnight', () => {
  expect(nightMinutes(['21:30', '00:15', '23:50', null])).toEqual([1290, 1455, 1430, null]);
  expect(nightMinutes(['09:00', '15:00'])).toEqual([540, 900]);
  const pass = (at: string | null) => ({ visitId: 'v', doc: { at } });
  expect(nightOrder([pass('00:10'), pass('22:00'), pass('23:40')]).map((p) => p.doc.at)).toEqual(['22:00', '23:40', '00:10']);
});

describe('a slip held against the day’s passes', () => {
  const slip = (t402_s: number): Slip => ({ ...NO_SLIP, t402_s });
  const day = [13.241, 13.302, 13.268].map(slip);
  const shown = (_: unknown, v: number): string => v.toFixed(3);
  const read = (_: unknown, t: string): number => Number(t);

  it('asks about two digits changed about, and offers them right', () => {
    expect(oddFigures(slip(31.254), day, shown, read)).toEqual([
      { field: 't402_s', typed: '31.254', from: '13.241', to: '13.302', swapped: '13.254' },
    ]);
    expect(oddFigures(slip(14.9), day, shown, read)).toMatchObject([{ swapped: null }]);
    expect(oddFigures(slip(13.4), day, shown, read)).toEqual([]);
    expect(oddFigures(slip(31.254), day.slice(0, 1), shown, read)).toEqual([]);
  });
});

it('a blower is corrected as a blower and a turbo as a turbo', () => {
  expect((['na', 'individual', 'drawThrough', 'centrifugal', 'turbo'] as const).map(powerKind)).toEqual([
    'na',
    'na',
    'belt',
    'belt',
    'turbo',
  ]);
});
