/** A map's results: those of the inlet as it is, speed by speed, then of each length. Null: not computed yet. */
export type MapResults = readonly ({ readonly settled: boolean; readonly W: number } | null)[];

interface Known {
  readonly at: number;
  /** NaN: it did not settle, and beside it nothing is known. */
  readonly value: number;
}

/** On the straight line between the nearest known on either side of a place; null: there is none, or it did not settle. */
function between(known: readonly Known[], at: number): number | null {
  let [below, above]: (Known | null)[] = [null, null];
  for (const k of known) {
    if (k.at <= at && (!below || k.at > below.at)) below = k;
    if (k.at >= at && (!above || k.at < above.at)) above = k;
  }
  if (!below || !above || Number.isNaN(below.value + above.value)) return null;
  return below.at === above.at ? below.value : below.value + ((above.value - below.value) * (at - below.at)) / (above.at - below.at);
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
  const cells = Array.from({ length: lengths }, (_, row) =>
    Array.from({ length: speeds }, (_, column) => ({ at: column, value: at(row, column) })).filter((c): c is Known => c.value !== null),
  );
  const rows = cells.map((line) => Array.from({ length: speeds }, (_, column) => between(line, column)));
  if (asItIs === null) return rows;
  const begun = [...cells.keys()].filter((r) => cells[r]!.length > 0);
  return rows.map((row, r) => {
    if (begun.includes(r)) return row;
    return row.map((_, column) => {
      // A row that has begun and says nothing here has a hole.
      const known = begun.map((k): Known => ({ at: k, value: rows[k]![column] ?? NaN }));
      const own = results?.[column];
      return between(own ? [...known, { at: asItIs, value: own.settled ? 1 : NaN }] : known, r);
    });
  });
}
