/** Compares what a call returned with what a case expects, as verification/README.md lays down. */
export interface Tolerance {
  readonly relative?: number;
  readonly absolute?: number;
}

export interface Difference {
  readonly key: string;
  readonly want: unknown;
  readonly got: unknown;
}

/** Only keys in `want` are looked at; arrays must have equal length; numbers pass within max(absolute, relative·|want|). */
export function differences(want: unknown, got: unknown, tolerance: Tolerance, key = ''): Difference[] {
  if (typeof want === 'number') {
    const allowed = Math.max(tolerance.absolute ?? 0, (tolerance.relative ?? 0) * Math.abs(want));
    return typeof got === 'number' && Math.abs(got - want) <= allowed ? [] : [{ key, want, got }];
  }
  if (Array.isArray(want)) {
    if (!isList(got) || got.length !== want.length)
      return [{ key, want: `${want.length} elements`, got: isList(got) ? `${got.length} elements` : got }];
    return want.flatMap((w, i) => differences(w, got[i], tolerance, `${key}[${i}]`));
  }
  if (typeof want === 'object' && want !== null) {
    if (typeof got !== 'object' || got === null) return [{ key, want, got }];
    return Object.entries(want).flatMap(([k, w]) =>
      differences(w, (got as Record<string, unknown>)[k], tolerance, key ? `${key}.${k}` : k),
    );
  }
  return want === got ? [] : [{ key, want, got }];
}

function isList(x: unknown): x is ArrayLike<unknown> {
  return Array.isArray(x) || ArrayBuffer.isView(x);
}
