import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { NO_TRIAL } from '@/core/documents/blank';
import { jobDoc, type JobDoc } from '@/core/documents/job';
import { must } from '@/core/failure';
import { jobModel } from '@/core/job/model';
import { curlewJob, heronJob, wrenJob } from '@/server/demo/others';
import { aheadByWaves, useWaveRows, WaveGains } from '@/features/pick/wave-gains';
import { larkspur, renderJob, units } from '../../../../test/render-job';
import { madeUpResult } from '../../../../test/waves';
import type { WaveTask } from './pool';
import { WavesStop } from './waves-stop';

jest.mock('@/ui/chart/lazy-chart', () => jest.requireActual<object>('../../../../test/chart-stub'));

/** How the made-up machine answers: whether a task settles, how many it gets done, and which it loses. */
let settles: (task: WaveTask) => boolean;
let getsDone: number;
let loses: number;
jest.mock('./pool', () => ({
  runWaves: (tasks: readonly WaveTask[], onResult: (i: number, r: unknown) => void, onLost: (i: number) => void) => {
    tasks.slice(0, getsDone).forEach((t, i) => (i < loses ? onLost(i) : onResult(i, madeUpResult(t.engine, t.rpm, settles(t)))));
    return { cancel: () => {}, done: Promise.resolve() };
  },
}));
beforeEach(() => {
  localStorage.clear();
  settles = () => true;
  getsDone = Infinity;
  loses = 0;
  // The picture's canvas is not drawn here.
  HTMLCanvasElement.prototype.getContext = (() => null) as never;
});

const id = (name: string): string => name;
const open = (doc: JobDoc) => {
  const whole = jobDoc.parse(doc);
  const model = must(jobModel(whole, []));
  return renderJob(<WavesStop model={model} rpm={5000} onRpm={() => {}} />, { doc: whole });
};
const answer = () => screen.getByRole('heading', { level: 1 });
const answered = (words: RegExp) => waitFor(() => expect(answer()).toHaveTextContent(words));
const tries = (doc: JobDoc, inlet: Partial<JobDoc['pick']['inlet']>): JobDoc => ({
  ...doc,
  pick: { ...doc.pick, inlet: { ...NO_TRIAL, ...inlet } },
});

it('says where the inlet as it is fills best, beside the car’s own curve', async () => {
  open(tries(curlewJob(id), {}));
  // 280 mm: the made-up best speed is 6,250, 6,300 the nearest there is; the car's own curve peaks near 6,600.
  await answered(/^This inlet fills its cylinders best near 6,3\d0 rpm, as the car’s own curve has it\.$/);
  expect(screen.getByText(/^One figure of the inlet is assumed/)).toBeInTheDocument();
  expect(screen.getByRole('row', { name: /^The model 6,3\d0 rpm$/ })).toBeInTheDocument();
  expect(screen.queryByText('filling tried')).toBeNull();
});

it('says what is tried does, where, and over the band between shifts', async () => {
  const { saves } = open(tries(curlewJob(id), { length_m: 0.22 }));
  await answered(/^A 220 mm runner fills the engine \d\.\d % worse .* and \d\.\d % better .*\.$/);
  expect(screen.getByText(/^Between shifts, 5,450 to 7,800 rpm, it fills \d\.\d % (better|worse) on the whole\./)).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: /, filling tried: show the working$/ }));
  expect(await screen.findByText(/^Filling of the inlet tried, at 5000 rpm/)).toBeInTheDocument();
  await userEvent.keyboard('{Escape}');
  await userEvent.click(screen.getByRole('button', { name: 'Back to as it is' }));
  await answered(/^This inlet fills/);
  await waitFor(() => expect(saves.at(-1)?.doc.pick.inlet).toEqual(NO_TRIAL));
});

it('a part of the speeds is said to be so far, and speeds that do not settle are named and left out', async () => {
  getsDone = 9;
  open(tries(curlewJob(id), { length_m: 0.22 }));
  await answered(/^So far: a 220 mm runner/);
  expect(screen.queryByText(/^Between shifts/)).toBeNull();
  await userEvent.click(screen.getByRole('button', { name: 'Stop here' }));
  // Stopped is not done.
  expect(answer()).toHaveTextContent(/^So far/);
  expect(screen.getByRole('button', { name: 'Go on' })).toBeInTheDocument();
});

it('one that never settles is no answer, and the rest still is', async () => {
  settles = (t) => t.rpm > 3000;
  open(tries(curlewJob(id), {}));
  await answered(/^This inlet fills/);
  expect(screen.getByText(/^Not settled at 2,000, /)).toBeInTheDocument();
});

it('speeds that this machine loses are told', async () => {
  loses = 3;
  open(tries(curlewJob(id), {}));
  expect(await screen.findByText(/^Some speeds could not be computed/)).toBeInTheDocument();
});

it('where all of them are lost it does not go on computing for ever', async () => {
  loses = Infinity;
  open(tries(curlewJob(id), {}));
  await answered(/^The waves could not be computed on this machine\.$/);
});

it('the map finds the best length once it is whole, and it outlives being tried', async () => {
  const { saves } = open(tries(curlewJob(id), {}));
  await answered(/^This inlet fills/);
  await userEvent.click(screen.getByRole('button', { name: 'Compute the map' }));
  const take = await screen.findByRole('button', { name: 'Try this length' });
  await userEvent.click(take);
  await waitFor(() => expect(saves.at(-1)?.doc.pick.inlet.length_m).toBeGreaterThan(0.15));
  // Trying a length changes nothing of what the map was made from.
  expect(screen.getByRole('img', { name: /^Filling by runner length/ })).toBeInTheDocument();
  expect(screen.getByRole('button', { name: 'Try this length' })).toBeInTheDocument();
});

it('a coarse map names no best length', async () => {
  open(tries(curlewJob(id), {}));
  await answered(/^This inlet fills/);
  getsDone = 100;
  await userEvent.click(screen.getByRole('button', { name: 'Compute the map' }));
  expect(await screen.findByRole('img', { name: /^Filling by runner length/ })).toBeInTheDocument();
  expect(screen.queryByRole('button', { name: 'Try this length' })).toBeNull();
});

it('lists every assumed figure, moves those that can be, and says how far the answer is good', async () => {
  open(tries(larkspur, { length_m: 0.42 }));
  await answered(/^A 420 mm runner/);
  const assumed = screen.getByText(/^Assumed: /);
  for (const name of ['runner length 350 mm', 'edge of the mouth', 'inlet valves 2', 'plenum volume'])
    expect(assumed).toHaveTextContent(name);
  await userEvent.click(screen.getByRole('button', { name: 'Try the assumed figures' }));
  expect(await screen.findByText(/^What is tried is good to about ±\d\.\d % at any one speed/)).toBeInTheDocument();
  const table = screen.getByRole('columnheader', { name: 'assumed figure' }).closest('table')!;
  // The made-up results follow the length alone.
  expect(within(table).getAllByRole('row')[1]).toHaveTextContent(/^runner length/);
});

it('behind a blower the throttle is not among the waves, and boost is held: both are said', async () => {
  open(heronJob(id));
  await answered(/rpm/);
  expect(screen.getByText(/^The throttle stands before the blower/)).toBeInTheDocument();
  expect(screen.getByText(/^Boost and charge temperature are held/)).toBeInTheDocument();
});

it('a cam card’s impossible figures are refused in place', async () => {
  open(tries(wrenJob(id), {}));
  const rod = screen.getByLabelText('Rod, between centres');
  await userEvent.clear(rod);
  await userEvent.type(rod, '50');
  expect(await screen.findByRole('alert')).toHaveTextContent('A rod is longer than the stroke');
});

describe('Pick', () => {
  const gains = (doc: JobDoc, shown = units.slice(0, 2)) => {
    const whole = jobDoc.parse(doc);
    const model = must(
      jobModel(
        whole,
        shown.map((unit) => ({ unit, opening: 'matched' as const })),
      ),
    );
    const Table = () => <WaveGains model={model} waves={useWaveRows(model)} />;
    return renderJob(<Table />, { doc: whole });
  };
  it('six cylinders on one throttle are computed when asked', async () => {
    gains(larkspur);
    expect(screen.queryByRole('columnheader', { name: 'waves: at peak power' })).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Compute the waves' }));
    expect(await screen.findByRole('columnheader', { name: 'waves: at peak power' })).toBeInTheDocument();
    // The made-up results know nothing of throttles: no change by waves, a gain by even flow.
    expect(screen.getByRole('row', { name: new RegExp(`^${units[1]!.doc.name} \\+\\d\\.\\d % 0\\.0 % 0\\.0 %$`) })).toBeInTheDocument();
  });
  it('says which throttle the waves put ahead, only where even flow has another and the two differ', () => {
    const row = (id: string, band: number | null) => ({ id, name: `Linnet ${id}`, even: 0.01, peak: 0.01 as number | null, band });
    const said = (best: string | null, ...rows: ReturnType<typeof row>[]) =>
      aheadByWaves({ rows, band: [4000, 7000], on: true, ask: () => {}, progress: null, assumed: 0 }, best);
    expect(said('45', row('42', 0.013), row('45', -0.001))).toBe(
      'With the waves Linnet 42 comes out ahead between shifts, +1.3 % against −0.1 %: even flow does not see that.',
    );
    expect([
      said('42', row('42', 0.013), row('45', -0.001)),
      said('45', row('42', 0.013), row('45', 0.011)),
      said('45', row('42', 0.013), row('45', null)),
      said('45', row('42', null)),
      said(null, row('42', 0.013), row('45', -0.001)),
      said('45'),
    ]).toEqual(['', '', '', '', '', '']);
    expect(said('42', { ...row('42', 0.013), peak: 0.104, even: 0.045 }, row('45', -0.001))).toBe(
      'With the waves Linnet 42 brings +10.4 % at peak power: even flow does not see the gulps.',
    );
    expect(said('42', { ...row('42', 0.013), peak: null }, row('45', -0.001))).toBe('');
  });
  it('a throttle before a blower has no such table', () => {
    gains(heronJob(id));
    expect(screen.queryByText('With waves in the inlet')).toBeNull();
  });
});

describe('against the measured curve', () => {
  const RUNNER_m = 0.31;
  /** Air drawn as the made-up model has it with another runner than is taken, at a level of its own. */
  const measured = (doc: JobDoc, runner_m = RUNNER_m): JobDoc => {
    const rpm = Array.from({ length: 15 }, (_, i) => 3000 + 300 * i);
    const { engine, weather } = doc.car;
    const density = weather.p_Pa / (287.05 * weather.T_K);
    const filling = (n: number): number => 0.9 * (1 - (0.02 * Math.abs(n - 1750 / runner_m)) / 1000);
    const value = rpm.map((n) => filling(n) * density * engine.displacement_m3 * (n / 120));
    return {
      ...doc,
      car: {
        ...doc.car,
        inlet: { ...doc.car.inlet, length_m: null },
        measured: { ...doc.car.measured, air: { rpm, value, source: 'made up', driveRatio: null } },
        from: { ...doc.car.from, efficiency: 'air' },
      },
    };
  };

  it('fits what nobody knows, says how well, and takes it into the job when asked', async () => {
    const { saves } = open(measured(tries(curlewJob(id), {})));
    await userEvent.click(await screen.findByRole('button', { name: 'Fit them to the measured curve' }));
    const fitted = await screen.findByRole('button', { name: /^3\d\d mm, runner length, fitted: show the working$/ });
    const row = fitted.closest('tr')!;
    const [value, least, most] = /300 mm(\d+) mm \((\d+) mm to (\d+) mm\)$/.exec(row.textContent)!.slice(1).map(Number);
    expect(value).toBeCloseTo(310, -1);
    expect([least! < 310, 310 < most!, most! - least! < 40]).toEqual([true, true, true]);
    expect(
      screen.getByText(/^Its level apart, the model’s curve lies .* off the measured one\. With the figures below it is .* off\.$/),
    ).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Take these figures' }));
    await waitFor(() => expect(saves.at(-1)!.doc.car.inlet.length_m).toBeCloseTo(RUNNER_m, 2));
    // What is fitted is still not known: it stays among what the answer rests on.
    expect(saves.at(-1)!.doc.marks['inlet.length_m']).toBe('assumed');
    expect(await screen.findByText(/^Assumed: runner length 3\d\d mm/)).toBeInTheDocument();
  }, 30_000);

  it('three points are no curve', async () => {
    const job = measured(tries(curlewJob(id), {}));
    const { air } = job.car.measured;
    const few = { ...air!, rpm: air!.rpm.slice(0, 3), value: air!.value.slice(0, 3) };
    open({ ...job, car: { ...job.car, measured: { ...job.car.measured, air: few } } });
    expect(await screen.findByText(/^The measured curve has fewer than four points/)).toBeInTheDocument();
    expect(screen.queryByRole('button', { name: 'Fit them to the measured curve' })).toBeNull();
  });

  it('compares alone where every figure is given, and says so', async () => {
    const job = measured(tries(curlewJob(id), {}));
    open({ ...job, car: { ...job.car, inlet: { ...job.car.inlet, length_m: 0.31 } } });
    await userEvent.click(await screen.findByRole('button', { name: 'Compare the curves' }));
    expect(await screen.findByText(/^Its level apart, the model’s curve lies 0\.\d % off the measured one\.$/)).toBeInTheDocument();
    expect(screen.queryByRole('button', { name: 'Take these figures' })).toBeNull();
  });

  it('fits nothing to a curve that was not measured', async () => {
    open(tries(curlewJob(id), {}));
    expect(await screen.findByText(/^This car’s curve is a table\./)).toBeInTheDocument();
  });
});
