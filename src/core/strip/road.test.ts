import fc from 'fast-check';
import { gaussian, seededRandom } from '../numbers/random';
import { must } from '../failure';
import type { Trace } from '../logs/trace';
import { quietSpeed, roadAnswer, roadErrors, roadRuns, sharedWindow, speedNoise, widestRise, type RoadRun, type RoadWindow } from './road';

const WINDOW: RoadWindow = { from_mps: 100 / 3.6, to_mps: 200 / 3.6, rollout_m: 0.3048, grade: null, wind_mps: 2 };

/** A car that pulls with constant power per mass up or down a grade, 20 samples a second. */
function drive(power_Wpkg: number, grade: number, from_mps = 20, hz = 20): { speed: Trace; altitude: Trace } {
  const time: number[] = [];
  const v: number[] = [];
  const h: number[] = [];
  let speed = from_mps;
  let height = 0;
  const dt = 1 / hz / 50;
  for (let i = 0; i <= 60 * hz * 50 && speed < 62; i += 1) {
    if (i % 50 === 0) {
      time.push(i * dt);
      v.push(speed);
      h.push(height);
    }
    speed += dt * (Math.min(5, power_Wpkg / Math.max(speed, 1)) - 9.80665 * grade);
    height += dt * speed * grade;
  }
  const t = Float64Array.from(time);
  return { speed: { time_s: t, value: Float64Array.from(v) }, altitude: { time_s: t, value: Float64Array.from(h) } };
}

it('takes the grade out through the energy: uphill, flat and downhill are one car', () => {
  const flat = must(roadRuns(drive(90, 0).speed, null, { ...WINDOW, grade: 0 }))[0]!;
  for (const grade of [-0.015, 0.01, 0.02]) {
    const { speed, altitude } = drive(90, grade);
    const [run] = must(roadRuns(speed, altitude, WINDOW));
    expect(run!.climbFrom).toBe('altitude');
    expect(run!.climb_m).toBeCloseTo(grade * run!.distance_m, 0);
    expect(Math.abs(run!.flat_s / flat.time_s - 1)).toBeLessThan(0.01);
    expect(Math.abs(run!.time_s / flat.time_s - 1)).toBeGreaterThan(0.03);
  }
});

it('an entered grade serves where there is no altitude; without either the time stands with a wide error', () => {
  const { speed } = drive(90, 0.01);
  const [known] = must(roadRuns(speed, null, { ...WINDOW, grade: 0.01 }));
  const [unknown] = must(roadRuns(speed, null, WINDOW));
  expect(known!.climbFrom).toBe('grade');
  expect(unknown!.climbFrom).toBeNull();
  expect(unknown!.flat_s).toBe(unknown!.time_s);
  expect(unknown!.errors.grade_s).toBeGreaterThan(3 * known!.errors.grade_s);
});

it('from rest the clock starts after the rollout', () => {
  const { speed } = drive(120, 0, 0);
  const window = { ...WINDOW, from_mps: 0, to_mps: 26.82 };
  const [with_] = must(roadRuns(speed, null, window));
  const [without] = must(roadRuns(speed, null, { ...window, rollout_m: 0 }));
  expect(without!.time_s - with_!.time_s).toBeGreaterThan(0.2);
  expect(with_!.errors.rollout_s).toBeGreaterThan(0);
});

it('a log that never goes through the window says so, and a window that is none is refused', () => {
  const { speed } = drive(90, 0);
  expect(roadRuns(speed, null, { ...WINDOW, to_mps: 90 })).toEqual({ error: 'speed_not_reached' });
  expect(roadRuns(speed, null, { ...WINDOW, to_mps: 10 })).toEqual({ error: 'bad_input' });
});

it('finds each of several runs in one log', () => {
  const a = drive(90, 0).speed;
  const n = a.time_s.length;
  const gap = a.time_s[n - 1]! + 10;
  const speed = {
    time_s: Float64Array.from([...a.time_s, ...a.time_s.map((t) => t + gap)]),
    value: Float64Array.from([...a.value, ...a.value]),
  };
  const runs = must(roadRuns(speed, null, WINDOW));
  expect(runs).toHaveLength(2);
  expect(runs[1]!.time_s).toBeCloseTo(runs[0]!.time_s, 6);
});

it('a single pair is credited with nothing that the road could have done', () => {
  const before = must(roadRuns(drive(90, 0).speed, null, WINDOW));
  const hill = must(roadRuns(drive(90, -0.008).speed, null, WINDOW));
  const sided = (side: 'A' | 'B', runs: readonly RoadRun[]) => runs.map((run) => ({ side, visit: 'day', run }));
  const told = roadAnswer([...sided('A', before), ...sided('B', hill)], { stretch: 'no' })!;
  expect(told.difference_s).toBeLessThan(0);
  expect(told).toMatchObject({ grade: 'unknown', answer: { word: "can't tell yet" } });
  expect(told.answer.shares.place).toBeGreaterThan(0.1);
  expect(told.low_s).toBeLessThan(told.difference_s);
  expect(roadAnswer(sided('A', before), { stretch: 'no' })).toBeNull();
  // More runs on the same two grounds do not make the ground less unknown.
  const many = roadAnswer([...sided('A', [...before, ...before, ...before]), ...sided('B', [...hill, ...hill, ...hill])], {
    stretch: 'no',
  })!;
  expect(many.answer.widest).toBe('place');
  expect(many.high_s - many.low_s).toBeGreaterThan(0.5 * (told.high_s - told.low_s));
  const both = roadAnswer([...sided('A', before), ...sided('B', hill)], { stretch: 'both ways' })!;
  expect(both.high_s - both.low_s).toBeLessThan(told.high_s - told.low_s);
});

it('errors are never negative and add by their squares', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0, max: 8, noNaN: true }),
      fc.double({ min: 2, max: 30, noNaN: true }),
      fc.constantFrom('altitude' as const, 'grade' as const, 'no' as const),
      (wind_mps, time_s, climbKnown) => {
        const e = roadErrors({ ...WINDOW, wind_mps, time_s, distance_m: 40 * time_s, climbKnown, step_s: 0.05 });
        for (const part of [e.grade_s, e.wind_s, e.rollout_s, e.sampling_s]) expect(part).toBeGreaterThanOrEqual(0);
        expect(e.all_s ** 2).toBeCloseTo(e.grade_s ** 2 + e.wind_s ** 2 + e.rollout_s ** 2 + e.sampling_s ** 2, 9);
      },
    ),
  );
});

describe('what a log goes through', () => {
  it('its curve begins at the clock’s start at one end of the window and ends at the other', () => {
    const [run] = must(roadRuns(drive(90, 0).speed, null, WINDOW));
    const { time_s, speed_mps } = run!.curve;
    expect(time_s[0]).toBe(0);
    expect(time_s.at(-1)).toBeCloseTo(run!.time_s, 9);
    expect(speed_mps[0]).toBeCloseTo(WINDOW.from_mps, 6);
    expect(speed_mps.at(-1)).toBeCloseTo(WINDOW.to_mps, 6);
    for (let i = 1; i < time_s.length; i += 1) expect(time_s[i]!).toBeGreaterThan(time_s[i - 1]!);
  });

  it('is its widest rise, and nothing where speed only falls', () => {
    const of = (value: number[]): Trace => ({ time_s: Float64Array.from(value.keys()), value: Float64Array.from(value) });
    expect(widestRise(of([10, 12, 20, 15, 8, 14, 30, 31, 5]))).toEqual({ from_mps: 8, to_mps: 31 });
    expect(widestRise(of([30, 20, 10]))).toBeNull();
    expect(widestRise(of([]))).toBeNull();
  });

  it('a window they all share lies inside each, on round figures, and is found again by the runs', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.double({ min: 5, max: 20, noNaN: true }), fc.double({ min: 30, max: 60, noNaN: true })), {
          minLength: 1,
          maxLength: 6,
        }),
        fc.double({ min: 0.5, max: 5, noNaN: true }),
        (ends, step) => {
          const spans = ends.map(([from_mps, to_mps]) => ({ from_mps, to_mps }));
          const shared = sharedWindow(spans, step)!;
          for (const s of spans) {
            expect(shared.from_mps).toBeGreaterThanOrEqual(s.from_mps - 1e-9);
            expect(shared.to_mps).toBeLessThanOrEqual(s.to_mps + 1e-9);
          }
          expect(Math.abs(shared.from_mps / step - Math.round(shared.from_mps / step))).toBeLessThan(1e-6);
        },
      ),
    );
    expect(sharedWindow([], 1)).toBeNull();
    expect(
      sharedWindow(
        [
          { from_mps: 10, to_mps: 20 },
          { from_mps: 21, to_mps: 40 },
        ],
        1,
      ),
    ).toBeNull();
    const { speed } = drive(90, 0);
    const window = sharedWindow([widestRise(speed)!], 5 / 3.6)!;
    expect(must(roadRuns(speed, null, { ...WINDOW, ...window }))).toHaveLength(1);
  });
});

it('finds a run in a speed by satellite, noise, gear changes and all', () => {
  const random = seededRandom(11);
  // Twenty-five readings a second with 0.3 m/s of noise; three gears, each change costs a moment and some speed.
  const time_s = Float64Array.from({ length: 30 * 25 }, (_, i) => i / 25);
  const clean = (t: number): number => {
    const pull = Math.min(Math.max(t - 4, 0), 18);
    const changes = [5, 11].filter((at) => pull > at).length;
    const changing = [5, 11].some((at) => pull > at && pull < at + 0.4);
    return 12 + 2 * (pull - 0.4 * changes) - (changing ? 0.5 : 0) - (t > 23 ? 3 * (t - 23) : 0);
  };
  const speed = { time_s, value: time_s.map((t) => clean(t) + 0.3 * gaussian(random)) };
  expect(speedNoise(speed)).toBeGreaterThan(0.25);
  expect(speedNoise(speed)).toBeLessThan(0.35);
  expect(speedNoise(quietSpeed(speed))).toBeLessThan(0.12);
  const found = must(roadRuns(speed, null, { ...WINDOW, from_mps: 15, to_mps: 42 }));
  expect(found).toHaveLength(1);
  expect(found[0]!.time_s).toBeCloseTo((42 - 15) / 2 + 0.8, 0);
});
