import type { JobPlace } from './place';
import { issuesOf } from './issue';
import fc from 'fast-check';
import { presetJob } from '../job/presets';
import { jobDoc, weatherDoc, type JobDoc } from './job';
import { runDoc } from './run';
import { throttleDoc } from './throttle';
import { unitDoc } from './unit';

const doc = presetJob('Test car', 'straight six, 2.9 L');
const withCar = (car: Partial<JobDoc['car']>): JobDoc => ({ ...doc, car: { ...doc.car, ...car } });
const firstMessage = (value: unknown): string => {
  const parsed = jobDoc.safeParse(value);
  return parsed.success ? 'fine' : issuesOf(parsed.error)[0]!.message;
};

describe('a job', () => {
  it('comes back from JSON as it went in', () => {
    expect(jobDoc.parse(JSON.parse(JSON.stringify(doc)))).toEqual(doc);
  });

  it.each<[string, JobDoc, RegExp]>([
    ['no name', { ...doc, name: '   ' }, /Give the job a name/],
    ['reversed limits', withCar({ engine: { ...doc.car.engine, lowest_rpm: 7000 } }), /not above the lowest/],
    [
      'a shaft as thick as the bore',
      withCar({ stock: { ...doc.car.stock, throttle: { ...doc.car.stock.throttle, bore_m: 0.02, shaft_m: 0.02 } } }),
      /as thick as the bore/,
    ],
    ['an efficiency of nothing', withCar({ ve: { rpm: [1000, 2000], value: [0.8, 0.01] } }), /would not run/],
    ['an efficiency of a dream', withCar({ ve: { rpm: [1000, 2000], value: [0.8, 2] } }), /not a volumetric efficiency/],
    ['rpm that fall', withCar({ ve: { rpm: [3000, 2000], value: [0.8, 0.8] } }), /must rise/],
    ['rpm without a value', withCar({ ve: { rpm: [1000, 2000, 3000], value: [0.8, 0.8] } }), /needs its value/],
    ['a thimble of an engine', withCar({ engine: { ...doc.car.engine, displacement_m3: 1e-6 } }), /^It has to be at least 0\.00005\.$/],
    ['weather on another planet', withCar({ weather: { p_Pa: 20_000, T_K: 293, rh: 0.4 } }), /^It has to be at least 50000\.$/],
    [
      'two throttles',
      { ...doc, air: { ...doc.air, parts: [{ id: 'second', type: 'throttle' }, ...doc.air.parts] } },
      /exactly one throttle/,
    ],
    ['no opening', { ...doc, air: { ...doc.air, parts: doc.air.parts.filter((p) => p.type !== 'opening') } }, /exactly one opening/],
    [
      'an opening that does not follow the throttle',
      { ...doc, air: { ...doc.air, parts: [...doc.air.parts].reverse() } },
      /follows the throttle/,
    ],
    [
      'a knotted hose',
      {
        ...doc,
        air: {
          ...doc.air,
          parts: doc.air.parts.map((p) => (p.type === 'pipe' ? { ...p, bends: [{ angle_rad: 1, radiusRatio: 0.2 }] } : p)),
        },
      },
      /half its bore/,
    ],
  ])('with %s is refused in words', (_name, bad, words) => {
    expect(firstMessage(bad)).toMatch(words);
  });

  it('may show four units at most', () => {
    expect(jobDoc.safeParse({ ...doc, pick: { ...doc.pick, shown: ['a', 'b', 'c', 'd'] } }).success).toBe(true);
    expect(jobDoc.safeParse({ ...doc, pick: { ...doc.pick, shown: ['a', 'b', 'c', 'd', 'e'] } }).success).toBe(false);
  });

  it('only takes the smoothings that are offered', () => {
    expect(jobDoc.safeParse({ ...doc, test: { ...doc.test, fwhm_rpm: 200 } }).success).toBe(true);
    expect(jobDoc.safeParse({ ...doc, test: { ...doc.test, fwhm_rpm: 150 } }).success).toBe(false);
  });

  it('never lets a number that is none through', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(NaN, Infinity, -Infinity),
        fc.constantFrom('displacement_m3', 'cylinders', 'compressionRatio', 'idle_rpm', 'redline_rpm'),
        (value, key) => {
          expect(jobDoc.safeParse(withCar({ engine: { ...doc.car.engine, [key]: value } })).success).toBe(false);
        },
      ),
    );
  });
});

describe('a throttle', () => {
  const base = doc.car.stock.throttle;

  it('lying oval is fine, standing oval is not', () => {
    expect(throttleDoc.safeParse({ ...base, shape: 'oval', width_m: 0.08, height_m: 0.05 }).success).toBe(true);
    const standing = throttleDoc.safeParse({ ...base, shape: 'oval', width_m: 0.05, height_m: 0.08 });
    expect(standing.success).toBe(false);
    expect(standing.error!.issues[0]!.message).toMatch(/lying down/);
  });

  it('is checked against its height when oval', () => {
    expect(throttleDoc.safeParse({ ...base, shape: 'oval', width_m: 0.08, height_m: 0.03, shaft_m: 0.03 }).success).toBe(false);
  });

  it('in millimetres typed as metres is refused', () => {
    const parsed = throttleDoc.safeParse({ ...base, bore_m: 58 });
    expect(parsed.success).toBe(false);
    expect(issuesOf(parsed.error!)[0]).toMatchObject({ path: 'bore_m', wanted: { kind: 'most', bound: 0.25 } });
  });
});

it('weather takes the ends of its range', () => {
  for (const T_K of [233.15, 333.15]) expect(weatherDoc.safeParse({ p_Pa: 50_000, T_K, rh: 1 }).success).toBe(true);
  expect(issuesOf(weatherDoc.safeParse({ p_Pa: 100_000, T_K: 293, rh: 45 }).error!)[0]).toMatchObject({
    path: 'rh',
    wanted: { kind: 'most', bound: 1 },
  });
});

it('a throttle needs a name; a price may be unknown', () => {
  const unit = {
    schema: 1,
    name: 'Thrift 60',
    throttle: doc.car.stock.throttle,
    controls: 'cable',
    price: null,
    largestOpening_m: null,
    bench: [],
    note: '',
  };
  expect(unitDoc.safeParse(unit).success).toBe(true);
  expect(unitDoc.safeParse({ ...unit, name: '' }).success).toBe(false);
  expect(unitDoc.safeParse({ ...unit, price: -1 }).success).toBe(false);
});

it('a run’s date is a date, and its side stock, a unit or not said', () => {
  const run = {
    schema: 1,
    name: 'r',
    side: null,
    channels: [],
    measuredAt: 'wheels',
    carried: 'unknown',
    carriedSmoothing_rpm: null,
    weather: null,
    takenOn: '2026-04-18',
    gear: '',
    fuel: '',
    tune: '',
    otherChanges: '',
    coolantStart_K: null,
    leftOut: null,
  };
  expect(runDoc.safeParse(run).success).toBe(true);
  expect(runDoc.safeParse({ ...run, side: { kind: 'unit', unitId: 'x' } }).success).toBe(true);
  expect(runDoc.safeParse({ ...run, side: { kind: 'unit' } }).success).toBe(false);
  expect(runDoc.safeParse({ ...run, takenOn: '18.4.2026' }).error!.issues[0]!.message).toBe('a date as 2026-04-18');
});

it('a place in the job that is none does not compile', () => {
  const places: JobPlace[] = ['car.engine.redline_rpm', 'air.parts.3.bore_m', 'car.induction.compressor.map.surge.0.ratio', 'tags.0'];
  // @ts-expect-error a letter is missing
  places.push('car.engine.redlin_rpm');
  // @ts-expect-error a part is told by its position
  places.push('air.parts.first.bore_m');
  expect(places).toHaveLength(6);
});
