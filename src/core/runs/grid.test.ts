import { isFailure, must } from '../failure';
import { gridRun } from './grid';

it('sorts samples by engine speed, averages those of one speed, and is linear between them', () => {
  const { rpm, value } = must(gridRun([3000, 2000, 2500, 2500, 2500], [30, 20, 24, 27, 24], 250));
  expect(rpm).toEqual([2000, 2250, 2500, 2750, 3000]);
  [20, 22.5, 25, 27.5, 30].forEach((v, i) => expect(value[i]).toBeCloseTo(v, 12));
});

it('stays within the run’s own ends', () => {
  expect(must(gridRun([2010, 2090], [1, 9])).rpm).toEqual([2025, 2050, 2075]);
  expect(gridRun([2010, 2020], [1, 2])).toMatchObject({ error: 'no_common_range' });
  expect([gridRun([], []), gridRun([2000, 3000], [1, 2], 0)].every(isFailure)).toBe(true);
});
