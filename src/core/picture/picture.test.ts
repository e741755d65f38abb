import fc from 'fast-check';
import { drawnSheet, type Sheet, type SheetLook } from '../stand-ins/sheet';
import { isPlane, planeOf, type Plane } from './plane';
import { atSteps, traceCurve } from './trace';

const must = (sheet: Sheet): Plane => {
  const plane = planeOf(sheet.axes);
  if (!isPlane(plane)) throw new Error(plane);
  return plane;
};

describe('the plane of a chart', () => {
  it('goes from pixels to values and back, tilted, sheared or at a slant', () => {
    const seeds = fc.record({ tilt: fc.double({ min: -0.2, max: 0.2, noNaN: true }), slant: fc.double({ min: 0, max: 0.3, noNaN: true }) });
    fc.assert(
      fc.property(seeds, fc.integer({ min: 1600, max: 6900 }), fc.integer({ min: 5, max: 340 }), ({ tilt, slant }, x, y) => {
        const sheet = drawnSheet({ seed: 1, width: 20, height: 16, tilt, slant });
        const plane = must(sheet);
        const got = plane.toValue(sheet.at({ x, y }));
        expect(got.x).toBeCloseTo(x, 3);
        expect(got.y).toBeCloseTo(y, 4);
        const back = plane.toPixel({ x, y });
        expect(back.x).toBeCloseTo(sheet.at({ x, y }).x, 5);
        expect(back.y).toBeCloseTo(sheet.at({ x, y }).y, 5);
      }),
      { numRuns: 40, seed: 7 },
    );
  });

  it.each([
    [
      'x values equal',
      {
        x: [
          { at: { x: 0, y: 9 }, value: 5 },
          { at: { x: 9, y: 9 }, value: 5 },
        ],
      },
    ],
    [
      'y points together',
      {
        y: [
          { at: { x: 0, y: 9 }, value: 0 },
          { at: { x: 0, y: 9 }, value: 1 },
        ],
      },
    ],
    [
      'axes parallel',
      {
        y: [
          { at: { x: 0, y: 9 }, value: 0 },
          { at: { x: 5, y: 9 }, value: 1 },
        ],
      },
    ],
  ] as const)('says what is wrong with its points: %s', (fault, more) => {
    const sound = {
      x: [
        { at: { x: 0, y: 9 }, value: 0 },
        { at: { x: 9, y: 9 }, value: 1 },
      ],
      y: [
        { at: { x: 0, y: 9 }, value: 0 },
        { at: { x: 0, y: 0 }, value: 1 },
      ],
    } as const;
    expect(planeOf({ ...sound, ...more } as never)).toBe(fault);
  });
});

/** Largest distance of a traced curve from the truth, share of full scale, and the share of the range that was found. */
function worstOf(sheet: Sheet, which: 'power' | 'torque'): { worst: number; covered: number } {
  const truth = sheet[which];
  // A thumb does not hit the line to the pixel.
  const click = sheet.at({ x: 3600, y: truth(3600) });
  const got = traceCurve(sheet.raster, must(sheet), { x: click.x + 1.5, y: click.y - 2 }, sheet.range);
  if (!got) throw new Error('nothing was found');
  const points = got.points.filter((p) => p.x > 1650 && p.x < 6900);
  const errors = points.map((p) => (p.y - truth(p.x)) / (sheet.range.y[1] - sheet.range.y[0]));
  return {
    worst: Math.max(...errors.map(Math.abs)),
    covered: (points.at(-1)!.x - points[0]!.x) / (6900 - 1650),
  };
}

describe('a curve traced by its colour from one click', () => {
  it.each([1, 2, 3])('of a clean sheet (%d) is within half a percent of full scale', (seed) => {
    const sheet = drawnSheet({ seed });
    for (const which of ['power', 'torque'] as const) {
      const { worst, covered } = worstOf(sheet, which);
      expect(worst).toBeLessThan(0.005);
      expect(covered).toBeGreaterThan(0.97);
    }
  });

  it.each([11, 12, 22])('of a tilted, noisy, slanted sheet (%d) is within one and a half', (seed) => {
    const look: SheetLook = { seed, tilt: 0.05 * (seed % 2 ? 1 : -1), slant: 0.12, noise: 9, blocks: 4 };
    const sheet = drawnSheet(look);
    for (const which of ['power', 'torque'] as const) {
      const { worst, covered } = worstOf(sheet, which);
      expect(worst).toBeLessThan(0.015);
      expect(covered).toBeGreaterThan(0.95);
    }
  });

  it('is not found where nothing of a colour stands', () => {
    const sheet = drawnSheet({ seed: 2, grid: false });
    const nowhere = sheet.at({ x: 6500, y: 20 });
    expect(traceCurve(sheet.raster, must(sheet), nowhere, sheet.range)).toBeNull();
    expect(traceCurve(sheet.raster, must(sheet), nowhere, { ...sheet.range, colour: [190, 40, 190] })).toBeNull();
  });

  it('gives its reading error by the resolution: twice the pixels, half the error', () => {
    const of = (width: number): number => {
      const sheet = drawnSheet({ seed: 3, width, height: Math.round((width * 64) / 90) });
      return traceCurve(sheet.raster, must(sheet), sheet.at({ x: 3600, y: sheet.power(3600) }), sheet.range)!.error;
    };
    expect(of(450) / of(900)).toBeCloseTo(2, 1);
    expect(of(900)).toBeLessThan(0.002 * 350);
  });
});

it('is kept at even steps of engine speed', () => {
  const points = Array.from({ length: 200 }, (_, i) => ({ x: 2003 + 7 * i, y: 50 + i }));
  const steps = atSteps(points, 50);
  expect(steps[0]!.x).toBe(2050);
  expect(steps.every((p) => p.x % 50 === 0)).toBe(true);
  expect(steps[2]!.y).toBeCloseTo(50 + (2150 - 2003) / 7, 9);
});
