import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderRoom } from '../../../test/render-room';
import { HistoryDrawer } from './drawer';

const version = (n: number, bore_m: number, savedBy: string) => ({
  version: n,
  savedBy,
  savedAt: `2026-04-2${n}T10:00:00Z`,
  doc: { name: 'Larkspur', car: { stock: { manifoldOpening_m: bore_m } } },
});

it('tells who changed what, in the reader’s units, and restores an older state over the newest', async () => {
  const restored = jest.fn();
  const list = [version(3, 0.066, 'Tobin'), version(1, 0.058, '')];
  const { sent } = renderRoom(<HistoryDrawer kind="job" id="j" title="this job" onRestored={restored} onClose={() => {}} />, {
    answer: ({ method }) => ({ body: method === 'POST' ? [version(4, 0.058, 'Maud'), ...list] : list }),
  });
  expect(await screen.findByText('car, stock, manifold bore: 58.0 mm → 66.0 mm')).toBeInTheDocument();
  expect(screen.getByText(/, Tobin$/)).toBeInTheDocument();
  expect(screen.getByText(/, nobody named$/)).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Restore version 1' }));
  await waitFor(() => expect(restored).toHaveBeenCalledTimes(1));
  expect(sent.at(-1)).toEqual({ method: 'POST', url: '/api/history/job/j', body: { version: 1, at: 3 } });
  expect(screen.getByText(/, Maud$/)).toBeInTheDocument();
});

it('of a document never changed says so, and of a server away too', async () => {
  renderRoom(<HistoryDrawer kind="job" id="j" title="this job" onRestored={() => {}} onClose={() => {}} />, {
    answer: () => ({ body: [version(1, 0.058, 'Maud')] }),
  });
  expect(await screen.findByText('It has not been changed since it was made.')).toBeInTheDocument();
});

it('says when it cannot be read', async () => {
  renderRoom(<HistoryDrawer kind="job" id="j" title="this job" onRestored={() => {}} onClose={() => {}} />, {
    answer: () => ({ status: 503, body: { message: 'The database cannot be reached just now.' } }),
  });
  expect(await screen.findByRole('alert')).toHaveTextContent('The database cannot be reached just now.');
});
