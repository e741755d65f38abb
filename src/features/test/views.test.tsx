import { act, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { compareSides } from '@/core/compare/sides';
import type { StoredPractice } from '@/core/documents/practice';
import type { StoredPrediction } from '@/core/documents/prediction';
import { must } from '@/core/failure';
import { NO_PLAN } from '@/core/documents/blank';
import { FakeEventSource } from '../../../test/event-source';
import { PRACTICE_SCORE } from '../../../test/facts';
import { loggedRun } from '../../../test/logged-run';
import { importsInto, renderServed, serve } from '../../../test/render-served';
import type { CompareReply } from './dyno/compare.worker';
import { LivePull } from './dyno/live-pull';
import { PlanView } from './plan/plan-view';
import { PracticeView } from './practice/practice-view';

jest.mock('@/ui/chart/lazy-chart', () => jest.requireActual<object>('../../../test/chart-stub'));
jest.mock('@/features/job/use-uncertainty', () => ({ useUncertainty: () => ({ ranges: {}, progress: null }) }));

const heading = () => screen.getByRole('heading', { level: 1 });
const taken: File[] = [];
const imports = importsInto(taken);

const guess = (source: string, predicted: number, measured: number | null): StoredPrediction => ({
  id: source,
  subject: 'dyno',
  subjectId: 'job-1',
  title: 'x',
  source,
  predicted,
  low: predicted - 1,
  high: predicted + 1,
  measured,
  madeAt: '2026-04-18T09:00:00Z',
});

beforeEach(() => {
  localStorage.clear();
  taken.length = 0;
  FakeEventSource.opened = [];
  globalThis.EventSource = FakeEventSource as unknown as typeof EventSource;
});

describe('Plan', () => {
  it('says before the runs are paid for what the order of the day would tell, how long and how dear', async () => {
    await renderServed(<PlanView unitId="unit-1" reply={null} />, {});
    expect(heading()).toHaveTextContent(
      /^12 runs, stock, new, stock, new: 3 h 27 min, € 140; it tells 1\.\d % in \d\d of 100 such tests\.$/,
    );
    expect(screen.getByText(/^The model expects \+1\.\d % over the top third from Fenwick 66\./)).toHaveTextContent(
      /By assumed sizes of runs, refits and days\.$/,
    );
    expect(within(screen.getByRole('list', { name: 'Runs in their order' })).getAllByRole('listitem')).toHaveLength(12);
    expect(within(screen.getByRole('table')).getAllByRole('row')[1]).toHaveTextContent('alternate every run');
  });

  it('follows the fields, recommends only what is likely to tell, and takes an order with one click', async () => {
    await renderServed(<PlanView unitId={null} reply={null} />, {});
    expect(screen.getByText(/^Choose a throttle on the Pick step/)).toHaveTextContent(
      /Cheapest with a good chance to tell 1\.5 %: .* \(\d\d in 100/,
    );
    await userEvent.type(screen.getByLabelText('Runs a stay'), '2{Enter}');
    await waitFor(() => expect(heading()).toHaveTextContent(/^8 runs, stock, new, stock, new/));
    await userEvent.click((await screen.findAllByRole('button', { name: /^Plan alternate every run, 6 pairs/ }))[0]!);
    await waitFor(() => expect(heading()).toHaveTextContent(/alternate every run/));
    const threshold = screen.getByLabelText('Smallest change that matters, %');
    await userEvent.clear(threshold);
    await userEvent.type(threshold, '0.3{Enter}');
    expect(
      await screen.findByText(/No day here has a good chance to tell 0\.\d %: the best, .* A refit alone moves it by 0\.36 %/),
    ).toBeInTheDocument();
  });

  it('is written down before the first run, and said to be changed when it is', async () => {
    await renderServed(<PlanView unitId="unit-1" reply={null} />, {}, { runs: [] });
    expect(screen.getByText(/^Written down 18 April 2026, before the first run/)).toBeInTheDocument();
    await userEvent.type(screen.getByLabelText('Runs a stay'), '4{Enter}');
    expect(await screen.findByText(/^The plan was changed after it was written down/)).toBeInTheDocument();
    await userEvent.click(screen.getByText('Write the plan down'));
    expect(await screen.findByText(/^Written down \d+ \w+ \d{4}, before the first run/)).toBeInTheDocument();
  });

  it('writes a guess down, and says when the server refuses it', async () => {
    const asked = await renderServed(<PlanView unitId="unit-1" reply={null} />, {
      'GET /api/jobs/job-1/guesses': [guess('Tobin', 0.5, null)],
      'POST /api/predictions': guess('Maud', 2, null),
    });
    expect(await screen.findByText('Tobin')).toBeInTheDocument();
    await userEvent.type(screen.getByLabelText('Who guesses'), 'Maud');
    await userEvent.type(screen.getByLabelText('expects, %'), '2{Enter}');
    await userEvent.click(screen.getByText('Write it down'));
    expect(await screen.findByText('Maud')).toBeInTheDocument();
    expect(asked.find((a) => a.method === 'POST')!.body).toMatchObject({
      subject: 'dyno',
      subjectId: 'job-1',
      source: 'Maud',
      predicted: 2,
      low: 1,
      high: 3,
    });
    serve({ 'POST /api/predictions': { refused: 'The new part has been run already.' } });
    await userEvent.type(screen.getByLabelText('Who guesses'), 'Late');
    await userEvent.type(screen.getByLabelText('expects, %'), '1{Enter}');
    await userEvent.click(screen.getByText('Write it down'));
    expect(await screen.findByRole('alert')).toHaveTextContent('The new part has been run already.');
  });

  it('with the runs in ticks them off, holds them against the plan, and scores who guessed', async () => {
    const rpm = Array.from({ length: 120 }, (_, i) => 2000 + 40 * i);
    const side = (k: number) => [1, 1.001, 0.999].map((s) => ({ rpm, power_W: rpm.map((n) => 20 * n * k * s) }));
    const comparison = must(compareSides(side(1), side(1.02), { fwhm_rpm: 0 }));
    const reply: CompareReply = {
      prepared: [],
      comparison,
      extras: [],
      order: 'times in the files',
      confounders: [],
      compared: [],
      held: [
        { key: 'inletAir_K', limit: 3, state: 'broken', spread: 6.2, words: [] },
        { key: 'density', limit: 0.01, state: 'kept', spread: 0.004, words: [] },
        { key: 'pulley', limit: null, state: 'broken', spread: null, words: ['84 mm', '78 mm'] },
        { key: 'tune', limit: null, state: 'not recorded', spread: null, words: [] },
        { key: 'coolant_K', limit: 5, state: 'waits', spread: null, words: [] },
      ],
    };
    const runs = ['a', 'b'].map((id) => loggedRun(id, { kind: 'dyno', side: { kind: 'stock' } }));
    const asked = await renderServed(
      <PlanView unitId="unit-1" reply={reply} />,
      {
        'GET /api/jobs/job-1/guesses': [guess('Maud', 3.5, null)],
        'PUT /api/jobs/job-1/guesses': [guess('Maud', 3.5, 2)],
      },
      { runs: [...runs, loggedRun('c', { kind: 'dyno', side: { kind: 'unit', unitId: 'unit-1' } })] },
    );
    expect(screen.getByText('3 of 12 done')).toBeInTheDocument();
    expect(screen.getByText('not kept: 6.2 °C apart, 3.0 °C allowed')).toBeInTheDocument();
    expect(screen.getByText('kept: 0.4 % apart, 1.0 % allowed')).toBeInTheDocument();
    expect(screen.getByText('not kept: 84 mm, 78 mm')).toBeInTheDocument();
    expect(screen.getByText('not written down in every record')).toBeInTheDocument();
    expect(screen.queryByLabelText('Who guesses')).toBeNull();
    await userEvent.click(await screen.findByText(/^Score them by the measured \+[12]\.\d %$/));
    expect(await screen.findByText(/Maud: off by 1\.\d %, outside the range\./)).toBeInTheDocument();
    expect((asked.find((a) => a.method === 'PUT')!.body as { measured: number }).measured).toBeCloseTo(1.9, 0);
  });
});

describe('the stand-in dyno', () => {
  const reading = (i: number) => ({
    t_s: i / 50,
    rpm: 2000 + 50 * i,
    power_W: 40_000 + 900 * i,
    torque_Nm: 200,
    throttle_pct: 100,
    plenum_Pa: 97_000,
    inlet_K: 300,
    coolant_K: 360,
  });

  it('draws the pull as it comes and takes it in as a file', async () => {
    await renderServed(<LivePull imports={imports} unitId="unit-1" />, {});
    await userEvent.click(screen.getByText('Practice dyno'));
    await userEvent.click(screen.getByText('Pull'));
    const stream = FakeEventSource.latest();
    expect(stream.url).toMatch(/^\/api\/stand-ins\/dyno\?job=job-1&seed=\d+&rests=8&rate=420&hidden=0$/);
    act(() => {
      for (let i = 0; i < 80; i += 1) stream.give(reading(i));
      stream.end();
    });
    await waitFor(() => expect(taken).toHaveLength(1));
    expect(taken[0]!.name).toBe('practice dyno stock 1.csv');
    expect(stream.closed).toBe(true);
    expect(screen.getByText('1 made')).toBeInTheDocument();
    expect(screen.getByRole('img', { name: 'Power over engine speed, as it comes in' })).toBeInTheDocument();
  });

  it('keeps nothing of a pull that broke off or was lifted from', async () => {
    await renderServed(<LivePull imports={imports} unitId={null} />, {});
    await userEvent.click(screen.getByText('Practice dyno'));
    await userEvent.click(screen.getByText('Pull'));
    act(() => {
      FakeEventSource.latest().give(reading(0));
      FakeEventSource.latest().onerror!();
    });
    expect(await screen.findByRole('alert')).toHaveTextContent('half a pull is none');
    await userEvent.click(screen.getByText('Pull'));
    await userEvent.click(screen.getByText('Lift off'));
    expect(taken).toEqual([]);
  });
});

describe('Practice', () => {
  const rpm = Array.from({ length: 100 }, (_, i) => 2000 + 45 * i);
  const pulled = (side: 'A' | 'B', scale: number): StoredPractice['runs'][number] => ({
    side,
    rest_min: 8,
    newStay: false,
    day: 1,
    pass: null,
    at_min: 60,
    rpm,
    power_W: rpm.map((n) => 20 * n * scale),
    inletStart_K: 298,
    inletPeak_K: 304,
    coolantStart_K: 358,
    leftOut: null,
  });
  const session = (runs: StoredPractice['runs'], more: Partial<StoredPractice> = {}): StoredPractice => ({
    id: 'p1',
    setup: { rig: 'dyno', unitId: 'unit-1', plan: NO_PLAN, guess_pct: null },
    runs,
    decision: null,
    truth: null,
    startedAt: '2026-04-18T09:00:00Z',
    ...more,
  });

  it('begins, pulls, decides, and only then tells what was true', async () => {
    const four = [pulled('A', 1), pulled('A', 1.001), pulled('B', 1.02), pulled('B', 1.0205)];
    const asked = await renderServed(<PracticeView unitId="unit-1" />, {
      'GET /api/jobs/job-1/practice': [],
      'POST /api/jobs/job-1/practice': session([]),
      'POST /api/practice/p1/pull': session(four),
      'PUT /api/practice/p1/pull': session(four.map((r, i) => (i === 0 ? { ...r, leftOut: 'heat-soaked' } : r))),
      'POST /api/practice/p1/decision': {
        practice: session(four, { decision: { word: 'gain', estimate_pct: 2 }, truth: { bottom_pct: 1, top_pct: 1, driftPerPull_pct: 0 } }),
        score: PRACTICE_SCORE,
      },
    });
    expect(heading()).toHaveTextContent(/^Practise: the truth is hidden/);
    await userEvent.click(screen.getByText('Begin a session'));
    expect(await screen.findByText('At the practice dyno')).toBeInTheDocument();
    expect(heading()).toHaveTextContent('No answer yet: pull stock and the new part.');
    await userEvent.click(screen.getByText('Pull'));
    expect(FakeEventSource.latest().url).toBe('/api/practice/p1/pull?side=A&rest_min=8&newStay=false&day=1');
    act(() => FakeEventSource.latest().end());
    expect(await screen.findByText(/day 1, 60 min so far$/)).toBeInTheDocument();
    expect(heading()).toHaveTextContent(/^Gain: the new part made \+1\.9 %/);
    await userEvent.click(screen.getAllByLabelText('Why it is left out')[0]!);
    await userEvent.click(await screen.findByTitle('heat-soaked'));
    expect(await screen.findByText('left out: heat-soaked')).toBeInTheDocument();
    await userEvent.click(screen.getByLabelText('Your decision'));
    await userEvent.click(await screen.findByTitle('gain'));
    await userEvent.click(screen.getByText('That is my answer'));
    await waitFor(() => expect(heading()).toHaveTextContent('Right, by luck: the runs did not carry it: truly +1.9 %, gain.'));
    expect(asked.find((a) => a.url.endsWith('/decision'))!.body).toMatchObject({ word: 'gain' });
    expect(screen.getByText('4 runs in 2 stays, 90 min')).toBeInTheDocument();
  });

  it('goes on with a session that was left open, and needs a unit to begin one', async () => {
    await renderServed(<PracticeView unitId="unit-1" />, { 'GET /api/jobs/job-1/practice': [session([pulled('A', 1)])] });
    expect(await screen.findByText(/day 1, 60 min so far$/)).toBeInTheDocument();
  });

  it('without a shelf says what is missing', async () => {
    await renderServed(<PracticeView unitId={null} />, { 'GET /api/jobs/job-1/practice': [] }, { shelf: [] });
    await userEvent.click(screen.getByText('Begin a session'));
    expect(await screen.findByRole('alert')).toHaveTextContent('The shelf is empty');
  });
});
