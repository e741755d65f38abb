/** How the engine holds at its edges: thousands of drawn cars, and what must hold for each. `npm run edges -- CARS` */
import fc from 'fast-check';
import { drawnCar, MUST_HOLD, rangeHoldsItsCentre } from '../test/drawn-cars';

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

for (const [name, holds] of Object.entries(MUST_HOLD)) hold(name, CARS, holds);
hold('the range of a gain holds the gain', Math.max(10, Math.round(CARS * RANGE_SHARE)), (car) => rangeHoldsItsCentre(car));
process.exitCode = failed > 0 ? 1 : 0;
