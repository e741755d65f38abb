import fc from 'fast-check';
import { gainPlot } from './gain-plot';

it('everything drawn lies inside its box', () => {
  const box = { left: 40, top: 20, width: 600, height: 200 };
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: -20, max: 20, noNaN: true }), { minLength: 2, maxLength: 60 }),
      fc.double({ min: 0.01, max: 10, noNaN: true }),
      fc.boolean(),
      (measured, half, band) => {
        const rpm = measured.map((_, i) => 2000 + 50 * i);
        const p = gainPlot(
          {
            rpm,
            measured_pct: measured,
            low_pct: measured.map((m) => m - (band ? half : 0)),
            high_pct: measured.map((m) => m + half),
            predicted: null,
          },
          box,
        );
        for (const [x, y] of [...p.measured, ...p.band]) {
          expect(x).toBeGreaterThanOrEqual(box.left - 1e-6);
          expect(x).toBeLessThanOrEqual(box.left + box.width + 1e-6);
          expect(y).toBeGreaterThanOrEqual(box.top - 1e-6);
          expect(y).toBeLessThanOrEqual(box.top + box.height + 1e-6);
        }
        expect(p.pctTicks).toContain(0);
        expect(p.pctTicks.length).toBeLessThan(14);
      },
    ),
    { endOnFailure: true },
  );
});

describe('a difference in a box', () => {
  const box = { left: 40, top: 20, width: 600, height: 200 };
  const curve = {
    rpm: [2000, 4000, 6000],
    measured_pct: [1, 3, -2],
    low_pct: [0, 2, -4],
    high_pct: [2, 4, 0],
    predicted: { rpm: [3000, 5000], gain_pct: [1, 2] },
  };
  const plot = gainPlot(curve, box);

  it('spans it from the first engine speed to the last, nothing in its middle, the farthest a twentieth from its edge', () => {
    expect([plot.x(2000), plot.x(4000), plot.x(6000)]).toEqual([40, 340, 640]);
    expect(plot.y(0)).toBeCloseTo(120, 9);
    // Four per cent, up as down, is the farthest of all.
    expect(plot.y(4)).toBeCloseTo(120 - 100 / 1.05, 9);
    expect(plot.y(-4)).toBeCloseTo(120 + 100 / 1.05, 9);
  });

  it('has its curve, its guess and its band where the axes say, the band closed by its lower edge backwards', () => {
    expect(plot.measured).toEqual(curve.rpm.map((n, i) => [plot.x(n), plot.y(curve.measured_pct[i]!)]));
    expect(plot.predicted).toEqual([
      [plot.x(3000), plot.y(1)],
      [plot.x(5000), plot.y(2)],
    ]);
    expect(plot.band).toEqual([
      [plot.x(2000), plot.y(2)],
      [plot.x(4000), plot.y(4)],
      [plot.x(6000), plot.y(0)],
      [plot.x(6000), plot.y(-4)],
      [plot.x(4000), plot.y(2)],
      [plot.x(2000), plot.y(0)],
    ]);
  });

  it('of next to nothing shows half a per cent either way, and ticks at round figures', () => {
    const flat = gainPlot({ ...curve, measured_pct: [0, 0.1, 0], low_pct: [0, 0, 0], high_pct: [0, 0.1, 0], predicted: null }, box);
    expect(flat.y(0.5)).toBeCloseTo(120 - 100 / 1.05, 9);
    expect(flat.pctTicks).toEqual([-0.5, 0, 0.5]);
    expect(plot.rpmTicks).toEqual([2000, 3000, 4000, 5000, 6000]);
    expect(plot.pctTicks).toEqual([-4, -2, 0, 2, 4]);
  });
});
