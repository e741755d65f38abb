import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { shopSettingsDoc, type ShopSettings } from '@/core/documents/shop';
import { renderRoom } from '../../../test/render-room';
import { SettingsRoom } from './settings-room';
import { sizeWords } from './space';

const refresh = jest.fn();
jest.mock('next/navigation', () => ({ useRouter: () => ({ refresh }) }));
const AWAY = { status: 503, body: { message: 'The database is away.' } };
const settings = shopSettingsDoc.parse({ name: 'Mill Yard', people: ['Maud'] });

/** A server that holds the settings, with what somebody else has saved meanwhile. */
const held = (start: ShopSettings, others: Partial<ShopSettings> = {}) => {
  let now: ShopSettings = { ...start, ...others };
  return ({ url, method, body }: { url: string; method: string; body: unknown }): { status?: number; body: unknown } => {
    if (!url.endsWith('/settings')) return AWAY;
    if (method !== 'PUT') return { body: now };
    const parsed = shopSettingsDoc.safeParse(body);
    if (!parsed.success) return { status: 422, body: { message: parsed.error.issues[0]!.message } };
    now = parsed.data;
    return { body: now };
  };
};

it('takes people on and off, refuses a name twice, and saves each at once', async () => {
  const { sent } = renderRoom(<SettingsRoom settings={settings} passphrase={false} beyond={false} />, {
    answer: held(settings),
  });
  await userEvent.type(screen.getByLabelText('Another person'), 'Tobin{Enter}');
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('Mill Yard: 2 people.');
  await waitFor(() => expect(sent.at(-1)).toMatchObject({ method: 'PUT', body: { people: ['Maud', 'Tobin'] } }));
  await userEvent.type(screen.getByLabelText('Another person'), 'maud{Enter}');
  expect(screen.getByRole('alert')).toHaveTextContent('Two people have the same name.');
  // A name that is refused stays to be put right.
  expect(screen.getByLabelText('Another person')).toHaveValue('maud');
  await userEvent.click(screen.getByRole('button', { name: 'Remove Maud from the list' }));
  await waitFor(() => expect(sent.at(-1)).toMatchObject({ body: { people: ['Tobin'] } }));
});

it('counts money under the shop’s own sign, and says why one is refused', async () => {
  const { sent } = renderRoom(<SettingsRoom settings={settings} passphrase={false} beyond={false} />, {
    answer: held(settings),
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
  renderRoom(<SettingsRoom settings={settings} passphrase beyond />, { answer: () => AWAY });
  expect(screen.queryByRole('button', { name: 'Take it away' })).toBeNull();
});

it('says what the record takes and how large what comes in may be', async () => {
  const space = {
    database_bytes: 61 * 1024 * 1024,
    files: { count: 33, bytes: 12.4 * 1024 * 1024 },
    recordings: { count: 1, rows: 12_345 },
    jobs: 5,
    trashed: 2,
    sweptAfter_days: 30,
  };
  renderRoom(<SettingsRoom settings={settings} passphrase={false} beyond={false} />, {
    answer: ({ url, body }) => ({ body: url.endsWith('/space') ? space : body }),
  });
  expect(await screen.findByText('61 MB')).toBeInTheDocument();
  expect(screen.getByText('33 files, 12 MB as they came')).toBeInTheDocument();
  expect(screen.getByText('1, 12,345 rows')).toBeInTheDocument();
  expect(screen.getByText('5, 2 of them in the trash')).toBeInTheDocument();
  expect(screen.getByText('300 MB')).toBeInTheDocument();
  expect(screen.getByText(/^A file that nothing points at goes after 30 days/)).toBeInTheDocument();
});

it.each([
  [0, '0.0 MB'],
  [1024 * 1024 * 9.96, '10.0 MB'],
  [1024 * 1024 * 300, '300 MB'],
  [1024 ** 3 * 2.25, '2.3 GB'],
])('%d bytes are %s', (bytes, words) => {
  expect(sizeWords(bytes)).toBe(words);
});

it('takes back nothing that somebody else settled since the page was opened', async () => {
  const { sent } = renderRoom(<SettingsRoom settings={settings} passphrase={false} beyond={false} />, {
    answer: held(settings, { people: ['Maud', 'Ines'], currency: '£' }),
  });
  await userEvent.type(screen.getByLabelText('Another person'), 'Tobin{Enter}');
  await waitFor(() => expect(sent.at(-1)).toMatchObject({ method: 'PUT', body: { people: ['Maud', 'Ines', 'Tobin'], currency: '£' } }));
  expect(await screen.findByText('Ines')).toBeInTheDocument();
});

it('what cannot be with it is not kept, says why, and shows what stands there', async () => {
  renderRoom(<SettingsRoom settings={settings} passphrase={false} beyond={false} />, {
    answer: held(settings, { people: ['Maud', 'Tobin'] }),
  });
  await userEvent.type(screen.getByLabelText('Another person'), 'tobin{Enter}');
  expect(await screen.findByRole('alert')).toHaveTextContent('Not saved: Two people have the same name.');
  expect(screen.queryByRole('button', { name: 'Try again' })).toBeNull();
  expect(screen.getByText('Tobin')).toBeInTheDocument();
  expect(screen.queryByText('tobin')).toBeNull();
});

it('changes wait while the server is away, say so, and go together', async () => {
  let away = true;
  const there = held(settings);
  const { sent } = renderRoom(<SettingsRoom settings={settings} passphrase={false} beyond={false} />, {
    answer: (r) => (away ? AWAY : there(r)),
  });
  await userEvent.type(screen.getByLabelText('Another person'), 'Tobin{Enter}');
  expect(await screen.findByRole('alert')).toHaveTextContent('Not saved: The database is away.');
  await userEvent.type(screen.getByLabelText('Another person'), 'Ines{Enter}');
  expect(screen.getByRole('alert')).toBeInTheDocument();
  away = false;
  await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
  await waitFor(() => expect(screen.queryByRole('alert')).toBeNull());
  expect(sent.at(-1)).toMatchObject({ method: 'PUT', body: { people: ['Maud', 'Tobin', 'Ines'] } });
});
