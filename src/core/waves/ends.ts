import { C_P, CHOKED_RATIO, CHOKED_ROOT, GAMMA, psiOfRoot, R_GAS } from './gas';

// Taken out of Math once: these run millions of times.
const { abs, max, min, sqrt } = Math;

/**
 * Ends of ducts. Each takes the state that the duct brings to its end and finds the pressure there by the wave that leaves
 * it, against what stands outside. Velocities are positive out of the duct. The unknown is w = (p/p_inside)^(1/7): with
 * γ = 1.4 the leaving wave is u = u_in + 5c(1 − w), the density ρw⁵ and the pressure p·w⁷, so that no power is taken.
 * Source: docs/basis/waves.md §3; docs/how-it-computes.md.
 */
export interface EndState {
  /** What the duct brings: density kg/m³, velocity out of it m/s, pressure Pa, speed of sound m/s. */
  rho: number;
  u: number;
  p: number;
  c: number;
  /** Least w that a leaving wave may carry to; 1 where gas came faster than its sound: nothing draws it out any faster. */
  least: number;
  /** What is found: mass out of the duct kg/s, its energy W, and the force of pressure and momentum on the end N. */
  massFlow: number;
  energyFlow: number;
  force: number;
  /** Static pressure at the end, Pa, and the velocity out of it, m/s. */
  pressure: number;
  velocity: number;
}

export const endState = (): EndState => ({
  rho: 0,
  u: 0,
  p: 0,
  c: 0,
  least: 0,
  massFlow: 0,
  energyFlow: 0,
  force: 0,
  pressure: 0,
  velocity: 0,
});

const seventh = (w: number): number => {
  const w2 = w * w;
  return w2 * w2 * w2 * w;
};
const fifth = (w: number): number => {
  const w2 = w * w;
  return w2 * w2 * w;
};
/** A root is found to this share of w: far below what the scheme between the ends knows. */
const CLOSE = 1e-11;
const MOST_STEPS = 60;

/** Flow out of the duct with the state that the leaving wave carries to w. */
function leave(s: EndState, area: number, w: number): void {
  const u = s.u + 5 * s.c * (1 - w);
  const p = s.p * seventh(w);
  const rho = s.rho * fifth(w);
  const flow = rho * u * area;
  s.massFlow = flow;
  s.energyFlow = flow * ((GAMMA / (GAMMA - 1)) * (p / rho) + (u * u) / 2);
  s.force = (rho * u * u + p) * area;
  s.pressure = p;
  s.velocity = u;
}

/** Flow into the duct with a stagnation temperature of its own: pressure and inward speed are known. */
function enter(s: EndState, area: number, p: number, inward: number, T0_K: number): void {
  const rho = p / (R_GAS * (T0_K - (inward * inward) / (2 * C_P)));
  const flow = rho * inward * area;
  s.massFlow = -flow;
  s.energyFlow = -flow * C_P * T0_K;
  s.force = (rho * inward * inward + p) * area;
  s.pressure = p;
  s.velocity = -inward;
}

/**
 * Gas that comes to an end faster than its sound hears nothing of it: a shock stands before it, and what is behind the shock, with
 * the same flows of mass, momentum and energy, meets the end. For γ = 1.4; Toro (2009), §3.1.3.
 */
export function behindShock(s: EndState): void {
  const mach2 = (s.u * s.u) / (s.c * s.c);
  s.least = s.u > 0 && mach2 > 1 ? 1 : 0;
  if (s.least === 0) return;
  const denser = (6 * mach2) / (mach2 + 5);
  s.p *= 1 + (7 / 6) * (mach2 - 1);
  s.rho *= denser;
  s.u /= denser;
  s.c = sqrt((GAMMA * s.p) / s.rho);
}

/** Closed end. */
export function wallEnd(s: EndState, area: number): void {
  const w = max(1 + s.u / (5 * s.c), 0.05);
  s.massFlow = 0;
  s.energyFlow = 0;
  s.pressure = s.p * seventh(w);
  s.force = s.pressure * area;
  s.velocity = 0;
}

/** w at which the leaving gas would reach the speed of sound. */
const sonicRoot = (s: EndState): number => (s.u + 5 * s.c) / (6 * s.c);

/** Open air of (pa, T): drawn in with the loss K of the edge on the mouth's own head, out at the outside's pressure. */
export function openAirEnd(s: EndState, area: number, pa: number, T_K: number, K: number): void {
  const wOut = (pa / s.p) ** (1 / 7);
  if (s.u + 5 * s.c * (1 - wOut) >= 0) {
    leave(s, area, max(wOut, sonicRoot(s), s.least));
    return;
  }
  const inwardAt = (w: number): number => -s.u - 5 * s.c * (1 - w);
  const supplyAt = (w: number): number => {
    const p = s.p * seventh(w);
    const ratio = (p * (1 + K)) / (pa + K * p);
    const held = ratio < CHOKED_RATIO ? CHOKED_RATIO : ratio;
    return held >= 1 ? 0 : sqrt(2 * C_P * T_K * (1 - held ** (2 / 7)));
  };
  // Between the outside's pressure, where nothing is supplied, and that at which the wave brings nothing in.
  const w = root(wOut, 1 + s.u / (5 * s.c), (x) => inwardAt(x) - supplyAt(x));
  enter(s, area, s.p * seventh(w), max(inwardAt(w), 0), T_K);
}

/** Root of a rising function between `hi` (f ≥ 0) and `lo` (f ≤ 0): false position, halved where one side stays (Illinois). */
function root(hi: number, lo: number, f: (x: number) => number): number {
  let b = hi;
  let a = lo;
  let fb = f(b);
  let fa = f(a);
  if (fb <= 0) return b;
  if (fa >= 0) return a;
  let kept = 0;
  for (let i = 0; i < MOST_STEPS; i += 1) {
    const x = (a * fb - b * fa) / (fb - fa);
    const fx = f(x);
    if (fx === 0 || abs(b - a) < CLOSE) return x;
    if (fx > 0) {
      if (abs(b - x) < CLOSE) return x;
      b = x;
      fb = fx;
      if (kept === 1) fa /= 2;
      kept = 1;
    } else {
      if (abs(a - x) < CLOSE) return x;
      a = x;
      fa = fx;
      if (kept === -1) fb /= 2;
      kept = -1;
    }
  }
  return (a * fb - b * fa) / (fb - fa);
}

/**
 * Opening into a volume at (pv, Tv). Into the duct: a nozzle of `areaIn`, whose jet's head is lost in the duct (stagnation
 * enthalpy kept, static pressure at the full area), at the speed of sound at most. Out of it: a nozzle of `areaOut` from the duct's stagnation state.
 */
export function volumeEnd(s: EndState, area: number, pv: number, Tv: number, areaIn: number, areaOut: number): void {
  const q = (s.p / pv) ** (1 / 7);
  const wv = 1 / q;
  const wWall = 1 + s.u / (5 * s.c);
  if (s.u + 5 * s.c * (1 - wv) >= 0) {
    if (areaOut <= 0) return wallEnd(s, area);
    const nozzle = min(areaOut, area);
    const low = max(wv, sonicRoot(s), s.least);
    const w = root(low, wWall, (x) => {
      const u = s.u + 5 * s.c * (1 - x);
      const c = s.c * x;
      const T0 = 1 + (0.2 * u * u) / (c * c);
      const T = T0 ** 0.5;
      // Both sides over p*·A: what the wave carries, and what the nozzle passes from the stagnation state.
      const carried = (GAMMA * u) / (c * c);
      return carried - ((nozzle / area) * T0 ** 3 * psiOfRoot(1 / (q * x * T)) * sqrt(GAMMA)) / c;
    });
    return leave(s, area, w);
  }
  if (areaIn <= 0) return wallEnd(s, area);
  const G0 = ((min(areaIn, area) / area) * pv) / sqrt(R_GAS * Tv);
  const speedAt = (x: number): number => {
    const G = G0 * psiOfRoot(q * x < CHOKED_ROOT ? CHOKED_ROOT : q * x);
    if (G <= 0) return 0;
    const p = s.p * seventh(x);
    const g = G * R_GAS;
    // ρu = G with T = Tv − u²/2c_p at the pressure p: the positive root, in a form that keeps small speeds exact.
    return (2 * g * Tv) / (p + sqrt(p * p + (2 * g * g * Tv) / C_P));
  };
  const inwardAt = (x: number): number => -s.u - 5 * s.c * (1 - x);
  // No gas comes in faster than its own sound: what expands further does so in the duct, and no wave from there comes back.
  const sonic = sqrt((2 * C_P * Tv) / 6);
  const w = -s.u < s.c ? root(wv, wWall, (x) => inwardAt(x) - speedAt(x)) : 0;
  const inward = w > 0 ? max(inwardAt(w), 0) : sonic;
  if (w > 0 && inward <= sonic) return enter(s, area, s.p * seventh(w), inward, Tv);
  enter(s, area, (G0 * psiOfRoot(CHOKED_ROOT) * R_GAS * Tv) / (1.2 * sonic), sonic, Tv);
}

/**
 * Two ducts of unequal area, end to end: equal mass flow and stagnation enthalpy, the stagnation pressure falling by K times
 * the head of the smaller side. `widening` and `narrowing` are K by the direction of flow, seen from the smaller side and
 * from the larger.
 */
export function jointEnd(a: EndState, areaA: number, b: EndState, areaB: number, widening: number, narrowing: number): void {
  const wallA = a.p * seventh(1 + a.u / (5 * a.c));
  const wallB = b.p * seventh(1 + b.u / (5 * b.c));
  const fromA = wallA >= wallB;
  const up = fromA ? a : b;
  const down = fromA ? b : a;
  const upArea = fromA ? areaA : areaB;
  const downArea = fromA ? areaB : areaA;
  const widens = downArea >= upArea;
  const K = widens ? widening : narrowing;
  let p2 = 0;
  let u2 = 0;
  let T0 = 0;
  const f = (w: number): number => {
    const u = up.u + 5 * up.c * (1 - w);
    const rho = up.rho * fifth(w);
    const c = up.c * w;
    const p = up.p * seventh(w);
    const mach2 = (u * u) / (c * c);
    T0 = (c * c * (1 + 0.2 * mach2)) / (GAMMA * R_GAS);
    const p0 = p * (1 + 0.2 * mach2) ** 3.5 - (widens ? (K * rho * u * u) / 2 : 0);
    const G = (rho * u * upArea) / downArea;
    // The downstream speed by Newton on G = p0/(R·T0)·u·τ^2.5, its own head's loss in p0 where it is the smaller side.
    const limit = sqrt((2 * C_P * T0) / 6);
    u2 = G > 0 ? min((G * R_GAS * T0) / p0, limit) : 0;
    for (let i = 0; i < 30 && u2 > 0; i += 1) {
      const tau = 1 - (u2 * u2) / (2 * C_P * T0);
      const t25 = tau * tau * sqrt(tau);
      const loss = widens ? 0 : (K * u2 * u2 * t25) / (2 * R_GAS * T0);
      const g = ((p0 / (1 + loss)) * u2 * t25) / (R_GAS * T0);
      const slope = g * (1 / u2 - (5 * u2) / (2 * C_P * T0 * tau) - (loss / (1 + loss)) * (2 / u2 - (5 * u2) / (2 * C_P * T0 * tau)));
      const next = slope > 0 ? min(max(u2 + (G - g) / slope, 0), limit) : limit;
      const done = abs(next - u2) <= 1e-12 * limit;
      u2 = next;
      if (done) break;
    }
    const tau = 1 - (u2 * u2) / (2 * C_P * T0);
    const loss = widens ? 0 : (K * u2 * u2 * tau * tau * sqrt(tau)) / (2 * R_GAS * T0);
    p2 = (p0 / (1 + loss)) * tau ** 3.5;
    // What the wave that leaves downstream would carry in at that pressure, against what comes.
    return -(down.u + 5 * down.c * (1 - (p2 / down.p) ** (1 / 7))) - u2;
  };
  const wall = 1 + up.u / (5 * up.c);
  // From nothing flowing (the downstream wave would take more) down to where it takes less: f falls with the flow.
  if (f(wall) <= 0) {
    wallEnd(a, areaA);
    wallEnd(b, areaB);
    return;
  }
  const w = root(wall, max(sonicRoot(up), up.least), f);
  f(w);
  leave(up, upArea, w);
  enter(down, downArea, p2, u2, T0);
  // Both sides carry the very same: what enters is what left.
  down.massFlow = -up.massFlow;
  down.energyFlow = -up.energyFlow;
}
