import { must } from '../failure';
import { benchFlow } from '../flow/bench';
import { throttleWideOpen, type Throttle } from '../flow/throttle';
import { FLOW_BENCH_LONGEST_s, FLOW_BENCH_RATE_Hz, flowBenchReadings } from './flow-bench';

const throttle: Throttle = { shape: 'single', bore_m: 0.066, shaft_m: 0.008, edge: 'flattened' };
const read = (seed: number, more: object = {}) =>
  must(flowBenchReadings({ throttle, depression_Pa: 6974.49, entryK: 0.04, seed, ...more }));

it('runs up, settles, and then stands near what the shape would flow', () => {
  const wide = must(throttleWideOpen(throttle));
  const truth = must(benchFlow(wide.K, 0.04, wide.netArea_m2, wide.grossArea_m2, 6974.49)).flow_m3ps;
  const readings = read(4);
  expect(readings).toHaveLength(FLOW_BENCH_RATE_Hz * FLOW_BENCH_LONGEST_s + 1);
  expect(readings[0]).toMatchObject({ t_s: 0, settled: false });
  expect(readings[0]!.flow_m3ps).toBeLessThan(0.1 * truth);
  const settled = readings.find((r) => r.settled)!;
  expect(settled.t_s).toBeGreaterThan(4);
  expect(settled.flow_m3ps / truth).toBeGreaterThan(0.93);
  expect(settled.flow_m3ps / truth).toBeLessThan(1.07);
});

it('a seed is one piece on one bench: the same again is the same, another piece is another', () => {
  expect(read(4)).toEqual(read(4));
  const last = (seed: number): number => read(seed).at(-1)!.flow_m3ps;
  expect(last(4)).not.toBe(last(5));
});

it('over many pieces it strays no more than pieces and benches do', () => {
  const ends = Array.from({ length: 60 }, (_, i) => read(100 + i).at(-1)!.flow_m3ps);
  const mean = ends.reduce((a, b) => a + b, 0) / ends.length;
  const sd = Math.sqrt(ends.reduce((a, b) => a + (b - mean) ** 2, 0) / ends.length) / mean;
  expect(sd).toBeGreaterThan(0.005);
  expect(sd).toBeLessThan(0.025);
});

it('a larger depression moves more air', () => {
  expect(read(4, { depression_Pa: 10_000 }).at(-1)!.flow_m3ps).toBeGreaterThan(read(4, { depression_Pa: 4000 }).at(-1)!.flow_m3ps);
});

it('refuses a throttle that cannot be', () => {
  expect(flowBenchReadings({ throttle: { ...throttle, shaft_m: 0.07 }, depression_Pa: 6974, entryK: 0.04, seed: 1 })).toMatchObject({
    error: 'bad_geometry',
  });
});
