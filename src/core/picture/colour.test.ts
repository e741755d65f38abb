import { labOf, likenessTo, type Colour } from './colour';

const PAPER: Colour = [250, 248, 240];
const RED: Colour = [200, 30, 40];
const GREY: Colour = [120, 120, 118];
const mixed = (a: Colour, b: Colour, share: number): Colour => [0, 1, 2].map((k) => a[k]! + (b[k]! - a[k]!) * share) as unknown as Colour;
const of = (line: Colour, paper: Colour) => {
  const likeness = likenessTo(line, paper);
  if (!likeness) throw new Error('they look the same');
  return (c: Colour): number => likeness(...c);
};

it('white, black and the primaries stand where the standard says', () => {
  const close = (c: Colour, lab: Colour): void => labOf(...c).forEach((v, k) => expect(Math.abs(v - lab[k]!)).toBeLessThan(0.02));
  close([255, 255, 255], [100, 0, 0]);
  close([0, 0, 0], [0, 0, 0]);
  close([255, 0, 0], [53.23, 80.11, 67.22]);
  close([0, 0, 255], [32.3, 79.2, -107.86]);
  // Below the straight end of the curve too.
  close([8, 8, 8], [2.19, 0, 0]);
});

describe('how much a pixel is of a line', () => {
  it('paper is none of it, the line is all of it, and a mixture grows from one to the other', () => {
    const red = of(RED, PAPER);
    expect(red(PAPER)).toBe(0);
    expect(red(RED)).toBeCloseTo(1, 9);
    const grows = [0.1, 0.4, 0.6, 0.8, 1].map((share) => red(mixed(PAPER, RED, share)));
    expect(grows[0]).toBe(0);
    grows.slice(1).forEach((v, i) => expect(v).toBeGreaterThan(grows[i]!));
    // A pixel that goes further than the line is not more than all of it.
    expect(red([170, 0, 10])).toBeCloseTo(1, 9);
  });

  it('another line, a grid line and what lies the other way from the paper are none of it', () => {
    const red = of(RED, PAPER);
    for (const other of [[40, 60, 190], [30, 150, 60], GREY, [255, 255, 255]] as const) expect(red(other)).toBe(0);
    expect(of(GREY, PAPER)(RED)).toBe(0);
  });

  it('of two mixtures of one hue the darker is more of a dark line, the lighter of a light one on black', () => {
    const dark = of(RED, PAPER);
    const [pale, deep]: [Colour, Colour] = [
      [232, 130, 130],
      [205, 95, 95],
    ];
    expect(dark(deep)).toBeGreaterThan(dark(pale));
    const light = of([240, 220, 90], [20, 20, 24]);
    expect(light([240, 220, 90])).toBeCloseTo(1, 9);
    expect(light([150, 140, 60])).toBeGreaterThan(0.1);
    expect(light([150, 140, 60])).toBeLessThan(light([200, 185, 80]));
    expect(light([0, 0, 0])).toBe(0);
  });

  it('half of a mixture in light and colour is a quarter of the share, and five eighths of that for its lightness', () => {
    // Grey on white: lightness alone, so that the share is told by it.
    const grey = of([0, 0, 0], [255, 255, 255]);
    const half = [119, 119, 119] as const;
    const l = labOf(...half)[0];
    expect(grey(half)).toBeCloseTo((1 - l / 100) ** 2 * (0.25 + 0.75 * (1 - l / 100)), 6);
    expect(l).toBeCloseTo(50, 0);
    // A hair of it counts for nothing.
    expect(grey([200, 200, 200])).toBe(0);
    expect(grey([185, 185, 185])).toBeGreaterThan(0);
  });

  it('nothing is told of a line that looks like its paper', () => {
    expect(likenessTo([246, 244, 238], PAPER)).toBeNull();
    expect(likenessTo(PAPER, PAPER)).toBeNull();
    expect(likenessTo([192, 192, 188], PAPER)).not.toBeNull();
  });
});
