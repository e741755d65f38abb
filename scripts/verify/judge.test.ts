import { isFailure } from '@/core/failure';
import { CALLS } from './calls';
import { differences } from './judge';

const tight = { relative: 1e-6, absolute: 1e-9 };

it('compares only the keys that are expected, element by element', () => {
  expect(differences({ a: 1 }, { a: 1, b: 2 }, tight)).toEqual([]);
  expect(differences({ a: [1, 2] }, { a: [1, 3] }, tight)).toEqual([{ key: 'a[1]', want: 2, got: 3 }]);
  expect(differences({ a: [1, 2] }, { a: Float64Array.of(1, 2) }, tight)).toEqual([]);
  expect(differences({ a: [1, 2] }, { a: [1] }, tight)).toHaveLength(1);
  expect(differences({ a: { b: null } }, { a: { b: 0 } }, tight)).toHaveLength(1);
});

it('a number passes within the larger of both tolerances, and NaN never does', () => {
  expect(differences(100, 100.00005, tight)).toEqual([]);
  expect(differences(100, 100.0002, tight)).toHaveLength(1);
  expect(differences(0, 1e-10, tight)).toEqual([]);
  expect(differences(0, 1e-10, {})).toHaveLength(1);
  expect(differences(1, NaN, tight)).toHaveLength(1);
  expect(differences('ok', 'ok', {})).toEqual([]);
  expect(differences({ error: 'choked' }, undefined, {})).toHaveLength(1);
});

it('a refusal of the core is carried through, and an unknown call is no call', () => {
  expect(CALLS['air.nothing']).toBeUndefined();
  expect(isFailure(CALLS['air.state']!({ p_Pa: 1, T_K: 1, rh: 1 }))).toBe(true);
});
