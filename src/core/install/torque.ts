import type { Point } from '../shape/flange';
import type { ThreadedIn } from '../documents/kinds';

/** Cautious tightening torque where the maker's figure is not at hand, N·m: ours, well under what the thread bears. */
const DEFAULT_Nm: Readonly<Record<string, Readonly<Record<ThreadedIn, number>>>> = {
  M4: { steel: 2.5, aluminium: 2, 'plastic insert': 1.5 },
  M5: { steel: 5, aluminium: 4, 'plastic insert': 3 },
  M6: { steel: 9, aluminium: 7.5, 'plastic insert': 5 },
  M8: { steel: 20, aluminium: 16, 'plastic insert': 10 },
  M10: { steel: 38, aluminium: 30, 'plastic insert': 18 },
};

export interface TorquePlan {
  /** Indices of the holes in the order they are tightened. */
  readonly order: readonly number[];
  /** Torque of each round, N·m; the last is the final one. Empty: no figure for this bolt, the maker's is needed. */
  readonly rounds_Nm: readonly number[];
  readonly from: 'maker' | 'default' | 'none';
}

/** Share of the final torque in each round. */
const ROUNDS = [0.3, 0.65, 1];

/**
 * Cross order: each next bolt is the one farthest from all that were just tightened, the last of them counting most. Begins
 * with the first hole; on a ring of four that is 1, 3, 2, 4.
 */
export function crossOrder(holes: readonly Point[]): number[] {
  if (holes.length === 0) return [];
  const order = [0];
  const left = new Set(holes.map((_, i) => i).slice(1));
  const apart = (a: number, b: number): number => Math.hypot(holes[a]!.x_m - holes[b]!.x_m, holes[a]!.y_m - holes[b]!.y_m);
  while (left.size > 0) {
    const last = order.at(-1)!;
    const before = order.at(-2);
    let next = -1;
    let most = -Infinity;
    for (const i of left) {
      const away = apart(last, i) + (before === undefined ? 0 : 0.25 * apart(before, i));
      // A hair more than rounding, so that of equals the lower number comes first.
      if (away > most + 1e-9) {
        most = away;
        next = i;
      }
    }
    order.push(next);
    left.delete(next);
  }
  return order;
}

/** Order, rounds and figure for a flange's bolts: the maker's torque where it was entered, else a cautious one by size and thread. */
export function torquePlan(holes: readonly Point[], bolt: string, into: ThreadedIn, maker_Nm: number | null): TorquePlan {
  const order = crossOrder(holes);
  const fallback = DEFAULT_Nm[bolt]?.[into] ?? null;
  const final = maker_Nm !== null && maker_Nm > 0 ? maker_Nm : fallback;
  if (final === null) return { order, rounds_Nm: [], from: 'none' };
  const half = (x: number): number => Math.round(x * 2) / 2;
  return {
    order,
    rounds_Nm: ROUNDS.map((share) => (share === 1 ? final : half(share * final))),
    from: final === maker_Nm ? 'maker' : 'default',
  };
}
