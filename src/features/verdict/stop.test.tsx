import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { compareSides, type SideComparison } from '@/core/compare/sides';
import { must } from '@/core/failure';
import type { CompareReply } from '@/features/test/dyno/compare.worker';
import type { ComparisonState } from '@/features/test/dyno/use-comparison';
import { larkspur, renderJob } from '../../../test/render-job';
import { VerdictStop } from './stop';

jest.mock('@/ui/chart/lazy-chart', () => jest.requireActual<object>('../../../test/chart-stub'));
let state: ComparisonState;
jest.mock('@/features/test/dyno/use-comparison', () => ({ useComparison: () => state }));

const rpm = Array.from({ length: 200 }, (_, i) => 2000 + 24 * i);
/** A run: power in proportion to speed, with so much more in the lowest and the highest third. */
const run = (low = 0, high = 0, k = 0) => ({
  rpm,
  power_W: rpm.map((n) => 20 * n * (n < 3600 ? 1 + low : n > 5180 ? 1 + high : 1) * (1 + 0.001 * (k % 3))),
});
const compared = (low: number, high: number, runs = 3): SideComparison =>
  must(
    compareSides(
      Array.from({ length: runs }, (_, k) => run(0, 0, k)),
      Array.from({ length: runs }, (_, k) => run(low, high, k)),
      { fwhm_rpm: 0, assumedSd_pct: 0.8 },
    ),
  );
const told = (comparison: CompareReply['comparison'], more: Partial<ComparisonState> = {}): ComparisonState => ({
  reply: { prepared: [], comparison, extras: [], held: [], compared: [], confounders: [] },
  failed: null,
  unitId: 'unit-1',
  ...more,
});
const heading = () => screen.getByRole('heading', { level: 1 });
const cells = (row: string): (string | null)[] =>
  within(screen.getByText(row).closest('tr')!)
    .getAllByRole('cell')
    .map((c) => c.textContent);

beforeEach(() => localStorage.clear());

it.each([
  [0, 0.06, 'Keep it: Fenwick 66 gained +6.0 % over the top third.'],
  [0, -0.06, 'Go back to stock: Fenwick 66 lost −6.0 % over the top third.'],
  [0, 0, /makes no difference that matters\.$/],
  [-0.06, 0, /^It depends on where the engine is used: loss below 3,\d\d0 rpm, nothing sure above\.$/],
])('lowest third %d, highest %d: says what to do', (low, high, answer) => {
  state = told(compared(low, high));
  renderJob(<VerdictStop />);
  expect(heading()).toHaveTextContent(answer);
});

it('sets predicted beside measured by thirds and at the peak, with the noise', () => {
  state = told(compared(0, 0.06));
  renderJob(<VerdictStop />);
  const top = cells('the top third');
  expect(top[1]).toMatch(/^\+1\.\d %$/);
  expect(top[2]).toBe('+6.0 %');
  expect(top[3]).toMatch(/^\+5\.\d to \+6\.\d %$/);
  expect(cells('peak against peak')[1]).toBe('+1.9 %');
  expect(cells('peak against peak')[2]).toBe('+6.0 %');
});

it('with one run a side asks for more of them', () => {
  state = told(compared(0, 0.005, 1));
  renderJob(<VerdictStop />);
  expect(heading()).toHaveTextContent('Test more: +0.5 % over the top third could still be noise.');
  expect(cells('the top third')[3]).toMatch(/^±\d\.\d % by noise$/);
});

it('every figure of it shows its working', async () => {
  state = told(compared(0, 0.06));
  renderJob(<VerdictStop />);
  await userEvent.click(screen.getByRole('button', { name: 'measured peak: show the working' }));
  expect(await screen.findByRole('dialog')).toBeInTheDocument();
});

it('counts what it cost, and per kilowatt only where something was gained', () => {
  state = told(compared(0, 0.06));
  renderJob(<VerdictStop />);
  expect(screen.getByText('price of the unit').parentElement).toHaveTextContent('€ 385');
  expect(screen.getByText('per kW gained').parentElement).toHaveTextContent(/€\s\d+/);
});

it('a loss has no price per kilowatt', () => {
  state = told(compared(0, -0.06));
  renderJob(<VerdictStop />);
  expect(screen.getByText('per kW gained').parentElement).toHaveTextContent('—');
});

it('says how many other things could have moved the figures', () => {
  const reply: CompareReply = {
    prepared: [],
    comparison: compared(0, 0.06),
    extras: [],
    held: [],
    compared: [],
    confounders: [{ code: 'one_run_a_side' }, { code: 'inlet_air', apart_K: 5, limit_K: 3, worth_pct: -0.8 }],
  };
  state = { reply, failed: null, unitId: 'unit-1' };
  renderJob(<VerdictStop />);
  expect(screen.getByText(/^2 things besides the throttle could have moved these/)).toBeInTheDocument();
});

it('before anything was measured it says what is predicted and where to go', () => {
  state = told(null);
  renderJob(<VerdictStop />);
  expect(heading()).toHaveTextContent('There is nothing to judge yet.');
  expect(
    screen.getByText('Fenwick 66 is predicted to bring +1.9 % at peak. Runs of both sides on the Test stop say whether it did.'),
  ).toBeInTheDocument();
  expect(screen.getByRole('link', { name: 'Go to Test' })).toBeInTheDocument();
});

it('without a unit it says what to do first', () => {
  state = told(null, { unitId: null });
  renderJob(<VerdictStop />, { doc: { ...larkspur, pick: { ...larkspur.pick, chosen: null } } });
  expect(screen.getByText('Choose a unit on the Pick stop and drop runs of both sides on the Test stop.')).toBeInTheDocument();
});

it('while the runs are read it says so, and not that there are none', () => {
  state = { reply: null, failed: null, unitId: 'unit-1' };
  renderJob(<VerdictStop />);
  expect(heading()).toHaveTextContent('Reading the runs…');
  expect(screen.queryByRole('link', { name: 'Go to Test' })).toBeNull();
});

it('runs that cannot be read say why', () => {
  state = { reply: null, failed: 'The runs could not be read: the server is away.', unitId: 'unit-1' };
  renderJob(<VerdictStop />);
  expect(screen.getByText('The runs could not be read: the server is away.')).toBeInTheDocument();
});

it('keeps the verdict in the tuner’s own words', async () => {
  state = told(compared(0, 0.06));
  const { saves } = renderJob(<VerdictStop />);
  await userEvent.type(screen.getByLabelText('Verdict in your words'), 'Worth it.');
  await waitFor(() => expect(saves.at(-1)?.doc.verdict.note).toMatch(/Worth it\.$/), { timeout: 3000 });
});
