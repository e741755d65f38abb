import type { Template, TemplateHole, TemplateKind, TemplateLayer, TemplateMark } from '../documents/template-marks';
import { boltDiameter } from '../documents/kinds';
import { manifoldFace, manifoldOpening, openingOf } from '../documents/faces';
import type { JobDoc } from '../documents/job';
import type { UnitDoc } from '../documents/unit';
import { failure, type Failure } from '../failure';
import { grossBore } from '../documents/openings';
import { TAPER_LIMIT_rad } from '../flow/losses';
import { clockedFace } from './facts';
import { flangeHoles, type Flange, type Opening, type Point } from '../shape/flange';

/** Length of the bar that is measured after printing, m. */
export const CHECK_BAR_m = 0.05;
/** Metal or paper left round a hole where nobody measured the plate, m. */
const MARGIN_m = 0.008;
/** A through hole is this much wider than its bolt, m. ISO 273, medium. */
const CLEARANCE_m: Readonly<Record<string, number>> = { M4: 0.0005, M5: 0.0005, M6: 0.0006, M8: 0.001, M10: 0.001 };
/** Drill for a thread: nominal less the coarse pitch, m. */
const TAP_DRILL_m: Readonly<Record<string, number>> = { M4: 0.0033, M5: 0.0042, M6: 0.005, M8: 0.0068, M10: 0.0085 };

const mm = (x_m: number, decimals = 1): string => `${(x_m * 1000).toFixed(decimals)} mm`;
const p = (x_m: number, y_m: number): Point => ({ x_m, y_m });

interface Box {
  readonly left: number;
  readonly right: number;
  readonly low: number;
  readonly high: number;
}

/** Reach of an opening from its middle, turned as it is, m. */
function reachOf(o: Opening, clock_rad: number): { x: number; y: number } {
  if (o.shape === 'round') return { x: o.bore_m / 2, y: o.bore_m / 2 };
  const r = o.shape === 'oval' ? o.height_m / 2 : o.bore_m / 2;
  const half = (o.shape === 'oval' ? o.width_m - o.height_m : o.spacing_m) / 2;
  return { x: Math.abs(Math.cos(clock_rad)) * half + r, y: Math.abs(Math.sin(clock_rad)) * half + r };
}

/** The plate about its holes, or, where nobody measured it, a box that leaves metal round holes and opening. */
function plateBox(face: Flange, opening: Opening): Box {
  if (face.plate && !face.clock_rad) {
    const { x_m, y_m } = face.offset ?? p(0, 0);
    const { width_m, height_m } = face.plate;
    return { left: x_m - width_m / 2, right: x_m + width_m / 2, low: y_m - height_m / 2, high: y_m + height_m / 2 };
  }
  const reach = reachOf(opening, face.clock_rad ?? 0);
  const out = MARGIN_m + face.hole_m / 2;
  const holes = flangeHoles(face);
  return {
    left: Math.min(-reach.x - MARGIN_m, ...holes.map((h) => h.x_m - out)),
    right: Math.max(reach.x + MARGIN_m, ...holes.map((h) => h.x_m + out)),
    low: Math.min(-reach.y - MARGIN_m, ...holes.map((h) => h.y_m - out)),
    high: Math.max(reach.y + MARGIN_m, ...holes.map((h) => h.y_m + out)),
  };
}

const around = (a: Box, b: Box): Box => ({
  left: Math.min(a.left, b.left),
  right: Math.max(a.right, b.right),
  low: Math.min(a.low, b.low),
  high: Math.max(a.high, b.high),
});

/** A box with round corners, as four lines and four arcs. */
function roundedBox(b: Box, r_m: number): TemplateMark[] {
  const r = Math.min(r_m, (b.right - b.left) / 2, (b.high - b.low) / 2);
  const layer = 'outline' as const;
  const line = (x1: number, y1: number, x2: number, y2: number): TemplateMark => ({ layer, kind: 'line', a: p(x1, y1), b: p(x2, y2) });
  const arc = (x: number, y: number, from: number): TemplateMark => ({
    layer,
    kind: 'arc',
    at: p(x, y),
    r_m: r,
    from_rad: (from * Math.PI) / 2,
    to_rad: ((from + 1) * Math.PI) / 2,
  });
  return [
    line(b.left + r, b.low, b.right - r, b.low),
    line(b.right, b.low + r, b.right, b.high - r),
    line(b.right - r, b.high, b.left + r, b.high),
    line(b.left, b.high - r, b.left, b.low + r),
    arc(b.right - r, b.high - r, 0),
    arc(b.left + r, b.high - r, 1),
    arc(b.left + r, b.low + r, 2),
    arc(b.right - r, b.low + r, 3),
  ];
}

/** An opening's edge, its middle at the origin. */
function openingMarks(o: Opening, clock_rad: number, layer: TemplateLayer): TemplateMark[] {
  if (o.shape === 'round') return [{ layer, kind: 'circle', at: p(0, 0), r_m: o.bore_m / 2 }];
  const half = (o.shape === 'oval' ? o.width_m - o.height_m : o.spacing_m) / 2;
  const ends = [1, -1].map((s) => p(s * half * Math.cos(clock_rad), s * half * Math.sin(clock_rad)));
  if (o.shape === 'twin') return ends.map((at): TemplateMark => ({ layer, kind: 'circle', at, r_m: o.bore_m / 2 }));
  const r = o.height_m / 2;
  if (half <= 0) return [{ layer, kind: 'circle', at: p(0, 0), r_m: r }];
  const n = p(-Math.sin(clock_rad) * r, Math.cos(clock_rad) * r);
  const [a, b] = ends as [Point, Point];
  const quarter = Math.PI / 2;
  return [
    { layer, kind: 'line', a: p(a.x_m + n.x_m, a.y_m + n.y_m), b: p(b.x_m + n.x_m, b.y_m + n.y_m) },
    { layer, kind: 'line', a: p(b.x_m - n.x_m, b.y_m - n.y_m), b: p(a.x_m - n.x_m, a.y_m - n.y_m) },
    { layer, kind: 'arc', at: a, r_m: r, from_rad: clock_rad - quarter, to_rad: clock_rad + quarter },
    { layer, kind: 'arc', at: b, r_m: r, from_rad: clock_rad + quarter, to_rad: clock_rad + 3 * quarter },
  ];
}

const cross = (at: Point, arm: number): TemplateMark[] => [
  { layer: 'scribe', kind: 'line', a: p(at.x_m - arm, at.y_m), b: p(at.x_m + arm, at.y_m) },
  { layer: 'scribe', kind: 'line', a: p(at.x_m, at.y_m - arm), b: p(at.x_m, at.y_m + arm) },
];

/** The bar and its caption, under the drawing. */
function checkBar(box: Box): TemplateMark[] {
  const y = box.low - 0.012;
  const middle = (box.left + box.right) / 2;
  const left = middle - CHECK_BAR_m / 2;
  const layer = 'check' as const;
  const tick = (x: number): TemplateMark => ({ layer, kind: 'line', a: p(x, y - 0.002), b: p(x, y + 0.002) });
  return [
    { layer, kind: 'line', a: p(left, y), b: p(left + CHECK_BAR_m, y) },
    tick(left),
    tick(left + CHECK_BAR_m),
    { layer, kind: 'text', at: p(middle, y - 0.006), height_m: 0.0032, text: '50 mm - measure this bar before you cut' },
  ];
}

const holeMarks = (holes: readonly TemplateHole[]): TemplateMark[] =>
  holes.flatMap((h): TemplateMark[] => [
    { layer: 'holes', kind: 'circle', at: h.at, r_m: h.diameter_m / 2 },
    ...cross(h.at, h.diameter_m / 2 + 0.002),
    {
      layer: 'scribe',
      kind: 'text',
      at: p(h.at.x_m + h.diameter_m / 2 + 0.003, h.at.y_m + h.diameter_m / 2 + 0.0015),
      height_m: 0.003,
      text: String(h.n),
    },
  ]);

/**
 * A template at true size, looking at the manifold's face with the opening's middle at the origin. Refused where the flange
 * it would be cut for was not measured: codes manifold_flange, unit_flange, adapter_missing.
 */
export function templateOf(kind: TemplateKind, doc: Pick<JobDoc, 'car' | 'fit' | 'pick' | 'name'>, unit: UnitDoc): Template | Failure {
  const { stock } = doc.car;
  const base = manifoldFace(stock);
  const top = clockedFace(unit, doc.fit.mounting.clock_rad);
  const { adapter } = doc.fit.mounting;
  if (!base || !stock.flange) return failure('bad_geometry', { reason: 'manifold_flange' });
  if (kind === 'adapter' && !top) return failure('bad_geometry', { reason: 'unit_flange' });
  if (kind === 'adapter' && !adapter) return failure('bad_geometry', { reason: 'adapter_missing' });
  const { bolt } = stock.flange;
  const through = boltDiameter(bolt) + CLEARANCE_m[bolt]!;
  const manifoldHoles = (what: string, diameter_m: number, from = 1): TemplateHole[] =>
    flangeHoles(base).map((at, i) => ({ n: from + i, at, diameter_m, what }));
  const bore_m = grossBore(unit.throttle);
  const matched = doc.pick.opening === 'matched' && !adapter;
  const opening_m = matched
    ? Math.max(stock.manifoldOpening_m, Math.min(bore_m, stock.openingLimit_m ?? Infinity))
    : stock.manifoldOpening_m;
  const round = (d: number): Opening => ({ shape: 'round', bore_m: d });
  /** The opening as it is, in its own shape. */
  const asItIs = manifoldOpening(stock);
  /** Opened to match it takes the throttle's shape, turned as the throttle is; where metal forbids that, a round one. */
  const opened = opening_m > stock.manifoldOpening_m + 1e-9;
  const whole = opening_m >= bore_m - 1e-9;
  const cut = !opened ? asItIs : whole ? openingOf(unit.throttle) : round(opening_m);
  const cutClock = opened && whole ? doc.fit.mounting.clock_rad : 0;
  const title = `${doc.name}: `;
  const finish = (name: string, box: Box, marks: TemplateMark[], holes: TemplateHole[], notes: string[], corner = MARGIN_m): Template => ({
    kind,
    title: title + name,
    marks: [...roundedBox(box, corner), ...marks, ...holeMarks(holes), ...cross(p(0, 0), 0.004), ...checkBar(box)],
    holes,
    notes,
  });
  switch (kind) {
    case 'gasket': {
      const holes = manifoldHoles(`through, for ${bolt}`, through);
      return finish(`gasket, bore ${mm(opening_m)}`, plateBox(base, cut), openingMarks(cut, cutClock, 'opening'), holes, [
        `Bore ${mm(opening_m)}. Cut on the line, not outside it: a gasket that stands into the air is the smaller bore.`,
      ]);
    }
    case 'adapter': {
      const unitHoles = flangeHoles(top!).map((at, i): TemplateHole => ({
        n: i + 1,
        at,
        diameter_m: TAP_DRILL_m[adapter!.bolt]!,
        what: `drill and tap ${adapter!.bolt}, throttle side`,
      }));
      const holes = [
        ...unitHoles,
        ...manifoldHoles(`through, for ${bolt}, countersunk where the throttle covers it`, through, unitHoles.length + 1),
      ];
      const box = around(plateBox(base, asItIs), plateBox(top!, top!.opening));
      const rise = Math.abs(bore_m - stock.manifoldOpening_m) / 2;
      const half = (Math.atan(rise / adapter!.thickness_m) * 180) / Math.PI;
      return finish(
        `adapter plate, ${mm(adapter!.thickness_m)} thick`,
        box,
        [...openingMarks(top!.opening, top!.clock_rad ?? 0, 'opening'), ...openingMarks(asItIs, 0, 'scribe')],
        holes,
        [
          `Taper from the throttle's bore to ${mm(stock.manifoldOpening_m)} over ${mm(adapter!.thickness_m)}: ${half.toFixed(1)} degrees to the axis${
            half > (TAPER_LIMIT_rad * 180) / Math.PI ? ', a step to the air: make the plate thicker' : ''
          }. No ledge at either face.`,
          'Both faces flat and parallel; break every edge; wash all chips out of the threads.',
        ],
      );
    }
    case 'port-match': {
      const wider = bore_m > stock.manifoldOpening_m;
      const ring = wider ? openingOf(unit.throttle) : asItIs;
      const ring_m = Math.max(bore_m, stock.manifoldOpening_m);
      return finish(
        `port match, ${mm(ring_m)}`,
        plateBox(base, ring),
        [...openingMarks(ring, wider ? doc.fit.mounting.clock_rad : 0, 'opening'), ...openingMarks(asItIs, 0, 'scribe')],
        manifoldHoles(`locate on ${bolt}`, boltDiameter(bolt)),
        [
          `Scribe the outer ring (${mm(ring_m)}) on the blued face. The inner ring is the bore as it is (${mm(stock.manifoldOpening_m)}).`,
          'Small cuts, blend inwards, measure the wall before each. Every chip stays out of the engine.',
        ],
      );
    }
    case 'drill-guide': {
      const holes = manifoldHoles(`centre punch, then ${mm(TAP_DRILL_m[bolt]!)} for ${bolt}`, 0.002);
      return finish('drill guide', plateBox(base, asItIs), openingMarks(asItIs, 0, 'scribe'), holes, [
        `Punch through the crosses. Drill ${mm(TAP_DRILL_m[bolt]!)} for ${bolt}, square to the face, no deeper than ${mm(stock.flange.threadDepth_m)}.`,
        'Grease on the drill holds the chips; the hole into the engine stays covered.',
      ]);
    }
  }
}

/** Size and corner of everything drawn, texts by their anchor, m. */
export function templateBounds(marks: readonly TemplateMark[]): Box {
  const box = { left: Infinity, right: -Infinity, low: Infinity, high: -Infinity };
  const put = (x: number, y: number): void => {
    box.left = Math.min(box.left, x);
    box.right = Math.max(box.right, x);
    box.low = Math.min(box.low, y);
    box.high = Math.max(box.high, y);
  };
  for (const m of marks) {
    if (m.kind === 'line') {
      put(m.a.x_m, m.a.y_m);
      put(m.b.x_m, m.b.y_m);
    } else if (m.kind === 'text') put(m.at.x_m, m.at.y_m - m.height_m);
    else {
      put(m.at.x_m - m.r_m, m.at.y_m - m.r_m);
      put(m.at.x_m + m.r_m, m.at.y_m + m.r_m);
    }
  }
  return box;
}
