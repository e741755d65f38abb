import fc from 'fast-check';
import { isFailure, must } from '../failure';
import { boreByIdle, boreByTipIn, closedLeak, idleAir, idleFloor, tipInGain } from './manners';
import { boreByBench, boreByGasSpeed, boreByLoss, ownLoss, smallestBore } from './own-loss';
import { sizingVerdict, sizingWindow } from './window';

const air = { massFlow_kgps: 0.16, p0_Pa: 98_000, T0_K: 295, shaft_m: 0.008 };
const day = { p0_Pa: 100_000, T0_K: 293 };

it('the bore by loss just meets the limit, and a hair less does not', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.03, max: 0.4, noNaN: true }),
      fc.double({ min: 300, max: 4000, noNaN: true }),
      (massFlow_kgps, limit_Pa) => {
        const bore = boreByLoss({ ...air, massFlow_kgps, limit_Pa });
        if (isFailure(bore)) return;
        expect(must(ownLoss({ ...air, massFlow_kgps }, bore) as number)).toBeCloseTo(limit_Pa, 3);
        const less = ownLoss({ ...air, massFlow_kgps }, bore * 0.999);
        expect(isFailure(less) || less > limit_Pa).toBe(true);
      },
    ),
    { numRuns: 30 },
  );
});

it('more air needs a larger bore by every school', () => {
  const more = { ...air, massFlow_kgps: 0.2 };
  expect(boreByLoss(more)).toBeGreaterThan(boreByLoss(air) as number);
  expect(boreByGasSpeed(more)).toBeGreaterThan(boreByGasSpeed(air) as number);
  expect(boreByBench({ ...more, benchRatio: 0.9 })).toBeGreaterThan(boreByBench({ ...air, benchRatio: 0.9 }) as number);
});

it('says when no bore will do, and when a use has no speed limit', () => {
  expect(boreByLoss({ ...air, massFlow_kgps: 9 })).toMatchObject({ error: 'no_bore' });
  expect(boreByBench({ ...air, massFlow_kgps: 9, benchRatio: 0.9 })).toMatchObject({ error: 'no_bore' });
  expect(boreByGasSpeed({ ...air, use: 'blow-through' })).toMatchObject({ error: 'bad_input' });
});

it('finds the first bore from below, not a later one', () => {
  expect(smallestBore((d) => (d > 0.03 && d < 0.05) || d > 0.08, 0.01, 0.2)).toBeCloseTo(0.03, 9);
  expect(smallestBore(() => false, 0.01, 0.2)).toBeNull();
});

describe('manners', () => {
  it('idle floor is where leak and need are equal', () => {
    const throttle = { shape: 'single' as const, bore_m: 0.09, shaft_m: 0.009, clearance_m: 0.00012 };
    const { leak_kgps, floor_rpm } = must(idleFloor({ ...day, displacement_m3: 0.002, throttle }));
    expect(floor_rpm).toBeGreaterThan(0);
    expect(idleAir({ ...day, displacement_m3: 0.002 }, floor_rpm)).toBeCloseTo(leak_kgps, 9);
  });

  it('a sealed blade lets the engine fall as far as it likes; a gaping one has no idle', () => {
    const at = (clearance_m: number) =>
      idleFloor({ ...day, displacement_m3: 0.003, throttle: { shape: 'single', bore_m: 0.06, shaft_m: 0.008, clearance_m } });
    expect(must(at(1e-5)).floor_rpm).toBe(0);
    expect(at(0.005)).toMatchObject({ error: 'no_idle' });
  });

  it('the idle bore leaks just its share', () => {
    const { bore_m, idleAir_kgps } = boreByIdle({ ...day, displacement_m3: 0.002 });
    expect(closedLeak(Math.PI * bore_m, 4e-5, 0.7, day.p0_Pa, day.T0_K)).toBeCloseTo(0.6 * idleAir_kgps, 12);
  });

  it('the tip-in bore opens just the limit times stock in its first tenth', () => {
    const stock = { shape: 'single' as const, bore_m: 0.058, shaft_m: 0.008 };
    const { bore_m } = must(boreByTipIn(stock, undefined, 1.35));
    expect(tipInGain({ ...stock, bore_m }) / tipInGain(stock)).toBeCloseTo(1.35, 6);
    expect(isFailure(boreByTipIn({ ...stock, shaft_m: 0.06 }, undefined, 1.35))).toBe(true);
  });
});

describe('window', () => {
  it('takes the largest from below and the smallest from above, and knows when they cross', () => {
    const w = sizingWindow({ loss: 0.06, gasSpeed: 0.05, bench: null }, { idle: 0.1, tipIn: 0.067, fit: null });
    expect(w).toEqual({ lower_m: 0.06, lowerBy: 'loss', upper_m: 0.067, upperBy: 'tipIn', empty: false });
    expect(sizingWindow({ loss: 0.07 }, { tipIn: 0.067 }).empty).toBe(true);
    expect(sizingWindow({}, {})).toMatchObject({ lower_m: null, upper_m: null, empty: false });
  });

  it.each([
    [{ bore_m: 0.08, largestGain_pct: 3, fit_m: 0.07 }, 'does not fit'],
    [{ bore_m: 0.08, largestGain_pct: 3, tipIn_m: 0.07 }, 'too big for its manners'],
    [{ bore_m: 0.06, largestGain_pct: 0.4 }, 'not the restriction'],
    [{ bore_m: 0.06, largestGain_pct: 1 }, 'worth testing'],
    [{ bore_m: 0.06, largestGain_pct: 2 }, 'worth buying'],
    [{ bore_m: 0.06, largestGain_pct: 2, air_m: 0.065 }, 'worth testing'],
  ])('%j is %s', (v, word) => {
    expect(sizingVerdict(v)).toBe(word);
  });
});
