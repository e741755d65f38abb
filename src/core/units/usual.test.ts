import type { MeasureName, UnitPack } from './measures';
import { parseQuantity } from './quantity';
import { fromSI } from './units';
import { unitsItFits } from './usual';

const read = (text: string, measure: MeasureName, pack: UnitPack = 'metric') => {
  const parsed = parseQuantity(text, measure, pack);
  if (!parsed.ok) throw new Error(parsed.issue.code);
  return { value: Number(fromSI(parsed.si, parsed.unit).toPrecision(12)), also: parsed.two?.also ?? null };
};

describe('a group of three behind one mark', () => {
  it.each([
    ['1,450', 'money', 'metric', 1450, null],
    ['1.450', 'money', 'metric', 1450, null],
    ['1,154', 'benchFlow', 'us', 1154, null],
    ['6,800', 'rpm', 'metric', 6800, null],
    ['6.800', 'rpm', 'metric', 6800, null],
    ['6.800 rpm', 'rpm', 'metric', 6800, null],
    ['2.350', 'bore', { pack: 'us', own: { bore: 'in' } }, 2.35, null],
    ['2,350', 'bore', { pack: 'us', own: { bore: 'in' } }, 2.35, null],
    ['11.234', 'time', 'metric', 11.234, null],
    ['11,234', 'time', 'metric', 11.234, null],
    ['1.225', 'density', 'metric', 1.225, null],
    ['2.902', 'displacement', 'metric', 2.902, null],
    ['1,450', 'altitude', 'metric', 1450, 1.45],
    ['1.450', 'altitude', 'metric', 1.45, 1450],
    ['-1,200', 'plenum', 'us', -1.2, null],
  ] as const)('%s as %s in the %j pack', (text, measure, pack, value, also) => {
    expect(read(text, measure, pack)).toEqual({ value, also });
  });

  it('is nothing special with two or four digits, a leading nought, or two marks', () => {
    expect(read('1,45', 'money').value).toBe(1.45);
    expect(read('0,450', 'coefficient').value).toBe(0.45);
    expect(read('1.234,5', 'rpm').value).toBe(1234.5);
    expect(read('1,234,567', 'money').value).toBe(1_234_567);
  });
});

describe('a bare figure that is unusual in the shown unit', () => {
  it('is offered in the units it fits', () => {
    expect(unitsItFits(5.7, 'displacement', 'us').map((u) => u.id)).toEqual(['l']);
    expect(unitsItFits(80, 'bore', { pack: 'us', own: { bore: 'in' } }).map((u) => u.id)).toEqual(['mm']);
    expect(unitsItFits(2.35, 'bore', 'metric').map((u) => u.id)).toContain('in');
    expect(unitsItFits(1013, 'barometer', 'metric').map((u) => u.id)).toContain('mbar');
    expect(unitsItFits(29.92, 'barometer', 'metric').map((u) => u.id)[0]).toBe('inHg');
  });

  it('is left alone where it is usual, or nothing fits', () => {
    expect(unitsItFits(60, 'bore', 'metric')).toEqual([]);
    expect(unitsItFits(-5, 'bore', 'metric')).toEqual([]);
  });
});

it('knows the units of pressure that barometers are in, and what psia is', () => {
  expect(parseQuantity('760 mmHg', 'barometer', 'metric')).toMatchObject({ ok: true, si: expect.closeTo(101_325, 0) });
  expect(parseQuantity('760 torr', 'barometer', 'metric')).toMatchObject({ ok: true, si: expect.closeTo(101_325, 6) });
  expect(parseQuantity('1 atm', 'barometer', 'us')).toMatchObject({ ok: true, si: 101_325 });
  expect(parseQuantity('14.7 psia', 'barometer', 'metric')).toMatchObject({ ok: true, si: expect.closeTo(101_353, 0) });
  expect(parseQuantity('14.7 psia', 'plenum', 'metric')).toMatchObject({ ok: false });
});
