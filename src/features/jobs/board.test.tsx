import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { JobFindings } from '@/core/verdict/findings';
import type { BoardPage, BoardQuery } from '@/server/board';
import type { BoardJob } from '@/server/jobs';
import { PrefsProvider } from '@/ui/theme/prefs';
import { useCommands } from '@/ui/shell/commands';
import { JobBoard } from './board';

const push = jest.fn();
const refresh = jest.fn();
jest.mock('next/navigation', () => ({ useRouter: () => ({ push, refresh }) }));

const findings: JobFindings = {
  stops: [
    { stop: 'car', state: 'settled', displacement_m3: 0.0029, cylinders: 6, bore_m: 0.058, control: 'cable' },
    { stop: 'air', state: 'settled', givesOut_rpm: 5268, left_pct: 2.6, failed: null },
  ],
};
const job = (more: Partial<BoardJob> = {}): BoardJob => ({
  id: 'a',
  number: 1041,
  name: 'Larkspur estate',
  savedAt: '2026-04-18T09:14:00Z',
  archived: false,
  version: 1,
  tags: [],
  findings,
  ...more,
});
const pageOf = (jobs: BoardJob[], more: Partial<BoardPage> = {}): BoardPage => ({
  jobs,
  total: jobs.length,
  all: jobs.length,
  archived: 0,
  tags: [],
  people: [],
  ...more,
});
const show = (jobs: BoardJob[], more: Partial<BoardPage> = {}, query: BoardQuery = {}) =>
  render(
    <PrefsProvider pack="metric" theme="light">
      <JobBoard page={pageOf(jobs, more)} query={query} />
    </PrefsProvider>,
  );
const choose = async (of: string, what: string): Promise<void> => {
  await userEvent.click(screen.getByRole('button', { name: `More for ${of}` }));
  await userEvent.click(await screen.findByRole('menuitem', { name: what }));
};
const sent: { url: string; body: unknown }[] = [];
const answer = (ok: boolean, body: unknown): void => {
  globalThis.fetch = ((url: string, init: RequestInit) => {
    if (init.body) sent.push({ url, body: JSON.parse(String(init.body)) });
    return Promise.resolve({ ok, json: () => Promise.resolve(body) } as Response);
  }) as typeof fetch;
};

beforeEach(() => {
  sent.length = 0;
  push.mockReset();
  refresh.mockReset();
});

it('shows each car with its number, its engine and the one thing found', () => {
  show([job(), job({ id: 'b', number: 1042, name: 'Heron coupé' })]);
  expect(screen.getByRole('heading')).toHaveTextContent('2 cars in the shop');
  const row = screen.getByRole('row', { name: /Larkspur estate/ });
  expect(row).toHaveTextContent('1041');
  expect(row).toHaveTextContent('2.9 L, 6 cylinders, 58 mm cable');
  expect(row).toHaveTextContent('Stock runs short from 5,270.');
  expect(within(row).getByRole('link', { name: /Larkspur estate/ })).toHaveAttribute('href', '/jobs/a/air');
  expect(within(row).getByRole('img', { name: /^Car: settled, Air: settled, Pick: empty/ })).toBeInTheDocument();
});

it('an empty shop has three doors', async () => {
  answer(true, { id: 'ex' });
  show([]);
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('No car in the shop yet');
  expect(screen.getByRole('link', { name: 'Size a throttle' })).toHaveAttribute('href', '/start');
  expect(screen.getByRole('link', { name: 'Practise testing' })).toHaveAttribute('href', '/practice');
  await userEvent.click(screen.getByRole('button', { name: 'Load the example' }));
  await waitFor(() => expect(push).toHaveBeenCalledWith('/jobs/ex/air'));
  expect(sent).toEqual([{ url: '/api/jobs', body: { example: true } }]);
});

it('the example can be taken away again where there is one', async () => {
  answer(true, { jobs: 1 });
  show([job({ tags: ['example'] })], { tags: ['example'] });
  await userEvent.click(screen.getByRole('button', { name: 'More ways to begin' }));
  await userEvent.click(await screen.findByRole('menuitem', { name: 'Remove the example' }));
  expect(await screen.findByText(/are in the trash/)).toBeInTheDocument();
  expect(refresh).toHaveBeenCalled();
});

it('duplicates and archives through the server, undoes, and says when it cannot', async () => {
  answer(true, {});
  show([job()]);
  await choose('Larkspur estate', 'Duplicate');
  await waitFor(() => expect(refresh).toHaveBeenCalledTimes(1));
  await choose('Larkspur estate', 'Archive');
  await waitFor(() => expect(refresh).toHaveBeenCalledTimes(2));
  await userEvent.click(await screen.findByRole('button', { name: 'Undo' }));
  await waitFor(() => expect(sent).toHaveLength(3));
  expect(sent).toEqual([
    { url: '/api/jobs', body: { duplicateOf: 'a' } },
    { url: '/api/jobs/a/archive', body: { archived: true } },
    { url: '/api/jobs/a/archive', body: { archived: false } },
  ]);
  answer(false, { message: 'The database cannot be reached just now.' });
  await choose('Larkspur estate', 'Duplicate');
  expect(await screen.findByText('The database cannot be reached just now.')).toBeInTheDocument();
});

it('is narrowed by its address, which is remembered, and shows all again', async () => {
  show([job()], { all: 9, total: 1, tags: ['track'], people: ['Maud'] }, { who: 'Maud', page: 3 });
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('1 of 9 cars');
  await userEvent.type(screen.getByRole('textbox', { name: 'Words in a job' }), 'lark');
  await waitFor(() => expect(push).toHaveBeenCalledWith('/?q=lark&who=Maud'));
  expect(document.cookie).toContain(`vanner-board=${encodeURIComponent('q=lark&who=Maud')}`);
  await userEvent.click(screen.getByRole('button', { name: 'Show all' }));
  expect(push).toHaveBeenLastCalledWith('/');
  expect(document.cookie).not.toContain('Maud');
});

it('sorts by the database, not the page in hand', async () => {
  show([job(), job({ id: 'b', number: 7, name: 'Heron' })], { all: 60, total: 60 });
  await userEvent.click(screen.getByRole('columnheader', { name: /car/ }));
  expect(push).toHaveBeenCalledWith('/?sort=name&up=1');
  await userEvent.click(screen.getByTitle('2'));
  expect(push).toHaveBeenLastCalledWith('/?page=2');
});

it('several are archived, or put into the trash and brought back, in one go', async () => {
  answer(true, {});
  show([job(), job({ id: 'b', number: 7, name: 'Heron' }), job({ id: 'c', number: 8, name: 'Pipit' })]);
  for (const name of [/Larkspur/, /Heron/]) await userEvent.click(within(screen.getByRole('row', { name })).getByRole('checkbox'));
  expect(screen.getByRole('group', { name: 'With those chosen' })).toHaveTextContent('2 chosen');
  await userEvent.click(screen.getByRole('button', { name: 'Put into the trash' }));
  expect(await screen.findByText('2 jobs are in the trash.')).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
  await waitFor(() => expect(sent).toHaveLength(4));
  expect(sent.map((s) => (s.body as { id: string; trashed: boolean }).trashed)).toEqual([true, true, false, false]);
});

it('a new job wants a name, then goes to its Car step', async () => {
  answer(true, { id: 'new-id' });
  show([]);
  await userEvent.click(screen.getByRole('button', { name: 'New job' }));
  const dialog = await screen.findByRole('dialog');
  await userEvent.click(within(dialog).getByRole('button', { name: 'Create' }));
  expect(await within(dialog).findByText('Give the job a name.')).toBeInTheDocument();
  expect(within(dialog).getByPlaceholderText('Sparrow saloon')).toHaveAccessibleDescription('Give the job a name.');
  await waitFor(() => expect(within(dialog).getByPlaceholderText('Sparrow saloon')).toHaveFocus());
  await userEvent.type(within(dialog).getByPlaceholderText('Sparrow saloon'), 'Wren van');
  await userEvent.click(within(dialog).getByRole('button', { name: 'Create' }));
  await waitFor(() => expect(push).toHaveBeenCalledWith('/jobs/new-id/car'));
  expect(sent[0]!.body).toMatchObject({ name: 'Wren van' });
});

it('a new job that the server refuses keeps the name and says why', async () => {
  answer(false, { message: 'The database cannot be reached just now.' });
  show([]);
  await userEvent.click(screen.getByRole('button', { name: 'New job' }));
  const dialog = await screen.findByRole('dialog');
  await userEvent.type(within(dialog).getByPlaceholderText('Sparrow saloon'), 'Wren van{Enter}');
  expect(await within(dialog).findByText('The database cannot be reached just now.')).toBeInTheDocument();
  expect(within(dialog).getByPlaceholderText('Sparrow saloon')).toHaveValue('Wren van');
});

it('offers its jobs to find-or-do', () => {
  show([job()]);
  const offered = Object.values(useCommands.getState().groups).flat();
  offered.find((c) => c.title === 'Larkspur estate')!.run();
  expect(push).toHaveBeenCalledWith('/jobs/a/air');
});
