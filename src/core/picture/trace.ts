import { labOf, likenessTo, type Colour } from './colour';
import { pixelSize, type Pixel, type Plane, type Point } from './plane';

/** A picture's pixels, four bytes each (red, green, blue, opacity), row by row from the top. */
export interface Raster {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray;
}

export interface TracedCurve {
  readonly points: readonly Point[];
  /** Stretches of x inside the curve in which nothing of its colour was found. */
  readonly gaps: readonly (readonly [number, number])[];
  /** Standard error of a height by the picture's resolution and the axis points, in the chart's unit. */
  readonly error: number;
  readonly colour: readonly [number, number, number];
}

/** The picture's colours between its pixels, by the four around a place. */
function sampler({ width, height, data }: Raster): (p: Pixel) => [number, number, number] {
  return ({ x, y }) => {
    const cx = Math.min(width - 1.001, Math.max(0, x));
    const cy = Math.min(height - 1.001, Math.max(0, y));
    const [x0, y0] = [Math.floor(cx), Math.floor(cy)];
    const [fx, fy] = [cx - x0, cy - y0];
    const at = (dx: number, dy: number, c: number): number => data[4 * ((y0 + dy) * width + x0 + dx) + c]!;
    const mix = (c: number): number =>
      (at(0, 0, c) * (1 - fx) + at(1, 0, c) * fx) * (1 - fy) + (at(0, 1, c) * (1 - fx) + at(1, 1, c) * fx) * fy;
    return [mix(0), mix(1), mix(2)];
  };
}

/** The picture with every pixel the mean of itself and its eight neighbours: noise and lossy blocks weigh less, a line's middle stays. */
function softened({ width, height, data }: Raster): Raster {
  const out = new Uint8ClampedArray(data.length);
  const sums = new Float32Array(3 * width);
  for (let y = 0; y < height; y += 1) {
    const [up, down] = [Math.max(0, y - 1), Math.min(height - 1, y + 1)];
    for (let x = 0; x < width; x += 1)
      for (let k = 0; k < 3; k += 1)
        sums[3 * x + k] = data[4 * (up * width + x) + k]! + data[4 * (y * width + x) + k]! + data[4 * (down * width + x) + k]!;
    for (let x = 0; x < width; x += 1) {
      const [left, right] = [Math.max(0, x - 1), Math.min(width - 1, x + 1)];
      for (let k = 0; k < 3; k += 1) out[4 * (y * width + x) + k] = (sums[3 * left + k]! + sums[3 * x + k]! + sums[3 * right + k]!) / 9;
      out[4 * (y * width + x) + 3] = 255;
    }
  }
  return { width, height, data: out };
}

/** Pixels about a click among which the line's own colour is looked for. */
const CLICK_px = 5;

const meanOf = (colours: readonly Colour[]): [number, number, number] =>
  [0, 1, 2].map((k) => colours.reduce((s, c) => s + c[k]!, 0) / colours.length) as [number, number, number];

/** Pixels near a click whose mean is the line's colour: one alone may be noise. */
const MEANT = 6;

/** The line's colour at a click, and the paper's about it: of what is near, the few that stand out most. */
function colourAt(raster: Raster, at: Pixel): { line: [number, number, number]; paper: [number, number, number] } {
  const read = sampler(raster);
  const near: { colour: [number, number, number]; lab: [number, number, number]; away: number }[] = [];
  for (let dx = -CLICK_px; dx <= CLICK_px; dx += 1)
    for (let dy = -CLICK_px; dy <= CLICK_px; dy += 1) {
      const colour = read({ x: at.x + dx, y: at.y + dy });
      near.push({ colour, lab: labOf(...colour), away: Math.hypot(dx, dy) });
    }
  const middle = [0, 1, 2].map((k) => near.map((n) => n.lab[k]!).sort((a, b) => a - b)[Math.floor(near.length / 2)]!);
  // Colour counts more than darkness: grid lines and letters are grey.
  const out = (n: (typeof near)[number]): number =>
    Math.hypot(0.5 * (n.lab[0] - middle[0]!), 1.5 * (n.lab[1] - middle[1]!), 1.5 * (n.lab[2] - middle[2]!)) - 2 * n.away;
  const best = [...near].sort((p, q) => out(q) - out(p)).slice(0, MEANT);
  const pale = [...near].sort((p, q) => out(p) - out(q)).slice(0, near.length / 3);
  return { line: meanOf(best.map((n) => n.colour)), paper: meanOf(pale.map((n) => n.colour)) };
}

/** Steps across and down that the chart is looked at in, per pixel. */
const DOWN = 2;
/** A line may jump this many pixels from column to column beyond where it was heading. */
const JUMP_px = 9;
/** Columns in which a line may be out of sight (under another, or a label) and be found again. */
const BLIND_px = 45;
/** Columns that say where a line is heading. */
const HEADING = 12;
/** Rows beyond the reach that are looked at too, so that a run at its edge is seen whole. */
const EDGE = 12;
/** Axis points put by hand, pixels. */
const AXIS_POINT_px = 0.5;

interface Found {
  readonly row: number;
  readonly weight: number;
}

/** Places in a column of the chart where something of the colour stands, each the middle of a run of it. */
function runsOf(likeness: Float64Array): Found[] {
  const found: Found[] = [];
  let sum = 0;
  let moment = 0;
  const close = (): void => {
    if (sum > 0.25) found.push({ row: moment / sum, weight: sum });
    sum = 0;
    moment = 0;
  };
  likeness.forEach((w, row) => {
    if (w <= 0.02) return close();
    sum += w;
    moment += w * row;
  });
  close();
  return found;
}

export interface TraceOptions {
  /** Range of x and y looked at, in the chart's values. */
  readonly x: readonly [number, number];
  readonly y: readonly [number, number];
  readonly colour?: readonly [number, number, number] | undefined;
}

/**
 * Follows a curve of a chart from one click on it, both ways, by its colour: column by column of the straightened chart, the
 * run of its colour nearest to where it was heading. Where it is out of sight for a while the gap is told. Null: there is
 * nothing of a colour of its own at the click.
 */
export function traceCurve(
  picture: Raster,
  plane: Plane,
  click: Pixel,
  { x: [xa, xb], y: [ya, yb], colour: given }: TraceOptions,
): TracedCurve | null {
  const [x0, x1, y0, y1] = [Math.min(xa, xb), Math.max(xa, xb), Math.min(ya, yb), Math.max(ya, yb)];
  const start = plane.toValue(click);
  const size = pixelSize(plane, click);
  const raster = softened(picture);
  const read = sampler(raster);
  const near = colourAt(raster, click);
  const colour = given ?? near.line;
  const likenessOf = likenessTo(colour, near.paper);
  if (!likenessOf) return null;
  const columns = Math.max(8, Math.round((x1 - x0) / size.x));
  const rows = Math.max(8, Math.round(((y1 - y0) / size.y) * DOWN));
  const valueX = (c: number): number => x0 + ((x1 - x0) * (c + 0.5)) / columns;
  const valueY = (r: number): number => y1 - ((y1 - y0) * (r + 0.5)) / rows;
  /** Runs of the colour in a column, looked for within `reach` rows of where the line should be. */
  const column = (c: number, row: number, reach: number): Found[] => {
    const from = Math.max(0, Math.floor(row - reach - EDGE));
    const to = Math.min(rows - 1, Math.ceil(row + reach + EDGE));
    if (to < from) return [];
    const likeness = new Float64Array(to - from + 1);
    for (let r = from; r <= to; r += 1) {
      likeness[r - from] = likenessOf(...read(plane.toPixel({ x: valueX(c), y: valueY(r) })));
    }
    return runsOf(likeness).map((f) => ({ ...f, row: f.row + from }));
  };
  const first = Math.min(columns - 1, Math.max(0, Math.round(((start.x - x0) / (x1 - x0)) * columns - 0.5)));
  const firstRow = ((y1 - start.y) / (y1 - y0)) * rows - 0.5;
  const nearest = (runs: readonly Found[], row: number, reach: number): Found | undefined =>
    [...runs].filter((f) => Math.abs(f.row - row) <= reach).sort((p, q) => Math.abs(p.row - row) - Math.abs(q.row - row))[0];
  const seed = nearest(column(first, firstRow, 3 * JUMP_px * DOWN), firstRow, 3 * JUMP_px * DOWN);
  if (!seed) return null;
  const traced = new Map<number, number>([[first, seed.row]]);
  const gaps: [number, number][] = [];
  for (const step of [1, -1]) {
    const path: { c: number; row: number }[] = [{ c: first, row: seed.row }];
    for (let c = first + step; c >= 0 && c < columns; c += step) {
      const last = path.at(-1)!;
      const blind = Math.abs(c - last.c) - 1;
      if (blind > BLIND_px) break;
      const back = path.at(-Math.min(path.length, HEADING))!;
      const slope = path.length > 2 ? (last.row - back.row) / (last.c - back.c) : 0;
      const expected = last.row + slope * (c - last.c);
      const reach = (JUMP_px + 0.4 * blind) * DOWN;
      const hit = nearest(column(c, expected, reach), expected, reach);
      if (!hit) continue;
      if (blind > 2) gaps.push([Math.min(valueX(last.c), valueX(c)), Math.max(valueX(last.c), valueX(c))]);
      path.push({ c, row: hit.row });
      traced.set(c, hit.row);
    }
  }
  const points = [...traced].sort((p, q) => p[0] - q[0]).map(([c, row]): Point => ({ x: valueX(c), y: valueY(row) }));
  // A height is read to about a third of a pixel; both axis points of y are put by hand.
  const error = size.y * Math.hypot(0.3, AXIS_POINT_px);
  return { points, gaps: gaps.sort((p, q) => p[0] - q[0]), error, colour: [colour[0], colour[1], colour[2]] };
}

/** Steps of engine speed that a curve read off a picture is kept at, so that its columns do not pretend to more. */
export function atSteps(points: readonly Point[], step: number): Point[] {
  const out: Point[] = [];
  let i = 0;
  if (points.length < 2) return [...points];
  for (let x = Math.ceil(points[0]!.x / step) * step; x <= points.at(-1)!.x; x += step) {
    while (i + 2 < points.length && points[i + 1]!.x < x) i += 1;
    const [p, q] = [points[i]!, points[i + 1]!];
    out.push({ x, y: p.y + ((q.y - p.y) * (x - p.x)) / (q.x - p.x) });
  }
  return out;
}
