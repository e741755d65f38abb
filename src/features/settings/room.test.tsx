import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { shopSettingsDoc } from '@/core/documents/shop';
import { renderRoom } from '../../../test/render-room';
import { SettingsRoom } from './room';

const refresh = jest.fn();
jest.mock('next/navigation', () => ({ useRouter: () => ({ refresh }) }));
const settings = shopSettingsDoc.parse({ name: 'Mill Yard', people: ['Maud'] });

it('takes people on and off, refuses a name twice, and saves each at once', async () => {
  const { sent } = renderRoom(<SettingsRoom settings={settings} passphrase={false} beyond={false} />, { answer: ({ body }) => ({ body }) });
  await userEvent.type(screen.getByLabelText('Another person'), 'Tobin{Enter}');
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('Mill Yard: 2 people.');
  await waitFor(() => expect(sent.at(-1)).toMatchObject({ method: 'PUT', body: { people: ['Maud', 'Tobin'] } }));
  await userEvent.type(screen.getByLabelText('Another person'), 'maud{Enter}');
  expect(screen.getByRole('alert')).toHaveTextContent('Two people have the same name.');
  await userEvent.click(screen.getByRole('button', { name: 'Remove Maud from the list' }));
  await waitFor(() => expect(sent.at(-1)).toMatchObject({ body: { people: ['Tobin'] } }));
});

it('counts money under the shop’s own sign, and says why one is refused', async () => {
  const { sent } = renderRoom(<SettingsRoom settings={settings} passphrase={false} beyond={false} />, {
    answer: ({ body }) =>
      shopSettingsDoc.safeParse(body).success ? { body } : { status: 422, body: { message: 'A currency’s sign holds no figures.' } },
  });
  const box = screen.getByLabelText('Currency symbol');
  expect(box).toHaveValue('€');
  await userEvent.clear(box);
  await userEvent.type(box, 'kr{Enter}');
  await waitFor(() => expect(sent.at(-1)).toMatchObject({ method: 'PUT', body: { currency: 'kr' } }));
  expect(refresh).toHaveBeenCalled();
  await userEvent.clear(box);
  await userEvent.type(box, '5{Enter}');
  expect(await screen.findByRole('alert')).toHaveTextContent('A currency’s sign holds no figures.');
});

it('sets a passphrase, and says why the server does not take one', async () => {
  const { sent } = renderRoom(<SettingsRoom settings={settings} passphrase={false} beyond={false} />, {
    answer: ({ body }) =>
      (body as { next: string }).next === 'short'
        ? { status: 422, body: { message: 'A passphrase has 10 characters at least.' } }
        : { body: { set: true } },
  });
  await userEvent.type(screen.getByLabelText('New passphrase'), 'short');
  await userEvent.click(screen.getByRole('button', { name: 'Set it' }));
  expect(await screen.findByRole('alert')).toHaveTextContent('A passphrase has 10 characters at least.');
  await userEvent.clear(screen.getByLabelText('New passphrase'));
  await userEvent.type(screen.getByLabelText('New passphrase'), 'three plain words');
  await userEvent.click(screen.getByRole('button', { name: 'Set it' }));
  expect(await screen.findByLabelText('Current passphrase')).toBeInTheDocument();
  expect(sent.at(-1)).toMatchObject({ body: { current: '', next: 'three plain words' } });
  expect(screen.getByRole('button', { name: 'Take it away' })).toBeDisabled();
});

it('listening beyond its machine it cannot be taken away', () => {
  renderRoom(<SettingsRoom settings={settings} passphrase beyond />);
  expect(screen.queryByRole('button', { name: 'Take it away' })).toBeNull();
});
