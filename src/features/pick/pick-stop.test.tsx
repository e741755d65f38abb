import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { JobDoc } from '@/core/documents/job';
import type { StoredUnit } from '@/core/documents/unit';
import { heronJob } from '@/server/demo/others';
import { larkspur, renderJob, units } from '../../../test/render-job';
import type { UncertaintyState } from '@/features/job/use-uncertainty';
import { PickStop } from './pick-stop';

jest.mock('@/ui/chart/lazy-chart', () => jest.requireActual<object>('../../../test/chart-stub'));

let uncertainty: UncertaintyState;
jest.mock('@/features/job/use-uncertainty', () => ({ useUncertainty: () => uncertainty }));

beforeEach(() => {
  localStorage.clear();
  uncertainty = { ranges: {}, progress: null, stop: jest.fn(), start: jest.fn() };
});
const heading = () => screen.getByRole('heading', { level: 1 });
const rows = () =>
  within(screen.getByRole('columnheader', { name: 'at peak' }).closest('table')!)
    .getAllByRole('row')
    .slice(1);
const line = (chart: string, label: string): number =>
  Number(screen.getByTestId(`chart-${chart}`).querySelector(`[data-line="${label}"]`)!.getAttribute('data-last'));

it('leads with the throttle worth buying, says what the opening is worth and who is too big', () => {
  renderJob(<PickStop />);
  expect(heading()).toHaveTextContent('Fenwick 66 is worth buying: +1.9 % at peak with the manifold bored to match.');
  expect(
    screen.getByText(/On the manifold as it is it would bring \+0\.5 %: the rest comes from boring the manifold\./),
  ).toBeInTheDocument();
  expect(
    screen.getByText(/Marl 74 is too touchy off idle: the first tenth of the pedal opens 1\.6\d times what stock does; 1\.35 is the limit/),
  ).toBeInTheDocument();
});

it('ranks by verdict, then by gain, with manners and money', () => {
  renderJob(<PickStop />);
  expect(rows().map((r) => within(r).getAllByRole('cell')[0]!.textContent)).toEqual(['Fenwick 66', 'Hollin 62', 'Marl 74']);
  expect(rows()[0]).toHaveTextContent(/worth buying\+1\.9 %\+2\.8/);
  expect(rows()[0]).toHaveTextContent('€ 385');
  expect(rows()[2]).toHaveTextContent('too touchy off idle');
});

it('on the manifold as it is everything brings less, and the answer says so', async () => {
  renderJob(<PickStop />);
  expect(line('gain', 'Fenwick 66')).toBeGreaterThan(1.5);
  await userEvent.click(screen.getByText('manifold as is'));
  expect(heading()).toHaveTextContent(/Fenwick 66 is worth testing: \+0\.5 % at peak on the manifold as it is\./);
  expect(line('gain', 'Fenwick 66')).toBeLessThan(0.8);
  expect(screen.getByText(/With the manifold bored to match it would bring \+1\.9 %\./)).toBeInTheDocument();
});

it('chooses a unit and lets go of it again', async () => {
  const { saves } = renderJob(<PickStop />);
  const button = (row: number) => within(rows()[row]!).getAllByRole('button').at(-1)!;
  expect(button(0)).toHaveAttribute('aria-pressed', 'true');
  await userEvent.click(button(1));
  expect(button(1)).toHaveAttribute('aria-pressed', 'true');
  expect(button(0)).toHaveAttribute('aria-pressed', 'false');
  await waitFor(() => expect(saves.at(-1)?.doc.pick.chosen).toBe('unit-0'));
  await userEvent.click(button(1));
  expect(button(1)).toHaveTextContent('choose');
});

const copyOf = (at: number, id: string, name: string): StoredUnit => ({ ...units[at]!, id, doc: { ...units[at]!.doc, name } });

it('ranks the whole shelf, shows at most four of it', async () => {
  renderJob(<PickStop />, { shelf: [...units, copyOf(0, 'unit-8', 'Thrift 62'), copyOf(0, 'unit-9', 'Sedge 62')] });
  const box = (name: string) => screen.getByRole('checkbox', { name: `Show ${name}` });
  expect(rows()).toHaveLength(5);
  expect(screen.getByText('The shelf, ranked · 3 of 4 on show')).toBeInTheDocument();
  await userEvent.click(box('Thrift 62'));
  expect(box('Sedge 62')).toBeDisabled();
  await userEvent.click(box('Marl 74'));
  expect(box('Sedge 62')).toBeEnabled();
  await waitFor(() => expect(screen.getByText('The shelf, ranked · 3 of 4 on show')).toBeInTheDocument());
});

it('folds away what cannot go on this car, and says why where it is asked', async () => {
  const electronic: StoredUnit = {
    ...units[0]!,
    id: 'unit-9',
    doc: { ...units[0]!.doc, name: 'Dunlin 62', controls: 'electronic-analogue' },
  };
  renderJob(<PickStop />, { shelf: [...units, electronic] });
  expect(screen.queryByText('Dunlin 62')).toBeNull();
  await userEvent.click(screen.getByRole('button', { name: '1 more cannot go on this car' }));
  expect(rows().at(-1)).toHaveTextContent(/Dunlin 62.*other control/);
});

it('shows the ranges under the gains, and their progress with a way to stop it', async () => {
  const range = (p10: number, p90: number) => ({
    peak_pct: { p10, p50: (p10 + p90) / 2, p90 },
    thirds_pct: { p10: [0, 0.3, 1], p90: [0.1, 0.6, 2] },
    solved: 2000,
  });
  uncertainty = { ...uncertainty, ranges: { 'unit-1': range(1.42, 2.31) } };
  renderJob(<PickStop />);
  expect(rows()[0]).toHaveTextContent('+1.4 … +2.3');
  expect(screen.getByText('ranges: 8 of 10 of 2,000 simulated cases fall inside, the model’s own error among them')).toBeInTheDocument();
});

it('a run under way can be stopped, one that was stopped can be started', async () => {
  uncertainty = { ...uncertainty, progress: 0.4 };
  renderJob(<PickStop />);
  expect(screen.getByRole('progressbar', { name: 'Ranges being drawn' })).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'stop' }));
  expect(uncertainty.stop).toHaveBeenCalledTimes(1);
});

it('an empty run offers to draw', async () => {
  renderJob(<PickStop />);
  await userEvent.click(screen.getByRole('button', { name: 'draw the ranges' }));
  expect(uncertainty.start).toHaveBeenCalledTimes(1);
});

it('a bore from the address is tried at once, on both openings', () => {
  renderJob(<PickStop />, { address: '?bore=66' });
  expect(screen.getByRole('heading', { name: 'Bore tried: 66.0 mm' })).toBeInTheDocument();
  expect(screen.getAllByText('bored to match').at(-1)!.parentElement).toHaveTextContent(/\+1\.\d %/);
});

it('names the seven bounds, the two that decide, and what would open an empty window', () => {
  renderJob(<PickStop />, { doc: { ...larkspur, sizing: { ...larkspur.sizing, fit_m: 0.06 } } });
  const bounds = screen.getByText('gas speed').closest('table')!;
  expect(within(bounds).getAllByRole('row')).toHaveLength(7);
  expect(within(bounds).getByText('fit').closest('tr')).toHaveAttribute('data-binds', 'true');
  expect(screen.getByText(/It would open with a flange that takes a larger bore\./)).toBeInTheDocument();
});

it('the remap of an electronic car lists every opening and saves as a file', async () => {
  const doc: JobDoc = { ...larkspur, car: { ...larkspur.car, controls: { ...larkspur.car.controls, kind: 'electronic-analogue' } } };
  renderJob(<PickStop />, { doc, address: '?look=remap' });
  const table = (await screen.findByText('stock opening, %')).closest('table')!;
  const cells = within(table)
    .getAllByRole('row')
    .slice(1)
    .map((r) =>
      within(r)
        .getAllByRole('cell')
        .map((c) => c.textContent),
    );
  expect(cells[0]![0]).toBe('0');
  expect(cells.at(-1)![0]).toBe('100');
  // A larger bore needs less opening for the same air.
  const half = cells.find((c) => c[0] === '50')!;
  expect(Number(half[2])).toBeLessThan(50);
  const saved: string[] = [];
  URL.createObjectURL = (blob: Blob) => (saved.push(blob.type), 'blob:x');
  URL.revokeObjectURL = () => {};
  jest.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(() => {});
  await userEvent.click(screen.getByRole('button', { name: 'CSV' }));
  await userEvent.click(screen.getByRole('button', { name: 'JSON' }));
  expect(saved).toEqual(['text/csv', 'application/json']);
});

it('a car with a cable is told that the table is only a feeling', async () => {
  renderJob(<PickStop />, { address: '?look=remap' });
  expect(await screen.findByText(/This car has a cable: the table shows what the pedal will feel like/)).toBeInTheDocument();
});

it('what-if is offered where there is boost, and a smaller pulley makes the throttle matter more', async () => {
  const doc = { ...heronJob((name) => name), pick: { ...heronJob((name) => name).pick, shown: [] } };
  renderJob(<PickStop />, { doc });
  const pulley = screen.getByLabelText('Blower pulley');
  await userEvent.type(pulley, '76');
  expect(await screen.findByText(/^Boost .* → .*of peak lost to it/)).toBeInTheDocument();
  expect(screen.getByText('The stock throttle stays the restriction.')).toBeInTheDocument();
  expect(screen.getByRole('button', { name: 'as now' })).toBeInTheDocument();
});

it('says nothing of boost to an engine that has none', () => {
  renderJob(<PickStop />);
  expect(screen.queryByText('With another boost')).toBeNull();
});

it('own tolerances can be set and dropped again', async () => {
  const { saves } = renderJob(<PickStop />);
  await userEvent.click(screen.getByRole('button', { name: 'usual' }));
  const friction = screen.getByLabelText('Friction, ±');
  await userEvent.clear(friction);
  await userEvent.type(friction, '20');
  await waitFor(() => expect(saves.at(-1)?.doc.sizing.tolerances?.fmep).toBeCloseTo(0.2, 9));
  await userEvent.click(screen.getByRole('button', { name: 'Back to the usual' }));
  await waitFor(() => expect(saves.at(-1)?.doc.sizing.tolerances).toBeNull());
});

it('tells to leave it alone when nothing brings anything', () => {
  const wide = {
    ...larkspur,
    car: {
      ...larkspur.car,
      stock: {
        ...larkspur.car.stock,
        throttle: { ...larkspur.car.stock.throttle, bore_m: 0.066 },
        manifoldOpening_m: 0.068,
        gasketOpening_m: 0.068,
      },
    },
    pick: { ...larkspur.pick, shown: ['unit-0'], chosen: null, opening: 'as it is' as const },
  };
  renderJob(<PickStop />, { doc: wide, shelf: [units[0]!] });
  expect(heading()).toHaveTextContent(/^Leave it alone: the best on the shelf, Hollin 62, brings/);
});

it('draws the bores to scale with their sizes', () => {
  renderJob(<PickStop />);
  expect(
    screen.getByRole('img', { name: 'Bores to scale: stock 58.0 mm, Hollin 62 62.0 mm, Fenwick 66 66.0 mm, Marl 74 74.0 mm' }),
  ).toBeInTheDocument();
});

it('an empty shelf says where units come from', () => {
  renderJob(<PickStop />, { shelf: [], doc: { ...larkspur, pick: { ...larkspur.pick, shown: [], chosen: null, opening: 'matched' } } });
  expect(heading()).toHaveTextContent('Nothing to rank: the shelf is empty. Put throttle bodies on it in the Shelf room.');
});

it('a car that cannot be solved sends to the Air step', () => {
  const broken = { ...larkspur, car: { ...larkspur.car, weather: { ...larkspur.car.weather, p_Pa: 1 } } };
  renderJob(<PickStop />, { doc: broken });
  expect(heading()).toHaveTextContent('Nothing can be compared yet.');
  expect(screen.getByText('Put the intake right on the Air step first.')).toBeInTheDocument();
});
