import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { curlewJob, heronJob, pipitJob } from '@/server/demo/others';
import type { JobDoc, MeasuredCurve } from '@/core/documents/job';
import { renderJob } from '../../../test/render-job';
import { aJob, CENTRIFUGAL } from '../../../test/units';
import { CarStop } from './car-stop';

jest.mock('@/ui/chart/lazy-chart', () => jest.requireActual<object>('../../../test/chart-stub'));

beforeEach(() => localStorage.clear());
const heading = () => screen.getByRole('heading', { level: 1 });
const id = (name: string): string => name;
const layout = (name: RegExp) => screen.getByRole('radio', { name });
const heronBoost = (boost: MeasuredCurve | null): JobDoc => {
  const doc = heronJob(id);
  const from = { ...doc.car.from, efficiency: boost ? ('boost' as const) : ('table' as const) };
  return { ...doc, car: { ...doc.car, measured: { ...doc.car.measured, boost }, from } };
};
const heronWithoutBoost = (): JobDoc => heronBoost(null);
const heronWithBoost = (): JobDoc => heronBoost({ rpm: [2000, 6000], value: [40_000, 60_000], source: 'log', driveRatio: null });
const paste = async (which: string, text: string): Promise<void> => {
  await userEvent.click(screen.getByRole('button', { name: `Paste ${which}` }));
  await userEvent.click(await screen.findByLabelText('Table'));
  await userEvent.paste(text);
};

it('is picked from small drawings, and only what matters for each is asked', async () => {
  renderJob(<CarStop />);
  expect(layout(/no compressor/)).toBeChecked();
  expect(screen.queryByLabelText('Displacement per rev')).toBeNull();
  await userEvent.click(layout(/blower behind it/));
  expect(layout(/blower behind it/)).toBeChecked();
  expect(heading()).toHaveTextContent(/of boost need up to/);
  expect(screen.getByLabelText('Crank pulley')).toBeInTheDocument();
  await userEvent.click(layout(/turbo before it/));
  expect(screen.queryByLabelText('Crank pulley')).toBeNull();
  await userEvent.click(layout(/individual throttles/));
  expect(screen.getByText('One bore a cylinder: 6 of them.')).toBeInTheDocument();
  await userEvent.click(layout(/no compressor/));
  expect(heading()).toHaveTextContent(/^2\.9 L and 6 cylinders need up to/);
});

it.each([
  [
    'a blower',
    heronJob(id),
    /^3\.3 L and 6 cylinders at \d\d\.\d kPa of boost need up to [\d,]+ kg\/h \([\d,]+ m³\/h\) of air and make about \d+ kW\.$/,
  ],
  ['a turbo', pipitJob(id), /^1\.8 L and 4 cylinders at 110\.0 kPa of boost/],
  ['individual throttles', curlewJob(id), /^2\.4 L and 6 cylinders need up to/],
  ['a centrifugal', aJob(CENTRIFUGAL), /^4\.8 L and 8 cylinders at \d+\.\d kPa of boost/],
])('says what an engine with %s asks for and makes', (_name, doc, words) => {
  renderJob(<CarStop />, { doc });
  expect(heading()).toHaveTextContent(words);
});

describe('a measured curve', () => {
  it('is read, shown for what it is, and becomes the reference', async () => {
    const { saves } = renderJob(<CarStop />);
    await paste('power', 'rpm,power (hp)\n2000,60\n4000,120\n6000,190\n6800,180');
    expect(await screen.findByText(/4 rows: rpm and power, hp; the first is 44\.7 kW at 2,000 rpm\./)).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Take it' }));
    await waitFor(() => expect(saves.at(-1)?.doc.car.from.power).toBe('measured'));
    expect(heading()).toHaveTextContent(/and make 144 kW\./);
    expect(screen.getByText(/4 points to 141\.7 kW, pasted/)).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Take power out' }));
    await waitFor(() => expect(saves.at(-1)?.doc.car.measured.power).toBeNull());
    expect(saves.at(-1)?.doc.car.from).toEqual({ efficiency: 'table', power: 'estimate' });
  });

  it('with odd rows says which, and what will become of them', async () => {
    renderJob(<CarStop />);
    await paste('power', 'rpm,kW\n2000,40\n4000,80\n4000,82\n3000,60');
    const alert = await screen.findByRole('alert');
    expect(alert).toHaveTextContent('Row 3: 4,000 rpm stands there already, in row 2.');
    expect(alert).toHaveTextContent('Row 4: 3,000 rpm comes after 4,000; engine speed should rise from row to row.');
    expect(screen.getByRole('button', { name: 'Take it sorted, equal rpm averaged, empty rows left out' })).toBeEnabled();
  });

  it('that is none is refused with what is needed', async () => {
    renderJob(<CarStop />);
    await paste('power', 'time,coolant (C)\n1,80\n2,81');
    expect(await screen.findByRole('alert')).toHaveTextContent(/No column is engine speed\. Found: time, coolant\. Name one "rpm"\./);
    expect(screen.getByRole('button', { name: 'Take it' })).toBeDisabled();
  });

  it('of boost is offered to a blower only, and calibrates it', async () => {
    const { saves } = renderJob(<CarStop />, { doc: heronJob(id) });
    await paste('boost', 'rpm,boost (psi)\n2000,5\n4000,8\n6500,9.5');
    await userEvent.click(await screen.findByRole('button', { name: 'Take it' }));
    await waitFor(() => expect(saves.at(-1)?.doc.car.from.efficiency).toBe('boost'));
    expect(heading()).toHaveTextContent(/at 6\d\.\d kPa of boost/);
  });

  it('of an air meter makes the efficiency', async () => {
    const { saves } = renderJob(<CarStop />);
    await paste('MAF', 'rpm;air mass flow (g/s)\n2000;40\n4000;90\n6800;150');
    await userEvent.click(await screen.findByRole('button', { name: 'Take it' }));
    await waitFor(() => expect(saves.at(-1)?.doc.car.from.efficiency).toBe('air'));
    expect(heading()).toHaveTextContent(/need up to 54\d kg\/h/);
  });
});

it('a blade’s leak class is asked for beside its gap', async () => {
  renderJob(<CarStop />);
  const row = screen.getByLabelText('Blade clearance').closest('div')!;
  expect(within(row).getByLabelText('Blade clearance')).toHaveValue('0.04');
  expect(screen.getByLabelText('Closed seal')).toBeInTheDocument();
});

describe('a curve typed point by point', () => {
  const boost = (n: number): HTMLElement => screen.getByLabelText(`Boost point ${n}`);
  const rpmOf = (n: number): HTMLElement => screen.getByLabelText(`Boost point ${n}, rpm`);
  const retype = async (field: HTMLElement, text: string): Promise<void> => {
    await userEvent.clear(field);
    await userEvent.type(field, text);
  };

  it('keeps what cannot stand yet, with the reason, while the other points are typed', async () => {
    const { saves } = renderJob(<CarStop />, { doc: pipitJob(id) });
    await retype(rpmOf(2), '1200');
    expect(screen.getByText('The rpm must rise from row to row.')).toBeInTheDocument();
    await retype(boost(3), '90');
    expect(rpmOf(2)).toHaveValue('1200');
    expect(saves).toEqual([]);
    await retype(rpmOf(1), '1000');
    // A slow machine saves in the middle of the typing too.
    const last = () => {
      const induction = saves.at(-1)?.doc.car.induction;
      if (induction?.kind !== 'turbo') throw new Error('kind');
      return induction;
    };
    await waitFor(() => expect(last().compressor.boost.rpm.slice(0, 2)).toEqual([1000, 1200]));
    const induction = last();
    expect(induction.compressor.boost.value[2]).toBeCloseTo(90_000, 6);
    expect(screen.queryByText('The rpm must rise from row to row.')).toBeNull();
  });

  it('a value that cannot be is told what it may be', async () => {
    renderJob(<CarStop />, { doc: pipitJob(id) });
    await retype(boost(1), '900');
    expect(screen.getByText('It may be at most 500.0 kPa.')).toBeInTheDocument();
  });

  it('points come and go at its end', async () => {
    renderJob(<CarStop />, { doc: pipitJob(id) });
    const points = () => screen.getAllByLabelText(/^Boost point \d+$/);
    const before = points().length;
    await userEvent.click(screen.getAllByRole('button', { name: 'Add a point' })[0]!);
    expect(points()).toHaveLength(before + 1);
    await userEvent.click(screen.getAllByRole('button', { name: 'Take the last out' })[0]!);
    expect(points()).toHaveLength(before);
  });
});

describe('figures that cannot be are told what can', () => {
  it.each([
    ['Cylinders', '4.5', 'It takes a whole number.'],
    ['Bore', '900', 'It may be at most 250.0 mm.'],
    ['Bore', '1', 'It has to be at least 15.0 mm.'],
  ])('%s %s: %s', async (label, text, words) => {
    renderJob(<CarStop />);
    const field = screen.getByLabelText(label);
    await userEvent.clear(field);
    await userEvent.type(field, text);
    expect(screen.getByRole('alert')).toHaveTextContent(words);
    expect(field).toHaveValue(text);
  });
});

it('one reading of boost is enough; one that could be absolute is asked about', async () => {
  const { saves } = renderJob(<CarStop />, { doc: heronWithoutBoost() });
  await userEvent.click(screen.getByRole('button', { name: 'only one reading of boost is known' }));
  await userEvent.type(screen.getByLabelText('Boost that was read'), '150');
  await userEvent.type(screen.getByLabelText('at an engine speed of'), '5000');
  const take = screen.getByRole('button', { name: 'Take this reading' });
  expect(take).toBeDisabled();
  await userEvent.click(screen.getByText('absolute'));
  await userEvent.click(take);
  await waitFor(() => expect(saves.at(-1)?.doc.car.measured.boost?.value).toHaveLength(1));
  const { measured, weather, from } = saves.at(-1)!.doc.car;
  expect(measured.boost!.value[0]).toBeCloseTo(150_000 - weather.p_Pa, 3);
  expect(from.efficiency).toBe('boost');
});

it('another pulley leaves the measured boost with the old one until somebody says otherwise', async () => {
  const { saves } = renderJob(<CarStop />, { doc: heronWithBoost() });
  await userEvent.clear(screen.getByLabelText('Blower pulley'));
  await userEvent.type(screen.getByLabelText('Blower pulley'), '80');
  expect(await screen.findByText(/The measured boost was there before these pulleys/)).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'It was measured with these pulleys' }));
  await waitFor(() => expect(screen.queryByText(/The measured boost was there before/)).toBeNull());
  await waitFor(() => expect(saves.at(-1)?.doc.car.measured.boost?.driveRatio).not.toBeNull());
});
