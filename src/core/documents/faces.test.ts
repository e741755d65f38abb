import fc from 'fast-check';
import { measuredJob, measuredUnit, MANIFOLD_FLANGE, UNIT_FLANGE } from '../../../test/fitting';
import { must } from '../failure';
import { flangeFailure, type Opening } from '../shape/flange';
import { overlapOf } from '../fit/overlap';
import { throttleWideOpen } from '../flow/throttle';
import { flangeIssue, gasketOpening, manifoldFace, manifoldOpening, openingOf, roundBoreOf, unitFace } from './faces';
import { manifoldFlangeDoc, openingShapeDoc, unitFlangeDoc } from './flange';
import { jobDoc } from './job';
import { unitDoc } from './unit';

const stock = (more: object = {}) => ({
  flange: manifoldFlangeDoc.parse(MANIFOLD_FLANGE),
  manifoldOpening_m: 0.058,
  gasketOpening_m: 0.06,
  ...more,
});

describe('openings', () => {
  it('a throttle’s bore is its opening, in its own shape', () => {
    const t = measuredUnit().throttle;
    expect(openingOf(t)).toEqual({ shape: 'round', bore_m: 0.066 });
    expect(openingOf({ ...t, shape: 'oval', width_m: 0.078, height_m: 0.054 })).toEqual({ shape: 'oval', width_m: 0.078, height_m: 0.054 });
    expect(openingOf({ ...t, shape: 'twin', count: 2, bore_m: 0.046 })).toEqual({ shape: 'twin', bore_m: 0.046, spacing_m: 0.049 });
  });

  it('the round bore of an opening has its area', () => {
    const shapes: fc.Arbitrary<Opening> = fc.oneof(
      fc.record({ shape: fc.constant('round' as const), bore_m: fc.double({ min: 0.03, max: 0.1, noNaN: true }) }),
      fc
        .tuple(fc.double({ min: 0.03, max: 0.08, noNaN: true }), fc.double({ min: 0, max: 0.04, noNaN: true }))
        .map(([height_m, more]) => ({ shape: 'oval' as const, height_m, width_m: height_m + more })),
      fc
        .tuple(fc.double({ min: 0.03, max: 0.06, noNaN: true }), fc.double({ min: 0.001, max: 0.01, noNaN: true }))
        .map(([bore_m, wall]) => ({ shape: 'twin' as const, bore_m, spacing_m: bore_m + wall })),
    );
    fc.assert(
      fc.property(shapes, (opening) => {
        const { both_m2 } = must(overlapOf({ opening }, { opening: { shape: 'round', bore_m: 0.4 } }));
        expect(both_m2 / ((Math.PI / 4) * roundBoreOf(opening) ** 2)).toBeCloseTo(1, 2);
      }),
      { numRuns: 40 },
    );
  });

  it('an oval throttle’s gross area is that of its opening', () => {
    const t = { ...measuredUnit().throttle, shape: 'oval' as const, width_m: 0.078, height_m: 0.054 };
    expect(must(throttleWideOpen(t)).grossArea_m2).toBeCloseTo((Math.PI / 4) * roundBoreOf(openingOf(t)) ** 2, 9);
  });

  it('the gasket follows the manifold’s shape, as much wider as its bore', () => {
    expect(gasketOpening(stock())).toEqual({ shape: 'round', bore_m: 0.06 });
    const oval = manifoldFlangeDoc.parse({ ...MANIFOLD_FLANGE, opening: { shape: 'oval', width_m: 0.07, height_m: 0.05 } });
    expect(manifoldOpening(stock({ flange: oval }))).toEqual({ shape: 'oval', width_m: 0.07, height_m: 0.05 });
    const gasket = gasketOpening(stock({ flange: oval }));
    expect(gasket).toMatchObject({ shape: 'oval', width_m: expect.closeTo(0.072, 9), height_m: expect.closeTo(0.052, 9) });
  });

  it.each([
    [{ shape: 'oval', width_m: 0.05, height_m: 0.06 }, 'The width is the longer way. Turn it with the flange.'],
    [{ shape: 'twin', bore_m: 0.05, spacing_m: 0.045 }, 'Two bores this close run into one: that is an oval.'],
    [{ shape: 'twin', bore_m: 0, spacing_m: 0.045 }, 'A size is more than nothing.'],
  ])('%j is refused with how to mend it', (opening, message) => {
    expect(openingShapeDoc.safeParse(opening).error?.issues.map((i) => i.message)).toContain(message);
  });
});

describe('faces', () => {
  it('a face nobody measured is none', () => {
    expect(unitFace(measuredUnit({ flange: null }))).toBeNull();
    expect(manifoldFace({ flange: null, manifoldOpening_m: 0.058 })).toBeNull();
  });

  it('the manifold’s holes are as wide as its thread', () => {
    expect(manifoldFace(stock())).toMatchObject({ hole_m: 0.006, opening: { shape: 'round', bore_m: 0.058 } });
  });

  it.each<[string, object, RegExp]>([
    [
      'holes on one another',
      { pattern: { kind: 'pair', span_m: 0.004, angle_rad: 0 } },
      /Two holes run into one another: their centres are 4\.0 mm apart, the holes are 6\.6 mm/,
    ],
    ['a hole in the bore', { pattern: { kind: 'pair', span_m: 0.06, angle_rad: 0 }, plate: null }, /A hole runs .* mm into the bore/],
    ['a bore wider than its plate', { plate: { width_m: 0.06, height_m: 0.092 } }, /The bore is larger than the plate it is in/],
    ['a hole over the edge', { plate: { width_m: 0.074, height_m: 0.092 } }, /A hole runs over the edge of the plate/],
  ])('%s cannot be, on a throttle or a manifold, and says why', (_what, more, words) => {
    const flange = unitFlangeDoc.parse({ ...UNIT_FLANGE, ...more });
    const refused = flangeFailure(unitFace({ throttle: measuredUnit().throttle, flange })!)!;
    expect(flangeIssue(refused)).toMatch(words);
    const unit = unitDoc.safeParse({ ...measuredUnit(), flange });
    expect(unit.error?.issues.map((i) => [i.path.join('.'), i.message])).toEqual([['flange.pattern', expect.stringMatching(words)]]);
  });

  it('a job whose manifold cannot be is refused at the flange', () => {
    const doc = measuredJob();
    const bad = {
      ...doc,
      car: {
        ...doc.car,
        stock: { ...doc.car.stock, flange: { ...doc.car.stock.flange!, pattern: { kind: 'pair', span_m: 0.05, angle_rad: 0 } } },
      },
    };
    expect(jobDoc.safeParse(bad).error?.issues.map((i) => i.path.join('.'))).toEqual(['car.stock.flange.pattern']);
  });

  it('documents of before flanges were measured read as they were', () => {
    const { flange: _f, fittings: _g, ...old } = measuredUnit();
    expect(unitDoc.parse(old)).toMatchObject({ flange: null, fittings: { plug: null, ports: null } });
    const { fit: _fit, install: _install, ...job } = measuredJob();
    const read = jobDoc.parse(job);
    expect(read.fit.mounting).toMatchObject({ adapter: null, clock_rad: 0, seal: 'not said' });
    expect(read.install).toMatchObject({ own: [], closed_V: null, relearn: { cycles: 3 } });
  });
});
