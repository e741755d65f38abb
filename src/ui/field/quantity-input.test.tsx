import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import type { PackName, UnitSet } from '@/core/units/measures';
import { PrefsProvider } from '../theme/prefs';
import { FieldRow } from './field-row';

function Bore({
  start = 0.058 as number | null,
  onChange = (_: number) => {},
  wrong,
  clear = false,
}: {
  start?: number | null;
  onChange?: (si: number) => void;
  wrong?: string;
  clear?: boolean;
}) {
  const [value, setValue] = useState<number | null>(start);
  return (
    <FieldRow
      label="Bore"
      measure="bore"
      value={value}
      wrong={wrong}
      placeholder="not yet"
      onChange={(si) => {
        setValue(si);
        onChange(si);
      }}
      onClear={clear ? () => setValue(null) : undefined}
    />
  );
}

const show = (node: React.ReactNode, pack: PackName = 'metric', own: UnitSet['own'] = {}) =>
  render(
    <PrefsProvider pack={pack} own={own} theme="light">
      {node}
    </PrefsProvider>,
  );
const field = () => screen.getByLabelText('Bore');

it('shows the reader’s unit and passes on every keystroke that reads as a number', async () => {
  const seen: number[] = [];
  show(<Bore onChange={(si) => seen.push(si)} />);
  expect(field()).toHaveValue('58.0');
  await userEvent.clear(field());
  await userEvent.type(field(), '66');
  expect(seen.map((s) => Math.round(s * 1000))).toEqual([6, 66]);
  await userEvent.tab();
  expect(field()).toHaveValue('66.0');
});

it('takes any unit of its kind', async () => {
  const seen: number[] = [];
  show(<Bore onChange={(si) => seen.push(si)} />);
  await userEvent.clear(field());
  await userEvent.type(field(), '2.35in');
  expect(seen.at(-1)).toBeCloseTo(0.05969, 6);
  await userEvent.tab();
  expect(field()).toHaveValue('59.69');
});

it('refuses letters in place, says how to mend it, and keeps what was typed', async () => {
  const seen: number[] = [];
  show(<Bore onChange={(si) => seen.push(si)} />);
  await userEvent.clear(field());
  await userEvent.type(field(), 'wide');
  await userEvent.tab();
  expect(screen.getByRole('alert')).toHaveTextContent('"wide" is not a number. Type digits');
  expect(field()).toHaveValue('wide');
  expect(field()).toHaveAttribute('aria-invalid', 'true');
  expect(seen).toEqual([]);
});

it('names the units it knows when it is given another', async () => {
  show(<Bore />);
  await userEvent.clear(field());
  await userEvent.type(field(), '60 psi');
  expect(screen.getByRole('alert')).toHaveTextContent('"psi" is not a unit for this. Known here: mm, cm, m, km, in, ft, mi.');
});

it('shows what is wrong from outside', () => {
  show(<Bore wrong="The shaft is as thick as the bore." />);
  expect(screen.getByRole('alert')).toHaveTextContent('as thick');
});

it('steps with the arrow keys, ten at once with Shift', async () => {
  const seen: number[] = [];
  show(<Bore onChange={(si) => seen.push(si)} />);
  await userEvent.click(field());
  await userEvent.keyboard('{ArrowUp}{ArrowDown}{ArrowDown}{Shift>}{ArrowUp}{/Shift}');
  expect(seen.map((s) => Number((s * 1000).toFixed(2)))).toEqual([58.1, 58, 57.9, 58.9]);
});

it('a step keeps the decimals that stand there', async () => {
  const seen: number[] = [];
  show(<Bore onChange={(si) => seen.push(si)} />);
  await userEvent.clear(field());
  await userEvent.type(field(), '58.25');
  await userEvent.keyboard('{ArrowUp}');
  expect(field()).toHaveValue('58.35');
  expect(seen.at(-1)! * 1000).toBeCloseTo(58.35, 9);
});

it('may be emptied only where that means something', async () => {
  show(<Bore clear />);
  await userEvent.clear(field());
  expect(screen.queryByRole('alert')).toBeNull();
  await userEvent.tab();
  expect(field()).toHaveValue('');
});

it('asks for a figure where one is needed', async () => {
  show(<Bore />);
  await userEvent.clear(field());
  expect(screen.getByRole('alert')).toHaveTextContent('A figure is needed here.');
});

it('shows inches to a reader of inches', () => {
  show(<Bore />, 'us', { bore: 'in' });
  expect(field()).toHaveValue('2.283');
});

it('a figure out of its bounds is refused in place, in the reader’s unit, and not passed on', async () => {
  const seen: number[] = [];
  show(
    <FieldRow label="Air" measure="temperature" value={300} within={{ least: 233.149, most: 333.151 }} onChange={(v) => seen.push(v)} />,
    'us',
  );
  const air = screen.getByLabelText('Air');
  await userEvent.clear(air);
  await userEvent.type(air, '300');
  expect(screen.getByRole('alert')).toHaveTextContent('It may be at most 140 °F.');
  expect(air).toBeInvalid();
  await userEvent.tab();
  expect(air).toHaveValue('300');
  await userEvent.clear(air);
  await userEvent.type(air, '30 C');
  expect(screen.queryByRole('alert')).toBeNull();
  expect(seen.at(-1)).toBeCloseTo(303.15, 6);
  expect(seen.every((k) => k < 333.16)).toBe(true);
});

it('the arrow keys keep to the bounds too', async () => {
  const seen: number[] = [];
  show(<FieldRow label="Rest" measure="count" value={0} within={{ least: 0 }} onChange={(v) => seen.push(v)} />);
  screen.getByLabelText('Rest').focus();
  await userEvent.keyboard('{ArrowDown}');
  expect(screen.getByRole('alert')).toHaveTextContent('It has to be at least 0.');
  expect(seen).toEqual([]);
  await userEvent.keyboard('{ArrowUp}');
  expect(seen).toEqual([1]);
});

it('the first digits of what is not taken are taken back', async () => {
  let kept = 0.058;
  show(<FieldRow label="Bore" measure="bore" value={kept} within={{ least: 0.015, most: 0.25 }} onChange={(v) => (kept = v)} />);
  await userEvent.clear(field());
  await userEvent.type(field(), '66');
  expect(kept).toBeCloseTo(0.066, 9);
  await userEvent.type(field(), '0');
  expect(screen.getByRole('alert')).toHaveTextContent('It may be at most 250.0 mm.');
  expect(kept).toBe(0.058);
  await userEvent.clear(field());
  await userEvent.type(field(), '64x');
  expect(kept).toBe(0.058);
  expect(field()).toHaveValue('64x');
});

it('a field that may be empty is empty again', async () => {
  let kept: number | null = null;
  show(
    <FieldRow
      label="Bore"
      measure="bore"
      value={null}
      within={{ most: 0.25 }}
      onChange={(v) => (kept = v)}
      onClear={() => (kept = null)}
    />,
  );
  await userEvent.type(field(), '2500');
  expect(kept).toBeNull();
  expect(field()).toHaveValue('2500');
});
