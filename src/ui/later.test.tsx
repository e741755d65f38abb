import { render, screen, waitFor } from '@testing-library/react';
import { App } from 'antd';
import { later } from './later';

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
  expect(await screen.findByText(/could not be fetched from the server/)).toBeInTheDocument();
  await waitFor(() => expect(close).toHaveBeenCalled());
  expect(screen.getByText('the page')).toBeInTheDocument();
});
