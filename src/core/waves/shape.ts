/** A stretch of duct: its bore runs straight from one end to the other. Lengths m. */
export interface Segment {
  readonly length_m: number;
  readonly inBore_m: number;
  readonly outBore_m: number;
}

/** A loss standing in a duct, on the duct's own head; on another area it counts as K·(A/A_k)². */
export interface StandingLoss {
  /** Place from the duct's upstream end, m. */
  readonly at_m: number;
  readonly K: number;
  readonly area_m2?: number | undefined;
  /** Length it is spread over, m; 12 mm where none is told. */
  readonly over_m?: number | undefined;
}

export interface DuctWalls {
  readonly roughness_m: number;
  /** Temperature of the wall, K; null for a wall that passes no heat. */
  readonly wall_K: number | null;
  /** Whether the wall rubs. */
  readonly friction: boolean;
}

const circle = (bore_m: number): number => (Math.PI / 4) * bore_m ** 2;
const lengthOf = (segments: readonly Segment[]): number => segments.reduce((sum, s) => sum + s.length_m, 0);
const SPREAD_m = 0.012;
/** Bores that differ by less than this share meet without a step. */
const SAME_BORE = 1e-9;
const FEWEST_CELLS = 8;

/** A duct cut into equal cells. Arrays over cells, or over the faces between and around them (one more). */
export interface DuctCells {
  readonly cells: number;
  readonly dx_m: number;
  readonly faceArea_m2: Float64Array;
  /** Volume of each cell, m³. */
  readonly volume_m3: Float64Array;
  /** Diameter of the circle with each cell's mean area, m. */
  readonly bore_m: Float64Array;
  /** Losses standing in each cell, on its own head. */
  readonly K: Float64Array;
  readonly walls: DuctWalls;
}

/** Bore at a place of a duct without steps, m. */
function boreAt(segments: readonly Segment[], x_m: number): number {
  let from = 0;
  for (const s of segments) {
    if (x_m <= from + s.length_m) return s.inBore_m + ((s.outBore_m - s.inBore_m) * (x_m - from)) / s.length_m;
    from += s.length_m;
  }
  return segments[segments.length - 1]!.outBore_m;
}

/** Volume between two places, m³, exact over every kink between them. */
function volumeBetween(segments: readonly Segment[], a_m: number, b_m: number): number {
  let from = 0;
  let sum = 0;
  for (const s of segments) {
    const lo = Math.max(a_m, from);
    const hi = Math.min(b_m, from + s.length_m);
    if (hi > lo) {
      const at = (x: number): number => s.inBore_m + ((s.outBore_m - s.inBore_m) * (x - from)) / s.length_m;
      const [d, e] = [at(lo), at(hi)];
      sum += (Math.PI / 12) * (d * d + d * e + e * e) * (hi - lo);
    }
    from += s.length_m;
  }
  return sum;
}

/** Parts a line of segments where the bore jumps: each part is a duct of its own, the joints are solved between them. */
export function partAtSteps(segments: readonly Segment[]): Segment[][] {
  const parts: Segment[][] = [];
  for (const s of segments) {
    const before = parts.at(-1)?.at(-1);
    if (before && Math.abs(before.outBore_m - s.inBore_m) <= SAME_BORE * s.inBore_m) parts.at(-1)!.push(s);
    else parts.push([s]);
  }
  return parts;
}

/** Cuts a duct without steps into equal cells of at most `cell_m`, eight at least. */
function cutDuct(
  segments: readonly Segment[],
  losses: readonly StandingLoss[],
  spreadK: number,
  walls: DuctWalls,
  cell_m: number,
): DuctCells {
  const length = lengthOf(segments);
  const cells = Math.max(FEWEST_CELLS, Math.ceil(length / cell_m - 1e-9));
  const dx_m = length / cells;
  const faceArea_m2 = Float64Array.from({ length: cells + 1 }, (_, i) => circle(boreAt(segments, i * dx_m)));
  const volume_m3 = Float64Array.from({ length: cells }, (_, i) => volumeBetween(segments, i * dx_m, (i + 1) * dx_m));
  const bore_m = volume_m3.map((v) => Math.sqrt((4 * v) / dx_m / Math.PI));
  const K = new Float64Array(cells).fill(spreadK / cells);
  for (const loss of losses) {
    const half = (loss.over_m ?? SPREAD_m) / 2;
    // What would stand beyond an end acts inside it.
    const at = Math.min(Math.max(loss.at_m, half), length - half);
    for (let i = 0; i < cells; i += 1) {
      const overlap = Math.min((i + 1) * dx_m, at + half) - Math.max(i * dx_m, at - half);
      if (overlap <= 0) continue;
      const area = volume_m3[i]! / dx_m;
      K[i]! += (loss.K * (area / (loss.area_m2 ?? area)) ** 2 * overlap) / (2 * half);
    }
  }
  return { cells, dx_m, faceArea_m2, volume_m3, bore_m, K, walls };
}

/**
 * A line of segments as ducts: parted at steps, cut into cells. `losses` are placed from the line's upstream end; `spreadK`
 * is spread evenly over all of it.
 */
export function ductsOf(
  segments: readonly Segment[],
  losses: readonly StandingLoss[],
  spreadK: number,
  walls: DuctWalls,
  cell_m: number,
): DuctCells[] {
  const whole = lengthOf(segments);
  let from = 0;
  return partAtSteps(segments).map((part, k, parts) => {
    const length = lengthOf(part);
    const last = k === parts.length - 1;
    const start = from;
    const own = losses.filter((l) => l.at_m >= start && (last || l.at_m < start + length)).map((l) => ({ ...l, at_m: l.at_m - start }));
    from += length;
    return cutDuct(part, own, (spreadK * length) / whole, walls, cell_m);
  });
}
