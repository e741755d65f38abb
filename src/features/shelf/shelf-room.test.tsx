import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { StoredUnit, UnitDoc } from '@/core/documents/unit';
import { renderRoom, type Sent } from '../../../test/render-room';
import { aRecord, aUnit } from '../../../test/units';
import { ShelfRoom } from './shelf-room';

jest.mock('@/ui/chart/lazy-chart', () => jest.requireActual<object>('../../../test/chart-stub'));

const shelf = [aUnit(62), aUnit(66, { bench: [aRecord(0.3)] }), aUnit(74)];
const heading = () => screen.getByRole('heading', { level: 1 });
const listed = () =>
  within(screen.getByRole('columnheader', { name: 'net area' }).closest('table')!)
    .getAllByRole('row')
    .filter((r) => within(r).queryByRole('checkbox'));

/** A server that keeps what it is given. */
const keeps = (sent: Sent): { body: unknown } => {
  if (sent.method === 'PUT') {
    const { version, doc } = sent.body as { version: number; doc: UnitDoc };
    return { body: { id: sent.url.split('/').at(-1), version: version + 1, doc } };
  }
  if (sent.method === 'POST') {
    const body = sent.body as { units?: UnitDoc[]; duplicateOf?: string };
    if (body.duplicateOf) {
      const was = shelf.find((u) => u.id === body.duplicateOf)!;
      return { body: [{ id: 'copy', version: 1, doc: { ...was.doc, name: `${was.doc.name}, copy` } }] };
    }
    return { body: (body.units ?? []).map((doc, i): StoredUnit => ({ id: `new-${i}`, version: 1, doc })) };
  }
  return { body: {} };
};
const file = (text: string | Uint8Array<ArrayBuffer>): File => {
  const made = new File([text], 'shelf.csv', { type: 'text/csv' });
  const bytes = typeof text === 'string' ? new TextEncoder().encode(text) : text;
  made.arrayBuffer = () => Promise.resolve(bytes.slice().buffer);
  return made;
};
const puts = (sent: readonly Sent[]): { doc: UnitDoc; version: number }[] =>
  sent.filter((s) => s.method === 'PUT').map((s) => s.body as { doc: UnitDoc; version: number });

it('counts what is there and what was measured, and lists what follows from each shape', () => {
  renderRoom(<ShelfRoom initial={shelf} />);
  expect(heading()).toHaveTextContent('3 throttle bodies on the shelf, 1 of them measured on a bench.');
  expect(listed().map((r) => within(r).getAllByRole('cell')[0]!.textContent)).toEqual(['Unit 62', 'Unit 66', 'Unit 74']);
  expect(listed()[1]).toHaveTextContent('1,080 m³/h');
  expect(listed()[0]).toHaveTextContent('2,524 mm²');
});

it('saves a change once typing has settled, with the version it was made on', async () => {
  const { sent } = renderRoom(<ShelfRoom initial={shelf} />, { answer: keeps });
  const price = screen.getByLabelText('Price');
  await userEvent.clear(price);
  await userEvent.type(price, '345');
  // On a slow machine typing may rest in the middle of a figure: then it is saved there too, each time on the version before.
  await waitFor(() => expect(puts(sent).at(-1)).toMatchObject({ doc: { name: 'Unit 62', price: 345 } }));
  await userEvent.type(screen.getByLabelText('Note'), 'x');
  await waitFor(() => expect(puts(sent).at(-1)).toMatchObject({ doc: { note: 'x', price: 345 } }));
  const versions = puts(sent).map((put) => (put as { version: number }).version);
  expect(versions).toEqual(versions.map((_, i) => i + 1));
});

it('keeps what is not valid yet in its field, with the reason, and does not send it', async () => {
  const { sent } = renderRoom(<ShelfRoom initial={shelf} />, { answer: keeps });
  const shaft = screen.getByLabelText('Shaft');
  await userEvent.clear(shaft);
  await userEvent.type(shaft, '70');
  expect(shaft).toHaveValue('70');
  expect(await screen.findByRole('alert')).toHaveTextContent('It may be at most 50.0 mm.');
  await waitFor(() => expect(screen.getByRole('status')).toHaveTextContent(/^not saved yet/));
  expect(puts(sent)).toEqual([]);
});

it('a conflict is put to the person: theirs, or mine over it', async () => {
  const theirs = { ...shelf[0]!, version: 5, doc: { ...shelf[0]!.doc, price: 999 } };
  let refuse = true;
  const { sent } = renderRoom(<ShelfRoom initial={shelf} />, {
    answer: (s) => {
      if (s.method === 'PUT' && refuse) {
        refuse = false;
        return { status: 409, body: { message: 'It was changed elsewhere.', current: theirs } };
      }
      return keeps(s);
    },
  });
  await userEvent.type(screen.getByLabelText('Note'), 'mine');
  await userEvent.click(await screen.findByRole('button', { name: 'keep mine' }));
  await waitFor(() => expect(puts(sent).at(-1)).toMatchObject({ version: 5, doc: { note: 'mine' } }));
});

it('or theirs', async () => {
  const theirs = { ...shelf[0]!, version: 5, doc: { ...shelf[0]!.doc, price: 999 } };
  renderRoom(<ShelfRoom initial={shelf} />, {
    answer: (s) => (s.method === 'PUT' ? { status: 409, body: { message: 'It was changed elsewhere.', current: theirs } } : keeps(s)),
  });
  await userEvent.type(screen.getByLabelText('Note'), 'mine');
  await userEvent.click(await screen.findByRole('button', { name: 'take theirs' }));
  expect(screen.getByLabelText('Price')).toHaveValue('999');
});

it('a refusal is told and the typed stays', async () => {
  renderRoom(<ShelfRoom initial={shelf} />, {
    answer: (s) => (s.method === 'PUT' ? { status: 400, body: { message: 'The name is taken.' } } : keeps(s)),
  });
  await userEvent.type(screen.getByLabelText('Note'), 'mine');
  await waitFor(() => expect(screen.getByRole('status')).toHaveTextContent('not saved: The name is taken.'));
  expect(screen.getByLabelText('Note')).toHaveValue('mine');
});

it('makes, copies and takes off', async () => {
  const { sent } = renderRoom(<ShelfRoom initial={shelf} />, { answer: keeps });
  await userEvent.click(screen.getByRole('button', { name: 'New throttle' }));
  await waitFor(() => expect(listed()).toHaveLength(4));
  expect(sent.at(-1)!.body).toMatchObject({ units: [{ name: 'New throttle 1' }] });
  await userEvent.click(screen.getByRole('button', { name: 'Unit 66' }));
  await userEvent.click(screen.getByRole('button', { name: 'Duplicate' }));
  await waitFor(() => expect(listed()).toHaveLength(5));
  await userEvent.click(screen.getByRole('button', { name: 'Unit 74' }));
  await userEvent.click(screen.getByRole('button', { name: 'Remove from the shelf' }));
  await waitFor(() => expect(listed()).toHaveLength(4));
  expect(sent.at(-1)).toMatchObject({ method: 'PATCH', url: '/api/units/u74', body: { retired: true } });
  await userEvent.click(await screen.findByRole('button', { name: 'Undo' }));
  await waitFor(() => expect(listed()).toHaveLength(5));
  expect(sent.at(-1)).toMatchObject({ url: '/api/units/u74', body: { retired: false } });
});

it('sets two to four side by side, from the address too', async () => {
  renderRoom(<ShelfRoom initial={shelf} />, { address: '?compare=u62,u66' });
  expect(screen.getByRole('heading', { name: 'Side by side' })).toBeInTheDocument();
  const table = screen.getByText('as one round bore').closest('table')!;
  expect(within(table).getAllByRole('row')[1]).toHaveTextContent(/net area2,524 mm²2,894 mm²/);
  expect(within(table).getByText('bench, at 28 inH₂O').closest('tr')).toHaveTextContent(/no record1,080 m³\/h/);
  await userEvent.click(screen.getByRole('checkbox', { name: 'Compare Unit 66' }));
  await waitFor(() => expect(screen.queryByRole('heading', { name: 'Side by side' })).toBeNull());
});

it('an oval asks for width and height', async () => {
  renderRoom(<ShelfRoom initial={shelf} />, { answer: keeps });
  await userEvent.click(screen.getByLabelText('Shape'));
  await userEvent.click((await screen.findAllByTitle('oval')).at(-1)!);
  expect(await screen.findByLabelText('Width')).toHaveValue('72.7');
  // Nobody has measured it, and it says so until somebody has.
  expect(screen.getByText(/an oval of the round bore/)).toBeVisible();
  const height = screen.getByLabelText('Height');
  await userEvent.clear(height);
  await userEvent.type(height, '50{Enter}');
  await waitFor(() => expect(screen.queryByText(/an oval of the round bore/)).toBeNull());
  expect(screen.queryByLabelText('Bore')).toBeNull();
});

it('a leak class sets the usual gap, a feeler’s figure makes it measured', async () => {
  const { sent } = renderRoom(<ShelfRoom initial={shelf} />, { answer: keeps });
  await userEvent.click(screen.getByLabelText('Closed seal'));
  await userEvent.click((await screen.findAllByTitle('turned by hand')).at(-1)!);
  expect(screen.getByLabelText('Blade clearance')).toHaveValue('0.08');
  const gap = screen.getByLabelText('Blade clearance');
  await userEvent.clear(gap);
  await userEvent.type(gap, '0.06');
  await waitFor(() => expect(puts(sent).at(-1)!.doc.throttle.clearance_m).toBeCloseTo(6e-5, 12));
  expect(puts(sent).at(-1)!.doc.throttle).toMatchObject({ leak: 'measured' });
});

it('a bench reading of the shut blade becomes a gap', async () => {
  renderRoom(<ShelfRoom initial={shelf} />, { answer: keeps });
  await userEvent.click(screen.getByRole('button', { name: 'from a bench reading, blade shut' }));
  await userEvent.type(await screen.findByLabelText('Passes shut'), '6');
  expect(await screen.findByText(/That is a clearance of 0\.\d\d mm all round\./)).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Take it' }));
  await waitFor(() => expect(screen.getByLabelText('Blade clearance')).not.toHaveValue('0.04'));
});

describe('from a file', () => {
  const open = async (): Promise<HTMLElement> => {
    await userEvent.click(screen.getByRole('button', { name: 'From a file' }));
    return screen.findByLabelText('Or paste here');
  };

  it('shows what can be taken and what cannot before anything is', async () => {
    const { sent } = renderRoom(<ShelfRoom initial={shelf} />, { answer: keeps });
    const area = await open();
    await userEvent.click(area);
    await userEvent.paste('name,bore (mm)\nUnit 62,62\nMarsh 60,60\nBroken,');
    expect(await screen.findByText('Not imported: 1')).toBeInTheDocument();
    expect(screen.getByText('Can be taken: 2')).toBeInTheDocument();
    expect(sent).toEqual([]);
    await userEvent.click(screen.getByRole('button', { name: 'Put 1 on the shelf, leave 2 out' }));
    await waitFor(() => expect(listed()).toHaveLength(4));
    expect(sent[0]!.body).toMatchObject({ units: [{ name: 'Marsh 60' }] });
  });

  it('known names can be added beside the ones there are', async () => {
    renderRoom(<ShelfRoom initial={shelf} />, { answer: keeps });
    await userEvent.click(await open());
    await userEvent.paste('name,bore (mm)\nUnit 62,62');
    expect(screen.getByRole('button', { name: 'Nothing to take' })).toBeDisabled();
    await userEvent.click(await screen.findByText('add beside'));
    expect(screen.getByRole('button', { name: 'Put 1 on the shelf' })).toBeEnabled();
  });

  it('a file is read where it is dropped on the button', async () => {
    renderRoom(<ShelfRoom initial={shelf} />, { answer: keeps });
    await open();
    await userEvent.upload(screen.getByLabelText('Shelf file'), file('name,bore (mm)\nMarsh 60,60'));
    expect(await screen.findByText('Can be taken: 1')).toBeInTheDocument();
  });

  it('a file as an older program writes it keeps its letters, and what it leaves out is told', async () => {
    renderRoom(<ShelfRoom initial={shelf} />, { answer: keeps });
    await open();
    const bytes = Uint8Array.from('name;bore/mm;shaft_mm\nPrüfstück Ø 62;62;9\nMarsh 60;60;', (c) => c.charCodeAt(0));
    await userEvent.upload(screen.getByLabelText('Shelf file'), file(bytes));
    expect(await screen.findByText('Prüfstück Ø 62')).toBeInTheDocument();
    expect(
      screen.getByText(/does not say, so taken as is usual: shape single, shaft 8 mm \(1 of 2 rows\), shaft edge round,/),
    ).toBeInTheDocument();
  });

  it('what cannot be read at all says why', async () => {
    renderRoom(<ShelfRoom initial={shelf} />, { answer: keeps });
    await userEvent.click(await open());
    await userEvent.paste('bore,price\n60,1');
    expect(await screen.findByRole('alert')).toHaveTextContent(/No column is called "name"/);
  });

  it('a server that refuses leaves the dialog as it was', async () => {
    renderRoom(<ShelfRoom initial={shelf} />, { answer: () => ({ status: 500, body: { message: 'The database is away.' } }) });
    await userEvent.click(await open());
    await userEvent.paste('name,bore (mm)\nMarsh 60,60');
    await userEvent.click(await screen.findByRole('button', { name: 'Put 1 on the shelf' }));
    expect(await screen.findByText('The database is away.')).toBeInTheDocument();
    expect(screen.getByText('Can be taken: 1')).toBeInTheDocument();
  });
});

it('an empty shelf says what to do', () => {
  renderRoom(<ShelfRoom initial={[]} />);
  expect(heading()).toHaveTextContent('The shelf is empty. Put a throttle on it, or import a file.');
});
