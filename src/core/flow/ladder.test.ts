import fc from 'fast-check';
import { isFailure, must } from '../failure';
import { pathCapacity, pathLadder } from './ladder';
import type { PathPart } from './path';

const anyPart: fc.Arbitrary<PathPart> = fc.oneof(
  fc
    .record({ bore: fc.double({ min: 0.05, max: 0.12, noNaN: true }), r: fc.double({ min: 0, max: 0.02, noNaN: true }) })
    .map(({ bore, r }): PathPart => ({ type: 'openEnd', bore_m: bore, edgeRadius_m: r })),
  fc
    .record({
      bore: fc.double({ min: 0.05, max: 0.12, noNaN: true }),
      length: fc.double({ min: 0, max: 2, noNaN: true }),
      angle: fc.double({ min: 0, max: 2, noNaN: true }),
    })
    .map(({ bore, length, angle }): PathPart => ({
      type: 'pipe',
      bore_m: bore,
      length_m: length,
      bends: [{ angle_rad: angle, radiusRatio: 1.5 }],
    })),
  fc.double({ min: 0.06, max: 0.12, noNaN: true }).map((bore): PathPart => ({ type: 'meter', bore_m: bore })),
  fc
    .double({ min: 0.055, max: 0.1, noNaN: true })
    .map((bore): PathPart => ({ type: 'throttle', throttle: { shape: 'single', bore_m: bore, shaft_m: 0.008 } })),
  fc
    .record({ a: fc.double({ min: 0.06, max: 0.1, noNaN: true }), b: fc.double({ min: 0.06, max: 0.1, noNaN: true }) })
    .map(({ a, b }): PathPart => ({ type: 'taper', inBore_m: a, outBore_m: b, halfAngle_rad: 0.15 })),
  fc.boolean().map((sized): PathPart => ({ type: 'filter', ratedFlow_m3ps: 0.3, ratedLoss_Pa: 1000, ...(sized && { bore_m: 0.1 }) })),
);
const anyPath = fc.array(anyPart, { minLength: 1, maxLength: 8 });
const P0 = 100_000;
const T0 = 295;

it('rows and exit add up to the total exactly, and the running pressure is their sum', () => {
  fc.assert(
    fc.property(anyPath, fc.double({ min: 0, max: 0.06, noNaN: true }), (parts, m) => {
      const l = must(pathLadder({ parts }, m, P0, T0));
      const sum = l.dp_Pa.reduce((a, b) => a + b, 0) + l.exit_Pa;
      expect(sum).toBeCloseTo(l.total_Pa, 6);
      expect(P0 - l.total_Pa).toBeCloseTo(l.end_Pa, 9);
      expect(l.what).toHaveLength(2 * parts.length - 1);
      expect(l.dp_Pa.every((d) => d >= 0)).toBe(true);
    }),
  );
});

it('more flow never loses less, and the capacity is where answers end', () => {
  fc.assert(
    fc.property(anyPath, fc.double({ min: 0.1, max: 0.9, noNaN: true }), (parts, share) => {
      const capacity = must(pathCapacity({ parts }, P0, T0));
      const some = must(pathLadder({ parts }, capacity * share * 0.99, P0, T0));
      const more = must(pathLadder({ parts }, capacity * share, P0, T0));
      expect(more.total_Pa).toBeGreaterThan(some.total_Pa);
      expect(isFailure(pathLadder({ parts }, capacity * 0.9999999, P0, T0))).toBe(false);
      expect(isFailure(pathLadder({ parts }, capacity * 1.0000001, P0, T0))).toBe(true);
    }),
    { numRuns: 40 },
  );
});

it('a compressor’s inlet loses no exit head', () => {
  const parts: PathPart[] = [{ type: 'openEnd', bore_m: 0.07, edgeRadius_m: 0.01 }];
  const dump = must(pathLadder({ parts }, 0.15, P0, T0));
  const inlet = must(pathLadder({ parts }, 0.15, P0, T0, 'compressor'));
  expect(inlet.exit_Pa).toBe(0);
  expect(inlet.end_Pa).toBeGreaterThan(dump.end_Pa);
});

it('pulsation multiplies every loss', () => {
  const parts: PathPart[] = [
    { type: 'openEnd', bore_m: 0.07, edgeRadius_m: 0.01 },
    { type: 'meter', bore_m: 0.07 },
  ];
  const steady = must(pathLadder({ parts }, 0.01, P0, T0));
  const pulsed = must(pathLadder({ parts, pulsationFactor: 2 }, 0.01, P0, T0));
  expect(pulsed.total_Pa / steady.total_Pa).toBeCloseTo(2, 3);
});

it('says which row chokes, which openings miss, which part cannot be', () => {
  const throttle: PathPart = { type: 'throttle', throttle: { shape: 'single', bore_m: 0.05, shaft_m: 0.008 } };
  const wide: PathPart = { type: 'section', name: 'opening', bore_m: 0.08 };
  expect(pathLadder({ parts: [{ type: 'openEnd', bore_m: 0.09 }, throttle, wide] }, 0.38, P0, T0)).toMatchObject({
    error: 'choked',
    where: 'throttle',
  });
  expect(pathLadder({ parts: [{ ...throttle, join: { offset_m: 0.09 } }, wide] }, 0.01, P0, T0)).toMatchObject({
    error: 'blocked',
    where: 'throttle>opening',
  });
  expect(pathLadder({ parts: [{ type: 'meter', bore_m: 0 }] }, 0.01, P0, T0)).toMatchObject({ error: 'bad_geometry', where: 'meter' });
  expect(
    pathLadder({ parts: [{ type: 'pipe', bore_m: 0.07, length_m: 1, bends: [{ angle_rad: 1, radiusRatio: 0.3 }] }] }, 0.01, P0, T0),
  ).toMatchObject({ error: 'bad_geometry', reason: 'bend_too_tight' });
  expect(pathCapacity({ parts: [{ ...throttle, join: { offset_m: 0.09 } }, wide] }, P0, T0)).toBe(0);
});

it('a part’s bench figure takes the place of its own K', () => {
  const own: PathPart = { type: 'meter', bore_m: 0.075, K: 0.3 };
  const measured: PathPart = { ...own, benchFlow_m3ps: 0.3, benchDepression_Pa: 6974.49, benchEntryK: 0.04 };
  const a = must(pathLadder({ parts: [own] }, 0.15, P0, T0));
  const b = must(pathLadder({ parts: [measured] }, 0.15, P0, T0));
  expect(b.dp_Pa[0]).not.toBeCloseTo(a.dp_Pa[0]!, 0);
  expect(pathLadder({ parts: [{ ...own, benchFlow_m3ps: 0.3 }] }, 0.1, P0, T0)).toMatchObject({
    error: 'bad_input',
    reason: 'bench_record',
  });
});
