import { measuredJob, measuredUnit, UNIT_FLANGE } from '../../../test/fitting';
import type { JobDoc } from '../documents/job';
import type { Template, TemplateKind, TemplateMark } from '../documents/template-marks';
import type { UnitDoc } from '../documents/unit';
import { isFailure, must } from '../failure';
import { CHECK_BAR_m, templateBounds, templateOf } from './template';

const ADAPTER = { thickness_m: 0.02, bolt: 'M6', into: 'aluminium', unitBolt_m: 0.025, gasket_m: 0.0008 } as const;

/** The measured car with what is bolted between, the throttle turned, the manifold's flange otherwise. */
const job = (mounting: object = {}, flange: object = {}, pick: object = {}): JobDoc =>
  measuredJob((d) => ({
    ...d,
    car: { ...d.car, stock: { ...d.car.stock, flange: { ...d.car.stock.flange!, ...flange } } },
    fit: { ...d.fit, mounting: { ...d.fit.mounting, ...mounting } },
    pick: { ...d.pick, opening: 'as it is', ...pick },
  }));
const made = (kind: TemplateKind, doc: JobDoc = job(), unit: UnitDoc = measuredUnit()): Template => must(templateOf(kind, doc, unit));
const circles = (t: Template, layer: TemplateMark['layer']): { x: number; y: number; r: number }[] =>
  t.marks.flatMap((m) => (m.kind === 'circle' && m.layer === layer ? [{ x: m.at.x_m, y: m.at.y_m, r: m.r_m }] : []));
/** What the outline encloses, by its straight sides. */
function outline(t: Template): { left: number; right: number; low: number; high: number } {
  const ends = t.marks.flatMap((m) => (m.kind === 'line' && m.layer === 'outline' ? [m.a, m.b] : []));
  return {
    left: Math.min(...ends.map((e) => e.x_m)),
    right: Math.max(...ends.map((e) => e.x_m)),
    low: Math.min(...ends.map((e) => e.y_m)),
    high: Math.max(...ends.map((e) => e.y_m)),
  };
}
const near = (box: object, wanted: Readonly<Record<string, number>>): void => {
  for (const [side, at] of Object.entries(wanted)) expect((box as Record<string, number>)[side]).toBeCloseTo(at, 9);
};

describe('the outline', () => {
  it('is the plate that was measured', () => {
    near(outline(made('gasket')), { left: -0.046, right: 0.046, low: -0.046, high: 0.046 });
  });

  it('is closed: each side runs on into a corner, and the corners stay inside the plate', () => {
    const { marks } = made('gasket', job({}, { offset: { x_m: 0.004, y_m: -0.003 } }));
    const edge = marks.filter((m) => m.layer === 'outline');
    const name = (x: number, y: number): string => `${(1000 * x).toFixed(6)} ${(1000 * y).toFixed(6)}`;
    const sides = edge.flatMap((m) => (m.kind === 'line' ? [name(m.a.x_m, m.a.y_m), name(m.b.x_m, m.b.y_m)] : []));
    const corners = edge.flatMap((m) =>
      m.kind === 'arc' ? [m.from_rad, m.to_rad].map((t) => name(m.at.x_m + m.r_m * Math.cos(t), m.at.y_m + m.r_m * Math.sin(t))) : [],
    );
    expect(sides).toHaveLength(8);
    expect(corners.map((c) => c.replaceAll('-0.000000', '0.000000')).sort()).toEqual(sides.sort());
  });

  it('goes with a pattern that sits off the opening’s middle', () => {
    const off = job({}, { offset: { x_m: 0.004, y_m: -0.003 } });
    near(outline(made('gasket', off)), { left: -0.042, right: 0.05, low: -0.049, high: 0.043 });
    // The holes with it, the opening not.
    expect(circles(made('gasket', off), 'holes').map((h) => [h.x.toFixed(4), h.y.toFixed(4)])).toEqual(
      expect.arrayContaining([
        ['0.0390', '0.0320'],
        ['-0.0310', '-0.0380'],
      ]),
    );
    expect(circles(made('gasket', off), 'opening')[0]).toMatchObject({ x: 0, y: 0 });
  });

  it('where no plate was measured leaves eight millimetres round holes and opening', () => {
    const bolt = 0.006;
    const unmeasured = outline(made('gasket', job({}, { plate: null, bolt: 'M6' })));
    // Holes at ±35 mm, as wide as the thread.
    near(unmeasured, { left: -(0.035 + bolt / 2 + 0.008), right: 0.035 + bolt / 2 + 0.008 });
    const pair = { plate: null, bolt: 'M6', pattern: { kind: 'pair', span_m: 0.09, angle_rad: 0 } };
    const wide = outline(made('gasket', job({}, pair)));
    const opening_m = job().car.stock.manifoldOpening_m;
    near(wide, { right: 0.045 + bolt / 2 + 0.008, high: opening_m / 2 + 0.008, low: -opening_m / 2 - 0.008 });
  });

  it('of a turned throttle goes by its holes, wherever its plate’s corners are', () => {
    const turned = outline(made('adapter', job({ adapter: ADAPTER, clock_rad: Math.PI / 4 })));
    // The square's corners stand on the axes now: 35·√2 from the middle.
    const reach = 0.035 * Math.SQRT2 + UNIT_FLANGE.hole_m / 2 + 0.008;
    near(turned, { left: -reach, right: reach, low: -reach, high: reach });
    const straight = outline(made('adapter', job({ adapter: ADAPTER })));
    near(straight, { left: -0.046, right: 0.046, low: -0.046, high: 0.046 });
  });
});

it.each<TemplateKind>(['gasket', 'adapter', 'port-match', 'drill-guide'])(
  'a %s carries a bar to measure, and all of it is in its bounds',
  (kind) => {
    const t = made(kind, job({ adapter: kind === 'adapter' ? ADAPTER : null }));
    const bar = t.marks.flatMap((m) =>
      m.kind === 'line' && m.layer === 'check' ? [Math.hypot(m.b.x_m - m.a.x_m, m.b.y_m - m.a.y_m)] : [],
    );
    expect(Math.max(...bar)).toBeCloseTo(CHECK_BAR_m, 12);
    const box = templateBounds(t.marks);
    for (const h of t.holes) {
      expect(h.at.x_m - h.diameter_m / 2).toBeGreaterThan(box.left);
      expect(h.at.x_m + h.diameter_m / 2).toBeLessThan(box.right);
      expect(h.at.y_m - h.diameter_m / 2).toBeGreaterThan(box.low);
      expect(h.at.y_m + h.diameter_m / 2).toBeLessThan(box.high);
    }
    // The bar lies under the part, never over it.
    expect(box.low).toBeLessThan(outline(t).low - 0.01);
    // A hole is cut where the list says, as wide as it says.
    expect(circles(t, 'holes')).toEqual(t.holes.map((h) => ({ x: h.at.x_m, y: h.at.y_m, r: h.diameter_m / 2 })));
    expect(t.holes.map((h) => h.n)).toEqual(t.holes.map((_, i) => i + 1));
  },
);

describe('the bore that is cut', () => {
  const stock_m = job().car.stock.manifoldOpening_m;

  it('stays the manifold’s where it is not opened, or an adapter stands between', () => {
    expect(circles(made('gasket'), 'opening')[0]!.r).toBeCloseTo(stock_m / 2, 12);
    const between = job({ adapter: ADAPTER }, {}, { opening: 'matched' });
    expect(circles(made('gasket', between), 'opening')[0]!.r).toBeCloseTo(stock_m / 2, 12);
  });

  it('opened to match is the throttle’s, and no wider than the metal allows', () => {
    const matched = job({}, {}, { opening: 'matched' });
    expect(circles(made('gasket', matched), 'opening')[0]!.r).toBeCloseTo(0.033, 12);
    const limit_m = (stock_m + 0.066) / 2;
    const held = { ...matched, car: { ...matched.car, stock: { ...matched.car.stock, openingLimit_m: limit_m } } };
    expect(circles(made('gasket', held), 'opening')[0]!.r).toBeCloseTo(limit_m / 2, 12);
    // A throttle smaller than the manifold leaves it as it is.
    const small = measuredUnit({ throttle: { ...measuredUnit().throttle, bore_m: 0.05 } });
    expect(circles(made('gasket', matched, small), 'opening')[0]!.r).toBeCloseTo(stock_m / 2, 12);
  });

  it('a port match rings the wider of the two, and scribes the manifold’s as it is', () => {
    const t = made('port-match');
    expect(circles(t, 'opening')[0]!.r).toBeCloseTo(0.033, 12);
    expect(circles(t, 'scribe')[0]!.r).toBeCloseTo(stock_m / 2, 12);
    const small = made('port-match', job(), measuredUnit({ throttle: { ...measuredUnit().throttle, bore_m: 0.05 } }));
    expect(circles(small, 'opening')[0]!.r).toBeCloseTo(stock_m / 2, 12);
  });

  it('an oval is drawn turned as the throttle is: two straight sides and two half rounds', () => {
    const oval = measuredUnit({ throttle: { ...measuredUnit().throttle, shape: 'oval', width_m: 0.078, height_m: 0.056 } });
    const clock = 0.4;
    const t = made('port-match', job({ clock_rad: clock }), oval);
    const arcs = t.marks.flatMap((m) => (m.kind === 'arc' && m.layer === 'opening' ? [m] : []));
    expect(arcs.map((a) => a.r_m)).toEqual([0.028, 0.028]);
    for (const a of arcs) {
      expect(Math.hypot(a.at.x_m, a.at.y_m)).toBeCloseTo(0.011, 12);
      expect(a.to_rad - a.from_rad).toBeCloseTo(Math.PI, 12);
    }
    expect(arcs[0]!.at.y_m / arcs[0]!.at.x_m).toBeCloseTo(Math.tan(clock), 9);
    const sides = t.marks.flatMap((m) => (m.kind === 'line' && m.layer === 'opening' ? [m] : []));
    expect(sides).toHaveLength(2);
    for (const s of sides) {
      expect(Math.hypot(s.b.x_m - s.a.x_m, s.b.y_m - s.a.y_m)).toBeCloseTo(0.022, 12);
      // The farthest reach of the half rounds is the width; a side's middle is half the height off.
      expect(Math.hypot((s.a.x_m + s.b.x_m) / 2, (s.a.y_m + s.b.y_m) / 2)).toBeCloseTo(0.028, 12);
    }
  });
});

describe('an adapter', () => {
  it('is tapped for the throttle’s bolts and drilled through for the manifold’s, all of them numbered', () => {
    const t = made('adapter', job({ adapter: ADAPTER }, { bolt: 'M8' }));
    expect(t.holes.map((h) => (h.diameter_m * 1000).toFixed(2))).toEqual([
      ...Array<string>(4).fill('5.00'),
      ...Array<string>(4).fill('9.00'),
    ]);
    expect(t.holes.slice(0, 4).every((h) => /tap M6/.test(h.what))).toBe(true);
    expect(t.holes.slice(4).every((h) => /through, for M8/.test(h.what))).toBe(true);
  });

  it('says what its taper is, and of one too steep that it is a step to the air', () => {
    const note = (thickness_m: number): string => made('adapter', job({ adapter: { ...ADAPTER, thickness_m } })).notes[0]!;
    const rise = (0.066 - job().car.stock.manifoldOpening_m) / 2;
    expect(note(0.04)).toContain(`${((Math.atan(rise / 0.04) * 180) / Math.PI).toFixed(1)} degrees`);
    expect(note(0.04)).not.toContain('a step to the air');
    expect(note(0.008)).toContain('a step to the air: make the plate thicker');
  });
});

it.each<[TemplateKind, JobDoc, UnitDoc, string]>([
  ['gasket', measuredJob((d) => ({ ...d, car: { ...d.car, stock: { ...d.car.stock, flange: null } } })), measuredUnit(), 'manifold_flange'],
  ['adapter', job({ adapter: ADAPTER }), measuredUnit({ flange: null }), 'unit_flange'],
  ['adapter', job(), measuredUnit(), 'adapter_missing'],
])('a %s of what nobody measured is refused', (kind, doc, unit, reason) => {
  const t = templateOf(kind, doc, unit);
  expect(isFailure(t) && t).toMatchObject({ error: 'bad_geometry', reason });
});

it('a gasket needs no throttle’s flange', () => {
  expect(made('gasket', job(), measuredUnit({ flange: null })).holes).toHaveLength(4);
});
