import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { JobFacts } from '@/core/verdict/facts';
import type { FinishedJob } from '@/core/verdict/similar';
import { comparedSides, factsOf, stripOf } from '../../../test/facts';
import { larkspur, renderJob } from '../../../test/render-job';
import { VerdictStop } from './verdict-stop';

jest.mock('@/ui/chart/lazy-chart', () => jest.requireActual<object>('../../../test/chart-stub'));

const LINK = {
  id: 'l1',
  pack: 'metric',
  madeBy: '',
  madeAt: '2026-04-26T10:00:00Z',
  expiresAt: '2026-05-26T10:00:00Z',
  opened: 0,
  openedAt: null,
};

/** The stop on a server that has measured so much. */
async function show(
  facts: JobFacts | { status: number; message: string },
  options: Parameters<typeof renderJob>[1] & { finished?: FinishedJob[] } = {},
) {
  const wrong = 'message' in facts ? facts : null;
  let links: object[] = [];
  const { saves } = renderJob(<VerdictStop />, {
    ...options,
    answer: (url, method) => {
      if (url.endsWith('/facts'))
        return wrong ? { status: wrong.status, body: wrong } : { body: JSON.parse(JSON.stringify(facts)) as object };
      if (url.endsWith('/finished')) return { body: options.finished ?? [] };
      if (url.includes('/links') && method === 'POST') {
        links = [LINK];
        return { body: { link: LINK, token: 'T'.repeat(43) } };
      }
      if (url.includes('/links') && method === 'DELETE') return { body: [] };
      if (url.includes('/links')) return { body: links };
      if (url.endsWith('/settings'))
        return { body: { name: 'Quarry Lane', people: ['Maud'], pack: 'metric', paper: 'A4', repeatability_pct: 0.8, hourly: 68 } };
      return undefined;
    },
  });
  await waitFor(() => expect(heading()).not.toHaveTextContent('Reading the runs…'));
  return { saves };
}
const heading = () => screen.getByRole('heading', { level: 1 });
const cells = (row: RegExp | string): (string | null)[] =>
  within(screen.getByText(row).closest('tr')!)
    .getAllByRole('cell')
    .map((c) => c.textContent);

beforeEach(() => localStorage.clear());

it.each([
  [0, 0.06, 'Keep it: Fenwick 66 gained +6.0 % over the top third.'],
  [0, -0.06, 'Go back to stock: Fenwick 66 lost −6.0 % over the top third.'],
  [0, 0, 'Go back to stock: Fenwick 66 makes no difference that matters.'],
])('lowest third %d, highest %d: says what to do', async (low, high, answer) => {
  await show(factsOf({ comparison: comparedSides(low, high) }));
  expect(heading()).toHaveTextContent(answer);
});

it('sets predicted beside measured by thirds and at the peak, with the interval', async () => {
  await show(factsOf({ comparison: comparedSides(0, 0.06) }));
  const top = cells('the top third');
  expect(top[1]).toMatch(/^\+1\.\d %$/);
  expect(top[2]).toBe('+6.0 %');
  expect(top[3]).toMatch(/^\+\d\.\d to \+\d\.\d %$/);
  expect(cells('peak against peak')[1]).toBe('+1.9 %');
});

it('with one run a side asks for more of them', async () => {
  await show(factsOf({ comparison: comparedSides(0, 0.005, 1) }));
  expect(heading()).toHaveTextContent('Test more: these tests cannot tell yet.');
  expect(cells('the top third')[3]).toMatch(/^−\d\.\d to \+\d\.\d %$/);
});

it('an unfair comparison decides nothing, and the page says so first', async () => {
  await show(
    factsOf({
      comparison: comparedSides(0, 0.06),
      confounders: [{ code: 'other_record', field: 'pulley', a: '84 mm', b: '78 mm', odd: [] }],
    }),
  );
  expect(heading()).toHaveTextContent('Test more: the comparison is not a fair one.');
  expect(screen.getAllByText(/unfair and decides nothing: pulley differs/).length).toBeGreaterThan(0);
});

it('the strip alone is enough for a verdict, with its picture and its prediction', async () => {
  await show(factsOf({ strip: stripOf(10, 0.06, 'unit-1') }));
  expect(heading()).toHaveTextContent(/^Keep it: Fenwick 66 is \+\d\.\d+ km\/h in trap speed\.$/);
  expect(screen.getByRole('img', { name: /strip, trap speed/ })).toBeInTheDocument();
  expect(cells('trap speed')[1]).toMatch(/^\+0\.\d+ km\/h$/);
});

it('every figure of it shows its working', async () => {
  await show(factsOf({ comparison: comparedSides(0, 0.06) }));
  await userEvent.click(screen.getByRole('button', { name: /, cost of the gain: show the working$/ }));
  expect(await screen.findByRole('dialog')).toBeInTheDocument();
});

it('counts what it cost as it is typed, and a unit of power only where something was gained', async () => {
  const { saves } = await show(factsOf({ comparison: comparedSides(0, 0.06) }));
  expect(screen.getByText('Each kW gained').parentElement).toHaveTextContent(/€\s\d+/);
  const together = () => screen.getByText('Together').parentElement!.parentElement!.textContent;
  const before = together();
  const field = screen.getByLabelText('Other parts');
  await userEvent.clear(field);
  await userEvent.type(field, '138{Enter}');
  await waitFor(() => expect(together()).not.toBe(before));
  await waitFor(() => expect(saves.at(-1)?.doc.verdict.otherParts).toBe(138));
});

it('a loss has no price', async () => {
  await show(factsOf({ comparison: comparedSides(0, -0.06) }));
  expect(screen.getByText('Each kW gained').parentElement).toHaveTextContent('nothing gained');
});

it('an unfair comparison has no price either, nor does it say what it gained', async () => {
  await show(
    factsOf({
      comparison: comparedSides(0, 0.06),
      confounders: [{ code: 'other_record', field: 'pulley', a: '84 mm', b: '78 mm', odd: [] }],
    }),
  );
  expect(screen.getByText('Gained where it decides').parentElement).toHaveTextContent('the comparison is unfair');
  expect(screen.getByText('Each kW gained').parentElement).toHaveTextContent('—');
});

it('a person decides otherwise with a reason that stands on the page, and the figures can have it back', async () => {
  const { saves } = await show(factsOf({ comparison: comparedSides(0, 0.06) }));
  await userEvent.click(screen.getByRole('button', { name: 'Decide otherwise' }));
  expect(screen.getByRole('button', { name: 'Decide' })).toBeDisabled();
  await userEvent.type(screen.getByLabelText('Why'), 'owner wants the old sound');
  await userEvent.type(screen.getByLabelText('Who decides'), 'Maud');
  await userEvent.click(screen.getByRole('button', { name: 'Decide' }));
  expect(screen.getByText(/owner wants the old sound The figures by themselves say: keep it\./)).toBeInTheDocument();
  await waitFor(() => expect(saves.at(-1)?.doc.verdict.override).toMatchObject({ reason: 'owner wants the old sound', by: 'Maud' }));
  await userEvent.click(screen.getByRole('button', { name: 'Let the figures decide again' }));
  expect(screen.queryByText(/owner wants the old sound/)).toBeNull();
});

it('scores who expected what', async () => {
  const guess = (source: string, predicted: number, measured: number | null) =>
    ({
      id: source,
      subject: 'dyno',
      subjectId: null,
      title: 't',
      source,
      predicted,
      low: predicted - 1,
      high: predicted + 1,
      measured,
      madeAt: '2026-04-18T08:00:00Z',
    }) as const;
  await show(
    factsOf({ comparison: comparedSides(0, 0.06), guesses: [guess('Maud', 5.5, 6), guess('Tobin', 2, 6), guess('Ada', 2, null)] }),
  );
  expect(cells('Maud')).toEqual(['Maud', '+5.5 %', '+4.5 to +6.5', '−0.5 %', 'yes']);
  expect(cells('Tobin').at(-1)).toBe('no');
  expect(cells('Ada').at(-2)).toBe('not scored');
});

it('tells what such engines did here, or honestly that nobody knows', async () => {
  const finished: FinishedJob[] = ['a', 'b', 'c'].map((id, i) => ({
    id,
    name: `car ${id}`,
    unit: 'some 66',
    boreRatio: 1.1,
    mean_pct: 1 + 0.1 * i,
    low_pct: 0.5,
    high_pct: 1.6,
    predicted_pct: null,
    induction: 'na',
    displacement_m3: 0.0029,
  }));
  await show(factsOf({ comparison: comparedSides(0, 0.06) }), { finished });
  expect(await screen.findByRole('button', { name: /, the jobs together: show the working$/ })).toHaveTextContent('+1.1 %');
  expect(screen.getByText(/from 3 jobs and how much they differ/)).toBeInTheDocument();
});

it('without others says there is no experience', async () => {
  await show(factsOf({ comparison: comparedSides(0, 0.06) }));
  expect(await screen.findByText(/there is no experience to go by yet/)).toBeInTheDocument();
});

it('makes a link for the customer, shows it once, and takes it back', async () => {
  await show(factsOf({ comparison: comparedSides(0, 0.06) }));
  await userEvent.click(screen.getByRole('button', { name: 'Make a link' }));
  expect(await screen.findByLabelText('The new link')).toHaveValue(`http://localhost/c/${'T'.repeat(43)}`);
  await userEvent.click(screen.getByRole('button', { name: /^Revoke the link/ }));
  await waitFor(() => expect(screen.queryByLabelText('The new link')).toBeNull());
});

it('before anything was measured it says what is predicted and where to go', async () => {
  await show(factsOf({}));
  expect(heading()).toHaveTextContent('There is nothing to judge yet.');
  expect(screen.getByText(/^Fenwick 66 is predicted to bring \+1\.9 % at peak\./)).toBeInTheDocument();
  expect(screen.getByRole('link', { name: 'Go to Test' })).toBeInTheDocument();
});

it('without a throttle it says what to do first', async () => {
  await show(factsOf({ unitId: null }), { doc: { ...larkspur, pick: { ...larkspur.pick, chosen: null } } });
  expect(screen.getByText(/^Choose a throttle on the Pick step/)).toBeInTheDocument();
});

it('a server that is away is told', async () => {
  await show({ status: 503, message: 'The database cannot be reached just now.' });
  expect(heading()).toHaveTextContent('The verdict cannot be read just now.');
  expect(screen.getByText('The database cannot be reached just now.')).toBeInTheDocument();
});

it('keeps the verdict in the tuner’s own words', async () => {
  const { saves } = await show(factsOf({ comparison: comparedSides(0, 0.06) }));
  await userEvent.type(screen.getByLabelText('Verdict in your words'), 'Worth it.');
  await waitFor(() => expect(saves.at(-1)?.doc.verdict.note).toMatch(/Worth it\.$/));
});
