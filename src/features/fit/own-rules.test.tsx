import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { SHOP_RULE } from '../../../test/fitting';
import { renderRoom } from '../../../test/render-room';
import type { ShopRule } from '@/core/documents/shop-rules';
import { giveChecks } from '@/ui/checks';
import { OwnRules } from './own-rules';

const RULE = SHOP_RULE;

/** `stands`: what the server holds by now, where that is not what this window was opened with. */
function begin(rules: readonly ShopRule[] = [], status = 200, stands = rules) {
  const saved: ShopRule[][] = [];
  let held: unknown = stands;
  const room = renderRoom(<OwnRules rules={rules} onSaved={(r) => saved.push(r)} onClose={() => {}} />, {
    answer: ({ method, body }) => {
      if (status !== 200) return { status, body: { message: 'The database is away.' } };
      if (method === 'PUT') held = body;
      return { body: held };
    },
  });
  return { ...room, saved };
}

it('asks for a name and a reason before it takes a check', async () => {
  const { sent } = begin();
  await userEvent.click(screen.getByRole('button', { name: 'Add the check' }));
  expect(await screen.findByText('Give the check a name.')).toBeInTheDocument();
  expect(await screen.findByText('Say why: the next person wants to know.')).toBeInTheDocument();
  // The first wrong one has the focus, and its reason is tied to it.
  await waitFor(() => expect(screen.getByLabelText('Check')).toHaveFocus());
  expect(screen.getByLabelText('Check')).toHaveAccessibleDescription('Give the check a name.');
  expect(sent).toEqual([]);
});

it('adds one to those there are, and is ready for the next', async () => {
  const { sent, saved } = begin([RULE]);
  expect(screen.getByText('free over the throttle at least 30.0 mm')).toBeInTheDocument();
  await userEvent.type(screen.getByLabelText('Check'), 'Wing nut');
  await userEvent.clear(screen.getByLabelText('Figure'));
  await userEvent.type(screen.getByLabelText('Figure'), '1 in');
  await userEvent.type(screen.getByLabelText('Reason'), 'It touches.');
  await userEvent.click(screen.getByRole('button', { name: 'Add the check' }));
  await waitFor(() => expect(saved).toHaveLength(1));
  expect(sent.at(-1)).toMatchObject({ method: 'PUT', url: '/api/shop/rules' });
  expect(saved[0]).toEqual([RULE, expect.objectContaining({ title: 'Wing nut', than: expect.closeTo(0.0254, 9), cure: '' })]);
  expect(screen.getByLabelText('Check')).toHaveValue('');
});

it('takes one out, and back by its undo', async () => {
  const { saved } = begin([RULE]);
  await userEvent.click(screen.getByRole('button', { name: 'Remove Strut brace' }));
  await waitFor(() => expect(saved).toEqual([[]]));
  await userEvent.click(await screen.findByRole('button', { name: 'Undo' }));
  await waitFor(() => expect(saved).toEqual([[], [RULE]]));
});

it('what another window added or took out meanwhile stands, and an undo brings back its own check alone', async () => {
  const other = { ...RULE, id: 'own-other', title: 'Hood brace' };
  const { saved } = begin([RULE], 200, [RULE, other]);
  await userEvent.click(screen.getByRole('button', { name: 'Remove Strut brace' }));
  await waitFor(() => expect(saved).toEqual([[other]]));
  await userEvent.click(await screen.findByRole('button', { name: 'Undo' }));
  await waitFor(() => expect(saved.at(-1)).toEqual([other, RULE]));
});

it('a form asks no longer than a moment for what it is checked by; the server says what is wrong then', async () => {
  giveChecks(new Promise(() => {}));
  const { sent } = begin();
  await userEvent.type(screen.getByLabelText('Check'), 'Wing nut');
  await userEvent.type(screen.getByLabelText('Reason'), 'It touches.');
  await userEvent.click(screen.getByRole('button', { name: 'Add the check' }));
  await waitFor(() => expect(sent.at(-1)).toMatchObject({ method: 'PUT' }));
});

it.each(['2o mm', 'two', ''])('a figure that cannot be read (%j) is none: the one before it is not taken for it', async (text) => {
  const { sent } = begin();
  await userEvent.type(screen.getByLabelText('Check'), 'Wing nut');
  await userEvent.type(screen.getByLabelText('Reason'), 'It touches.');
  const figure = screen.getByLabelText('Figure');
  await userEvent.clear(figure);
  await userEvent.type(figure, `25${text}`);
  if (text === '') await userEvent.clear(figure);
  await userEvent.click(screen.getByRole('button', { name: 'Add the check' }));
  expect(await screen.findByText('A figure is needed here.')).toBeInTheDocument();
  expect(figure).toHaveValue(text === '' ? '' : `25${text}`);
  expect(sent).toEqual([]);
  await userEvent.clear(figure);
  await userEvent.type(figure, '25');
  await userEvent.click(screen.getByRole('button', { name: 'Add the check' }));
  await waitFor(() => expect(sent.at(-1)).toMatchObject({ method: 'PUT' }));
});

it('a figure that cannot be is refused in the shop’s unit', async () => {
  const { sent } = begin();
  await userEvent.type(screen.getByLabelText('Check'), 'Wing nut');
  await userEvent.type(screen.getByLabelText('Reason'), 'It touches.');
  await userEvent.clear(screen.getByLabelText('Figure'));
  await userEvent.type(screen.getByLabelText('Figure'), '1200 mm');
  await userEvent.click(screen.getByRole('button', { name: 'Add the check' }));
  expect(await screen.findByText('Larger than a metre: look at the unit.')).toBeInTheDocument();
  expect(sent).toEqual([]);
});

it('a server that refuses is told, and nothing typed is lost', async () => {
  const { saved } = begin([], 503);
  await userEvent.type(screen.getByLabelText('Check'), 'Wing nut');
  await userEvent.type(screen.getByLabelText('Reason'), 'It touches.');
  await userEvent.click(screen.getByRole('button', { name: 'Add the check' }));
  expect(await screen.findByText('The database is away.')).toBeInTheDocument();
  expect(screen.getByLabelText('Check')).toHaveValue('Wing nut');
  expect(saved).toEqual([]);
});
