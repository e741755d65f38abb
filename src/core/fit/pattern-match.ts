import { flangeHoles, type Flange, type Point } from '../shape/flange';

export type Clocking = 'as it is' | 'quarter turns' | 'free';

export interface PatternMatch {
  /** How far the throttle is turned from how it was entered, rad. */
  readonly turn_rad: number;
  /** For each hole of the throttle the base's hole it goes on. */
  readonly onto: readonly number[];
  /** Distance between the centres of each pair, m. */
  readonly off_m: readonly number[];
  readonly worst_m: number;
}

const turned = (p: Point, by: number): Point => ({
  x_m: p.x_m * Math.cos(by) - p.y_m * Math.sin(by),
  y_m: p.x_m * Math.sin(by) + p.y_m * Math.cos(by),
});

/** Every hole of one on a hole of the other, in order round the middle: the only ways that do not cross. */
function assignments(unit: readonly Point[], base: readonly Point[]): number[][] {
  const round = (list: readonly Point[]): number[] =>
    list.map((_, i) => i).sort((a, b) => Math.atan2(list[a]!.y_m, list[a]!.x_m) - Math.atan2(list[b]!.y_m, list[b]!.x_m));
  const u = round(unit);
  const b = round(base);
  return b.map((_, shift) => {
    const onto = new Array<number>(u.length);
    u.forEach((hole, i) => (onto[hole] = b[(i + shift) % b.length]!));
    return onto;
  });
}

/** The turn about the bore's centre that brings the throttle's holes closest to theirs (least squares, in closed form). */
function bestTurn(unit: readonly Point[], base: readonly Point[], onto: readonly number[]): number {
  let dot = 0;
  let cross = 0;
  unit.forEach((p, i) => {
    const q = base[onto[i]!]!;
    dot += p.x_m * q.x_m + p.y_m * q.y_m;
    cross += p.x_m * q.y_m - p.y_m * q.x_m;
  });
  return Math.atan2(cross, dot);
}

const QUARTERS = [0, Math.PI / 2, Math.PI, -Math.PI / 2];

/**
 * How a unit's holes meet those it bolts to, both about the bore's centre, turned as far as its housing allows. The best
 * way of all is returned; null where the numbers of holes differ.
 */
export function matchPatterns(unit: Flange, base: Flange, clocking: Clocking): PatternMatch | null {
  const u = flangeHoles(unit);
  const b = flangeHoles(base);
  if (u.length !== b.length) return null;
  let best: PatternMatch | null = null;
  for (const onto of assignments(u, b)) {
    const turns = clocking === 'free' ? [bestTurn(u, b, onto)] : clocking === 'quarter turns' ? QUARTERS : [0];
    for (const turn_rad of turns) {
      const off_m = u.map((p, i) => {
        const at = turned(p, turn_rad);
        const q = b[onto[i]!]!;
        return Math.hypot(at.x_m - q.x_m, at.y_m - q.y_m);
      });
      const worst_m = Math.max(...off_m);
      // Of equal ways the one that turns least.
      if (!best || worst_m < best.worst_m - 1e-9 || (worst_m < best.worst_m + 1e-9 && Math.abs(turn_rad) < Math.abs(best.turn_rad)))
        best = { turn_rad, onto, off_m, worst_m };
    }
  }
  return best;
}

/** How far hole centres may be apart for a bolt to pass both: half of what the clearance hole has over the bolt, m. */
export const boltPlay = (hole_m: number, bolt_m: number): number => Math.max(0, (hole_m - bolt_m) / 2);
