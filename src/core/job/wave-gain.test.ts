import { curlewJob, heronJob, wrenJob } from '@/server/demo/others';
import { DEMO_UNITS, larkspurJob } from '@/server/demo/larkspur';
import { must } from '../failure';
import { jobModel } from './model';
import { runnerWith } from './runner-with';
import { waveGain, waveRatio, wavesDecide } from './wave-gain';

const id = (name: string): string => name;
const larkspur = larkspurJob(DEMO_UNITS.map((_, i) => `unit-${i}`));
const SPEEDS = [2000, 3000, 4000, 5000, 6000, 7000, 7800];

it('waves decide behind individual throttles and few cylinders on one, not behind a plenum of six or a compressor', () => {
  expect([curlewJob(id), wrenJob(id), larkspur, heronJob(id)].map((d) => wavesDecide(d.car))).toEqual([true, true, false, false]);
  const four = (kind: 'na' | 'turbo') => ({
    engine: { ...larkspur.car.engine, cylinders: 4 },
    induction: { ...larkspur.car.induction, kind } as typeof larkspur.car.induction,
  });
  expect([wavesDecide(four('na')), wavesDecide(four('turbo'))]).toEqual([true, false]);
});

describe('the ratio of two throttles’ air', () => {
  it('goes through every speed that is known of both, and bridges a hole', () => {
    const stock = SPEEDS.map(() => 2);
    const other = SPEEDS.map((n) => 2 * (1 + n / 1e5));
    const r = waveRatio(
      SPEEDS,
      stock,
      other.map((v, i) => (i === 3 ? null : v)),
    )!;
    expect(r.rpm).toEqual(SPEEDS.filter((n) => n !== 5000));
    expect(r.at(4000)).toBeCloseTo(1.04, 12);
    expect(r.at(5000)).toBeCloseTo(1.05, 3);
    expect([r.at(500), r.at(9000)]).toEqual([r.ratio[0], r.ratio.at(-1)]);
  });

  it.each([
    ['five speeds', SPEEDS.map((_, i) => (i < 2 ? null : 1)), SPEEDS.map(() => 1)],
    ['none of the other', SPEEDS.map(() => 1), SPEEDS.map(() => null)],
    ['no air', SPEEDS.map(() => 0), SPEEDS.map(() => 1)],
    ['what is no number', SPEEDS.map(() => 1), SPEEDS.map(() => NaN)],
  ])('%s is no curve', (_what, stock, other) => {
    expect(waveRatio(SPEEDS, stock, other)).toBeNull();
  });
});

it('what it brings stands on the car’s own power, over the range that is asked for', () => {
  const model = must(jobModel(curlewJob(id), []));
  const ratio = waveRatio(
    SPEEDS,
    SPEEDS.map(() => 1),
    SPEEDS.map((n) => (n < 4500 ? 0.98 : 1.05)),
  )!;
  const gain = waveGain(model, ratio);
  expect(gain.other_W[0]! / gain.stock_W[0]!).toBeCloseTo(0.98, 9);
  expect(gain.gain_pct.at(-1)).toBeCloseTo(5, 9);
  expect(gain.over.bottom).toBeLessThan(0);
  expect(gain.over.top).toBeCloseTo(5, 6);
  expect(waveGain(model, ratio, [2000, 3500]).over.whole).toBeCloseTo(-2, 1);
});

describe('a runner with another throttle in it', () => {
  const { car } = curlewJob(id);
  const known = { ...car, stock: { ...car.stock, fittings: { ...car.stock.fittings, length_m: 0.08 } } };
  it('is as much longer as the throttle and what goes under it', () => {
    expect(runnerWith(known, 0.28, 0.086)!.length_m).toBeCloseTo(0.286, 12);
    expect(runnerWith(known, 0.28, 0.074)!.longer_m).toBeCloseTo(-0.006, 12);
  });
  it('is not told where a length is not known, nor where the throttle is no part of it', () => {
    expect(runnerWith({ ...car, stock: { ...car.stock, fittings: { ...car.stock.fittings, length_m: null } } }, 0.28, 0.086)).toBeNull();
    expect(runnerWith(known, 0.28, null)).toBeNull();
    expect(runnerWith({ ...larkspur.car, stock: known.stock }, 0.35, 0.086)).toBeNull();
    expect(runnerWith(known, 0.09, 0.02)).toBeNull();
  });
});
