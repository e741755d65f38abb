import { act, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { outbox } from '@/features/offline/outbox';
import { button, done, open, READY, stamp } from '../../../test/install-sheet';
import { larkspur, renderJob } from '../../../test/render-job';
import { InstallStop } from './install-stop';

beforeEach(() => localStorage.clear());
const heading = () => screen.getByRole('heading', { level: 1 });

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
  expect(heading()).toHaveTextContent('34 steps are left, and the first start is locked: 6 checks do not stand as passed.');
  await userEvent.click(button(/^Undo: Let the engine go cold/));
  expect((await screen.findByText('Write it down')).closest('button')).toBeDisabled();
  await userEvent.type(screen.getByLabelText('In a few words'), 'it was still warm');
  await userEvent.click(button(/^Write it down$/));
  await waitFor(() => expect(shop.events[1]).toMatchObject({ type: 'undone', step: 'cold', reason: 'it was still warm' }));
  expect(button(/^Done: Let the engine go cold/)).toBeInTheDocument();
});

it('keeps the first start locked, says why, and opens it once all is passed', async () => {
  const shop = open(READY.slice(0, -1));
  shop.events = READY.slice(0, -1);
  const start = () => button(/^Done: First start/);
  expect(start()).toBeDisabled();
  expect(start()).toHaveTextContent('locked');
  const locks = screen.getByRole('heading', { name: 'Locked: the first start' }).parentElement!.parentElement!;
  expect(within(locks).getByText('Not passed yet: nothing left in the intake.')).toBeInTheDocument();
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
  await userEvent.click(button(/^Write it down$/));
  await waitFor(() => expect(button(/^Done: First start/)).toBeDisabled());
  expect(
    screen.getByText(
      'Failed: the blade snaps shut by itself (hangs at a third). To be done again: the return spring, seated and the closed stop, set anew.',
    ),
  ).toBeInTheDocument();
  expect(button(/^Done: Closed stop first/)).toBeInTheDocument();
});

it('what is written down without a connection waits here, opens nothing, and goes when it is back', async () => {
  const shop = open(READY.slice(0, -1));
  shop.events = READY.slice(0, -1);
  shop.down = true;
  await userEvent.click(button(/^Passed: Nothing left/));
  expect(await screen.findByText('1 written down here, waiting for the server. Nothing is lost.')).toBeInTheDocument();
  // Ticked here, but the start stays locked until the server has it.
  expect(button(/^Passed: Nothing left/)).toHaveAttribute('aria-pressed', 'true');
  expect(button(/^Done: First start/)).toBeDisabled();
  expect(outbox().list()).toHaveLength(1);
  shop.down = false;
  act(() => void window.dispatchEvent(new Event('online')));
  await waitFor(() => expect(button(/^Done: First start/)).toBeEnabled());
  expect(outbox().list()).toEqual([]);
});

it('what an earlier release left waiting in this browser is shown and sent, once', async () => {
  localStorage.setItem('vanner-sheet-job-1', JSON.stringify([done('cold')]));
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
  expect(screen.getAllByLabelText(/^Passed: Key on, engine off/)).toHaveLength(2);
  expect(screen.queryByLabelText(/^Passed: Engine off/)).toBeNull();
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
    await userEvent.click(button(/^add$/));
    await waitFor(() => expect(button(/^Done: First start/)).toBeDisabled());
    expect(screen.getByText('Fasteners of engine cover: 6 came out, 0 went back.')).toBeInTheDocument();
    const back = screen.getByLabelText('Back from engine cover');
    await userEvent.clear(back);
    await userEvent.type(back, '6{Enter}');
    await waitFor(() => expect(button(/^Done: First start/)).toBeEnabled());
    expect(shop.events.at(-1)).toMatchObject({ type: 'fasteners back', bag: 'engine cover', count: 6 });
  });

  it('a bag of one name is there once', async () => {
    open([...READY, { ...stamp(), type: 'fasteners out', bag: 'engine cover', count: 4 }]);
    await userEvent.type(screen.getByLabelText('Bag of'), 'engine cover');
    await userEvent.type(screen.getByLabelText('Came out'), '6');
    expect(button(/^add$/)).toBeDisabled();
    expect(screen.getByText('There is a bag of that name already: type over its count to put it right.')).toBeInTheDocument();
  });
});

it('what was ticked without hearing of a failure is kept, not counted, and says so', async () => {
  const shop = open(READY);
  shop.events = [...READY];
  shop.down = true;
  await userEvent.click(button(/^Passed: Engine off: open the blade/));
  await screen.findByText(/1 written down here/);
  const fail = { ...stamp(), device: 'another', seen: READY.at(-1)!.id, type: 'failed' as const, gate: 'snap', reason: 'hangs' };
  shop.events = [...READY, fail];
  shop.down = false;
  act(() => void window.dispatchEvent(new Event('online')));
  expect(
    (await screen.findAllByText(/^Kept, not counted: Maud passed the blade snaps shut by itself before hearing that Tobin failed/))[0],
  ).toBeInTheDocument();
  expect(button(/^Done: First start/)).toBeDisabled();
});

it('a check that fails after the first start stops everything in large words', async () => {
  const shop = open([...READY, done('start')]);
  shop.events = [...READY, done('start')];
  await userEvent.click(button(/^Failed: Full travel/));
  await userEvent.type(await screen.findByLabelText('In a few words'), 'sticks at three quarters');
  await userEvent.click(button(/^Write it down$/));
  await waitFor(() => expect(heading()).toHaveTextContent('Stop: a check failed after the first start. Engine off, key out.'));
  expect(screen.getByText('Stop. Engine off. Key out.')).toBeInTheDocument();
  expect(button(/^Done: First start/)).toBeDisabled();
  expect(button(/^Engine on$/)).toBeDisabled();
  expect(button(/^Done: Drive: ten minutes/)).toBeDisabled();
  expect(screen.getAllByText(/^Start locked\. Failed: full travel from the seat \(sticks at three quarters\)/).length).toBeGreaterThan(1);
});

it('a check waits for the work it is about, and a word is taken back in the history', async () => {
  const failed = { ...stamp(), type: 'failed' as const, gate: 'snap', reason: 'hangs' };
  const shop = open([...READY, failed]);
  shop.events = [...READY, failed];
  expect(button(/^Passed: Engine off: open the blade/)).toBeDisabled();
  expect(
    screen.getByText('To be done and ticked before it can be passed: the return spring, seated and the closed stop, set anew.'),
  ).toBeInTheDocument();
  await userEvent.click(button(/^Revoke: Tobin failed the blade snaps shut/));
  await userEvent.type(await screen.findByLabelText('In a few words'), 'wrong line');
  await userEvent.click(button(/^Write it down$/));
  await waitFor(() => expect(shop.events.at(-1)).toMatchObject({ type: 'taken back', of: failed.id, reason: 'wrong line' }));
  expect(await screen.findByText('Open again: Maud took it back (wrong line).')).toBeInTheDocument();
});

describe('notes and photos', () => {
  it('a note is kept at its step, with who', async () => {
    const shop = open();
    await userEvent.click(button(/^Add a note: Coupler loose/));
    await userEvent.type(screen.getByLabelText(/^Note at: Coupler loose/), 'bracket in the way of the plug');
    // Half a note is kept as it is typed; leaving the field by keyboard writes it down.
    expect(Object.keys(localStorage).filter((k) => k.startsWith('vanner-note-'))).toHaveLength(1);
    await userEvent.tab();
    await waitFor(() =>
      expect(shop.events.at(-1)).toMatchObject({ type: 'note', step: 'unit-off', text: 'bracket in the way of the plug', who: 'Maud' }),
    );
    expect(screen.getByText(/^bracket in the way of the plug/)).toBeInTheDocument();
    expect(screen.getByText(/^noted by Maud,/)).toBeInTheDocument();
  });

  it('the tap that ends a note lands where it was meant to', async () => {
    const shop = open();
    await userEvent.click(button(/^Add a note: Let the engine go cold/));
    await userEvent.type(screen.getByLabelText(/^Note at: Let the engine/), 'left it overnight');
    const next = button(/^Done: Let the engine go cold/);
    const user = userEvent.setup();
    await user.pointer([{ keys: '[MouseLeft>]', target: next }]);
    // The finger is down and the field has lost it: nothing has moved yet.
    expect(screen.getByLabelText(/^Note at: Let the engine/)).toBeInTheDocument();
    await user.pointer([{ keys: '[/MouseLeft]', target: next }]);
    await waitFor(() => expect(shop.events.map((e) => e.type).sort()).toEqual(['done', 'note']));
  });
});

describe('steps of our own', () => {
  it('are put where they belong, moved, ticked like any other, and taken out again', async () => {
    open();
    await userEvent.type(screen.getByLabelText('A step of our own'), 'Bracket over the plug first');
    await userEvent.click(button(/^Put it on the sheet$/));
    const texts = () => screen.getAllByRole('listitem').map((li) => li.textContent ?? '');
    const at = (words: string) => texts().findIndex((t) => t.includes(words));
    expect(at('Bracket over the plug first')).toBe(at('Connectors: slide the lock') - 1);
    await userEvent.click(button(/^Move down: Bracket/));
    expect(at('Bracket over the plug first')).toBe(at('Connectors: slide the lock') + 1);
    await userEvent.click(button(/^Take out: Bracket/));
    expect(at('Bracket over the plug first')).toBe(-1);
  });
});

describe('torque', () => {
  it('is drawn crosswise on the flange, ours until the maker’s figure is entered', async () => {
    open();
    expect(screen.getByRole('img', { name: 'Tighten in the order 1, 3, 2, 4' })).toBeInTheDocument();
    expect(screen.getByText('2.5 N·m, then 5.0 N·m, then 7.5 N·m')).toBeInTheDocument();
    expect(screen.getByText(/Ours, cautious, for M6 in aluminium: the maker’s figure beats it/)).toBeInTheDocument();
    await userEvent.type(screen.getByLabelText('Maker’s torque'), '9');
    expect(screen.getByText('2.5 N·m, then 6.0 N·m, then 9.0 N·m')).toBeInTheDocument();
    expect(screen.getByText('The maker’s figure.')).toBeInTheDocument();
  });
});

describe('stops', () => {
  it.each([
    ['Open to', '110', /The open stop lets the blade go past in line: it passes \d\d\.\d % of its area there, and can hang/],
    ['Open to', '75', /Fully open it passes \d\d\.\d % of its area: turn the open stop out/],
    ['Shut at', '7', /it can wedge in its bore/],
    ['Shut at', '20', /the idle will be high/],
  ])('%s %s°: says what is wrong', async (field, angle, words) => {
    open();
    // The demo's are read, and right.
    expect(screen.getByText(/Held off its bore when shut, in line when open: \d\d+\.\d % of its area/)).toBeInTheDocument();
    await userEvent.clear(screen.getByLabelText(field));
    await userEvent.type(screen.getByLabelText(field), angle);
    expect(screen.getByText(words)).toBeInTheDocument();
  });

  it('are not told to be right before they are read', async () => {
    open();
    for (const field of ['Shut at', 'Open to']) await userEvent.clear(screen.getByLabelText(field));
    expect(screen.getByText('Neither stop is read at the car yet: both are drawn as they should be.')).toBeInTheDocument();
    expect(screen.queryByText('open at the full stop')).toBeNull();
    await userEvent.type(screen.getByLabelText('Open to'), '88');
    expect(screen.getByText('The closed stop is not read at the car yet: it is drawn as it should be.')).toBeInTheDocument();
    expect(screen.getByText('open at the full stop')).toBeInTheDocument();
    await userEvent.type(screen.getByLabelText('Shut at'), '8.3');
    expect(screen.getByText(/Held off its bore when shut, in line when open: \d\d+\.\d % of its area/)).toBeInTheDocument();
  });
});

it('both tracks of an electronic throttle must add up to the supply', async () => {
  const doc = { ...larkspur, car: { ...larkspur.car, controls: { ...larkspur.car.controls, kind: 'electronic-digital' as const } } };
  renderJob(<InstallStop />, { doc });
  await userEvent.type(screen.getByLabelText('Closed now'), '0.52');
  await userEvent.type(screen.getByLabelText('Second track, closed'), '4.48');
  expect(screen.getByText('The two tracks add up to the supply.')).toBeInTheDocument();
  await userEvent.clear(screen.getByLabelText('Second track, closed'));
  await userEvent.type(screen.getByLabelText('Second track, closed'), '2.2');
  expect(screen.getByText(/The two tracks do not add up to the 5 V supply/)).toBeInTheDocument();
});

it('takes the name from the top bar until somebody else is typed in on this device', () => {
  document.cookie = `vanner-person=${encodeURIComponent('Maud B.')}; path=/`;
  try {
    open([], '');
    expect(screen.getByLabelText('At the car')).toHaveValue('Maud B.');
  } finally {
    document.cookie = 'vanner-person=; path=/; max-age=0';
  }
});
