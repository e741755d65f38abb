import fc from 'fast-check';
import { pulleyForBoost } from '../engine/pulley';
import { isFailure, must } from '../failure';
import { formatQuantity } from '../units/quantity';
import { UNIT_PACKS } from '../units/measures';
import { FORMULAS } from '../working/formulas';
import { SUMS } from './all';
import { outside, startValues, type Say, type Sum, type SumResult, type SumValues } from './sum';

const sumOf = (key: string): Sum => SUMS.find((s) => s.key === key)!;
const say: Say = (si, measure) => formatQuantity(si, measure, 'metric');
const solve = (key: string, n: Record<string, number> = {}, pick: Record<string, string> = {}): SumResult => {
  const sum = sumOf(key);
  const start = startValues(sum);
  return must(sum.solve({ n: { ...start.n, ...n }, pick: { ...start.pick, ...pick } }));
};
const row = (r: SumResult, label: string): number => {
  const found = r.rows.find((x) => x.label === label);
  if (!found) throw new Error(`no row ${label}; there are ${r.rows.map((x) => x.label).join(', ')}`);
  return found.value;
};

it('have keys and fields of their own', () => {
  expect(new Set(SUMS.map((s) => s.key)).size).toBe(SUMS.length);
  for (const s of SUMS) expect(new Set(s.fields.map((f) => f.key)).size).toBe(s.fields.length);
});

/** Values that the fields allow, drawn over their whole ranges. */
const anyValues = (sum: Sum): fc.Arbitrary<SumValues> =>
  fc
    .tuple(
      fc.record(
        Object.fromEntries(
          sum.fields.flatMap((f) => (f.kind === 'number' ? [[f.key, fc.double({ min: f.least, max: f.most, noNaN: true })]] : [])),
        ) as Record<string, fc.Arbitrary<number>>,
      ),
      fc.record(
        Object.fromEntries(
          sum.fields.flatMap((f) => (f.kind === 'choice' ? [[f.key, fc.constantFrom(...f.options.map((o) => o.value))]] : [])),
        ) as Record<string, fc.Arbitrary<string>>,
      ),
    )
    .map(([n, pick]) => ({ n, pick }));

describe.each(SUMS.map((s) => [s.key, s] as const))('%s', (_key, sum) => {
  it('starts with an answer, its figures inside their limits', () => {
    const start = startValues(sum);
    expect(outside(sum, start)).toEqual([]);
    const solved = must(sum.solve(start));
    expect(solved.answer(say)).toMatch(/[.?]$/);
    expect(solved.rows.length).toBeGreaterThan(1);
    expect(new Set(solved.rows.map((r) => r.label)).size).toBe(solved.rows.length);
  });

  it('shows its working: known formulas, and every term in a unit of every pack', () => {
    const solved = must(sum.solve(startValues(sum)));
    for (const step of solved.steps) {
      expect(FORMULAS[step.formula].source).not.toBe('');
      for (const t of [...step.terms, step.result]) {
        for (const pack of UNIT_PACKS) expect(formatQuantity(t.value, t.measure, pack)).not.toMatch(/NaN|Infinity/);
      }
    }
  });

  it('gives numbers or a reason for anything its fields allow', () => {
    fc.assert(
      fc.property(anyValues(sum), (values) => {
        const solved = sum.solve(values);
        if (isFailure(solved)) return;
        for (const r of solved.rows) expect(Number.isFinite(r.value)).toBe(true);
        expect(solved.answer(say)).not.toMatch(/NaN|Infinity|undefined/);
        if (solved.warning) expect(solved.warning(say).length).toBeGreaterThan(10);
      }),
      // The gas model takes half a second; its own tests draw more.
      { numRuns: sum.key === 'runner' ? 12 : 60, seed: 12 },
    );
  });

  it('knows a figure outside its limits, but not one it does not ask for', () => {
    const start = startValues(sum);
    for (const f of sum.fields) {
      if (f.kind !== 'number') continue;
      const values = { ...start, n: { ...start.n, [f.key]: f.most + Math.abs(f.most) + 1 } };
      expect(outside(sum, values)).toEqual(f.when?.(values) === false ? [] : [f.key]);
    }
  });
});

describe('demand', () => {
  it('of two litres at 7,000 rpm and 95 % in dry standard air', () => {
    const r = solve('demand', { rh: 0, T: 288.15 });
    // 0.95 · 0.002 · 7000/120 · 1.225
    expect(row(r, 'air')).toBeCloseTo(0.13577, 4);
    expect(row(r, 'volume at today’s density')).toBeCloseTo((0.95 * 0.002 * 7000) / 120, 9);
  });

  it('by power takes fuel and mixture', () => {
    const r = solve('demand', { P: 100_000, bsfc: 0.3 / 3.6e6, afr: 12 }, { by: 'power' });
    expect(row(r, 'air')).toBeCloseTo((100_000 * 0.3 * 12) / 3.6e6, 9);
    expect(r.steps.map((s) => s.formula)).toContain('powerDemand');
  });
});

describe('density altitude', () => {
  it('of the standard air at sea level is none', () => {
    expect(row(solve('density-altitude', { p: 101_325, T: 288.15, rh: 0 }), 'density altitude')).toBeCloseTo(0, -1);
  });

  it('a sea-level setting is brought down to the place first', () => {
    const read = solve('density-altitude', { p: 101_325, z: 1500 }, { from: 'setting' });
    expect(row(read, 'pressure at the place')).toBeLessThan(86_000);
    expect(row(read, 'density altitude')).toBeGreaterThan(row(solve('density-altitude'), 'density altitude') + 1400);
  });

  it('damp air is thinner', () => {
    expect(row(solve('density-altitude', { rh: 1, T: 303.15 }), 'thinner by the damp')).toBeGreaterThan(0.01);
  });
});

describe('correction', () => {
  it('names the standards that may not be used on such a day', () => {
    const r = solve('correction', { p: 80_000, T: 313.15 });
    expect(r.warning!(say)).toMatch(/SAE J1349/);
    expect(solve('correction').warning).toBeUndefined();
  });
});

describe('bore and flow', () => {
  it('undo one another', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.03, max: 0.12, noNaN: true }), fc.double({ min: 200, max: 8000, noNaN: true }), (D, dp) => {
        const flow = row(solve('bore-flow', { D, dp }), 'passes');
        const back = solve('bore-flow', { m: flow, dp }, { find: 'bore' });
        expect(row(back, 'bore') / D).toBeCloseTo(1, 5);
      }),
      { numRuns: 40 },
    );
  });

  it('a thicker shaft passes less', () => {
    expect(row(solve('bore-flow', { d: 0.012 }), 'passes')).toBeLessThan(row(solve('bore-flow', { d: 0.006 }), 'passes'));
  });

  it('a shaft as thick as the bore is refused', () => {
    const sum = sumOf('bore-flow');
    const start = startValues(sum);
    expect(sum.solve({ ...start, n: { ...start.n, D: 0.02, d: 0.03 } })).toMatchObject({ error: 'bad_geometry' });
  });
});

describe('oval', () => {
  it('as wide as high is a circle', () => {
    const r = solve('oval', { w: 0.06, h: 0.06 });
    expect(row(r, 'round bore of equal area')).toBeCloseTo(0.06, 12);
    expect(row(r, 'round bore of equal edge')).toBeCloseTo(0.06, 12);
  });

  it('a wider one leaks like a larger bore than it passes like', () => {
    const r = solve('oval');
    expect(row(r, 'round bore of equal edge')).toBeGreaterThan(row(r, 'round bore of equal area'));
  });
});

describe('step', () => {
  it('a taper costs less than a step, a radius less than a sharp edge, wider more than narrower', () => {
    const bare = row(solve('step'), 'loss');
    expect(row(solve('step', {}, { how: 'taper' }), 'loss')).toBeLessThan(bare);
    expect(row(solve('step', { r: 0.006 }), 'loss')).toBeLessThan(bare);
    const steep = { D1: 0.06, D2: 0.09 };
    expect(row(solve('step', steep), 'loss')).toBeGreaterThan(row(solve('step', { D1: 0.09, D2: 0.06 }), 'loss'));
    expect(row(solve('step', { D2: 0.066 }), 'loss')).toBe(0);
  });

  it('chokes where the air cannot pass', () => {
    const sum = sumOf('step');
    const start = startValues(sum);
    expect(sum.solve({ ...start, n: { ...start.n, m: 4, D2: 0.02 } })).toMatchObject({ error: 'choked' });
  });
});

describe('bench', () => {
  it('a figure there and back is itself', () => {
    const there = row(solve('depression', { Q: 0.3, from: 5000, to: 7000 }), 'moved through the ideal nozzle');
    expect(row(solve('depression', { Q: there, from: 7000, to: 5000 }), 'moved through the ideal nozzle')).toBeCloseTo(0.3, 12);
  });

  it('tells what can be from what cannot', () => {
    expect(solve('ceiling', { Q: 0.3 }).answer(say)).toMatch(/^It can:/);
    expect(solve('ceiling', { Q: 0.4 }).answer(say)).toMatch(/^It cannot:/);
    expect(solve('ceiling', { Q: 0.4 }).warning).toBeDefined();
    const ideal = row(solve('ceiling'), 'a perfect nozzle passes');
    expect(solve('ceiling', { Q: 0.98 * ideal }).answer(say)).toMatch(/^Hardly:/);
    expect(row(solve('ceiling', { n: 2 }), 'a perfect nozzle passes')).toBeCloseTo(2 * ideal, 12);
  });
});

describe('boost', () => {
  it('beyond the blower’s limit it warns with the pulley that would do', () => {
    const r = solve('pulley', { lim: 12_000 });
    const smallest = row(r, 'smallest upper pulley at this speed');
    expect(r.warning!(say)).toContain(say(smallest, 'bore'));
    expect(solve('pulley', { lim: 12_000, db: smallest * 1.0001 }).warning).toBeUndefined();
  });

  it('an overdriven lower is told as an upper on the stock one', () => {
    expect(row(solve('pulley', { x: 0.1 }), 'same as this upper on the stock lower')).toBeCloseTo(0.08 / 1.1, 12);
  });

  it('a smaller throttle needs a smaller pulley for the same boost', () => {
    expect(row(solve('wanted-boost', { D: 0.055 }), 'upper pulley')).toBeLessThan(row(solve('wanted-boost', { D: 0.09 }), 'upper pulley'));
  });

  it('there is no cooler in it: with a usual one the same boost takes a faster blower', () => {
    const bare = solve('wanted-boost');
    const cooled = must(
      pulleyForBoost({
        solve: {
          ambient: { p_Pa: 101_325, T_K: 293.15, rh: 0 },
          engine: { displacement_m3: 0.003, compressionRatio: 9 },
          rpm: [6000],
          power: { bsfc_kgpJ: 1e-7, afr: 11.8 },
          manifoldVe: 0.92,
          blower: { displacement_m3: 0.0014, ratio: 1.5 },
          reference: { parts: [{ type: 'throttle', throttle: { shape: 'single', bore_m: 0.07, shaft_m: 0.008 } }] },
        },
        at_rpm: 6000,
        boost_Pa: 60_000,
        crankPulley_m: 0.18,
      }),
    );
    expect(cooled.blower_rpm).toBeGreaterThan(1.05 * row(bare, 'blower speed there'));
  });

  it('a small blower turns faster for the same boost, whatever its size', () => {
    const small = solve('wanted-boost', { Vb: 0.0004 });
    const large = solve('wanted-boost', { Vb: 0.0028 });
    expect(row(small, 'blower speed there') / row(large, 'blower speed there')).toBeCloseTo(7, 6);
  });

  it('an impossible boost has no pulley', () => {
    const sum = sumOf('wanted-boost');
    const start = startValues(sum);
    expect(sum.solve({ ...start, n: { ...start.n, boost: 300_000, N: 9000, D: 0.05 } })).toMatchObject({ error: 'no_pulley' });
  });
});

describe('injectors', () => {
  it('the size it asks for has just the duty allowed', () => {
    fc.assert(
      fc.property(fc.double({ min: 20_000, max: 600_000, noNaN: true }), fc.double({ min: 2e5, max: 6e5, noNaN: true }), (P, rail) => {
        const needed = row(solve('injectors', { P, rail }), 'each must be rated for');
        expect(row(solve('injectors', { P, rail, Q: needed }), 'duty')).toBeCloseTo(0.85, 9);
      }),
      { numRuns: 40 },
    );
  });

  it('warns before an engine runs lean', () => {
    expect(solve('injectors', { P: 300_000 }).warning!(say)).toMatch(/lean/);
    expect(solve('injectors', { P: 80_000 }).warning).toBeUndefined();
  });

  it('power and the air for it ask for the same fuel', () => {
    const byPower = row(solve('injectors', { P: 100_000, bsfc: 0.3 / 3.6e6 }), 'fuel in all');
    const byAir = row(solve('injectors', { m: (100_000 * 0.3 * 12.8) / 3.6e6, afr: 12.8 }, { by: 'air' }), 'fuel in all');
    expect(byAir).toBeCloseTo(byPower, 12);
  });
});

describe('coupler', () => {
  it.each([
    [0.07, 0.072, /^It pushes on/],
    [0.07, 0.068, /^It is loose/],
    [0.07, 0.08, /^Too tight/],
  ])('%d m over %d m', (dc, Dt, words) => {
    expect(solve('coupler', { dc, Dt }).answer(say)).toMatch(words);
  });
});

describe('runner length', () => {
  it('a longer runner tunes lower, by the rule and by the model, which agree for a usual one', () => {
    const [short, long] = [solve('runner', { L: 0.3 }), solve('runner', { L: 0.5 })];
    for (const label of ['the wave model', 'Helmholtz, by the duration']) expect(row(long, label)).toBeLessThan(row(short, label));
    const usual = solve('runner');
    expect(Math.abs(row(usual, 'the wave model') / row(usual, 'Helmholtz, by the duration') - 1)).toBeLessThan(0.12);
    expect(usual.answer(say)).toMatch(/^By the model it fills best near [\d,]+ rpm; Helmholtz’ rule says [\d,]+ rpm\.$/);
  });
});
