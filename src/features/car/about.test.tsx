import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useJobStore } from '@/features/job/provider';
import type { JobStore } from '@/features/job/store';
import { renderJob } from '../../../test/render-job';
import { About } from './about';

let store: JobStore;
function Grab() {
  store = useJobStore();
  return <About />;
}
const about = () => store.getState().doc.about;
beforeEach(() => {
  localStorage.clear();
  sessionStorage.clear();
});
const open = async (): Promise<void> => {
  renderJob(<Grab />);
  const fold = screen.getByText('Owner and car').closest('details')!;
  fold.open = true;
  fold.dispatchEvent(new Event('toggle'));
  await screen.findByLabelText('Owner');
};

it('owner, plate and mileage are typed in any unit, and stand in the fold', async () => {
  await open();
  await userEvent.type(screen.getByLabelText('Owner'), 'Imke Voss');
  await userEvent.type(screen.getByLabelText('Plate or chassis'), 'QL 66');
  await userEvent.type(screen.getByLabelText('Mileage'), '74,500 mi');
  expect(about()).toMatchObject({ owner: 'Imke Voss', plate: 'QL 66' });
  expect(about().mileage_m! / 1609.344).toBeCloseTo(74_500, 0);
  expect(screen.getByText('Imke Voss, QL 66')).toBeInTheDocument();
});

it('nothing is on the customer’s page until it is ticked, and only what is said can be', async () => {
  await open();
  expect(screen.queryByText('On the customer’s page')).toBeNull();
  await userEvent.type(screen.getByLabelText('Owner'), 'Imke');
  expect(about().onCustomersPage).toEqual([]);
  expect(screen.queryByRole('checkbox', { name: 'mileage' })).toBeNull();
  await userEvent.click(screen.getByRole('checkbox', { name: 'owner' }));
  expect(about().onCustomersPage).toEqual(['owner']);
});

it('a picture is sent, captioned, removed and brought back; what is none is told', async () => {
  const hash = 'b'.repeat(64);
  let sound = true;
  await open();
  globalThis.fetch = ((url: string) =>
    Promise.resolve({ ok: sound || url === '/api/files', json: () => Promise.resolve({ hash }) } as Response)) as typeof fetch;
  // The library makes the field anew for each choice.
  const input = () => document.querySelector<HTMLInputElement>('input[type=file]')!;
  await userEvent.upload(input(), new File(['x'], 'car.png', { type: 'image/png' }));
  await waitFor(() => expect(about().photos).toEqual([{ hash, caption: '' }]));
  await userEvent.type(screen.getByLabelText('Caption of picture 1'), 'ramp');
  expect(about().photos[0]!.caption).toBe('ramp');
  await userEvent.click(screen.getByRole('button', { name: 'Remove picture 1' }));
  expect(about().photos).toEqual([]);
  await userEvent.click(await screen.findByRole('button', { name: 'Undo' }));
  expect(about().photos).toHaveLength(1);
  sound = false;
  await userEvent.upload(input(), new File(['y'], 'notes.png', { type: 'image/png' }));
  expect(await screen.findByText(/no PNG, JPEG or WebP picture/)).toBeInTheDocument();
  expect(about().photos).toHaveLength(1);
});
