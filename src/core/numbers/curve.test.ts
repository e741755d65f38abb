import fc from 'fast-check';
import { isFailure, must } from '../failure';
import { knotCurve, linearTable } from './curve';

const knots = fc
  .array(fc.record({ gap: fc.integer({ min: 50, max: 2000 }), value: fc.double({ min: 0.2, max: 1.2, noNaN: true }) }), {
    minLength: 2,
    maxLength: 9,
  })
  .map((list) => {
    let rpm = 500;
    return { rpm: list.map((k) => (rpm += k.gap)), value: list.map((k) => k.value) };
  });

describe('knotCurve', () => {
  it('passes through its knots and never leaves the range of two neighbours', () => {
    fc.assert(
      fc.property(knots, fc.double({ min: 0, max: 1, noNaN: true }), (k, t) => {
        const curve = must(knotCurve(k));
        k.rpm.forEach((n, i) => expect(curve(n)).toBeCloseTo(k.value[i]!, 12));
        for (let i = 0; i + 1 < k.rpm.length; i += 1) {
          const y = curve(k.rpm[i]! + t * (k.rpm[i + 1]! - k.rpm[i]!));
          expect(y).toBeGreaterThanOrEqual(Math.min(k.value[i]!, k.value[i + 1]!) - 1e-12);
          expect(y).toBeLessThanOrEqual(Math.max(k.value[i]!, k.value[i + 1]!) + 1e-12);
        }
      }),
    );
  });

  it('is constant beyond its ends, and flat for a single number or knot', () => {
    const curve = must(knotCurve({ rpm: [1000, 3000, 5000], value: [0.7, 0.9, 0.8] }));
    expect(curve(0)).toBe(0.7);
    expect(curve(9000)).toBe(0.8);
    expect(must(knotCurve(0.85))(1234)).toBe(0.85);
    expect(must(knotCurve({ rpm: [2000], value: [0.6] }))(9)).toBe(0.6);
  });

  it.each([
    [{ rpm: [1000, 1000], value: [1, 1] }, 'knots_not_rising'],
    [{ rpm: [1000, 2000], value: [1] }, 'knots_unequal'],
    [{ rpm: [], value: [] }, 'knots_unequal'],
    [{ rpm: [1000, NaN], value: [1, 1] }, 'knots_not_finite'],
    [NaN, 'knots_not_finite'],
  ])('refuses %j', (bad, reason) => {
    const curve = knotCurve(bad);
    expect(isFailure(curve) && curve.reason).toBe(reason);
  });
});

it('linearTable runs straight between points and stays constant beyond', () => {
  expect(linearTable([0, 1, 3], [10, 20, 0], 0.5)).toBe(15);
  expect(linearTable([0, 1, 3], [10, 20, 0], 2)).toBe(10);
  expect(linearTable([0, 1, 3], [10, 20, 0], -4)).toBe(10);
  expect(linearTable([0, 1, 3], [10, 20, 0], 9)).toBe(0);
});
