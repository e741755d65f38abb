/** A map's results: those of the inlet as it is, speed by speed, then of each length. Null: not computed yet. */
export type MapResults = readonly ({ readonly settled: boolean; readonly W: number } | null)[];

/** Between the nearest known on either side; beside one that did not settle (NaN) nothing is known. */
function between(line: readonly (number | null)[], at: number): number | null {
  if (line[at] !== null) return Number.isNaN(line[at]!) ? null : line[at]!;
  let [l, r] = [at, at];
  while (l >= 0 && line[l] === null) l -= 1;
  while (r < line.length && line[r] === null) r += 1;
  if (l < 0 || r >= line.length || Number.isNaN(line[l]!) || Number.isNaN(line[r]!)) return null;
  return line[l]! + ((line[r]! - line[l]!) * (at - l)) / (r - l);
}

/** Of known places of a column, the value on the straight line between the nearest on either side; null: none, or beside a hole. */
function onLine(known: readonly { readonly row: number; readonly value: number }[], row: number): number | null {
  const below = known.filter((k) => k.row <= row).reduce<(typeof known)[number] | null>((m, k) => (!m || k.row > m.row ? k : m), null);
  const above = known.filter((k) => k.row > row).reduce<(typeof known)[number] | null>((m, k) => (!m || k.row < m.row ? k : m), null);
  if (!below || !above || Number.isNaN(below.value) || Number.isNaN(above.value)) return null;
  return below.value + ((above.value - below.value) * (row - below.row)) / (above.row - below.row);
}

/**
 * Ratio of each length (rows) at each speed (columns) to the inlet as it is. A hole shows what the speeds on either side say,
 * coarse first; while the map grows a whole row that is still to come shows what the lengths on either side say, of which the
 * inlet as it is, at the row `asItIs` or between two, is one: 1 everywhere. Null: nothing is known there. `asItIs` null: it
 * no longer grows.
 */
export function mapRatios(results: MapResults | undefined, lengths: number, speeds: number, asItIs: number | null): (number | null)[][] {
  /** NaN: it did not settle, and stays a hole. */
  const at = (row: number, column: number): number | null => {
    const a = results?.[column];
    const b = results?.[(row + 1) * speeds + column];
    if (!a || !b) return null;
    return a.settled && b.settled ? b.W / a.W : NaN;
  };
  const cells = Array.from({ length: lengths }, (_, row) => Array.from({ length: speeds }, (_, column) => at(row, column)));
  const rows = cells.map((line) => line.map((_, column) => between(line, column)));
  if (asItIs === null) return rows;
  const begun = cells.flatMap((line, r) => (line.some((v) => v !== null) ? [r] : []));
  return rows.map((row, r) => {
    if (begun.includes(r)) return row;
    return row.map((_, column) => {
      // A row that has begun and says nothing here has a hole.
      const known = begun.map((k) => ({ row: k, value: rows[k]![column] ?? NaN }));
      return onLine([...known, { row: asItIs, value: 1 }], r);
    });
  });
}
