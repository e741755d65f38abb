import fc from 'fast-check';
import { behindShock, endState, jointEnd, openAirEnd, volumeEnd, wallEnd, type EndState } from './ends';
import { C_P, GAMMA, nozzleFlow, R_GAS, soundSpeed } from './gas';

/** A still state at an end, moved by a wave. */
const brought = (p: number, T: number, u: number): EndState => {
  const s = endState();
  Object.assign(s, { p, rho: p / (R_GAS * T), u, c: soundSpeed(T) });
  return s;
};

describe('the ends of ducts', () => {
  const area = 1.2e-3;
  it('a wall turns a wave back and lets nothing through', () => {
    const s = brought(1e5, 300, 30);
    wallEnd(s, area);
    expect(s.massFlow).toBe(0);
    expect(s.pressure).toBeGreaterThan(1e5);
  });

  it('still gas at the outside’s pressure stays still at every end', () => {
    for (const end of [
      (s: EndState) => openAirEnd(s, area, 1e5, 300, 0.5),
      (s: EndState) => volumeEnd(s, area, 1e5, 300, area, area),
      (s: EndState) => wallEnd(s, area),
    ]) {
      const s = brought(1e5, 300, 0);
      end(s);
      expect(Math.abs(s.massFlow)).toBeLessThan(1e-12);
      expect(s.pressure).toBeCloseTo(1e5, 6);
    }
  });

  it('what is drawn in keeps the outside’s stagnation enthalpy and loses the edge’s head', () => {
    const s = brought(9.6e4, 300, -60);
    openAirEnd(s, area, 1e5, 290, 0.5);
    expect(s.massFlow).toBeLessThan(0);
    expect(s.energyFlow / s.massFlow).toBeCloseTo(C_P * 290, 6);
    const T = 290 - s.velocity ** 2 / (2 * C_P);
    const p0 = s.pressure * (290 / T) ** 3.5;
    expect(p0).toBeCloseTo((1e5 + 0.5 * s.pressure) / 1.5, 3);
  });

  it('a volume’s opening passes what its nozzle does, either way', () => {
    const out = brought(1e5, 300, 40);
    volumeEnd(out, area, 9e4, 320, area / 3, area / 3);
    const T = soundSpeed(300) ** 2 / (GAMMA * R_GAS);
    const Tend = T * (out.pressure / 1e5) ** (2 / 7);
    const T0 = Tend + out.velocity ** 2 / (2 * C_P);
    expect(out.massFlow).toBeCloseTo(nozzleFlow(area / 3, out.pressure * (T0 / Tend) ** 3.5, T0, 9e4), 8);
    const into = brought(1e5, 300, 0);
    volumeEnd(into, area, 1.3e5, 320, area / 3, area / 3);
    expect(-into.massFlow).toBeCloseTo(nozzleFlow(area / 3, 1.3e5, 320, into.pressure), 8);
    expect(into.energyFlow / into.massFlow).toBeCloseTo(C_P * 320, 6);
    const shut = brought(1e5, 300, 40);
    volumeEnd(shut, area, 9e4, 320, 0, 0);
    expect(shut.massFlow).toBe(0);
  });

  it('gas faster than its sound leaves as it came where nothing holds it back, and behind a shock where something does', () => {
    const came = brought(3e4, 230, 400);
    const flows = { mass: came.rho * 400 * area, force: (came.rho * 400 ** 2 + 3e4) * area };
    behindShock(came);
    expect(came.u).toBeLessThan(came.c);
    expect([came.rho * came.u * area, (came.rho * came.u ** 2 + came.p) * area]).toEqual([
      expect.closeTo(flows.mass, 12),
      expect.closeTo(flows.force, 9),
    ]);
    for (const [end, held] of [
      [(s: EndState) => volumeEnd(s, area, 2e4, 300, area, area), false],
      [(s: EndState) => openAirEnd(s, area, 2e4, 300, 0.5), false],
      [(s: EndState) => volumeEnd(s, area, 9e4, 300, area, area), true],
      [(s: EndState) => wallEnd(s, area), true],
    ] as const) {
      const s = brought(3e4, 230, 400);
      behindShock(s);
      end(s);
      if (held) expect(s.massFlow).toBeLessThan(flows.mass);
      else expect([s.massFlow, s.force]).toEqual([expect.closeTo(flows.mass, 12), expect.closeTo(flows.force, 9)]);
    }
    // Slower gas is left as it is.
    const slow = brought(1e5, 300, 60);
    behindShock(slow);
    expect(slow).toEqual(brought(1e5, 300, 60));
  });

  it('no gas comes in from a volume faster than its own sound, however empty the duct', () => {
    for (const [p, u] of [
      [1e3, 0],
      [2e4, -100],
      [500, -760],
    ] as const) {
      const s = brought(p, 120, u);
      volumeEnd(s, area, 1e5, 300, area, area);
      expect(-s.velocity).toBeLessThanOrEqual(soundSpeed(250) + 1e-9);
      expect(-s.massFlow).toBeLessThanOrEqual(nozzleFlow(area, 1e5, 300, 0) + 1e-12);
      if (u < -700) expect(-s.massFlow).toBeCloseTo(nozzleFlow(area, 1e5, 300, 0), 8);
    }
  });

  it('a joint of equal ducts is not there, whatever comes', () => {
    fc.assert(
      fc.property(
        ...(([0, 1, 2, 3, 4, 5] as const).map((i) =>
          fc.double({ min: [9.4e4, 280, -60][i % 3]!, max: [1.06e5, 330, 60][i % 3]!, noNaN: true }),
        ) as [
          fc.Arbitrary<number>,
          fc.Arbitrary<number>,
          fc.Arbitrary<number>,
          fc.Arbitrary<number>,
          fc.Arbitrary<number>,
          fc.Arbitrary<number>,
        ]),
        (pa, Ta, ua, pb, Tb, ub) => {
          const [a, b] = [brought(pa, Ta, ua), brought(pb, Tb, ub)];
          jointEnd(a, area, b, area, 0, 0);
          expect(a.massFlow).toBeCloseTo(-b.massFlow, 12);
          expect(a.energyFlow).toBeCloseTo(-b.energyFlow, 6);
          expect(Math.abs(a.pressure / b.pressure - 1)).toBeLessThan(1e-7);
          expect(Math.abs(a.velocity + b.velocity)).toBeLessThan(1e-3);
        },
      ),
      { numRuns: 300, endOnFailure: true },
    );
  });
});
