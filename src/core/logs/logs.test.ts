import fc from 'fast-check';
import { isFailure, must } from '../failure';
import { loggerCar } from '../../../test/logged-run';
import { LOGGER_COLUMNS, loggerRows } from '../stand-ins/logger';
import { alignedPull, lookAtLog, valuesAtRpm, type LogTraces } from './compare-logs';
import { gearOf } from './gear';
import { idleQuality, type IdleQuality } from './idle';
import { keyOnReading } from './key-on';
import { lagAgainst } from './lag';
import { pedalMap } from './pedal';
import { findPulls } from './pulls';
import { pyramidOf, rangeOf } from './pyramid';
import { mannersApart, sideManners } from './side-manners';
import { tipIns, tipInSummary, type TipIn } from './tip-in';
import { cutTrace, distanceOf, traceAt, traceOf, type Trace } from './trace';
import { crossingTime, medianInterval, valueAtTime } from './value-at';

const every = (dt: number, n: number, f: (t: number) => number): Trace => ({
  time_s: Float64Array.from({ length: n }, (_, i) => i * dt),
  value: Float64Array.from({ length: n }, (_, i) => f(i * dt)),
});
const BOX = { ratios: [3.55, 2.06, 1.38, 1, 0.81], final: 3.91, tyre_m: 1.92 };
const NO_BOX = { ratios: [], final: null, tyre_m: null };

describe('a channel’s own samples', () => {
  it('leave out rows without a figure and times that go back or stand still', () => {
    const t = traceOf([0, 1, 1, 0.5, 2, 3], [5, 6, 7, 8, NaN, 9]);
    expect([Array.from(t.time_s), Array.from(t.value)]).toEqual([
      [0, 1, 3],
      [5, 6, 9],
    ]);
    expect([traceAt(t, -1), traceAt(t, 0.5), traceAt(t, 2), traceAt(t, 9)]).toEqual([5, 5.5, 7.5, 9]);
    expect(traceAt({ time_s: new Float64Array(), value: new Float64Array() }, 1)).toBeNaN();
    expect(Array.from(cutTrace(t, 0.5, 3).value)).toEqual([6, 9]);
  });

  it('of road speed add up to the distance', () => {
    expect(distanceOf(every(0.5, 21, (t) => 2 * t)).at(-1)).toBeCloseTo(100, 9);
  });
});

describe('values at an engine speed', () => {
  const rpm = every(0.1, 50, (t) => 2000 + 800 * t);

  it('are taken between a channel’s own neighbours, and marked where it was held', () => {
    const at = must(crossingTime(rpm.time_s, rpm.value, 4000));
    expect(at).toBeCloseTo(2.5, 12);
    const slow = traceOf([0, 0.5, 1, 1.5, 4, 4.5], [0, 5, 10, 15, 40, 45]);
    expect(must(valueAtTime(slow.time_s, slow.value, at))).toEqual({ time_s: at, value: 25, stale: true });
    expect(must(valueAtTime(slow.time_s, slow.value, 1.2))).toMatchObject({ value: 12, stale: false });
    expect(must(valueAtTime(slow.time_s, slow.value, 4.5))).toMatchObject({ value: 45, stale: false });
    expect(valueAtTime(slow.time_s, slow.value, 5)).toMatchObject({ error: 'outside_channel' });
    expect(crossingTime(rpm.time_s, rpm.value, 9000)).toMatchObject({ error: 'rpm_not_reached' });
  });

  it('know a long channel’s usual interval from a part of it', () => {
    expect(medianInterval(Float64Array.from({ length: 300_000 }, (_, i) => i * 0.01))).toBeCloseTo(0.01, 9);
  });
});

describe('pulls', () => {
  const rpm = every(0.02, 800, (t) => (t < 3 ? 2200 : t < 11 ? 2200 + 500 * (t - 3) : 3000));
  const throttle = every(0.02, 800, (t) => (t < 3 || t > 11 ? 12 : 100));
  const speedIn = (gear: number): Trace => ({
    ...rpm,
    value: rpm.value.map((n) => (n / 60 / (BOX.ratios[gear - 1]! * BOX.final)) * BOX.tyre_m),
  });

  it('are found by the open throttle and the rising engine, with the gear by road speed', () => {
    const [pull, ...more] = findPulls({ rpm, throttle, speed: speedIn(3), gearbox: BOX });
    expect(more).toEqual([]);
    expect(pull).toMatchObject({ from_s: expect.closeTo(3, 1), to_s: expect.closeTo(11, 1), gear: { gear: 3 } });
    expect(findPulls({ rpm, throttle, speed: null, gearbox: BOX })[0]!.gear).toBeNull();
    expect(findPulls({ rpm, throttle, speed: speedIn(3), gearbox: NO_BOX })[0]!.gear!.gear).toBeNull();
  });

  it('are none with a part-open throttle, shorter than a second and a half, or across a change of gear', () => {
    const part = { ...throttle, value: throttle.value.map((v) => Math.min(v, 90)) };
    expect(findPulls({ rpm, throttle: part, speed: null, gearbox: NO_BOX })).toEqual([]);
    const short = { ...throttle, value: throttle.value.map((v, i) => (i * 0.02 > 4.2 ? 12 : v)) };
    expect(findPulls({ rpm, throttle: short, speed: null, gearbox: NO_BOX })).toEqual([]);
    const changed = every(0.02, 800, (t) => (t < 3 ? 2200 : t < 7 ? 2200 + 500 * (t - 3) : 2600 + 400 * (t - 7)));
    const open = every(0.02, 800, (t) => (t < 3 ? 12 : 100));
    const two = findPulls({ rpm: changed, throttle: open, speed: null, gearbox: NO_BOX });
    expect(two.map((p) => Math.round(p.from_s))).toEqual([3, 7]);
  });

  it('without a throttle channel are the steep rises', () => {
    expect(findPulls({ rpm, throttle: null, speed: null, gearbox: NO_BOX })).toHaveLength(1);
    expect(findPulls({ rpm: every(0.02, 800, (t) => 2000 + 30 * t), throttle: null, speed: null, gearbox: NO_BOX })).toEqual([]);
  });

  it('bridge a flicker of the throttle', () => {
    const flicker = { ...throttle, value: throttle.value.map((v, i) => (i === 300 ? 80 : v)) };
    expect(findPulls({ rpm, throttle: flicker, speed: null, gearbox: NO_BOX })).toHaveLength(1);
  });

  it('a gear is only named where its ratio is near', () => {
    const third = (1.38 * 3.91) / 1.92;
    expect(gearOf(third * 1.02, BOX).gear).toBe(3);
    expect(gearOf(third * 1.15, BOX).gear).toBeNull();
  });
});

describe('lag', () => {
  const shape = (t: number): number => 3000 + 1500 / (1 + Math.exp(-4 * (t - 4))) + 300 * Math.sin(2 * t);

  it('is found to a hundredth of a second, late and early', () => {
    fc.assert(
      fc.property(fc.double({ min: -0.4, max: 0.4, noNaN: true }), (lag) => {
        const found = lagAgainst(
          every(0.01, 900, shape),
          every(0.05, 180, (t) => 0.02 * shape(t - lag) + 4),
        );
        expect(found!.lag_s).toBeCloseTo(lag, 1.6);
        expect(found!.correlation).toBeGreaterThan(0.9);
      }),
      { numRuns: 20, endOnFailure: true },
    );
  });

  it('of two that rise together is told by what they do besides', () => {
    const rising = (t: number): number => 2000 + 600 * t + 60 * Math.sin(3 * t);
    const found = lagAgainst(
      every(0.01, 900, rising),
      every(0.01, 900, (t) => 5 * rising(t - 0.12)),
    )!;
    expect(found.lag_s).toBeCloseTo(0.12, 6);
    expect(found.correlation).toBeCloseTo(1, 2);
  });

  it('is not made up where two channels have nothing in common, or too little of either', () => {
    const noise = every(0.01, 900, (t) => Math.sin(50 * t * t));
    expect(lagAgainst(every(0.01, 900, shape), noise)).toBeNull();
    expect(lagAgainst(every(0.01, 5, shape), noise)).toBeNull();
    expect(lagAgainst(every(0.01, 100, shape), every(0.01, 100, shape))).toBeNull();
  });
});

describe('idle', () => {
  const at = (f: (t: number) => number) =>
    idleQuality({ rpm: every(0.05, 500, f), throttle: every(0.05, 500, () => 1.5), speed: every(0.05, 500, () => 0), highest_rpm: 1400 });

  it('tells a hunt and its period from jitter', () => {
    const hunting = at((t) => 800 + 60 * Math.sin((2 * Math.PI * t) / 1.9) + 6 * Math.sin(37 * t));
    expect(hunting).toMatchObject({ mean_rpm: expect.closeTo(800, -1), spread_rpm: expect.closeTo(42.6, 0) });
    expect(hunting!.hunting!.period_s).toBeCloseTo(1.9, 1);
    expect(hunting!.hunting!.amplitude_rpm).toBeCloseTo(60, -1);
    let seed = 1;
    const jitter = at(() => {
      seed = (seed * 16_807) % 2_147_483_647;
      return 800 + 10 * (seed / 2_147_483_647 - 0.5);
    });
    expect(jitter!.hunting).toBeNull();
    expect(at(() => 800)!.hunting).toBeNull();
  });

  it('of two stretches at different speeds is as steady as each of them, and a cold one that falls is not rough', () => {
    const two = (t: number) => (t < 10 ? 1100 : t < 13 ? 2500 : 850) + 6 * Math.sin(23 * t);
    expect(at(two)).toMatchObject({ spread_rpm: expect.closeTo(6 / Math.SQRT2, 0), hunting: null });
    // Settled two seconds after each begins: 8 s and 10 s are looked at.
    expect(at(two)!.seconds).toBeCloseTo(8 + 9.95, 1);
    const warming = at((t) => 1200 - 12 * t + 6 * Math.sin(23 * t))!;
    expect(warming.spread_rpm).toBeLessThan(35);
    expect(at((t) => 900 + 30 * Math.sin((2 * Math.PI * t) / 1.2))!.spread_rpm).toBeCloseTo(30 / Math.SQRT2, 0);
  });

  it.each([
    ['first', 14],
    ['last', 8],
  ] as const)('hunts where its longest stretch does, which is the %s', (which, gap) => {
    const hunts = (t: number): boolean => (which === 'first' ? t < gap : t > gap);
    const found = at((t) => (t > gap && t < gap + 3 ? 2500 : hunts(t) ? 800 + 60 * Math.sin((2 * Math.PI * t) / 1.9) : 800))!;
    expect(found.hunting?.period_s).toBeCloseTo(1.9, 1);
    const other = at((t) => (t > gap && t < gap + 3 ? 2500 : hunts(t) ? 800 : 800 + 60 * Math.sin((2 * Math.PI * t) / 1.9)))!;
    expect(other.hunting).toBeNull();
  });

  it('is only what stands still, shut and settled for six seconds', () => {
    expect(at((t) => (t < 5 ? 800 : 2500))).toBeNull();
    const driving = idleQuality({ rpm: every(0.05, 500, () => 800), throttle: null, speed: every(0.05, 500, () => 9), highest_rpm: 1400 });
    expect(driving).toBeNull();
  });
});

describe('the answer to a stepped throttle', () => {
  const step = (after: number, tau: number) => (t: number) => (t < 5 + after ? 0 : 1 - Math.exp(-(t - 5 - after) / tau));
  const throttle = every(0.01, 1000, (t) => (t < 5 ? 10 : Math.min(70, 10 + 1200 * (t - 5))));

  it('is timed from the middle of the throttle’s step to the middle of the air’s', () => {
    const air = every(0.01, 1000, (t) => 40_000 + 55_000 * step(0.08, 0.02)(t));
    const speed = every(0.01, 1000, (t) => 20 + 3 * Math.max(0, t - 5.2));
    const [found] = tipIns({ throttle, air, motion: speed });
    expect(found!.air_s).toBeCloseTo(0.08 + 0.02 * Math.LN2 - 0.025, 2);
    expect(found!.acceleration_s).toBeCloseTo(0.2 - 0.025, 1);
    expect(tipInSummary([found!, { ...found!, air_s: null }])).toMatchObject({ count: 2, air_s: found!.air_s });
  });

  it('is not made up where nothing follows', () => {
    const still = every(0.01, 1000, () => 40_000);
    expect(tipIns({ throttle, air: still, motion: still })[0]).toMatchObject({ air_s: null, acceleration_s: null });
    expect(tipIns({ throttle: every(0.01, 1000, () => 10), air: still, motion: null })).toEqual([]);
    expect(tipInSummary([])).toEqual({ count: 0, air_s: null, acceleration_s: null, airError_s: null, airBy: null });
  });
});

it('a throttle held back against a pedal that is down is seen', () => {
  const pedal = every(0.02, 500, (t) => (t < 2 ? 10 * t : 100));
  const held = pedalMap(
    pedal,
    every(0.02, 500, (t) => (t < 2 ? 8 * t : t < 6 ? 100 : 70)),
  );
  expect(held.heldBack).toBeCloseTo(0.52, 1);
  expect(held.heldBackFrom_s).toBeCloseTo(6, 1);
  expect(held.throttle_pct[0]).toBeCloseTo(4, 0);
  expect(held.throttle_pct[5]).toBeNaN();
  expect(
    pedalMap(
      pedal,
      every(0.02, 500, () => 100),
    ).heldBack,
  ).toBe(0);
});

it('the sensor’s own barometer is what it read while the engine stood', () => {
  const rpm = every(0.1, 100, (t) => (t < 2 ? 0 : 800));
  expect(
    keyOnReading(
      every(0.1, 100, (t) => (t < 2 ? 99_400 : 34_000)),
      rpm,
    ),
  ).toBe(99_400);
  expect(
    keyOnReading(
      every(0.1, 100, () => 34_000),
      every(0.1, 100, () => 800),
    ),
  ).toBeNull();
});

it('a pyramid gives the same smallest and largest as looking at every sample', () => {
  fc.assert(
    fc.property(
      fc.array(fc.oneof(fc.double({ noNaN: true, min: -1e6, max: 1e6 }), fc.constant(NaN)), { minLength: 1, maxLength: 3000 }),
      fc.nat(),
      fc.nat(),
      (values, a, b) => {
        const [from, to] = [a % values.length, b % (values.length + 1)].sort((x, y) => x - y) as [number, number];
        const out = { low: 0, high: 0 };
        rangeOf(Float64Array.from(values), pyramidOf(values), from, to, out);
        const known = values.slice(from, to).filter((v) => !Number.isNaN(v));
        expect(out).toEqual(known.length === 0 ? { low: NaN, high: NaN } : { low: Math.min(...known), high: Math.max(...known) });
      },
    ),
    { numRuns: 200 },
  );
});

describe('a whole drive on the stand-in logger', () => {
  const car = loggerCar({ idle_rpm: 780, metresPerTurn: BOX.tyre_m / (1.38 * BOX.final) });
  const tracesOf = (more: object): LogTraces => {
    const rows = [...loggerRows({ car, seed: 4, ...more })];
    const column = (name: string, factor: number, offset = 0): Trace => {
      const k = LOGGER_COLUMNS.findIndex((c) => c.name === name);
      const values = rows.map((r) => (r[k] === null ? NaN : r[k]! * factor + offset));
      return traceOf(
        rows.map((r) => r[0]!),
        values,
      );
    };
    return {
      rpm: column('Engine speed', 1),
      throttle: column('Throttle', 1),
      pedal: column('Pedal', 1),
      'manifold pressure': column('MAP', 1000),
      'air mass flow': column('MAF', 1e-3),
      'cylinder air': column('Cylinder air', 1e-6),
      speed: column('Speed', 1 / 3.6),
    };
  };
  const facts = { cylinders: 6, idle_rpm: 780, gearbox: BOX };
  const traces = tracesOf({ filling_s: 0.12 });
  const look = lookAtLog(traces, facts);

  it('gives back what it was made of', () => {
    expect(look.pulls).toHaveLength(1);
    const rpm = traces.rpm!.time_s;
    expect(look.span_s![0]).toBeLessThanOrEqual(rpm[0]!);
    expect(look.span_s![1]).toBeGreaterThanOrEqual(rpm.at(-1)!);
    expect(lookAtLog({}, facts).span_s).toBeNull();
    expect(look.pulls[0]).toMatchObject({ gear: { gear: 3 } });
    expect(look.idle!.mean_rpm).toBeCloseTo(780, -1);
    expect(look.idle!.hunting).toBeNull();
    expect(look.keyOn_Pa).toBeCloseTo(100_400, -2);
    expect(look.air!.meanRatio).toBeCloseTo(1, 2);
    expect(look.air!.flagged).toBe(false);
    expect(look.tipIn!.count).toBeGreaterThanOrEqual(3);
    expect(look.intervals.find((i) => i.quantity === 'speed')!.interval_s).toBeCloseTo(0.1, 6);
  });

  it('sets both ways of logging air against what the model asks for', () => {
    const demand = { rpm: car.rpm, massFlow_kgps: car.rpm.map((n) => 2.7e-5 * n * 1.05) };
    const { againstModel } = lookAtLog(traces, { ...facts, demand });
    expect(againstModel!.meter).toBeCloseTo(1 / 1.05, 1);
    expect(againstModel!.cylinder! / againstModel!.meter!).toBeCloseTo(1, 2);
    expect(look.againstModel).toBeNull();
    const none = lookAtLog({ rpm: traces.rpm!, throttle: traces.throttle! }, { ...facts, demand });
    expect(none.againstModel).toEqual({ meter: null, cylinder: null });
  });

  it('a quicker plenum is a number, and a hunting idle is heard', () => {
    const quick = lookAtLog(tracesOf({ filling_s: 0.05 }), facts);
    expect(look.tipIn!.air_s! - quick.tipIn!.air_s!).toBeGreaterThan(0.02);
    const hunting = lookAtLog(tracesOf({ hunting_rpm: 60 }), facts);
    expect(hunting.idle!.hunting!.period_s).toBeCloseTo(1.9, 1);
  });

  it('lies on engine speed, time or distance, and has its values at any engine speed', () => {
    const pull = look.pulls[0]!;
    const over = (base: 'rpm' | 'time' | 'distance') => alignedPull(traces, 'manifold pressure', pull, base)!;
    expect(over('time').x[0]).toBeCloseTo(0, 1);
    expect(over('rpm').x.at(-1)).toBeGreaterThan(over('rpm').x[0]! + 2000);
    const road = over('distance').x.at(-1)!;
    expect(road).toBeGreaterThan(100);
    expect(alignedPull({ rpm: traces.rpm! }, 'boost', pull, 'rpm')).toBeNull();
    expect(alignedPull({ rpm: traces.rpm!, throttle: traces.throttle! }, 'throttle', pull, 'distance')).toBeNull();
    const values = valuesAtRpm(traces, pull, 4000, look.intervals);
    const map = values.find((v) => v.quantity === 'manifold pressure')!.at;
    expect(isFailure(map) ? NaN : map.value).toBeCloseTo(97_800, -3);
    expect(valuesAtRpm(traces, pull, 20_000, look.intervals).every(({ at }) => isFailure(at) && at.error === 'rpm_not_reached')).toBe(true);
  });

  it('without an engine speed says only what it can', () => {
    expect(lookAtLog({ throttle: traces.throttle! }, facts)).toMatchObject({ pulls: [], idle: null, keyOn_Pa: null, lags: [], air: null });
  });
});

describe('how surely logs tell two sides apart', () => {
  const stab = (air_s: number): TipIn => ({ at_s: 0, from_pct: 10, to_pct: 70, air_s, acceleration_s: null });
  const side = (delays: readonly number[], interval_s = 0.01, idle: IdleQuality | null = null) =>
    sideManners([{ idle, tipIn: tipInSummary(delays.map(stab), [interval_s, interval_s]) }]);
  const idleOf = (spread_rpm: number, seconds: number): IdleQuality => ({
    ...{ seconds, mean_rpm: 800, spread_rpm, hunting: null },
    spreadError_rpm: spread_rpm / Math.sqrt(4 * seconds),
  });
  const air = (a: readonly number[], b: readonly number[], interval_s?: number) =>
    mannersApart(side(a, interval_s), side(b, interval_s)).air_s;

  it('one stab each tells of a tenth of a second, and not of thirty thousandths', () => {
    expect(air([0.08], [0.18])).toBeCloseTo(0.1, 9);
    expect(air([0.08], [0.11])).toBe('unclear');
    expect(air([0.08], [0.08])).toBe('unclear');
  });

  it('several that agree tell of little, and of nothing', () => {
    const six = (d: number) => [0, 0.002, -0.002, 0.001, -0.001, 0].map((e) => d + e);
    expect(air(six(0.08), six(0.11))).toBeCloseTo(0.03, 9);
    expect(air(six(0.11), six(0.08))).toBeCloseTo(-0.03, 9);
    expect(air(six(0.08), six(0.085))).toBe('same');
    // Looked at ten times a second, each of them may be off by more than that.
    expect(air(six(0.08), six(0.11), 0.1)).toBe('unclear');
  });

  it('a pressure on one side and a flow on the other are not held against each other', () => {
    const by = (d: number, airBy: 'manifold pressure' | 'boost' | 'air mass flow') =>
      sideManners([{ idle: null, tipIn: tipInSummary([stab(d), stab(d), stab(d)], [0.01, 0.01], airBy) }]);
    expect(mannersApart(by(0.08, 'air mass flow'), by(0.18, 'manifold pressure')).air_s).toBe('unclear');
    expect(mannersApart(by(0.08, 'boost'), by(0.18, 'manifold pressure')).air_s).toBeCloseTo(0.1, 9);
  });

  it('several that do not agree tell of nothing', () => {
    expect(air([0.05, 0.12, 0.08, 0.14], [0.16, 0.07, 0.11, 0.15])).toBe('unclear');
  });

  it('an idle of a minute tells its spread, one of six seconds does not', () => {
    const spread = (was: IdleQuality, is: IdleQuality) => mannersApart(side([], 0.01, was), side([], 0.01, is)).spread_rpm;
    expect(spread(idleOf(20, 60), idleOf(27, 60))).toBeCloseTo(7, 9);
    expect(spread(idleOf(20, 6), idleOf(27, 6))).toBe('unclear');
    expect(spread(idleOf(10, 60), idleOf(11, 60))).toBe('same');
    expect(mannersApart(side([]), side([]))).toEqual({ air_s: null, spread_rpm: null });
  });

  it('a log says how often it was looked at, and how many seconds of idle there were', () => {
    const throttle = every(0.05, 400, (t) => (t < 5 ? 10 : 70));
    const traces = { rpm: every(0.05, 400, () => 800), throttle, 'manifold pressure': every(0.1, 200, (t) => (t < 5.1 ? 4e4 : 9.5e4)) };
    const look = lookAtLog(traces, { cylinders: 4, idle_rpm: 800, gearbox: NO_BOX });
    expect(look.tipIn!.airError_s).toBeCloseTo(Math.sqrt(0.02 ** 2 + (0.05 ** 2 + 0.1 ** 2) / 12), 6);
    // Once a second, twenty looks are twenty and not forty; once in ten seconds nothing is seen.
    const seldom = (dt: number) =>
      idleQuality({ rpm: every(dt, 60, (t) => 800 + 5 * Math.sin(t)), throttle: null, speed: null, highest_rpm: 1400 });
    expect(seldom(1)!.spreadError_rpm).toBeCloseTo(seldom(1)!.spread_rpm / Math.sqrt(2 * 58), 1);
    expect(seldom(10)).toBeNull();
    const idling = at4(20);
    expect(idling.spreadError_rpm).toBeCloseTo(idling.spread_rpm / Math.sqrt(4 * idling.seconds), 9);
  });
  const at4 = (seconds: number): IdleQuality =>
    idleQuality({
      rpm: every(0.05, seconds * 20, (t) => 800 + 5 * Math.sin(40 * t)),
      throttle: null,
      speed: null,
      highest_rpm: 1400,
    })!;
});
