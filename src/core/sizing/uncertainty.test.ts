import { AHEAD, engineOf, intake, KINDS, solveOf } from '../../../test/engines';
import { must } from '../failure';
import { uncertaintyGain, uncertaintyRun } from './uncertainty';

const run = (kind: (typeof KINDS)[number], seed: number, more: object = {}) =>
  must(
    uncertaintyRun({
      problem: engineOf(kind),
      before: kind === 'centrifugal' || kind === 'turbo' ? AHEAD : null,
      reference: intake(0.058),
      candidates: [intake(0.066), intake(0.074)],
      seed,
      ...more,
    }),
  );

describe.each(KINDS)('%s', (kind) => {
  it('is the same for the same seed, however it is cut into pieces', () => {
    const whole = run(kind, 5);
    whole.draw(60);
    const pieces = run(kind, 5);
    for (let i = 0; i < 6; i += 1) pieces.draw(10);
    expect(pieces.ranges()).toEqual(whole.ranges());
    const other = run(kind, 6);
    other.draw(60);
    expect(other.ranges()).not.toEqual(whole.ranges());
  });

  it('brackets the figure without any uncertainty', () => {
    const still = { ve: 0, K: 0, eta0: 0, bench: 0, fmep: 0 };
    const exact = run(kind, 1, { tolerances: still });
    exact.draw(3);
    const spread = run(kind, 1);
    spread.draw(200);
    exact.ranges().forEach((e, i) => {
      expect(e.peak_pct.p90 - e.peak_pct.p10).toBeCloseTo(0, 9);
      const s = spread.ranges()[i]!;
      expect(s.peak_pct.p10).toBeLessThanOrEqual(e.peak_pct.p50 + 0.05);
      expect(s.peak_pct.p90).toBeGreaterThanOrEqual(e.peak_pct.p50 - 0.05);
      expect(s.solved).toBe(200);
    });
  });
});

it('wider tolerances give wider ranges', () => {
  const width = (K: number): number => {
    const r = run('na', 9, { tolerances: { K } });
    r.draw(300);
    const { p10, p90 } = r.ranges()[0]!.peak_pct;
    return p90 - p10;
  };
  expect(width(0.5)).toBeGreaterThan(width(0.1));
});

it('thirds are in rpm order: on a restricted engine the gain is at the top', () => {
  const r = run('na', 2);
  r.draw(100);
  const { p10, p90 } = r.ranges()[1]!.thirds_pct;
  expect(p10[2]!).toBeGreaterThan(p90[0]!);
});

it('a bench figure is drawn by its flow, within its own tolerance', () => {
  const bench = { benchFlow_m3ps: 0.3, benchDepression_Pa: 6974.49, benchEntryK: 0.04 };
  const path = intake(0.066);
  const measured = { parts: path.parts.map((p) => (p.type === 'throttle' ? { ...p, ...bench } : p)) };
  const only = (tolerances: object): number => {
    const r = must(
      uncertaintyRun({
        problem: engineOf('na'),
        reference: intake(0.058),
        candidates: [measured],
        seed: 4,
        tolerances: { ve: 0, K: 0, fmep: 0, ...tolerances },
      }),
    );
    r.draw(200);
    const { p10, p90 } = r.ranges()[0]!.peak_pct;
    return p90 - p10;
  };
  expect(only({ bench: 0 })).toBeCloseTo(0, 9);
  expect(only({ bench: 0.03 })).toBeGreaterThan(0.01);
});

it('draws that choke are counted out, not made up', () => {
  const r = must(uncertaintyRun({ problem: engineOf('na'), reference: intake(0.058), candidates: [intake(0.02), intake(0.066)], seed: 1 }));
  r.draw(40);
  const [choked, fine] = r.ranges();
  expect(choked!.solved).toBe(0);
  expect(choked!.peak_pct.p50).toBeNaN();
  expect(fine!.solved).toBe(40);
});

it('says which side cannot be built', () => {
  const broken = { parts: [{ type: 'throttle' as const, throttle: { shape: 'single' as const, bore_m: 0.006, shaft_m: 0.008 } }] };
  const input = { problem: engineOf('na'), seed: 1 };
  expect(uncertaintyRun({ ...input, reference: broken, candidates: [] })).toMatchObject({ error: 'bad_geometry', side: 'reference' });
  expect(uncertaintyRun({ ...input, reference: intake(0.06), candidates: [broken] })).toMatchObject({ side: 'candidate' });
});

it('one candidate in one call', () => {
  const gain = must(uncertaintyGain({ kind: 'na', solve: solveOf(engineOf('na'), intake(0.058), intake(0.066)), draws: 50, seed: 5 }));
  const r = must(uncertaintyRun({ problem: engineOf('na'), reference: intake(0.058), candidates: [intake(0.066)], seed: 5 }));
  r.draw(50);
  expect(gain).toEqual(r.ranges()[0]);
});
