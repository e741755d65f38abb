import { normalCdf, normalCdfBy, ROOT_TWO_PI } from '../numbers/normal';

/** A mixture of normals: weights that sum to one, means, standard deviations. */
export interface Mixture {
  readonly weight: Float64Array;
  readonly mean: Float64Array;
  readonly sd: Float64Array;
}

/** Components lighter than this tell nothing that a figure shows. */
const LIGHTEST = 1e-15;

/** A mixture without the components that are lighter than `lightest`. */
export function heavy(weight: Float64Array, mean: Float64Array, sd: Float64Array, lightest = LIGHTEST): Mixture {
  let kept = 0;
  for (let i = 0; i < weight.length; i += 1) if (weight[i]! > lightest) kept += 1;
  const out = { weight: new Float64Array(kept), mean: new Float64Array(kept), sd: new Float64Array(kept) };
  for (let i = 0, k = 0; i < weight.length; i += 1) {
    if (!(weight[i]! > lightest)) continue;
    out.weight[k] = weight[i]!;
    out.mean[k] = mean[i]!;
    out.sd[k] = sd[i]!;
    k += 1;
  }
  return out;
}

/** Chance of a value at or below x. */
export function mixtureCdf({ weight, mean, sd }: Mixture, x: number): number {
  let sum = 0;
  for (let i = 0; i < weight.length; i += 1) sum += weight[i]! * normalCdf((x - mean[i]!) / sd[i]!);
  return sum;
}

/** What is still to go to a share at x, and the step towards it by the density there. */
function stepTo({ weight, mean, sd }: Mixture, share: number, x: number): { readonly off: number; readonly step: number } {
  let below = 0;
  let density = 0;
  for (let i = 0; i < weight.length; i += 1) {
    const z = (x - mean[i]!) / sd[i]!;
    const e = Math.exp(-0.5 * z * z);
    below += weight[i]! * normalCdfBy(z, e);
    density += (weight[i]! * e) / sd[i]!;
  }
  const off = below - share;
  return { off, step: (off * ROOT_TWO_PI) / density };
}

export function mixtureMean({ weight, mean }: Mixture): number {
  let sum = 0;
  for (let i = 0; i < weight.length; i += 1) sum += weight[i]! * mean[i]!;
  return sum;
}

/** Standard deviation of the mixture as a whole. */
export function mixtureSd(mixture: Mixture): number {
  const middle = mixtureMean(mixture);
  let sum = 0;
  for (let i = 0; i < mixture.weight.length; i += 1) sum += mixture.weight[i]! * (mixture.sd[i]! ** 2 + (mixture.mean[i]! - middle) ** 2);
  return Math.sqrt(sum);
}

/** Rounds after which the bracket alone has halved away any doubt. */
const MOST_ROUNDS = 100;

/** Where `value` (rising from below `target` to above it) meets it: Newton's steps inside a bracket that closes. */
export function risingRoot(
  value: (x: number) => number,
  slope: (x: number) => number,
  target: number,
  guess: number,
  scale: number,
): number {
  let [low, high] = [guess, guess];
  for (let step = scale; value(low) > target; step *= 2) low -= step;
  for (let step = scale; value(high) < target; step *= 2) high += step;
  let x = guess;
  for (let i = 0; i < MOST_ROUNDS; i += 1) {
    const off = value(x) - target;
    if (off > 0) high = x;
    else low = x;
    const next = x - off / slope(x);
    const to = next > low && next < high ? next : 0.5 * (low + high);
    if (Math.abs(to - x) <= 1e-14 * Math.max(scale, Math.abs(x))) return to;
    x = to;
  }
  return x;
}

/** Components lighter than this do not move where the search for a quantile begins. */
const LIGHT = 1e-5;

/** Newton's steps inside a bracket that closes as they go; both ends are open at first. */
function quantileFrom(mixture: Mixture, share: number, guess: number, scale: number): number {
  let [low, high] = [-Infinity, Infinity];
  let x = guess;
  for (let i = 0; i < MOST_ROUNDS; i += 1) {
    const { off, step } = stepTo(mixture, share, x);
    if (off > 0) high = x;
    else low = x;
    // Far out the density is next to nothing and a step by it goes anywhere.
    const next = x - Math.min(2 * scale, Math.max(-2 * scale, step));
    const to = next > low && next < high ? next : Number.isFinite(low + high) ? 0.5 * (low + high) : next;
    if (Math.abs(to - x) <= 1e-14 * Math.max(scale, Math.abs(x))) return to;
    x = to;
  }
  return x;
}

/** The x below which a share of the mixture lies. */
export function mixtureQuantile(mixture: Mixture, share: number): number {
  const [middle, scale] = [mixtureMean(mixture), mixtureSd(mixture)];
  if (!(scale > 0)) return middle;
  const guess = middle + (share > 0.5 ? 2 : -2) * scale;
  const most = heavy(mixture.weight, mixture.mean, mixture.sd, LIGHT);
  const total = most.weight.reduce((s, w) => s + w, 0);
  const near = total > 0 ? quantileFrom(most, share * total, guess, scale) : guess;
  return quantileFrom(mixture, share, near, scale);
}
