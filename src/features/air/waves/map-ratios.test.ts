import { gridOrder } from '@/core/job/wave-sweep';
import { mapRatios, type MapResults } from './map-ratios';

const [LENGTHS, SPEEDS] = [7, 9];
const settled = (W: number) => ({ settled: true, W });
/** Twice as much for the longest as for the shortest, whatever the speed. */
const whole: MapResults = [
  ...Array.from({ length: SPEEDS }, () => settled(10)),
  ...Array.from({ length: LENGTHS * SPEEDS }, (_, i) => settled(10 + (10 * Math.floor(i / SPEEDS)) / (LENGTHS - 1))),
];
const after = (computed: number): MapResults => {
  const there = new Set(gridOrder(LENGTHS, SPEEDS).slice(0, computed));
  return whole.map((r, i) => (there.has(i) ? r : null));
};
const known = (map: readonly (readonly (number | null)[])[]): number => map.flat().filter((v) => v !== null).length;

it('what is whole is told as it is', () => {
  const map = mapRatios(whole, LENGTHS, SPEEDS, null);
  map.forEach((row, r) => row.forEach((v) => expect(v).toBeCloseTo(1 + r / (LENGTHS - 1), 12)));
  expect(known(mapRatios(undefined, LENGTHS, SPEEDS, 0))).toBe(0);
});

it('as it grows it shows all of it as soon as its first and last lengths are there, and only then', () => {
  const half = Math.ceil(SPEEDS / 2);
  expect(known(mapRatios(after(SPEEDS), LENGTHS, SPEEDS, 2.5))).toBe(0);
  const first = mapRatios(after(SPEEDS + 2 * half), LENGTHS, SPEEDS, 0);
  expect(known(first)).toBe(LENGTHS * SPEEDS);
  first.forEach((row, r) => row.forEach((v) => expect(v).toBeCloseTo(1 + r / (LENGTHS - 1), 12)));
  // Stopped there, two lengths are known and no other is made up.
  expect(known(mapRatios(after(SPEEDS + 2 * half), LENGTHS, SPEEDS, null))).toBe(2 * SPEEDS);
});

it('beside what did not settle nothing is made up, along a row or between two', () => {
  const broken = after(SPEEDS + 2 * Math.ceil(SPEEDS / 2)).map((r, i) => (i === SPEEDS + 4 && r ? { settled: false, W: NaN } : r));
  const map = mapRatios(broken, LENGTHS, SPEEDS, 6);
  for (const row of [0, 3]) expect(map[row]![4]).toBeNull();
  expect(map[LENGTHS - 1]![4]).toBeCloseTo(2, 12);
  expect(map[3]![0]).not.toBeNull();
  expect(map[0]![3]).toBeNull();
});

it('the inlet as it is stands where its length is, as no difference', () => {
  const first = after(SPEEDS + 2 * Math.ceil(SPEEDS / 2)).map((r, i) => (r && i >= SPEEDS ? settled(20) : r));
  // Both ends say twice as much: between them lies 1, between rows 2 and 3.
  const map = mapRatios(first, LENGTHS, SPEEDS, 2.5);
  expect(map[0]![0]).toBe(2);
  expect(map[2]![0]).toBeCloseTo(1 + 0.5 / 2.5, 12);
  expect(map[3]![0]).toBeCloseTo(1 + 0.5 / 3.5, 12);
  expect(mapRatios(first, LENGTHS, SPEEDS, 3)[3]![0]).toBe(1);
  // Where it did not settle itself it is no help.
  const unsettled = first.with(0, { settled: false, W: NaN });
  expect(mapRatios(unsettled, LENGTHS, SPEEDS, 3)[3]![0]).toBeNull();
  expect(mapRatios(unsettled, LENGTHS, SPEEDS, 3)[3]![8]).toBe(1);
});
