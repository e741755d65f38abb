import fc from 'fast-check';
import { packBlock, unpackBlock } from './packed-block';

const same = (values: number[]): void => {
  const packed = packBlock(Float64Array.from(values));
  expect(packed.bytes.byteLength).toBe(values.length * packed.width);
  const back = [...unpackBlock(packed)];
  expect(back.every((v, i) => Object.is(v, values[i]))).toBe(true);
};

describe('samples packed', () => {
  it('comes back as the very same doubles, whatever they are', () => {
    fc.assert(fc.property(fc.array(fc.double(), { maxLength: 300 }), same));
    const figure = fc.tuple(fc.integer({ min: -40_000_000, max: 40_000_000 }), fc.integer({ min: 0, max: 8 })).map(([n, k]) => n / 10 ** k);
    fc.assert(fc.property(fc.array(fc.oneof(figure, fc.constant(NaN), fc.constant(-0)), { maxLength: 300 }), same));
  });

  it('takes two bytes for a sensor of two decimals, four for a long count, eight where digits would be lost', () => {
    expect(packBlock(Float64Array.of(20.01, NaN, -99.9))).toMatchObject({ width: 2, decimals: 2 });
    expect(packBlock(Float64Array.of(123_456, 0.5))).toMatchObject({ width: 4, decimals: 1 });
    expect(packBlock(Float64Array.of(1 / 3))).toMatchObject({ width: 8, decimals: 0 });
    expect(packBlock(Float64Array.of(3e9))).toMatchObject({ width: 8 });
    same([-2_147_483_648, 2_147_483_647, -32_768, 32_768]);
    same([-32_768, 1]);
  });

  it('gives a stretch of a block without the rest of it', () => {
    const packed = packBlock(Float64Array.of(1.5, 2.5, NaN, 4.5));
    expect([...unpackBlock({ ...packed, bytes: packed.bytes.subarray(2, 6) })]).toEqual([2.5, NaN]);
  });

  it('finds the decimals of samples it did not look at first', () => {
    const values = Array.from({ length: 1000 }, (_, i) => (i === 999 ? 0.125 : i));
    expect(packBlock(Float64Array.from(values))).toMatchObject({ width: 4, decimals: 3 });
    same(values);
  });
});
