import fc from 'fast-check';
import { figure } from './figure';
import { notWithin, WEATHER, type Within } from './within';

it.each([
  [{ least: 2 }, 1.9, { kind: 'least', bound: 2 }],
  [{ more: 0 }, 0, { kind: 'more', bound: 0 }],
  [{ most: 5 }, 5.1, { kind: 'most', bound: 5 }],
  [{ less: 5 }, 5, { kind: 'less', bound: 5 }],
  [{}, Infinity, { kind: 'figure' }],
  [{ least: 0, whole: true }, 1.5, { kind: 'whole number' }],
  [{ least: 2, most: 5 }, 2, null],
  [{ least: 2, most: 5 }, 5, null],
] as const)('%j: of %d is told what it may be', (within, si, wanted) => {
  expect(notWithin(si, within)).toEqual(wanted);
});

it('what is typed and what is stored are held to the same', () => {
  const bound = fc.option(fc.integer({ min: -20, max: 20 }), { nil: undefined });
  fc.assert(
    fc.property(
      bound,
      bound,
      fc.boolean(),
      fc.integer({ min: -50, max: 50 }),
      fc.constantFrom(undefined, true as const),
      (low, high, open, halves, whole) => {
        const si = halves / 2;
        const within: Within = {
          ...(low !== undefined && (open ? { more: low } : { least: low })),
          ...(high !== undefined && (open ? { less: high } : { most: high })),
          ...(whole && { whole }),
        };
        expect(figure(within).safeParse(si).success).toBe(notWithin(si, within) === null);
      },
    ),
  );
});

it('takes the ends of the weather as they are typed', () => {
  for (const t of [-40, 60]) expect(notWithin(t + 273.15, WEATHER.T_K)).toBeNull();
  expect(notWithin(60.1 + 273.15, WEATHER.T_K)).not.toBeNull();
});
