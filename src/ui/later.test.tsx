import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { App } from 'antd';
import type { ComponentType } from 'react';
import { renderJob } from '../../test/render-job';
import { AwayView, later } from './later';

beforeEach(() => {
  globalThis.fetch = jest.fn(() => Promise.reject(new TypeError('Failed to fetch')));
});

it('comes when it is asked for', async () => {
  const Part = later(() => Promise.resolve(({ name }: { name: string }) => <p>part {name}</p>));
  render(<Part name="a" />);
  expect(await screen.findByText('part a')).toBeInTheDocument();
});

it('that cannot be fetched says so, closes, and leaves the page around it', async () => {
  const close = jest.fn();
  const Part = later<{ onClose: () => void }>(() => Promise.reject(new Error('ChunkLoadError')));
  render(
    <App>
      <p>the page</p>
      <Part onClose={close} />
    </App>,
  );
  expect(await screen.findByText(/could not be fetched: the server cannot be reached/)).toBeInTheDocument();
  await waitFor(() => expect(close).toHaveBeenCalled());
  expect(screen.getByText('the page')).toBeInTheDocument();
});

it('that could not be fetched is asked for anew when it is wanted again', async () => {
  let away = true;
  const load = (): Promise<ComponentType<{ onClose: () => void }>> =>
    away ? Promise.reject(new Error('ChunkLoadError')) : Promise.resolve(() => <p>the part</p>);
  const Part = later(load);
  const close = jest.fn();
  const first = render(<Part onClose={close} />, { wrapper: App });
  await waitFor(() => expect(close).toHaveBeenCalled());
  first.unmount();
  away = false;
  render(<Part onClose={close} />, { wrapper: App });
  expect(await screen.findByText('the part')).toBeInTheDocument();
  expect(close).toHaveBeenCalledTimes(1);
});

it('a view says in its own place that it did not come, and comes when it is asked for again', async () => {
  let away = true;
  const load = (): Promise<ComponentType<{ name: string }>> =>
    away ? Promise.reject(new Error('ChunkLoadError')) : Promise.resolve(({ name }) => <p>view {name}</p>);
  const View = later(load, AwayView);
  renderJob(<View name="b" />, { answer: () => ({ status: 503, body: {} }) });
  expect(await screen.findByRole('heading', { level: 1 })).toHaveTextContent('This view could not be fetched');
  const again = screen.getByRole('button', { name: 'Try again' });
  await userEvent.click(again);
  expect(await screen.findByRole('button', { name: 'Try again' })).toBeInTheDocument();
  away = false;
  await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
  expect(await screen.findByText('view b')).toBeInTheDocument();
});
