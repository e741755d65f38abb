/** Two states that grew out of one: what only one of them changed is in both results. */
export interface Merged<T> {
  /** Both changes; where they touch, the first's. */
  readonly mine: T;
  /** Both changes; where they touch, the other's. */
  readonly theirs: T;
  /** Where both changed the same thing differently, by path. */
  readonly clashes: readonly string[];
}

const isPart = (v: unknown): v is Readonly<Record<string, unknown>> => typeof v === 'object' && v !== null;

/** Equal in every figure and word, whatever the order of names. */
export function sameDocument(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (!isPart(a) || !isPart(b) || Array.isArray(a) !== Array.isArray(b)) return false;
  if (Array.isArray(a) && a.length !== (b as unknown as readonly unknown[]).length) return false;
  return [...new Set([...Object.keys(a), ...Object.keys(b)])].every((k) => sameDocument(a[k], b[k]));
}

const lengthOf = (v: object): number => (Array.isArray(v) ? v.length : -1);

/** Merges two states of a document field by field. Lists whose length changed are one thing: a part of one is not told from a part of another. */
export function mergeDocuments<T>(base: T, mine: T, theirs: T): Merged<T> {
  const clashes: string[] = [];
  const walk = (o: unknown, a: unknown, b: unknown, path: string): readonly [mine: unknown, theirs: unknown] => {
    if (sameDocument(a, b) || sameDocument(o, b)) return [a, a];
    if (sameDocument(o, a)) return [b, b];
    const parts = isPart(o) && isPart(a) && isPart(b) && lengthOf(o) === lengthOf(a) && lengthOf(a) === lengthOf(b);
    if (!parts) {
      clashes.push(path);
      return [a, b];
    }
    const keys = [...new Set([...Object.keys(a), ...Object.keys(b)])];
    const both = keys.map((k) => [k, walk(o[k], a[k], b[k], path === '' ? k : `${path}.${k}`)] as const);
    const made = (side: 0 | 1): unknown => {
      if (Array.isArray(a)) return both.map(([, v]) => v[side]);
      // What a side took away is not there, rather than there and nothing.
      return Object.fromEntries(both.flatMap(([k, v]) => (v[side] === undefined ? [] : [[k, v[side]]])));
    };
    return [made(0), made(1)];
  };
  const [m, t] = walk(base, mine, theirs, '');
  return { mine: m as T, theirs: t as T, clashes };
}
