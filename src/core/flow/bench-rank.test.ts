import fc from 'fast-check';
import { must } from '../failure';
import { rankBench, type BenchEntry } from './bench-rank';
import { BENCH_PRESSURE_Pa, BENCH_TEMPERATURE_K, R_DRY } from './constants';
import { clearanceFromClosedFlow, LEAK_CLEARANCE_m } from './leak';
import { nozzlePsi } from './nozzle';

const INCH = 249.08891;
const entry = (name: string, flow_m3ps: number, more: Partial<BenchEntry> = {}): BenchEntry => {
  const bore_m = more.bore_m ?? 0.066;
  const area = (Math.PI / 4) * bore_m ** 2;
  return {
    id: name,
    name,
    bench: 'ours',
    flow_m3ps,
    depression_Pa: 28 * INCH,
    entryK: 0.04,
    bore_m,
    netArea_m2: 0.9 * area,
    grossArea_m2: area,
    ...more,
  };
};

it('ranks by the figure at one depression, not by the figure as read', () => {
  const [group] = rankBench([entry('a', 0.3, { depression_Pa: 28 * INCH }), entry('b', 0.29, { depression_Pa: 20 * INCH })], 28 * INCH);
  expect(group!.entries.map((e) => e.name)).toEqual(['b', 'a']);
  expect(group!.entries[1]!.moved_m3ps).toBeCloseTo(0.3, 12);
});

it('never puts two benches or two entries in one order', () => {
  const groups = rankBench(
    [entry('a', 0.3), entry('b', 0.29, { bench: 'theirs' }), entry('c', 0.28, { entryK: 0.5 }), entry('d', 0.27, { bench: ' OURS ' })],
    28 * INCH,
  );
  expect(groups.map((g) => g.entries.map((e) => e.name))).toEqual([['a', 'd'], ['b'], ['c']]);
});

it('a figure above the ideal nozzle cannot be, one near it is doubtful', () => {
  const area = (Math.PI / 4) * 0.066 ** 2;
  const ideal = area * nozzlePsi(1 - (28 * INCH) / BENCH_PRESSURE_Pa) * Math.sqrt(R_DRY * BENCH_TEMPERATURE_K);
  const rated = (share: number) => rankBench([entry('x', share * ideal)], 28 * INCH)[0]!.entries[0]!;
  expect(rated(1.02)).toMatchObject({ rating: 'cannot be' });
  expect(rated(0.98).rating).toBe('doubtful');
  expect(rated(0.9)).toMatchObject({ rating: 'ok', aboveBore: false });
  expect(rated(0.9).ratio).toBeCloseTo(0.9, 9);
  expect(rated(0.9).trueBore_m).toBeCloseTo(0.066 * Math.sqrt(0.9), 9);
  expect(rated(0.9).K!).toBeGreaterThan(0);
});

it('records at no depression are left out', () => {
  expect(rankBench([entry('a', 0.3, { depression_Pa: 0 })], 28 * INCH)).toEqual([]);
});

describe('the gap round a shut blade', () => {
  it('is found again from what leaks through it', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1e-5, max: 3e-4, noNaN: true }),
        fc.double({ min: 0.1, max: 1.5, noNaN: true }),
        fc.double({ min: 500, max: 30_000, noNaN: true }),
        (gap, edge, depression) => {
          const flow = 0.7 * edge * gap * nozzlePsi(1 - depression / BENCH_PRESSURE_Pa) * Math.sqrt(R_DRY * BENCH_TEMPERATURE_K);
          expect(must(clearanceFromClosedFlow(flow, depression, edge) as number) / gap).toBeCloseTo(1, 9);
        },
      ),
    );
  });

  it.each([
    [-1, 5000, 0.2],
    [0.001, 0, 0.2],
    [0.001, 5000, 0],
    [0.001, 200_000, 0.2],
  ])('refuses %d m³/s at %d Pa round %d m', (flow, depression, edge) => {
    expect(clearanceFromClosedFlow(flow, depression, edge)).toMatchObject({ error: 'bad_input', reason: 'closed_flow' });
  });

  it('classes go from tight to loose', () => {
    expect(LEAK_CLEARANCE_m.sealed).toBeLessThan(LEAK_CLEARANCE_m.production);
    expect(LEAK_CLEARANCE_m.production).toBeLessThan(LEAK_CLEARANCE_m.turned);
  });
});
