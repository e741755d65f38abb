import DxfParser from 'dxf-parser';
import { measuredJob, measuredUnit, UNIT_FLANGE } from '../../../test/fitting';
import type { JobDoc } from '@/core/documents/job';
import { templateRequest } from '@/core/documents/template';
import type { UnitDoc } from '@/core/documents/unit';
import { isFailure, must } from '@/core/failure';
import { TEMPLATE_KINDS, type Template } from '@/core/documents/template-marks';
import { templateBounds, templateOf } from '@/core/fit/template';
import { templateDxf, templateSvg } from './maker';
import { POINTS_PER_m, templatePdf, tilingOf } from './template-pdf';

interface Round {
  readonly x: number;
  readonly y: number;
  readonly r: number;
}
const AGREE_mm = 0.02;

const ADAPTER = { thickness_m: 0.02, bolt: 'M6', into: 'aluminium', unitBolt_m: 0.025, gasket_m: 0.0008 } as const;
const withAdapter = (clock_rad = 0): JobDoc =>
  measuredJob((d) => ({ ...d, fit: { ...d.fit, mounting: { ...d.fit.mounting, adapter: ADAPTER, clock_rad } } }));
const wide = (more: object = {}): UnitDoc =>
  measuredUnit({
    flange: { ...UNIT_FLANGE, pattern: { kind: 'circle', diameter_m: 0.1234, count: 3, start_rad: 0.3 }, plate: null, ...more },
  });

/** Circles of a template, in millimetres, sorted. */
const wanted = (t: Template): Round[] =>
  sorted(t.marks.flatMap((m) => (m.kind === 'circle' ? [{ x: m.at.x_m * 1000, y: m.at.y_m * 1000, r: m.r_m * 1000 }] : [])));
const sorted = (list: Round[]): Round[] => [...list].sort((a, b) => a.r - b.r || a.x - b.x || a.y - b.y);

const barOf = (lines: { x1: number; y1: number; x2: number; y2: number }[]): number[] =>
  lines.map((l) => Math.hypot(l.x2 - l.x1, l.y2 - l.y1)).filter((d) => Math.abs(d - 50) < 2);

function readDxf(text: string): { circles: Round[]; bars: number[] } {
  const { entities, header } = new DxfParser().parseSync(text)! as unknown as {
    entities: { type: string; layer: string; center?: { x: number; y: number }; radius?: number; vertices?: { x: number; y: number }[] }[];
    header: Record<string, unknown>;
  };
  // 4: millimetres.
  expect(header['$INSUNITS']).toBe(4);
  return {
    circles: sorted(entities.flatMap((e) => (e.type === 'CIRCLE' ? [{ x: e.center!.x, y: e.center!.y, r: e.radius! }] : []))),
    bars: barOf(
      entities
        .filter((e) => e.type === 'LINE' && e.layer === 'check')
        .map((e) => ({ x1: e.vertices![0]!.x, y1: e.vertices![0]!.y, x2: e.vertices![1]!.x, y2: e.vertices![1]!.y })),
    ),
  };
}

/** An SVG's circles about the template's origin. Its y runs down from the top, its x from the left edge. */
function readSvg(text: string): { circles: Round[]; bars: number[]; width: number; viewWidth: number } {
  const attr = (tag: string, name: string): number => Number(new RegExp(`\\s${name}="([-\\d.e]+)`).exec(tag)![1]);
  const circles = [...text.matchAll(/<circle[^>]*>/g)].map(([tag]) => ({ x: attr(tag, 'cx'), y: -attr(tag, 'cy'), r: attr(tag, 'r') }));
  const lines = [...text.matchAll(/<line[^>]*>/g)].map(([tag]) => ({
    x1: attr(tag, 'x1'),
    y1: attr(tag, 'y1'),
    x2: attr(tag, 'x2'),
    y2: attr(tag, 'y2'),
  }));
  const [, width] = /width="([\d.]+)mm"/.exec(text)!;
  const [, viewWidth] = /viewBox="\S+ \S+ ([\d.]+)/.exec(text)!;
  return { circles, bars: barOf(lines), width: Number(width), viewWidth: Number(viewWidth) };
}

/** Closed curves of a PDF’s pages as circles in millimetres on paper, and its lines. Its pages are written with y running down. */
function readPdf(bytes: Uint8Array): { pages: number; circles: Round[]; bars: number[]; open: [number, number][][]; sheets: Round[][] } {
  const text = Buffer.from(bytes).toString('latin1');
  const circles: Round[] = [];
  const open: [number, number][][] = [];
  const sheets: Round[][] = [];
  const lines: { x1: number; y1: number; x2: number; y2: number }[] = [];
  for (const [, stream] of text.matchAll(/stream\r?\n([\s\S]*?)endstream/g)) {
    const sheet: Round[] = [];
    sheets.push(sheet);
    let at: [number, number] = [0, 0];
    let points: [number, number][] = [];
    let curved = false;
    for (const line of stream!.split('\n')) {
      const words = line.trim().split(/\s+/);
      const op = words.pop();
      const n = words.map(Number);
      const mm = (pt: number): number => (pt / POINTS_PER_m) * 1000;
      if (op === 'm') {
        at = [mm(n[0]!), mm(n[1]!)];
        points = [at];
        curved = false;
      } else if (op === 'c') {
        // Half way along the curve, by its handles, and its end.
        const half = (k: 0 | 1): number => (at[k] + 3 * mm(n[k]!) + 3 * mm(n[2 + k]!) + mm(n[4 + k]!)) / 8;
        points.push([half(0), half(1)]);
        at = [mm(n[4]!), mm(n[5]!)];
        points.push(at);
        curved = true;
      } else if (op === 'l') {
        lines.push({ x1: at[0], y1: at[1], x2: mm(n[0]!), y2: mm(n[1]!) });
        at = [mm(n[0]!), mm(n[1]!)];
      } else if (op === 'S' && curved) {
        const [a] = points;
        const end = points.at(-1)!;
        if (points.length === 17 && Math.hypot(a![0] - end[0], a![1] - end[1]) < 0.01) {
          const xs = points.map((p) => p[0]);
          const ys = points.map((p) => p[1]);
          const x = (Math.max(...xs) + Math.min(...xs)) / 2;
          const y = (Math.max(...ys) + Math.min(...ys)) / 2;
          const r = (Math.max(...xs) - Math.min(...xs)) / 2;
          for (const p of points) expect(Math.abs(Math.hypot(p[0] - x, p[1] - y) - r)).toBeLessThan(0.01);
          circles.push({ x, y: -y, r });
          sheet.push(circles.at(-1)!);
        } else open.push(points.map(([x, y]): [number, number] => [x, -y]));
      }
    }
  }
  return { pages: (text.match(/\/Type \/Page\b/g) ?? []).length, circles, bars: barOf(lines), open, sheets };
}

/** Largest difference between two sets of circles once their middles lie on one another, mm. */
function apart(got: Round[], want: Round[]): number {
  expect(got).toHaveLength(want.length);
  const mean = (list: Round[], k: 'x' | 'y'): number => list.reduce((s, c) => s + c[k], 0) / list.length;
  const shift = { x: mean(want, 'x') - mean(got, 'x'), y: mean(want, 'y') - mean(got, 'y') };
  const left = got.map((c) => ({ x: c.x + shift.x, y: c.y + shift.y, r: c.r }));
  return Math.max(
    ...want.map((w) => Math.min(...left.map((g) => Math.max(Math.abs(g.x - w.x), Math.abs(g.y - w.y), Math.abs(g.r - w.r))))),
  );
}

describe.each(TEMPLATE_KINDS)('%s', (kind) => {
  const t = must(templateOf(kind, withAdapter(0.2), wide()));

  it('DXF says what was entered, in millimetres', () => {
    const { circles, bars } = readDxf(templateDxf(t));
    expect(apart(circles, wanted(t))).toBeLessThan(AGREE_mm);
    expect(bars).toEqual([expect.closeTo(50, 2)]);
  });

  it('SVG does, and opens at its true size', () => {
    const { circles, bars, width, viewWidth } = readSvg(templateSvg(t));
    expect(apart(circles, wanted(t))).toBeLessThan(AGREE_mm);
    expect(bars).toEqual([expect.closeTo(50, 2)]);
    expect(width).toBeCloseTo(viewWidth, 3);
  });

  it('PDF does, on paper', async () => {
    const { circles, bars } = readPdf(await templatePdf(t, 'A4', 0.05));
    expect(apart(circles, wanted(t))).toBeLessThan(AGREE_mm);
    expect(bars).toEqual([expect.closeTo(50, 2)]);
  });
});

it('the gasket has the manifold’s holes where they were measured, and the opening it is bored to', () => {
  const t = must(templateOf('gasket', measuredJob(), wide()));
  expect(t.holes.map((h) => [h.at.x_m, h.at.y_m].map((v) => Math.round(v * 1e6) / 1000))).toEqual([
    [35, 35],
    [-35, 35],
    [-35, -35],
    [35, -35],
  ]);
  expect(t.holes[0]!.diameter_m).toBeCloseTo(0.0066, 9);
  expect(wanted(t).at(-1)).toMatchObject({ r: 33 });
});

it('the adapter plate taps the throttle’s holes and lets the manifold’s bolts through', () => {
  const t = must(templateOf('adapter', withAdapter(), wide()));
  expect(t.holes.map((h) => [h.n, Math.round(h.diameter_m * 1e4) / 10])).toEqual([
    [1, 5],
    [2, 5],
    [3, 5],
    [4, 6.6],
    [5, 6.6],
    [6, 6.6],
    [7, 6.6],
  ]);
  expect(t.notes[0]).toMatch(/degrees to the axis/);
});

it('an oval and a twin keep their shape, turned with the throttle', () => {
  const oval = { ...measuredUnit().throttle, shape: 'oval' as const, width_m: 0.078, height_m: 0.054 };
  const t = must(
    templateOf(
      'adapter',
      withAdapter(Math.PI / 2),
      wide({ pattern: { kind: 'circle', diameter_m: 0.12, count: 4, start_rad: 0.78 } }) && { ...wide(), throttle: oval },
    ),
  );
  const arcs = t.marks.filter((m) => m.kind === 'arc' && m.layer === 'opening');
  expect(arcs).toHaveLength(2);
  // Lying, it is turned upright.
  expect(arcs.map((a) => (a.kind === 'arc' ? Math.round(Math.abs(a.at.y_m) * 1e4) / 10 : 0))).toEqual([12, 12]);
});

it('sheets that are taped together overlap by a centimetre, across and down', async () => {
  const t = must(templateOf('adapter', withAdapter(), wide()));
  // A printer that prints at two fifths: everything is drawn two and a half times as large.
  const { sheets } = readPdf(await templatePdf(t, 'A4', 0.02));
  const b = templateBounds(t.marks);
  const tiles = tilingOf({ width_m: (b.right - b.left + 0.012) * 2.5, height_m: (b.high - b.low + 0.012) * 2.5 }, 'A4');
  expect(tiles.columns).toBeGreaterThan(1);
  expect(tiles.rows).toBeGreaterThan(1);
  const [first, right, below] = [sheets[0]!, sheets[1]!, sheets[tiles.columns]!];
  expect(first.length).toBeGreaterThan(0);
  first.forEach((c, i) => {
    expect(c.x - right[i]!.x).toBeCloseTo(tiles.width_m * 1000 - 10, 2);
    expect(right[i]!.y).toBeCloseTo(c.y, 2);
    expect(below[i]!.y - c.y).toBeCloseTo(tiles.height_m * 1000 - 10, 2);
  });
});

it('an oval’s ends are drawn on paper where they belong, and bulge outwards', async () => {
  const oval = { ...measuredUnit().throttle, shape: 'oval' as const, width_m: 0.078, height_m: 0.054 };
  for (const clock of [0, Math.PI / 2, 0.4]) {
    const t = must(templateOf('adapter', withAdapter(clock), { ...wide(), throttle: oval }));
    const { circles, open } = readPdf(await templatePdf(t, 'A4', 0.05));
    const want = wanted(t);
    const mean = (list: Round[], k: 'x' | 'y'): number => list.reduce((s, c) => s + c[k], 0) / list.length;
    const shift = [mean(want, 'x') - mean(circles, 'x'), mean(want, 'y') - mean(circles, 'y')] as const;
    const drawn = open.map((points) => points.map(([x, y]) => [x + shift[0], y + shift[1]] as const));
    for (const m of t.marks) {
      if (m.kind !== 'arc') continue;
      const at = (angle: number) => [(m.at.x_m + m.r_m * Math.cos(angle)) * 1000, (m.at.y_m + m.r_m * Math.sin(angle)) * 1000] as const;
      const near = (p: readonly [number, number], q: readonly [number, number]): boolean => Math.hypot(p[0] - q[0], p[1] - q[1]) < AGREE_mm;
      const [from, middle, to] = [at(m.from_rad), at((m.from_rad + m.to_rad) / 2), at(m.to_rad)];
      const found = drawn.filter(
        (points) =>
          points.some((p) => near(p, middle)) &&
          ((near(points[0]!, from) && near(points.at(-1)!, to)) || (near(points[0]!, to) && near(points.at(-1)!, from))),
      );
      expect(found).toHaveLength(1);
    }
  }
});

it('bored to match, gasket and port match take the throttle’s shape, turned as it is', () => {
  const oval = { ...measuredUnit().throttle, shape: 'oval' as const, width_m: 0.078, height_m: 0.058 };
  const doc = measuredJob((d) => ({ ...d, fit: { ...d.fit, mounting: { ...d.fit.mounting, clock_rad: Math.PI / 2 } } }));
  for (const kind of ['gasket', 'port-match'] as const) {
    const t = must(templateOf(kind, doc, { ...wide(), throttle: oval }));
    const arcs = t.marks.filter((m) => m.kind === 'arc' && m.layer === 'opening');
    expect(arcs.map((a) => (a.kind === 'arc' ? Math.round(Math.abs(a.at.y_m) * 1e4) / 10 : 0))).toEqual([10, 10]);
  }
});

it('a printer that prints small is made up for, and the sheet says so', async () => {
  const t = must(templateOf('gasket', measuredJob(), wide()));
  const bytes = await templatePdf(t, 'A4', 0.049);
  const { bars, circles } = readPdf(bytes);
  expect(bars).toEqual([expect.closeTo(50 * (50 / 49), 2)]);
  const largest = Math.max(...circles.map((c) => c.r));
  expect(largest).toBeCloseTo(33 * (50 / 49), 1);
});

it('what is larger than a sheet goes over several that overlap', async () => {
  const t = must(templateOf('gasket', measuredJob(), wide()));
  const small = readPdf(await templatePdf(t, 'Letter', 0.05));
  expect(small.pages).toBe(2);
  const big = must(
    templateOf(
      'drill-guide',
      measuredJob((d) => ({
        ...d,
        car: {
          ...d.car,
          stock: {
            ...d.car.stock,
            flange: { ...d.car.stock.flange!, pattern: { kind: 'rectangle', width_m: 0.26, height_m: 0.2 }, plate: null },
          },
        },
      })),
      wide(),
    ),
  );
  const b = templateBounds(big.marks);
  expect(b.right - b.left).toBeGreaterThan(0.21);
  expect((await readPdf(await templatePdf(big, 'A4', 0.05))).pages).toBe(3);
  expect(tilingOf({ width_m: 0.3, height_m: 0.3 }, 'A4')).toMatchObject({ columns: 2, rows: 2 });
  // Two sheets less their overlap are as wide as what they carry.
  const { width_m } = tilingOf({ width_m: 0.1, height_m: 0.1 }, 'A4');
  expect(tilingOf({ width_m: 2 * width_m - 0.01, height_m: 0.1 }, 'A4').columns).toBe(2);
  expect(tilingOf({ width_m: 2 * width_m - 0.009, height_m: 0.1 }, 'A4').columns).toBe(3);
});

it('says what is missing instead of drawing half a template', () => {
  const reason = (kind: (typeof TEMPLATE_KINDS)[number], doc: JobDoc, unit: UnitDoc): string | undefined => {
    const t = templateOf(kind, doc, unit);
    return isFailure(t) ? t.reason : undefined;
  };
  const bare = measuredJob((d) => ({ ...d, car: { ...d.car, stock: { ...d.car.stock, flange: null } } }));
  expect(reason('gasket', bare, wide())).toBe('manifold_flange');
  expect(reason('adapter', withAdapter(), measuredUnit({ flange: null }))).toBe('unit_flange');
  expect(reason('adapter', measuredJob(), wide())).toBe('adapter_missing');
});

it('a bar that no printer prints is refused with what to look at', () => {
  const template = must(templateOf('gasket', measuredJob(), wide()));
  const read = templateRequest.safeParse({ template, format: 'pdf', measured_m: 0.03 });
  expect(read.error?.issues[0]!.message).toMatch(/Print at 100 %/);
  expect(templateRequest.safeParse({ template, format: 'pdf', measured_m: 0.0496 }).success).toBe(true);
});
