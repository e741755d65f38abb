import fc from 'fast-check';
import { documentChanges, MOST_CHANGES, placeWords } from './changes';

it('names every figure that moved, with how it is shown', () => {
  const from = { car: { stock: { manifoldOpening_m: 0.058 }, weather: { T_K: 290 } }, name: 'a' };
  const to = { car: { stock: { manifoldOpening_m: 0.066 }, weather: { T_K: 290 } }, name: 'b' };
  expect(documentChanges(from, to)).toEqual([
    { place: ['car', 'stock', 'manifold bore'], from: 0.058, to: 0.066, measure: 'bore' },
    { place: ['name'], from: 'a', to: 'b', measure: null },
  ]);
});

it('lists of one length go part by part, others as a whole', () => {
  expect(documentChanges({ parts: [{ K: 1 }, { K: 2 }] }, { parts: [{ K: 1 }, { K: 3 }] })).toMatchObject([
    { place: ['parts', 'no. 2', 'k'] },
  ]);
  expect(documentChanges({ tags: ['a'] }, { tags: ['a', 'b'] })).toMatchObject([{ place: ['tags'], to: ['a', 'b'] }]);
});

it('a part that came or went is told by what is in it', () => {
  const decided = { override: { advice: 'back', reason: 'too loud' } };
  expect(documentChanges({ override: null }, decided)).toMatchObject([
    { place: ['override', 'advice'], from: undefined, to: 'back' },
    { place: ['override', 'reason'], to: 'too loud' },
  ]);
  expect(documentChanges(decided, { override: null })).toMatchObject([{ to: undefined }, { to: undefined }]);
});

it('says nothing of what did not change, and never endlessly much', () => {
  fc.assert(fc.property(fc.jsonValue(), (v) => expect(documentChanges(v, structuredClone(v))).toEqual([])));
  const long = Object.fromEntries(Array.from({ length: 500 }, (_, i) => [`k${i}`, i]));
  expect(documentChanges(long, {})).toHaveLength(MOST_CHANGES);
});

it.each([
  ['boostThen_Pa', 'boost then'],
  ['shift_rpm', 'shift'],
  ['runsPerSide', 'runs per side'],
  ['0', 'no. 1'],
])('%s is %s', (key, words) => expect(placeWords(key)).toBe(words));
