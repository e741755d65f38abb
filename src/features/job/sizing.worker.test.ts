import { MessageChannel } from 'node:worker_threads';
import { engineOf, intake } from '../../../test/engines';
import type { SizingApi, UncertaintyReply, UncertaintyRequest } from './sizing.worker';

let api: SizingApi;
jest.mock('comlink', () => ({ expose: (exposed: SizingApi) => (api = exposed) }));
const channels: MessageChannel[] = [];
class Channel extends MessageChannel {
  constructor() {
    super();
    channels.push(this);
  }
}
Object.assign(globalThis, { MessageChannel: Channel });
afterAll(() => channels.forEach((c) => c.port1.close()));

beforeAll(async () => {
  await import('./sizing.worker');
});

const request = (more: Partial<UncertaintyRequest> = {}): UncertaintyRequest => ({
  problem: engineOf('na'),
  before: null,
  reference: intake(0.058),
  candidates: [
    { id: 'a', path: intake(0.062) },
    { id: 'b', path: intake(0.07) },
  ],
  tolerances: null,
  seed: 3,
  apart: [false, false],
  modelError: 0,
  ...more,
});
const quiet = (): void => {};

it('draws to the end, each throttle’s range under its own name', async () => {
  const ranges = (await api.uncertainty(request(), quiet, 100))!;
  expect(Object.keys(ranges)).toEqual(['a', 'b']);
  expect(ranges['a']!.solved).toBe(100);
  expect(ranges['b']!.peak_pct.p50).toBeGreaterThan(ranges['a']!.peak_pct.p50);
});

it('tells how far it is, never going back, and not that it is done', async () => {
  const shares: number[] = [];
  await api.uncertainty(request(), (share) => shares.push(share), 200);
  expect(shares.length).toBeGreaterThan(2);
  expect(shares).toEqual([...shares].sort((a, b) => a - b));
  expect(shares.at(-1)!).toBeLessThan(1);
});

it('what it tells on the way is already in order: the ranges so far', async () => {
  const seen: UncertaintyReply[] = [];
  await api.uncertainty(request(), (_share, soFar) => seen.push(soFar), 120);
  for (const r of seen) expect(r['a']!.peak_pct.p10).toBeLessThanOrEqual(r['a']!.peak_pct.p90);
});

it('is stopped in the middle, and says so by answering nothing', async () => {
  let told = 0;
  const running = api.uncertainty(
    request(),
    () => {
      told += 1;
      if (told === 1) api.stop();
    },
    100_000,
  );
  expect(await running).toBeNull();
  expect(told).toBe(1);
});

it('a newer run ends the one before it', async () => {
  const old = api.uncertainty(request(), quiet, 100_000);
  const young = api.uncertainty(request({ seed: 4 }), quiet, 60);
  expect(await old).toBeNull();
  expect((await young)!['a']!.solved).toBe(60);
});

it('a path that cannot be built has no ranges', async () => {
  const broken = { parts: [{ type: 'throttle' as const, throttle: { shape: 'single' as const, bore_m: 0.006, shaft_m: 0.008 } }] };
  expect(await api.uncertainty(request({ reference: broken }), quiet, 40)).toBeNull();
});

it('a job’s own tolerances are the ones drawn', async () => {
  const still = { ve: 0, K: 0, eta0: 0, bench: 0, fmep: 0 };
  const { a } = (await api.uncertainty(request({ tolerances: still }), quiet, 40))!;
  expect(a!.peak_pct.p90 - a!.peak_pct.p10).toBeCloseTo(0, 9);
});
