import fc from 'fast-check';
import { gaussian, seededRandom } from '../numbers/random';
import { calibrationPoints, calibrationRound, calibrationSpeeds, rootOfDrop, SETTLED, type CalibrationFigure } from './calibrate';
import { waveModel } from './engine';
import type { WaveEngine } from './input';

const RPM = Array.from({ length: 16 }, (_, i) => 2000 + 350 * i);
/** A filling whose crest moves with one figure and whose width with another; a third does nothing to it. */
const bump = ([crest, width]: readonly number[]): number[] => RPM.map((n) => 0.9 + 0.15 * Math.exp(-(((n - crest!) / width!) ** 2)));
const FIGURES = (crest: number, width: number): CalibrationFigure[] => [
  { value: crest, least: 3000, most: 6500, step: 40, known: 500 },
  { value: width, least: 500, most: 3000, step: 30, known: 400 },
  { value: 7, least: 1, most: 20, step: 0.5, known: 2 },
];

function fitted(measured: readonly number[], start: CalibrationFigure[], model: (v: readonly number[]) => (number | null)[], rounds = 12) {
  let figures = start;
  for (let k = 0; k < rounds; k += 1) {
    const round = calibrationRound(figures, measured, calibrationPoints(figures).map(model))!;
    figures = figures.map((f, j) => ({ ...f, value: round.values[j]! }));
    if (round.moved < SETTLED || k === rounds - 1) return round;
  }
  throw new Error('no round');
}

it('finds the figures a curve was made with, whatever its level, and says what the curve cannot tell', () => {
  const truth = bump([4700, 1500]);
  const found = fitted(
    truth.map((W) => 1.07 * W),
    FIGURES(4300, 1200),
    bump,
  );
  expect(found.values[0]).toBeCloseTo(4700, -1);
  expect(found.values[1]! / 1500).toBeCloseTo(1, 1);
  expect([found.values[2], found.errors[2]]).toEqual([7, null]);
  expect(found.off).toBeLessThan(0.002);
  expect(found.off_before).toBeGreaterThanOrEqual(found.off);
  expect(found.level).toBeCloseTo(1.07, 2);
});

it('says how well it knows: of many noisy curves about two thirds lie within one error, nearly all within two', () => {
  const random = seededRandom(11);
  const off: number[] = [];
  for (let k = 0; k < 1000; k += 1) {
    const noisy = bump([4700, 1500]).map((W) => W * (1 + 0.008 * gaussian(random)));
    const found = fitted(noisy, FIGURES(4500, 1400), bump);
    if (found.errors[0] !== null) off.push(Math.abs(found.values[0]! - 4700) / found.errors[0]!);
  }
  expect(off.length).toBeGreaterThan(990);
  const within = (n: number): number => off.filter((x) => x < n).length / off.length;
  expect(within(1)).toBeGreaterThan(0.64);
  expect(within(2)).toBeGreaterThan(0.925);
});

it('a flat noisy curve tells nothing: the figures stay as they were', () => {
  const random = seededRandom(3);
  const flat = RPM.map(() => 0.9 * (1 + 0.05 * gaussian(random)));
  const still = (): number[] => RPM.map(() => 0.9);
  const found = calibrationRound(FIGURES(4300, 1200), flat, calibrationPoints(FIGURES(4300, 1200)).map(still))!;
  expect(found.errors).toEqual([null, null, null]);
  expect(found.values).toEqual([4300, 1200, 7]);
  expect(found.off).toBe(found.off_before);
});

it('two figures that do the same are not told apart: one is left as it was', () => {
  const same = ([a, b]: readonly number[]): number[] => bump([a! + 500 * b!, 1500]);
  const figures = [
    { value: 4200, least: 3000, most: 6500, step: 40, known: 500 },
    { value: 0, least: -2, most: 2, step: 0.08, known: 1 },
  ];
  const found = fitted(bump([4700, 1500]), figures, same);
  expect(found.errors.filter((e) => e === null)).toHaveLength(1);
  expect(found.values[0]! + 500 * found.values[1]!).toBeCloseTo(4700, -1);
});

it('keeps to the bounds, leaves out speeds that have not settled, and says nothing of too few', () => {
  const holes = (v: readonly number[]): (number | null)[] => bump(v).map((W, i) => (i % 4 === 0 ? null : W));
  const [tight] = FIGURES(4300, 1500);
  const bound = { ...tight!, most: 4400 };
  const crestAlone = ([crest]: readonly number[]): (number | null)[] => holes([crest!, 1500]);
  const found = fitted(bump([4900, 1500]), [bound], crestAlone);
  expect(found.values[0]).toBe(4400);
  // At its bound it is looked at inwards.
  expect(calibrationPoints([{ ...bound, value: 4400 }])[1]).toEqual([4360]);
  const few = RPM.map((_, i) => (i < 3 ? 0.9 : null));
  expect(
    calibrationRound(
      [bound],
      RPM.map(() => 0.9),
      [few, few],
    ),
  ).toBeNull();
});

it('compares where the curve was measured, and nowhere between', () => {
  expect(calibrationSpeeds([1000, 2000, 3500, 6000, 8000], [1500, 7000], 12)).toEqual([2000, 3500, 6000]);
  const fine = Array.from({ length: 200 }, (_, i) => 1000 + 30 * i);
  const chosen = calibrationSpeeds(fine, [1500, 7000], 12);
  expect(chosen).toHaveLength(12);
  expect([chosen[0], chosen.at(-1)]).toEqual([1510, 6970]);
  expect(chosen.every((n) => fine.includes(n))).toBe(true);
  // Three points are no shape.
  const three = [0.9, 0.95, 0.92];
  expect(calibrationRound(FIGURES(4300, 1200), three, [three, three, three, three])).toBeNull();
});

it('never moves a figure past its bounds nor makes an error that is none', () =>
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: 0.3, max: 1.4, noNaN: true }), { minLength: 16, maxLength: 16 }),
      fc.double({ min: 3200, max: 6200, noNaN: true }),
      (measured, crest) => {
        const figures = FIGURES(crest, 1200);
        const found = calibrationRound(figures, measured, calibrationPoints(figures).map(bump))!;
        found.values.forEach((v, j) => {
          expect(v).toBeGreaterThanOrEqual(figures[j]!.least);
          expect(v).toBeLessThanOrEqual(figures[j]!.most);
          const e = found.errors[j];
          if (e !== null) expect(e! > 0 && e! < figures[j]!.known).toBe(true);
        });
        expect(found.off).toBeLessThanOrEqual(found.off_before + 1e-12);
      },
    ),
  ));

it('gets a cam’s duration back out of a curve of the gas model itself', () => {
  const speeds = [2500, 3300, 4100, 4900, 5700, 6500, 7300];
  const DEGREE = Math.PI / 180;
  const engine = (duration_rad: number): WaveEngine => ({
    engine: { displacement_m3: 0.5e-3, cylinders: 1, compressionRatio: 10.5, bore_m: 0.086, maxRpm_rpm: 7300 },
    inletValve: { count: 2, duration_rad },
    exhaustValve: { count: 2 },
    runner: { segments: [{ length_m: 0.35, inBore_m: 0.042, outBore_m: 0.04 }], mouth: { edgeRadius_m: 0.006, kind: 'plain' } },
  });
  const curve = ([duration]: readonly number[]): (number | null)[] => {
    const model = waveModel(engine(duration!), { cell_m: 0.03 });
    return speeds.map((n) => {
      const r = model.run(n);
      return r.settled ? r.W : null;
    });
  };
  const measured = curve([268 * DEGREE]).map((W) => 0.95 * W!);
  const start: CalibrationFigure = { value: 250 * DEGREE, least: 200 * DEGREE, most: 320 * DEGREE, step: 4 * DEGREE, known: 15 * DEGREE };
  const found = fitted(measured, [start], curve, 4);
  expect(found.values[0]! / DEGREE).toBeGreaterThan(266);
  expect(found.values[0]! / DEGREE).toBeLessThan(270);
  expect(found.errors[0]! / DEGREE).toBeLessThan(4);
});

it('a manifold’s pressure tells the cam, and in its level how well the throttle passes', () => {
  const DEGREE = Math.PI / 180;
  const engine = (duration_rad: number, effectiveArea_m2: number): WaveEngine => ({
    engine: { displacement_m3: 0.002, cylinders: 4, compressionRatio: 10.5, maxRpm_rpm: 7500 },
    inletValve: { duration_rad },
    runner: { segments: [{ length_m: 0.35, inBore_m: 0.04, outBore_m: 0.04 }] },
    plenum: { volume_m3: 0.003 },
    throttle: { effectiveArea_m2 },
  });
  const rpm = [2500, 3200, 3900, 4600, 5300, 6000, 6700];
  const roots = (duration: number, area: number): (number | null)[] =>
    rpm.map((n) => {
      const r = waveModel(engine(duration, area), { cell_m: 0.036 }).run(n);
      return r.settled ? rootOfDrop(101_325 - r.plenum_Pa) : null;
    });
  const measured = roots(266 * DEGREE, 1.1 * 1.2e-3).map((v) => v ?? 0);
  expect(measured.every((v) => v > 0)).toBe(true);
  // Round by round the throttle takes on what the level says of it, for its gulps go with it too.
  let figure = { value: 250 * DEGREE, least: 180 * DEGREE, most: 330 * DEGREE, step: 4 * DEGREE, known: 12 * DEGREE };
  let passes = 1;
  for (let k = 0; k < 5; k += 1) {
    const found = calibrationRound(
      [figure],
      measured,
      calibrationPoints([figure]).map(([d]) => roots(d!, passes * 1.2e-3)),
    )!;
    figure = { ...figure, value: found.values[0]! };
    passes /= found.level;
    expect(found.errors[0]).not.toBeNull();
  }
  expect(Math.abs(figure.value / DEGREE - 266)).toBeLessThan(1);
  expect(passes).toBeCloseTo(1.1, 2);
  // What no gauge tells from none is no measurement.
  expect([rootOfDrop(399), rootOfDrop(-50), rootOfDrop(400)]).toEqual([null, null, 20]);
}, 60_000);
