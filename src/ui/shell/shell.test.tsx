import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { formatQuantity } from '@/core/units/quantity';
import { PrefsProvider, usePrefs } from '../theme/prefs';
import { useCommands } from './commands';
import { Shell } from './shell';

const push = jest.fn();
let path = '/';
jest.mock('next/navigation', () => ({ useRouter: () => ({ push }), usePathname: () => path }));

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

describe('search or run a command', () => {
  it('opens by its key, finds by any words, and Enter takes the marked one', async () => {
    open();
    await userEvent.keyboard('/');
    const field = await screen.findByRole('textbox', { name: 'Search or run a command' });
    await userEvent.type(field, 'throttle bodies');
    await userEvent.keyboard('{Enter}');
    expect(push).toHaveBeenCalledWith('/shelf');
  });

  it('arrows move the mark and never past the ends', async () => {
    open();
    await userEvent.click(screen.getByRole('button', { name: /Search or run a command/ }));
    await userEvent.type(await screen.findByRole('textbox', { name: 'Search or run a command' }), '{ArrowUp}{ArrowDown}{Enter}');
    expect(push).toHaveBeenCalledWith('/shelf');
  });

  it('says when nothing is called that', async () => {
    open();
    await userEvent.keyboard('/');
    await userEvent.type(await screen.findByRole('textbox', { name: 'Search or run a command' }), 'carburettor');
    expect(screen.getByText('Nothing is called that.')).toBeInTheDocument();
    await userEvent.keyboard('{Enter}');
    expect(push).not.toHaveBeenCalled();
  });

  it('a screen’s own commands are found with the others', async () => {
    const run = jest.fn();
    open();
    useCommands.getState().offer('job', [{ id: 'x', title: 'Print the sheet', hint: 'install', run }]);
    await userEvent.keyboard('/');
    await userEvent.type(await screen.findByRole('textbox', { name: 'Search or run a command' }), 'print inst{Enter}');
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
