/** Reading and replacing a value deep in a plain document by its path, "car.engine.redline_rpm". */
export function valueAt(doc: unknown, path: string): unknown {
  return path
    .split('.')
    .reduce<unknown>((at, key) => (at === null || typeof at !== 'object' ? undefined : (at as Record<string, unknown>)[key]), doc);
}

export function withValue<T>(doc: T, path: string, value: unknown): T {
  return replace(doc, path.split('.'), value) as T;
}

function replace(at: unknown, keys: readonly string[], value: unknown): unknown {
  const [key, ...rest] = keys;
  if (key === undefined) return value;
  if (Array.isArray(at)) return at.map((v: unknown, i) => (String(i) === key ? replace(v, rest, value) : v));
  const object = (at ?? {}) as Record<string, unknown>;
  return { ...object, [key]: replace(object[key], rest, value) };
}

/** Paths at which two documents differ, down to single figures. */
export function differingPaths(a: unknown, b: unknown, path = ''): string[] {
  if (Object.is(a, b)) return [];
  const bothObjects = typeof a === 'object' && typeof b === 'object' && a !== null && b !== null;
  if (!bothObjects || Array.isArray(a) !== Array.isArray(b)) return [path];
  if (Array.isArray(a) && Array.isArray(b) && a.length !== b.length) return [path];
  const keys = new Set([...Object.keys(a), ...Object.keys(b)]);
  return [...keys].flatMap((k) =>
    differingPaths((a as Record<string, unknown>)[k], (b as Record<string, unknown>)[k], path ? `${path}.${k}` : k),
  );
}
