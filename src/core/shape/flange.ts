import { failure, type Failure } from '../failure';

export interface Point {
  readonly x_m: number;
  readonly y_m: number;
}

/** Where a flange's holes sit, as it was entered, about the pattern's own centre. Metres, radians; x right, y up, looking at the face. */
export type HolePattern =
  | { readonly kind: 'pair'; readonly span_m: number; readonly angle_rad: number }
  | { readonly kind: 'rectangle'; readonly width_m: number; readonly height_m: number }
  /** Two holes on a base line `baseBelow_m` under the centre, one above the middle of it. */
  | { readonly kind: 'triangle'; readonly base_m: number; readonly height_m: number; readonly baseBelow_m: number }
  | { readonly kind: 'circle'; readonly diameter_m: number; readonly count: number; readonly start_rad: number }
  | { readonly kind: 'free'; readonly holes: readonly Point[] };

export type Opening =
  | { readonly shape: 'round'; readonly bore_m: number }
  | { readonly shape: 'oval'; readonly width_m: number; readonly height_m: number }
  | { readonly shape: 'twin'; readonly bore_m: number; readonly spacing_m: number };

/** A face that bolts to another: holes, opening, and the plate they are in. The opening's centre is the origin. */
export interface Flange {
  readonly pattern: HolePattern;
  /** Diameter of the holes, m. */
  readonly hole_m: number;
  readonly opening: Opening;
  /** The pattern's centre as seen from the opening's, m. */
  readonly offset?: Point | undefined;
  /** How far the flange is turned, rad, counter-clockwise. */
  readonly clock_rad?: number | undefined;
  /** Outline of the plate, a rectangle about the pattern's centre; not known: null. */
  readonly plate?: { readonly width_m: number; readonly height_m: number } | null | undefined;
}

const turn = ({ x_m, y_m }: Point, by: number): Point => ({
  x_m: x_m * Math.cos(by) - y_m * Math.sin(by),
  y_m: x_m * Math.sin(by) + y_m * Math.cos(by),
});

/** Holes about the pattern's own centre, m. */
export function patternHoles(p: HolePattern): Point[] {
  switch (p.kind) {
    case 'pair':
      return [1, -1].map((side) => turn({ x_m: (side * p.span_m) / 2, y_m: 0 }, p.angle_rad));
    case 'rectangle':
      return [
        [1, 1],
        [-1, 1],
        [-1, -1],
        [1, -1],
      ].map(([x, y]) => ({ x_m: (x! * p.width_m) / 2, y_m: (y! * p.height_m) / 2 }));
    case 'triangle':
      return [
        { x_m: 0, y_m: p.height_m - p.baseBelow_m },
        { x_m: -p.base_m / 2, y_m: -p.baseBelow_m },
        { x_m: p.base_m / 2, y_m: -p.baseBelow_m },
      ];
    case 'circle':
      return Array.from({ length: p.count }, (_, i) => turn({ x_m: p.diameter_m / 2, y_m: 0 }, p.start_rad + (2 * Math.PI * i) / p.count));
    case 'free':
      return [...p.holes];
  }
}

/** Holes as they lie about the opening's centre, the flange turned and its pattern off the middle as it is, m. */
export function flangeHoles(f: Flange): Point[] {
  const { x_m, y_m } = f.offset ?? { x_m: 0, y_m: 0 };
  return patternHoles(f.pattern).map((h) => turn({ x_m: h.x_m + x_m, y_m: h.y_m + y_m }, f.clock_rad ?? 0));
}

/** Distance, m, from a point to the opening's edge; below zero inside it. The opening turns with its flange. */
export function fromOpening(f: Flange, at: Point): number {
  const { x_m: x, y_m: y } = turn(at, -(f.clock_rad ?? 0));
  switch (f.opening.shape) {
    case 'round':
      return Math.hypot(x, y) - f.opening.bore_m / 2;
    case 'oval': {
      const r = f.opening.height_m / 2;
      const straight = Math.max(0, (f.opening.width_m - f.opening.height_m) / 2);
      return Math.hypot(Math.max(0, Math.abs(x) - straight), y) - r;
    }
    case 'twin':
      return Math.hypot(Math.abs(x) - f.opening.spacing_m / 2, y) - f.opening.bore_m / 2;
  }
}

/** Thinnest metal between the opening and any hole, m; below zero where they run into one another. */
export function thinnestWall(f: Flange): number {
  return Math.min(...flangeHoles(f).map((h) => fromOpening(f, h) - f.hole_m / 2));
}

const openingReach = (o: Opening): { width_m: number; height_m: number } =>
  o.shape === 'round'
    ? { width_m: o.bore_m, height_m: o.bore_m }
    : o.shape === 'oval'
      ? o
      : { width_m: o.bore_m + o.spacing_m, height_m: o.bore_m };

/** Why a flange cannot be, or null. Codes: size_not_positive, hole_count, holes_overlap, hole_in_opening, off_the_plate, opening_over_plate. */
export function flangeFailure(f: Flange): Failure | null {
  const reach = openingReach(f.opening);
  if (!(f.hole_m > 0) || !(reach.width_m > 0) || !(reach.height_m > 0)) return failure('bad_geometry', { reason: 'size_not_positive' });
  const holes = flangeHoles(f);
  if (holes.length < 2 || holes.length > 12) return failure('bad_geometry', { reason: 'hole_count' });
  if (!holes.every((h) => Number.isFinite(h.x_m) && Number.isFinite(h.y_m)))
    return failure('bad_geometry', { reason: 'size_not_positive' });
  for (let i = 0; i < holes.length; i += 1)
    for (let k = 0; k < i; k += 1) {
      const apart = Math.hypot(holes[i]!.x_m - holes[k]!.x_m, holes[i]!.y_m - holes[k]!.y_m);
      if (apart <= f.hole_m) return failure('bad_geometry', { reason: 'holes_overlap', facts: { span_m: apart, holes_m: f.hole_m } });
    }
  const wall = thinnestWall(f);
  if (wall < 0) return failure('bad_geometry', { reason: 'hole_in_opening', facts: { wall_m: wall } });
  if (!f.plate) return null;
  const { width_m, height_m } = f.plate;
  const { x_m, y_m } = f.offset ?? { x_m: 0, y_m: 0 };
  if (reach.width_m / 2 + Math.abs(x_m) > width_m / 2 || reach.height_m / 2 + Math.abs(y_m) > height_m / 2)
    return failure('bad_geometry', { reason: 'opening_over_plate' });
  const off = patternHoles(f.pattern).some(
    (h) => Math.abs(h.x_m) + f.hole_m / 2 > width_m / 2 || Math.abs(h.y_m) + f.hole_m / 2 > height_m / 2,
  );
  return off ? failure('bad_geometry', { reason: 'off_the_plate' }) : null;
}
