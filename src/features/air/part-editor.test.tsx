import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import type { JobDoc } from '@/core/documents/job';
import type { PartDoc } from '@/core/documents/part';
import { jobModel } from '@/core/job/model';
import { must } from '@/core/failure';
import { curlewJob, pipitJob } from '@/server/demo/others';
import { larkspur, renderJob } from '../../../test/render-job';
import { aRecord } from '../../../test/units';
import { PartEditor } from './part-editor';

beforeEach(() => localStorage.clear());
const id = (name: string): string => name;

function Editor({ part }: { part: string | null }) {
  const [selected, setSelected] = useState(part);
  return <PartEditor selected={selected} onSelect={setSelected} />;
}
const open = (part: string | null, doc: JobDoc = larkspur, parts: Parameters<typeof renderJob>[1] = {}) =>
  renderJob(<Editor part={part} />, { doc, ...parts });
const type = async (label: string, text: string): Promise<void> => {
  await userEvent.clear(screen.getByLabelText(label));
  if (text !== '') await userEvent.type(screen.getByLabelText(label), text);
};
const saved = async (saves: { doc: JobDoc }[], pick: (parts: JobDoc['air']['parts']) => unknown, value: unknown): Promise<void> =>
  waitFor(() => expect(pick(saves.at(-1)?.doc.air.parts ?? [])).toEqual(value));
const partOf = (of: string) => (parts: JobDoc['air']['parts']) => parts.find((p) => p.id === of);

it.each([
  ['inlet', 'Inlet mouth', ['Bore', 'Edge radius']],
  ['filter', 'Filter', ['Neck bore', 'Rated flow', 'at a loss of']],
  ['pipe', 'Pipe', ['Bore', 'Length']],
  ['meter', 'MAF housing', ['Bore']],
  ['opening', 'Manifold bore', ['Manifold bore', 'Gasket bore', 'Radius on its edge']],
])('%s: asks only for what a %s has', (part, title, labels) => {
  open(larkspur.air.parts.some((p) => p.id === part) ? part : (larkspur.air.parts.find((p) => p.type === 'openEnd')?.id ?? part));
  expect(screen.getByRole('heading', { name: title })).toBeInTheDocument();
  for (const label of labels) expect(screen.getAllByLabelText(label).length).toBeGreaterThan(0);
});

it('nothing selected says what can be done with the drawing', () => {
  open(null);
  expect(screen.getByText(/^Click a part of the drawing to change it, drag it to another place/)).toBeInTheDocument();
});

it('a bore out of range is told what it may be, in the reader’s unit, and stays typed', async () => {
  const { saves } = open('meter');
  await type('Bore', '4');
  expect(screen.getByRole('alert')).toHaveTextContent('It has to be at least 15.0 mm.');
  expect(screen.getByLabelText('Bore')).toHaveValue('4');
  expect(saves).toEqual([]);
});

it('in the shop’s unit it is told in that', async () => {
  open('meter', larkspur, { pack: 'us', units: { bore: 'in' } });
  await type('Bore', '40');
  expect(screen.getByRole('alert')).toHaveTextContent(/^It may be at most 11\.811 in\.$/);
});

it('how a part meets the next is asked only when it is wanted, and taken back by emptying it', async () => {
  const { saves } = open('meter');
  expect(screen.queryByLabelText('Centres apart by')).toBeNull();
  await userEvent.click(screen.getByRole('button', { name: 'How it meets the next part' }));
  await type('Centres apart by', '2');
  await saved(saves, (p) => partOf('meter')(p)?.join?.offset_m, 0.002);
  await type('Centres apart by', '');
  await saved(saves, (p) => partOf('meter')(p)?.join?.offset_m, undefined);
});

it('an offset costs air, as the model says', () => {
  const with_ = (offset_m: number): number => {
    const parts = larkspur.air.parts.map((p) => (p.id === 'meter' ? { ...p, join: { offset_m } } : p));
    const model = must(jobModel({ ...larkspur, air: { ...larkspur.air, parts } }, []));
    return model.stock.passes_kgps![0]! + model.reference.result.plenum_Pa.at(-1)!;
  };
  expect(with_(0.01)).toBeLessThan(with_(0));
});

describe('a bench record', () => {
  const tested = [
    {
      id: 't1',
      version: 1,
      doc: { schema: 1 as const, name: 'Meter 74', kind: 'air meter' as const, bore_m: 0.074, bench: [aRecord(0.4)], note: '' },
    },
  ];

  it('takes the place of the part’s own coefficient, and says where it is from', async () => {
    const { saves } = open('meter', larkspur, { tested });
    await userEvent.click(screen.getByLabelText('Bench record'));
    await userEvent.click((await screen.findAllByTitle(/^Meter 74: 1,440 m³\/h/)).at(-1)!);
    await saved(saves, (p) => partOf('meter')(p)?.bench, { flow_m3ps: 0.4, depression_Pa: 6974.49, entryK: 0.04, from: 'Meter 74, ours' });
    expect(screen.getByText('Loss from Meter 74, ours')).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'use its own again' }));
    await saved(saves, (p) => partOf('meter')(p)?.bench, undefined);
  });

  it('cannot be taken where there is none', () => {
    open('meter');
    expect(screen.getByText('none in the Bench room')).toBeInTheDocument();
  });
});

describe('moving', () => {
  const order = (parts: readonly PartDoc[]): string[] => parts.map((p) => p.id);

  it('goes a place at a time and not past the throttle', async () => {
    const { saves } = open('meter');
    const before = order(larkspur.air.parts);
    await userEvent.click(screen.getByRole('button', { name: '← toward the air' }));
    await waitFor(() => expect(saves.length).toBeGreaterThan(0));
    expect(order(saves.at(-1)!.doc.air.parts).indexOf('meter')).toBe(before.indexOf('meter') - 1);
  });

  it('the first cannot go further out, the last before the throttle not further in', () => {
    open(larkspur.air.parts[0]!.id);
    expect(screen.getByRole('button', { name: '← toward the air' })).toBeDisabled();
  });

  it('what belongs to the engine is not moved', () => {
    open('compressor', pipitJob(id));
    expect(screen.getByText(/Compressor and cooler are the engine’s/)).toBeInTheDocument();
    expect(screen.queryByRole('button', { name: 'Take out' })).toBeNull();
  });
});

it('an airbox asks for its volume, pipes behind it for how many there are', async () => {
  const { saves } = open('airbox', curlewJob(id));
  await type('Volume', '9');
  await saved(saves, (p) => (p.find((x) => x.type === 'airbox') as { volume_m3: number } | undefined)?.volume_m3, expect.closeTo(0.009, 9));
});

it('a new part is put ahead of the throttle and opened', async () => {
  const { saves } = open(null);
  await userEvent.click(screen.getByRole('button', { name: 'Add a part' }));
  await userEvent.click(await screen.findByText('Anything with a loss'));
  expect(await screen.findByRole('heading', { name: 'Section' })).toBeInTheDocument();
  await waitFor(() => expect(saves.length).toBeGreaterThan(0));
  const types = saves.at(-1)!.doc.air.parts.map((p) => p.type);
  expect(types.indexOf('section')).toBe(types.indexOf('throttle') - 1);
});

it('the stock throttle takes a figure of the shop’s bench, or a maker’s claim', async () => {
  const { saves } = open('throttle');
  await type('Stock flowed', '300 cfm');
  await userEvent.click(screen.getByText('a maker’s claim'));
  await userEvent.click(screen.getByRole('button', { name: 'Use this figure' }));
  expect(screen.getByText(/± 10 % until it is read/)).toBeInTheDocument();
  await waitFor(() => expect(saves.at(-1)?.doc.car.stock.bench?.flow_m3ps).toBeCloseTo(0.14158, 4));
  expect(saves.at(-1)!.doc.car.stock.bench!.kind).toBe('claim');
  await userEvent.click(screen.getByRole('button', { name: 'use its shape again' }));
  await waitFor(() => expect(saves.at(-1)!.doc.car.stock.bench).toBeNull());
});
