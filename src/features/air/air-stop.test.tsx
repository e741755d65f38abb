import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { NO_DEFAULTS } from '@/core/documents/blank';
import { curlewJob, heronJob, pipitJob } from '@/server/demo/others';
import { larkspur, renderJob } from '../../../test/render-job';
import { AirStop } from './air-stop';

jest.mock('@/ui/chart/lazy-chart', () => jest.requireActual<object>('../../../test/chart-stub'));

beforeEach(() => {
  localStorage.clear();
  // The drawing fills the room it is given.
  globalThis.ResizeObserver = class {
    constructor(private readonly tell: ResizeObserverCallback) {}
    observe(): void {
      this.tell([{ contentRect: { width: 700 } } as ResizeObserverEntry], this as unknown as ResizeObserver);
    }
    unobserve(): void {}
    disconnect(): void {}
  } as unknown as typeof ResizeObserver;
});
const heading = () => screen.getByRole('heading', { level: 1 });
const id = (name: string): string => name;
const table = (header: string) => screen.getByText(header, { selector: 'th' }).closest('table')!;
const rowsOf = (t: HTMLElement): string[] =>
  within(t)
    .getAllByRole('row')
    .slice(1)
    .map((r) => r.textContent);

it('says where the stock bore runs short and what it costs', () => {
  renderJob(<AirStop />);
  expect(heading()).toHaveTextContent('The stock 58 mm runs short from 5,250 rpm and costs 2.6 % of peak power.');
  expect(screen.getByText(/It is the largest loss in the path; the filter is next\./)).toBeInTheDocument();
});

it.each([
  ['a blower', heronJob(id), /^The stock 74 mm runs short from 5,7\d\d rpm/],
  ['a turbo', pipitJob(id), 'The stock 58 mm is enough to redline.'],
  ['individual throttles', curlewJob(id), /^The stock 40 mm runs short from 6,4\d\d rpm/],
])('answers for an engine with %s', (_name, doc, words) => {
  renderJob(<AirStop />, { doc });
  expect(heading()).toHaveTextContent(words);
});

it('sets the schools side by side with why they differ', () => {
  renderJob(<AirStop />);
  const rows = rowsOf(table('school'));
  expect(rows).toHaveLength(7);
  expect(rows.find((r) => r.startsWith('catalogue flow'))).toMatch(/✓.*far too small/);
  expect(rows.find((r) => r.startsWith('the car’s own MAF'))).toMatch(/no log on the Car step yet/);
});

it('names what is in the way next, and that all ahead passes more', () => {
  renderJob(<AirStop />);
  const rows = rowsOf(table('worth'));
  expect(rows[0]).toMatch(/^filter0\.\d\d kPa\+0\.\d %/);
  expect(screen.getByText('Everything ahead of the throttle passes more than it does.')).toBeInTheDocument();
});

describe('limits', () => {
  const open = async (): Promise<void> => userEvent.click(screen.getByRole('button', { name: 'all' }));
  const type = async (label: string, text: string): Promise<void> => {
    await userEvent.clear(screen.getByLabelText(label));
    if (text !== '') await userEvent.type(screen.getByLabelText(label), text);
  };

  it('stand there with their usual figures and move the answer', async () => {
    const { saves } = renderJob(<AirStop />);
    await open();
    expect(screen.getByLabelText('Gas speed')).toHaveAttribute('placeholder', 'usual 90');
    expect(screen.getByText(/those for street engines without a blower/)).toBeInTheDocument();
    await type('Allowed loss', '3');
    expect(heading()).toHaveTextContent(/is enough to redline|runs short from 6,/);
    await type('Allowed loss', '');
    await waitFor(() => expect(saves.at(-1)?.doc.air.allowedLoss_Pa).toBeNull());
    expect(heading()).toHaveTextContent(/runs short from 5,250/);
  });

  it('can become the shop’s, and the shop’s can be taken', async () => {
    renderJob(<AirStop />, { doc: { ...larkspur, sizing: { ...larkspur.sizing, speed_mps: 80, fit_m: 0.07 } } });
    await open();
    const sent: { url: string; body: unknown }[] = [];
    const own = { ...NO_DEFAULTS, tipIn: 1.5, allowedLoss_Pa: 1200 };
    globalThis.fetch = ((url: string, init?: RequestInit) => {
      sent.push({ url, body: typeof init?.body === 'string' ? (JSON.parse(init.body) as unknown) : null });
      return Promise.resolve({ ok: true, status: 200, json: () => Promise.resolve(own) } as Response);
    }) as typeof fetch;
    await userEvent.click(screen.getByRole('button', { name: 'Make these the shop’s' }));
    await userEvent.click((await screen.findAllByRole('button', { name: 'Make them the shop’s' })).at(-1)!);
    await waitFor(() => expect(sent[0]).toEqual({ url: '/api/shop/defaults', body: { ...NO_DEFAULTS, speed_mps: 80 } }));
    await userEvent.click(screen.getByRole('button', { name: 'Take the shop’s' }));
    await waitFor(() => expect(screen.getByLabelText('Tip-in, times stock')).toHaveValue('1.50'));
    expect(screen.getByLabelText('Allowed loss')).toHaveValue('1.20');
    // The room round the flange belongs to this car.
    expect(screen.getByLabelText('Largest bore that fits')).toHaveValue('70.0');
  });
});

describe('the drawing', () => {
  const part = (name: RegExp) => screen.getByRole('button', { name });
  const drag = (from: Element, by: { x?: number; y?: number }): void => {
    fireEvent.pointerDown(from, { clientX: 300, clientY: 60 });
    act(() => {
      for (const step of [0.3, 0.7, 1]) {
        const event = new MouseEvent('pointermove', { clientX: 300 + step * (by.x ?? 0), clientY: 60 + step * (by.y ?? 0) });
        window.dispatchEvent(event);
      }
      window.dispatchEvent(new MouseEvent('pointerup'));
    });
  };

  it('opens the part that is pressed', async () => {
    renderJob(<AirStop />);
    await userEvent.click(part(/^MAF housing/));
    expect(screen.getByRole('heading', { name: /MAF housing/i })).toBeInTheDocument();
  });

  it('a part dragged past another changes places with it, and undo brings it back', async () => {
    const { saves } = renderJob(<AirStop />);
    const before = larkspur.air.parts.map((p) => p.id);
    drag(part(/^MAF housing/), { x: -330 });
    await waitFor(() => expect(saves.length).toBeGreaterThan(0));
    const after = saves.at(-1)!.doc.air.parts.map((p) => p.id);
    expect(after).not.toEqual(before);
    expect([...after].sort()).toEqual([...before].sort());
    expect(after.indexOf('meter')).toBeLessThan(before.indexOf('meter'));
  });

  it('the throttle stays where it is', () => {
    const { saves } = renderJob(<AirStop />);
    drag(part(/^stock 58 mm/), { x: -330 });
    expect(saves).toEqual([]);
  });
});

it('a part far too small is a limit: where it chokes is said and drawn, and the answer stays', () => {
  const parts = larkspur.air.parts.map((p) => (p.type === 'meter' ? { ...p, bore_m: 0.021 } : p));
  renderJob(<AirStop />, { doc: { ...larkspur, air: { ...larkspur.air, parts } } });
  expect(screen.getByRole('alert')).toHaveTextContent(
    /^The intake as it is chokes from [\d,]+ rpm: the MAF housing passes no more, however low the pressure behind it\.$/,
  );
});

it('a path that cannot be solved says why in place of the answer', () => {
  const weather = { ...larkspur.car.weather, p_Pa: 1 };
  renderJob(<AirStop />, { doc: { ...larkspur, car: { ...larkspur.car, weather } } });
  expect(screen.getByText('This intake cannot be solved as it stands.')).toBeInTheDocument();
});

it('two cylinders on one throttle: at least this', () => {
  const engine = { ...larkspur.car.engine, cylinders: 2 };
  renderJob(<AirStop />, { doc: { ...larkspur, car: { ...larkspur.car, engine } } });
  expect(
    screen.getByText(/Few cylinders on one throttle: the air comes in gulps, and the throttle costs at least this\./),
  ).toBeInTheDocument();
});
