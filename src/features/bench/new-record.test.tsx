import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { BenchRecord } from '@/core/documents/unit';
import { renderRoom } from '../../../test/render-room';
import { aUnit } from '../../../test/units';
import { NewRecord } from './new-record';

/** The practice bench, settled at 0.24 m³/s and 5,000 Pa. */
jest.mock('./live-bench', () => ({
  LiveBench: ({ onTake }: { onTake: (flow: number, depression: number) => void }) => (
    <button onClick={() => onTake(0.24, 5000)}>take it</button>
  ),
}));

/** A record is opened, without a guess, with the reading that the practice bench gave. */
async function simulated(): Promise<BenchRecord[]> {
  const kept: BenchRecord[] = [];
  renderRoom(
    <NewRecord
      subject={{ kind: 'unit', unit: aUnit(62) }}
      benches={['ours']}
      people={['Maud']}
      onSave={async (record) => void kept.push(record)}
      onLedger={() => {}}
    />,
  );
  await userEvent.click(screen.getByRole('button', { name: 'without a guess' }));
  await userEvent.click(screen.getByRole('radio', { name: /practice bench/ }));
  await userEvent.click(screen.getByRole('button', { name: 'take it' }));
  return kept;
}
const keep = (): Promise<void> => userEvent.click(screen.getByRole('button', { name: 'Keep this record' }));

it('a reading of the practice bench is kept with the depression it was read at, and says what it is', async () => {
  const kept = await simulated();
  await keep();
  await waitFor(() => expect(kept).toHaveLength(1));
  expect(kept[0]).toMatchObject({ flow_m3ps: 0.24, depression_Pa: 5000, note: 'from the practice bench (simulated)' });
});

it('a figure typed over a simulated one is a typed one, at the depression that is set', async () => {
  const kept = await simulated();
  await userEvent.clear(screen.getByLabelText('It read'));
  await userEvent.type(screen.getByLabelText('It read'), '900');
  await keep();
  await waitFor(() => expect(kept).toHaveLength(1));
  expect(kept[0]!.note).toBe('');
  expect(kept[0]!.depression_Pa).toBeCloseTo(28 * 249.08891, 6);
  expect(screen.queryByRole('button', { name: 'take it' })).toBeNull();
});

it('a simulated figure does not become a maker’s or a typed one by saying so', async () => {
  await simulated();
  await userEvent.click(screen.getByRole('radio', { name: /maker/ }));
  expect(screen.getByLabelText('It read')).toHaveValue('');
  expect(screen.getByRole('button', { name: 'Keep this record' })).toBeDisabled();
});
