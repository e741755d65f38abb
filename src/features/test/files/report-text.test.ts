import type { ImportReport } from '@/core/read/result';
import { TableReader } from '@/core/read/reader';
import { reportText } from './report-text';

/** What is said of a file as it is read. */
function said(lines: readonly string[], more: Partial<ImportReport> = {}): string {
  const reader = new TableReader();
  reader.push(new TextEncoder().encode(`${lines.join('\n')}\n`));
  const read = reader.finish();
  if (read.refused !== null) throw new Error(read.refused);
  return reportText({ ...read.report, ...more });
}

const rows = (n: number): string[] => Array.from({ length: n }, (_, i) => `${2000 + 100 * i};${40 + i},5;${90 + i}`);

it('a plain table is told in one sentence', () => {
  expect(said(['RPM;Power(kW);Torque(Nm)', ...rows(6)])).toBe(
    '6 rows, utf-8, semicolons, decimal commas, names in line 1, figures from line 2. No line was left out.',
  );
});

it('a table set with blanks is not told as one of tabs', () => {
  const blanks = Array.from({ length: 6 }, (_, i) => `${2000 + 100 * i}   ${40 + i}.5   ${90 + i}.25`);
  expect(said(['RPM   Power(kW)   Torque(Nm)', ...blanks])).toMatch(/^6 rows, utf-8, set with blanks, decimal points, /);
});

it('what stands above a table is told: what was taken at a guess, what could not be read, what says nothing known', () => {
  const above = ['Luftdruck: 1011', 'Coolant: 190', 'Air temp: warm', 'Operator: Maud'];
  expect(said([...above, 'RPM;Power(kW);Torque(Nm)', ...rows(6)])).toBe(
    '6 rows, utf-8, semicolons, decimal commas, names in line 5, figures from line 6. ' +
      'Above the table, without a unit: Luftdruck 1011 taken as hPa, Coolant 190 taken as °F; ' +
      'above the table, not understood and not in the record: Air temp: warm; above the table, not used: Operator. No line was left out.',
  );
});

it('one odd line, cell and row are one, several are several', () => {
  const [a, b, ...others] = rows(9);
  const one = said(['RPM;Power(kW);Torque(Nm)', `${a};late`, '', '2150;;88', ...others]);
  expect(one).toContain('1 row has words behind the last column, first in line 2');
  expect(one).toContain('1 empty cell; 1 blank line.');
  expect(one).not.toMatch(/\b1 (rows|cells|lines) (have|lack|were)/);
  const several = said(['RPM;Power(kW);Torque(Nm)', `${a};late`, `${b};later`, '', '', '2350;;88', '2360;;', ...others]);
  expect(several).toContain('2 rows have words behind the last column, first in line 2');
  expect(several).toContain('3 empty cells; 2 blank lines.');
});

it('says what the file was in, what else was in it, and what its clock does', () => {
  const more = {
    container: 'the sheet “Run 1”',
    unread: ['Sheet2', 'notes.txt'],
    zeroBytes: 1,
    timeBack: { count: 1, firstLine: 9 },
    timeRepeated: { count: 2, firstLine: 11 },
    pastMidnight: true,
    skippedTotal: 1,
  };
  const text = said(['RPM;Power(kW);Torque(Nm)', ...rows(6)], more);
  expect(text).toContain(
    ' From the sheet “Run 1”; the clock runs past midnight and is counted on; not read: Sheet2, notes.txt; 1 zero byte; ' +
      'time goes back 1 time, first in line 9; 2 repeated times. 1 line was left out:',
  );
});

it('names eight things and counts the rest', () => {
  const above = Array.from({ length: 11 }, (_, i) => `Cell ${String.fromCharCode(97 + i)}: full`);
  expect(said([...above, 'RPM;Power(kW);Torque(Nm)', ...rows(6)])).toMatch(/not used: (Cell [a-h], ){7}Cell h and 3 more\./);
});
