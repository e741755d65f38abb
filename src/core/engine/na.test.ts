import fc from 'fast-check';
import { isFailure, must } from '../failure';
import type { Path } from '../flow/path';
import { residualFactor, solveNa, solveNaCandidate, solveNaReference, type NaEngine } from './na';
import { candidatePower, frictionMep, powerOf, torqueOf } from './power';
import { demandByCylinderAir, demandByDisplacement, demandByPower, veFromMassFlow } from './demand';

const engine = (more: Partial<NaEngine> = {}): NaEngine => ({
  ambient: { p_Pa: 100_000, T_K: 293.15, rh: 0.4 },
  engine: { displacement_m3: 0.0029, compressionRatio: 10.2 },
  rpm: [2000, 3500, 5000, 6500],
  ve: 0.86,
  power: { bsfc_kgpJ: 8.3e-8, afr: 12.8 },
  ...more,
});

/** Pipe, throttle, opening: the opening matched to the bore unless given. */
const path = (bore_m: number, opening_m = bore_m, pipe_m = 0.08): Path => ({
  parts: [
    { type: 'openEnd', bore_m: pipe_m, edgeRadius_m: 0.008 },
    { type: 'pipe', bore_m: pipe_m, length_m: 0.4 },
    { type: 'throttle', throttle: { shape: 'single', bore_m, shaft_m: 0.008 } },
    { type: 'section', name: 'opening', bore_m: opening_m },
  ],
});

it('the same path gives the same engine back', () => {
  const { reference, candidate } = must(solveNa({ ...engine(), reference: path(0.058), candidate: path(0.058) }));
  candidate.massFlow_kgps.forEach((m, i) => expect(m / reference.massFlow_kgps[i]!).toBeCloseTo(1, 10));
  candidate.power_W.forEach((p, i) => expect(p / reference.power_W[i]!).toBeCloseTo(1, 9));
});

it('flow, pressure and efficiency of the candidate agree with each other', () => {
  const { candidate } = must(solveNa({ ...engine(), reference: path(0.058), candidate: path(0.066) }));
  candidate.massFlow_kgps.forEach((m, i) => {
    const swept = (0.0029 * engine().rpm[i]!) / 120;
    expect((m * 287.058 * 301.15) / (swept * candidate.plenum_Pa[i]!) / candidate.etaManifold[i]!).toBeCloseTo(1, 9);
    expect(candidate.exhaust_Pa[i]).toBeGreaterThan(100_000);
  });
});

it('with the opening matched and up to one and a half times the pipe, a larger bore never lowers power', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.05, max: 0.1, noNaN: true }),
      fc.double({ min: 0.001, max: 0.02, noNaN: true }),
      fc.double({ min: 0.06, max: 0.09, noNaN: true }),
      (bore, more, pipe) => {
        const larger = Math.min(bore + more, 1.5 * pipe);
        if (larger <= bore) return;
        const ref = must(solveNaReference(engine(), path(0.058, 0.058, pipe)));
        const small = solveNaCandidate(ref, path(bore, bore, pipe));
        const large = solveNaCandidate(ref, path(larger, larger, pipe));
        if (isFailure(small) || isFailure(large)) return;
        large.power_W.forEach((p, i) => expect(p).toBeGreaterThanOrEqual(small.power_W[i]! * (1 - 1e-9)));
      },
    ),
    { numRuns: 60 },
  );
});

it('twice the engine on twice the area breathes the same', () => {
  const k = Math.SQRT2;
  const small = must(solveNaReference(engine(), { parts: [{ type: 'openEnd', bore_m: 0.07, edgeRadius_m: 0.007 }] }));
  const large = must(
    solveNaReference(engine({ engine: { displacement_m3: 0.0058, compressionRatio: 10.2 } }), {
      parts: [{ type: 'openEnd', bore_m: 0.07 * k, edgeRadius_m: 0.007 * k }],
    }),
  );
  large.result.plenum_Pa.forEach((p, i) => expect(p).toBeCloseTo(small.result.plenum_Pa[i]!, 6));
  large.result.massFlow_kgps.forEach((m, i) => expect(m).toBeCloseTo(2 * small.result.massFlow_kgps[i]!, 10));
});

it('a seeded sweep of engines either solves or says why not, and never returns a number that is none', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.0005, max: 0.009, noNaN: true }),
      fc.double({ min: 0.02, max: 0.09, noNaN: true }),
      fc.double({ min: 0.02, max: 0.09, noNaN: true }),
      fc.double({ min: 0.4, max: 1.2, noNaN: true }),
      (displacement_m3, stock, other, ve) => {
        const solved = solveNa({
          ...engine({ engine: { displacement_m3, compressionRatio: 9.5 }, ve, rpm: [1000, 4000, 8000] }),
          reference: path(stock),
          candidate: path(other),
        });
        if (isFailure(solved)) expect(['reference', 'candidate']).toContain(solved.side);
        else expect([...solved.candidate.power_W, ...solved.candidate.plenum_Pa].every(Number.isFinite)).toBe(true);
      },
    ),
    { numRuns: 400, seed: 20 },
  );
});

it('chokes with the side and the rpm it happened at', () => {
  expect(solveNa({ ...engine(), reference: path(0.02), candidate: path(0.058) })).toMatchObject({ error: 'choked', side: 'reference' });
  const ref = must(solveNaReference(engine(), path(0.07)));
  expect(solveNaCandidate(ref, path(0.02))).toMatchObject({ error: 'choked', side: 'candidate', at_rpm: expect.any(Number) });
});

it.each([
  [{ ve: { rpm: [2000, 1000], value: [0.8, 0.8] } }, 'bad_input'],
  [{ ve: 0 }, 'bad_input'],
  [{ rpm: [0] }, 'bad_input'],
  [{ ambient: { p_Pa: 99.4, T_K: 293 } }, 'pressure_out_of_range'],
  [{ engine: { displacement_m3: 0, compressionRatio: 10 } }, 'bad_input'],
  [{ engine: { displacement_m3: 0.002, compressionRatio: 1 } }, 'bad_input'],
  [{ power: { value_W: [1] } }, 'bad_input'],
])('refuses %j', (more, error) => {
  expect(solveNaReference(engine(more as Partial<NaEngine>), path(0.058))).toMatchObject({ error });
});

it('residual gas leaves more room the lower the exhaust pressure', () => {
  expect(residualFactor(10, 98_000, 98_000)).toBeCloseTo(1, 12);
  expect(residualFactor(10, 98_000, 115_000)).toBeLessThan(1);
});

it('power follows the air when nothing else changes', () => {
  const same = candidatePower({
    aspiration: 'na',
    displacement_m3: 0.003,
    rpm: 6000,
    referencePower_W: 150_000,
    referenceMassFlow_kgps: 0.16,
    referencePlenum_Pa: 97_000,
    massFlow_kgps: 0.16,
    plenum_Pa: 97_000,
  });
  expect(same.power_W).toBeCloseTo(150_000, 6);
  expect(powerOf(torqueOf(150_000, 6000), 6000)).toBeCloseTo(150_000, 6);
  expect(frictionMep(6000)).toBeGreaterThan(frictionMep(3000));
});

it('the schools of demand undo one another', () => {
  const d = must(demandByDisplacement(0.003, 6000, 0.9, 1.18));
  expect(must(veFromMassFlow(d.massFlow_kgps, 0.003, 6000, 1.18) as number)).toBeCloseTo(0.9, 12);
  expect(demandByCylinderAir((d.massFlow_kgps * 120) / (6 * 6000), 6, 6000)).toBeCloseTo(d.massFlow_kgps, 12);
  const wheels = must(demandByPower({ power_W: 85_000, at: 'wheels', drivelineLoss: 0.15, density_kgpm3: 1.18 }));
  expect(wheels.crankPower_W).toBeCloseTo(100_000, 6);
  expect(isFailure(demandByPower({ power_W: 1, at: 'wheels', drivelineLoss: 1, density_kgpm3: 1.18 }))).toBe(true);
});
