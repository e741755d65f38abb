import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { StoredRun } from '@/core/documents/run';
import { roadRuns, widestRise, type RoadWindow } from '@/core/strip/road';
import type { Trace } from '@/core/logs/trace';
import { loggedRun } from '../../../../test/logged-run';
import { larkspur, renderJob } from '../../../../test/render-job';
import { RoadView } from './road';

jest.mock('@/ui/chart/lazy-chart', () => jest.requireActual<object>('../../../../test/chart-stub'));
const road = jest.fn();
const api = { road };
jest.mock('../log/use-log', () => ({ useLogWorker: () => api }));

/** A pull from 10 m/s at so much acceleration for fifteen seconds, on ground that is not logged. */
function pull(accel_mps2: number): Trace {
  const time_s = Float64Array.from({ length: 301 }, (_, i) => i / 20);
  return { time_s, value: time_s.map((t) => 10 + accel_mps2 * t) };
}
const channels = [{ column: 0, quantity: 'speed' as const, unit: 'm/s', on: true }];
const log = (name: string, side: StoredRun['doc']['side']): StoredRun => {
  const made = loggedRun(name, { side });
  return { ...made, doc: { ...made.doc, channels: channels as unknown as StoredRun['doc']['channels'] } };
};
const stock = log('stock log', { kind: 'stock' });
const other = log('new log', { kind: 'unit', unitId: 'unit-1' });
const speeds: Record<string, Trace> = { 'stock log': pull(1.6), 'new log': pull(1.7) };

function show(runs: StoredRun[], more: Partial<RoadWindow> = {}, pack: 'metric' | 'us' = 'metric') {
  const doc = { ...larkspur, test: { ...larkspur.test, road: { ...larkspur.test.road, ...more } } };
  return renderJob(<RoadView name="Fenwick 66" unitId="unit-1" />, { doc, runs, pack });
}
const heading = () => screen.getByRole('heading', { level: 1 });

beforeEach(() => {
  localStorage.clear();
  road
    .mockReset()
    .mockImplementation((run: StoredRun, w: RoadWindow) =>
      Promise.resolve({ runs: roadRuns(speeds[run.doc.name]!, null, w), widest: widestRise(speeds[run.doc.name]!) }),
    );
});

it('without a log says where one comes from, and the caution stands whatever there is', () => {
  show([]);
  expect(heading()).toHaveTextContent('No log with a road speed yet: drop one on the Datalog view.');
  expect(screen.getByText(/Full throttle on a public road/)).toBeInTheDocument();
  expect(road).not.toHaveBeenCalled();
});

it('one run before and one after are not credited with what the road alone could have done', async () => {
  show([stock, other]);
  await screen.findByTestId('chart-road');
  expect(heading()).toHaveTextContent(/^Can’t tell yet: −0\.4\d s with Fenwick 66 over 80 to 120 km\/h, −\d\.\d\d to \+\d\.\d\d s\.$/);
  expect(
    screen.getByText(/^1 stock and 1 new run, 6\.94 s before and 6\.54 s after, the ground not known\..* alone could make ±\d\.\d\d s/),
  ).toBeInTheDocument();
  expect(screen.getAllByText('not known')).toHaveLength(2);
});

it('draws every run from the clock’s start to the end of the window, by its side', async () => {
  show([stock, other]);
  const chart = await screen.findByTestId('chart-road');
  const lines = [...chart.querySelectorAll('[data-line]')].map((l) => [l.getAttribute('data-line'), Number(l.getAttribute('data-last'))]);
  expect(lines.map(([name]) => name)).toEqual(['stock log', 'new log']);
  for (const [, last] of lines) expect(last).toBeCloseTo(120, 6);
});

it('an entered grade is taken out, and the working says by how much', async () => {
  show([stock, other], { grade: 0.01 });
  const button = await screen.findByRole('button', { name: /, stock log on the flat: show the working$/ });
  expect(button).toHaveTextContent(/^[56]\.\d\d s$/);
  expect(screen.getAllByText(/ m entered$/)).toHaveLength(2);
  await userEvent.click(button);
  expect(await screen.findByRole('dialog')).toHaveTextContent('An entered grade is believed to a fifth of a per cent.');
});

it('a window that no log goes through is told with what they do go through, and that is one click away', async () => {
  show([stock, other], { from_mps: 100 / 3.6, to_mps: 200 / 3.6 });
  expect(await screen.findByText('stock log: its widest pull goes from 36 to 122 km/h.')).toBeInTheDocument();
  expect(heading()).toHaveTextContent('No log goes through 100 to 200 km/h in one pull.');
  expect(screen.getByText('Choose a window that the logs go through.')).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: /^Take 40 to 12\d km\/h, which every log goes through$/ }));
  expect(await screen.findByTestId('chart-road')).toBeInTheDocument();
  expect(heading()).toHaveTextContent(/^Can’t tell yet: −.* over 40 to 12\d km\/h/);
});

it('reads in miles an hour for who measures in them', async () => {
  show([stock], { from_mps: 100 / 3.6, to_mps: 200 / 3.6 }, 'us');
  expect(await screen.findByText('stock log: its widest pull goes from 22 to 76 mph.')).toBeInTheDocument();
  expect(screen.getByRole('button', { name: 'Take 25 to 75 mph, which every log goes through' })).toBeInTheDocument();
});

it('runs of one side only, or of a unit that is not the one compared, decide nothing', async () => {
  show([stock, log('new log', { kind: 'unit', unitId: 'unit-9' })]);
  await screen.findByTestId('chart-road');
  expect(heading()).toHaveTextContent('80 to 120 km/h: runs of one side only.');
  expect(screen.getByText('Say which side each log is on the Datalog view.')).toBeInTheDocument();
});

it('a server that is away is told', async () => {
  road.mockRejectedValue(new Error('away'));
  show([stock, other]);
  expect(await screen.findByText('The logs cannot be read just now.')).toBeInTheDocument();
});
