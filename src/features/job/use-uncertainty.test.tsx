import { act, screen } from '@testing-library/react';
import { useMemo } from 'react';
import { failure, must, type Failure } from '@/core/failure';
import { jobModel, type JobModel } from '@/core/job/model';
import type { GainRange } from '@/core/sizing/uncertainty';
import { larkspur, renderJob, units } from '../../../test/render-job';
import { useJobStore } from './provider';
import { useUncertainty, type UncertaintyState } from './use-uncertainty';

/** A worker in the hands of the test: what it was asked, and how it goes on. */
interface Asked {
  readonly candidates: readonly string[];
  readonly seed: number;
  readonly tell: (share: number, ranges: Record<string, GainRange>) => void;
  readonly finish: (ranges: Record<string, GainRange> | null) => void;
  readonly fail: () => void;
}
const asked: Asked[] = [];
const stops = jest.fn();
jest.mock('comlink', () => ({
  proxy: (f: unknown) => f,
  wrap: () => ({
    uncertainty: (request: { candidates: { id: string }[]; seed: number }, tell: Asked['tell']) =>
      new Promise((finish, reject) =>
        asked.push({
          candidates: request.candidates.map((c) => c.id),
          seed: request.seed,
          tell,
          finish,
          fail: () => reject(new Error('gone')),
        }),
      ),
    stop: () => {
      stops();
      return Promise.resolve();
    },
  }),
}));
globalThis.Worker = class {
  terminate(): void {}
} as unknown as typeof Worker;

const range = (p50: number): GainRange => ({
  peak_pct: { p10: p50 - 0.2, p50, p90: p50 + 0.2 },
  thirds_pct: { p10: [0, 0, 0], p90: [1, 1, 1] },
  solved: 2000,
});
const model = must(
  jobModel(
    larkspur,
    units.map((unit) => ({ unit, opening: 'matched' as const })),
  ),
);

let state: UncertaintyState;
let setTolerance: (fmep: number) => void;
function Probe({ of }: { of: JobModel | Failure }) {
  state = useUncertainty(of);
  const store = useJobStore();
  setTolerance = useMemo(
    () => (fmep: number) => store.getState().set('sizing.tolerances', { ve: 0.04, K: 0.25, eta0: 0.02, bench: 0.03, fmep }),
    [store],
  );
  return <output>{state.progress === null ? 'idle' : `at ${state.progress}`}</output>;
}
const settle = (): Promise<void> => act(async () => void (await jest.advanceTimersByTimeAsync(600)));

beforeEach(() => {
  jest.useFakeTimers();
  localStorage.clear();
  asked.length = 0;
  stops.mockReset();
});
afterEach(() => jest.useRealTimers());

it('waits for the typing to settle, then draws all units on show, with the same draws for everybody', async () => {
  renderJob(<Probe of={model} />);
  expect(asked).toHaveLength(0);
  await settle();
  expect(asked).toHaveLength(1);
  expect(asked[0]!.candidates).toEqual(model.candidates.map((c) => c.id));
  expect(asked[0]!.seed).toBe(20_260);
  expect(screen.getByText('at 0')).toBeInTheDocument();
});

it('tells how far it is with what it has so far, and ends with all', async () => {
  renderJob(<Probe of={model} />);
  await settle();
  act(() => asked[0]!.tell(0.4, { 'unit-1': range(1.8) }));
  expect(state).toMatchObject({ progress: 0.4, ranges: { 'unit-1': { peak_pct: { p50: 1.8 } } } });
  await act(async () => asked[0]!.finish({ 'unit-1': range(1.9) }));
  expect(state).toMatchObject({ progress: null, ranges: { 'unit-1': { peak_pct: { p50: 1.9 } } } });
});

it('a change stops the run and takes its ranges off: they belong to other figures', async () => {
  renderJob(<Probe of={model} />);
  await settle();
  act(() => asked[0]!.tell(0.4, { 'unit-1': range(1.8) }));
  act(() => setTolerance(0.3));
  expect(stops).toHaveBeenCalled();
  expect(state.ranges).toEqual({});
  // The first run's late words change nothing any more.
  act(() => asked[0]!.tell(0.9, { 'unit-1': range(9) }));
  expect(state.ranges).toEqual({});
  await settle();
  expect(asked).toHaveLength(2);
});

it('is stopped by hand and started again by hand', async () => {
  renderJob(<Probe of={model} />);
  await settle();
  act(() => state.stop());
  expect(stops).toHaveBeenCalled();
  expect(state.progress).toBeNull();
  act(() => state.start());
  await settle();
  expect(asked).toHaveLength(2);
});

it('a worker that is gone leaves nothing half done', async () => {
  renderJob(<Probe of={model} />);
  await settle();
  await act(async () => asked[0]!.fail());
  expect(state.progress).toBeNull();
});

it('has nothing to draw where the engine cannot be solved or nothing is on show', async () => {
  renderJob(<Probe of={failure('choked')} />);
  await settle();
  renderJob(<Probe of={{ ...model, candidates: [] }} />);
  await settle();
  expect(asked).toEqual([]);
});

it('a worker that falls silent is ended and another one asked; what the first says late counts no more', async () => {
  renderJob(<Probe of={model} />);
  await settle();
  act(() => asked[0]!.tell(0.2, { 'unit-1': range(1.8) }));
  await act(async () => void (await jest.advanceTimersByTimeAsync(2900)));
  expect(asked).toHaveLength(1);
  await act(async () => void (await jest.advanceTimersByTimeAsync(200)));
  expect(asked).toHaveLength(2);
  act(() => asked[0]!.tell(0.9, { 'unit-1': range(9) }));
  expect(state.progress).toBe(0);
  await act(async () => asked[1]!.finish({ 'unit-1': range(1.9) }));
  expect(state).toMatchObject({ progress: null, ranges: { 'unit-1': { peak_pct: { p50: 1.9 } } } });
  await act(async () => void (await jest.advanceTimersByTimeAsync(20_000)));
  expect(asked).toHaveLength(2);
});

it('stopped by hand, a silent worker is not asked again; nor is one asked without end', async () => {
  renderJob(<Probe of={model} />);
  await settle();
  await act(async () => void (await jest.advanceTimersByTimeAsync(40_000)));
  expect(asked).toHaveLength(6);
  act(() => state.stop());
  await act(async () => void (await jest.advanceTimersByTimeAsync(40_000)));
  expect(asked).toHaveLength(6);
});
