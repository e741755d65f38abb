import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { SUMS } from '@/core/sums/all';
import { renderRoom } from '../../../test/render-room';
import { addressFigure } from './address';
import { SumsRoom } from './sums-room';

const heading = () => screen.getByRole('heading', { level: 1 });

it('lists every sum and the units, and opens on the first', () => {
  renderRoom(<SumsRoom />);
  const list = screen.getByRole('navigation', { name: 'Sums' });
  expect(within(list).getAllByRole('link')).toHaveLength(SUMS.length + 1);
  expect(within(list).getByRole('link', { name: 'What an engine needs' })).toHaveAttribute('aria-current', 'page');
  expect(heading()).toHaveTextContent('The engine needs 479 kg/h of air, 399 m³/h of today’s.');
});

it('opens what the address names, with its figures', () => {
  renderRoom(<SumsRoom />, { address: '?sum=pulley&lim=12000&x=0.1' });
  expect(heading()).toHaveTextContent('The blower turns 16,088 rpm at 6,500 rpm: 4,088 rpm beyond its limit.');
  expect(screen.getByRole('alert')).toHaveTextContent(/^Go no smaller than/);
  expect(screen.getByText('same as this upper on the stock lower')).toBeInTheDocument();
});

it('answers while it is typed, and puts the figure into the address', async () => {
  const { addresses } = renderRoom(<SumsRoom />, { address: '?sum=demand' });
  const field = screen.getByLabelText('Displacement');
  await userEvent.clear(field);
  await userEvent.type(field, '3');
  expect(heading()).toHaveTextContent('The engine needs 718 kg/h');
  await waitFor(() => expect(addresses.at(-1)).toMatch(/V=0\.003(&|$)/));
});

it('asks only for what the choice needs', async () => {
  renderRoom(<SumsRoom />, { address: '?sum=demand' });
  expect(screen.queryByLabelText('BSFC')).toBeNull();
  await userEvent.click(screen.getByLabelText('Work from'));
  await userEvent.click((await screen.findAllByTitle('power')).at(-1)!);
  expect(await screen.findByLabelText('BSFC')).toBeInTheDocument();
  expect(screen.queryByLabelText('Displacement')).toBeNull();
});

it('a figure that cannot be says what could, and gives no answer', async () => {
  renderRoom(<SumsRoom />, { address: '?sum=demand&T=400' });
  expect(heading()).toHaveTextContent('One figure beside this cannot be; it says what could.');
  expect(screen.getByRole('alert')).toHaveTextContent('between -40 °C and 60 °C'.replace('-', '−'));
});

it('a failure of the core is told in words', () => {
  renderRoom(<SumsRoom />, { address: '?sum=bore-flow&D=0.02&d=0.03' });
  expect(heading()).toHaveTextContent('this cannot be built: the shaft is as thick as the bore.');
});

it('shows how it is worked out', async () => {
  renderRoom(<SumsRoom />, { address: '?sum=coupler' });
  expect(screen.getByRole('heading', { name: 'How it is worked out' })).toBeInTheDocument();
  expect(await screen.findByRole('heading', { name: 'Stretch of the coupler' })).toBeInTheDocument();
});

it('starts again from the usual figures', async () => {
  renderRoom(<SumsRoom />, { address: '?sum=coupler&Dt=0.08' });
  expect(heading()).toHaveTextContent(/^Too tight/);
  await userEvent.click(screen.getByRole('button', { name: 'Start again' }));
  await waitFor(() => expect(heading()).toHaveTextContent(/^It pushes on/));
});

it('speaks the reader’s units', () => {
  renderRoom(<SumsRoom />, { address: '?sum=oval', pack: 'us' });
  expect(heading()).toHaveTextContent(/round 67\.6 mm;/);
});

describe('units', () => {
  it('turns a figure into every unit of its kind', () => {
    renderRoom(<SumsRoom />, { address: '?sum=units&q=28 inH2O' });
    expect(heading()).toHaveTextContent('28 inH₂O is 6,974.489 Pa, or 6.974489 kPa.');
    expect(screen.getByText('psi').closest('tr')).toHaveTextContent('1.011564');
  });

  it('knows what a degree of offset is', async () => {
    renderRoom(<SumsRoom />, { address: '?sum=units' });
    const field = screen.getByLabelText('Figure with its unit');
    await userEvent.clear(field);
    await userEvent.type(field, '68 F');
    await waitFor(() => expect(heading()).toHaveTextContent('68 °F is 20 °C'));
  });

  it.each([
    ['28', /Type the unit behind the figure/],
    ['much air', /has no number in front/],
    ['3 furlongs', /"furlongs" is no unit known here. Known: mm, cm/],
  ])('refuses %j in place', (q, words) => {
    renderRoom(<SumsRoom />, { address: `?sum=units&q=${encodeURIComponent(q)}` });
    expect(screen.getByRole('alert')).toHaveTextContent(words);
  });
});

it('an address holds figures without the noise of the last bit', () => {
  expect(addressFigure(0.1 + 0.2)).toBe('0.3');
  expect(addressFigure(16_000)).toBe('16000');
});
