import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { StoredPass, StripBook, StripPassDoc, WeatherReadingDoc } from '@/core/documents/strip';
import { jobFindings } from '@/core/verdict/findings';
import { stripBook } from '../../../../test/facts';
import { larkspur, renderJob, units } from '../../../../test/render-job';
import { outbox } from '@/features/offline/outbox';
import { StripView } from './strip-view';

jest.mock('@/ui/chart/lazy-chart', () => jest.requireActual<object>('../../../../test/chart-stub'));
jest.mock('../log/use-log', () => ({ useLogWorker: () => null, useLooks: () => ({ looks: new Map(), wrong: null }) }));

const findings = jobFindings(larkspur, units, { stock: 0, other: 0, compared: null });
const EMPTY: StripBook = { visits: [], passes: [] };
const asUnit = (book: StripBook): StripBook => ({
  ...book,
  passes: book.passes.map((p) => ({
    ...p,
    doc: { ...p.doc, side: p.doc.side?.kind === 'unit' ? { kind: 'unit', unitId: 'unit-1' } : p.doc.side },
  })),
});

interface Sent {
  readonly url: string;
  readonly method: string;
  readonly body: unknown;
}

/** The view on a server that holds a book and keeps what it is sent. */
async function show(book: StripBook | null, { refuse = null }: { refuse?: string | null } = {}) {
  const sent: Sent[] = [];
  renderJob(<StripView place="strip" unitId="unit-1" />, {
    answer: (url, method, body) => {
      if (!url.includes('strip')) return undefined;
      if (method === 'GET')
        return book
          ? { body: JSON.parse(JSON.stringify(book)) as object }
          : { status: 503, body: { message: 'The database cannot be reached just now.' } };
      sent.push({ url, method, body });
      if (refuse) return { status: 409, body: { message: refuse } };
      if (url.endsWith('/passes'))
        return {
          status: 201,
          body: {
            findings,
            passes: (body as (StripPassDoc & { id: string })[]).map(({ id, ...doc }): StoredPass => ({
              id,
              visitId: book!.visits[0]!.id,
              version: 1,
              doc,
            })),
          },
        };
      if (url.endsWith('/weather')) {
        const visit = book!.visits[0]!;
        const weather = [...visit.doc.weather, ...(body as WeatherReadingDoc[])];
        return { status: 201, body: { findings, visit: { ...visit, version: 2, doc: { ...visit.doc, weather } } } };
      }
      if (url.includes('/passes/') && method === 'PUT') {
        const id = url.split('/').at(-1)!;
        return {
          body: { findings, pass: { ...book!.passes.find((p) => p.id === id)!, version: 2, doc: (body as { doc: StripPassDoc }).doc } },
        };
      }
      if (url.includes('/visits/') && method === 'PUT')
        return { body: { findings, visit: { ...book!.visits[0]!, version: 2, doc: (body as { doc: object }).doc } } };
      if (method === 'DELETE') return { body: { findings } };
      return { status: 201, body: { id: 'v-new', jobId: 'job-1', version: 1, doc: body } };
    },
  });
  await waitFor(() => expect(heading()).not.toHaveTextContent('Reading the passes…'));
  return sent;
}
const heading = () => screen.getByRole('heading', { level: 1 });

beforeEach(() => localStorage.clear());

it('leads with the answer, and sets raw and corrected, and each measure with its own word, under the picture', async () => {
  await show(asUnit(stripBook(10, 0.06)));
  expect(heading()).toHaveTextContent(/^Gain: Fenwick 66 is \d\.\d+ km\/h faster in trap speed\.$/);
  expect(screen.getByText(/^95 % interval .* from 5 stock and 5 new passes/)).toBeInTheDocument();
  const trap = within(screen.getAllByText('trap speed').at(-1)!.closest('tr')!);
  expect(trap.getByText('Gain')).toBeInTheDocument();
  expect(screen.getAllByRole('button', { name: /, corrected trap speed: show the working$/ })).toHaveLength(10);
  expect(screen.getAllByRole('button', { name: /, power from the pass: show the working$/ })).toHaveLength(10);
  expect(screen.getByText(/^Power moved by/)).toBeInTheDocument();
  // Every figure that was worked out shows how.
  for (const name of ['effect on the trap speed', 'power by the trap speed', 'power by the time'])
    expect(screen.getByRole('button', { name: new RegExp(`, ${name}: show the working$`) })).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: /, power by the trap speed: show the working$/ }));
  expect(await screen.findByRole('dialog')).toHaveTextContent('Change of power by the trap speed');
});

it('says in the day’s plan what the next pass would tell', async () => {
  await show(asUnit(stripBook(8, 0.02)));
  expect(screen.getByText('The next pass')).toBeInTheDocument();
  expect(screen.getByText(/^with Fenwick 66:/)).toHaveTextContent(/\d+\.\d\d s \(\d+\.\d\d to \d+\.\d\d\), \d+\.\d\d km\/h$/);
  expect(screen.getByText('alternate every pass')).toBeInTheDocument();
  expect(screen.getByText(/tells .* in \d+ in 100|No order of one such day/)).toBeInTheDocument();
});

it('an empty book says how to begin, and a new day is begun with the track’s name', async () => {
  const sent = await show(EMPTY);
  expect(heading()).toHaveTextContent(/^No passes yet/);
  await userEvent.click(screen.getByRole('button', { name: 'New day' }));
  await userEvent.type(screen.getByLabelText('Name of the track'), 'Saltmarsh{Enter}');
  await waitFor(() => expect(sent[0]).toMatchObject({ method: 'POST', body: { track: 'Saltmarsh', course: 'quarter' } }));
  expect(await screen.findByRole('button', { name: 'Type a slip' })).toBeInTheDocument();
});

it('a day that is sent while the book is still being read is there', async () => {
  let answer = (): void => {};
  const read = new Promise<void>((done) => (answer = done));
  const visit = { id: 'v-early', jobId: 'job-1', version: 1, doc: stripBook(2, 0).visits[0]!.doc };
  renderJob(<StripView place="strip" unitId="unit-1" />, {
    answer: (url, method) => {
      if (!url.includes('strip')) return undefined;
      return method === 'GET' ? { body: read.then(() => EMPTY) } : { status: 201, body: visit };
    },
  });
  await outbox().add({ id: visit.id, jobId: 'job-1', kind: 'visit', url: '/api/jobs/job-1/strip', body: { ...visit.doc, id: visit.id } });
  answer();
  expect(await screen.findByRole('button', { name: 'Type a slip' })).toBeInTheDocument();
});

it('a server that is away is told', async () => {
  await show(null);
  expect(heading()).toHaveTextContent('The passes cannot be read just now.');
});

describe('a slip', () => {
  const open = async (options?: Parameters<typeof show>[1]) => {
    const sent = await show(asUnit(stripBook(4, 0.02)), options);
    await userEvent.click(screen.getByRole('button', { name: 'Type a slip' }));
    const pad = await screen.findByRole('dialog');
    const type = async (digits: string): Promise<void> => {
      for (const d of digits) await userEvent.click(within(pad).getByRole('button', { name: d }));
    };
    return { sent, pad, type };
  };

  it('takes what a keyboard types as soon as it is open', async () => {
    const { pad } = await open();
    await waitFor(() => expect(within(pad).getByRole('group', { name: 'The slip' })).toHaveFocus());
    await userEvent.keyboard('0412');
    expect(within(pad).getByRole('button', { name: 'reaction: 0.412' })).toBeInTheDocument();
  });

  it('is typed with digits alone: the point sets itself and full figures go on', async () => {
    const { sent, pad, type } = await open();
    await type('0412' + '2821' + '6863' + '10239' + '7386' + '13169' + '15656' + '9118');
    for (const [name, value] of [
      ['reaction', '0.412'],
      ['60 ft', '2.821'],
      ['⅛ mile', '10.239'],
      ['¼ mile, mph', '91.18'],
    ])
      expect(within(pad).getByRole('button', { name: `${name}: ${value}` })).toBeInTheDocument();
    await userEvent.click(within(pad).getByRole('button', { name: 'Keep this pass' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    const [doc] = sent[0]!.body as StripPassDoc[];
    expect(doc!.slip).toMatchObject({ reaction_s: 0.412, t402_s: 15.656 });
    expect(doc!.slip.v402_mps).toBeCloseTo(91.18 * 0.44704, 6);
    // The side is the pass before's.
    expect(doc!.side).toEqual({ kind: 'unit', unitId: 'unit-1' });
  });

  it('is not kept past a figure of the car that was not taken, and says where it stands', async () => {
    const { sent, pad, type } = await open();
    await type('0412' + '2821');
    await userEvent.click(within(pad).getByText('Car and notes'));
    await userEvent.type(within(pad).getByLabelText('Coolant'), '900');
    expect(within(pad).getByText('It may be at most 177 °C.')).toBeInTheDocument();
    await userEvent.click(within(pad).getByText('Slip'));
    expect(within(pad).getByText(/^A figure under “car and notes” was not taken/)).toBeInTheDocument();
    expect(within(pad).getByRole('button', { name: 'Keep this pass' })).toBeDisabled();
    await userEvent.click(within(pad).getByText('Car and notes'));
    expect(within(pad).getByLabelText('Coolant')).toHaveValue('900');
    await userEvent.clear(within(pad).getByLabelText('Coolant'));
    await userEvent.type(within(pad).getByLabelText('Coolant'), '90');
    await userEvent.click(within(pad).getByRole('button', { name: 'Keep this pass' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    const [doc] = sent[0]!.body as StripPassDoc[];
    expect(doc!.coolant_K).toBeCloseTo(363.15, 6);
  });

  it('that cannot be is said at once with the reason, and is not kept until it is mended', async () => {
    const { pad, type } = await open();
    await type('0412' + '2821' + '2700');
    expect(within(pad).getByRole('alert')).toHaveTextContent('330 ft: Later marks take longer: 60 ft was 2.821 s already.');
    expect(within(pad).getByRole('button', { name: 'Keep this pass' })).toBeDisabled();
    await userEvent.click(within(pad).getByRole('button', { name: /^330 ft/ }));
    await type('6863');
    expect(within(pad).queryByRole('alert')).toBeNull();
    expect(within(pad).getByRole('button', { name: 'Keep this pass' })).toBeEnabled();
  });

  it('is not asked about a figure that is half typed, but before it is kept so', async () => {
    const { sent, pad, type } = await open();
    await type('0412' + '2');
    // 2.000 is far from the day's passes; the next digit may bring it among them.
    expect(within(pad).queryByRole('alert')).toBeNull();
    expect(within(pad).queryByText(/the day’s passes run/)).toBeNull();
    await userEvent.click(within(pad).getByRole('button', { name: 'Keep this pass' }));
    expect(within(pad).getByRole('alert')).toHaveTextContent(/^60 ft: 2\.000\? The day’s passes run/i);
    expect(sent).toHaveLength(0);
    await userEvent.click(within(pad).getByRole('button', { name: 'Keep this pass' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect((sent[0]!.body as StripPassDoc[])[0]!.slip.t18_s).toBe(2);
  });

  it('is asked about a half-typed figure once one goes on from it', async () => {
    const { pad, type } = await open();
    await type('0412' + '2');
    await userEvent.click(within(pad).getByRole('button', { name: 'Next figure' }));
    expect(within(pad).getByRole('alert')).toHaveTextContent(/^60 ft: 2\.000\?/);
    await userEvent.click(within(pad).getByRole('button', { name: /^60 ft/ }));
    await type('821');
    expect(within(pad).queryByRole('alert')).toBeNull();
  });

  it('with a half-typed figure that cannot be is not kept', async () => {
    const { sent, pad, type } = await open();
    await type('0412' + '2821' + '2');
    expect(within(pad).queryByRole('alert')).toBeNull();
    await userEvent.click(within(pad).getByRole('button', { name: 'Keep this pass' }));
    expect(within(pad).getByRole('alert')).toHaveTextContent('330 ft: Later marks take longer');
    expect(within(pad).getByRole('button', { name: 'Keep this pass' })).toBeDisabled();
    expect(sent).toHaveLength(0);
  });

  it('says of several odd figures one at a time, the one that is looked at first, and marks them all', async () => {
    const { pad, type } = await open();
    await type('0412' + '3821' + '9863');
    expect(within(pad).getByRole('alert')).toHaveTextContent(/^60 ft: 3\.821\?.*1 more is marked/);
    await userEvent.click(within(pad).getByRole('button', { name: /^330 ft/ }));
    expect(within(pad).getByRole('alert')).toHaveTextContent(/^330 ft: 9\.863\?/);
  });

  it('says why it cannot be kept before anything else, though the figure looked at is odd', async () => {
    const { pad, type } = await open();
    await type('0412' + '3821' + '2100');
    await userEvent.click(within(pad).getByRole('button', { name: /^60 ft/ }));
    expect(within(pad).getByRole('button', { name: 'Keep this pass' })).toBeDisabled();
    expect(within(pad).getByRole('alert')).toHaveTextContent(/^330 ft: Later marks take longer.*1 more is marked/);
  });

  it('goes by the keyboard too, and takes digits back', async () => {
    const { pad } = await open();
    within(pad).getByRole('group', { name: 'The slip' }).focus();
    await userEvent.keyboard('04122{Backspace}{Backspace}{Backspace}');
    expect(within(pad).getByRole('button', { name: 'reaction: .041' })).toBeInTheDocument();
  });

  it('that the server refuses stays as it was typed, and is still there when it is opened again', async () => {
    const { pad, type } = await open({ refuse: 'The database cannot be reached just now.' });
    await type('0412' + '2821');
    await userEvent.click(within(pad).getByRole('button', { name: 'Keep this pass' }));
    expect(await within(pad).findByText('The database cannot be reached just now.')).toBeInTheDocument();
    await userEvent.click(within(pad).getByRole('button', { name: 'Close' }));
    await userEvent.click(screen.getByRole('button', { name: 'Type a slip' }));
    expect(await screen.findByRole('button', { name: '60 ft: 2.821' })).toBeInTheDocument();
  });
});

it('of two cars in a table the own one is asked for, once', async () => {
  localStorage.clear();
  await show(asUnit(stripBook(4, 0.02)));
  await userEvent.click(screen.getAllByRole('button', { name: 'From a table' })[0]!);
  const field = await screen.findByRole('textbox', { name: 'Passes from a table' });
  fireEvent.change(field, {
    target: { value: 'Car,60 ft,1/8,MPH,1/4,MPH\n114,1.985,8.611,82.35,13.422,103.31\n207,1.802,8.102,88.10,12.811,108.90\n' },
  });
  expect(screen.getByText(/2 cars are in this table/)).toBeInTheDocument();
  expect(screen.getByRole('button', { name: 'Nothing to import yet' })).toBeDisabled();
  await userEvent.click(within(screen.getByRole('radiogroup', { name: 'The own car' })).getByText('114'));
  expect(await screen.findByRole('button', { name: 'Import 1 pass' })).toBeEnabled();
});

it('passes come from a table, and a row that cannot be one says its line and why', async () => {
  const sent = await show(asUnit(stripBook(4, 0.02)));
  await userEvent.click(screen.getAllByRole('button', { name: 'From a table' })[0]!);
  const field = await screen.findByRole('textbox', { name: 'Passes from a table' });
  await userEvent.click(field);
  await userEvent.paste(
    'time\tside\t60 ft\t1/4\tmph\n12:10\tstock\t2.8\t15.7\t90.6\n12:30\tFenwick 66\t2.8\t15.6\t91\n12:40\tstock\t2.8\t1.5\t90\n',
  );
  expect(await screen.findByText(/^Line 4, 1\/4 /)).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Import 2 passes' }));
  await waitFor(() => expect(sent).toHaveLength(1));
  expect((sent[0]!.body as StripPassDoc[]).map((d) => d.side)).toEqual([{ kind: 'stock' }, { kind: 'unit', unitId: 'unit-1' }]);
});

it('a table whose figures name no unit says in which they were read', async () => {
  await show(asUnit(stripBook(4, 0.02)));
  await userEvent.click(screen.getAllByRole('button', { name: 'From a table' })[0]!);
  const field = await screen.findByRole('textbox', { name: 'Passes from a table' });
  fireEvent.change(field, { target: { value: 'time;side;60 ft;1/4;mph;coolant\n12:10;stock;2,4;14,3;96;84\n' } });
  expect(await screen.findByText(/^No unit is named, so read as: coolant \(°C\)\. Is it another\?/)).toBeInTheDocument();
  fireEvent.change(field, { target: { value: 'time;side;60 ft;1/4;mph;coolant F\n12:10;stock;2,4;14,3;96;184\n' } });
  expect(screen.queryByText(/^No unit is named/)).not.toBeInTheDocument();
  expect(screen.getByRole('button', { name: 'Import 1 pass' })).toBeEnabled();
});

it('a pass is left out with a reason, which then stands beside it', async () => {
  const sent = await show(asUnit(stripBook(6, 0.02)));
  await userEvent.click(screen.getByRole('button', { name: 'Change the pass at 10:20' }));
  await userEvent.type(await screen.findByLabelText('Why it is left out'), 'missed third');
  await userEvent.click(screen.getByRole('button', { name: 'Leave out' }));
  expect(await screen.findByText('left out: missed third')).toBeInTheDocument();
  expect(sent[0]).toMatchObject({ method: 'PUT', body: { doc: { leftOut: 'missed third' } } });
});

it('the day’s air is typed, and stands with its density altitude', async () => {
  const sent = await show(asUnit(stripBook(4, 0.02)));
  expect(screen.getByText('10 readings')).toBeInTheDocument();
  await userEvent.click(screen.getByText('Type a reading'));
  const time = screen.getByLabelText('Time of the reading');
  await userEvent.type(time, '13:30');
  const add = screen.getByRole('button', { name: 'Add the reading' });
  // Nothing goes out with a figure that was typed and not taken.
  const barometer = screen.getByLabelText('Barometer, station');
  for (const off of ['1013', '100,8x']) {
    await userEvent.clear(barometer);
    await userEvent.type(barometer, off);
    expect(add).toBeDisabled();
  }
  await userEvent.clear(barometer);
  await userEvent.type(barometer, '1008 hPa');
  await userEvent.click(add);
  await waitFor(() => expect(sent).toHaveLength(1));
  expect(sent[0]!.url).toMatch(/\/weather$/);
  const weather = sent[0]!.body as WeatherReadingDoc[];
  expect(weather.find((w) => w.at === '13:30')).toMatchObject({ from: 'typed', p_Pa: 100_800 });
});

it('air without a humidity says so before it is taken, and beside the readings', async () => {
  const book = asUnit(stripBook(4, 0.02));
  const [visit] = book.visits;
  const weather = visit!.doc.weather.map((w, i) => ({ ...w, rhGuessed: i < 2 }));
  const sent = await show({ ...book, visits: [{ ...visit!, doc: { ...visit!.doc, weather } }, ...book.visits.slice(1)] });
  expect(screen.getByText('2 of 10: humidity not known, 50 % taken.')).toBeInTheDocument();
  await userEvent.click(screen.getAllByRole('button', { name: 'From a table' })[1]!);
  const field = await screen.findByRole('textbox', { name: 'The day’s air from a table' });
  fireEvent.change(field, { target: { value: 'time;temp/F;baro (QFE) [hPa]\n10:00;71;1004\n11:00;75;1003\n' } });
  expect(await screen.findByText(/^2 readings give no humidity: 50 % is taken and marked\./)).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Import 2 readings' }));
  await waitFor(() => expect(sent).toHaveLength(1));
  expect(sent[0]!.body).toMatchObject([
    { at: '10:00', p_Pa: 100_400, rh: 0.5, rhGuessed: true },
    { at: '11:00', rhGuessed: true },
  ]);
});
