import { normalCdf, normalDensity } from '../numbers/normal';

/** A mixture of normals: weights that sum to one, means, standard deviations. */
export interface Mixture {
  readonly weight: Float64Array;
  readonly mean: Float64Array;
  readonly sd: Float64Array;
}

/** Components lighter than this tell nothing that a figure shows. */
const LIGHTEST = 1e-15;

/** A mixture without its lightest components. */
export function heavy(weight: Float64Array, mean: Float64Array, sd: Float64Array): Mixture {
  const kept: number[] = [];
  for (let i = 0; i < weight.length; i += 1) if (weight[i]! > LIGHTEST) kept.push(i);
  const take = (of: Float64Array): Float64Array => Float64Array.from(kept, (i) => of[i]!);
  return { weight: take(weight), mean: take(mean), sd: take(sd) };
}

/** Chance of a value at or below x. */
export function mixtureCdf({ weight, mean, sd }: Mixture, x: number): number {
  let sum = 0;
  for (let i = 0; i < weight.length; i += 1) sum += weight[i]! * normalCdf((x - mean[i]!) / sd[i]!);
  return sum;
}

function mixtureDensity({ weight, mean, sd }: Mixture, x: number): number {
  let sum = 0;
  for (let i = 0; i < weight.length; i += 1) sum += (weight[i]! * normalDensity((x - mean[i]!) / sd[i]!)) / sd[i]!;
  return sum;
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

/** The x below which a share of the mixture lies. */
export function mixtureQuantile(mixture: Mixture, share: number): number {
  const [middle, scale] = [mixtureMean(mixture), mixtureSd(mixture)];
  if (!(scale > 0)) return middle;
  const guess = middle + (share > 0.5 ? 2 : -2) * scale;
  return risingRoot(
    (x) => mixtureCdf(mixture, x),
    (x) => mixtureDensity(mixture, x),
    share,
    guess,
    scale,
  );
}
