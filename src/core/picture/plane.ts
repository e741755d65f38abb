/** A place in a picture, pixels from its top left corner; y runs downwards. */
export interface Pixel {
  readonly x: number;
  readonly y: number;
}

/** A place on an axis whose value is written beside it. */
export interface AxisPoint {
  readonly at: Pixel;
  readonly value: number;
}

/** Two known points on each axis, and where the sheet was taken at a slant the four corners of a rectangle on it. */
export interface Axes {
  readonly x: readonly [AxisPoint, AxisPoint];
  readonly y: readonly [AxisPoint, AxisPoint];
  /** Clockwise from the top left. */
  readonly corners?: readonly [Pixel, Pixel, Pixel, Pixel] | undefined;
}

export interface Point {
  readonly x: number;
  readonly y: number;
}

/** How a picture's pixels and the chart's values belong together, both ways. */
export interface Plane {
  readonly toValue: (pixel: Pixel) => Point;
  readonly toPixel: (value: Point) => Pixel;
}

export type PlaneFault =
  'x values equal' | 'y values equal' | 'x points together' | 'y points together' | 'axes parallel' | 'corners crossed';

type Nine = readonly [number, number, number, number, number, number, number, number, number];

/** The projective map that takes the unit square to four corners (Heckbert 1989). Null where they are no quadrangle. */
function squareTo([a, b, c, d]: readonly [Pixel, Pixel, Pixel, Pixel]): Nine | null {
  const sx = a.x - b.x + c.x - d.x;
  const sy = a.y - b.y + c.y - d.y;
  const [dx1, dy1, dx2, dy2] = [b.x - c.x, b.y - c.y, d.x - c.x, d.y - c.y];
  const det = dx1 * dy2 - dx2 * dy1;
  if (Math.abs(det) < 1e-9) return null;
  const g = (sx * dy2 - dx2 * sy) / det;
  const h = (dx1 * sy - sx * dy1) / det;
  return [b.x - a.x + g * b.x, d.x - a.x + h * d.x, a.x, b.y - a.y + g * b.y, d.y - a.y + h * d.y, a.y, g, h, 1];
}

function inverse([a, b, c, d, e, f, g, h, i]: Nine): Nine | null {
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  if (Math.abs(det) < 1e-12) return null;
  const m = [
    e * i - f * h,
    c * h - b * i,
    b * f - c * e,
    f * g - d * i,
    a * i - c * g,
    c * d - a * f,
    d * h - e * g,
    b * g - a * h,
    a * e - b * d,
  ];
  return m.map((v) => v / det) as unknown as Nine;
}

const applied = ([a, b, c, d, e, f, g, h, i]: Nine, p: Pixel): Pixel => {
  const w = g * p.x + h * p.y + i;
  return { x: (a * p.x + b * p.y + c) / w, y: (d * p.x + e * p.y + f) / w };
};

const IDENTITY: Nine = [1, 0, 0, 0, 1, 0, 0, 0, 1];

/**
 * The plane of a chart in a picture: straightened by four corners where they are given, then along the directions of its two
 * axes, which need not be level nor at right angles. Or what is wrong with the points.
 */
export function planeOf({ x: [x1, x2], y: [y1, y2], corners }: Axes): Plane | PlaneFault {
  if (x1.value === x2.value) return 'x values equal';
  if (y1.value === y2.value) return 'y values equal';
  const out = corners ? squareTo(corners) : IDENTITY;
  const back = out && inverse(out);
  if (!out || !back) return 'corners crossed';
  const flat = (p: Pixel): Pixel => applied(back, p);
  const [px1, px2, py1, py2] = [flat(x1.at), flat(x2.at), flat(y1.at), flat(y2.at)];
  const per = (a: Pixel, b: Pixel, span: number): Pixel => ({ x: (b.x - a.x) / span, y: (b.y - a.y) / span });
  const u = per(px1, px2, x2.value - x1.value);
  const v = per(py1, py2, y2.value - y1.value);
  if (Math.hypot(px2.x - px1.x, px2.y - px1.y) < 1e-6) return 'x points together';
  if (Math.hypot(py2.x - py1.x, py2.y - py1.y) < 1e-6) return 'y points together';
  const det = u.x * v.y - u.y * v.x;
  if (Math.abs(det) < 1e-6 * Math.hypot(u.x, u.y) * Math.hypot(v.x, v.y)) return 'axes parallel';
  const solve = (dx: number, dy: number): [number, number] => [(dx * v.y - dy * v.x) / det, (u.x * dy - u.y * dx) / det];
  // The lines of equal x run along the y axis, those of equal y along the x axis.
  const [, offset] = solve(py1.x - px1.x, py1.y - px1.y);
  return {
    toValue: (pixel) => {
      const p = flat(pixel);
      const [s, t] = solve(p.x - px1.x, p.y - px1.y);
      return { x: x1.value + s, y: y1.value + t - offset };
    },
    toPixel: ({ x, y }) => {
      const [s, t] = [x - x1.value, y - y1.value + offset];
      return applied(out, { x: px1.x + s * u.x + t * v.x, y: px1.y + s * u.y + t * v.y });
    },
  };
}

export const isPlane = (plane: Plane | PlaneFault): plane is Plane => typeof plane !== 'string';

/** Value steps of one pixel about a place, along x and along y. */
export function pixelSize(plane: Plane, at: Pixel): Point {
  const here = plane.toValue(at);
  const right = plane.toValue({ x: at.x + 1, y: at.y });
  const down = plane.toValue({ x: at.x, y: at.y + 1 });
  return { x: Math.hypot(right.x - here.x, down.x - here.x), y: Math.hypot(right.y - here.y, down.y - here.y) };
}
