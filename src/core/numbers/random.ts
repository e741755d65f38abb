/** A seeded stream of numbers in [0, 1). */
export type Random = () => number;

/** Steps that mix the seed in before the first number is used. */
const WARM_UP = 15;

/** sfc32 (Chris Doty-Humphrey, PractRand): 128 bits of state, passes the usual batteries, fast in 32-bit integers. */
export function seededRandom(seed: number): Random {
  let a = 0x9e3779b9 ^ seed;
  let b = 0x243f6a88;
  let c = 0xb7e15162 ^ Math.floor(seed / 2 ** 32);
  let d = 1;
  const next = (): number => {
    const t = (((a + b) | 0) + d) | 0;
    d = (d + 1) | 0;
    a = b ^ (b >>> 9);
    b = (c + (c << 3)) | 0;
    c = (c << 21) | (c >>> 11);
    c = (c + t) | 0;
    return (t >>> 0) / 2 ** 32;
  };
  for (let i = 0; i < WARM_UP; i += 1) next();
  return next;
}

/** Standard normal numbers from a uniform stream (Box–Muller). */
export function gaussian(random: Random): number {
  const u = 1 - random();
  return Math.sqrt(-2 * Math.log(u)) * Math.cos(2 * Math.PI * random());
}
