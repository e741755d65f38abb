import fc from 'fast-check';
import { waveModel } from '@/core/waves/engine';
import type { WaveResult } from '@/core/waves/result';

const DEGREE = Math.PI / 180;
const between = (min: number, max: number) => fc.double({ min, max, noNaN: true });
/** Mean piston speed at which engines end, m/s. */
const FASTEST_mps = 25;
const straight = (length_m: number, bore_m: number) => ({ length_m, inBore_m: bore_m, outBore_m: bore_m });

/** An engine with some inlet at some speed: usual ones, odd ones, and some that nobody would build. */
export const drawnWaveEngine = fc.record({
  cylinders: fc.integer({ min: 1, max: 6 }),
  swept: between(1e-4, 9e-4),
  cr: between(7, 14),
  length: between(0.08, 0.9),
  mouth: between(0.9, 1.8),
  port: between(0.7, 1.3),
  duration: between(200, 340),
  centre: between(95, 125),
  plenum: fc.option(between(0.3, 6)),
  throttle: between(0.15, 1.2),
  pipe: fc.option(between(0.2, 1.2)),
  back: between(0, 60_000),
  speed: between(3, FASTEST_mps),
  primary: fc.boolean(),
});
export type DrawnWaveEngine = typeof drawnWaveEngine extends fc.Arbitrary<infer T> ? T : never;

/** Runs a drawn engine, on a coarse grid unless told. */
export function runDrawn(e: DrawnWaveEngine, cell_m = 0.036): WaveResult {
  const bore = Math.cbrt((4 * e.swept) / Math.PI);
  const port = 0.46 * bore * e.port;
  const valve = { count: 2, duration_rad: e.duration * DEGREE };
  return waveModel(
    {
      engine: {
        displacement_m3: e.swept * e.cylinders,
        cylinders: e.cylinders,
        compressionRatio: e.cr,
        maxRpm_rpm: (FASTEST_mps * 30) / bore,
      },
      inletValve: { ...valve, centre_rad: 2 * Math.PI + e.centre * DEGREE },
      exhaustValve: { ...valve, centre_rad: 2 * Math.PI - e.centre * DEGREE },
      runner: { segments: [{ length_m: e.length, inBore_m: port * e.mouth, outBore_m: port }] },
      plenum: e.plenum === null ? null : { volume_m3: e.plenum * e.swept * e.cylinders },
      throttle: { effectiveArea_m2: e.throttle * (Math.PI / 4) * bore ** 2 },
      pipe: e.pipe === null ? null : { segments: [straight(e.pipe, bore * 0.9)] },
      exhaust: { back_Pa: e.back, primary: e.primary ? { length_m: 0.5, bore_m: bore * 0.45 } : null },
    },
    { cell_m },
  ).run((e.speed * 30) / bore);
}

/** Throws where a result is what a gas cannot be. */
export function mustBeGas({ W, picture }: WaveResult): void {
  if (!(W > 0 && W < 2)) throw new Error(`filling ${W}`);
  for (const p of picture.p_Pa) if (!(p > 0)) throw new Error(`pressure ${p} Pa`);
}
