import fc from 'fast-check';
import { MEASURES, shownUnit, UNIT_PACKS, type MeasureName } from './measures';
import { ownUnits } from './units';
import { fieldText, formatAirFlow, formatMoney, formatNumber, formatQuantity, formatSigned, parseQuantity, readNumber } from './quantity';
import { fromSI, toSI, unitById, unitByWord, UNITS } from './units';

const measures = Object.keys(MEASURES) as MeasureName[];

describe('units', () => {
  it('convert there and back without loss', () => {
    fc.assert(
      fc.property(fc.constantFrom(...UNITS), fc.double({ min: -1e6, max: 1e6, noNaN: true }), (unit, value) => {
        expect(fromSI(toSI(value, unit), unit)).toBeCloseTo(value, 6);
      }),
    );
  });

  it.each([
    ['in', 1, 0.0254],
    ['psi', 1, 6894.757293168],
    ['inHg', 1, 3386.389],
    ['inH2O', 28, 6974.48948],
    ['cfm', 1, 4.719474432e-4],
    ['hp', 1, 745.69987158],
    ['PS', 1, 735.49875],
    ['lbft', 1, 1.3558179483],
    ['lbmin', 60, 0.45359237],
    ['C', 20, 293.15],
    ['F', 68, 293.15],
    ['ci', 1, 1.6387064e-5],
    ['mph', 1, 0.44704],
    ['bar', 1, 100_000],
    ['mbar', 1013.25, 101_325],
    ['kPa', 101.325, 101_325],
    ['MPa', 1, 1_000_000],
    ['atm', 1, 101_325],
    ['kgfcm2', 1, 98_066.5],
    ['torr', 760, 101_325],
    ['mmHg', 1, 133.322387415],
    ['inHgVac', 20, -67_727.78],
    ['psiVac', 1, -6894.757293168],
    ['kPaVac', 60, -60_000],
    ['mbarVac', 600, -60_000],
    ['in2', 1, 6.4516e-4],
    ['l', 2.9, 2.9e-3],
    ['ft', 60, 18.288],
    ['mi', 0.25, 402.336],
  ])('%s is exact', (id, value, si) => {
    expect(toSI(value, unitById(id))).toBeCloseTo(si, 12);
  });

  it('are known by the words people write', () => {
    expect(unitByWord('"', 'length')?.id).toBe('in');
    expect(unitByWord('in H2O'.replace(' ', '.'), 'pressure')?.id).toBe('inH2O');
    expect(unitByWord('Lb-Ft')?.id).toBe('lbft');
    expect(unitByWord('°C')?.id).toBe('C');
    expect(unitByWord('°C', 'temperatureDifference')?.id).toBe('dK');
    expect(unitByWord('furlong')).toBeNull();
    expect(() => unitById('furlong')).toThrow(RangeError);
  });
});

describe('readNumber', () => {
  it.each([
    ['60', 60, ''],
    ['2.35in', 2.35, 'in'],
    ['2,35 in', 2.35, 'in'],
    ['1 234,5', 1234.5, ''],
    ['1.234,5', 1234.5, ''],
    ['1,234.5', 1234.5, ''],
    ["1'234", 1234, ''],
    ['2 3/8"', 2.375, '"'],
    ['1/2 in', 0.5, 'in'],
    ['1.2e-3 m', 0.0012, 'm'],
    ['-5 C', -5, 'C'],
    ['.5', 0.5, ''],
    ['1,234,567', 1_234_567, ''],
  ])('%s', (text, value, rest) => {
    expect(readNumber(text)).toEqual({ value, rest });
  });

  it('takes a comma for thousands where the figure is an engine speed', () => {
    expect(readNumber('6,400', 'engineSpeed')).toEqual({ value: 6400, rest: '' });
    expect(readNumber('6,400', 'length')).toEqual({ value: 6.4, rest: '' });
  });

  it('reads no number out of words', () => {
    expect(readNumber('about 60')).toBeNull();
    expect(readNumber('')).toBeNull();
  });
});

describe('parseQuantity', () => {
  it('takes any unit of the dimension, else the one shown', () => {
    const pa = (text: string, pack: 'us' | 'metric'): number => {
      const parsed = parseQuantity(text, 'barometer', pack);
      return parsed.ok ? parsed.si : NaN;
    };
    expect(pa('14.7 psi', 'metric')).toBeCloseTo(101_352.93, 1);
    expect(pa('100.4', 'metric')).toBe(100_400);
    expect(pa('29.92', 'us')).toBeCloseTo(101_320.76, 1);
    expect(pa('1004 hPa', 'us')).toBeCloseTo(100_400, 6);
  });

  it('says what is wrong: nothing, no number, no such unit', () => {
    expect(parseQuantity(' ', 'bore', 'metric')).toMatchObject({ ok: false, issue: { code: 'empty' } });
    expect(parseQuantity('wide', 'bore', 'metric')).toMatchObject({ ok: false, issue: { code: 'not_a_number', text: 'wide' } });
    expect(parseQuantity('60 psi', 'bore', 'metric')).toMatchObject({
      ok: false,
      issue: { code: 'unknown_unit', word: 'psi', known: expect.arrayContaining(['mm', 'in']) },
    });
  });
});

describe('in a field', () => {
  it.each([
    [8.2, 'deg', 'angle', 'metric', '8.2'],
    [8, 'deg', 'angle', 'metric', '8'],
    [88.25, 'deg', 'angle', 'us', '88.25'],
    [22.4, 'C', 'temperature', 'metric', '22.4'],
    [2.35, 'in', 'bore', 'metric', '59.69'],
    [66, 'mm', 'bore', 'metric', '66.0'],
    // A figure out of another unit has no end of decimals: the measure's are shown.
    [350, 'mm', 'length', 'us', '13.78'],
    [1 / 3, 'mm', 'bore', 'metric', '0.3'],
    [-6.5, 'C', 'temperature', 'metric', '-6.5'],
  ] as const)('%s %s of %s shows in %s as %s', (figure, id, measure, pack, text) => {
    const unit = unitById(id);
    expect(fieldText(toSI(figure, unit), measure, pack)).toBe(text);
  });

  it('reads back what it shows, in every pack', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...measures),
        fc.constantFrom(...UNIT_PACKS),
        fc.double({ min: 0.001, max: 2000, noNaN: true }),
        (measure, pack, shown) => {
          const { unit, decimals } = shownUnit(measure, pack);
          const parsed = parseQuantity(fieldText(toSI(shown, unit), measure, pack), measure, pack);
          expect(parsed.ok).toBe(true);
          if (parsed.ok) expect(Math.abs(fromSI(parsed.si, unit) - shown)).toBeLessThanOrEqual(0.501 * 10 ** -decimals + 1e-9);
        },
      ),
    );
  });

  it('what is typed with up to two decimals more than usual stands there as it was typed', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...measures),
        fc.constantFrom(...UNIT_PACKS),
        fc.integer({ min: 1, max: 999_999 }),
        (measure, pack, n) => {
          const { unit, decimals } = shownUnit(measure, pack);
          const typed = n / 10 ** (decimals + 2);
          const text = fieldText(toSI(typed, unit), measure, pack);
          expect(Number(text)).toBeCloseTo(typed, decimals + 6);
          // And is read as that again by who goes on typing in it, or its other reading is offered.
          const parsed = parseQuantity(text, measure, pack);
          expect(parsed.ok).toBe(true);
          if (parsed.ok && !parsed.two) expect(fromSI(parsed.si, unit)).toBeCloseTo(typed, decimals + 4);
        },
      ),
    );
  });
});

describe('formatting', () => {
  it('has thousands commas, a true minus, and never a minus nought', () => {
    expect(formatNumber(12345.678, 1)).toBe('12,345.7');
    expect(formatNumber(-3.2, 1)).toBe('\u22123.2');
    expect(formatNumber(-0.001, 1)).toBe('0.0');
    expect(formatSigned(1.94, 1, '%')).toBe('+1.9 %');
    expect(formatSigned(0.01, 1)).toBe('0.0');
    expect(formatSigned(-1.94, 1)).toBe('\u22121.9');
  });

  it('tells an air flow as a volume of the day’s air, with its mass beside it', () => {
    const day = { pack: 'us' as const, own: {}, air_kgpm3: 1.1 };
    // 0.2 kg/s of 1.1 kg/m³ are 0.1818 m³/s.
    expect(formatAirFlow(0.2, day)).toBe('385 cfm (26.5 lb/min)');
    expect(formatAirFlow(0.2, 'metric')).toBe('720 kg/h (598 m³/h)');
    const typed = parseQuantity('385 cfm', 'massFlow', day);
    expect(typed.ok && typed.si).toBeCloseTo(0.2, 3);
    const bare = parseQuantity('385', 'massFlow', day);
    expect(bare.ok && bare.si).toBeCloseTo(0.2, 3);
  });

  it('shows each pack’s own unit', () => {
    expect(formatQuantity(0.058, 'bore', 'metric')).toBe('58.0 mm');
    expect(formatQuantity(0.058, 'bore', 'us')).toBe('58.0 mm');
    expect(formatQuantity(0.058, 'bore', { pack: 'us', own: { bore: 'in' } })).toBe('2.283 in');
    expect(formatQuantity(3500, 'loss', { pack: 'metric', own: { loss: 'mbar' } })).toBe('35 mbar');
    expect(formatQuantity(150_000, 'power', 'mixed')).toBe('201.2 hp');
    expect(formatQuantity(385, 'money', 'metric')).toBe('€\u202f385');
    expect(formatMoney(1385.4, 'kr')).toBe('kr\u202f1,385');
    expect(formatMoney(-12)).toBe('€\u202f−12');
    expect(formatQuantity(0.122, 'angle', 'metric')).toBe('7°');
    expect(formatQuantity(10.2, 'ratio', 'metric')).toBe('10.20');
  });

  it('has a unit for every measure in every pack', () => {
    for (const measure of measures)
      for (const pack of UNIT_PACKS) expect(shownUnit(measure, pack).unit.dimension).toBe(MEASURES[measure].dimension);
  });
});

describe('a volume of air in place of its mass', () => {
  it('is what a field shows and takes, and no unit of a file’s column: a volume needs a state that no header tells', () => {
    expect(unitByWord('cfm')!.dimension).toBe('volumeFlow');
    expect(unitByWord('m3/h')!.dimension).toBe('volumeFlow');
    expect(unitByWord('cfm', 'massFlow')).toBeNull();
    expect(ownUnits('massFlow').map((u) => u.id)).not.toContain('cfmAir');
  });
});
