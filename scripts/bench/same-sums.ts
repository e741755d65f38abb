/** The same sums for a yardstick in another language: writes the case and our answers to the file named, prints our times. */
import { writeFileSync } from 'node:fs';
import { isFailure, must } from '@/core/failure';
import { solveCandidate } from '@/core/engine/induction';
import { compilePath, type CompiledPath } from '@/core/flow/compile';
import { throttleAtBore } from '@/core/job/knee';
import { jobModel } from '@/core/job/model';
import { openingFor } from '@/core/documents/openings';
import { jobPath } from '@/core/job/path';
import { TOLERANCES, uncertaintyRun } from '@/core/sizing/uncertainty';
import { larkspurJob } from '@/server/demo/larkspur';
import { timesOf } from './measure';

const doc = larkspurJob([]);
const rpm = Array.from({ length: 60 }, (_, i) => 1500 + (5300 * i) / 59);
const model = must(jobModel(doc, [], rpm));
const pathAt = (bore_m: number) =>
  jobPath(doc, { throttle: throttleAtBore(doc.car.stock.throttle, bore_m), opening_m: openingFor(doc, bore_m, 'matched') });
const unitBores = Array.from({ length: 12 }, (_, i) => 0.056 + 0.0015 * i);
const kneeBores = Array.from({ length: 60 }, (_, i) => 0.05 + (0.045 * i) / 59);
const { reference } = model;
if (reference.kind !== 'na' || model.problem.kind !== 'na') throw new Error('the demo car has no compressor');

const rowsOf = (c: CompiledPath) => ({ rows: c.rows.map((r) => r.what), figures: [...c.figures], exitArea_m2: c.exitArea_m2 });
const compiledAt = (bore_m: number): CompiledPath => must(compilePath(pathAt(bore_m)));
const peak = (c: CompiledPath): number => {
  const solved = must(solveCandidate(reference, c));
  return Math.max(...solved.power_W);
};
const solveAll = (bores: readonly number[]): number[] => bores.map((b) => peak(compiledAt(b)));
const DRAWS = 2000;
const drawn = unitBores.slice(3, 7);
const ranges = () => {
  const run = uncertaintyRun({ problem: model.problem, reference: model.stock.path, candidates: drawn.map(pathAt), seed: 11 });
  if (isFailure(run)) throw new Error(run.error);
  run.draw(DRAWS);
  return run.ranges().map((r) => r.peak_pct);
};

const { input, result, flowBase_kgps, density_kgpm3 } = reference;
const out = process.argv[2]!;
writeFileSync(
  out,
  JSON.stringify({
    rpm,
    ambient: input.ambient,
    inletT_K: input.inletT_K ?? input.ambient.T_K,
    heating_K: input.heating_K,
    exhaust_Pa: input.exhaust_Pa,
    engine: input.engine,
    density_kgpm3,
    flowBase_kgps,
    reference: { massFlow_kgps: result.massFlow_kgps, plenum_Pa: result.plenum_Pa, power_W: result.power_W },
    stock: rowsOf(model.stock.compiled),
    units: unitBores.map((b) => rowsOf(compiledAt(b))),
    knee: kneeBores.map((b) => rowsOf(compiledAt(b))),
    drawn: drawn.map((b) => rowsOf(compiledAt(b))),
    draws: DRAWS,
    tolerances: TOLERANCES,
    ours: { units_W: solveAll(unitBores), knee_W: solveAll(kneeBores), ranges: ranges() },
  }),
);
console.log(
  JSON.stringify({
    units_ms: timesOf(() => solveAll(unitBores), 60, 20).median,
    knee_ms: timesOf(() => solveAll(kneeBores), 30, 10).median,
    ranges_ms: timesOf(ranges, 3, 1).median,
  }),
);
