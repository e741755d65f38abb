import fc from 'fast-check';
import { mendCurve, readCurve, type CurveTable } from './curve-table';

const good = (text: string, kind: 'power' | 'boost' | 'air' = 'power'): CurveTable => {
  const read = readCurve(text, kind);
  if ('refused' in read) throw new Error(`refused: ${read.refused}`);
  return read;
};
const lines = (...rows: string[]): string => rows.join('\n');

it('knows its columns by name and unit, in any order', () => {
  const t = good(lines('Power (hp);Engine speed (rpm)', '100;3000', '150;5000'));
  expect(t).toMatchObject({ rpmColumn: 'Engine speed', valueColumn: 'Power', unit: 'hp', fromTorque: false, issues: [] });
  expect(t.rows[1]!.value).toBeCloseTo(150 * 745.69987158, 3);
});

it('turns torque into power', () => {
  const t = good(lines('rpm,torque (Nm)', '3000,200', '5000,210'));
  expect(t.fromTorque).toBe(true);
  expect(t.rows[0]!.value).toBeCloseTo((200 * 2 * Math.PI * 3000) / 60, 6);
});

it('a nameless pair is rpm first', () => {
  const t = good(lines('2000\t40', '4000\t90', '6000\t120'));
  expect(t.rows.map((r) => r.rpm)).toEqual([2000, 4000, 6000]);
  // Nobody has said what the second column is in.
  expect(t.questions).toEqual([{ code: 'unit', column: 'column 2', dimension: 'power' }]);
  const said = readCurve(lines('2000\t40', '4000\t90', '6000\t120'), 'power', { unit: 'hp' }) as CurveTable;
  expect(said.questions).toEqual([]);
  expect(said.rows[1]!.value).toBeCloseTo(90 * 745.69987158, 3);
});

it('takes decimal commas', () => {
  expect(good(lines('rpm;kW', '3000;61,5', '4000;82,25')).rows[1]!.value).toBeCloseTo(82_250, 6);
});

it('reads boost and a meter in their own units', () => {
  expect(good(lines('rpm,boost (psi)', '3000,6', '6000,9'), 'boost').rows[1]!.value).toBeCloseTo(9 * 6894.757293168, 3);
  expect(good(lines('rpm,MAF (g/s)', '3000,60', '6000,130'), 'air').rows[1]!.value).toBeCloseTo(0.13, 9);
});

it('asks for the unit of a power whose name says none, and never takes watts', () => {
  const t = good(lines('rpm,Power', '2000,80', '4000,190', '6000,273'));
  expect(t.questions).toEqual([{ code: 'unit', column: 'Power', dimension: 'power' }]);
  expect(good(lines('RPM,WHP', '2000,80', '4000,190', '6000,273')).unit).toBe('hp');
});

it('asks what the drivetrain takes before a curve at the wheels stands for the engine', () => {
  const text = lines('RPM,Wheel HP', '2000,80', '4000,190', '6000,273');
  expect(good(text).questions).toEqual([{ code: 'loss', column: 'Wheel HP' }]);
  const said = readCurve(text, 'power', { lossShare: 0.15 }) as CurveTable;
  expect(said.questions).toEqual([]);
  expect(said.rows[2]!.value).toBeCloseTo((273 * 745.69987158) / 0.85, 3);
});

it('takes the air outside off an absolute pressure, and asks where it could be either', () => {
  const absolute = readCurve(lines('rpm,MAP (kPa)', '2000,120', '4000,150', '6000,160'), 'boost', { ambient_Pa: 100_000 }) as CurveTable;
  expect(absolute.fromAbsolute).toBe(true);
  expect(absolute.rows[2]!.value).toBeCloseTo(60_000, 6);
  const pasted = good(lines('rpm,boost (kPa)', '2000,105', '4000,140', '6000,150'), 'boost');
  expect(pasted.questions).toEqual([{ code: 'reference', column: 'boost' }]);
  const said = readCurve(lines('rpm,boost (kPa)', '2000,105', '4000,140', '6000,150'), 'boost', {
    reference: 'absolute',
    ambient_Pa: 1e5,
  }) as CurveTable;
  expect(said.rows[2]!.value).toBeCloseTo(50_000, 6);
});

it.each([
  ['', 'empty'],
  ['   \n ', 'empty'],
  ['3000\n4000\n5000', 'one_column'],
  ['time,temperature (C),lambda\n1,20,0.9\n2,21,0.9', 'no_rpm'],
  ['rpm,coolant (C),lambda\n2000,80,0.9\n3000,81,0.9', 'no_value'],
])('refuses %j as %s', (text, refused) => {
  expect(readCurve(text, 'power')).toMatchObject({ refused });
});

it('lists rpm that come twice, fall back or go below zero, row by row, and throws nothing away', () => {
  const t = good(lines('rpm,kW', '2000,40', '3000,60', '3000,62', '2500,50', '4000,-5'));
  expect(t.issues).toEqual([
    { code: 'twice', row: 3, first: 2, rpm: 3000 },
    { code: 'falling', row: 4, rpm: 2500, before: 3000 },
    { code: 'below_zero', row: 5, value: -5000 },
  ]);
  expect(t.rows).toHaveLength(5);
});

it('mends by sorting and by the mean of equal rpm', () => {
  const t = good(lines('rpm,kW', '3000,60', '3000,62', '2500,50', '4000,80'));
  expect(mendCurve(t, 'pasted')).toEqual({ rpm: [2500, 3000, 4000], value: [50_000, 61_000, 80_000], source: 'pasted', driveRatio: null });
});

it('a mended curve always rises in rpm and stays within what was given', () => {
  const row = fc.record({
    rpm: fc.integer({ min: 500, max: 9000 }),
    value: fc.oneof(fc.double({ min: 0, max: 1e6, noNaN: true }), fc.constant(NaN)),
  });
  fc.assert(
    fc.property(fc.array(row, { minLength: 2, maxLength: 80 }), (rows) => {
      const table: CurveTable = { rpmColumn: 'rpm', valueColumn: 'kW', unit: 'kW', fromTorque: false, rows, issues: [] };
      const { rpm, value } = mendCurve(table, 'x');
      expect(rpm.every((n, i) => i === 0 || n > rpm[i - 1]!)).toBe(true);
      expect(value.every(Number.isFinite)).toBe(true);
      expect(rpm.length).toBe(new Set(rows.filter((r) => !Number.isNaN(r.value)).map((r) => r.rpm)).size);
    }),
  );
});

it('a very long log is thinned, its ends kept', () => {
  const rows = Array.from({ length: 9000 }, (_, i) => ({ rpm: 1000 + i, value: i }));
  const { rpm } = mendCurve({ rpmColumn: 'rpm', valueColumn: 'kW', unit: 'kW', fromTorque: false, rows, issues: [] }, 'x');
  expect(rpm.length).toBeLessThanOrEqual(2000);
  expect(rpm[0]).toBe(1000);
  expect(rpm.at(-1)).toBe(9999);
});
