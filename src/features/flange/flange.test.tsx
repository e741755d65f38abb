import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { renderRoom } from '../../../test/render-room';
import { unitFlangeDoc, type FittingsDoc, type PatternDoc, type UnitFlangeDoc } from '@/core/documents/flange';
import { NO_FITTINGS } from '@/core/documents/blank';
import { patternHoles } from '@/core/shape/flange';
import type { PackName } from '@/core/units/measures';
import { FittingsFields } from './fittings';
import { repattern } from './fields';
import { UnitFlange, usualFlange } from './unit-flange';

let flange: UnitFlangeDoc | null = null;
/** What is wrong by place, for what is shown of it. */
let faults: Readonly<Record<string, string>> = {};
beforeEach(() => {
  faults = {};
});
function Held({ start }: { start: UnitFlangeDoc | null }) {
  const [value, setValue] = useState(start);
  return (
    <UnitFlange
      flange={value}
      bore_m={0.066}
      issueAt={(path) => faults[path] ?? (path === 'pattern' && value?.hole_m === 0.02 ? 'too wide' : undefined)}
      onChange={(f) => {
        flange = f;
        setValue(f);
      }}
    />
  );
}
const open = (start: UnitFlangeDoc | null = usualFlange(0.066), pack: PackName = 'metric') => {
  flange = start;
  renderRoom(<Held start={start} />, { pack });
};
const retype = async (label: string, text: string): Promise<void> => {
  await userEvent.clear(screen.getByLabelText(label));
  await userEvent.type(screen.getByLabelText(label), text);
};
const choose = async (label: string, option: string): Promise<void> => {
  await userEvent.click(screen.getByRole('combobox', { name: label }));
  await userEvent.click((await screen.findAllByText(option)).at(-1)!);
};

it('a flange nobody measured says what cannot be said, and starts from a usual one', async () => {
  open(null);
  expect(screen.getByText('Not measured: whether it fits a manifold cannot be said.')).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Measure it' }));
  expect(flange).toMatchObject({ pattern: { kind: 'rectangle', width_m: 0.08, height_m: 0.08 }, hole_m: 0.0066 });
  await userEvent.click(screen.getByRole('button', { name: 'clear' }));
  expect(flange).toBeNull();
});

it('takes figures in any unit and shows the shop’s', async () => {
  open(usualFlange(0.066), 'us');
  expect(screen.getByLabelText('Hole')).toHaveValue('0.2598');
  await retype('Thickness', '12.7 mm');
  expect(flange!.thickness_m).toBeCloseTo(0.0127, 9);
});

it.each<[string, PatternDoc['kind'], number]>([
  ['two holes', 'pair', 2],
  ['three, a triangle', 'triangle', 3],
  ['on a circle', 'circle', 4],
  ['hole by hole', 'free', 4],
])('%s covers the same ground, with its own fields', async (label, kind, holes) => {
  open();
  await choose('Holes', label);
  expect(flange!.pattern.kind).toBe(kind);
  expect(patternHoles(flange!.pattern)).toHaveLength(holes);
  expect(unitFlangeDoc.safeParse(flange).success).toBe(true);
});

it('a circle’s diameter comes from two neighbours on it', async () => {
  open({ ...usualFlange(0.066), pattern: { kind: 'circle', diameter_m: 0.1, count: 4, start_rad: 0 } });
  await userEvent.click(screen.getByRole('button', { name: 'Circle by caliper' }));
  const dialog = within(await screen.findByRole('dialog'));
  expect(screen.getByText('Two neighbours on the circle, by caliper')).toBeInTheDocument();
  await userEvent.type(dialog.getByLabelText('Reading 1'), '63.4');
  // 63.4 between inside edges of 6.6 mm holes is 70 between centres; on a circle of four that is 99.
  expect(dialog.getByRole('status')).toHaveTextContent('70.00 mm from centre to centre.');
  await userEvent.click(dialog.getByRole('button', { name: 'Take it' }));
  expect(flange!.pattern).toMatchObject({ diameter_m: expect.closeTo(0.098995, 6) });
});

it.each([
  ['the outside edges', '76.6', '70.00'],
  ['the centres', '70', '70.00'],
  ['edges of the same side', '70', '70.00'],
])('held at %s', async (how, reading, centres) => {
  open();
  await userEvent.click(screen.getByRole('button', { name: 'Apart up by caliper' }));
  const dialog = within(await screen.findByRole('dialog'));
  await userEvent.click(dialog.getByRole('combobox', { name: 'Held at' }));
  await userEvent.click((await screen.findAllByText(how)).at(-1)!);
  await userEvent.type(dialog.getByLabelText('Reading 1'), reading);
  expect(dialog.getByRole('status')).toHaveTextContent(`${centres} mm from centre to centre.`);
});

it('readings of holes that would run into one another are questioned, and cannot be taken', async () => {
  open();
  await userEvent.click(screen.getByRole('button', { name: 'Apart across by caliper' }));
  const dialog = within(await screen.findByRole('dialog'));
  await userEvent.click(dialog.getByRole('combobox', { name: 'Held at' }));
  await userEvent.click((await screen.findAllByText('the outside edges')).at(-1)!);
  await userEvent.type(dialog.getByLabelText('Reading 1'), '8');
  expect(dialog.getByRole('status')).toHaveTextContent('Those holes would run into one another.');
  expect(dialog.getByRole('button', { name: 'Take it' })).toBeDisabled();
});

it('holes one by one are set, added and taken out, two at the least', async () => {
  open({
    ...usualFlange(0.066),
    pattern: {
      kind: 'free',
      holes: [
        { x_m: 0.04, y_m: 0 },
        { x_m: -0.04, y_m: 0 },
      ],
    },
  });
  expect(screen.getByRole('button', { name: 'Take hole 1 out' })).toBeDisabled();
  await userEvent.click(screen.getByRole('button', { name: 'another hole' }));
  expect(patternHoles(flange!.pattern)).toHaveLength(3);
  await retype('Hole 3 up', '44');
  expect(patternHoles(flange!.pattern)[2]).toMatchObject({ x_m: expect.closeTo(0.04, 9), y_m: expect.closeTo(0.044, 9) });
  await userEvent.click(screen.getByRole('button', { name: 'Take hole 2 out' }));
  expect(patternHoles(flange!.pattern)).toHaveLength(2);
});

it('repatterned to itself nothing moves', () => {
  const p: PatternDoc = { kind: 'rectangle', width_m: 0.07, height_m: 0.05 };
  expect(repattern(p, 'rectangle')).toEqual(p);
  expect(repattern(p, 'pair')).toEqual({ kind: 'pair', span_m: 0.07, angle_rad: 0 });
});

it('fittings are left open until somebody looked, and taken back to open', async () => {
  let fittings: FittingsDoc = NO_FITTINGS;
  function Fields() {
    const [value, setValue] = useState(fittings);
    return (
      <FittingsFields
        fittings={value}
        issueAt={(path) => (path === 'ports' && value.ports === 40 ? 'at most 12' : undefined)}
        onChange={(f) => {
          fittings = f;
          setValue(f);
        }}
      />
    );
  }
  renderRoom(<Fields />);
  await userEvent.type(screen.getByLabelText('Plug'), 'six flat');
  await userEvent.type(screen.getByLabelText('Signals from model year'), '2008');
  await userEvent.type(screen.getByLabelText('Spigot outside'), '3 in');
  await choose('Coolant', 'passage');
  expect(fittings).toMatchObject({
    plug: 'six flat',
    fromYear: 2008,
    spigot_m: expect.closeTo(0.0762, 9),
    coolant: 'passage',
    ports: null,
  });
  await userEvent.type(screen.getByLabelText('Ports'), '40');
  expect(screen.getByRole('alert')).toHaveTextContent('at most 12');
  await userEvent.clear(screen.getByLabelText('Plug'));
  await userEvent.clear(screen.getByLabelText('Spigot outside'));
  expect(fittings).toMatchObject({ plug: null, spigot_m: null });
});

it.each<[PatternDoc['kind'], string, string]>([
  ['pair', 'pattern.angle_rad', 'Turned by'],
  ['circle', 'pattern.start_rad', 'First hole at'],
  ['triangle', 'pattern.baseBelow_m', 'Base below the bore'],
  ['free', 'pattern.holes.1.x_m', 'Hole 2 right'],
  ['free', 'pattern.holes.0.y_m', 'Hole 1 up'],
])('of holes as a %s what is wrong at %s is told at its field', (kind, path, label) => {
  faults = { [path]: 'farther than that' };
  const usual = usualFlange(0.066);
  open({ ...usual, pattern: repattern(usual.pattern, kind) });
  expect(screen.getByLabelText(label)).toBeInvalid();
  expect(screen.getByRole('alert')).toHaveTextContent('farther than that');
});

it('a hole’s place that cannot be read says so', async () => {
  const usual = usualFlange(0.066);
  open({ ...usual, pattern: repattern(usual.pattern, 'free') });
  await retype('Hole 2 up', '3l');
  expect(screen.getByRole('alert')).toHaveTextContent('"l" is not a unit for this.');
});
