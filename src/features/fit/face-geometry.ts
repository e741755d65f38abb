import { gasketOpening, manifoldFace, manifoldOpening, openingOf } from '@/core/documents/faces';
import type { JobDoc } from '@/core/documents/job';
import { boltDiameter } from '@/core/documents/kinds';
import type { UnitDoc } from '@/core/documents/unit';
import { clockedFace, lipOf } from '@/core/fit/facts';
import { boltPlay, matchPatterns } from '@/core/fit/pattern-match';
import { flangeHoles, type Flange, type Opening, type Point } from '@/core/shape/flange';

// The drawing's sheet, px.
export const W = 760;
export const H = 500;
export const MID_X = 300;
export const MID_Y = 238;
const ROOM = 208;

/** Edge of an opening as an SVG path about the middle, to scale `k` px a metre, y up. */
export function openingPath(o: Opening, clock: number, k: number, at: Point = { x_m: 0, y_m: 0 }): string {
  const X = (x: number): number => MID_X + (x + at.x_m) * k;
  const Y = (y: number): number => MID_Y - (y + at.y_m) * k;
  const ring = (x: number, y: number, r: number): string => {
    const R = r * k;
    return `M${X(x) - R} ${Y(y)} a${R} ${R} 0 1 0 ${2 * R} 0 a${R} ${R} 0 1 0 ${-2 * R} 0Z`;
  };
  if (o.shape === 'round') return ring(0, 0, o.bore_m / 2);
  const half = (o.shape === 'twin' ? o.spacing_m : Math.max(0, o.width_m - o.height_m)) / 2;
  const [c, s] = [Math.cos(clock), Math.sin(clock)];
  if (o.shape === 'twin') return [1, -1].map((e) => ring(e * half * c, e * half * s, o.bore_m / 2)).join(' ');
  const r = o.height_m / 2;
  const p = (e: number, side: number): string => `${X(e * half * c - side * r * s)} ${Y(e * half * s + side * r * c)}`;
  const R = r * k;
  return `M${p(1, 1)} L${p(-1, 1)} A${R} ${R} 0 0 0 ${p(-1, -1)} L${p(1, -1)} A${R} ${R} 0 0 0 ${p(1, 1)}Z`;
}

/** Outline of a flange's plate, turned with it; null: not measured. */
export function platePath(f: Flange, k: number): string | null {
  if (!f.plate) return null;
  const clock = f.clock_rad ?? 0;
  const { x_m, y_m } = f.offset ?? { x_m: 0, y_m: 0 };
  const corner = (sx: number, sy: number): string => {
    const x = x_m + (sx * f.plate!.width_m) / 2;
    const y = y_m + (sy * f.plate!.height_m) / 2;
    return `${MID_X + (x * Math.cos(clock) - y * Math.sin(clock)) * k} ${MID_Y - (x * Math.sin(clock) + y * Math.cos(clock)) * k}`;
  };
  return `M${corner(1, 1)} L${corner(-1, 1)} L${corner(-1, -1)} L${corner(1, -1)}Z`;
}

export const reachOf = (o: Opening): number =>
  (o.shape === 'round' ? o.bore_m : o.shape === 'twin' ? o.bore_m + o.spacing_m : o.width_m) / 2;
/** How far a flange reaches from the bore’s middle, however it is turned if it turns freely. */
function faceReach(f: Flange | null, free: boolean): number {
  if (!f) return 0;
  const off = Math.hypot(f.offset?.x_m ?? 0, f.offset?.y_m ?? 0);
  const { width_m, height_m } = f.plate ?? { width_m: 0, height_m: 0 };
  const plate = off + (free ? Math.hypot(width_m, height_m) : Math.max(width_m, height_m)) / 2;
  const holes = flangeHoles(f).map((h) => (free ? Math.hypot(h.x_m, h.y_m) : Math.max(Math.abs(h.x_m), Math.abs(h.y_m))) + f.hole_m);
  return Math.max(plate, ...holes);
}

export type FittedCar = Pick<JobDoc, 'car' | 'fit' | 'pick'>;

/** Everything that is drawn of a throttle on a manifold, turned as it is, with the scale it is drawn to. */
export function faceScene(doc: FittedCar, unit: UnitDoc, clock_rad: number) {
  const { stock } = doc.car;
  const { adapter } = doc.fit.mounting;
  const base = manifoldFace(stock);
  const top = clockedFace(unit, clock_rad);
  const opening = openingOf(unit.throttle);
  const hole = manifoldOpening(stock);
  const seal = gasketOpening(stock);
  const free = unit.flange?.clocking === 'free';
  const reach = Math.max(reachOf(opening), reachOf(hole), reachOf(seal), faceReach(base, false), faceReach(top, free));
  const k = ROOM / reach;
  return {
    base,
    top,
    opening,
    hole,
    seal,
    adapter,
    clock_rad,
    /** What air meets first behind the throttle. */
    narrow: stock.gasketOpening_m < stock.manifoldOpening_m ? seal : hole,
    lip: lipOf(doc, unit, clock_rad),
    match: base && top && !adapter ? matchPatterns(top, base, 'as it is') : null,
    play: unit.flange && stock.flange ? boltPlay(unit.flange.hole_m, boltDiameter(stock.flange.bolt)) : 0,
    /** Px a metre. */
    k,
    X: (p: Point): number => MID_X + p.x_m * k,
    Y: (p: Point): number => MID_Y - p.y_m * k,
  };
}
export type FaceScene = ReturnType<typeof faceScene>;
