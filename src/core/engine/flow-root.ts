import { fallingRootNear, secantRoot } from '../numbers/root';

/** A relative step this small leaves an error of its own contraction, far below the 1e-10 that a flow is asked to. */
export const FULL_STEP = 1e-9;
/** What an uncertainty run asks of a flow: errors of some 1e-8, far below what its draws differ by. */
export const QUICK_STEP = 1e-5;

/**
 * Walks a search from one engine speed to the next. The candidate's flow over the reference's is smooth in rpm, so the
 * last three of them, carried on as a parabola, say where the next one is to one part in some hundred thousand, and the
 * slope found last is still true enough for a first step.
 */
export class FlowSearch {
  private slope = 0;
  private r1 = NaN;
  private r2 = NaN;
  private r3 = NaN;
  /** Largest flow of this solve's path, kg/s, once it is known: then a choking engine speed needs no search. */
  capacity_kgps: number | null = null;

  constructor(private readonly step: number = FULL_STEP) {}

  /** Share of the base flow expected at the next engine speed. */
  private expected(): number {
    if (Number.isNaN(this.r1)) return 1;
    if (Number.isNaN(this.r2)) return this.r1;
    if (Number.isNaN(this.r3)) return 2 * this.r1 - this.r2;
    return 3 * (this.r1 - this.r2) + this.r3;
  }

  /** Flow at which `surplus` falls through zero, near the share expected of `base`; NaN: it ends on a wall, or has none. */
  root(surplus: (x: number) => number, base: number): number {
    const share = this.expected();
    const x = this.search(surplus, base * (share > 0 ? share : 1));
    this.r3 = this.r2;
    this.r2 = this.r1;
    this.r1 = x / base;
    return x;
  }

  /**
   * The point at which `surplus` falls through zero, searched for as `root` does; null: a wall, or none. A search that was
   * asked for less than the full step takes the last point it looked at where that is within the step, moved to the root
   * by `settle` so that what is left is of second order.
   */
  point<P>(
    at: (x: number) => P | null,
    surplus: (point: P, x: number) => number,
    base: number,
    settle: (near: P, x: number) => P,
  ): P | null {
    let seen: P | null = null;
    let seenAt = NaN;
    const x = this.root((y) => {
      seen = at(y);
      seenAt = y;
      return seen === null ? NaN : surplus(seen, y);
    }, base);
    if (Number.isNaN(x)) return null;
    return this.step > FULL_STEP && Math.abs(seenAt - x) <= this.step * x && seen !== null ? settle(seen, x) : at(x);
  }

  private search(surplus: (x: number) => number, guess: number): number {
    const quick = secantRoot(surplus, guess, this.slope, this.step);
    if (quick) {
      this.slope = quick.slope;
      return quick.x;
    }
    this.slope = 0;
    const root = fallingRootNear(surplus, guess, 0, guess * BRACKET);
    return root === null || root.stopped === 'wall' ? NaN : root.x;
  }
}

/** Flow is bracketed up to this many times the guess. */
const BRACKET = 100;
