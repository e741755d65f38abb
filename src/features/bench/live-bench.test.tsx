import { act, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { FlowBenchReading } from '@/core/stand-ins/flow-bench';
import { renderRoom } from '../../../test/render-room';
import { aUnit } from '../../../test/units';
import { LiveBench } from './live-bench';

/** A stream in the hands of the test. */
let push: (r: FlowBenchReading | 'end' | Error) => void;
let aborted: boolean;
jest.mock('./read-stream', () => ({
  deviceReadings: async function* (_settings: object, signal: AbortSignal) {
    const queue: (FlowBenchReading | 'end' | Error)[] = [];
    let wake: () => void = () => {};
    push = (r) => {
      queue.push(r);
      wake();
    };
    aborted = false;
    signal.addEventListener('abort', () => {
      aborted = true;
      wake();
    });
    for (;;) {
      const next = queue.shift();
      if (next === undefined) {
        if (signal.aborted) return;
        await new Promise<void>((done) => (wake = done));
      } else if (next === 'end') return;
      else if (next instanceof Error) throw next;
      else yield next;
    }
  },
}));

const reading = (t_s: number, flow_m3ps: number, settled = false): FlowBenchReading => ({ t_s, flow_m3ps, depression_Pa: 6974, settled });
const open = () => {
  const take = jest.fn();
  renderRoom(<LiveBench throttle={aUnit(66).doc.throttle} depression_Pa={6974} entryK={0.04} seed={3} onTake={take} disabled={false} />);
  return take;
};
const give = async (...list: Parameters<typeof push>[0][]): Promise<void> => {
  for (const r of list) await act(async () => push(r));
};
const start = (): Promise<void> => userEvent.click(screen.getByRole('button', { name: 'Start the bench' }));

it('says that it is a stand-in, and has nothing to take before it has settled', async () => {
  open();
  expect(screen.getByText(/^Practice flow bench \(simulated\):/)).toBeInTheDocument();
  expect(screen.getByText('not running')).toBeInTheDocument();
  expect(screen.getByRole('button', { name: 'Take the reading' })).toBeDisabled();
  await start();
  await give(reading(0, 0), reading(1, 0.15));
  expect(screen.getByText('540 m³/h')).toBeInTheDocument();
  expect(screen.getByText('settling, 1 s')).toBeInTheDocument();
  expect(screen.getByRole('button', { name: 'Take the reading' })).toBeDisabled();
});

it('draws its trace from nothing on without a number that is none', async () => {
  open();
  await start();
  await give(reading(0, 0), reading(0.1, 0), reading(0.2, 0.01));
  const points = screen.getByRole('img', { name: 'Flow over time' }).querySelector('polyline')!.getAttribute('points')!;
  expect(points).not.toMatch(/NaN|Infinity/);
  expect(points.split(' ')).toHaveLength(3);
});

it('takes the mean of the last second and a half, and stops the fan', async () => {
  const take = open();
  await start();
  await give(reading(4, 0.1), ...Array.from({ length: 15 }, (_, i) => reading(5 + i / 10, 0.3 + (i % 2 === 0 ? 0.003 : -0.003), true)));
  await userEvent.click(screen.getByRole('button', { name: 'Take the reading' }));
  const [flow, depression] = take.mock.calls[0] as [number, number];
  expect(flow).toBeCloseTo(0.3 + 0.003 / 15, 9);
  expect(depression).toBeCloseTo(6974, 9);
  expect(aborted).toBe(true);
  expect(screen.getByRole('button', { name: 'Start the bench' })).toBeInTheDocument();
});

it('is stopped by hand', async () => {
  open();
  await start();
  await give(reading(0, 0.1));
  await userEvent.click(screen.getByRole('button', { name: 'Stop the fan' }));
  expect(aborted).toBe(true);
  expect(screen.getByRole('button', { name: 'Start the bench' })).toBeInTheDocument();
});

it('a bench that breaks off says so, and can be started again', async () => {
  open();
  await start();
  await give(reading(0, 0.1), new Error('The bench does not answer.'));
  expect(await screen.findByRole('alert')).toHaveTextContent('The bench does not answer.');
  await start();
  await waitFor(() => expect(screen.queryByRole('alert')).toBeNull());
});

it('a run that ends by itself leaves its last reading', async () => {
  open();
  await start();
  await give(reading(30, 0.3, true), 'end');
  expect(await screen.findByRole('button', { name: 'Start the bench' })).toBeInTheDocument();
  expect(screen.getByText('settled')).toBeInTheDocument();
});
