import { headerSplits } from './header';

const first = (cell: string, by: string) => headerSplits(cell).find((s) => s.by === by);

it.each([
  ['Power (kW)', 'brackets', 'Power', 'kW'],
  ['Boost [psi]', 'brackets', 'Boost', 'psi'],
  ['pressure (QFE) [hPa]', 'brackets', 'pressure (QFE)', 'hPa'],
  ['Pressure (bar (abs))', 'brackets', 'Pressure', 'bar (abs)'],
  ['Power / kW', 'apart', 'Power', 'kW'],
  ['Power, kW', 'apart', 'Power', 'kW'],
  ['RH in %', 'apart', 'RH', '%'],
  ['Temp/F', 'slash', 'Temp', 'F'],
  ['torque_Nm', 'underscore', 'torque', 'Nm'],
  ['Coolant-F', 'mark', 'Coolant', 'F'],
  ['Baro: hPa', 'mark', 'Baro', 'hPa'],
  ['Temp.F', 'mark', 'Temp', 'F'],
  ['RH%', 'sign', 'RH', '%'],
  ['Inlet°C', 'sign', 'Inlet', '°C'],
  ['pressure in  Hg', 'blank', 'pressure', 'in Hg'],
])('“%s” by its %s', (cell, by, name, unit) => {
  expect(first(cell, by)).toEqual({ name, unit, by });
});

it('tries the last brackets first, and has nothing for one word', () => {
  expect(headerSplits('temp (outside) [°F] ').map((s) => [s.by, s.unit])).toEqual([
    ['brackets', '°F'],
    ['brackets', 'outside'],
    ['blank', '(outside) [°F]'],
    ['blank', '[°F]'],
  ]);
  expect(headerSplits('rpm')).toEqual([]);
  expect(headerSplits(' ')).toEqual([]);
});

it('what is longer than any header has nothing, and is not looked through from each of its places', () => {
  for (const filling of ['['.padEnd(200_000, 'a'), '('.repeat(200_000), ' / '.repeat(60_000)])
    expect(headerSplits(`Power ${filling}x`)).toEqual([]);
});
