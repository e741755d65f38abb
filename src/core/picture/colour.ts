export type Colour = readonly [number, number, number];

/** Colour as lightness and two chroma axes (CIE 1976 L*a*b*, D65): distances in it are about what an eye sees. */
export function labOf(r: number, g: number, b: number): [number, number, number] {
  const linear = (c: number): number => (c > 10.31475 ? ((c / 255 + 0.055) / 1.055) ** 2.4 : c / 3294.6);
  const [lr, lg, lb] = [linear(r), linear(g), linear(b)];
  const f = (t: number): number => (t > 0.008856 ? Math.cbrt(t) : 7.787 * t + 16 / 116);
  const x = f((0.4124 * lr + 0.3576 * lg + 0.1805 * lb) / 0.95047);
  const y = f(0.2126 * lr + 0.7152 * lg + 0.0722 * lb);
  const z = f((0.0193 * lr + 0.1192 * lg + 0.9505 * lb) / 1.08883);
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}

/**
 * Pixels are mixtures of line and paper. One counts from this share of line on, where what is left over beside the mixture is
 * less than the second share of the way from paper to line: another line's colour is not a mixture of these two.
 */
const LEAST_SHARE = 0.24;
const MOST_BESIDE = 0.42;
/** Below this distance from the paper nothing is a line. */
const LEAST_CONTRAST = 9;
const LIGHTNESS = 0.5;

/**
 * How much a pixel is of a line on its paper: its share of the mixture squared, more where it is dark as well; 0 to 1. Null:
 * line and paper look the same.
 */
export function likenessTo(lineColour: Colour, paperColour: Colour): ((r: number, g: number, b: number) => number) | null {
  const paper = labOf(...paperColour);
  const line = labOf(...lineColour);
  const [wl, wa, wb] = [LIGHTNESS * (line[0] - paper[0]), line[1] - paper[1], line[2] - paper[2]];
  const way = Math.hypot(wl, wa, wb);
  if (way < LEAST_CONTRAST) return null;
  return (r, g, b) => {
    const [l, a, bb] = labOf(r, g, b);
    const [dl, da, db] = [LIGHTNESS * (l - paper[0]), a - paper[1], bb - paper[2]];
    const share = (dl * wl + da * wa + db * wb) / (way * way);
    if (share < LEAST_SHARE) return 0;
    const beside = Math.hypot(dl - share * wl, da - share * wa, db - share * wb);
    if (beside > MOST_BESIDE * way) return 0;
    const dark = wl === 0 ? 1 : Math.min(1, Math.max(0, dl / wl));
    return Math.min(1, share) ** 2 * (0.25 + 0.75 * dark);
  };
}
