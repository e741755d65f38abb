import { throttleWideOpen } from '../flow/throttle';
import { must } from '../failure';
import { isUnmeasuredOval, ovalOf, reshaped } from './reshape';
import { throttleDoc, type ThrottleDoc } from './throttle';

const ROUND: ThrottleDoc = throttleDoc.parse({
  shape: 'single',
  bore_m: 0.064,
  count: 1,
  shaft_m: 0.008,
  edge: 'knife',
  closedAngle_rad: 0.12,
  clearance_m: 4e-5,
});

it('counts the bores of each shape', () => {
  expect(reshaped(ROUND, 'twin').count).toBe(2);
  expect(reshaped(reshaped(ROUND, 'twin'), 'single').count).toBe(1);
  expect(reshaped(ROUND, 'individual').count).toBe(4);
  expect(reshaped({ ...ROUND, shape: 'individual', count: 6 }, 'individual').count).toBe(6);
  expect(reshaped({ ...ROUND, shape: 'individual', count: 6 }, 'oval').count).toBe(1);
});

it('gives an oval nobody measured the round bore’s area, and leaves one that was as it is', () => {
  const oval = reshaped(ROUND, 'oval');
  const area = (t: ThrottleDoc): number => must(throttleWideOpen(t)).grossArea_m2;
  expect(area(oval) / area(ROUND)).toBeCloseTo(1, 12);
  expect(oval.width_m! / oval.height_m!).toBeCloseTo(1.5, 12);
  const { width_m, height_m } = ovalOf(0.05);
  expect((Math.PI / 4) * height_m ** 2 + (width_m - height_m) * height_m).toBeCloseTo((Math.PI / 4) * 0.0025, 12);
  expect(isUnmeasuredOval(ROUND.bore_m, oval)).toBe(true);
  expect(isUnmeasuredOval(ROUND.bore_m, { ...oval, height_m: 0.052 })).toBe(false);
  expect(isUnmeasuredOval(ROUND.bore_m, ROUND)).toBe(false);
  const measured = { ...oval, width_m: 0.081, height_m: 0.052 };
  expect(reshaped(measured, 'oval')).toEqual(measured);
});

it('keeps what every shape has, takes away what only the oval has, and every shape can be stored', () => {
  for (const shape of ['single', 'twin', 'oval', 'individual'] as const) {
    const t = reshaped(reshaped(ROUND, 'oval'), shape);
    expect(throttleDoc.parse(t)).toMatchObject({ bore_m: 0.064, shaft_m: 0.008, edge: 'knife', closedAngle_rad: 0.12, shape });
    expect('width_m' in t).toBe(shape === 'oval');
    expect('height_m' in t).toBe(shape === 'oval');
  }
});
