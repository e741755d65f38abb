import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { larkspur, renderJob, units } from '../../../test/render-job';
import { PickStop } from './stop';

jest.mock('@/ui/chart/lazy-chart', () => jest.requireActual<object>('../../../test/chart-stub'));

beforeEach(() => localStorage.clear());
const heading = () => screen.getByRole('heading', { level: 1 });
const rows = () => within(screen.getByRole('table')).getAllByRole('row').slice(1);
const line = (chart: string, label: string): number =>
  Number(screen.getByTestId(`chart-${chart}`).querySelector(`[data-line="${label}"]`)!.getAttribute('data-last'));

it('leads with the unit worth buying, says what the opening is worth and who is too big', () => {
  renderJob(<PickStop />);
  expect(heading()).toHaveTextContent('Fenwick 66 is worth buying: +1.9 % at peak with the manifold opened to match.');
  expect(
    screen.getByText(/On the opening as it is it would bring \+0\.5 %: the rest comes from opening the manifold\./),
  ).toBeInTheDocument();
  expect(
    screen.getByText(
      /Marl 74 is too big for its manners: the first tenth of the pedal opens 1\.6\d times what stock does; 1\.35 is the limit/,
    ),
  ).toBeInTheDocument();
});

it('ranks by verdict, then by gain, with manners and money', () => {
  renderJob(<PickStop />);
  expect(rows().map((r) => within(r).getAllByRole('cell')[0]!.textContent)).toEqual(['Fenwick 66', 'Hollin 62', 'Marl 74']);
  expect(rows()[0]).toHaveTextContent(/worth buying\+1\.9 %\+2\.8/);
  expect(rows()[0]).toHaveTextContent('€ 385');
  expect(rows()[2]).toHaveTextContent('too big for its manners');
});

it('on the opening as it is everything brings less, and the answer says so', async () => {
  renderJob(<PickStop />);
  expect(line('gain', 'Fenwick 66')).toBeGreaterThan(1.5);
  await userEvent.click(screen.getByText('as it is'));
  expect(heading()).toHaveTextContent(/Fenwick 66 is worth testing: \+0\.5 % at peak on the opening as it is\./);
  expect(line('gain', 'Fenwick 66')).toBeLessThan(0.8);
  expect(screen.getByText(/With the manifold opened to match it would bring \+1\.9 %\./)).toBeInTheDocument();
});

it('chooses a unit and lets go of it again', async () => {
  const { saves } = renderJob(<PickStop />);
  const button = (row: number) => within(rows()[row]!).getAllByRole('button').at(-1)!;
  expect(button(0)).toHaveAttribute('aria-pressed', 'true');
  await userEvent.click(button(1));
  expect(button(1)).toHaveAttribute('aria-pressed', 'true');
  expect(button(0)).toHaveAttribute('aria-pressed', 'false');
  await waitFor(() => expect(saves.at(-1)?.doc.pick.chosen).toBe('unit-0'), { timeout: 3000 });
  await userEvent.click(button(1));
  expect(button(1)).toHaveTextContent('choose');
});

it('shows at most three units, and an empty show says what to do', async () => {
  const fourth = { ...units[0]!, id: 'unit-9', doc: { ...units[0]!.doc, name: 'Thrift 60' } };
  renderJob(<PickStop />, { shelf: [...units, fourth] });
  const box = (name: string) => screen.getByRole('checkbox', { name });
  expect(box('Thrift 60')).toBeDisabled();
  for (const name of ['Hollin 62', 'Fenwick 66', 'Marl 74']) await userEvent.click(box(name));
  expect(heading()).toHaveTextContent('Nothing on show: put up to three units from the shelf beside stock.');
  expect(box('Thrift 60')).toBeEnabled();
  await userEvent.click(box('Thrift 60'));
  expect(heading()).toHaveTextContent(/Thrift 60/);
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
    pick: { shown: ['unit-0'], chosen: null, opening: 'as it is' as const },
  };
  renderJob(<PickStop />, { doc: wide });
  expect(heading()).toHaveTextContent(/^Leave it alone: the best on show, Hollin 62, brings/);
});

it('draws the bores to scale with their sizes', () => {
  renderJob(<PickStop />);
  expect(
    screen.getByRole('img', { name: 'Bores to scale: stock 58.0 mm, Hollin 62 62.0 mm, Fenwick 66 66.0 mm, Marl 74 74.0 mm' }),
  ).toBeInTheDocument();
});

it('an empty shelf says where units come from', () => {
  renderJob(<PickStop />, { shelf: [], doc: { ...larkspur, pick: { shown: [], chosen: null, opening: 'matched' } } });
  expect(screen.getByText(/The shelf is empty/)).toBeInTheDocument();
});

it('a car that cannot be solved sends to the Air stop', () => {
  const broken = {
    ...larkspur,
    car: { ...larkspur.car, stock: { ...larkspur.car.stock, throttle: { ...larkspur.car.stock.throttle, bore_m: 0.024 } } },
  };
  renderJob(<PickStop />, { doc: broken });
  expect(heading()).toHaveTextContent('Nothing can be compared yet.');
  expect(screen.getByText('Put the intake right on the Air stop first.')).toBeInTheDocument();
});
