import { gaussian, seededRandom } from '../numbers/random';
import type { Axes, Pixel, Point } from '../picture/plane';
import type { Raster } from '../picture/trace';

/** A made-up printed sheet of a power curve, drawn without a library so that its truth is known to the last pixel. */
export interface Sheet {
  readonly raster: Raster;
  readonly axes: Axes;
  readonly power: (rpm: number) => number;
  readonly torque: (rpm: number) => number;
  /** Where in the picture a value of the chart stands. */
  readonly at: (value: Point) => Pixel;
  readonly range: { readonly x: readonly [number, number]; readonly y: readonly [number, number] };
}

export interface SheetLook {
  readonly seed: number;
  readonly width?: number;
  readonly height?: number;
  /** Turned by this, radians. */
  readonly tilt?: number;
  /** Far edge narrower than the near one by this share: a sheet photographed at a slant. */
  readonly slant?: number;
  /** Standard deviation of the noise of each channel, of 255. */
  readonly noise?: number;
  /** Colour kept only in blocks of this many pixels, as JPEG does. */
  readonly blocks?: number;
  readonly grid?: boolean;
}

type Rgb = readonly [number, number, number];
const PAPER: Rgb = [250, 248, 242];
const INK: Rgb = [40, 44, 48];
const GRID: Rgb = [205, 208, 205];
const POWERS: readonly Rgb[] = [
  [190, 40, 40],
  [20, 110, 60],
  [150, 60, 150],
];
const TORQUES: readonly Rgb[] = [
  [40, 80, 190],
  [200, 120, 20],
];
const LINE_px = 2.6;

export function drawnSheet(look: SheetLook): Sheet {
  const { seed, width = 900, height = 640, tilt = 0, slant = 0, noise = 0, blocks = 1, grid = true } = look;
  const random = seededRandom(seed);
  const peak = 5400 + 900 * random();
  const top_Nm = 180 + 160 * random();
  const torque = (rpm: number): number => top_Nm * (1 - 0.55 * ((rpm - 0.68 * peak) / peak) ** 2) + 4 * Math.sin(rpm / 310);
  const power = (rpm: number): number => (torque(rpm) * rpm * Math.PI) / 30_000;
  const x: readonly [number, number] = [1500, 7000];
  const y: readonly [number, number] = [0, 350];
  const colours = [POWERS[seed % POWERS.length]!, TORQUES[seed % TORQUES.length]!] as const;
  const frame = { left: 0.11 * width, right: 0.93 * width, top: 0.09 * height, bottom: 0.87 * height };
  const flat = (v: Point): Pixel => ({
    x: frame.left + ((v.x - x[0]) / (x[1] - x[0])) * (frame.right - frame.left),
    y: frame.bottom - ((v.y - y[0]) / (y[1] - y[0])) * (frame.bottom - frame.top),
  });
  const [cx, cy] = [width / 2, height / 2];
  const [cos, sin] = [Math.cos(tilt), Math.sin(tilt)];
  const bent = (p: Pixel): Pixel => {
    const w = 1 + slant * ((cy - p.y) / height + 0.5);
    const [sx, sy] = [(p.x - cx) / w, (p.y - cy) / w];
    return { x: cx + sx * cos - sy * sin, y: cy + sx * sin + sy * cos };
  };
  const unbent = (p: Pixel): Pixel => {
    const [dx, dy] = [p.x - cx, p.y - cy];
    const sx = dx * cos + dy * sin;
    const sy = -dx * sin + dy * cos;
    // sy = (y − cy)/w with w linear in y: solved for y.
    const k = slant / height;
    const yy = (sy * (1 + slant * 0.5)) / (1 + sy * k);
    const w = 1 + slant * (-yy / height + 0.5);
    return { x: cx + sx * w, y: cy + yy };
  };
  const data = new Uint8ClampedArray(4 * width * height);
  const curveRow = (f: (rpm: number) => number, px: number): number => {
    const value = f(x[0] + ((px - frame.left) / (frame.right - frame.left)) * (x[1] - x[0]));
    return frame.bottom - ((value - y[0]) / (y[1] - y[0])) * (frame.bottom - frame.top);
  };
  const over = (f: (rpm: number) => number, p: Pixel): number => {
    if (p.x < frame.left || p.x > frame.right) return 0;
    const here = curveRow(f, p.x);
    if (Math.abs(p.y - here) > 40) return 0;
    const slope = curveRow(f, p.x + 0.5) - curveRow(f, p.x - 0.5);
    const distance = Math.abs(p.y - here) / Math.hypot(1, slope);
    return Math.min(1, Math.max(0, LINE_px / 2 + 0.5 - distance));
  };
  const rule = (distance: number, thick: number): number => Math.min(1, Math.max(0, thick / 2 + 0.5 - Math.abs(distance)));
  const [left, right, top, bottom] = [frame.left - 1, frame.right + 1, frame.top - 1, frame.bottom + 1];
  const [stepX, stepY] = [(500 * (frame.right - frame.left)) / (x[1] - x[0]), (50 * (frame.bottom - frame.top)) / (y[1] - y[0])];
  const toLine = (away: number, step: number): number => away - step * Math.round(away / step);
  let [r, g, b] = [0, 0, 0];
  const lay = (ink: Rgb, share: number): void => {
    if (share <= 0) return;
    r += (ink[0] - r) * share;
    g += (ink[1] - g) * share;
    b += (ink[2] - b) * share;
  };
  for (let j = 0; j < height; j += 1)
    for (let i = 0; i < width; i += 1) {
      const p = unbent({ x: i, y: j });
      [r, g, b] = PAPER;
      if (p.x > left && p.x < right && p.y > top && p.y < bottom) {
        if (grid) {
          lay(GRID, rule(toLine(p.x - frame.left, stepX), 1));
          lay(GRID, rule(toLine(p.y - frame.bottom, stepY), 1));
        }
        lay(INK, rule(p.x - frame.left, 1.6));
        lay(INK, rule(p.y - frame.bottom, 1.6));
        lay(colours[1], over(torque, p));
        lay(colours[0], over(power, p));
      }
      const at = 4 * (j * width + i);
      data[at] = r + (noise && noise * gaussian(random));
      data[at + 1] = g + (noise && noise * gaussian(random));
      data[at + 2] = b + (noise && noise * gaussian(random));
      data[at + 3] = 255;
    }
  if (blocks > 1) blockColours(data, width, height, blocks);
  const at = (v: Point): Pixel => bent(flat(v));
  const known = (vx: number, vy: number, value: number) => ({ at: at({ x: vx, y: vy }), value });
  const axes: Axes = {
    x: [known(2000, 0, 2000), known(7000, 0, 7000)],
    y: [known(1500, 0, 0), known(1500, 350, 350)],
    ...(slant !== 0 && {
      corners: [at({ x: 1500, y: 350 }), at({ x: 7000, y: 350 }), at({ x: 7000, y: 0 }), at({ x: 1500, y: 0 })] as const,
    }),
  };
  return { raster: { width, height, data }, axes, power, torque, at, range: { x, y } };
}

/** Chroma averaged over blocks, lightness kept: what lossy pictures do to thin coloured lines. */
function blockColours(data: Uint8ClampedArray, width: number, height: number, size: number): void {
  for (let by = 0; by < height; by += size)
    for (let bx = 0; bx < width; bx += size) {
      const at: number[] = [];
      for (let y = by; y < Math.min(height, by + size); y += 1)
        for (let x = bx; x < Math.min(width, bx + size); x += 1) at.push(4 * (y * width + x));
      const luma = (i: number): number => 0.299 * data[i]! + 0.587 * data[i + 1]! + 0.114 * data[i + 2]!;
      const mean = [0, 1, 2].map((k) => at.reduce((s, i) => s + data[i + k]! - luma(i), 0) / at.length);
      for (const i of at) {
        const l = luma(i);
        for (let k = 0; k < 3; k += 1) data[i + k] = l + mean[k]!;
      }
    }
}
