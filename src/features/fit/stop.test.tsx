import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { larkspur, renderJob, units } from '../../../test/render-job';
import { InstallStop } from '../install/stop';
import { FitStop } from './stop';

beforeEach(() => localStorage.clear());
const heading = () => screen.getByRole('heading', { level: 1 });

describe('Fit', () => {
  it('says how far the unit stands over the opening and what opening it is worth', () => {
    renderJob(<FitStop />);
    expect(heading()).toHaveTextContent('Fenwick 66 stands 4.0 mm over the opening all round: open the manifold to match.');
    expect(screen.getByText(/Left as it is the unit brings \+0\.5 % at best; opened to match, \+1\.9 %\./)).toBeInTheDocument();
    expect(screen.getByText('needs something')).toBeInTheDocument();
    expect(screen.getByText('779 mm²')).toBeInTheDocument();
    expect(screen.getByText(/Keep every chip out of the engine/)).toBeInTheDocument();
  });

  it('plans the boring bite by bite, with what each is worth and where to stop', async () => {
    renderJob(<FitStop />);
    const table = screen.getByText('a millimetre brings').closest('table')!;
    const rows = () => within(table).getAllByRole('row').slice(1);
    expect(rows()).toHaveLength(8);
    expect(rows()[0]).toHaveTextContent(/^59\.0 mm—\+0\.\d %\+0\.\d\d %$/);
    expect(rows().at(-1)).toHaveTextContent(/^66\.0 mm—\+1\.9 %/);
    expect(screen.getByText('The last bite reaches the unit’s own 66.0 mm.')).toBeInTheDocument();
    await userEvent.type(screen.getByLabelText('Wall there is now'), '5');
    expect(rows()).toHaveLength(4);
    expect(rows().at(-1)).toHaveTextContent(/^62\.0 mm3\.0 mm/);
    expect(screen.getByText('Stop there: the next bite would leave less than 3.0 mm of wall.')).toBeInTheDocument();
  });

  it('refuses a bite or a wall that cannot be, in place', async () => {
    renderJob(<FitStop />);
    await userEvent.clear(screen.getByLabelText('A bite, of diameter'));
    await userEvent.type(screen.getByLabelText('A bite, of diameter'), '40');
    expect(screen.getByRole('alert')).toHaveTextContent('Take less than 10 mm at a time.');
    expect(screen.getByLabelText('A bite, of diameter')).toHaveValue('40');
  });

  it('moves with the measured opening', async () => {
    renderJob(<FitStop />);
    for (const label of ['Manifold opening', 'Gasket opening']) {
      await userEvent.clear(screen.getByLabelText(label));
      await userEvent.type(screen.getByLabelText(label), '66');
    }
    expect(heading()).toHaveTextContent('Fenwick 66 and the opening are the same size: nothing to work.');
    await userEvent.clear(screen.getByLabelText('Manifold opening'));
    await userEvent.type(screen.getByLabelText('Manifold opening'), '70');
    await userEvent.clear(screen.getByLabelText('Gasket opening'));
    await userEvent.type(screen.getByLabelText('Gasket opening'), '70');
    expect(heading()).toHaveTextContent('Fenwick 66 is 2.0 mm smaller than the opening all round');
  });

  it('says when a bore is wider than the flange allows', () => {
    const tight = { ...units[1]!, doc: { ...units[1]!.doc, largestOpening_m: 0.062 } };
    renderJob(<FitStop />, { shelf: [units[0]!, tight, units[2]!] });
    expect(heading()).toHaveTextContent('more than its flange lets the manifold be opened');
    expect(screen.getByText('does not fit')).toBeInTheDocument();
  });

  it('without a chosen unit sends to Pick', () => {
    renderJob(<FitStop />, { doc: { ...larkspur, pick: { ...larkspur.pick, chosen: null } } });
    expect(heading()).toHaveTextContent('No unit is chosen yet');
    expect(screen.getByRole('link', { name: 'Go to Pick' })).toBeInTheDocument();
  });
});

describe('Install', () => {
  it('lists the work for a cable car, with the checks that come before any start', () => {
    renderJob(<InstallStop />);
    expect(heading()).toHaveTextContent('16 steps to put Fenwick 66 on this cable car; 3 checks stand before the first start.');
    expect(screen.getAllByText(/must pass/)).toHaveLength(3);
    expect(screen.getByText(/It snaps shut by itself/)).toBeInTheDocument();
    expect(screen.getByText('A sticking throttle is a runaway car.')).toBeInTheDocument();
    expect(screen.getByText(/The maker’s instructions and torque figures beat what stands here/)).toBeInTheDocument();
  });

  it('leaves out the cutting when the opening stays, and the linkage on an electronic car', () => {
    const electronic = {
      ...larkspur,
      car: { ...larkspur.car, controls: { kind: 'electronic-digital' as const, closed_V: null, full_V: null } },
      pick: { ...larkspur.pick, opening: 'as it is' as const },
    };
    renderJob(<InstallStop />, { doc: electronic });
    expect(screen.queryByText(/Open the manifold to match/)).toBeNull();
    expect(screen.queryByText(/It snaps shut by itself/)).toBeNull();
    expect(screen.getByText('Never push an electronic blade by hand on the car.')).toBeInTheDocument();
    expect(screen.getByText(/has not been measured yet: do that before it comes off/)).toBeInTheDocument();
  });

  it('repeats the volts to match', () => {
    renderJob(<InstallStop />);
    expect(screen.getByText('The stock sensor read 0.52 V shut and 4.43 V full: match them.')).toBeInTheDocument();
  });
});
