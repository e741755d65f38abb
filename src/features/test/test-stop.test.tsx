import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { compareSides, type SideComparison } from '@/core/compare/sides';
import { runDoc, type RunDoc, type StoredRun } from '@/core/documents/run';
import { must } from '@/core/failure';
import { renderJob } from '../../../test/render-job';
import type { CompareReply, PreparedRun } from './dyno/compare.worker';
import { ImportRefused, type Progress } from './files/import-file';
import type { ImportDone } from '@/core/verdict/imported';
import type { ComparisonState } from './dyno/use-comparison';
import { TestStop } from './test-stop';

jest.mock('@/ui/chart/lazy-chart', () => jest.requireActual<object>('../../../test/chart-stub'));
let state: ComparisonState;
jest.mock('./log/use-log', () => ({
  useLogWorker: () => null,
  useLooks: () => ({ looks: new Map(), wrong: null }),
  useDrawn: () => ({ traces: new Map(), wrong: null }),
}));
jest.mock('./dyno/use-comparison', () => ({ useComparison: () => state }));
let mockPreview: PreparedRun | null = null;
jest.mock('./dyno/use-preview', () => ({ usePreview: () => mockPreview }));
const importFile = jest.fn<Promise<ImportDone>, [string, File, unknown, AbortSignal, (p: Progress) => void]>();
jest.mock('./files/import-file', () => ({
  ...jest.requireActual<object>('./files/import-file'),
  importFile: (...args: Parameters<typeof importFile>) => importFile(...args),
}));

const doc = (name: string, unitId: string | null): RunDoc =>
  runDoc.parse({
    schema: 1,
    name,
    side: unitId ? { kind: 'unit', unitId } : { kind: 'stock' },
    channels: [
      { column: 0, quantity: 'rpm', unit: 'rpm' },
      { column: 1, quantity: 'power', unit: 'kW' },
    ],
    measuredAt: 'wheels',
    carried: 'none',
    carriedSmoothing_rpm: 0,
    weather: { p_Pa: 100_000, T_K: 293, rh: 0.4 },
    takenOn: '2026-04-18',
    gear: '4th',
    fuel: '',
    tune: '',
    otherChanges: '',
    coolantStart_K: null,
    leftOut: null,
  });
const run = (id: string, name: string, unitId: string | null): StoredRun => ({
  id,
  jobId: 'job-1',
  logId: `log-${id}`,
  firstRow: 0,
  lastRow: 199,
  version: 1,
  fileName: `${name}.csv`,
  fileHash: id,
  columns: [
    { name: 'rpm', unit: 'rpm', count: 200 },
    { name: 'power', unit: 'kW', count: 200 },
  ],
  doc: doc(name, unitId),
});
const stock = run('r1', 'stock 58', null);
const fenwick = run('r2', 'Fenwick 66', 'unit-1');

const rpm = Array.from({ length: 200 }, (_, i) => 2000 + 24 * i);
const side = (k: number, top = 0) => ({ rpm, power_W: rpm.map((n) => 20 * n * k * (n > 5000 ? 1 + top : 1)) });
const options = { fwhm_rpm: 0, assumedSd_pct: 0.8 };
const compared = (top: number): SideComparison => must(compareSides([side(1)], [side(1, top)], options));
const repeated = (top: number): SideComparison => {
  const thrice = (t: number) => [0, 0.002, -0.001].map((d) => side(1 + d, t));
  return must(compareSides(thrice(0), thrice(top), options));
};
const ready = (id: string): PreparedRun => ({
  id,
  failure: null,
  rpm,
  power_W: rpm.map((n) => 20 * n),
  correction: 'SAE J1349',
  factor: 1,
  swept: 200,
  samples: 250,
  block: 1,
  inletAirStart_K: 295,
  inletAirPeak_K: 300,
});
const reply = (
  comparison: CompareReply['comparison'],
  prepared = [ready('r1'), ready('r2')],
  unfair: CompareReply['confounders'] = [],
): ComparisonState => ({
  reply: {
    prepared,
    comparison,
    extras: [],
    held: [],
    compared: ['r1', 'r2'],
    order: 'times in the files',
    confounders: [{ code: 'one_stay_a_side', worth_pct: 1 }, { code: 'inlet_air', apart_K: 4.6, limit_K: 3, worth_pct: -0.8 }, ...unfair],
  },
  failed: null,
  unitId: 'unit-1',
});
const heading = () => screen.getByRole('heading', { level: 1 });
const drop = (name: string) => userEvent.upload(screen.getByTestId('files'), new File(['rpm,power\n1,2\n'], name, { type: 'text/csv' }));

beforeEach(() => {
  localStorage.clear();
  importFile.mockReset();
  state = { reply: null, failed: null, unitId: null };
});

describe('Test', () => {
  it('without runs says what to drop', async () => {
    renderJob(<TestStop />);
    await screen.findByRole('heading', { level: 1 });
    expect(heading()).toHaveTextContent('No runs yet: drop the dyno’s files anywhere on this page.');
    expect(screen.getByText(/comma, semicolon or tab/)).toBeInTheDocument();
  });

  it('the choice of a view stays in place while one comes: the next press and the keys’ focus find it', async () => {
    renderJob(<TestStop />, { answer: (url) => (url.includes('strip') ? { body: { visits: [], passes: [] } } : undefined) });
    await screen.findByRole('heading', { level: 1 });
    const log = screen.getByRole('radio', { name: 'Datalog' });
    await userEvent.click(log);
    // Its view is fetched now; the choice is there all the same.
    expect(log).toBeInTheDocument();
    expect(log).toHaveFocus();
    const strip = screen.getByRole('radio', { name: 'Strip' });
    await userEvent.click(strip);
    expect(strip).toHaveFocus();
    expect(await screen.findByText(/^No passes yet/)).toBeInTheDocument();

    const road = screen.getByRole('radio', { name: 'On a road' });
    await userEvent.click(road);
    expect(await screen.findByText('No log with a road speed yet: drop one on the Datalog view.')).toBeInTheDocument();
    expect(road).toHaveFocus();
    expect(log).toBeInTheDocument();
  });

  it('with one side says which is missing', () => {
    state = reply(null, [ready('r1')]);
    renderJob(<TestStop />, { runs: [stock] });
    expect(heading()).toHaveTextContent('The new side is missing.');
  });

  it('with one run a side gives the difference and what noise could do, and lists what is unfair', () => {
    state = reply(compared(0.018));
    renderJob(<TestStop />, { runs: [stock, fenwick] });
    expect(heading()).toHaveTextContent('Can’t tell yet: +1.8 % over the top third, −1.3 % to +5.0 %.');

    expect(screen.getByText('2 to weigh')).toBeInTheDocument();
    expect(screen.getByTestId('chart-difference')).toBeInTheDocument();
    expect(screen.getAllByText(/^inlet 22 °C$/)).toHaveLength(2);
    expect(screen.getByText(/4\.6 °C warmer on the new side/)).toHaveTextContent('(held: within 3.0 °C)');
  });

  it('leads with what makes a comparison unfair, whatever its figures say', () => {
    state = reply(repeated(0.06), undefined, [
      { code: 'other_record', field: 'pulley', a: '84 mm', b: '84 mm, 78 mm', odd: [{ has: '78 mm', runs: ['Fenwick 66, 2'] }] },
    ]);
    renderJob(<TestStop />, { runs: [stock, fenwick] });
    expect(heading()).toHaveTextContent(
      'Not a fair comparison: pulley differs: stock ran with 84 mm, the new side with 84 mm and 78 mm (78 mm: “Fenwick 66, 2”).',
    );
    expect(screen.getByText(/As it stands: Gain: Fenwick 66 made \+[56]\.\d %/)).toBeInTheDocument();
    // Nor does a row of the figures call anything a gain.
    expect(screen.getAllByRole('cell', { name: 'not fair' }).length).toBeGreaterThan(3);
    expect(screen.queryByRole('cell', { name: 'gain' })).toBeNull();
  });

  it('a fair one has an answer in each row', async () => {
    state = reply(repeated(0.06));
    renderJob(<TestStop />, { runs: [stock, fenwick] });
    expect(await screen.findAllByRole('cell', { name: 'gain' })).toHaveLength(2);
    expect(screen.queryByRole('cell', { name: 'not fair' })).toBeNull();
  });

  it('a run left out keeps its reason in sight and can be counted again', async () => {
    const saves: RunDoc[] = [];
    const answer: typeof fetch = (_url, init) => {
      const { doc: saved } = JSON.parse(init!.body as string) as { doc: RunDoc };
      saves.push(saved);
      const body = { run: { ...stock, version: 2, doc: saved }, findings: { stops: [] } };
      return Promise.resolve({ ok: true, status: 200, json: () => Promise.resolve(body) } as Response);
    };
    state = reply(compared(0.018));
    renderJob(<TestStop />, { runs: [stock, fenwick] });
    globalThis.fetch = answer;
    await userEvent.click(screen.getByLabelText('Leave out stock 58'));
    expect(screen.getByText('Leave out').closest('button')).toBeDisabled();
    await userEvent.type(screen.getByLabelText('Why stock 58 is left out'), 'wheels spun{Enter}');
    expect(await screen.findByText('Left out: wheels spun')).toBeInTheDocument();
    expect(saves[0]!.leftOut).toBe('wheels spun');
    await userEvent.click(screen.getByLabelText('Count stock 58 again'));
    await waitFor(() => expect(saves[1]!.leftOut).toBeNull());
  });

  it('a run that cannot be used says why beside it', () => {
    const bad: PreparedRun = { ...ready('r1'), failure: { error: 'no_sweep' }, rpm: [], power_W: [] };
    state = reply(null, [bad, ready('r2')]);
    renderJob(<TestStop />, { runs: [stock, fenwick] });
    expect(screen.getByRole('alert')).toHaveTextContent('The engine speed never rises in this file.');
  });

  it('says so when the runs cannot be read just now', () => {
    state = { reply: null, failed: 'The server is away.', unitId: null };
    renderJob(<TestStop />, { runs: [stock] });
    expect(heading()).toHaveTextContent('The runs cannot be read just now.');
  });

  it('shows an import’s progress, lets one cancel it, and forgets it', async () => {
    importFile.mockImplementation((_id, _file, _side, signal, tell) => {
      tell({ phase: 'reading', share: 0.4 });
      return new Promise((_, reject) => signal.addEventListener('abort', () => reject(new DOMException('cancelled', 'AbortError'))));
    });
    renderJob(<TestStop />);
    await drop('stock pull.csv');
    expect(await screen.findByRole('progressbar')).toHaveAttribute('aria-valuenow', '40');
    expect(screen.getByText('reading…')).toBeInTheDocument();
    expect(importFile.mock.calls[0]![2]).toEqual({ kind: 'stock' });
    await userEvent.click(screen.getByRole('button', { name: 'Cancel' }));
    await waitFor(() => expect(screen.queryByRole('progressbar')).toBeNull());
  });

  it('keeps a refusal in sight until it is dismissed', async () => {
    importFile.mockRejectedValue(new ImportRefused('The file is empty. Export it again from the logger.'));
    renderJob(<TestStop />);
    await drop('odd.csv');
    expect(await screen.findByRole('alert')).toHaveTextContent('The file is empty.');
    await userEvent.click(screen.getByRole('button', { name: 'Dismiss' }));
    expect(screen.queryByRole('alert')).toBeNull();
  });

  it('says what a file left out, and when it is already here', async () => {
    const report = {
      rows: 80,
      skippedTotal: 2,
      skipped: [{ line: 12, reason: 'wrong number of cells', text: 'x' }],
    } as unknown as ImportDone['report'];
    importFile.mockResolvedValueOnce({ runs: [stock], report, findings: null, known: false, otherSide: null });
    importFile.mockResolvedValueOnce({ runs: [stock], report, findings: null, known: true, otherSide: null });
    renderJob(<TestStop />);
    await drop('stock a.csv');
    expect(await screen.findByText('Read 80 rows; 2 lines were left out, first line 12: wrong number of cells.')).toBeInTheDocument();
    await drop('stock a.csv');
    expect(await screen.findByText('This very file is already here, as “stock 58”.')).toBeInTheDocument();
  });

  it('a run’s record shows its columns and conditions, and what they make of it', async () => {
    state = reply(compared(0.018));
    mockPreview = ready('r1');
    renderJob(<TestStop />, { runs: [stock, fenwick] });
    await userEvent.click(screen.getByRole('button', { name: 'Details of stock 58' }));
    const dialog = await screen.findByRole('dialog');
    expect(dialog).toHaveTextContent('Details of stock 58.csv');
    expect(screen.getByLabelText('rpm is')).toBeInTheDocument();
    expect(screen.getByLabelText('Gear')).toHaveValue('4th');
    expect(
      screen.getByText(/^So it makes 135\.5 kW at 6,776 rpm, in SAE J1349; the pull has 200 of the file’s 250 samples, inlet air 22 °C/),
    ).toBeInTheDocument();
    expect(screen.getByLabelText('Date')).toHaveValue('18 Apr 2026');
  });
});
