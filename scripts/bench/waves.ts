/** What the unsteady inlet costs: one speed, a curve of two inlets, a map. Processor time of one thread; the app has two and more. */
import { coarseFirst } from '@/core/job/wave-answer';
import { waveModel } from '@/core/waves/engine';
import type { WaveEngine } from '@/core/waves/input';
import { say } from './measure';

const straight = (length_m: number, bore_m: number) => ({ length_m, inBore_m: bore_m, outBore_m: bore_m });
/** A four-cylinder with runners, plenum, pipe and throttle. */
const four = (runner_m: number): WaveEngine => ({
  engine: { displacement_m3: 0.002, cylinders: 4, compressionRatio: 10.5, maxRpm_rpm: 7500 },
  inletValve: { count: 2 },
  exhaustValve: { count: 2 },
  runner: { segments: [straight(runner_m, 0.038)], mouth: { edgeRadius_m: 0.006 } },
  plenum: { volume_m3: 0.003 },
  throttle: { effectiveArea_m2: 0.0018 },
  pipe: { segments: [straight(0.35, 0.065)], mouth: { edgeRadius_m: 0.01 } },
});
const SPEEDS = Array.from({ length: 24 }, (_, i) => 2000 + 230 * i);
const LENGTHS = Array.from({ length: 12 }, (_, i) => 0.2 + 0.03 * i);
const WORKERS = 2;

const seconds = (work: () => void): number => {
  const before = process.cpuUsage();
  work();
  const { user, system } = process.cpuUsage(before);
  return (user + system) / 1e6;
};
const at = (runner_m: number, rpm: number): unknown => waveModel(four(runner_m)).run(rpm);

for (let i = 0; i < 6; i += 1) at(0.32, 2500 + 900 * i);
/** Of several tries the middle one; of the speeds the slowest to reckon. */
const TRIES = 5;
const middle = (rpm: number): number => Array.from({ length: TRIES }, () => seconds(() => at(0.32, rpm)) * 1000).sort((a, b) => a - b)[2]!;
const single = [2500, 4000, 5500, 7000].map(middle);
say('waves: one speed of a four-cylinder with runners, plenum, pipe and throttle', Math.max(...single), 'ms', 150);
const curve = seconds(() => SPEEDS.forEach((rpm) => [0.32, 0.38].forEach((l) => at(l, rpm)))) / WORKERS;
say('waves: a curve of 24 speeds for two inlets, on two workers', curve, 's', 4);
const coarse = seconds(() =>
  coarseFirst(SPEEDS.length)
    .slice(0, 6)
    .forEach((i) => [0.32, 0.38].forEach((l) => at(l, SPEEDS[i]!))),
);
say('waves: the first coarse curve of both, on two workers', coarse / WORKERS, 's', 1);
const map = seconds(() => LENGTHS.forEach((l) => SPEEDS.forEach((rpm) => at(l, rpm)))) / WORKERS;
say('waves: a map of 12 lengths by 24 speeds, on two workers', map, 's', 25);
