import { act, fireEvent, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { StoredJob } from '@/core/documents/job';
import { useCommands } from '@/ui/shell/commands';
import { Finder } from '@/ui/shell/finder';
import { larkspur, renderJob } from '../../../test/render-job';
import { JobFrame } from './frame';
import { useJobStore } from './provider';
import type { JobState, JobStore } from './store';

const push = jest.fn();
jest.mock('next/navigation', () => ({ useRouter: () => ({ push }), usePathname: () => '/jobs/job-1/air' }));

let store: JobStore;
function Grab() {
  store = useJobStore();
  return <p>the stop</p>;
}
const show = () =>
  renderJob(
    <JobFrame>
      <Grab />
    </JobFrame>,
  );
it('keys pressed in a dialog over the page do not leave it', async () => {
  renderJob(
    <JobFrame>
      <div role="dialog" aria-label="pad">
        <button type="button">2</button>
      </div>
    </JobFrame>,
  );
  screen.getByRole('button', { name: '2' }).focus();
  await userEvent.keyboard('2');
  expect(push).not.toHaveBeenCalled();
  screen.getByRole('button', { name: /fold/ }).focus();
  await userEvent.keyboard('2');
  expect(push).toHaveBeenCalledWith('/jobs/job-1/air');
});

const set = (state: Partial<JobState>): void => act(() => store.setState(state));

beforeEach(() => {
  localStorage.clear();
  push.mockReset();
});

it('has the seven stops in order, each with its line, the open one marked', () => {
  show();
  const links = within(screen.getByRole('navigation', { name: 'Steps of this job' })).getAllByRole('link');
  expect(links.slice(0, 7).map((l) => l.textContent?.slice(0, 4))).toEqual(['1Car', '2Air', '3Pic', '4Fit', '5Ins', '6Tes', '7Ver']);
  expect(links[7]).toHaveAttribute('href', '/api/jobs/job-1/package');
  expect(links[1]).toHaveAttribute('aria-current', 'page');
  expect(links[1]).toHaveTextContent('stock runs short from 5,250');
  expect(links[2]).toHaveTextContent('Fenwick 66 chosen, +1.9');
  expect(links[4]).toHaveTextContent('35 steps, 6 checks before the start');
});

it('folds to icons and back', async () => {
  show();
  const fold = screen.getByRole('button', { name: 'fold' });
  await userEvent.click(fold);
  expect(screen.getByRole('button', { name: 'unfold' })).toHaveAttribute('aria-expanded', 'false');
});

it('says how the saving goes', () => {
  show();
  const status = () => screen.getByRole('status').textContent;
  expect(status()).toMatch(/No\. 1041 · saved \d\d:\d\d/);
  set({ save: 'away' });
  expect(status()).toContain('not saved: the server is away. Kept here, tried again.');
  set({ save: 'refused', refusal: 'car.engine: wrong' });
  expect(status()).toContain('not saved: car.engine: wrong');
  set({ save: 'saving' });
  expect(status()).toContain('saving…');
});

it('whatever was not taken is told beside the name, wherever it was typed', () => {
  show();
  const status = () => screen.getByRole('status').textContent;
  act(() => store.getState().set('car.stock.throttle', { ...larkspur.car.stock.throttle, clearance_m: -0.005 }));
  expect(status()).toBe('No. 1041 · not taken: throttle, clearance: It has to be at least 0.0 mm.');
  act(() => store.getState().set('car.stock.throttle', larkspur.car.stock.throttle));
  expect(status()).not.toContain('not taken');
  act(() => void store.getState().change((d) => ({ ...d, air: { ...d.air, lossFactor: 9 } })));
  expect(status()).toBe('No. 1041 · not taken: air, loss factor: It may be at most 4.');
  act(() => void store.getState().change((d) => ({ ...d, air: { ...d.air, lossFactor: 2 } })));
  expect(status()).not.toContain('not taken');
});

it('the number keys go to the stops, and undo works from anywhere on the page', async () => {
  show();
  await userEvent.keyboard('3');
  expect(push).toHaveBeenCalledWith('/jobs/job-1/pick');
  act(() => store.getState().set('car.engine.idle_rpm', 900));
  await userEvent.keyboard('{Control>}z{/Control}');
  expect(store.getState().doc.car.engine.idle_rpm).toBe(750);
  await userEvent.keyboard('{Control>}{Shift>}z{/Shift}{/Control}');
  expect(store.getState().doc.car.engine.idle_rpm).toBe(900);
});

it('the job is renamed in place, but never to nothing', async () => {
  show();
  const name = () => screen.getByLabelText('Name of the job');
  await userEvent.clear(name());
  await userEvent.type(name(), 'Larkspur, second go{Enter}');
  expect(store.getState().doc.name).toBe('Larkspur, second go');
  await userEvent.clear(name());
  await userEvent.tab();
  expect(store.getState().doc.name).toBe('Larkspur, second go');
  expect(name()).toHaveValue('Larkspur, second go');
});

describe('a conflict', () => {
  const theirs: StoredJob = {
    id: 'job-1',
    number: 1041,
    version: 7,
    savedAt: '2026-04-18T11:00:00Z',
    archived: false,
    doc: { ...larkspur, car: { ...larkspur.car, engine: { ...larkspur.car.engine, redline_rpm: 7000 } } },
  };

  it('shows what differs and lets one choose', async () => {
    show();
    set({ save: 'conflict', theirs });
    const dialog = await screen.findByRole('dialog');
    expect(dialog).toHaveTextContent('What you typed is still here.');
    expect(dialog).toHaveTextContent('car, engine, redline6,800 rpm7,000 rpm');
    await userEvent.click(within(dialog).getByRole('button', { name: /Take theirs/ }));
    expect(store.getState().doc.car.engine.redline_rpm).toBe(7000);
    expect(store.getState().save).toBe('unsaved');
  });

  it('keeping mine goes on to save it', async () => {
    show();
    set({ save: 'conflict', theirs });
    await userEvent.click(within(await screen.findByRole('dialog')).getByRole('button', { name: 'Keep mine' }));
    expect(store.getState()).toMatchObject({ version: 7, theirs: null });
  });
});

describe('search or run a command', () => {
  it('narrows as one types, moves with the arrows, and Enter does it', async () => {
    show();
    const close = jest.fn();
    const ran = jest.fn();
    act(() =>
      useCommands.getState().offer('test', [
        { id: 'x', title: 'Open the bonnet', hint: 'do', run: () => ran('bonnet') },
        { id: 'y', title: 'Open the boot', hint: 'do', run: () => ran('boot') },
      ]),
    );
    renderJob(<Finder onClose={close} />);
    const box = await screen.findByRole('combobox', { name: 'Search or run a command' });
    await userEvent.type(box, 'open');
    expect(screen.getAllByText(/^Open the/)).toHaveLength(2);
    for (const [key, keyCode] of [
      ['ArrowDown', 40],
      ['Enter', 13],
    ] as const)
      fireEvent.keyDown(box, { key, keyCode });
    expect(ran).toHaveBeenCalledWith('boot');
    expect(close).toHaveBeenCalled();
  });

  it('says when nothing is called that', async () => {
    renderJob(<Finder onClose={() => {}} />);
    await userEvent.type(await screen.findByRole('combobox', { name: 'Search or run a command' }), 'zzzz');
    expect(screen.getByText('Nothing is called that.')).toBeInTheDocument();
  });
});

it('a figure taken in under wider bounds is told for as long as it stands', () => {
  show();
  expect(screen.queryByText(/^Taken in earlier/)).not.toBeInTheDocument();
  const { redline_rpm } = store.getState().doc.car.engine;
  const wanted = { kind: 'most', bound: 6000 } as const;
  set({ amiss: [{ path: 'car.engine.redline_rpm', message: '', wanted, value: redline_rpm }] });
  expect(
    screen.getByText('Taken in earlier, and outside of what is taken today: engine, redline: It may be at most 6,000 rpm.'),
  ).toBeVisible();
  act(() => store.getState().set('car.engine.redline_rpm', 5900));
  expect(screen.queryByText(/^Taken in earlier/)).not.toBeInTheDocument();
  act(() => store.getState().undo());
  expect(screen.getByText(/^Taken in earlier/)).toBeVisible();
});
