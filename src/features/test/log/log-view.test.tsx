import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { RunDoc } from '@/core/documents/run';
import { lookAtLog, type LogLook } from '@/core/logs/compare-logs';
import { pyramidOf } from '@/core/logs/pyramid';
import { traceOf, type Trace } from '@/core/logs/trace';
import { loggerRows } from '@/core/stand-ins/logger';
import { loggedRun, loggerCar } from '../../../../test/logged-run';
import { renderJob } from '../../../../test/render-job';
import { importsInto, renderServed } from '../../../../test/render-served';
import type { DrawnTrace } from './log.worker';
import { LogView } from './log-view';

jest.mock('@/ui/chart/lazy-chart', () => jest.requireActual<object>('../../../../test/chart-stub'));
let looks: ReadonlyMap<string, LogLook> = new Map();
let traces: ReadonlyMap<number, DrawnTrace> = new Map();
const values = jest.fn();
jest.mock('./use-log', () => ({
  useLogWorker: () => mockApi,
  useLooks: () => ({ looks, wrong: null }),
  useDrawn: () => ({ traces, wrong: null }),
}));
const mockApi = { values, aligned: () => Promise.resolve({ x: [1000, 2000], y: [95_000, 96_000] }) };

const heading = () => screen.getByRole('heading', { level: 1 });
const taken: File[] = [];
const imports = importsInto(taken);

beforeEach(() => {
  localStorage.clear();
  values.mockReset().mockResolvedValue([]);
});

describe('Datalog', () => {
  const car = loggerCar({ idle_rpm: 750, metresPerTurn: 0.42 });
  const QUANTITIES = [
    'time',
    'rpm',
    'throttle',
    'pedal',
    'manifold pressure',
    'air mass flow',
    'cylinder air',
    'speed',
    'lambda',
    'inlet air',
    'coolant',
  ] as const;
  const UNIT: Partial<Record<string, string>> = {
    time: 's',
    rpm: 'rpm',
    throttle: 'pct',
    pedal: 'pct',
    'manifold pressure': 'Pa',
    'air mass flow': 'kgs',
    'inlet air': 'K',
    coolant: 'K',
    speed: 'mps',
  };
  const channels: RunDoc['channels'] = QUANTITIES.map((quantity, column) => ({ column, quantity, unit: UNIT[quantity] ?? 'one' }));
  const rows = (filling_s: number) => [...loggerRows({ car, seed: 4, filling_s })];
  const SCALE: Partial<Record<(typeof QUANTITIES)[number], number>> = {
    'manifold pressure': 1000,
    'air mass flow': 1e-3,
    'cylinder air': 1e-6,
    speed: 1 / 3.6,
  };
  const trace = (data: ReturnType<typeof rows>, k: number): Trace =>
    traceOf(
      data.map((r) => r[0]!),
      data.map((r) => (r[k] === null ? NaN : r[k]! * (SCALE[QUANTITIES[k]!] ?? 1))),
    );
  const look = (filling_s: number): LogLook => {
    const data = rows(filling_s);
    const all = Object.fromEntries(QUANTITIES.slice(1).map((q, i) => [q, trace(data, i + 1)]));
    return lookAtLog(all, { cylinders: 6, idle_rpm: 750, gearbox: { ratios: [], final: null, tyre_m: null } });
  };
  const drawn = (k: number): DrawnTrace => {
    const t = trace(rows(0.1), k);
    return { ...t, pyramid: pyramidOf(t.value) };
  };

  it('without logs says what makes one', () => {
    renderJob(<LogView imports={imports} />);
    expect(heading()).toHaveTextContent('No logs yet: drop a datalog anywhere on this page.');
  });

  it('of one log tells the pull, the idle and the answer to the throttle', async () => {
    looks = new Map([['one', look(0.1)]]);
    traces = new Map([1, 2, 4].map((k) => [k, drawn(k)]));
    values.mockResolvedValue([
      { quantity: 'manifold pressure', at: { time_s: 1, value: 97_000, stale: false } },
      { quantity: 'inlet air', at: { time_s: 1, value: 300, stale: true } },
      { quantity: 'coolant', at: { error: 'outside_channel' } },
    ]);
    await renderServed(<LogView imports={imports} />, {}, { runs: [loggedRun('one', { channels })] });
    expect(heading()).toHaveTextContent(/^one: one pull, the widest from 2,\d\d0 to \d,\d\d0 rpm\.$/);
    expect(screen.getByText(/^Idles at 75\d ± \d+ rpm; air follows a stab of the throttle in 0\.\d\d s;/)).toBeInTheDocument();
    expect(screen.getByTestId('traces')).toHaveAccessibleName(/^engine speed, throttle, manifold pressure over time/);
    expect(await screen.findByText('held, not measured there')).toBeInTheDocument();
    expect(screen.getByText('no sample there')).toBeInTheDocument();
    expect(screen.getByText('97.0 kPa')).toBeInTheDocument();
    expect(screen.getByText('Can it be believed?')).toBeInTheDocument();
    expect(screen.getByText(/Air per cylinder comes to .* of the meter, steadily/)).toBeInTheDocument();
    expect(screen.getByTestId('chart-pedal')).toBeInTheDocument();
    expect(screen.getByText(/Say of each log which side it is/)).toBeInTheDocument();
  });

  it('of two sides says whether it got snappier, in seconds', async () => {
    looks = new Map([
      ['before', look(0.14)],
      ['after', look(0.05)],
    ]);
    traces = new Map();
    const runs = [
      loggedRun('before', { channels, side: { kind: 'stock' } }),
      loggedRun('after', { channels, side: { kind: 'unit', unitId: 'unit-1' } }),
    ];
    await renderServed(<LogView imports={imports} />, {}, { runs });
    expect(heading()).toHaveTextContent(/^Snappier: air follows the throttle in 0\.\d\d s, 0\.\d\d s on stock\.$/);
    expect(screen.getByRole('row', { name: /^throttle to air/ })).toHaveTextContent(/−0\.0\d\d s/);
    expect(await screen.findByTestId('chart-logs')).toBeInTheDocument();
  });

  it('a pull’s ends are set by hand and kept in the record', async () => {
    looks = new Map([['one', look(0.1)]]);
    const one = loggedRun('one', { channels });
    const asked = await renderServed(
      <LogView imports={imports} />,
      {
        'PUT /api/runs/one': {
          run: { ...one, version: 2, doc: { ...one.doc, pulls: [{ from: 30_000, to: 41_000, gear: '', name: 'pull 1' }] } },
          findings: { stops: [] },
        },
      },
      { runs: [one] },
    );
    const end = screen.getByLabelText('pull 1 to');
    await userEvent.clear(end);
    // A log has no more to a pull than it lasts.
    await userEvent.type(end, '4100{Enter}');
    expect(await screen.findByText(/^It may be at most \d\d\.\d\d s\.$/)).toBeInTheDocument();
    expect(asked.some((a) => a.method === 'PUT')).toBe(false);
    await userEvent.clear(end);
    await userEvent.type(end, '41{Enter}');
    expect(await screen.findByText('set by hand')).toBeInTheDocument();
    const saved = asked.find((a) => a.method === 'PUT')!.body as { doc: RunDoc };
    expect(saved.doc.pulls[0]).toMatchObject({ to: 41_000 });
    await userEvent.click(screen.getByText('As found'));
    expect((asked.filter((a) => a.method === 'PUT').at(-1)!.body as { doc: RunDoc }).doc.pulls).toEqual([]);
  });
});
