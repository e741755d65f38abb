import fc from 'fast-check';
import { must } from '../failure';
import type { Opening } from '../shape/flange';
import { overlapOf } from './overlap';

const round = (bore_m: number): Opening => ({ shape: 'round', bore_m });
const area = (d: number): number => (Math.PI / 4) * d * d;

/** Common area of two circles, closed form. */
function lens(r: number, R: number, d: number): number {
  if (d >= r + R) return 0;
  if (d <= Math.abs(R - r)) return Math.PI * Math.min(r, R) ** 2;
  const acos = (x: number): number => Math.acos(Math.max(-1, Math.min(1, x)));
  const a = r * r * acos((d * d + r * r - R * R) / (2 * d * r));
  const b = R * R * acos((d * d + R * R - r * r) / (2 * d * R));
  return a + b - 0.5 * Math.sqrt(Math.max(0, (-d + r + R) * (d + r - R) * (d - r + R) * (d + r + R)));
}

it('a bore over a smaller opening leaves a ring of metal in the air', () => {
  const { lip_m2, ledge_m2, both_m2 } = must(overlapOf({ opening: round(0.066) }, { opening: round(0.058) }));
  expect(lip_m2 / (area(0.066) - area(0.058))).toBeCloseTo(1, 3);
  expect(both_m2 / area(0.058)).toBeCloseTo(1, 4);
  expect(ledge_m2).toBeLessThan(1e-8);
});

it('two circles off one another: as the closed form has it', () =>
  fc.assert(
    fc.property(
      fc.double({ min: 0.02, max: 0.1, noNaN: true }),
      fc.double({ min: 0.02, max: 0.4, noNaN: true }),
      fc.double({ min: 1e-9, max: 0.26, noNaN: true }),
      (d, D, off) => {
        const got = must(overlapOf({ opening: round(d), at: { x_m: off * 0.6, y_m: off * 0.8 } }, { opening: round(D) }));
        const both = lens(d / 2, D / 2, off);
        expect(Math.abs(got.both_m2 - both)).toBeLessThan(1e-5 * area(Math.min(d, D)));
        expect((got.lip_m2 + got.both_m2) / area(d)).toBeCloseTo(1, 9);
      },
    ),
    { numRuns: 400 },
  ));

it('an oval turned with its opening changes nothing; turned against it, it does', () => {
  const oval: Opening = { shape: 'oval', width_m: 0.078, height_m: 0.054 };
  const net = area(0.054) + 0.024 * 0.054;
  const same = must(overlapOf({ opening: oval, clock_rad: 0.7 }, { opening: oval, clock_rad: 0.7 }));
  expect(same.both_m2 / net).toBeCloseTo(1, 3);
  expect(same.lip_m2).toBeLessThan(1e-9);
  const across = must(overlapOf({ opening: oval, clock_rad: Math.PI / 2 }, { opening: oval }));
  expect(across.lip_m2).toBeGreaterThan(5e-4);
});

it('an oval’s area does not hang on how it is turned', () =>
  fc.assert(
    fc.property(fc.double({ min: 0, max: 6.3, noNaN: true }), (clock_rad) => {
      const got = must(overlapOf({ opening: { shape: 'oval', width_m: 0.08, height_m: 0.05 }, clock_rad }, { opening: round(0.2) }));
      expect(got.both_m2 / (area(0.05) + 0.03 * 0.05)).toBeCloseTo(1, 3);
    }),
    { numRuns: 40 },
  ));

it('the wall between two bores stands in the air of neither', () => {
  const twin: Opening = { shape: 'twin', bore_m: 0.046, spacing_m: 0.05 };
  const got = must(overlapOf({ opening: twin }, { opening: round(0.12) }));
  expect(got.both_m2 / (2 * area(0.046))).toBeCloseTo(1, 3);
});

it('nothing has no size', () =>
  expect(overlapOf({ opening: round(0) }, { opening: round(0.05) })).toMatchObject({ error: 'bad_geometry' }));

it('a small opening against a very large one, or turned, or off to a side, is right to 1 in 10⁵', () => {
  const oval = { shape: 'oval' as const, width_m: 0.076, height_m: 0.036 };
  const area = Math.PI * 0.018 ** 2 + 0.036 * 0.04;
  for (const clock_rad of [0, 0.3, Math.PI / 2, 2.2])
    for (const at of [undefined, { x_m: 0.05, y_m: -0.08 }]) {
      const found = must(overlapOf({ opening: oval, clock_rad, at }, { opening: { shape: 'round', bore_m: 0.4 } }));
      expect(found.both_m2 / area).toBeCloseTo(1, 5);
      expect(found.lip_m2 / area).toBeLessThan(1e-5);
      expect((found.both_m2 + found.ledge_m2) / (Math.PI * 0.2 ** 2)).toBeCloseTo(1, 9);
    }
});
