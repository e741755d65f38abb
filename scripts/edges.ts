/**
 * How the engine holds at its edges: thousands of drawn cars, and what must hold for each; a quarter as many drawn inlets for
 * the waves. `npm run edges -- CARS`, `npm run edges -- CARS --waves` for those alone.
 */
import fc from 'fast-check';
import { drawnCar, MUST_HOLD, rangeHoldsItsCentre } from '../test/drawn-cars';
import { drawnWaveEngine, mustBeGas, runDrawn } from '../test/drawn-waves';

const CARS = Number(process.argv[2] ?? 20_000);
const SEED = 20_263;
/** The range takes hundreds of solves a car. */
const RANGE_SHARE = 0.01;

let failed = 0;
function hold(name: string, numRuns: number, holds: (car: Parameters<typeof rangeHoldsItsCentre>[0]) => void): void {
  const from = performance.now();
  const result = fc.check(fc.property(drawnCar, holds), { numRuns, seed: SEED, endOnFailure: process.argv.includes('--no-shrink') });
  const seconds = ((performance.now() - from) / 1000).toFixed(1);
  if (!result.failed) return console.info(`held    ${name}: ${numRuns} cars, ${seconds} s`);
  failed += 1;
  const [car] = result.counterexample ?? [];
  console.error(`FAILED  ${name}, after ${result.numRuns} cars, ${seconds} s: ${String(result.errorInstance)}`);
  if (car) console.error(JSON.stringify({ unit_m: car.unit_m, car: car.doc.car, parts: car.doc.air.parts }));
}

/** Share of drawn inlets that may not settle within their cycles: rare, and each says so. */
const UNSETTLED_SHARE = 0.01;

/** The waves of drawn engines: none ends in what a gas cannot be, and few do not settle. */
function wavesHold(engines: number): void {
  const from = performance.now();
  let ran = 0;
  let unsettled = 0;
  const result = fc.check(
    fc.property(drawnWaveEngine, (e) => {
      const got = runDrawn(e);
      ran += 1;
      if (!got.settled) unsettled += 1;
      mustBeGas(got);
    }),
    { numRuns: engines, seed: SEED, endOnFailure: true },
  );
  const said = `${ran} engines, ${unsettled} not settled, ${((performance.now() - from) / 1000).toFixed(1)} s`;
  if (!result.failed && unsettled <= UNSETTLED_SHARE * ran) return console.info(`held    waves: ${said}`);
  failed += 1;
  console.error(`FAILED  waves: ${said}: ${String(result.errorInstance ?? 'too many do not settle')}`);
  if (result.counterexample) console.error(JSON.stringify(result.counterexample));
}

const WAVE_SHARE = 0.25;
wavesHold(Math.max(20, Math.round(CARS * WAVE_SHARE)));
if (process.argv.includes('--waves')) process.exit(failed > 0 ? 1 : 0);
for (const [name, holds] of Object.entries(MUST_HOLD)) hold(name, CARS, holds);
hold('the range of a gain holds the gain', Math.max(10, Math.round(CARS * RANGE_SHARE)), (car) => rangeHoldsItsCentre(car));
process.exitCode = failed > 0 ? 1 : 0;
