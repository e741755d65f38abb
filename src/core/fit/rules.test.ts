import fc from 'fast-check';
import { measuredJob, measuredUnit, UNIT_FLANGE } from '../../../test/fitting';
import type { MountingDoc } from '../documents/flange';
import type { JobDoc } from '../documents/job';
import type { UnitDoc } from '../documents/unit';
import { roundBoreOf } from '../documents/faces';
import { fitFacts, lipOf } from './facts';
import { factsIn, fillText, holds, judgeFit, measureOfFact, worstWord, type Condition, type FitCheck } from './rule';
import { ruleWorking } from '../working/fit-working';
import { FIT_RULES } from './rules';

const check = (id: string, doc: JobDoc, unit: UnitDoc): FitCheck | undefined =>
  judgeFit(FIT_RULES, fitFacts(doc, unit), doc.fit.mounting.have).find((c) => c.rule.id === id);
const word = (id: string, doc: JobDoc, unit: UnitDoc): string | undefined => check(id, doc, unit)?.word;
const mounted = (more: Partial<MountingDoc>): JobDoc =>
  measuredJob((d) => ({ ...d, fit: { ...d.fit, mounting: { ...d.fit.mounting, ...more } } }));
const car = (more: object, of: 'room' | 'stock' = 'room'): JobDoc =>
  measuredJob((d) => ({ ...d, car: { ...d.car, [of]: { ...d.car[of], ...more } } }));
const stockFittings = (more: object): JobDoc =>
  measuredJob((d) => ({ ...d, car: { ...d.car, stock: { ...d.car.stock, fittings: { ...d.car.stock.fittings, ...more } } } }));
const fitted = (more: object): UnitDoc => measuredUnit({ fittings: more });
const ADAPTER = { thickness_m: 0.02, bolt: 'M6', into: 'aluminium', unitBolt_m: 0.025, gasket_m: 0.0008 } as const;

describe('conditions', () => {
  it('leave open what hangs on a fact nobody knows', () => {
    const c: Condition = { fact: 'a', is: '<=', than: { fact: 'b', times: 2, plus: 1 } };
    expect(holds(c, { a: 5, b: 2 })).toBe(true);
    expect(holds(c, { a: 5.1, b: 2 })).toBe(false);
    expect(holds(c, { a: 5, b: null })).toBeNull();
    expect(holds({ known: 'a' }, { a: null })).toBe(false);
  });
  it('one that fails settles all of them; one that holds settles any', () => {
    const open: Condition = { fact: 'x', is: '=', than: 1 };
    const yes: Condition = { fact: 'a', is: '>=', than: 5 };
    const no: Condition = { fact: 'a', is: '<', than: 5 };
    expect([holds({ all: [open, no] }, { a: 5 }), holds({ all: [open, yes] }, { a: 5 })]).toEqual([false, null]);
    expect([holds({ any: [open, yes] }, { a: 5 }), holds({ any: [open, no] }, { a: 5 })]).toEqual([true, null]);
  });
  it('words are alike or not, and have no order', () => {
    expect(holds({ fact: 's', is: '=', than: 'cable' }, { s: 'cable' })).toBe(true);
    expect(holds({ fact: 's', is: '≠', than: 'cable' }, { s: 'cable' })).toBe(false);
    expect(holds({ fact: 's', is: '<', than: 'cable' }, { s: 'cable' })).toBeNull();
  });
  it('of two figures exactly one of less, alike and more holds', () =>
    fc.assert(
      fc.property(fc.double({ min: -5, max: 5, noNaN: true }), fc.double({ min: -5, max: 5, noNaN: true }), (a, b) => {
        const each = (['<', '=', '>'] as const).map((is) => holds({ fact: 'a', is, than: { fact: 'b' } }, { a, b }));
        expect(each.filter(Boolean)).toHaveLength(1);
      }),
    ));
});

it('every fact a rule speaks of is one that is gathered, and has a unit or is a word', () => {
  const facts = fitFacts(mounted({ adapter: ADAPTER }), measuredUnit());
  const spoken = (c: Condition): string[] =>
    'known' in c
      ? [c.known]
      : 'all' in c
        ? c.all.flatMap(spoken)
        : 'any' in c
          ? c.any.flatMap(spoken)
          : [c.fact, ...(typeof c.than === 'object' ? [c.than.fact] : [])];
  for (const r of FIT_RULES) {
    const names: string[] = [
      ...spoken(r.fits),
      ...(r.when ? spoken(r.when) : []),
      ...(r.curable ? spoken(r.curable) : []),
      ...Object.values(r.why).flatMap((t) => factsIn(t ?? '')),
      ...factsIn(r.cure ?? ''),
    ];
    for (const name of names) expect([r.id, name, name in facts]).toEqual([r.id, name, true]);
    if (r.number !== undefined) expect(measureOfFact(r.number)).not.toBeNull();
  }
});

it('an oval on its oval manifold leaves no lip; turned across it does', () => {
  const oval = { ...measuredUnit().throttle, shape: 'oval' as const, width_m: 0.078, height_m: 0.054 };
  const unit = measuredUnit({
    throttle: oval,
    flange: { ...UNIT_FLANGE, pattern: { kind: 'rectangle', width_m: 0.09, height_m: 0.09 }, plate: null, clocking: 'quarter turns' },
  });
  const opening = { shape: 'oval' as const, width_m: 0.078, height_m: 0.054 };
  const doc = measuredJob((d) => ({
    ...d,
    car: {
      ...d.car,
      stock: {
        ...d.car.stock,
        manifoldOpening_m: roundBoreOf(opening),
        gasketOpening_m: roundBoreOf(opening) + 0.002,
        flange: { ...d.car.stock.flange!, pattern: { kind: 'rectangle', width_m: 0.09, height_m: 0.09 }, plate: null, opening },
      },
    },
  }));
  expect(lipOf(doc, unit)!.lip_m2).toBeLessThan(1e-9);
  expect(lipOf(doc, unit, Math.PI / 2)!.lip_m2).toBeGreaterThan(5e-4);
  expect(word('opening', doc, unit)).toBe('fits');
});

it('every number beside a verdict has its working, and no figure in it is missing', () => {
  const doc = measuredJob((d) => ({
    ...d,
    car: {
      ...d.car,
      room: { year: 2004, harnessSlack_m: 0.06, coupler_m: 0.07, couplerTravel_m: 0.01, above_m: 0.09 },
      stock: { ...d.car.stock, fittings: { ...d.car.stock.fittings, plugReach_m: 0.05, length_m: 0.08 } },
    },
  }));
  const onPlate = { ...doc, fit: { ...doc.fit, mounting: { ...doc.fit.mounting, adapter: ADAPTER } } };
  const unit = fitted({ spigot_m: 0.072, length_m: 0.085, height_m: 0.05, plugReach_m: 0.03 });
  const seen = new Set<string>();
  for (const job of [doc, onPlate]) {
    const facts = fitFacts(job, unit);
    for (const c of judgeFit(FIT_RULES, facts)) {
      if (c.rule.number === undefined || c.word === 'not measured') continue;
      const { steps } = ruleWorking(c, facts);
      expect([c.rule.id, steps.length > 0]).toEqual([c.rule.id, true]);
      for (const s of steps)
        for (const t of [...s.terms, s.result]) expect([c.rule.id, t.label, Number.isFinite(t.value)]).toEqual([c.rule.id, t.label, true]);
      seen.add(c.rule.id);
    }
  }
  expect([...seen].sort()).toEqual([
    'adapter-holes',
    'bolts',
    'coupler',
    'cover',
    'gasket',
    'harness',
    'holes',
    'length',
    'opening',
    'plate-bolts',
    'taper',
  ]);
});

it('texts take their facts in', () => {
  expect(factsIn('{a.b_m} off, {c}')).toEqual(['a.b_m', 'c']);
  expect(fillText('{a} of {b}', { a: 1, b: null }, (v) => (v === null ? '?' : String(v)))).toBe('1 of ?');
});

describe('flange', () => {
  it('holes on holes fit', () => expect(word('holes', measuredJob(), measuredUnit())).toBe('fits'));
  it('holes beside holes need a plate, and then the plate is asked about instead', () => {
    const wide = measuredUnit({ flange: { ...UNIT_FLANGE, pattern: { kind: 'rectangle', width_m: 0.082, height_m: 0.082 }, plate: null } });
    expect(check('holes', measuredJob(), wide)).toMatchObject({ word: 'needs something', cure: expect.stringContaining('Adapter plate') });
    const doc = mounted({ adapter: ADAPTER });
    expect(word('holes', doc, wide)).toBeUndefined();
    // Holes 8.5 mm apart on the diagonal: 2.5 mm between M6 and M6, which is too little; further out they stand clear.
    expect(word('adapter-holes', doc, wide)).toBe('needs something');
    const wider = measuredUnit({ flange: { ...UNIT_FLANGE, pattern: { kind: 'rectangle', width_m: 0.09, height_m: 0.09 }, plate: null } });
    expect(word('adapter-holes', doc, wider)).toBe('fits');
  });
  it('one that would sit if it were turned says by how much', () => {
    const lying = {
      ...UNIT_FLANGE,
      pattern: { kind: 'pair' as const, span_m: 0.09, angle_rad: Math.PI / 2 },
      plate: null,
      clocking: 'quarter turns',
    };
    const doc = measuredJob((d) => ({
      ...d,
      car: {
        ...d.car,
        stock: { ...d.car.stock, flange: { ...d.car.stock.flange!, pattern: { kind: 'pair', span_m: 0.09, angle_rad: 0 }, plate: null } },
      },
    }));
    expect(check('clocking', doc, measuredUnit({ flange: lying }))).toMatchObject({
      word: 'needs something',
      cure: 'Turn the throttle by {pattern.turn_rad}',
    });
    expect(word('holes', doc, measuredUnit({ flange: lying }))).toBeUndefined();
    expect(word('holes', doc, measuredUnit({ flange: { ...lying, clocking: 'as it is' } }))).toBe('needs something');
    const turned = { ...doc, fit: { ...doc.fit, mounting: { ...doc.fit.mounting, clock_rad: Math.PI / 2 } } };
    expect(word('holes', turned, measuredUnit({ flange: lying }))).toBe('fits');
  });
  it('nobody measured it: it says what to measure, and claims nothing', () => {
    expect(check('holes', measuredJob(), measuredUnit({ flange: null }))).toMatchObject({
      word: 'not measured',
      why: 'Measure the holes of the throttle and of the manifold.',
    });
  });
});

describe('openings', () => {
  it('a lip is opened where metal and flange let it, else it does not fit', () => {
    expect(word('opening', measuredJob(), measuredUnit())).toBe('needs something');
    expect(word('opening', car({ openingLimit_m: 0.062 }, 'stock'), measuredUnit())).toBe('does not fit');
    expect(word('opening', measuredJob(), measuredUnit({ largestOpening_m: 0.064 }))).toBe('does not fit');
    expect(word('opening', car({ manifoldOpening_m: 0.066, gasketOpening_m: 0.067 }, 'stock'), measuredUnit())).toBe('fits');
  });
  it('a gasket that stands into the air is cut', () => {
    expect(word('gasket', car({ gasketOpening_m: 0.056 }, 'stock'), measuredUnit())).toBe('needs something');
    // What it is to lie on counts: 60 mm are too few for a manifold opened to 66, and right for one left at 58.
    expect(word('gasket', measuredJob(), measuredUnit())).toBe('needs something');
    const left = (d: JobDoc): JobDoc => ({ ...d, pick: { ...d.pick, opening: 'as it is' } });
    expect(word('gasket', measuredJob(left), measuredUnit())).toBe('fits');
    expect(
      word(
        'gasket',
        measuredJob((d) => ({ ...d, marks: {} })),
        measuredUnit(),
      ),
    ).toBe('not measured');
  });
  it('an adapter too thin is a step to the air', () => {
    // 4 mm of rise: 22.5° need 9.7 mm.
    expect(word('taper', mounted({ adapter: { ...ADAPTER, thickness_m: 0.009 } }), measuredUnit())).toBe('needs something');
    expect(word('taper', mounted({ adapter: ADAPTER }), measuredUnit())).toBe('fits');
  });
});

describe('fasteners', () => {
  it('the stock bolts do where flange and gasket are as they were', () =>
    expect(word('bolts', measuredJob(), measuredUnit())).toBe('fits'));
  it('an adapter asks for longer ones, by name and length', () => {
    // 20 + 0.8 grip + 9 to hold = 29.8; the hole ends at 36.8 less a pitch.
    const doc = mounted({ adapter: ADAPTER });
    expect(check('bolts', doc, measuredUnit())).toMatchObject({
      word: 'needs something',
      cure: expect.stringContaining('{bolt.offered_m}'),
    });
    expect(fitFacts(doc, measuredUnit())['bolt.offered_m']).toBe(0.03);
    expect(word('bolts', mounted({ adapter: ADAPTER, bolt_m: 0.03 }), measuredUnit())).toBe('fits');
    expect(word('bolts', mounted({ adapter: ADAPTER, bolt_m: 0.04 }), measuredUnit())).toBe('needs something');
  });
  it('a hole too shallow for any length does not fit', () => {
    const doc = measuredJob((d) => ({
      ...d,
      car: { ...d.car, stock: { ...d.car.stock, flange: { ...d.car.stock.flange!, threadDepth_m: 0.008 } } },
    }));
    expect(word('bolts', doc, measuredUnit())).toBe('does not fit');
  });
  it('studs must stand out through the nut; longer does no harm', () => {
    const doc = (boltLength_m: number): JobDoc =>
      measuredJob((d) => ({
        ...d,
        car: { ...d.car, stock: { ...d.car.stock, flange: { ...d.car.stock.flange!, fastening: 'stud', boltLength_m } } },
      }));
    // 12 + 0.8 grip, 5.1 nut, 2 threads: 19.9 mm.
    expect(fitFacts(doc(0.025), measuredUnit())['bolt.shortest_m']).toBeCloseTo(0.0199, 9);
    expect(word('studs', doc(0.025), measuredUnit())).toBe('fits');
    expect(word('studs', doc(0.06), measuredUnit())).toBe('fits');
    expect(word('studs', doc(0.018), measuredUnit())).toBe('needs something');
    expect(word('bolts', doc(0.018), measuredUnit())).toBeUndefined();
  });
  it('the unit’s own bolts must hold in the plate and not come out behind', () => {
    expect(word('plate-bolts', mounted({ adapter: ADAPTER }), measuredUnit())).toBe('fits');
    expect(word('plate-bolts', mounted({ adapter: { ...ADAPTER, unitBolt_m: 0.035 } }), measuredUnit())).toBe('needs something');
    expect(word('plate-bolts', mounted({ adapter: { ...ADAPTER, thickness_m: 0.006 } }), measuredUnit())).toBe('does not fit');
  });
});

it.each<[rule: string, fits: [JobDoc, UnitDoc], not: [JobDoc, UnitDoc], word: string]>([
  ['seal', [measuredJob(), measuredUnit()], [mounted({ seal: 'old' }), measuredUnit()], 'needs something'],
  ['signal', [measuredJob(), measuredUnit()], [measuredJob(), measuredUnit({ controls: 'electronic-digital' })], 'does not fit'],
  ['year', [car({ year: 2009 }), fitted({ fromYear: 2008 })], [car({ year: 2007 }), fitted({ fromYear: 2008 })], 'does not fit'],
  [
    'sensor',
    [measuredJob(), fitted({ closed_V: 0.5, full_V: 4.5 })],
    [measuredJob(), fitted({ closed_V: 0.5, full_V: 4.9 })],
    'needs something',
  ],
  [
    'idle-valve',
    [stockFittings({ idleValve: 'in the manifold' }), fitted({ idleValve: 'none' })],
    [stockFittings({ idleValve: 'on the unit' }), fitted({ idleValve: 'none' })],
    'needs something',
  ],
  [
    'coolant',
    [stockFittings({ coolant: 'none' }), fitted({ coolant: 'none' })],
    [stockFittings({ coolant: 'passage' }), fitted({ coolant: 'none' })],
    'needs something',
  ],
  ['ports', [stockFittings({ ports: 2 }), fitted({ ports: 3 })], [stockFittings({ ports: 2 }), fitted({ ports: 1 })], 'needs something'],
  [
    'coupler',
    [car({ coupler_m: 0.07 }), fitted({ spigot_m: 0.072 })],
    [car({ coupler_m: 0.07 }), fitted({ spigot_m: 0.08 })],
    'needs something',
  ],
  ['cover', [car({ above_m: 0.08 }), fitted({ height_m: 0.06 })], [car({ above_m: 0.08 }), fitted({ height_m: 0.085 })], 'does not fit'],
])('%s: fits, or says what is wrong, or what to measure', (id, yes, no, verdict) => {
  expect(word(id, ...yes)).toBe('fits');
  expect(word(id, ...no)).toBe(verdict);
  if (id !== 'seal' && id !== 'signal' && id !== 'year') expect(word(id, measuredJob(), measuredUnit())).toBe('not measured');
});

it('a harness is measured from where the plug sat to where it sits', () => {
  const doc = (slack: number): JobDoc => {
    const d = stockFittings({ plugReach_m: 0.06 });
    return { ...d, car: { ...d.car, room: { ...d.car.room, harnessSlack_m: slack } } };
  };
  expect(word('harness', doc(0.05), fitted({ plugReach_m: 0.02 }))).toBe('fits');
  expect(word('harness', doc(0.03), fitted({ plugReach_m: 0.02 }))).toBe('needs something');
});

it('a length is taken up with the adapter in it', () => {
  const doc = (more: Partial<MountingDoc>): JobDoc => {
    const d = mounted(more);
    return {
      ...d,
      car: {
        ...d.car,
        room: { ...d.car.room, couplerTravel_m: 0.015 },
        stock: { ...d.car.stock, fittings: { ...d.car.stock.fittings, length_m: 0.08 } },
      },
    };
  };
  expect(word('length', doc({}), fitted({ length_m: 0.09 }))).toBe('fits');
  expect(word('length', doc({ adapter: ADAPTER }), fitted({ length_m: 0.09 }))).toBe('needs something');
});

it('what stands ready is no longer wanted', () => {
  expect(check('seal', mounted({ seal: 'old', have: ['seal'] }), measuredUnit())).toMatchObject({ word: 'fits', cure: null });
});

it('the worst word counts for the whole', () => {
  const of = (doc: JobDoc, unit: UnitDoc): string => worstWord(judgeFit(FIT_RULES, fitFacts(doc, unit)));
  expect(of(measuredJob(), measuredUnit({ controls: 'electronic-digital' }))).toBe('does not fit');
  expect(of(measuredJob(), measuredUnit())).toBe('needs something');
  expect(worstWord([])).toBe('fits');
});

it('a rule of the shop’s own counts like any other', () => {
  const own = {
    id: 'own-1',
    group: 'clearance',
    title: 'Strut brace',
    fits: { fact: 'cover.left_m', is: '>=', than: 0.03 },
    cure: 'Spacer under the brace',
    why: { fits: 'clear', needs: 'touches', ask: 'measure' },
    source: 'this shop',
  } as const;
  const doc = car({ above_m: 0.08 });
  expect(judgeFit([own], fitFacts(doc, fitted({ height_m: 0.06 })))).toMatchObject([
    { word: 'needs something', cure: 'Spacer under the brace' },
  ]);
});
