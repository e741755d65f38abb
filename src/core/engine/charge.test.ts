import fc from 'fast-check';
import { must } from '../failure';
import { C_P, GAMMA } from '../flow/constants';
import { compressedT, cooledT, coolerFigures, COOLER_DEFAULTS, drivePower } from './charge';
import { engineFailure, inletTemperature, referencePower, type EngineInput } from './input';
import { FlowSearch, FULL_STEP, QUICK_STEP } from './flow-root';

describe('the charge', () => {
  it('is compressed without loss along the isentrope, and hotter with loss', () => {
    fc.assert(
      fc.property(fc.double({ min: 1, max: 3.5, noNaN: true }), fc.double({ min: 0.4, max: 1, noNaN: true }), (ratio, eta) => {
        const ideal = 300 * ratio ** ((GAMMA - 1) / GAMMA);
        expect(compressedT(300, ratio, 1)).toBeCloseTo(ideal, 9);
        expect(compressedT(300, ratio, eta)).toBeGreaterThanOrEqual(ideal - 1e-9);
      }),
    );
  });

  it('a cooler takes out its share of what is above its coolant', () => {
    const cooler = coolerFigures({ effectiveness: 0.75, coolant_K: 320, loss_Pa: 3000 });
    expect(cooledT(400, cooler)).toBeCloseTo(340, 12);
    expect(cooledT(320, cooler)).toBe(320);
    expect(coolerFigures({})).toMatchObject(COOLER_DEFAULTS);
  });

  it('a cooler of no effect and no loss is none; one that is not described is a usual one', () => {
    const none = coolerFigures({ effectiveness: 0, loss_Pa: 0 });
    expect(cooledT(400, none)).toBe(400);
    expect(none.loss_Pa).toBe(0);
    expect(coolerFigures(undefined)).toEqual(COOLER_DEFAULTS);
  });

  it('what drives the compressor is the heat it puts in, over the belt', () => {
    expect(drivePower(0.2, 300, 380, 0.95)).toBeCloseTo((0.2 * C_P * 80) / 0.95, 9);
    expect(drivePower(0.2, 300, 300, 0.95)).toBe(0);
  });
});

describe('what every engine is described by', () => {
  const engine: EngineInput = {
    ambient: { p_Pa: 100_000, T_K: 293 },
    engine: { displacement_m3: 0.002, compressionRatio: 10 },
    rpm: [2000, 4000],
    power: { bsfc_kgpJ: 8e-8, afr: 12.5 },
  };

  it.each([
    [{ engine: { displacement_m3: 0, compressionRatio: 10 } }, 'displacement_m3'],
    [{ engine: { displacement_m3: 0.002, compressionRatio: 1 } }, 'compressionRatio'],
    [{ rpm: [] }, 'rpm'],
    [{ rpm: [2000, -1] }, 'rpm'],
    [{ power: { value_W: [1] } }, 'power'],
  ])('%j is refused at %s', (more, where) => {
    expect(engineFailure({ ...engine, ...more } as EngineInput)).toMatchObject({ error: 'bad_input', where });
  });

  it('a good one is not', () => {
    expect(engineFailure(engine)).toBeNull();
    expect(inletTemperature(engine)).toBe(293);
    expect(inletTemperature({ ...engine, inletT_K: 310 })).toBe(310);
    expect(referencePower(engine, 1, 0.1)).toBeCloseTo(0.1 / (8e-8 * 12.5), 6);
    expect(referencePower({ ...engine, power: { value_W: [10, 20] } }, 1, 0.1)).toBe(20);
  });
});

describe('the walk from one engine speed to the next', () => {
  /** A flow that falls short of what is asked for by a smooth, curved amount. */
  const surplus =
    (n: number) =>
    (x: number): number =>
      0.9 * n * (1 - 0.02 * n) * (1 - (0.1 * x * x) / (n * n)) - x;
  const bases = Array.from({ length: 12 }, (_, i) => 1 + i);

  it('finds each root, in fewer looks the further it has come', () => {
    let looks = 0;
    const count: number[] = [];
    const search = new FlowSearch(FULL_STEP);
    for (const n of bases) {
      looks = 0;
      const f = surplus(n);
      const x = search.root((y) => {
        looks += 1;
        return f(y);
      }, n);
      expect(f(x)).toBeCloseTo(0, 8);
      count.push(looks);
    }
    expect(count.at(-1)!).toBeLessThanOrEqual(count[0]!);
  });

  it('asked for little it keeps the point it looked at, moved to the root', () => {
    const search = new FlowSearch(QUICK_STEP);
    const at = (x: number) => ({ x, seen: x });
    let settled = 0;
    for (const n of bases) {
      const f = surplus(n);
      const point = must(
        search.point(
          at,
          (_p, x) => f(x),
          n,
          (near, x) => ((settled += 1), { ...near, x }),
        )!,
      );
      expect(Math.abs(f(point.x))).toBeLessThan(1e-4 * n);
      expect(Math.abs(point.seen / point.x - 1)).toBeLessThanOrEqual(QUICK_STEP);
    }
    expect(settled).toBeGreaterThan(bases.length / 2);
  });

  it('asked for all, the point is looked at where the root is', () => {
    const search = new FlowSearch();
    const point = search.point(
      (x) => ({ x }),
      (_p, x) => 2 - x,
      1.5,
      () => ({ x: NaN }),
    )!;
    expect(point.x).toBeCloseTo(2, 9);
  });

  it('a wall or nothing at all is no point', () => {
    expect(
      new FlowSearch().point(
        () => null,
        () => 1,
        1,
        (p) => p,
      ),
    ).toBeNull();
    expect(
      new FlowSearch().point(
        (x) => (x > 1.2 ? null : { x }),
        (_p, x) => 2 - x,
        1,
        (p) => p,
      ),
    ).toBeNull();
  });
});
