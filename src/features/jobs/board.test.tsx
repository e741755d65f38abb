import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { JobFindings } from '@/core/job/findings';
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
const show = (jobs: BoardJob[]) =>
  render(
    <PrefsProvider pack="metric" theme="light">
      <JobBoard jobs={jobs} />
    </PrefsProvider>,
  );
const sent: { url: string; body: unknown }[] = [];
const answer = (ok: boolean, body: unknown): void => {
  globalThis.fetch = ((url: string, init: RequestInit) => {
    sent.push({ url, body: JSON.parse(String(init.body)) });
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
  const row = screen.getByRole('link', { name: /Larkspur estate/ });
  expect(row).toHaveTextContent('1041');
  expect(row).toHaveTextContent('2.9 L, 6 cylinders, 58 mm cable');
  expect(row).toHaveTextContent('Stock runs short from 5,270.');
  expect(row).toHaveAttribute('href', '/jobs/a/air');
});

it('an empty shop says how to begin', () => {
  show([]);
  expect(screen.getByRole('heading')).toHaveTextContent('No car in the shop yet');
  expect(screen.getByText(/Begin with New job/)).toBeInTheDocument();
});

it('duplicates and archives through the server, and says when it cannot', async () => {
  answer(true, {});
  show([job()]);
  await userEvent.click(screen.getByRole('button', { name: 'Duplicate Larkspur estate' }));
  await waitFor(() => expect(refresh).toHaveBeenCalledTimes(1));
  await userEvent.click(screen.getByRole('button', { name: 'Archive Larkspur estate' }));
  await waitFor(() => expect(refresh).toHaveBeenCalledTimes(2));
  expect(sent).toEqual([
    { url: '/api/jobs', body: { duplicateOf: 'a' } },
    { url: '/api/jobs/a/archive', body: { archived: true } },
  ]);
  answer(false, { message: 'The database cannot be reached just now.' });
  await userEvent.click(screen.getByRole('button', { name: 'Duplicate Larkspur estate' }));
  expect(await screen.findByText('The database cannot be reached just now.')).toBeInTheDocument();
});

it('keeps archived jobs apart and brings them back', async () => {
  answer(true, {});
  show([job(), job({ id: 'b', name: 'Old one', archived: true })]);
  expect(screen.queryByText('Old one')).toBeNull();
  await userEvent.click(screen.getByRole('button', { name: 'Archived (1)' }));
  expect(screen.getByText('Old one')).toBeInTheDocument();
  expect(screen.queryByText('Larkspur estate')).toBeNull();
  await userEvent.click(screen.getByRole('button', { name: 'Bring back Old one' }));
  await waitFor(() => expect(sent.at(-1)).toEqual({ url: '/api/jobs/b/archive', body: { archived: false } }));
});

it('a new job wants a name, then goes to its Car stop', async () => {
  answer(true, { id: 'new-id' });
  show([]);
  await userEvent.click(screen.getByRole('button', { name: 'New job' }));
  const dialog = await screen.findByRole('dialog');
  await userEvent.click(within(dialog).getByRole('button', { name: 'Create' }));
  expect(within(dialog).getByRole('alert')).toHaveTextContent('Give the job a name');
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
  expect(await within(dialog).findByRole('alert')).toHaveTextContent('The database cannot be reached just now.');
  expect(within(dialog).getByPlaceholderText('Sparrow saloon')).toHaveValue('Wren van');
});

it('offers its jobs to find-or-do', () => {
  show([job()]);
  const offered = Object.values(useCommands.getState().groups).flat();
  offered.find((c) => c.title === 'Larkspur estate')!.run();
  expect(push).toHaveBeenCalledWith('/jobs/a/air');
});
