import type { StoredRun } from '@/core/documents/run';

jest.mock('comlink', () => ({ expose: () => {} }));
import { api } from './manifold-drop.worker';

/** A wide-open run whose manifold lies `drop` below its key-on reading. */
const run = (id: string, keyOn_Pa: number | null): StoredRun =>
  ({
    id,
    doc: {
      kind: 'dyno',
      channels: [
        { column: 0, quantity: 'rpm', unit: 'rpm' },
        { column: 1, quantity: 'power', unit: 'W' },
        { column: 2, quantity: 'manifold pressure', unit: 'Pa' },
        { column: 3, quantity: 'throttle', unit: 'pct' },
      ],
      carried: null,
      weather: null,
      keyOn_Pa,
      gear: '',
    },
  }) as unknown as StoredRun;

const N = 200;
const columns = (drop_Pa: number, last_rpm: number, throttle_pct = 100): Record<number, Float64Array> => {
  const rpm = Float64Array.from({ length: N }, (_, i) => 2000 + ((last_rpm - 2000) * i) / (N - 1));
  return { 0: rpm, 1: rpm.map((n) => 20 * n), 2: rpm.map(() => 100_000 - drop_Pa), 3: rpm.map(() => throttle_pct) };
};

it('tells what stock’s manifold showed below its key-on reading where every run has it, and counts runs without one', async () => {
  const files: Record<string, Record<number, Float64Array>> = {
    a: columns(1800, 6000),
    b: columns(2200, 5000),
    c: columns(9999, 6000),
    d: columns(30_000, 6000, 40),
  };
  globalThis.fetch = ((url: string) => {
    const [, id, columns] = /runs\/(\w)\/channels\/([\d,]+)$/.exec(url)!;
    const read = columns!.split(',').flatMap((c) => [...files[id!]![Number(c)]!]);
    return Promise.resolve({ ok: true, arrayBuffer: () => Promise.resolve(Float64Array.from(read).buffer) });
  }) as unknown as typeof fetch;
  const drop = await api.manifoldDrop([run('a', 100_000), run('b', 100_000), run('c', null), run('d', 100_000)], 100);
  expect([drop.runs, drop.withoutKeyOn, drop.noPull]).toEqual([2, 1, 1]);
  // The shorter run ends at 5,000 rpm: beyond it the mean would step.
  expect(drop.rpm.at(-1)!).toBeLessThanOrEqual(5000);
  expect(drop.rpm.length).toBeGreaterThan(100);
  for (const d of drop.drop_Pa) expect(d).toBeCloseTo(2000, 6);
});
