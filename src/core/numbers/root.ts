/**
 * Bracketed root of a function that falls through zero and may have no value beyond some point.
 *
 * Anderson–Björck false position (BIT 13, 1973) with a bisection whenever three steps together have not halved the
 * bracket, so that it is superlinear on smooth functions and never slower than a third of bisection. A NaN from `f`
 * means "beyond what is possible" and counts as below zero, so a choked duct bounds the search from above.
 */
export interface Root {
  readonly x: number;
  readonly residual: number;
  readonly iterations: number;
  /** `wall`: the bracket closed on the edge of the possible with `f` still above zero there: no root. */
  readonly stopped: 'converged' | 'wall' | 'iterations';
}

/** Relative width of the bracket at which a root counts as found: 1e-12 leaves two digits beyond the 1e-10 asked for. */
const ROOT_RELATIVE_TOLERANCE = 1e-12;
/** Residuals this small against the scale of x are the noise of the function itself. */
const RESIDUAL_NOISE = 4e-16;
/** A bracket that closed on a wall has a root there only if what is left is rounding. */
const WALL_RESIDUAL = 1e-9;
const MAX_ITERATIONS = 200;

/**
 * Root of `f` between `above` (f > 0) and `below` (f < 0, or NaN: not possible).
 * The caller vouches for the signs; a finite value of the wrong sign is a RangeError.
 */
export function fallingRoot(f: (x: number) => number, above: number, below: number, relativeTolerance = ROOT_RELATIVE_TOLERANCE): Root {
  const fa = f(above);
  const fb = f(below);
  if (!(fa >= 0)) throw new RangeError('the upper end of the bracket is not above zero');
  if (fb > 0) throw new RangeError('the lower end of the bracket is not below zero');
  return closeIn(f, above, below, fa, fb, relativeTolerance);
}

/** The search itself, with the ends' values already known: a solve is all function calls. */
function closeIn(f: (x: number) => number, above: number, below: number, fAbove: number, fBelow: number, relativeTolerance: number): Root {
  let a = above;
  let b = below;
  let fa = fAbove;
  let fb = fBelow;
  if (fa === 0) return { x: a, residual: 0, iterations: 0, stopped: 'converged' };
  let widthThreeAgo = Math.abs(b - a);
  for (let i = 1; i <= MAX_ITERATIONS; i += 1) {
    const width = Math.abs(b - a);
    const scale = Math.max(Math.abs(a), Math.abs(b));
    if (width <= relativeTolerance * scale) {
      const wall = Number.isNaN(fb) && fa > WALL_RESIDUAL * scale;
      return { x: a, residual: fa, iterations: i, stopped: wall ? 'wall' : 'converged' };
    }
    const stuck = i % 3 === 0 && width > 0.5 * widthThreeAgo;
    if (i % 3 === 0) widthThreeAgo = width;
    const bisect = Number.isNaN(fb) || stuck;
    const x = bisect ? 0.5 * (a + b) : b - (fb * (b - a)) / (fb - fa);
    const fx = f(x);
    // The chord's slope turns the residual into a distance: often long before the bracket itself has closed.
    const slope = Number.isNaN(fb) ? 0 : Math.abs((fb - fa) / (b - a));
    const near = Math.abs(fx) <= relativeTolerance * Math.abs(x) * slope;
    if (near || Math.abs(fx) <= RESIDUAL_NOISE * Math.abs(x)) return { x, residual: fx, iterations: i, stopped: 'converged' };
    if (fx > 0) {
      if (!bisect && !Number.isNaN(fb)) fb *= weight(fx, fa);
      a = x;
      fa = fx;
    } else {
      if (!bisect && fx < 0) fa *= weight(fx, fb);
      b = x;
      fb = fx;
    }
  }
  return { x: a, residual: fa, iterations: MAX_ITERATIONS, stopped: 'iterations' };
}

/** Anderson–Björck factor for the end that stays: 1 − f_new/f_replaced, or one half where that is not positive. */
function weight(fNew: number, fReplaced: number): number {
  const m = 1 - fNew / fReplaced;
  return m > 0 ? m : 0.5;
}

/**
 * Falling root near a guess: steps out from it in growing strides until the signs differ, then closes in.
 * Returns null when no change of sign lies between `lowest` and `highest`.
 */
export function fallingRootNear(
  f: (x: number) => number,
  guess: number,
  lowest: number,
  highest: number,
  firstStride = 0.01,
  relativeTolerance = ROOT_RELATIVE_TOLERANCE,
): Root | null {
  const f0 = f(guess);
  if (f0 === 0) return { x: guess, residual: 0, iterations: 0, stopped: 'converged' };
  let stride = firstStride;
  let near = guess;
  let fNear = f0;
  if (f0 > 0) {
    while (near < highest) {
      const far = Math.min(highest, near * (1 + stride));
      const fFar = f(far);
      if (!(fFar > 0)) return closeIn(f, near, far, fNear, fFar, relativeTolerance);
      near = far;
      fNear = fFar;
      stride *= 3;
    }
    return null;
  }
  while (near > lowest) {
    const far = Math.max(lowest, near * (1 - Math.min(0.9, stride)));
    const fFar = f(far);
    if (fFar >= 0) return closeIn(f, far, near, fFar, fNear, relativeTolerance);
    if (far <= guess * 1e-6) return null;
    near = far;
    fNear = fFar;
    stride *= 3;
  }
  return null;
}

const SECANT_STEPS = 9;
/** Relative distance at which a slope that is not known yet is probed. */
const SLOPE_PROBE = 1e-3;

export interface SecantRoot {
  readonly x: number;
  /** Slope at the root, for the next search nearby. */
  readonly slope: number;
}

/**
 * Root of a smooth falling function from a good guess and a fair slope (0: not known yet), found when
 * a relative step is below `step`: the quick way for a solve that walks from one
 * engine speed to the next. Returns null when it does not settle at once (no value there, or too far): then the
 * bracketed search decides. A function that falls everywhere has one root, so a settled secant is that root.
 */
export function secantRoot(f: (x: number) => number, guess: number, slope: number, step: number): SecantRoot | null {
  let x0 = guess;
  let f0 = f(x0);
  let s = slope;
  if (!(s < 0)) s = (f(x0 * (1 + SLOPE_PROBE)) - f0) / (x0 * SLOPE_PROBE);
  if (Number.isNaN(f0) || !(s < 0)) return null;
  for (let i = 0; i < SECANT_STEPS; i += 1) {
    const x1 = x0 - f0 / s;
    if (!(x1 > 0)) return null;
    if (Math.abs(x1 - x0) <= step * x1) return { x: x1, slope: s };
    const f1 = f(x1);
    if (Number.isNaN(f1)) return null;
    s = (f1 - f0) / (x1 - x0);
    if (!(s < 0)) return null;
    x0 = x1;
    f0 = f1;
  }
  return null;
}
