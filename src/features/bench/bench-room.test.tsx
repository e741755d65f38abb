import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { PredictionDoc, StoredPrediction } from '@/core/documents/prediction';
import type { BenchRecord, StoredPart, UnitDoc } from '@/core/documents/unit';
import { renderRoom, type Sent } from '../../../test/render-room';
import { aJob, aRecord, aUnit } from '../../../test/units';
import { BenchRoom } from './bench-room';

const units = [
  aUnit(62),
  aUnit(66, { bench: [aRecord(0.3)] }),
  aUnit(74, { bench: [aRecord(0.38)] }),
  aUnit(70, { bench: [aRecord(0.9)] }),
  aUnit(64, { bench: [aRecord(0.28, { bench: 'another shop' })] }),
];
const meter: StoredPart = {
  id: 'meter',
  version: 1,
  doc: { schema: 1, name: 'Meter 74', kind: 'air meter', bore_m: 0.074, bench: [aRecord(0.37)], note: '' },
};
const guess = (source: string, predicted: number, measured: number | null): StoredPrediction => ({
  id: `${source}-${predicted}`,
  subject: 'bench',
  subjectId: null,
  title: 'Unit 66 at 28 inH₂O',
  source,
  predicted,
  low: predicted * 0.95,
  high: predicted * 1.05,
  measured,
  madeAt: '2026-04-18T10:00:00Z',
});
const data = {
  units,
  parts: [meter],
  ledger: [guess('Maud', 0.33, 0.3), guess('the model', 0.303, 0.3)],
  jobs: [{ id: 'job-1', name: 'Test car' }],
};

/** A server that keeps what it is given, and has one job. */
const keeps = (sent: Sent): { status?: number; body: unknown } => {
  if (sent.url.startsWith('/api/jobs/')) return { body: { id: 'job-1', number: 1, version: 1, savedAt: '', archived: false, doc: aJob() } };
  if (sent.url === '/api/predictions')
    return {
      body: {
        ...(sent.body as PredictionDoc),
        id: `p-${(sent.body as PredictionDoc).source}`,
        measured: null,
        madeAt: '2026-04-18T10:00:00Z',
      },
    };
  if (sent.url.startsWith('/api/predictions/'))
    return { body: { ...guess('Maud', 0.25, (sent.body as { measured: number }).measured), id: sent.url.split('/').at(-1) } };
  if (sent.method === 'PUT') {
    const { version, doc } = sent.body as { version: number; doc: UnitDoc };
    return { body: { id: sent.url.split('/').at(-1), version: version + 1, doc } };
  }
  if (sent.url === '/api/parts') return { body: { id: 'new-part', version: 1, doc: sent.body } };
  return { body: {} };
};
const show = (address = '') => renderRoom(<BenchRoom {...data} />, { address, answer: keeps });
const sections = () => screen.getAllByRole('columnheader', { name: 'true bore' }).map((th) => th.closest('table')!);
const names = (table: HTMLElement): (string | null)[] =>
  within(table)
    .getAllByRole('row')
    .slice(1)
    .map((r) => within(r).getAllByRole('cell')[0]!.textContent);

it('ranks within one bench only, parts and throttles together, and counts what is doubtful', async () => {
  show();
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('5 flow records; 1 is doubtful against its bore.');
  const [ours, theirs] = sections();
  expect(names(ours!)).toEqual(['Unit 70', 'Unit 74', 'Meter 74', 'Unit 66']);
  expect(names(theirs!)).toEqual(['Unit 64']);
  expect(within(ours!).getAllByRole('row')[1]).toHaveTextContent('cannot be');
  expect(await screen.findByText(/Everything ahead of the throttle passes more than it does/)).toBeInTheDocument();
});

it('moves all figures to the depression asked for', async () => {
  const { addresses } = show('?at=10');
  const row = within(sections()[0]!).getByText('Unit 66').closest('tr')!;
  const moved = /([\d,]+) m³\/h(?!.*m³\/h)/.exec(row.textContent)!;
  expect(Number(moved[1]!.replace(',', ''))).toBeLessThan(700);
  await userEvent.click(screen.getByText('6.97 kPa'));
  await waitFor(() => expect(addresses.at(-1)).toBe(''));
});

it('shows the working of a moved figure', async () => {
  show();
  await userEvent.click(screen.getByRole('button', { name: /, flow of Unit 66: show the working$/ }));
  expect(await screen.findByText('Unit 66 on ours')).toBeInTheDocument();
});

it('scores who guessed how well', () => {
  show();
  const table = screen.getByText('leans by').closest('table')!;
  expect(within(table).getByText('Maud').closest('tr')).toHaveTextContent('Maud1+10.0 %10.0 %0 %');
  expect(within(table).getByText('the model').closest('tr')).toHaveTextContent('+1.0 %1.0 %100 %');
});

const type = async (label: string, text: string): Promise<void> => {
  const field = screen.getByLabelText(label);
  await userEvent.clear(field);
  await userEvent.type(field, text);
};

it('wants a guess before the reading, writes the model’s beside it, and keeps both with the record', async () => {
  const { sent } = show('?subject=u62');
  expect(screen.queryByLabelText('It read')).toBeNull();
  await type('It will read', '900');
  await userEvent.click(screen.getByRole('button', { name: 'Write it down' }));
  expect(await screen.findByText(/^Maud said 900 m³\/h, the model [\d,]+ m³\/h\.$/)).toBeInTheDocument();
  expect(sent.filter((s) => s.url === '/api/predictions').map((s) => (s.body as PredictionDoc).source)).toEqual(['Maud', 'the model']);
  await type('It read', '950');
  expect(screen.getByText('of its ideal nozzle').parentElement).toHaveTextContent(/8\d\.\d %/);
  expect(screen.getByText('Maud was off by').parentElement).toHaveTextContent('−5.3 %');
  await userEvent.click(screen.getByRole('button', { name: 'Keep this record' }));
  await waitFor(() => expect(sent.filter((s) => s.method === 'PUT' && s.url.startsWith('/api/predictions/'))).toHaveLength(2));
  const saved = sent.find((s) => s.url === '/api/units/u62')!.body as { doc: UnitDoc };
  expect(saved.doc.bench[0]).toMatchObject({ entryK: 0.04, bench: 'ours' } satisfies Partial<BenchRecord>);
  expect(saved.doc.bench[0]!.flow_m3ps).toBeCloseTo(950 / 3600, 6);
  await waitFor(() => expect(names(sections()[0]!)).toContain('Unit 62'));
});

it('can do without a guess, and says what a figure that cannot be would take', async () => {
  show('?subject=u62');
  await userEvent.click(screen.getByRole('button', { name: 'without a guess' }));
  await type('It read', '1400');
  expect(screen.getByRole('alert')).toHaveTextContent(
    /^This cannot be: 1\d\d % of what the ideal nozzle of 62\.0 mm passes\. Either the bore is at least/,
  );
  await type('It read', '700');
  expect(screen.getByText(/Low for a radius plate/)).toBeInTheDocument();
});

it('a save that fails keeps the figures', async () => {
  renderRoom(<BenchRoom {...data} />, {
    address: '?subject=u62',
    answer: (s) => (s.method === 'PUT' ? { status: 500, body: { message: 'The database is away.' } } : keeps(s)),
  });
  await userEvent.click(screen.getByRole('button', { name: 'without a guess' }));
  await type('It read', '950');
  await userEvent.click(screen.getByRole('button', { name: 'Keep this record' }));
  expect(await screen.findByText('The database is away.')).toBeInTheDocument();
  expect(screen.getByLabelText('It read')).toHaveValue('950');
});

it('a record that is kept says so, though its guess could not be scored', async () => {
  const { sent } = renderRoom(<BenchRoom {...data} />, {
    address: '?subject=u62',
    answer: (s) =>
      s.method === 'PUT' && s.url.startsWith('/api/predictions/') ? { status: 503, body: { message: 'The database is away.' } } : keeps(s),
  });
  await type('It will read', '900');
  await userEvent.click(screen.getByRole('button', { name: 'Write it down' }));
  await type('It read', '950');
  await userEvent.click(screen.getByRole('button', { name: 'Keep this record' }));
  expect(await screen.findByText('The record is kept, but its guess could not be scored: The database is away.')).toBeInTheDocument();
  // Kept once: nothing is left that would keep it again.
  await waitFor(() => expect(screen.queryByLabelText('It read')).toBeNull());
  expect(sent.filter((s) => s.url === '/api/units/u62')).toHaveLength(1);
});

it('other parts can be put on the bench', async () => {
  const { sent } = show();
  await userEvent.click(screen.getByRole('button', { name: /another part/ }));
  await userEvent.click(await screen.findByRole('button', { name: 'Add it' }));
  expect(await screen.findByText('Give the part a name.')).toBeInTheDocument();
  await userEvent.type(screen.getByLabelText('Part name'), 'Box lid');
  await userEvent.click(screen.getByRole('button', { name: 'Add it' }));
  await waitFor(() => expect(sent.at(-1)).toMatchObject({ url: '/api/parts', body: { name: 'Box lid', kind: 'air meter' } }));
  expect(await screen.findByRole('heading', { name: 'New reading: Box lid' })).toBeInTheDocument();
});

it('an empty bench says what to do', () => {
  renderRoom(<BenchRoom units={[]} parts={[]} ledger={[]} jobs={[]} />);
  expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('No flow records yet. Put something on the bench.');
  expect(screen.getByText(/No guess written down yet/)).toBeInTheDocument();
});
