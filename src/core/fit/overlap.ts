import { failure, type Failure } from '../failure';
import type { Opening, Point } from '../shape/flange';

/** An opening where it lies: its middle, and how far it is turned. */
export interface Placed {
  readonly opening: Opening;
  readonly at?: Point | undefined;
  readonly clock_rad?: number | undefined;
}

type Span = readonly [from: number, to: number];

/** Rows a shared area is summed over: it then comes out to 1 in 10⁵. */
const ROWS = 1200;

const disc = (x: number, y: number, r: number, row: number): Span | null => {
  const h = r * r - (row - y) ** 2;
  return h > 0 ? [x - Math.sqrt(h), x + Math.sqrt(h)] : null;
};

/** Where a row meets a convex polygon. */
function polygon(points: readonly Point[], row: number): Span | null {
  let low = Infinity;
  let high = -Infinity;
  points.forEach((a, i) => {
    const b = points[(i + 1) % points.length]!;
    if (a.y_m === b.y_m || (row - a.y_m) * (row - b.y_m) > 0) return;
    const x = a.x_m + ((row - a.y_m) / (b.y_m - a.y_m)) * (b.x_m - a.x_m);
    low = Math.min(low, x);
    high = Math.max(high, x);
  });
  return high > low ? [low, high] : null;
}

/** Middles of the round ends of an opening, and their radius. */
function ends({ opening: o, at = { x_m: 0, y_m: 0 }, clock_rad = 0 }: Placed): { middles: Point[]; r_m: number } {
  const apart = o.shape === 'round' ? 0 : o.shape === 'twin' ? o.spacing_m : Math.max(0, o.width_m - o.height_m);
  const r_m = (o.shape === 'oval' ? Math.min(o.height_m, o.width_m) : o.bore_m) / 2;
  if (apart === 0) return { middles: [at], r_m };
  const x = (Math.cos(clock_rad) * apart) / 2;
  const y = (Math.sin(clock_rad) * apart) / 2;
  return {
    middles: [
      { x_m: at.x_m - x, y_m: at.y_m - y },
      { x_m: at.x_m + x, y_m: at.y_m + y },
    ],
    r_m,
  };
}

/** Where a row runs inside an opening, from left to right, not overlapping. */
function spans(p: Placed, row: number): Span[] {
  const { middles, r_m } = ends(p);
  const found = middles.map((m) => disc(m.x_m, m.y_m, r_m, row)).filter((s): s is Span => s !== null);
  if (p.opening.shape === 'oval' && middles.length === 2) {
    const [a, b] = middles as [Point, Point];
    const long = Math.hypot(b.x_m - a.x_m, b.y_m - a.y_m);
    const nx = (-(b.y_m - a.y_m) / long) * r_m;
    const ny = ((b.x_m - a.x_m) / long) * r_m;
    const middle = polygon(
      [
        { x_m: a.x_m + nx, y_m: a.y_m + ny },
        { x_m: b.x_m + nx, y_m: b.y_m + ny },
        { x_m: b.x_m - nx, y_m: b.y_m - ny },
        { x_m: a.x_m - nx, y_m: a.y_m - ny },
      ],
      row,
    );
    if (middle) found.push(middle);
  }
  found.sort((a, b) => a[0] - b[0]);
  const out: [number, number][] = [];
  for (const [from, to] of found) {
    const last = out.at(-1);
    if (last && from <= last[1]) last[1] = Math.max(last[1], to);
    else out.push([from, to]);
  }
  return out;
}

const common = (a: readonly Span[], b: readonly Span[]): number => {
  let sum = 0;
  for (const [f, t] of a) for (const [g, u] of b) sum += Math.max(0, Math.min(t, u) - Math.max(f, g));
  return sum;
};

export interface Overlap {
  /** Area both leave open to the air, m². */
  readonly both_m2: number;
  /** Metal in the way of the air: open in the first, shut in the second, m². */
  readonly lip_m2: number;
  /** Ledge behind it: open in the second only, m². */
  readonly ledge_m2: number;
}

/** Area of an opening by itself, m²: two round ends, what lies between them, less what twin bores share. */
function areaOf(p: Placed): number {
  const { middles, r_m } = ends(p);
  const disc_m2 = Math.PI * r_m * r_m;
  const [a, b] = middles;
  if (!a || !b) return disc_m2;
  const apart = Math.hypot(b.x_m - a.x_m, b.y_m - a.y_m);
  if (p.opening.shape === 'oval') return disc_m2 + 2 * r_m * apart;
  const half = Math.min(1, apart / (2 * r_m));
  const shared = 2 * r_m * r_m * (Math.acos(half) - half * Math.sqrt(1 - half * half));
  return 2 * disc_m2 - shared;
}

/**
 * How two openings lie on one another, the air coming through the first into the second. Offset and clocking count. Each area
 * by itself is exact; what they share is summed over the rows that both reach, close together towards the ends, where a round
 * edge falls away.
 */
export function overlapOf(first: Placed, second: Placed): Overlap | Failure {
  const reach = [first, second].map(ends);
  if (!reach.every((e) => e.r_m > 0)) return failure('bad_geometry', { reason: 'size_not_positive' });
  const low = Math.max(...reach.map((e) => Math.min(...e.middles.map((m) => m.y_m - e.r_m))));
  const high = Math.min(...reach.map((e) => Math.max(...e.middles.map((m) => m.y_m + e.r_m))));
  let both = 0;
  if (high > low) {
    const [middle, half] = [(low + high) / 2, (high - low) / 2];
    const step = Math.PI / ROWS;
    for (let i = 0; i < ROWS; i += 1) {
      const angle = (i + 0.5) * step - Math.PI / 2;
      const row = middle + half * Math.sin(angle);
      both += common(spans(first, row), spans(second, row)) * half * Math.cos(angle) * step;
    }
  }
  const [a, b] = [areaOf(first), areaOf(second)];
  both = Math.min(both, a, b);
  return { both_m2: both, lip_m2: a - both, ledge_m2: b - both };
}
