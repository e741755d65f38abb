import { bestLayout } from './table-head';

const rows = (n: number, row: (rpm: number) => string): string => Array.from({ length: n }, (_, i) => row(2000 + 250 * i)).join('\n');
const cut = (head: string): { columns: number; names: readonly string[]; by: string } | null => {
  const best = bestLayout(`${head}\n`);
  return (
    best && { columns: best.layout.columns, names: best.layout.names.slice(0, best.layout.columns), by: best.spacing?.kind ?? 'separator' }
  );
};

it('a table with a separator is cut there, whatever blanks its names and cells have', () => {
  const head = `engine speed;wheel power;air fuel\n${rows(8, (n) => `${n} ; ${n / 50} ; 12.8`)}`;
  expect(cut(head)).toEqual({ columns: 3, names: ['engine speed', 'wheel power', 'air fuel'], by: 'separator' });
});

it('a table set with blanks is cut at its blanks', () => {
  const head = `rpm    power   lambda\n${rows(8, (n) => `${n}   ${(n / 50).toFixed(1)}    0.88`)}`;
  expect(cut(head)).toEqual({ columns: 3, names: ['rpm', 'power', 'lambda'], by: 'runs' });
});

it('a table set with blanks whose decimals are commas is not cut at those', () => {
  const head = `rpm    power   lambda\n${rows(8, (n) => `${n}   ${(n / 50).toFixed(1).replace('.', ',')}    0,88`)}`;
  expect(cut(head)).toEqual({ columns: 3, names: ['rpm', 'power', 'lambda'], by: 'runs' });
});

it('cells that are missing in some lines leave the others in their columns', () => {
  const head = `rpm     power   lambda\n${rows(8, (n) => `${n}    ${n % 500 === 0 ? '     ' : (n / 50).toFixed(2)}   0.88`)}`;
  expect(cut(head)).toMatchObject({ columns: 3, by: 'places' });
});

it('a letter is no table', () => {
  expect(cut('Dear all,\nthe car is back from the dyno.\nIt went well.')).toBeNull();
});

it('what stands above a table set with blanks keeps its words', () => {
  const rows = Array.from({ length: 8 }, (_, i) => `${2000 + 100 * i}   ${40 + i}.5   ${90 + i}.25`);
  const found = bestLayout(
    ['Air temp 25 °C', '-----', '  Barometer   1011 hPa', '', '"Operator" "Maud"', 'RPM   Power(kW)   Torque(Nm)', ...rows].join('\n') +
      '\n',
  )!;
  expect(found.spacing).not.toBeNull();
  expect(found.layout).toMatchObject({
    preamble: ['Air temp 25 °C', 'Barometer   1011 hPa', '"Operator" "Maud"'],
    headerLine: 6,
    dataLine: 7,
  });
});
