import fc from 'fast-check';
import { isFailure, must } from '../failure';
import { adapterTaper, GOOD_TAPER_rad } from './adapter';
import { boltCheck, BOLT_LENGTHS_m, COARSE_PITCH_m } from './bolts';
import { boringPlan } from './boring';
import { averageReading, centreSpan } from './calipers';
import { flangeFailure, flangeHoles, fromOpening, thinnestWall, type Flange } from '../shape/flange';
import { boltPlay, matchPatterns } from './pattern-match';

const square: Flange = {
  pattern: { kind: 'rectangle', width_m: 0.07, height_m: 0.07 },
  hole_m: 0.0066,
  opening: { shape: 'round', bore_m: 0.066 },
  plate: { width_m: 0.09, height_m: 0.09 },
};
const mm = (x: number): number => x / 1000;

describe('caliper readings', () => {
  it('give the span between centres whichever edges were held', () => {
    const span = fc.double({ min: 0.03, max: 0.2, noNaN: true });
    const hole = fc.double({ min: 0.004, max: 0.012, noNaN: true });
    fc.assert(
      fc.property(span, hole, hole, (s, a, b) => {
        const back = (by: Parameters<typeof centreSpan>[0], reading: number): number => must(centreSpan(by, reading, a, b) as number);
        expect(back('centres', s)).toBeCloseTo(s, 12);
        expect(back('inside edges', s - (a + b) / 2)).toBeCloseTo(s, 12);
        expect(back('outside edges', s + (a + b) / 2)).toBeCloseTo(s, 12);
        expect(back('same edges', s + (b - a) / 2)).toBeCloseTo(s, 12);
      }),
    );
  });

  it('that would make holes overlap, or are none, are refused', () => {
    expect(centreSpan('outside edges', mm(15), mm(8))).toMatchObject({ error: 'bad_geometry', reason: 'holes_overlap' });
    expect(centreSpan('centres', 0, mm(8))).toMatchObject({ reason: 'size_not_positive' });
  });

  it('are averaged, with how far they differ', () => {
    const read = must(averageReading([mm(66), mm(66.1), mm(65.9)]));
    expect(read.mean_m).toBeCloseTo(mm(66), 12);
    expect(read.spread_m).toBeCloseTo(mm(0.2), 12);
    expect(averageReading([])).toMatchObject({ error: 'bad_input' });
    expect(averageReading([mm(66), -1])).toMatchObject({ error: 'bad_input' });
  });
});

describe('a flange', () => {
  it('has its holes where the pattern says, turned and shifted with it', () => {
    expect(flangeHoles(square)[0]).toEqual({ x_m: 0.035, y_m: 0.035 });
    const turned = flangeHoles({ ...square, clock_rad: Math.PI / 2 })[0]!;
    expect(turned.x_m).toBeCloseTo(-0.035, 12);
    expect(turned.y_m).toBeCloseTo(0.035, 12);
    expect(flangeHoles({ ...square, offset: { x_m: 0.002, y_m: 0 } })[0]!.x_m).toBeCloseTo(0.037, 12);
  });

  it('square holes and four on a circle are the same', () => {
    const circle: Flange = { ...square, pattern: { kind: 'circle', diameter_m: 0.07 * Math.SQRT2, count: 4, start_rad: Math.PI / 4 } };
    flangeHoles(circle).forEach((h, i) => {
      expect(h.x_m).toBeCloseTo(flangeHoles(square)[i]!.x_m, 12);
      expect(h.y_m).toBeCloseTo(flangeHoles(square)[i]!.y_m, 12);
    });
  });

  it('turning it changes no wall', () => {
    fc.assert(
      fc.property(fc.double({ min: -3, max: 3, noNaN: true }), fc.constantFrom('round', 'oval', 'twin'), (clock_rad, shape) => {
        const opening: Flange['opening'] =
          shape === 'round'
            ? { shape: 'round', bore_m: 0.06 }
            : shape === 'oval'
              ? { shape: 'oval', width_m: 0.06, height_m: 0.04 }
              : { shape: 'twin', bore_m: 0.03, spacing_m: 0.034 };
        const still = { ...square, opening };
        expect(thinnestWall({ ...still, clock_rad })).toBeCloseTo(thinnestWall(still), 12);
      }),
    );
  });

  it('distances to an opening are right on its axes', () => {
    const oval: Flange = { ...square, opening: { shape: 'oval', width_m: 0.06, height_m: 0.04 } };
    expect(fromOpening(oval, { x_m: 0.04, y_m: 0 })).toBeCloseTo(0.01, 12);
    expect(fromOpening(oval, { x_m: 0, y_m: 0.03 })).toBeCloseTo(0.01, 12);
    const twin: Flange = { ...square, opening: { shape: 'twin', bore_m: 0.03, spacing_m: 0.034 } };
    expect(fromOpening(twin, { x_m: 0, y_m: 0 })).toBeCloseTo(0.002, 12);
  });

  it.each([
    [{ hole_m: 0 }, 'size_not_positive'],
    [{ pattern: { kind: 'circle', diameter_m: 0.1, count: 1, start_rad: 0 } }, 'hole_count'],
    [{ pattern: { kind: 'pair', span_m: 0.005, angle_rad: 0 } }, 'holes_overlap'],
    [{ opening: { shape: 'round', bore_m: 0.098 }, plate: null }, 'hole_in_opening'],
    [{ plate: { width_m: 0.06, height_m: 0.09 } }, 'opening_over_plate'],
    [{ opening: { shape: 'round', bore_m: 0.05 }, plate: { width_m: 0.075, height_m: 0.09 } }, 'off_the_plate'],
    [
      {
        pattern: {
          kind: 'free',
          holes: [
            { x_m: NaN, y_m: 0 },
            { x_m: 0.05, y_m: 0 },
          ],
        },
      },
      'size_not_positive',
    ],
  ] as [Partial<Flange>, string][])('with %j cannot be: %s', (more, reason) => {
    expect(flangeFailure({ ...square, ...more })).toMatchObject({ error: 'bad_geometry', reason });
  });

  it('a good one can', () => {
    expect(flangeFailure(square)).toBeNull();
    expect(
      flangeFailure({ ...square, pattern: { kind: 'triangle', base_m: 0.08, height_m: 0.085, baseBelow_m: 0.042 }, plate: null }),
    ).toBeNull();
  });
});

describe('pattern on pattern', () => {
  it('finds the turn that was made, whichever it was', () => {
    const odd: Flange = { ...square, pattern: { kind: 'triangle', base_m: 0.08, height_m: 0.085, baseBelow_m: 0.03 }, plate: null };
    fc.assert(
      fc.property(fc.double({ min: -3.1, max: 3.1, noNaN: true }), (clock_rad) => {
        const match = matchPatterns(odd, { ...odd, clock_rad }, 'free')!;
        expect(match.worst_m).toBeLessThan(1e-9);
        expect(Math.cos(match.turn_rad - clock_rad)).toBeCloseTo(1, 9);
      }),
    );
  });

  it('a rectangle fits its own only after a half turn, a square after any quarter', () => {
    const wide: Flange = { ...square, pattern: { kind: 'rectangle', width_m: 0.08, height_m: 0.07 } };
    const quarter = { ...wide, clock_rad: Math.PI / 2 };
    expect(matchPatterns(wide, quarter, 'as it is')!.worst_m).toBeGreaterThan(0.005);
    expect(matchPatterns(wide, quarter, 'quarter turns')!.worst_m).toBeLessThan(1e-9);
    expect(matchPatterns(square, { ...square, clock_rad: Math.PI / 2 }, 'as it is')!.worst_m).toBeLessThan(1e-9);
  });

  it('each hole goes on one of its own, and the mismatch is what was put in', () => {
    const shifted = matchPatterns(square, { ...square, offset: { x_m: 0.001, y_m: 0 } }, 'as it is')!;
    expect([...shifted.onto].sort()).toEqual([0, 1, 2, 3]);
    shifted.off_m.forEach((off) => expect(off).toBeCloseTo(0.001, 12));
    expect(boltPlay(mm(6.6), mm(6))).toBeCloseTo(mm(0.3), 12);
    expect(boltPlay(mm(5), mm(6))).toBe(0);
  });

  it('different numbers of holes never match', () => {
    expect(matchPatterns(square, { ...square, pattern: { kind: 'pair', span_m: 0.09, angle_rad: 0 } }, 'free')).toBeNull();
  });
});

describe('bolts', () => {
  const stack = { diameter_m: mm(6), pitch_m: COARSE_PITCH_m['M6']!, grip_m: mm(14), threadDepth_m: mm(16), into: 'aluminium' as const };

  it('hold one and a half diameters in aluminium, two in plastic, and the shortest sold is offered', () => {
    expect(must(boltCheck(stack))).toMatchObject({ verdict: 'needs something', reason: 'no bolt yet', offered_m: 0.025 });
    expect(must(boltCheck({ ...stack, into: 'plastic insert' })).shortest_m).toBeCloseTo(mm(26), 12);
  });

  it.each([
    [20, 'too short'],
    [25, 'fits'],
    [35, 'bottoms'],
  ])('%d mm %s', (length, reason) => {
    const check = must(boltCheck({ ...stack, length_m: mm(length) }));
    expect(check.reason).toBe(reason);
    expect(check.verdict).toBe(reason === 'fits' ? 'fits' : 'needs something');
  });

  it('a hole too shallow for the thread it needs does not fit any bolt', () => {
    expect(must(boltCheck({ ...stack, threadDepth_m: mm(8), length_m: mm(20) }))).toMatchObject({
      verdict: 'does not fit',
      offered_m: null,
    });
  });

  it('the offered length always fits', () => {
    const len = fc.double({ min: 0.004, max: 0.06, noNaN: true });
    fc.assert(
      fc.property(len, len, fc.constantFrom('steel', 'aluminium', 'plastic insert'), (grip_m, threadDepth_m, into) => {
        const first = must(boltCheck({ ...stack, grip_m, threadDepth_m, into }));
        if (first.offered_m === null) return;
        expect(BOLT_LENGTHS_m).toContain(first.offered_m);
        expect(must(boltCheck({ ...stack, grip_m, threadDepth_m, into, length_m: first.offered_m })).verdict).toBe('fits');
      }),
    );
  });

  it('refuses a size that is none', () => {
    expect(isFailure(boltCheck({ ...stack, pitch_m: 0 }))).toBe(true);
    expect(isFailure(boltCheck({ ...stack, length_m: -1 }))).toBe(true);
  });
});

describe('an adapter’s taper', () => {
  it('is smooth, steep, or a step to the air, by its thickness', () => {
    const { goodLength_m, leastLength_m } = must(adapterTaper(mm(66), mm(58), mm(20)));
    expect(must(adapterTaper(mm(66), mm(58), goodLength_m)).halfAngle_rad).toBeCloseTo(GOOD_TAPER_rad, 12);
    expect(must(adapterTaper(mm(66), mm(58), goodLength_m))).toMatchObject({ verdict: 'fits', reason: 'smooth' });
    expect(must(adapterTaper(mm(66), mm(58), leastLength_m))).toMatchObject({ verdict: 'fits', reason: 'steep' });
    expect(must(adapterTaper(mm(66), mm(58), leastLength_m * 0.9))).toMatchObject({
      verdict: 'needs something',
      reason: 'a step to the air',
    });
    expect(must(adapterTaper(mm(60), mm(60), mm(12)))).toMatchObject({ reason: 'no taper needed', goodLength_m: 0 });
    expect(isFailure(adapterTaper(mm(60), mm(60), 0))).toBe(true);
  });
});

describe('boring', () => {
  const plan = (more: object = {}) =>
    must(boringPlan({ from_m: mm(58), to_m: mm(66), bite_m: mm(1), leastWall_m: mm(3), gainAt: (d) => 0.2 * (d * 1000 - 58), ...more }));

  it('goes bite by bite to the target, the last one shorter', () => {
    const { steps, endedBy } = plan({ bite_m: mm(3) });
    expect(steps.map((s) => Math.round(s.opening_m * 1e4) / 10)).toEqual([61, 64, 66]);
    expect(endedBy).toBe('target');
    steps.forEach((s) => expect(s.perMillimetre_pct!).toBeCloseTo(0.2, 9));
  });

  it('stops before the wall gets too thin', () => {
    const { steps, endedBy } = plan({ wall_m: mm(5) });
    expect(endedBy).toBe('wall');
    expect(steps.at(-1)!.wall_m!).toBeCloseTo(mm(3), 9);
    expect(steps).toHaveLength(4);
  });

  it('stops where a millimetre brings next to nothing', () => {
    const { steps, endedBy } = plan({ gainAt: (d: number) => Math.min(0.6, 0.2 * (d * 1000 - 58)) });
    expect(endedBy).toBe('no more gain');
    expect(steps).toHaveLength(3);
  });

  it('goes on without a gain where the engine cannot be solved', () => {
    const { steps } = plan({ gainAt: () => null });
    expect(steps).toHaveLength(8);
    expect(steps[0]).toMatchObject({ gain_pct: null, perMillimetre_pct: null, wall_m: null });
  });

  it('nothing to take off is a plan of no bites; going backwards is refused', () => {
    expect(plan({ to_m: mm(58) })).toMatchObject({ steps: [], endedBy: 'target', start: { opening_m: mm(58) } });
    expect(isFailure(boringPlan({ from_m: mm(58), to_m: mm(50), bite_m: mm(1), leastWall_m: 0, gainAt: () => null }))).toBe(true);
  });
});
