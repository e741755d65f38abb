import { fireEvent, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { jobDoc } from '@/core/documents/job';
import { must } from '@/core/failure';
import { jobModel } from '@/core/job/model';
import { gridPoints, type WaveGrid } from '@/core/job/wave-sweep';
import type { ManifoldDrop } from './manifold-drop.worker';
import { larkspur, renderJob } from '../../../../test/render-job';
import { madeUpResult } from '../../../../test/waves';
import type { WaveTask } from './pool';
import { WavesStop } from './waves-stop';

jest.mock('@/ui/chart/lazy-chart', () => jest.requireActual<object>('../../../../test/chart-stub'));

/** A made-up engine whose manifold lies the lower the less its throttle passes. */
const DROP_Pa = 2000;
let asItIs_m2: number | null = null;
jest.mock('./pool', () => ({
  runWaves: (tasks: readonly WaveTask[], onResult: (i: number, r: unknown) => void) => {
    tasks.forEach((t, i) => {
      const area = t.engine.throttle!.effectiveArea_m2;
      asItIs_m2 ??= area;
      const p_Pa = t.engine.ambient!.p_Pa!;
      onResult(i, { ...madeUpResult(t.engine, t.rpm), plenum_Pa: p_Pa - DROP_Pa * (asItIs_m2 / area) ** 2 });
    });
    return { cancel: () => {}, done: Promise.resolve() };
  },
}));

let manifold: { offered: boolean; drop: ManifoldDrop | null; failed: boolean };
jest.mock('./use-manifold-drop', () => ({ useManifoldDrop: () => manifold }));

beforeEach(() => {
  localStorage.clear();
  asItIs_m2 = null;
  manifold = { offered: false, drop: null, failed: false };
  HTMLCanvasElement.prototype.getContext = (() => null) as never;
});

const doc = jobDoc.parse(larkspur);
const model = must(jobModel(doc, []));
const open = (answer?: Parameters<typeof renderJob>[1]) =>
  renderJob(<WavesStop model={model} rpm={5000} onRpm={() => {}} />, { doc, ...answer });

describe('stock’s manifold pressure', () => {
  const rpm = Array.from({ length: 12 }, (_, i) => 2500 + 300 * i);
  const choose = () => userEvent.click(screen.getByRole('button', { name: 'Set it against stock’s manifold pressure' }));

  it('is offered only where some run of stock has it', () => {
    open();
    expect(screen.getByText(/^This car’s curve is a table\./)).toBeInTheDocument();
    expect(screen.queryByText(/manifold pressure/)).toBeNull();
  });

  it('says how well throttle and path pass, and what it leaves out', async () => {
    // A throttle that passes 1.25 times what its figures say.
    const drop_Pa = rpm.map(() => DROP_Pa / 1.25 ** 2);
    manifold = { offered: true, drop: { rpm, drop_Pa, runs: 2, withoutKeyOn: 1, noPull: 1 }, failed: false };
    open();
    await choose();
    expect(
      screen.getByText(
        'Stock’s manifold pressure below its key-on reading, mean of 2 runs; 1 without a key-on reading left out; 1 without a wide-open pull left out.',
      ),
    ).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Fit them to the measured curve' }));
    expect(await screen.findByText(/Throttle and path pass about 125 % of what their figures say/)).toBeInTheDocument();
  }, 20_000);

  it.each([
    [{ rpm: [], drop_Pa: [], runs: 0, withoutKeyOn: 3, noPull: 0 }, /no key-on reading of the same gauge/],
    [{ rpm: [], drop_Pa: [], runs: 0, withoutKeyOn: 0, noPull: 2 }, /no wide-open pull/],
    [{ rpm, drop_Pa: rpm.map(() => 150), runs: 2, withoutKeyOn: 0, noPull: 0 }, /too little for a gauge to tell a shape/],
  ])('says what is missing, and what else would do', async (drop, words) => {
    manifold = { offered: true, drop, failed: false };
    open();
    await choose();
    expect(screen.getByText(words)).toBeInTheDocument();
    if (drop.runs === 0) expect(screen.getByText(/^This car’s curve is a table\. Give Car a measured one/)).toBeInTheDocument();
    expect(screen.queryByRole('button', { name: /Fit them/ })).toBeNull();
  });

  it('says when the runs cannot be read', async () => {
    manifold = { offered: true, drop: null, failed: true };
    open();
    await choose();
    expect(screen.getByRole('alert')).toHaveTextContent('Stock’s runs could not be read');
  });
});

describe('the fine map', () => {
  const ask = () => userEvent.click(screen.getByRole('button', { name: 'Fine map, by the server' }));
  /** A server that has `done` of it, then as `end` says. */
  const server = (end: 'done' | 'failed' | 'cancelled', asked: { method: string; url: string; body: unknown }[]) => {
    let looked = 0;
    let grid: WaveGrid;
    const filling = (share: number) => Array.from({ length: gridPoints(grid) }, (_, i) => (i < share * gridPoints(grid) ? 0.9 : null));
    return (url: string, method: string, body: unknown) => {
      if (!/wave-sweeps|\/api\/work\//.test(url)) return undefined;
      asked.push({ method, url, body });
      if (method === 'POST') {
        ({ grid } = body as { grid: WaveGrid });
        return { status: 202, body: { work: 'w1' } };
      }
      if (method === 'DELETE') return { body: {} };
      looked += 1;
      if (looked === 1) return { body: { state: 'running', share: 0.4, result: { filling: filling(0.4), unsettled: [] }, problem: null } };
      if (end === 'cancelled')
        return { body: { state: 'cancelled', share: 0.4, result: { filling: filling(0.4), unsettled: [] }, problem: null } };
      if (end === 'failed')
        return { body: { state: 'failed', share: 0.4, result: null, problem: { message: 'The intake cannot be solved.' } } };
      return { body: { state: 'done', share: 1, result: { filling: filling(1), unsettled: [] }, problem: null } };
    };
  };

  it('is asked for with what is saved, shows what there is, and ends as the server says', async () => {
    const asked: { method: string; url: string; body: unknown }[] = [];
    open({ answer: server('done', asked) });
    await ask();
    expect(await screen.findByText('A worker computes it. You may leave this page: asked for again, it is there.')).toBeInTheDocument();
    expect(screen.getByRole('progressbar', { name: 'Compute the map' })).toHaveAttribute('aria-valuenow', '40');
    expect(asked[0]).toMatchObject({ method: 'POST', url: '/api/jobs/job-1/wave-sweeps', body: { version: 1 } });
    const { grid } = asked[0]!.body as { grid: WaveGrid };
    expect([grid.lengths_m.length, grid.rpm.length]).toEqual([24, 47]);
    expect(await screen.findByText('Computed by a worker of the server and kept for thirty days.')).toBeInTheDocument();
    // Every length fills alike here: none is better than the one there is.
    expect(screen.getByText(/, no better than now$/)).toBeInTheDocument();
  });

  it('stopped before the server has answered, it is stopped there all the same', async () => {
    const asked: { method: string; url: string; body: unknown }[] = [];
    open({ answer: server('done', asked) });
    // Both in one breath: the server's answer to the first is not heard before the second.
    fireEvent.click(screen.getByRole('button', { name: 'Fine map, by the server' }));
    fireEvent.click(screen.getByRole('button', { name: 'Stop' }));
    await waitFor(() => expect(asked.at(-1)).toMatchObject({ method: 'DELETE', url: '/api/work/w1' }));
    expect(screen.getByText('Stopped: what was computed until then is shown.')).toBeInTheDocument();
  });

  it('stopped by another window, it says so', async () => {
    open({ answer: server('cancelled', []) });
    await ask();
    expect(await screen.findByText('Stopped from another window: what was computed until then is shown.')).toBeInTheDocument();
    expect(screen.getByRole('button', { name: 'Fine map, by the server' })).toBeEnabled();
  });

  it('asked for again, it is so once the server has heard that it was to stop', async () => {
    const asked: { method: string; url: string; body: unknown }[] = [];
    const said = server('failed', asked);
    let heard = (): void => {};
    const after = new Promise<void>((done) => (heard = done));
    open({
      answer: (url, method, body) => {
        const answer = said(url, method, body);
        return answer && method === 'DELETE' ? { ...answer, after } : answer;
      },
    });
    await ask();
    await screen.findByText('A worker computes it. You may leave this page: asked for again, it is there.');
    await userEvent.click(screen.getByRole('button', { name: 'Stop' }));
    await waitFor(() => expect(asked.at(-1)).toMatchObject({ method: 'DELETE' }));
    await ask();
    await new Promise((done) => setTimeout(done, 100));
    expect(asked.at(-1)).toMatchObject({ method: 'DELETE' });
    heard();
    await waitFor(() => expect(asked.filter((a) => a.method === 'POST')).toHaveLength(2));
  });

  it('stopped, it is stopped there; failed, it says why and may be asked for again', async () => {
    const asked: { method: string; url: string; body: unknown }[] = [];
    open({ answer: server('failed', asked) });
    await ask();
    await userEvent.click(await screen.findByRole('button', { name: 'Stop' }));
    expect(screen.getByText('Stopped: what was computed until then is shown.')).toBeInTheDocument();
    await waitFor(() => expect(asked.at(-1)).toMatchObject({ method: 'DELETE', url: '/api/work/w1' }));
    await ask();
    expect(await screen.findByText('The intake cannot be solved.')).toBeInTheDocument();
    await ask();
    await waitFor(() => expect(asked.filter((a) => a.method === 'POST')).toHaveLength(3));
  });
});
