import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { jobDoc, type JobDoc } from '@/core/documents/job';
import type { StoredUnit } from '@/core/documents/unit';
import { FitStop } from '@/features/fit/fit-stop';
import { PlanView } from '@/features/test/plan/plan-view';
import { VerdictStop } from '@/features/verdict/verdict-stop';
import { curlewJob } from '@/server/demo/others';
import { DEMO_SHELF } from '@/server/demo/shelf';
import { comparedSides, factsOf } from '../../../../test/facts';
import { larkspur, renderJob, units } from '../../../../test/render-job';
import { madeUpResult } from '../../../../test/waves';
import type { WaveTask } from './pool';

jest.mock('@/ui/chart/lazy-chart', () => jest.requireActual<object>('../../../../test/chart-stub'));
jest.mock('@/features/job/use-uncertainty', () => ({ useUncertainty: () => ({ ranges: {}, progress: null }) }));
let settles = true;
jest.mock('./pool', () => ({
  runWaves: (tasks: readonly WaveTask[], onResult: (i: number, r: unknown) => void) => {
    tasks.forEach((t, i) => onResult(i, madeUpResult(t.engine, t.rpm, settles)));
    return { cancel: () => {}, done: Promise.resolve() };
  },
}));

const LONG: StoredUnit = { id: 'long', version: 1, doc: DEMO_SHELF.find((u) => u.name === 'Linnet six 40, long trumpets')! };
const curlew: JobDoc = jobDoc.parse({
  ...curlewJob((n) => n),
  pick: { ...curlewJob((n) => n).pick, shown: ['long'], chosen: 'long' },
  test: { ...curlewJob((n) => n).test, plan: { ...curlewJob((n) => n).test.plan, decidesOn: 'top' } },
});
const shelf = [...units, LONG];
const facts = factsOf({ comparison: comparedSides(0, 0.06), unitId: 'long' });
const answer = (url: string) =>
  url.endsWith('/facts')
    ? { body: JSON.parse(JSON.stringify(facts)) as object }
    : url.endsWith('/settings')
      ? { body: { name: 'Quarry Lane', people: [], pack: 'metric', paper: 'A4', repeatability_pct: 0.8, hourly: 68 } }
      : url.includes('/finished') || url.includes('/links') || url.includes('/guesses')
        ? { body: [] }
        : undefined;

beforeEach(() => {
  localStorage.clear();
  settles = true;
});

describe('Plan', () => {
  const plan = (doc: JobDoc, unitId: string) => renderJob(<PlanView unitId={unitId} reply={null} />, { doc, shelf, answer });
  it('says of individual throttles what the waves expect beside even flow, and what that rests on', async () => {
    plan(curlew, 'long');
    expect(screen.getByText(/The waves in the inlet are being computed\./)).toBeInTheDocument();
    // The made-up machine fills a 330 mm runner best at 5,300 rpm, a 280 mm one at 6,250: over the top third the long one loses.
    expect(
      await screen.findByText(/The model expects [+−]?0\.\d %.*With the waves in the inlet it is −1\.\d % there: believe that figure/),
    ).toHaveTextContent(/It rests on 1 assumed figure of the inlet/);
  });
  it('says so where they cannot be told, and nothing of them behind a plenum of six', async () => {
    settles = false;
    plan(curlew, 'long');
    expect(await screen.findByText(/cannot be told: too few engine speeds came out\./)).toBeInTheDocument();
    plan(larkspur, 'unit-1');
    expect(await screen.findByText(/The model expects \+1\.\d % over the top third from Fenwick 66\. Cheapest/)).toBeInTheDocument();
  });
});

describe('Verdict', () => {
  it('sets what the waves say beside even flow and what was measured, with its working', async () => {
    renderJob(<VerdictStop />, { doc: curlew, shelf, answer });
    const head = await screen.findByRole('columnheader', { name: 'with waves' });
    const table = head.closest('table')!;
    const button = await within(table).findByRole('button', { name: /^[+−]\d\.\d %, with waves, the top third: show the working$/ });
    expect(document.querySelector('[data-line="with waves"]')).not.toBeNull();
    await userEvent.click(button);
    expect(await screen.findByText('Predicted with waves, the top third')).toBeInTheDocument();
    expect(screen.getByText(/times the ratio of the air that the wave model lets in/)).toBeInTheDocument();
  });
  it('has no such column where six cylinders share a throttle', async () => {
    renderJob(<VerdictStop />, {
      shelf,
      answer: (url) => (url.endsWith('/facts') ? { body: factsOf({ comparison: comparedSides(0, 0.06) }) } : answer(url)),
    });
    expect(await screen.findByRole('columnheader', { name: 'predicted' })).toBeInTheDocument();
    expect(screen.queryByRole('columnheader', { name: 'with waves' })).toBeNull();
  });
});

describe('Fit', () => {
  it('says how long the runner is with the throttle, which way its speed moves, and takes that to the waves', async () => {
    const { saves } = renderJob(<FitStop />, { doc: curlew, shelf });
    expect(screen.getByRole('button', { name: '330 mm, runner with it: show the working' })).toBeInTheDocument();
    expect(screen.getByText(/^Longer: it fills best about 15 % lower in engine speed/)).toBeInTheDocument();
    const link = screen.getByRole('link', { name: 'Try it in the waves' });
    expect(link).toHaveAttribute('href', './air?look=waves');
    link.addEventListener('click', (e) => e.preventDefault());
    await userEvent.click(link);
    await waitFor(() => expect(saves.at(-1)?.doc.pick.inlet.length_m).toBeCloseTo(0.33, 9));
  });
  it('asks for the lengths where they are not known', () => {
    renderJob(<FitStop />, {
      doc: {
        ...curlew,
        car: { ...curlew.car, stock: { ...curlew.car.stock, fittings: { ...curlew.car.stock.fittings, length_m: null } } },
      },
      shelf,
    });
    expect(
      screen.getByText(/is part of its runner: give its length on the Shelf, and the stock one’s under Manifold\./),
    ).toBeInTheDocument();
    expect(screen.queryByRole('link', { name: 'Try it in the waves' })).toBeNull();
  });
  it('lengths that cannot be are told as that, not asked for again', () => {
    const { fittings } = curlew.car.stock;
    const doc = { ...curlew, car: { ...curlew.car, stock: { ...curlew.car.stock, fittings: { ...fittings, length_m: 0.45 } } } };
    renderJob(<FitStop />, { doc, shelf });
    expect(screen.getByText(/^With these lengths the runner would be under 40 mm or over 1\.5 m/)).toBeInTheDocument();
    expect(screen.queryByText(/give its length on the Shelf/)).toBeNull();
  });
});
