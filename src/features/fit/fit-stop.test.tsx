import { act, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { JobDoc } from '@/core/documents/job';
import { larkspur, renderJob, units } from '../../../test/render-job';
import { InstallStop } from '../install/install-stop';
import { FitStop } from './fit-stop';

beforeEach(() => localStorage.clear());
const heading = () => screen.getByRole('heading', { level: 1 });
/** The demo's car before anything was got for it. */
const bare: JobDoc = { ...larkspur, fit: { ...larkspur.fit, mounting: { ...larkspur.fit.mounting, have: [] } } };
const row = (rule: string) => document.querySelector(`li[data-rule="${rule}"]`)!;

describe('Fit', () => {
  it('says what has to be seen to, what the lip costs and what opening it is worth', () => {
    renderJob(<FitStop />, { doc: bare });
    expect(heading()).toHaveTextContent('Fenwick 66 goes on once 2 things are seen to: gasket bore, coolant passage.');
    expect(
      screen.getByText(
        /Fenwick 66 needs the manifold bored to match: 58\.0 → 66\.0 mm bore \(4\.0 mm a side\)\. Left as it is the throttle brings \+0\.5 % where it brings most; bored to match, \+1\.9 %\./,
      ),
    ).toBeInTheDocument();
    expect(screen.getByText('779 mm²')).toBeInTheDocument();
    expect(screen.getByText(/Keep every chip out of the engine/)).toBeInTheDocument();
    expect(row('opening')).toHaveTextContent('Manifold 58.0 mm, bore 66.0 mm: a step of 4.0 mm a side faces the flow.');
    expect(row('holes')).toHaveTextContent('fits');
  });

  it('what is needed is ticked off when it stands ready, and then it fits', async () => {
    renderJob(<FitStop />, { doc: bare });
    for (const line of [/The manifold opened to 66\.0 mm/, /Gasket cut to 66\.0 mm/, /Hose to join the coolant lines/])
      await userEvent.click(screen.getByRole('checkbox', { name: line }));
    expect(heading()).toHaveTextContent('Fenwick 66 fits: the manifold is opened 58.0 → 66.0 mm, and all that is needed stands ready.');
    expect(screen.getAllByText(/stands ready\)/).length).toBeGreaterThan(1);
    await userEvent.click(screen.getByRole('checkbox', { name: /Hose to join/ }));
    expect(heading()).toHaveTextContent('coolant passage');
  });

  it('a plate between asks for longer bolts by name, and lists them', async () => {
    renderJob(<FitStop />, { doc: bare });
    await userEvent.click(screen.getByText('Mounting'));
    await userEvent.click(screen.getByRole('combobox', { name: 'Adapter plate' }));
    await userEvent.click(await screen.findByText('a plate between'));
    expect(row('bolts')).toHaveTextContent(
      '25.0 mm through 20.8 mm: between 29.8 mm (to hold in aluminium) and 35.8 mm (before it bottoms) is wanted.',
    );
    await userEvent.click(screen.getByText('Needed'));
    expect(screen.getByRole('checkbox', { name: '4 × M6 × 30.0 mm bolts' })).toBeInTheDocument();
    await userEvent.click(screen.getByText('Mounting'));
    await userEvent.type(screen.getByLabelText('Bolts into the manifold'), '30');
    expect(row('bolts')).toHaveTextContent('fits');
    await userEvent.type(screen.getByLabelText('Throttle’s bolts, under the head'), '25');
    expect(row('plate-bolts')).toHaveTextContent('holds in the plate');
  });

  it('holes that do not meet are marked, with how far they are off', () => {
    renderJob(<FitStop />, { doc: { ...bare, pick: { ...bare.pick, chosen: units[2]!.id } } });
    expect(screen.getByRole('img', { name: /holes 8\.5 mm off/ })).toBeInTheDocument();
    expect(row('holes')).toHaveTextContent('8.5 mm off at the worst, where a bolt can move 0.3 mm.');
  });

  it('is turned by two fingers as far as they went, even when they lift before the last of it is drawn', () => {
    renderJob(<FitStop />, { doc: bare });
    const clock = screen.getByRole('slider', { name: 'Clocking of the throttle' });
    const svg = screen.getByTestId('unit-layer').closest('svg')!;
    const fingers = (type: string, ...angles_deg: number[]): void => {
      const touches = angles_deg
        .flatMap((a) => [a, a + 180])
        .map((a) => ({ clientX: 200 + 60 * Math.cos((a * Math.PI) / 180), clientY: 200 - 60 * Math.sin((a * Math.PI) / 180) }));
      svg.dispatchEvent(Object.assign(new Event(type, { bubbles: true, cancelable: true }), { touches }));
    };
    act(() => {
      fingers('touchstart', 0);
      for (const a of [30, 60, 90]) fingers('touchmove', a);
      fingers('touchend');
    });
    expect(clock).toHaveAttribute('aria-valuetext', '90°');
  });

  it('is turned by keys, as far as its housing allows, and the holes are judged as it then lies', async () => {
    const { saves } = renderJob(<FitStop />, { doc: bare });
    const clock = screen.getByRole('slider', { name: 'Clocking of the throttle' });
    clock.focus();
    await userEvent.keyboard('{ArrowLeft}');
    expect(clock).toHaveAttribute('aria-valuetext', '90°');
    expect(row('holes')).toHaveTextContent('fits');
    await userEvent.keyboard('{ArrowRight}{ArrowRight}');
    expect(clock).toHaveAttribute('aria-valuetext', '−90°');
    await waitFor(() => expect(saves.at(-1)?.doc.fit.mounting.clock_rad).toBeCloseTo(-Math.PI / 2, 9));
  });

  it('drawn nearer, it is still written beside what is seen, and the bar grows with the drawing', async () => {
    renderJob(<FitStop />, { doc: bare });
    const drawing = await screen.findByRole('img', { name: /manifold bore/ });
    const bar = (): number => Number(/h([\d.]+) v-7/.exec(drawing.innerHTML)![1]);
    const whole = bar();
    const corner = (): number[] => drawing.getAttribute('viewBox')!.split(' ').map(Number);
    for (let i = 0; i < 3; i += 1) await userEvent.click(screen.getByRole('button', { name: 'Nearer' }));
    const [x, y, w] = corner() as [number, number, number, number];
    expect(w).toBeCloseTo(760 / 1.5 ** 3, 6);
    expect(bar() / whole).toBeCloseTo(1.5 ** 3, 6);
    const beside = [...drawing.querySelectorAll('g.beside')];
    expect(beside.map((g) => g.getAttribute('transform'))).toEqual(Array(2).fill(`translate(${x} ${y}) scale(${w / 760})`));
    // The bolts' holes lie outside by now, the openings' edges do not.
    expect(beside[0]!.textContent).toMatch(/manifold bore/);
    expect(beside[0]!.textContent).not.toMatch(/holes/);
  });

  it('layers are switched off one by one', async () => {
    renderJob(<FitStop />, { doc: bare });
    expect(screen.getByRole('img', { name: /gasket bore 60\.0 mm/ })).toBeInTheDocument();
    await userEvent.click(screen.getByRole('checkbox', { name: 'gasket' }));
    expect(screen.queryByRole('img', { name: /gasket bore/ })).toBeNull();
    expect(screen.getAllByText(/^step .* facing the flow$/)).toHaveLength(2);
    await userEvent.click(screen.getByRole('checkbox', { name: 'step' }));
    expect(screen.queryByText(/^step .* facing the flow$/)).toBeNull();
    expect(screen.getByRole('checkbox', { name: 'throttle' })).toBeChecked();
  });

  it('a hole run into its neighbour or the bore is refused in place, and stays typed', async () => {
    renderJob(<FitStop />, { doc: bare });
    await userEvent.click(screen.getByText('Manifold'));
    const across = screen.getByLabelText('Apart across');
    await userEvent.clear(across);
    await userEvent.type(across, '4');
    expect(screen.getByText(/Two holes run into one another: their centres are 4\.0 mm apart, the holes are 6\.0 mm/)).toBeInTheDocument();
    expect(across).toHaveValue('4');
    await userEvent.clear(across);
    await userEvent.type(across, '72');
    expect(screen.queryByText(/Two holes run/)).toBeNull();
    await userEvent.clear(screen.getByLabelText('Plate across'));
    await userEvent.type(screen.getByLabelText('Plate across'), '50');
    expect(screen.getByText(/The bore is larger than the plate it is in/)).toBeInTheDocument();
  });

  it('takes a spacing from caliper readings, and asks again when they differ', async () => {
    renderJob(<FitStop />, { doc: bare });
    await userEvent.click(screen.getByText('Manifold'));
    await userEvent.click(screen.getByRole('button', { name: 'Apart across by caliper' }));
    const dialog = within(await screen.findByRole('dialog'));
    await userEvent.type(dialog.getByLabelText('Reading 1'), '66.1');
    await userEvent.type(dialog.getByLabelText('Reading 2'), '66.3');
    expect(dialog.getByRole('status')).toHaveTextContent('72.20 mm from centre to centre; 2 readings, 0.20 mm apart.');
    await userEvent.type(dialog.getByLabelText('Reading 3'), '67');
    expect(dialog.getByRole('alert')).toHaveTextContent('The readings differ by 0.90 mm: take them again, square to the face.');
    await userEvent.clear(dialog.getByLabelText('Reading 3'));
    await userEvent.click(dialog.getByRole('button', { name: 'Take it' }));
    expect(screen.getByLabelText('Apart across')).toHaveValue('72.20');
  });

  it('templates say what is missing, and what a printed bar may measure', async () => {
    renderJob(<FitStop />, { doc: bare });
    expect(screen.getByRole('img', { name: 'Larkspur estate: gasket, bore 66.0 mm' })).toBeInTheDocument();
    await userEvent.click(screen.getByText('Adapter plate'));
    expect(screen.getByText('There is no adapter plate on this job: see Mounting on the right.')).toBeInTheDocument();
    await userEvent.click(screen.getByText('Drill guide'));
    await userEvent.clear(screen.getByLabelText('Last print’s 50 mm bar measured'));
    await userEvent.type(screen.getByLabelText('Last print’s 50 mm bar measured'), '40');
    expect(screen.getByRole('alert')).toHaveTextContent('Print at 100 %.');
    expect(screen.getByRole('button', { name: 'PDF' })).toBeDisabled();
    expect(screen.getByRole('button', { name: 'DXF' })).toBeEnabled();
  });

  it('a check of the shop’s own is judged with the others', () => {
    const own = {
      id: 'own-1',
      group: 'clearance' as const,
      title: 'Strut brace',
      fact: 'cover.left_m' as const,
      is: '>=' as const,
      than: 0.05,
      reason: 'The brace comes down when the engine rocks.',
      cure: 'Spacer under the brace',
    };
    renderJob(<FitStop shopRules={[own]} />, { doc: bare });
    expect(row('own-1')).toHaveTextContent('The brace comes down when the engine rocks. (free over the throttle: 37.0 mm)');
    expect(screen.getByRole('checkbox', { name: 'Spacer under the brace' })).toBeInTheDocument();
  });

  it('a signal of another family rules it out, whatever else fits', () => {
    const other = { ...units[1]!, doc: { ...units[1]!.doc, controls: 'electronic-digital' as const } };
    renderJob(<FitStop />, { doc: bare, shelf: [units[0]!, other, units[2]!] });
    expect(heading()).toHaveTextContent(
      'Fenwick 66 does not fit. The car is cable, the throttle electronic, digital: throttles that look alike do not swap across it.',
    );
  });

  it('plans the boring bite by bite, with what each is worth and where to stop', async () => {
    renderJob(<FitStop />, { doc: { ...bare, fit: { ...bare.fit, boring: { ...bare.fit.boring, wall_m: null } } } });
    const table = screen.getByText('a millimetre brings').closest('table')!;
    const rows = () => within(table).getAllByRole('row').slice(1);
    expect(rows()).toHaveLength(8);
    expect(rows()[0]).toHaveTextContent(/^59\.0 mm—\+0\.\d %\+0\.\d\d %$/);
    expect(rows().at(-1)).toHaveTextContent(/^66\.0 mm—\+1\.9 %/);
    expect(screen.getByText('The last cut reaches the throttle’s own 66.0 mm.')).toBeInTheDocument();
    await userEvent.type(screen.getByLabelText('Wall there is now'), '5');
    expect(rows()).toHaveLength(4);
    expect(rows().at(-1)).toHaveTextContent(/^62\.0 mm3\.0 mm/);
    expect(screen.getByText('Stop there: the next cut would leave less than 3.0 mm of wall.')).toBeInTheDocument();
  });

  it('refuses a bite or a wall that cannot be, in place', async () => {
    renderJob(<FitStop />);
    await userEvent.clear(screen.getByLabelText('Cut, in diameter'));
    await userEvent.type(screen.getByLabelText('Cut, in diameter'), '40');
    expect(screen.getByRole('alert')).toHaveTextContent('It may be at most 10.0 mm.');
    expect(screen.getByLabelText('Cut, in diameter')).toHaveValue('40');
  });

  it('moves with the measured opening', async () => {
    renderJob(<FitStop />, { doc: { ...larkspur, car: { ...larkspur.car, stock: { ...larkspur.car.stock, flange: null } } } });
    for (const label of ['Manifold bore', 'Gasket bore']) {
      await userEvent.clear(screen.getByLabelText(label));
      await userEvent.type(screen.getByLabelText(label), '66');
    }
    expect(heading()).toHaveTextContent('Fenwick 66 and the manifold bore are the same size: nothing to work.');
    await userEvent.clear(screen.getByLabelText('Manifold bore'));
    await userEvent.type(screen.getByLabelText('Manifold bore'), '70');
    await userEvent.clear(screen.getByLabelText('Gasket bore'));
    await userEvent.type(screen.getByLabelText('Gasket bore'), '70');
    expect(heading()).toHaveTextContent('Fenwick 66 has 66.0 mm on a manifold bore of 70.0 mm');
  });

  it('says when a bore is wider than the flange allows', () => {
    const tight = { ...units[1]!, doc: { ...units[1]!.doc, largestOpening_m: 0.062 } };
    renderJob(<FitStop />, {
      doc: {
        ...bare,
        car: {
          ...bare.car,
          stock: { ...bare.car.stock, gasketOpening_m: 0.067, fittings: { ...bare.car.stock.fittings, coolant: 'none' } },
        },
      },
      shelf: [units[0]!, tight, units[2]!],
    });
    expect(heading()).toHaveTextContent('more than its flange allows');
    expect(row('opening')).toHaveTextContent('does not fit');
  });

  it('without a chosen throttle sends to Pick', () => {
    renderJob(<FitStop />, { doc: { ...larkspur, pick: { ...larkspur.pick, chosen: null } } });
    expect(heading()).toHaveTextContent('No throttle is chosen yet');
    expect(screen.getByRole('link', { name: 'Go to Pick' })).toBeInTheDocument();
  });
});

describe('Install', () => {
  it('lists the work for a cable car, with the checks that come before any start', () => {
    renderJob(<InstallStop />);
    expect(heading()).toHaveTextContent('35 steps to put Fenwick 66 on this cable car; 6 checks stand before the first start.');
    expect(screen.getAllByText(/must pass/)).toHaveLength(6);
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
