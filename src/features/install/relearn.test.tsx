import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { SheetEventDoc } from '@/core/documents/sheet';
import { button, done, open, READY, stamp } from '../../../test/install-sheet';

beforeEach(() => localStorage.clear());

describe('the relearn', () => {
  const STARTED: SheetEventDoc[] = [...READY, done('start')];
  let t0 = 0;
  beforeEach(() => (t0 = Date.now() - 100_000));
  const engine = (type: 'engine on' | 'engine off', at_ms: number): SheetEventDoc => ({ ...stamp(), at_ms, type });
  const trace = (at_ms: number, rpm: number[]): SheetEventDoc => ({ ...stamp(), at_ms, type: 'rpm', step_ms: 1000, rpm });

  it('does not begin before the first start', () => {
    open(READY);
    expect(button(/^Engine on$/)).toBeDisabled();
    expect(screen.getByText('Begins when the first start is ticked.')).toBeInTheDocument();
  });

  it('goes by its stamps: opened again in the middle of a run it knows how long is to go', async () => {
    open([...STARTED, engine('engine on', t0)]);
    await waitFor(() => expect(screen.getByRole('timer')).toHaveTextContent(/^Run 1: 1:(1[5-9]|20) to go\./));
    expect(screen.getByRole('img', { name: /Engine speed against its band of 650 to 850 rpm/ })).toBeInTheDocument();
  });

  it('an idle that climbs is an alarm', async () => {
    open([
      ...STARTED,
      engine('engine on', t0),
      trace(
        t0,
        Array.from({ length: 95 }, (_, i) => 740 + 3 * i),
      ),
    ]);
    expect(await screen.findByText(/The idle climbs\. Key off now/)).toBeInTheDocument();
  });

  it('tells of each run what its idle did and when it came back from its blips', async () => {
    const run = Array.from({ length: 190 }, (_, i) => (i === 60 ? 1800 : i === 61 ? 1100 : 745 + (i % 3)));
    open([...STARTED, engine('engine on', t0 - 300_000), trace(t0 - 300_000, run), engine('engine off', t0 - 110_000)]);
    expect(await screen.findByText('steady in its band, 746 rpm')).toBeInTheDocument();
    expect(screen.getByRole('cell', { name: '3:10' })).toBeInTheDocument();
    expect(screen.getByText('2.0 s')).toBeInTheDocument();
    await waitFor(() => expect(screen.getByRole('timer')).toHaveTextContent('Rested: start run 2 of 3.'));
  });

  it('is written down as it happens', async () => {
    const shop = open(STARTED);
    shop.events = [...STARTED];
    await userEvent.click(button(/^Engine on$/));
    await waitFor(() => expect(shop.events.at(-1)).toMatchObject({ type: 'engine on', who: 'Maud' }));
    await userEvent.type(screen.getByLabelText('Engine speed, typed'), '780');
    // The page has its own turn to hear that the engine runs: until then the button is shut.
    await waitFor(() => expect(button(/^note it/)).toBeEnabled());
    await userEvent.click(button(/^note it/));
    await waitFor(() => expect(shop.events.at(-1)).toMatchObject({ type: 'rpm', rpm: [780] }));
    await waitFor(() => expect(button(/^Engine off$/)).toBeEnabled());
    await userEvent.click(button(/^Engine off$/));
    await waitFor(() => expect(shop.events.at(-1)).toMatchObject({ type: 'engine off' }));
  });

  it('a fault light locks the start again, with its codes', async () => {
    const shop = open(STARTED);
    shop.events = [...STARTED];
    await userEvent.click(button(/^It is on: No fault light/));
    await userEvent.type(await screen.findByLabelText('In a few words'), 'P-something');
    await userEvent.click(button(/^Write it down$/));
    await waitFor(() => expect(shop.events.at(-1)).toMatchObject({ type: 'failed', gate: 'seated', reason: 'fault light: P-something' }));
  });
});
