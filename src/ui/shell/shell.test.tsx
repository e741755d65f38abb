import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { formatQuantity } from '@/core/units/quantity';
import { PrefsProvider, usePrefs } from '../theme/prefs';
import { useCommands } from './commands';
import { Shell } from './shell';

const push = jest.fn();
let path = '/';
let address = '';
jest.mock('next/navigation', () => ({
  useRouter: () => ({ push }),
  usePathname: () => path,
  useSearchParams: () => new URLSearchParams(address),
}));

function Bore() {
  const { pack } = usePrefs();
  return (
    <output>
      {formatQuantity(0.066, 'bore', pack)}, {formatQuantity(137_895, 'plenum', pack)}
    </output>
  );
}
const open = (at = '/'): void => {
  path = at;
  render(
    <PrefsProvider pack="metric" theme="light">
      <Shell shop="Quarry Lane Engine Works">
        <Bore />
      </Shell>
    </PrefsProvider>,
  );
};

beforeEach(() => {
  push.mockReset();
  useCommands.setState({ groups: {} });
  document.cookie = 'vanner-units=; max-age=0';
});

it.each([
  ['/', 'Jobs'],
  ['/jobs/x/air', 'Jobs'],
  ['/shelf', 'Shelf'],
  ['/bench', 'Bench'],
  ['/sums', 'Sums'],
])('at %s the room is %s', (at, room) => {
  open(at);
  const rooms = screen.getByRole('navigation', { name: 'Sections' });
  expect(
    within(rooms)
      .getAllByRole('link')
      .filter((l) => l.getAttribute('aria-current') === 'page')
      .map((l) => l.textContent),
  ).toEqual([room]);
});

it('the reader’s units change every figure at once and are remembered', async () => {
  open();
  expect(screen.getByRole('status')).toHaveTextContent('66.0 mm');
  await userEvent.click(screen.getByText('US'));
  expect(screen.getByRole('status')).toHaveTextContent('20.0 psi');
  expect(document.cookie).toContain('vanner-units=us');
});

it('goes light and dark, and remembers', async () => {
  open();
  await userEvent.click(screen.getByRole('button', { name: 'Switch to dark' }));
  expect(document.documentElement.dataset['theme']).toBe('dark');
  expect(document.cookie).toContain('vanner-theme=dark');
  await userEvent.click(screen.getByRole('button', { name: 'Switch to light' }));
  expect(document.documentElement.dataset['theme']).toBe('light');
});

const KEY_CODES = { Enter: 13, ArrowUp: 38, ArrowDown: 40 } as const;
/** The library's list goes by key codes, which simulated typing does not carry. */
const press = (field: HTMLElement, ...keys: (keyof typeof KEY_CODES)[]): void =>
  keys.forEach((key) => {
    fireEvent.keyDown(field, { key, keyCode: KEY_CODES[key] });
    fireEvent.keyUp(field, { key, keyCode: KEY_CODES[key] });
  });

describe('search or run a command', () => {
  it('opens by its key, finds by any words, and Enter takes the marked one', async () => {
    open();
    await userEvent.keyboard('/');
    const field = await screen.findByRole('combobox', { name: 'Search or run a command' });
    await userEvent.type(field, 'throttle bodies');
    press(field, 'Enter');
    expect(push).toHaveBeenCalledWith('/shelf');
  });

  it('arrows move the mark', async () => {
    open();
    await userEvent.click(screen.getByRole('button', { name: /Search or run a command/ }));
    const field = await screen.findByRole('combobox', { name: 'Search or run a command' });
    press(field, 'ArrowDown', 'ArrowUp', 'ArrowDown', 'Enter');
    expect(push).toHaveBeenCalledWith('/shelf');
  });

  it('says when nothing is called that', async () => {
    open();
    await userEvent.keyboard('/');
    await userEvent.type(await screen.findByRole('combobox', { name: 'Search or run a command' }), 'carburettor');
    expect(screen.getByText('Nothing is called that.')).toBeInTheDocument();
    press(screen.getByRole('combobox', { name: 'Search or run a command' }), 'Enter');
    expect(push).not.toHaveBeenCalled();
  });

  it('a screen’s own commands are found with the others', async () => {
    const run = jest.fn();
    open();
    useCommands.getState().offer('job', [{ id: 'x', title: 'Print the sheet', hint: 'install', run }]);
    await userEvent.keyboard('/');
    const field = await screen.findByRole('combobox', { name: 'Search or run a command' });
    await userEvent.type(field, 'print inst');
    press(field, 'Enter');
    expect(run).toHaveBeenCalledTimes(1);
  });
});

it('the keys are listed by their own key', async () => {
  open();
  await userEvent.keyboard('?');
  expect(await screen.findByText('search or run a command')).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Close' }));
  await waitFor(() => expect(screen.queryByText('search or run a command')).not.toBeVisible());
});

it('a skip link leads past the bar to the content', async () => {
  open('/shelf');
  await userEvent.tab();
  const link = screen.getByRole('link', { name: 'Skip to the content' });
  expect(link).toHaveFocus();
  expect(document.querySelector(link.getAttribute('href')!)).toBe(screen.getByRole('main'));
});

it('the very thing that was searched for is brought into view, out of what is folded', async () => {
  address = 'found=b';
  const scroll = jest.fn();
  HTMLElement.prototype.scrollIntoView = scroll;
  path = '/shelf';
  render(
    <PrefsProvider pack="metric" theme="light">
      <Shell shop="Quarry Lane Engine Works">
        <details data-testid="fold">
          <p data-found="b">Sorrel 58</p>
        </details>
      </Shell>
    </PrefsProvider>,
  );
  await waitFor(() => expect(screen.getByText('Sorrel 58')).toHaveFocus());
  expect(screen.getByTestId('fold')).toHaveAttribute('open');
  expect(scroll).toHaveBeenCalledTimes(1);
  address = '';
});

it('a dialog gives the focus back to what opened it, however it goes', async () => {
  open();
  const help = screen.getByRole('button', { name: 'Shortcuts and help' });
  for (const close of [() => userEvent.keyboard('{Escape}'), () => userEvent.click(screen.getByRole('button', { name: 'Close' }))]) {
    help.focus();
    await userEvent.click(help);
    await screen.findByRole('dialog');
    await close();
    await waitFor(() => expect(help).toHaveFocus());
  }
  await userEvent.keyboard('/');
  await screen.findByRole('combobox', { name: 'Search or run a command' });
  await userEvent.keyboard('{Escape}');
  await waitFor(() => expect(help).toHaveFocus());
});

it('shows a newcomer around what is on the page, and leaves with Escape', async () => {
  path = '/shelf';
  Object.defineProperty(HTMLElement.prototype, 'offsetParent', { configurable: true, get: () => document.body });
  render(
    <PrefsProvider pack="metric" theme="light">
      <Shell shop="Quarry Lane Engine Works">
        <h1 data-tour="answer">The shelf is empty.</h1>
      </Shell>
    </PrefsProvider>,
  );
  await userEvent.keyboard('?');
  await userEvent.click(await screen.findByRole('button', { name: 'Show me around this page' }));
  expect(await screen.findByText('The answer')).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Next' }));
  expect(await screen.findByText('Your units')).toBeInTheDocument();
});
