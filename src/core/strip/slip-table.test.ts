import { passesFromTable, weatherFromTable } from './slip-table';

const HEADER = ['Time', 'Side', 'R/T', '60 ft', '330', '1/8', '1/8 mph', '1000', '1/4', 'mph', 'Coolant (°C)', 'Colour'];
const ROW = ['10:12', 'stock', '0.412', '2.145', '5.982', '9.162', '76.50', '11.930', '14.281', '96.41', '84', 'red'];
const sideOf = (name: string) => (name === 'stock' ? ({ kind: 'stock' } as const) : null);

it('reads a table of slips by what its columns are called', () => {
  const { found, problems, ignored } = passesFromTable(HEADER, [ROW], sideOf);
  expect(problems).toEqual([]);
  expect(ignored).toEqual(['Colour']);
  expect(found[0]).toMatchObject({
    at: '10:12',
    side: { kind: 'stock' },
    slip: { reaction_s: 0.412, t18_s: 2.145, t201_s: 9.162, t402_s: 14.281 },
  });
  expect(found[0]!.slip.v402_mps).toBeCloseTo(96.41 * 0.44704, 6);
  expect(found[0]!.slip.v201_mps).toBeCloseTo(76.5 * 0.44704, 6);
  expect(found[0]!.coolant_K).toBeCloseTo(357.15, 6);
});

it('reads metric names and a decimal comma', () => {
  const { found } = passesFromTable(['18 m', '201 m', '402 m', '402 m km/h'], [['2,145', '9,162', '14,281', '155,2']], sideOf);
  expect(found[0]!.slip).toMatchObject({ t18_s: 2.145, t201_s: 9.162, t402_s: 14.281 });
  expect(found[0]!.slip.v402_mps).toBeCloseTo(155.2 / 3.6, 6);
});

it('a row that cannot be a pass is not taken, and says its line and why', () => {
  const wrong = [...ROW];
  wrong[8] = '8.281';
  const { found, problems } = passesFromTable(HEADER, [ROW, wrong, ['', '', '', 'two', '', '', '', '', '', '', '', '']], sideOf);
  expect(found).toHaveLength(1);
  expect(problems.map((p) => p.line)).toEqual([4, 3]);
  expect(problems[0]).toMatchObject({ column: '60 ft', cell: 'two' });
});

it('reads a day’s air, humidity as a share or in per cent, and says what a reading lacks', () => {
  const { found, problems } = weatherFromTable(
    ['time', 'temp (C)', 'pressure (hPa)', 'RH'],
    [
      ['9:05', '18.2', '1004', '55'],
      ['14:20', '71.5 F', '29.62 inHg', '0.4'],
      ['15:00', '20', '', ''],
      ['25:99', '20', '1000', '50'],
    ],
  );
  expect(found).toHaveLength(2);
  expect(found[0]).toMatchObject({ at: '09:05', p_Pa: 100_400, from: 'file' });
  expect(found[0]!.rh).toBeCloseTo(0.55, 9);
  expect(found[1]!.T_K).toBeCloseTo(295.09, 1);
  expect(problems.some((p) => p.line === 4 && /temperature and a pressure/.test(p.why))).toBe(true);
  expect(problems.some((p) => p.line === 5 && /time of day/.test(p.why))).toBe(true);
});
