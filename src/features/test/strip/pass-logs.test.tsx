import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Quantity, StoredRun } from '@/core/documents/run';
import type { StoredPass } from '@/core/documents/strip';
import { failure } from '@/core/failure';
import type { LogLook } from '@/core/logs/compare-logs';
import { stripBook } from '../../../../test/facts';
import { loggedRun } from '../../../../test/logged-run';
import { renderJob } from '../../../../test/render-job';
import { PassLogs } from './pass-logs';

const values = jest.fn();
const api = { values };
let looks = new Map<string, LogLook>();
let wrong: string | null = null;
jest.mock('../log/use-log', () => ({ useLogWorker: () => api, useLooks: () => ({ looks, wrong }) }));

const look = (...gears: string[]): LogLook =>
  ({
    pulls: gears.map((_, i) => ({ from_s: 10 * i, to_s: 10 * i + 6, from_rpm: 2500, to_rpm: 6500, gear: null })),
    intervals: [],
  }) as unknown as LogLook;
const pulls = (...gears: string[]) => gears.map((gear, i) => ({ from: 10_000 * i, to: 10_000 * i + 6000, gear, name: `pull ${i + 1}` }));
const runs: StoredRun[] = [
  loggedRun('log-a', { pulls: pulls('third') as StoredRun['doc']['pulls'] }),
  loggedRun('log-b', { pulls: pulls('third', 'fourth') as StoredRun['doc']['pulls'] }),
];
const passes: StoredPass[] = stripBook(2, 0.02).passes.map((p, i) => ({ ...p, doc: { ...p.doc, runId: runs[i]!.id } }));
const at = (value: number, stale = false) => ({ time_s: 1, value, stale });
const said: Record<string, { quantity: Quantity; at: unknown }[]> = {
  'log-a': [
    { quantity: 'rpm', at: at(5000) },
    { quantity: 'manifold pressure', at: at(97_000) },
    { quantity: 'speed', at: at(30) },
    { quantity: 'coolant', at: at(360, true) },
  ],
  'log-b': [
    { quantity: 'rpm', at: at(5000) },
    { quantity: 'manifold pressure', at: at(98_200) },
    { quantity: 'speed', at: failure('rpm_not_reached') },
    { quantity: 'coolant', at: at(362) },
  ],
};

beforeEach(() => {
  localStorage.clear();
  wrong = null;
  looks = new Map([
    ['log-a', look('third')],
    ['log-b', look('third', 'fourth')],
  ]);
  values.mockReset().mockImplementation((run: StoredRun) => Promise.resolve(said[run.id]));
});
const row = (name: string) => within(screen.getByText(name).closest('tr')!);

it('shows nothing where no pass has a log', () => {
  renderJob(<PassLogs passes={stripBook(2, 0.02).passes} />, { runs });
  expect(screen.queryByText('Logs beside the slips')).not.toBeInTheDocument();
});

it('sets both sides side by side at one engine speed, with the difference in the reader’s unit', async () => {
  renderJob(<PassLogs passes={passes} />, { runs });
  expect(await screen.findByText('+1.2 kPa')).toBeInTheDocument();
  const pressure = row('manifold pressure');
  expect(pressure.getByText('97.0 kPa')).toBeInTheDocument();
  expect(pressure.getByText('98.2 kPa')).toBeInTheDocument();
  expect(screen.getByText(`stock, ${passes[0]!.doc.at!}`)).toBeInTheDocument();
  expect(screen.getByText(`new, ${passes[1]!.doc.at!}`)).toBeInTheDocument();
  // Engine speed is what they are held equal by.
  expect(screen.queryByText('engine speed')).not.toBeInTheDocument();
});

it('leaves out what was held or never reached, and compares nothing with it', async () => {
  renderJob(<PassLogs passes={passes} />, { runs });
  await screen.findByText('+1.2 kPa');
  expect(row('coolant').getAllByText('—')).toHaveLength(2);
  expect(row('road speed').getByText('108.0 km/h')).toBeInTheDocument();
  expect(row('road speed').getAllByText('—')).toHaveLength(2);
});

it('asks anew for another engine speed or gear, and compares a gear with no other', async () => {
  renderJob(<PassLogs passes={passes} />, { runs });
  await screen.findByText('+1.2 kPa');
  const box = screen.getByLabelText('At');
  await userEvent.clear(box);
  await userEvent.type(box, '4200{Enter}');
  await waitFor(() => expect(values).toHaveBeenLastCalledWith(expect.anything(), expect.objectContaining({ gear: 'third' }), 4200, []));
  await userEvent.click(screen.getByLabelText('Gear'));
  await userEvent.click(await screen.findByTitle('fourth'));
  await waitFor(() => expect(screen.getByText('stock', { selector: 'th' })).toBeInTheDocument());
  expect(row('manifold pressure').getByText('98.2 kPa')).toBeInTheDocument();
  expect(row('manifold pressure').getAllByText('—')).toHaveLength(2);
});

it('a server that is away is told beside the heading', () => {
  wrong = 'The log could not be read: the server or its database is away. It is asked again until it is back.';
  renderJob(<PassLogs passes={passes} />, { runs });
  expect(screen.getByRole('alert')).toHaveTextContent('the server or its database is away');
});
