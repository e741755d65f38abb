import { CHOKED_X2, headOfSquare } from './duct';

/**
 * Flow that comes in pulses through one section: one cylinder's own throttle. Its flow is a half-sine over the induction
 * event, cut where the section chokes, and what it loses is the mean of the head over the cycle. Airflow basis §8, §11.
 *
 * With y the mean flow during the event over the choked flow, the mean head during the event over p₀ is one function G(y),
 * whatever the section: it is worked out once, by quadrature, and read from a table after that.
 */

/** Abscissae and weights of Gauss and Legendre on 0…1, found by Newton from Chebyshev's guess. */
function gaussLegendre(n: number): { readonly x: readonly number[]; readonly w: readonly number[] } {
  const x: number[] = [];
  const w: number[] = [];
  for (let i = 1; i <= n; i += 1) {
    let z = Math.cos((Math.PI * (i - 0.25)) / (n + 0.5));
    let slope = 1;
    for (let k = 0; k < 20; k += 1) {
      let p = 1;
      let before = 0;
      for (let j = 1; j <= n; j += 1) [p, before] = [((2 * j - 1) * z * p - (j - 1) * before) / j, p];
      slope = (n * (z * p - before)) / (z * z - 1);
      z -= p / slope;
    }
    x.push(0.5 * (1 - z));
    w.push(1 / ((1 - z * z) * slope * slope));
  }
  return { x, w };
}

const NODES = gaussLegendre(24);
/** Head over p₀ at M = 1. */
const CHOKED_HEAD = 1 - 1.2 ** -3.5;
/** Mean of a half-sine that just reaches the choked flow, over the choked flow. */
const UNCUT = 2 / Math.PI;

/** Phase, rad, at which a half-sine whose mean is `y` of the choked flow runs into it: y = (2/π)(tan(φ/2) + π/2 − φ). */
function cutPhase(y: number): number {
  let low = 0;
  let high = Math.PI / 2;
  for (let i = 0; i < 60; i += 1) {
    const middle = 0.5 * (low + high);
    if ((2 / Math.PI) * (Math.tan(middle / 2) + Math.PI / 2 - middle) > y) low = middle;
    else high = middle;
  }
  return 0.5 * (low + high);
}

/**
 * Mean head over an event, over p₀, of a half-sine of mean flow `y` (of the choked flow), cut where it chokes; NaN beyond 1.
 * Exact but for the quadrature's 1e-12.
 */
function pulseHeadExactly(y: number): number {
  if (!(y <= 1)) return NaN;
  const cut = y > UNCUT ? cutPhase(y) : Math.PI / 2;
  const top = y > UNCUT ? 1 / Math.sin(cut) : y / UNCUT;
  let sum = 0;
  // Close to M = 1 the head rises as a root: in t with φ = cut·(1 − t²) it is smooth.
  NODES.x.forEach((t, i) => {
    const flow = Math.min(1, top * Math.sin(cut * (1 - t * t)));
    const head = flow >= 1 ? CHOKED_HEAD : headOfSquare(flow * flow * CHOKED_X2);
    sum += NODES.w[i]! * 2 * cut * t * (Number.isNaN(head) ? CHOKED_HEAD : head);
  });
  return (2 / Math.PI) * (sum + (Math.PI / 2 - cut) * CHOKED_HEAD);
}

const STEPS = 2048;
let table: Float64Array | null = null;
const tabled = (): Float64Array => {
  // One step beyond either end, for the slopes there: G is even in y, and beyond 1 it goes on as it ends.
  const out = Float64Array.from({ length: STEPS + 3 }, (_, i) => pulseHeadExactly(Math.min(1, Math.abs(i - 1) / STEPS)));
  out[STEPS + 2] = 2 * out[STEPS + 1]! - out[STEPS]!;
  return out;
};

/**
 * Head lost on the mean over a cycle, over p₀, of a flow that comes over a share of the cycle. `X` is that of the mean flow
 * over the cycle, (ṁ·√(R_d·T₀)/(A·p₀))²/γ. NaN where even a pulse as square as choking makes it does not pass the flow.
 */
export function pulseHead(X: number, eventShare: number): number {
  const y = Math.sqrt(X / CHOKED_X2) / eventShare;
  if (!(y < 1)) return NaN;
  table ??= tabled();
  const at = y * STEPS;
  const i = Math.floor(at);
  const t = at - i;
  const [a, b, c, d] = [table[i]!, table[i + 1]!, table[i + 2]!, table[i + 3]!];
  // Catmull and Rom's cubic: slopes by the neighbours.
  return eventShare * (b + 0.5 * t * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a))));
}
