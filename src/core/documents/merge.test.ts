import fc from 'fast-check';
import { mergeDocuments, sameDocument } from './merge';

const base = {
  name: 'a',
  car: { bore: 58, cam: { lift: 9 } },
  parts: [
    { id: 'x', bore: 1 },
    { id: 'y', bore: 2 },
  ],
  tags: ['t'] as string[],
};

it('what only one side changed is in both', () => {
  const mine = { ...base, name: 'b', parts: [{ id: 'x', bore: 3 }, base.parts[1]!] };
  const theirs = { ...base, car: { ...base.car, bore: 60 }, parts: [base.parts[0]!, { id: 'y', bore: 4 }] };
  const both = {
    name: 'b',
    car: { bore: 60, cam: { lift: 9 } },
    parts: [
      { id: 'x', bore: 3 },
      { id: 'y', bore: 4 },
    ],
    tags: ['t'],
  };
  expect(mergeDocuments(base, mine, theirs)).toEqual({ mine: both, theirs: both, clashes: [] });
});

it('where both changed the same figure it is asked, and nothing else is', () => {
  const found = mergeDocuments(base, { ...base, name: 'b', car: { ...base.car, bore: 61 } }, { ...base, car: { ...base.car, bore: 60 } });
  expect(found.clashes).toEqual(['car.bore']);
  expect(found.mine).toMatchObject({ name: 'b', car: { bore: 61 } });
  expect(found.theirs).toMatchObject({ name: 'b', car: { bore: 60 } });
});

it('the same change on both sides is no clash, and a list that grew on both is one', () => {
  const same = { ...base, name: 'c' };
  expect(mergeDocuments(base, same, { ...same }).clashes).toEqual([]);
  const grown = (t: string) => ({ ...base, tags: [...base.tags, t] });
  expect(mergeDocuments(base, grown('a'), grown('b')).clashes).toEqual(['tags']);
  expect(mergeDocuments(base, grown('a'), base).mine.tags).toEqual(['t', 'a']);
});

it('a part that one side took away stays away', () => {
  const b = { a: { x: 1 } as { x?: number; y?: number } };
  expect(mergeDocuments(b, { a: {} }, { a: { x: 1, y: 2 } }).mine).toEqual({ a: { y: 2 } });
});

it('changes that do not touch always merge to both, in any order', () => {
  const doc = fc.dictionary(fc.constantFrom('a', 'b', 'c', 'd'), fc.integer({ min: 0, max: 3 }), { minKeys: 1 });
  fc.assert(
    fc.property(doc, doc, doc, (o, a, b) => {
      const one = mergeDocuments<Record<string, number>>(o, a, b);
      const other = mergeDocuments<Record<string, number>>(o, b, a);
      expect(one.clashes.toSorted()).toEqual(other.clashes.toSorted());
      expect(sameDocument(one.mine, other.theirs)).toBe(true);
      for (const k of ['a', 'b', 'c', 'd']) {
        if (Object.is(o[k], b[k])) expect(one.mine[k]).toBe(a[k]);
        else if (Object.is(o[k], a[k])) expect(one.mine[k]).toBe(b[k]);
      }
    }),
    { seed: 3, numRuns: 300 },
  );
});
