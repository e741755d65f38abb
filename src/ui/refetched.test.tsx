import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Chart } from './chart/lazy-chart';
import { Num, WorkingProvider } from './working/provider';

let mockAway = true;
const mockFetched = <T,>(module: T): T => {
  if (mockAway) throw new Error('ChunkLoadError');
  return module;
};
jest.mock('./chart/chart', () => mockFetched({ Chart: () => <p>the chart</p> }));
jest.mock('./working/steps', () => mockFetched({ Steps: () => <p>the steps</p> }));

beforeEach(() => {
  mockAway = true;
  globalThis.fetch = jest.fn(() => Promise.reject(new TypeError('Failed to fetch')));
});

it('where the server answers, the page may be an older one: it can be reloaded', async () => {
  globalThis.fetch = jest.fn(() => Promise.resolve({ ok: true } as Response));
  render(<Chart spec={{ lines: [], xRange: [0, 1], xTitle: 'x', yTitle: 'y', decimals: 0 }} height={200} name="one" alt="one" />);
  expect(await screen.findByText(/although the server answers: it may have a newer Vanner than this page\./)).toBeInTheDocument();
  expect(screen.getByRole('button', { name: 'Reload the page' })).toBeInTheDocument();
  expect(screen.getByRole('button', { name: 'Try again' })).toBeInTheDocument();
});

it('a chart that could not be fetched comes when it is asked for again, and stays away while the server does', async () => {
  render(<Chart spec={{ lines: [], xRange: [0, 1], xTitle: 'x', yTitle: 'y', decimals: 0 }} height={200} name="one" alt="one" />);
  expect(await screen.findByText(/^The chart could not be fetched/)).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
  expect(await screen.findByText(/^The chart could not be fetched/)).toBeInTheDocument();
  mockAway = false;
  await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
  expect(await screen.findByText('the chart')).toBeInTheDocument();
});

it('a working that could not be fetched comes the next time it is opened', async () => {
  render(
    <WorkingProvider>
      <Num label="two" working={() => ({ title: 'Two', steps: [], notes: [] })}>
        2
      </Num>
    </WorkingProvider>,
  );
  const two = screen.getByRole('button', { name: '2, two: show the working' });
  await userEvent.click(two);
  expect(await screen.findByText(/^The working could not be fetched/)).toBeInTheDocument();
  await userEvent.keyboard('{Escape}');
  mockAway = false;
  await userEvent.click(two);
  expect(await screen.findByText('the steps')).toBeInTheDocument();
});
