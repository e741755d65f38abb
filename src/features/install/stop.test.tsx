import { act, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { SheetEventDoc } from '@/core/documents/sheet';
import { larkspur, renderJob } from '../../../test/render-job';
import { InstallStop } from './stop';

beforeEach(() => localStorage.clear());
const heading = () => screen.getByRole('heading', { level: 1 });
const button = (name: RegExp) => screen.getByRole('button', { name });
const KEY = 'vanner-sheet-job-1';

/** A server that keeps what it is given, unless `down` or told to refuse. */
function server(): { events: SheetEventDoc[]; down: boolean; refuse: string | null } {
  const state: { events: SheetEventDoc[]; down: boolean; refuse: string | null } = { events: [], down: false, refuse: null };
  globalThis.fetch = ((url: string, init?: RequestInit) => {
    if (!url.endsWith('/sheet')) return Promise.resolve({ ok: true, status: 200, json: () => Promise.resolve({}) } as Response);
    if (state.down) return Promise.reject(new TypeError('network'));
    if (state.refuse !== null) {
      const message = state.refuse;
      return Promise.resolve({ ok: false, status: 409, json: () => Promise.resolve({ message }) } as Response);
    }
    const event = JSON.parse(String(init?.body)) as SheetEventDoc;
    if (!state.events.some((e) => e.id === event.id)) state.events = [...state.events, event];
    const answer = state.events;
    return Promise.resolve({ ok: true, status: 201, json: () => Promise.resolve(answer) } as Response);
  }) as typeof fetch;
  return state;
}

const open = (written: SheetEventDoc[] = [], who = 'Maud') => {
  if (who !== '') localStorage.setItem('vanner-who', who);
  renderJob(<InstallStop written={written} />);
  return server();
};

let n = 0;
const stamp = () => ({ id: `00000000-0000-4000-8000-${String((n += 1)).padStart(12, '0')}`, who: 'Tobin', at_ms: 1_776_000_000_000 });
const done = (step: string): SheetEventDoc => ({ ...stamp(), type: 'done', step });
const passed = (gate: string): SheetEventDoc => ({ ...stamp(), type: 'passed', gate });
const READY = [done('closed-stop'), done('threads'), passed('snap'), passed('travel'), passed('nothing-left')];

it('wants a name before anything is written down', async () => {
  const { events } = open([], '');
  expect(button(/^Done: Let the engine go cold/)).toBeDisabled();
  expect(screen.getByRole('alert')).toHaveTextContent('A name is needed to write anything down.');
  await userEvent.type(screen.getByLabelText('At the car'), 'Maud');
  expect(button(/^Done: Let the engine go cold/)).toBeEnabled();
  expect(events).toEqual([]);
});

it('writes a step down with who and when, and takes it back only with a reason', async () => {
  const shop = open();
  await userEvent.click(button(/^Done: Let the engine go cold/));
  await waitFor(() => expect(shop.events).toMatchObject([{ type: 'done', step: 'cold', who: 'Maud' }]));
  expect(screen.getByText(/^done by Maud,/)).toBeInTheDocument();
  expect(heading()).toHaveTextContent('15 steps are left, and the first start is locked: 3 checks do not stand as passed.');
  await userEvent.click(button(/^Undo: Let the engine go cold/));
  expect(await screen.findByRole('button', { name: 'Write it down' })).toBeDisabled();
  await userEvent.type(screen.getByLabelText('In a few words'), 'it was still warm');
  await userEvent.click(screen.getByRole('button', { name: 'Write it down' }));
  await waitFor(() => expect(shop.events[1]).toMatchObject({ type: 'undone', step: 'cold', reason: 'it was still warm' }));
  expect(button(/^Done: Let the engine go cold/)).toBeInTheDocument();
});

it('keeps the first start locked, says why, and opens it once all is passed', async () => {
  const shop = open(READY.slice(0, 4));
  shop.events = READY.slice(0, 4);
  const start = () => button(/^Done: First start/);
  expect(start()).toBeDisabled();
  expect(start()).toHaveTextContent('locked');
  const locks = screen.getByRole('heading', { name: 'Locked: the first start' }).parentElement!.parentElement!;
  expect(within(locks).getByText('Not passed yet: nothing left in the intake, all counted.')).toBeInTheDocument();
  await userEvent.click(button(/^Passed: Nothing left/));
  await waitFor(() => expect(heading()).toHaveTextContent(/^Every check is passed: the first start may be made\./));
  expect(start()).toBeEnabled();
});

it('a failed check locks it again and reopens the step that cures it', async () => {
  const shop = open(READY);
  shop.events = [...READY];
  expect(button(/^Done: First start/)).toBeEnabled();
  await userEvent.click(button(/^Failed: Engine off: open the blade/));
  await userEvent.type(await screen.findByLabelText('In a few words'), 'hangs at a third');
  await userEvent.click(screen.getByRole('button', { name: 'Write it down' }));
  await waitFor(() => expect(button(/^Done: First start/)).toBeDisabled());
  expect(screen.getByText('Failed: the blade snaps shut by itself (hangs at a third).')).toBeInTheDocument();
  expect(screen.getByText('To be done first: the stops, set anew.')).toBeInTheDocument();
  expect(button(/^Done: Closed stop first/)).toBeInTheDocument();
});

it('what is written down without a connection waits here, opens nothing, and goes when it is back', async () => {
  const shop = open(READY.slice(0, 4));
  shop.events = READY.slice(0, 4);
  shop.down = true;
  await userEvent.click(button(/^Passed: Nothing left/));
  expect(await screen.findByRole('status', { name: '' })).toHaveTextContent(
    '1 written down here, waiting for the server. Nothing is lost.',
  );
  // Ticked here, but the start stays locked until the server has it.
  expect(button(/^Passed: Nothing left/)).toHaveAttribute('aria-pressed', 'true');
  expect(button(/^Done: First start/)).toBeDisabled();
  expect(JSON.parse(localStorage.getItem(KEY)!)).toHaveLength(1);
  shop.down = false;
  act(() => void window.dispatchEvent(new Event('online')));
  await waitFor(() => expect(button(/^Done: First start/)).toBeEnabled());
  expect(JSON.parse(localStorage.getItem(KEY)!)).toEqual([]);
});

it('what waited before a reload is shown and sent after it, once', async () => {
  localStorage.setItem(KEY, JSON.stringify([done('cold')]));
  const shop = open();
  await waitFor(() => expect(shop.events).toHaveLength(1));
  expect(shop.events[0]).toMatchObject({ step: 'cold', who: 'Tobin' });
  expect(screen.getByText(/^done by Tobin,/)).toBeInTheDocument();
});

it('a refusal is told and does not stay ticked', async () => {
  const shop = open();
  shop.refuse = 'The first start is locked: not every check before it stands as passed.';
  await userEvent.click(button(/^Done: Let the engine go cold/));
  expect(await screen.findByRole('alert')).toHaveTextContent('The first start is locked');
  expect(button(/^Done: Let the engine go cold/)).toBeInTheDocument();
});

it('an electronic car has its own checks', () => {
  const doc = { ...larkspur, car: { ...larkspur.car, controls: { ...larkspur.car.controls, kind: 'electronic-digital' as const } } };
  renderJob(<InstallStop />, { doc });
  expect(button(/^Passed: Key on, engine off/)).toBeInTheDocument();
  expect(screen.queryByRole('button', { name: /^Passed: Engine off/ })).toBeNull();
});

describe('the position sensor', () => {
  const read = async (closed: string, full: string): Promise<void> => {
    await userEvent.type(screen.getByLabelText('Closed now'), closed);
    await userEvent.type(screen.getByLabelText('Full now'), full);
  };

  it.each([
    ['0.53', '4.4', 'Matched: within 0.02 V of stock’s 0.52 V.'],
    [
      '0.61',
      '4.4',
      'Shut it reads 0.09 V too much: loosen the sensor and turn it back, against the way the shaft opens, until it reads 0.52 V.',
    ],
    ['0.4', '4.4', 'Shut it reads 0.12 V too little: loosen the sensor and turn it on, the way the shaft opens, until it reads 0.52 V.'],
    ['0.1', '4.4', 'Outside 0.25 V to 4.75 V the control unit takes it for a broken sensor and sets a fault.'],
    ['4.4', '0.6', 'It reads less open than shut: the sensor is another one, or sits the wrong way round.'],
  ])('%s and %s V: %s', async (closed, full, words) => {
    open();
    await read(closed, full);
    expect(screen.getByText(words)).toBeInTheDocument();
  });

  it('volts that no sensor gives are refused in place', async () => {
    open();
    await userEvent.type(screen.getByLabelText('Closed now'), '12');
    expect(await screen.findByRole('alert')).toHaveTextContent(/5\.5/);
    expect(screen.getByLabelText('Closed now')).toHaveValue('12');
  });
});

describe('fasteners', () => {
  it('are counted out and back by bag, and a count that differs keeps the start locked', async () => {
    const shop = open(READY);
    shop.events = [...READY];
    await userEvent.type(screen.getByLabelText('Bag of'), 'engine cover');
    await userEvent.type(screen.getByLabelText('Came out'), '6');
    await userEvent.click(screen.getByRole('button', { name: 'add' }));
    await waitFor(() => expect(button(/^Done: First start/)).toBeDisabled());
    expect(screen.getByText('Fasteners of engine cover: 6 came out, 0 went back.')).toBeInTheDocument();
    const back = screen.getByLabelText('Back from engine cover');
    await userEvent.clear(back);
    await userEvent.type(back, '6');
    await waitFor(() => expect(button(/^Done: First start/)).toBeEnabled());
    expect(shop.events.at(-1)).toMatchObject({ type: 'fasteners back', bag: 'engine cover', count: 6 });
  });

  it('a bag of one name is there once', async () => {
    open([...READY, { ...stamp(), type: 'fasteners out', bag: 'engine cover', count: 4 }]);
    await userEvent.type(screen.getByLabelText('Bag of'), 'engine cover');
    await userEvent.type(screen.getByLabelText('Came out'), '6');
    expect(screen.getByRole('button', { name: 'add' })).toBeDisabled();
    expect(screen.getByText('There is a bag of that name already.')).toBeInTheDocument();
  });
});
