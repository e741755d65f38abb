import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderRoom } from '../../../test/render-room';
import { TrashRoom } from './trash-room';

const thing = (id: string, name: string) => ({ kind: 'run' as const, id, name, job: 'Larkspur estate', trashedAt: '2026-04-20T10:00:00Z' });

it('brings a thing back and tells it', async () => {
  const { sent } = renderRoom(<TrashRoom trashed={[thing('a', 'stock 58'), thing('b', 'Fenwick 66')]} />);
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('2 things lie in the trash.');
  await userEvent.click(screen.getByRole('button', { name: 'Bring back stock 58' }));
  await waitFor(() => expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('1 thing lies in the trash.'));
  expect(sent).toEqual([{ method: 'POST', url: '/api/trash', body: { kind: 'run', id: 'a', trashed: false } }]);
});

it('leaves it where it is when the server cannot', async () => {
  renderRoom(<TrashRoom trashed={[thing('a', 'stock 58')]} />, {
    answer: () => ({ status: 503, body: { message: 'The database cannot be reached just now.' } }),
  });
  await userEvent.click(screen.getByRole('button', { name: 'Bring back stock 58' }));
  expect(await screen.findByText('The database cannot be reached just now.')).toBeInTheDocument();
  expect(screen.getByRole('button', { name: 'Bring back stock 58' })).toBeInTheDocument();
});

it('empty, it says so', () => {
  renderRoom(<TrashRoom trashed={[]} />);
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('The trash is empty.');
});
