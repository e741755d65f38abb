import { solveNaReference, type NaEngine } from '../engine/na';
import { must } from '../failure';
import type { Path } from '../flow/path';
import { boreByPower, boreByPowerOf, idealPeak, kneeCurve, pathWithBore } from './power-left';

const engine: NaEngine = {
  ambient: { p_Pa: 100_000, T_K: 293.15 },
  engine: { displacement_m3: 0.0029, compressionRatio: 10.2 },
  rpm: [4000, 5500, 6500],
  ve: 0.88,
  power: { bsfc_kgpJ: 8.3e-8, afr: 12.8 },
};
const path: Path = {
  parts: [
    { type: 'openEnd', bore_m: 0.08, edgeRadius_m: 0.008 },
    {
      type: 'throttle',
      throttle: { shape: 'single', bore_m: 0.058, shaft_m: 0.008 },
      benchFlow_m3ps: 0.24,
      benchDepression_Pa: 6974.49,
      benchEntryK: 0.04,
    },
    { type: 'section', name: 'opening', bore_m: 0.075 },
  ],
};
const ref = must(solveNaReference(engine, path));

it('another bore drops the bench figure of the old one and nothing else', () => {
  const [end, throttle, opening] = pathWithBore(path, 0.066).parts;
  expect(throttle).toEqual({ type: 'throttle', throttle: { shape: 'single', bore_m: 0.066, shaft_m: 0.008 } });
  expect([end, opening]).toEqual([path.parts[0], path.parts[2]]);
});

it('the ideal throttle beats every real one on the same path', () => {
  const ideal = must(idealPeak(ref, path) as number);
  const { peakPower_W } = kneeCurve(ref, path, [0.05, 0.058, 0.066, 0.075, 0.09]);
  for (const p of peakPower_W) expect(p!).toBeLessThan(ideal);
});

it('the power bound leaves just its share, and a hair less leaves more', () => {
  const { bore_m, idealPeak_W } = must(boreByPower('na', { ...engine, reference: path, candidate: path }));
  const peak = (bore: number): number => kneeCurve(ref, path, [bore]).peakPower_W[0]!;
  expect(peak(bore_m)).toBeGreaterThanOrEqual(0.995 * idealPeak_W * (1 - 1e-9));
  expect(peak(bore_m * 0.999)).toBeLessThan(0.995 * idealPeak_W);
});

it('without an opening after the throttle there is no such bound', () => {
  const last: Path = { parts: path.parts.slice(0, 2) };
  expect(boreByPowerOf(ref, last)).toMatchObject({ error: 'no_opening' });
  expect(idealPeak(ref, { parts: path.parts.slice(0, 1) })).toMatchObject({ error: 'no_opening' });
});

it('a share that no bore can leave is said to have none', () => {
  expect(boreByPowerOf(ref, path, -0.01)).toMatchObject({ error: 'no_bore' });
});

it('choked bores are gaps in the knee curve, and the knee is the first near its top', () => {
  const { peakPower_W, knee_m } = kneeCurve(ref, path, [0.02, 0.05, 0.06, 0.07, 0.08]);
  expect(peakPower_W[0]).toBeNull();
  expect(knee_m).toBeGreaterThan(0.05);
  expect(kneeCurve(ref, path, [0.015, 0.02]).knee_m).toBeNull();
});
