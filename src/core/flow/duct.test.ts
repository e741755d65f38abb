import fc from 'fast-check';
import { isFailure, must } from '../failure';
import { R_DRY } from './constants';
import { ductCapacity, ductState, headShare, machOf } from './duct';
import { nozzleMassFlow, nozzlePsi } from './nozzle';

describe('ductState', () => {
  it('is ½ρv² at low speed', () => {
    const { q_Pa } = must(ductState(0.01, 0.005, 100_000, 293.15));
    const rho = 100_000 / (R_DRY * 293.15);
    const v = 0.01 / (rho * 0.005);
    expect(q_Pa / (0.5 * rho * v * v)).toBeCloseTo(1, 4);
  });

  it('keeps the head accurate at tiny Mach numbers, where a plain difference would lose it', () => {
    const m = 1e-6;
    expect(headShare(m) / (0.7 * m * m)).toBeCloseTo(1, 9);
  });

  it('gives back the flow function it was solved from', () => {
    fc.assert(
      fc.property(fc.double({ min: 1e-6, max: 0.999, noNaN: true }), (mach) => {
        const x = mach * (1 + 0.2 * mach * mach) ** -3;
        expect(machOf(x)).toBeCloseTo(mach, mach > 0.98 ? 5 : 10);
      }),
    );
  });

  it('rises with flow up to the capacity and chokes just beyond it', () => {
    const capacity = ductCapacity(0.002, 98_000, 300);
    const below = must(ductState(capacity * 0.999999, 0.002, 98_000, 300));
    expect(below.mach).toBeGreaterThan(0.99);
    const above = ductState(capacity * 1.000001, 0.002, 98_000, 300);
    expect(isFailure(above) && above.error).toBe('choked');
  });

  it('has no flow without flow, and refuses what cannot be', () => {
    expect(must(ductState(0, 0.002, 98_000, 300))).toEqual({ mach: 0, q_Pa: 0, p_Pa: 98_000 });
    expect(isFailure(ductState(0.1, 0, 98_000, 300))).toBe(true);
    expect(isFailure(ductState(-0.1, 0.002, 98_000, 300))).toBe(true);
  });
});

describe('nozzle', () => {
  it('passes what a duct of that area passes at the nozzle’s own pressure', () => {
    const flow = must(nozzleMassFlow(0.003, 100_000, 290, 93_000));
    const duct = must(ductState(flow.massFlow_kgps, 0.003, 100_000, 290));
    expect(duct.p_Pa).toBeCloseTo(93_000, 3);
    expect(flow.sonic).toBe(false);
  });

  it('is flat once sonic and joins smoothly', () => {
    expect(nozzlePsi(0.3)).toBe(nozzlePsi(0.5));
    expect(Math.abs(nozzlePsi(0.5283) - nozzlePsi(0.5282))).toBeLessThan(1e-6);
    expect(isFailure(nozzleMassFlow(0.003, 100_000, 290, 101_000))).toBe(true);
  });
});
