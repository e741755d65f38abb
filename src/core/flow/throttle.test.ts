import fc from 'fast-check';
import { isFailure, must } from '../failure';
import { throttleRemap, throttleTable } from './remap';
import {
  fullAngle,
  openingAngle,
  throttleEffectiveArea,
  throttleFailure,
  throttleOpenArea,
  throttleWideOpen,
  type Throttle,
} from './throttle';

const single = (bore_m: number, shaft_m = 0.008): Throttle => ({ shape: 'single', bore_m, shaft_m });

const anyThrottle = fc.oneof(
  fc
    .record({
      bore: fc.double({ min: 0.03, max: 0.12, noNaN: true }),
      share: fc.double({ min: 0, max: 0.4, noNaN: true }),
      closed: fc.double({ min: 0, max: 0.3, noNaN: true }),
    })
    .map(({ bore, share, closed }): Throttle => ({ shape: 'single', bore_m: bore, shaft_m: share * bore, closedAngle_rad: closed })),
  fc
    .record({
      height: fc.double({ min: 0.03, max: 0.09, noNaN: true }),
      wider: fc.double({ min: 1, max: 2.5, noNaN: true }),
      share: fc.double({ min: 0, max: 0.4, noNaN: true }),
    })
    .map(({ height, wider, share }): Throttle => ({ shape: 'oval', height_m: height, width_m: height * wider, shaft_m: share * height })),
);

it('opens from shut to the net area without a jump and without falling back', () => {
  fc.assert(
    fc.property(anyThrottle, (t) => {
      const net = must(throttleWideOpen(t)).netArea_m2;
      let last = 0;
      for (let p = 0; p <= 100; p += 0.5) {
        const area = throttleOpenArea(t, openingAngle(t, p));
        expect(area).toBeGreaterThanOrEqual(last - 1e-12);
        expect(area - last).toBeLessThan(net * 0.03);
        last = area;
      }
      expect(last).toBeCloseTo(net, 9);
      expect(throttleOpenArea(t, openingAngle(t, 0))).toBe(0);
    }),
  );
});

it('an oval as wide as high is a circle', () => {
  const oval: Throttle = { shape: 'oval', width_m: 0.06, height_m: 0.06, shaft_m: 0.008 };
  expect(must(throttleWideOpen(oval)).netArea_m2).toBeCloseTo(must(throttleWideOpen(single(0.06))).netArea_m2, 12);
  expect(throttleOpenArea(oval, 0.6)).toBeCloseTo(throttleOpenArea(single(0.06), 0.6), 12);
});

it('counts all bores of a twin', () => {
  const twin = must(throttleWideOpen({ shape: 'twin', bore_m: 0.05, count: 2, shaft_m: 0.007 }));
  const one = must(throttleWideOpen(single(0.05, 0.007)));
  expect(twin.netArea_m2).toBeCloseTo(2 * one.netArea_m2, 12);
  expect(twin.perimeter_m).toBeCloseTo(2 * one.perimeter_m, 12);
});

it.each([
  [single(0.06, 0.06), 'shaft_thicker_than_bore'],
  [single(0), 'bore_not_positive'],
  [{ shape: 'oval', width_m: 0.04, height_m: 0.06 } as Throttle, 'oval_higher_than_wide'],
  [{ shape: 'single', bore_m: 0.06, closedAngle_rad: 1.6 } as Throttle, 'closed_angle'],
  [{ shape: 'twin', bore_m: 0.06, count: 1.5 } as Throttle, 'count'],
])('refuses impossible geometry %#', (t, reason) => {
  expect(throttleFailure(t)?.reason).toBe(reason);
  expect(isFailure(throttleWideOpen(t))).toBe(true);
});

it('an edge’s own K is used unless one is given', () => {
  expect(must(throttleWideOpen({ ...single(0.06), edge: 'knife' })).K).toBe(0.06);
  expect(must(throttleWideOpen({ ...single(0.06), edge: 'knife', K: 0.3 })).K).toBe(0.3);
});

describe('remap', () => {
  it('gives each stock opening the same effective area, or says why not', () => {
    const stock = single(0.06);
    const candidate = single(0.075);
    const openings = [0, 1, 5, 20, 60, 100];
    const { candidateOpening_pct, mark } = must(throttleRemap(stock, candidate, openings));
    expect(mark[0]).toBe('candidate_leaks_more');
    openings.forEach((p, i) => {
      if (mark[i] !== 'exact') return;
      const want = throttleEffectiveArea(stock, openingAngle(stock, p));
      expect(throttleEffectiveArea(candidate, openingAngle(candidate, candidateOpening_pct[i]!))).toBeCloseTo(want, 10);
    });
  });

  it('a throttle stands for itself at every opening, and at full where its area stops growing', () => {
    const t = single(0.062);
    const { candidateOpening_pct, mark } = must(throttleRemap(t, t, [10, 40, 70, 100]));
    expect(mark).toEqual(['exact', 'exact', 'exact', 'exact']);
    const closed = openingAngle(t, 0);
    const full = (100 * (fullAngle(t) - closed)) / (Math.PI / 2 - closed);
    expect(full).toBeLessThan(100);
    candidateOpening_pct.forEach((p, i) => expect(p).toBeCloseTo([10, 40, 70, full][i]!, 5));
  });

  it('says when the candidate never gets there', () => {
    expect(must(throttleRemap(single(0.075), single(0.06), [100])).mark).toEqual(['candidate_too_small']);
  });

  it('tables angle and area over opening', () => {
    const t = must(throttleTable(single(0.06), [0, 100]));
    expect(t.angle_rad[1]).toBeCloseTo(Math.PI / 2, 12);
    expect(fullAngle(single(0.06))).toBeLessThan(Math.PI / 2);
    expect(t.effectiveArea_m2[0]).toBeGreaterThan(0);
  });
});
