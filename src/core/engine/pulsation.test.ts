import fc from 'fast-check';
import { must } from '../failure';
import { CYCLE_rad, evenStarts, INDUCTION_EVENT_rad, pulsationFactor } from './pulsation';

/** The same by brute force: half-sines summed on a fine grid. */
function byGrid(starts: readonly number[], L: number): { factor: number; peakToMean: number } {
  const n = 40_000;
  let sum = 0;
  let squares = 0;
  let peak = 0;
  for (let i = 0; i < n; i += 1) {
    const angle = ((i + 0.5) / n) * CYCLE_rad;
    let flow = 0;
    for (const s of starts) {
      const into = (((angle - s) % CYCLE_rad) + CYCLE_rad) % CYCLE_rad;
      if (into < L) flow += Math.sin((Math.PI * into) / L);
    }
    sum += flow;
    squares += flow * flow;
    peak = Math.max(peak, flow);
  }
  const mean = sum / n;
  return { factor: squares / n / mean ** 2, peakToMean: peak / mean };
}

it.each([1, 2, 3, 4, 5, 6, 8])('%d cylinders: closed form and brute force agree', (cylinders) => {
  const starts = evenStarts(cylinders);
  const closed = must(pulsationFactor({ startAngles_rad: starts }));
  const grid = byGrid(starts, INDUCTION_EVENT_rad);
  expect(closed.factor).toBeCloseTo(grid.factor, 4);
  expect(closed.peakToMean).toBeCloseTo(grid.peakToMean, 3);
});

it('agrees for any starts and any length of event', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: 0, max: 12.5, noNaN: true }), { minLength: 1, maxLength: 5 }),
      fc.double({ min: 1, max: 12, noNaN: true }),
      (starts, L) => {
        const closed = must(pulsationFactor({ startAngles_rad: starts, eventLength_rad: L }));
        const grid = byGrid(starts, L);
        expect(Math.abs(closed.factor / grid.factor - 1)).toBeLessThan(2e-3);
        expect(closed.factor).toBeGreaterThanOrEqual(1 - 1e-12);
        expect(closed.peakToMean).toBeGreaterThanOrEqual(1 - 1e-12);
      },
    ),
    { numRuns: 40, seed: 3 },
  );
});

it('one cylinder alone is the half-sine of the books', () => {
  // F = (T/L)·(π²/8) for one half-sine of length L in a cycle of length T.
  const { factor } = must(pulsationFactor({ startAngles_rad: [0] }));
  expect(factor).toBeCloseTo((CYCLE_rad / INDUCTION_EVENT_rad) * (Math.PI ** 2 / 8), 12);
});

it('turning all starts by one angle changes nothing', () => {
  const starts = [0, 2.2, 5];
  const turned = starts.map((s) => s + 4.321);
  const [a, b] = [must(pulsationFactor({ startAngles_rad: starts })), must(pulsationFactor({ startAngles_rad: turned }))];
  expect(b.factor).toBeCloseTo(a.factor, 12);
  expect(b.peakToMean).toBeCloseTo(a.peakToMean, 9);
});

it('a plenum takes the edge off, the larger the more', () => {
  const at = (plenum_m3: number): number =>
    must(pulsationFactor({ startAngles_rad: [0], plenum_m3, displacement_m3: 0.002 })).blendedFactor!;
  expect(at(0)).toBeCloseTo(must(pulsationFactor({ startAngles_rad: [0] })).factor, 12);
  // One and a half displacements halve what is above 1.
  expect(at(0.003) - 1).toBeCloseTo((at(0) - 1) / 2, 12);
  expect(at(0.03)).toBeLessThan(at(0.003));
});

it.each([
  [{ startAngles_rad: [] }],
  [{ startAngles_rad: [0], eventLength_rad: 0 }],
  [{ startAngles_rad: [0], eventLength_rad: 13 }],
  [{ startAngles_rad: [0], plenum_m3: -1, displacement_m3: 0.002 }],
  [{ startAngles_rad: [0], plenum_m3: 0.001 }],
])('refuses %j', (input) => {
  expect(pulsationFactor(input)).toMatchObject({ error: 'bad_input' });
});
