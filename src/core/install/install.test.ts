import fc from 'fast-check';
import { isFailure, must } from '../failure';
import { throttleOpenArea, type Throttle } from '../flow/throttle';
import {
  blipsOf,
  cycleReports,
  idleVerdict,
  relearnFaults,
  relearnState,
  USUAL_RELEARN,
  type RelearnEvent,
  type RpmSample,
} from './relearn';
import { sensorCheck, tracksPlausible } from './sensor';
import { areaPast, stopsCheck } from './stops';
import { crossOrder, torquePlan } from './torque';

const deg = (x: number): number => (x * Math.PI) / 180;

describe('torque', () => {
  const ring = (n: number) =>
    Array.from({ length: n }, (_, i) => ({ x_m: 0.05 * Math.cos((2 * Math.PI * i) / n), y_m: 0.05 * Math.sin((2 * Math.PI * i) / n) }));

  it('goes crosswise: four are 1, 3, 2, 4', () => {
    expect(crossOrder(ring(4))).toEqual([0, 2, 1, 3]);
    expect(crossOrder(ring(2))).toEqual([0, 1]);
    expect(crossOrder([])).toEqual([]);
  });

  it('takes every bolt once, and its first step across the ring', () => {
    for (let n = 2; n <= 12; n += 1) {
      const order = crossOrder(ring(n));
      expect([...order].sort((a, b) => a - b)).toEqual(Array.from({ length: n }, (_, i) => i));
      const steps = Math.abs(order[1]! - order[0]!);
      expect(Math.abs(Math.min(steps, n - steps) - n / 2)).toBeLessThanOrEqual(0.5);
    }
  });

  it('in rounds that rise to the maker’s figure, or to a cautious one that says so', () => {
    expect(torquePlan(ring(4), 'M6', 'aluminium', 9)).toMatchObject({ rounds_Nm: [2.5, 6, 9], from: 'maker' });
    const ours = torquePlan(ring(4), 'M6', 'aluminium', null);
    expect(ours.from).toBe('default');
    expect(ours.rounds_Nm.at(-1)).toBeLessThan(9);
    expect(torquePlan(ring(4), 'M6', 'plastic insert', null).rounds_Nm.at(-1)!).toBeLessThan(ours.rounds_Nm.at(-1)!);
    expect(torquePlan(ring(4), 'M14', 'steel', null)).toMatchObject({ rounds_Nm: [], from: 'none' });
  });

  // Stress area (mm²) and nominal diameter (mm) of a coarse thread; a bolt of the weakest usual class bears 600 N/mm².
  it.each([
    ['M4', 8.78, 4],
    ['M5', 14.2, 5],
    ['M6', 20.1, 6],
    ['M8', 36.6, 8],
    ['M10', 58, 10],
  ])('%s: ours is well under what the bolt bears, but tight; softer metal takes less, an insert least', (thread, area_mm2, d_mm) => {
    const last = (metal: 'steel' | 'aluminium' | 'plastic insert'): number => torquePlan(ring(4), thread, metal, null).rounds_Nm.at(-1)!;
    const bears_Nm = (0.2 * 600 * area_mm2 * d_mm) / 1000;
    expect(last('steel') / bears_Nm).toBeGreaterThan(0.27);
    expect(last('steel') / bears_Nm).toBeLessThan(0.65);
    expect(last('aluminium') / last('steel')).toBeGreaterThan(0.75);
    expect(last('aluminium') / last('steel')).toBeLessThan(0.85);
    expect(last('plastic insert') / last('steel')).toBeGreaterThan(0.45);
    expect(last('plastic insert') / last('steel')).toBeLessThan(0.61);
  });
});

describe('stops', () => {
  const t: Throttle = { shape: 'single', bore_m: 0.066, shaft_m: 0.008, closedAngle_rad: deg(7) };
  const idle = deg(9.5);

  it('true and held is safe', () => {
    expect(must(stopsCheck(t, deg(8), deg(90), idle))).toMatchObject({ full: 'true', shut: 'held', safe: true, fullShare: 1 });
  });

  it('past full opening the air falls again and it is not safe', () => {
    const past = must(stopsCheck(t, deg(8), deg(104), idle));
    expect(past).toMatchObject({ full: 'past', safe: false });
    expect(must(stopsCheck(t, deg(8), deg(120), idle)).fullShare).toBeLessThan(past.fullShare);
  });

  it('a blade let down to the angle it was cut at wedges; held too high it does not shut', () => {
    expect(must(stopsCheck(t, deg(7.1), deg(90), idle))).toMatchObject({ shut: 'wedges', safe: false });
    expect(must(stopsCheck(t, deg(12), deg(90), idle))).toMatchObject({ shut: 'open', safe: false });
    expect(must(stopsCheck(t, deg(8), deg(70), idle))).toMatchObject({ full: 'short', safe: true });
  });

  it('past in line the area mirrors itself', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: deg(80), noNaN: true }), (by) => {
        expect(areaPast(t, deg(90) + by)).toBeCloseTo(throttleOpenArea(t, deg(90) - by), 12);
      }),
    );
  });

  it('refuses stops the wrong way round', () => {
    expect(isFailure(stopsCheck(t, deg(90), deg(8), idle))).toBe(true);
    expect(isFailure(stopsCheck({ ...t, shaft_m: 0.07 }, deg(8), deg(90), idle))).toBe(true);
  });
});

describe('the position sensor', () => {
  const stock = { closed_V: 0.52, full_V: 4.41 };

  it.each([
    [{ closed_V: 0.53, full_V: 4.4 }, 'matched', null],
    [{ closed_V: 0.6, full_V: 4.5 }, 'turn it', 'down'],
    [{ closed_V: 0.44, full_V: 4.3 }, 'turn it', 'up'],
    [{ closed_V: 0.1, full_V: 4.3 }, 'fault', 'up'],
    [{ closed_V: 0.52, full_V: 4.9 }, 'fault', null],
    [{ closed_V: 4.4, full_V: 0.5 }, 'fault', 'down'],
    [{ closed_V: 12, full_V: 4.5 }, 'cannot be', null],
  ] as const)('%j against stock is %s', (now, verdict, way) => {
    expect(sensorCheck(now, stock)).toMatchObject({ verdict, way });
  });

  it('without a figure of stock goes by the usual one and says so', () => {
    expect(sensorCheck({ closed_V: 0.5, full_V: 4.4 }, null)).toMatchObject({ verdict: 'no figure of stock', target_V: 0.5 });
    expect(sensorCheck({ closed_V: 0.1, full_V: 4.4 }, null)).toMatchObject({ verdict: 'fault', outside: ['closed'] });
  });

  it('two tracks make the supply between them, or are not one sensor', () => {
    expect(tracksPlausible({ a_V: 0.8, b_V: 4.2 })).toBe('plausible');
    expect(tracksPlausible({ a_V: 0.8, b_V: 3.6 })).toBe('disagree');
    expect(tracksPlausible({ a_V: -1, b_V: 6 })).toBe('cannot be');
  });
});

describe('relearning the idle', () => {
  const s = (x: number): number => x * 1000;
  const on = (at: number): RelearnEvent => ({ type: 'engine on', at_ms: s(at) });
  const off = (at: number): RelearnEvent => ({ type: 'engine off', at_ms: s(at) });

  it('goes from run to rest to run by its time stamps alone', () => {
    const phase = (events: RelearnEvent[], now: number) => relearnState(USUAL_RELEARN, events, s(now));
    expect(phase([], 0).phase).toBe('not begun');
    expect(phase([on(0)], 100)).toMatchObject({ phase: 'running', elapsed_s: 100, wanted_s: 180 });
    expect(phase([on(0)], 200).phase).toBe('run long enough');
    expect(phase([on(0), off(200)], 260)).toMatchObject({ phase: 'resting', cyclesDone: 1, elapsed_s: 60 });
    expect(phase([on(0), off(200)], 400).phase).toBe('rested');
    const three = [on(0), off(200), on(400), off(600), on(800), off(1000)];
    expect(phase(three, 1010)).toMatchObject({ phase: 'done', cyclesDone: 3 });
  });

  it('a run cut short is no cycle, and what is stamped later than now is not yet', () => {
    expect(relearnState(USUAL_RELEARN, [on(0), off(60)], s(100))).toMatchObject({ phase: 'resting', cyclesDone: 0 });
    expect(relearnState(USUAL_RELEARN, [on(0), off(500)], s(100)).phase).toBe('running');
  });

  it('does not hang on the order in which the stamps arrived, nor on being asked twice', () => {
    const events = [on(0), off(200), on(400), off(600)];
    fc.assert(
      fc.property(fc.shuffledSubarray(events, { minLength: 4, maxLength: 4 }), fc.integer({ min: 0, max: 900 }), (shuffled, now) => {
        expect(relearnState(USUAL_RELEARN, shuffled, s(now))).toEqual(relearnState(USUAL_RELEARN, events, s(now)));
      }),
    );
  });

  const samples = (f: (t: number) => number, seconds: number, rate = 5): RpmSample[] =>
    Array.from({ length: seconds * rate + 1 }, (_, i) => ({ at_ms: (1000 * i) / rate, rpm: f(i / rate) }));
  const band = USUAL_RELEARN.band_rpm;

  it('a blip is seen, with the time the idle takes to come back', () => {
    const blip = (t: number): number => (t < 3 ? 750 : t < 4 ? 750 + 1500 * (t - 3) : Math.max(750, 2250 - 900 * (t - 4)));
    const [found, ...more] = blipsOf(samples(blip, 12), band);
    expect(more).toEqual([]);
    expect(found!.peak_rpm).toBeCloseTo(2250, 6);
    expect(found!.back_s!).toBeCloseTo(1.6, 1);
  });

  it('an idle that does not come back says so', () => {
    const stuck = (t: number): number => (t < 2 ? 750 : t < 3 ? 2000 : 1100);
    expect(blipsOf(samples(stuck, 12), band)).toMatchObject([{ back_s: null }]);
    expect(
      blipsOf(
        samples(() => 760, 12),
        band,
      ),
    ).toEqual([]);
  });

  it.each([
    ['steady', (t: number) => 750 + 12 * Math.sin(9 * t)],
    ['climbing', (t: number) => 750 + 5 * t],
    ['hunting', (t: number) => 750 + 90 * Math.sin(1.3 * t)],
    ['high', () => 1020],
    ['low', () => 520],
  ] as const)('tells a %s idle', (verdict, f) => {
    expect(idleVerdict(samples(f, 30), band)).toBe(verdict);
  });

  it('of an idle after a blip counts what was before it and what has come to rest after it', () => {
    // Back in its band 1.6 s after its peak at 65 s; three more it may fall.
    const warm = (t: number): number =>
      t < 64 ? 740 : t < 65 ? 740 + 1500 * (t - 64) : t < 69.6 ? Math.max(800, 2240 - 900 * (t - 65)) : 760;
    const events: RelearnEvent[] = [
      on(0),
      ...samples(warm, 90).map((r): RelearnEvent => ({ type: 'rpm', at_ms: r.at_ms, rpm: r.rpm })),
      off(90),
    ];
    const [report] = cycleReports({ ...USUAL_RELEARN, run_s: 90 }, events, s(100));
    expect(report!.blips).toHaveLength(1);
    expect(report).toMatchObject({ longEnough: true, idle: 'steady' });
    // 60 to 63.7 s at 740, 69.6 to 90 s at 760: nothing of what lies between.
    expect(report!.mean_rpm!).toBeGreaterThan(755);
    expect(report!.mean_rpm!).toBeLessThan(758.5);
  });

  describe('is clean only with as many clean runs as planned', () => {
    const plan = { ...USUAL_RELEARN, cycles: 2 };
    const run = (from: number, f: (t: number) => number, rate = 1): RelearnEvent[] => [
      on(from),
      ...samples(f, 190, rate).map((r): RelearnEvent => ({ type: 'rpm', at_ms: s(from) + r.at_ms, rpm: r.rpm })),
      off(from + 190),
    ];
    const steady = (t: number): number => 750 + (t % 3);
    const faults = (...events: RelearnEvent[][]) => relearnFaults(plan, events.flat(), s(10_000));

    it('two steady runs are', () => {
      expect(faults(run(0, steady), run(400, steady))).toEqual([]);
    });
    it('none, or one, are not', () => {
      expect(faults()).toEqual([{ run: null, why: 'runs missing' }]);
      expect(faults(run(0, steady))).toEqual([{ run: null, why: 'runs missing' }]);
    });
    it('a run without readings is none, long as it was', () => {
      expect(faults(run(0, steady), [on(400), off(600)])).toEqual([{ run: 2, why: 'too few readings' }]);
    });
    it('a blip that did not come back is told, and a third clean run mends it', () => {
      const stuck = (t: number): number => (t > 60 && t < 63 ? 1900 : t >= 63 ? 1150 : 750);
      expect(faults(run(0, steady), run(400, stuck))).toEqual([{ run: 2, why: 'not back' }]);
      expect(faults(run(0, steady), run(400, stuck), run(800, steady))).toEqual([]);
    });
    it('an idle above its band is told', () => {
      expect(
        faults(
          run(0, steady),
          run(400, () => 1000),
        ),
      ).toEqual([{ run: 2, why: 'high' }]);
    });
  });

  it('does not judge by a handful of readings', () => {
    expect(
      idleVerdict(
        samples(() => 750, 2),
        band,
      ),
    ).toBe('too few readings');
  });
});
