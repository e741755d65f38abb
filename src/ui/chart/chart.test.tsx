import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { PrefsProvider } from '../theme/prefs';
import { Chart } from './chart';
import type { ChartSpec } from './figure';
import { RpmScrubber } from './scrubber';
import { moved, zoomed } from './chart-view';

const react = jest.fn<unknown, [HTMLElement, unknown, { xaxis: { range: [number, number] } }]>();
jest.mock('plotly.js-cartesian-dist-min', () => ({
  react: (...args: Parameters<typeof react>) => react(...args),
  purge: () => {},
  downloadImage: () => Promise.resolve(''),
}));

const spec: ChartSpec = {
  lines: [{ id: 'a', label: 'stock', x: [1000, 3000], y: [10, 30], color: '#111' }],
  xRange: [1000, 3000],
  xTitle: 'rpm',
  yTitle: 'power, kW',
};
beforeEach(() => {
  react.mockClear();
  globalThis.ResizeObserver = class {
    constructor(private readonly tell: ResizeObserverCallback) {}
    observe = (): void => this.tell([{ contentRect: { width: 538 } } as ResizeObserverEntry], this);
    disconnect = (): void => {};
    unobserve = (): void => {};
  };
});
/** The chart is drawn in a frame of its own: waited for, not timed. */
const drawnOver = (range: [number, number]) => waitFor(() => expect(react.mock.lastCall?.[2].xaxis.range).toEqual(range));
const show = (children?: React.ReactNode) =>
  render(
    <PrefsProvider pack="metric" theme="light">
      <Chart spec={spec} height={200} name="power" alt="Power over rpm">
        {children}
      </Chart>
    </PrefsProvider>,
  );
const picture = () => screen.getByRole('img', { name: /^Power over rpm/ });

it('is read by keys: values at an x, and no longer when the focus goes', async () => {
  show();
  picture().focus();
  await userEvent.keyboard('{ArrowRight}');
  expect(screen.getByRole('status')).toHaveTextContent('2,033 rpm');
  expect(screen.getByRole('status')).toHaveTextContent('stock 20.3');
  await userEvent.keyboard('{Shift>}{ArrowLeft}{/Shift}');
  expect(screen.getByRole('status')).toHaveTextContent('1,700 rpm');
  await userEvent.keyboard('{Escape}');
  expect(screen.queryByRole('status')).toBeNull();
});

it('zooms, moves and shows all again, by keys, buttons and dragging', async () => {
  show();
  await drawnOver([1000, 3000]);
  picture().focus();
  await userEvent.keyboard('+');
  await drawnOver([1500, 2500]);
  await userEvent.click(screen.getByRole('button', { name: 'Move right: power' }));
  await drawnOver([1750, 2750]);
  await userEvent.click(screen.getByRole('button', { name: 'Show all: power' }));
  await drawnOver([1000, 3000]);
  // 46 px to the left of the plot, 400 px of plot.
  fireEvent.mouseDown(picture(), { button: 0, clientX: 146 });
  fireEvent.mouseMove(picture(), { clientX: 246 });
  fireEvent.mouseUp(picture(), { clientX: 246 });
  await drawnOver([1500, 2000]);
  fireEvent.doubleClick(picture());
  await drawnOver([1000, 3000]);
});

it('has its figures behind it, and gives the focus back', async () => {
  show();
  const button = screen.getByRole('button', { name: 'Figures: power' });
  await userEvent.click(button);
  const dialog = await screen.findByRole('dialog');
  expect(
    within(dialog)
      .getAllByRole('row')
      .map((r) => r.textContent),
  ).toEqual(['rpmstock (power, kW)', '1,00010.00', '3,00030.00']);
  await userEvent.keyboard('{Escape}');
  await waitFor(() => expect(button).toHaveFocus());
});

it('a handle over it moves with what is in view, and says values by pointing', async () => {
  show(<RpmScrubber rpm={1600} range={[1000, 3000]} onChange={() => {}} />);
  const handle = screen.getByRole('slider');
  picture().focus();
  await userEvent.keyboard('+');
  await drawnOver([1500, 2500]);
  expect(handle.parentElement).toHaveStyle({ visibility: 'visible' });
  await userEvent.click(screen.getByRole('button', { name: 'Move right: power' }));
  await drawnOver([1750, 2750]);
  expect(handle.parentElement).toHaveStyle({ visibility: 'hidden' });
  expect(handle).toHaveAttribute('aria-valuemin', '1000');
});

it('never zooms or moves beyond the whole', () => {
  expect(zoomed([1500, 2500], [1000, 3000], 2)).toBeNull();
  expect(zoomed([1000, 1500], [1000, 3000], 2, 1000)).toEqual([1000, 2000]);
  expect(moved([2000, 3000], [1000, 3000], 0.5)).toEqual([2000, 3000]);
  expect(moved([1000, 2000], [1000, 3000], -1)).toEqual([1000, 2000]);
});
