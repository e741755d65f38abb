import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { larkspur, renderJob } from '../../../test/render-job';
import { CarStop } from './car-stop';

jest.mock('@/ui/chart/lazy-chart', () => jest.requireActual<object>('../../../test/chart-stub'));

beforeEach(() => localStorage.clear());
const heading = () => screen.getByRole('heading', { level: 1 });
const field = (label: string) => screen.getByLabelText(label);
const type = async (label: string, text: string): Promise<void> => {
  await userEvent.clear(field(label));
  await userEvent.type(field(label), text);
};

it('says what the engine needs and about what it makes, in the reader’s units', () => {
  renderJob(<CarStop />);
  expect(heading()).toHaveTextContent('2.9 L and 6 cylinders need up to 576 kg/h (485 m³/h) of air and make about 150 kW.');
  expect(screen.getByText(/7 figures measured, 13 entered/)).toBeInTheDocument();
});

it('speaks cubic feet of air and horsepower to those who do, and bores in millimetres', () => {
  renderJob(<CarStop />, { pack: 'us' });
  expect(heading()).toHaveTextContent('177 in³ and 6 cylinders need up to 286 cfm (21.2 lb/min) of air and make about 201 hp.');
  expect(field('Bore')).toHaveValue('58.0');
});

it('a larger engine needs more at once, and the change is saved', async () => {
  const { saves } = renderJob(<CarStop />);
  await type('Displacement', '3.2');
  expect(heading()).toHaveTextContent('3.2 L and 6 cylinders need up to 636 kg/h');
  // A slow machine saves in the middle of the typing too.
  await waitFor(() => expect(saves.at(-1)?.doc.car.engine.displacement_m3).toBeCloseTo(0.0032, 9));
});

it('refuses reversed limits in place and takes them once the other one fits', async () => {
  renderJob(<CarStop />);
  await type('Lowest rpm shown', '7500');
  expect(screen.getByRole('alert')).toHaveTextContent('The highest rpm (6800) is not above the lowest (7500). Swap them.');
  await type('Redline', '8200');
  await waitFor(() => expect(screen.queryByRole('alert')).toBeNull());
  expect(field('Lowest rpm shown')).toHaveValue('7500');
});

it('refuses a shaft as thick as the bore and says how to measure it', async () => {
  renderJob(<CarStop />);
  await type('Bore', '40');
  await type('Shaft', '42');
  expect(screen.getByRole('alert')).toHaveTextContent('Measure the shaft across its thickest part in the bore.');
});

it('an oval asks for width and height instead of a bore', async () => {
  renderJob(<CarStop />);
  const shape = field('Shape');
  await userEvent.click(shape);
  await userEvent.click((await screen.findAllByTitle('oval')).at(-1)!);
  expect(field('Width')).toHaveValue('68.0');
  expect(field('Height')).toHaveValue('45.3');
  expect(screen.queryByLabelText('Bore')).toBeNull();
});

it('a click on a mark goes on to the next of measured, entered, assumed', async () => {
  renderJob(<CarStop />);
  const row = field('Bore').closest('div')!.parentElement!.parentElement!;
  const mark = within(row).getByRole('button');
  expect(mark).toHaveTextContent('measured');
  await userEvent.click(mark);
  expect(mark).toHaveTextContent('entered');
  await userEvent.click(mark);
  expect(mark).toHaveTextContent('assumed');
  await userEvent.click(mark);
  expect(mark).toHaveTextContent('measured');
});

it('a point of the efficiency curve out of order is refused under the table', async () => {
  renderJob(<CarStop />);
  await type('Efficiency point 2, rpm', '900');
  expect(screen.getByText('The rpm must rise from row to row.')).toBeInTheDocument();
});

it('points are added to the curve and taken out again', async () => {
  renderJob(<CarStop />);
  const points = () => screen.getAllByLabelText(/^Efficiency point \d+, rpm$/);
  expect(points()).toHaveLength(7);
  await userEvent.click(screen.getByRole('button', { name: 'Add a point' }));
  expect(points()).toHaveLength(8);
  expect(points().at(-1)).toHaveValue('7100');
  await userEvent.click(screen.getByRole('button', { name: 'Take the last out' }));
  expect(points()).toHaveLength(7);
});

it('a throttle far too small is a limit that is said, from an engine speed on', () => {
  const tiny = {
    ...larkspur,
    car: { ...larkspur.car, stock: { ...larkspur.car.stock, throttle: { ...larkspur.car.stock.throttle, bore_m: 0.024 } } },
  };
  renderJob(<CarStop />, { doc: tiny });
  expect(heading()).toHaveTextContent(/held there by the throttle, which chokes from [\d,]+ rpm\.$/);
  expect(screen.getByRole('alert')).toHaveTextContent('the throttle passes no more, however low the pressure behind it');
});

it('a car that cannot be solved says why in the field’s own words', () => {
  const high = { ...larkspur, car: { ...larkspur.car, weather: { ...larkspur.car.weather, p_Pa: 1 } } };
  renderJob(<CarStop />, { doc: high });
  expect(heading()).toHaveTextContent('This engine cannot be solved as it stands.');
});

it('shows what the day’s air is worth beside the weather', async () => {
  renderJob(<CarStop />);
  expect(screen.getByText(/1\.188 kg\/m³ · density altitude 315 m/)).toBeInTheDocument();
  await type('Air temperature', '35');
  expect(screen.getByText(/density altitude 8\d\d m/)).toBeInTheDocument();
});

it('an optional figure may be emptied', async () => {
  const { saves } = renderJob(<CarStop />);
  await userEvent.clear(field('Throttle position sensor (TPS), closed'));
  await waitFor(() => expect(saves.length).toBeGreaterThan(0));
  expect(saves.at(-1)!.doc.car.controls.closed_V).toBeNull();
});

it('a gap that cannot be says so at its field, and nothing goes on with the old one unsaid', async () => {
  renderJob(<CarStop />);
  await type('Blade clearance', '-5');
  expect(field('Blade clearance')).toBeInvalid();
  expect(screen.getByRole('alert')).toHaveTextContent('It has to be at least 0.00 mm.');
  await type('Blade clearance', '5');
  expect(screen.getByRole('alert')).toHaveTextContent('It may be at most 1.00 mm.');
  await type('Blade clearance', '0.05');
  expect(screen.queryByRole('alert')).toBeNull();
});

it('says what may be in the unit it is typed in', async () => {
  renderJob(<CarStop />, { pack: 'us' });
  await type('Air temperature', '300');
  expect(screen.getByRole('alert')).toHaveTextContent('It may be at most 140 °F.');
});

it('marks the point of a curve that cannot be', async () => {
  renderJob(<CarStop />);
  await type('Efficiency point 3', '900');
  expect(field('Efficiency point 3')).toBeInvalid();
  expect(field('Efficiency point 4')).toBeValid();
});

it('a point that cannot be read says so in its cell, and the curve goes on as it was', async () => {
  renderJob(<CarStop />);
  const before = heading().textContent;
  await type('Efficiency point 3', '9O');
  expect(field('Efficiency point 3')).toBeInvalid();
  expect(screen.getByRole('alert')).toHaveTextContent('"O" is not a unit for this.');
  expect(heading()).toHaveTextContent(before);
});

it('a gap that is refused leaves the seal of the class it was', async () => {
  const { saves } = renderJob(<CarStop />);
  await userEvent.click(screen.getByRole('combobox', { name: 'Closed seal' }));
  await userEvent.click((await screen.findAllByTitle(/^production/)).at(-1)!);
  await type('Blade clearance', '0.9x');
  expect(screen.getByRole('alert')).toHaveTextContent('is not a unit for this');
  await type('Blade clearance', '95');
  expect(screen.getByRole('combobox', { name: 'Closed seal' }).closest('[title]')).toHaveAttribute('title', 'production fit');
  await waitFor(() => expect(saves.at(-1)?.doc.car.stock.throttle.leak).toBe('production'));
});
