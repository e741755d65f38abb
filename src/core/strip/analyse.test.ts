import { isFailure, must } from '../failure';
import type { StripBook, StripPassDoc } from '../documents/strip';
import { stripPassDoc, stripVisitDoc } from '../documents/strip';
import { clockOf } from '../numbers/clock';
import { stationReadings } from '../stand-ins/weather-station';
import { towerSlip } from '../stand-ins/tower';
import { analyseStrip, nearestWeather, powerKind, type StripAnalysis } from './analyse';
import { sideEffect } from './passes';

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
    expect(must(a.effects.trap_mps).answer.answer).toBe('gain');
    expect(a.moved.map((m) => m.part)).toContain('power');
    expect(a.moved.map((m) => m.part)).not.toContain('launch');
    expect(a.powerBySpeed!.low).toBeLessThan(0.06);
    expect(a.powerBySpeed!.high).toBeGreaterThan(0.045);
  });

  it('a better start is a launch, not power', () => {
    const a = analyse(book(14, 0, 0.07));
    expect(a.moved).toContainEqual({ part: 'launch', better: true });
    expect(a.moved).not.toContainEqual({ part: 'power', better: true });
    expect(must(a.effects.sixty_s).answer.answer).toBe('gain');
    expect(must(a.effects.et_s).answer.answer).toBe('gain');
  });

  it('claims a difference where there is none in no more than one series in twenty', () => {
    let claims = 0;
    const series = 200;
    for (let seed = 1; seed <= series; seed += 1) {
      const word = must(analyse(book(10, 0, 0, seed)).effects.trap_mps).answer.answer;
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

  it('permutes within the visit, lists matched pairs of one air, and says what the next pass is worth', () => {
    const a = analyse(book(8, 0.04));
    const { permutation, effect } = must(a.effects.trap_mps);
    expect(permutation.splits).toBe(70);
    expect(effect.terms).toContain('densityAltitude');
    expect(a.pairs.length).toBeGreaterThan(0);
    for (const pair of a.pairs) expect(Math.abs(pair.apart_m)).toBeLessThan(30);
    expect(a.next).toHaveLength(2);
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
    expect(must(a.effects.et_s).meanA).toBeLessThan(12);
    expect(must(a.effects.et_s).effect.terms).not.toContain('densityAltitude');
  });

  it('one side alone, or two passes, is no comparison', () => {
    const one = analyse(book(1, 0));
    expect(one.effects.et_s).toMatchObject({ error: 'one_side_only' });
    expect(analyse(book(2, 0)).effects.et_s).toMatchObject({ error: 'too_few_passes' });
    expect(one.powerBySpeed).toBeNull();
    expect(one.moved).toEqual([]);
  });
});

it('the nearest reading is found by time; without a time only a single one speaks for the day', () => {
  const w = (at: string) => ({ at, p_Pa: 100_000, T_K: 290, rh: 0.5, from: 'typed' as const });
  expect(nearestWeather([w('10:00'), w('12:00')], '11:20')).toMatchObject({ gap_min: 40, reading: { at: '12:00' } });
  expect(nearestWeather([w('10:00'), w('12:00')], null)).toBeNull();
  expect(nearestWeather([w('10:00')], null)).toMatchObject({ gap_min: null });
  expect(nearestWeather([], '11:00')).toBeNull();
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

it('a fit that has no figure for a term does without it', () => {
  const passes = ['A', 'B', 'A', 'B', 'A', 'B'].map((side, i) => ({ side: side as 'A' | 'B', visit: 'v', value: 10 + (i % 2) + 0.01 * i }));
  const found = sideEffect(passes);
  expect(isFailure(found)).toBe(false);
  expect(must(found).terms).toEqual([]);
  expect(must(found).dropped).toEqual([]);
});
