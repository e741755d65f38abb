import type { Confounder } from '@/core/compare/confounders';
import { compareSides } from '@/core/compare/sides';
import { must } from '@/core/failure';
import type { StoredUnit } from '@/core/documents/unit';
import type { StoredRun } from '@/core/documents/run';
import { correctionWorking, noiseWorking, peakWorking, thirdWorking } from '@/core/working/test-working';
import { comparedUnit } from '@/core/job/compared-unit';
import { refusalText, sideOfName } from './import-file';
import { comparisonAnswer, comparisonReason, confounderWords } from './words';

const rpm = Array.from({ length: 200 }, (_, i) => 2000 + 24 * i);
const side = (k: number, top = 0) => ({ rpm, power_W: rpm.map((n) => 20 * n * k * (n > 5000 ? 1 + top : 1)) });
const options = { fwhm_rpm: 0, assumedSd_pct: 0.8 };

describe('the answer', () => {
  it('with one run a side says that it could be noise, and how much', () => {
    const c = must(compareSides([side(1)], [side(1, 0.018)], options));
    expect(comparisonAnswer(c, 'Fenwick 66')).toBe(
      'Can’t tell yet: Fenwick 66 shows +1.8 % over the top third, but one run a side: could be noise up to ±2.2 %.',
    );
    expect(comparisonReason(c)).toMatch(/^The bottom third 0\.0 %, .*assumed until runs are repeated\.$/);
  });

  it('claims a gain or a loss only beyond the noise', () => {
    expect(comparisonAnswer(must(compareSides([side(1)], [side(1, 0.06)], options)), 'X')).toMatch(/^X gained: \+6\.0 %/);
    expect(comparisonAnswer(must(compareSides([side(1)], [side(0.95)], options)), 'X')).toMatch(/^X lost: \u22125\.0 %/);
  });

  it('says where a gain becomes clear, and that the scatter is measured when it is', () => {
    const c = must(compareSides([side(1), side(1.002)], [side(1, 0.06), side(1.002, 0.06)], options));
    expect(comparisonReason(c)).toMatch(/Clear of the noise from 5,0\d0 rpm up\. .* this job’s own\.$/);
  });
});

it('has words, worth and a remedy for every confounder', () => {
  const all: Confounder[] = [
    { code: 'mixed_correction', a: 'STD', b: 'none', worth_pct: 4 },
    { code: 'unknown_correction', runs: ['a'], worth_pct: 4 },
    { code: 'smoothing', a: 0, b: 200 },
    { code: 'inlet_air', apart_K: 5, worth_pct: -0.8 },
    { code: 'coolant', apart_K: -6 },
    { code: 'air_density', apart_pct: -1.4, worth_pct: 0 },
    { code: 'air_density', apart_pct: 1.4, worth_pct: 1.4 },
    { code: 'days_apart', days: 1 },
    { code: 'other_record', field: 'gear', a: '3', b: '4' },
    { code: 'more_changed', text: 'pulley' },
    { code: 'one_run_a_side' },
    { code: 'stock_once' },
  ];
  for (const c of all) {
    const w = confounderWords(c, 'metric');
    expect(w.what).toMatch(/\.$/);
    expect(w.todo).toMatch(/\.$/);
    expect(`${w.what}${w.worth}${w.todo}`).not.toMatch(/undefined|NaN/);
  }
  expect(confounderWords(all[3]!, 'us').what).toContain('9.0 °F warmer');
});

describe('whose file it is', () => {
  const units = [{ id: 'u1', version: 1, doc: { name: 'Fenwick 66' } }] as unknown as StoredUnit[];

  it('is read off its name', () => {
    expect(sideOfName('larkspur-fenwick-66-again.txt', units)).toEqual({ kind: 'unit', unitId: 'u1' });
    expect(sideOfName('Larkspur STOCK 58.csv', units)).toEqual({ kind: 'stock' });
    expect(sideOfName('run0042.csv', units)).toBeNull();
    expect(sideOfName('fenwick pull.csv', units)).toBeNull();
  });

  it('the chosen unit is compared if it has runs, else one that has', () => {
    const run = (unitId: string | null) =>
      ({ doc: { side: unitId ? { kind: 'unit', unitId } : { kind: 'stock' } } }) as unknown as StoredRun;
    expect(comparedUnit('a', [run('b'), run('a'), run(null)])).toBe('a');
    expect(comparedUnit('a', [run('b'), run(null)])).toBe('b');
    expect(comparedUnit('a', [run(null)])).toBe('a');
    expect(comparedUnit(null, [])).toBeNull();
  });
});

it('says what is wrong with a refused file and what to do', () => {
  for (const r of [
    { refused: 'empty_file' },
    { refused: 'not_text', looksLike: 'a PNG picture' },
    { refused: 'no_numeric_column' },
  ] as const) {
    expect(refusalText(r).split('. ').length).toBeGreaterThan(1);
  }
});

describe('workings', () => {
  const c = must(compareSides([side(1)], [side(1, 0.02)], options));

  it('end in the figures shown', () => {
    expect(thirdWorking(c, 2, 100).steps[0]!.result.value * 100).toBeCloseTo(c.bandMean_pct[2]!, 9);
    expect(noiseWorking(c).steps[0]!.result.value * 100).toBeCloseTo(c.noise_pct, 9);
    expect(peakWorking(c).steps[0]!.result.value).toBeCloseTo(c.peakB.smoothed_W / c.peakA.smoothed_W - 1, 12);
    expect(thirdWorking(c, 0, 0).notes[0]).toContain('unsmoothed');
  });

  it('show how a file was corrected, or that it was left alone', () => {
    const run = (doc: object) =>
      ({ doc: { name: 'r', weather: { p_Pa: 99_000, T_K: 300, rh: 0.4 }, carried: 'none', ...doc } }) as unknown as StoredRun;
    expect(correctionWorking(run({}), 'STD').steps).toHaveLength(1);
    expect(correctionWorking(run({ carried: 'unknown' }), 'STD').steps).toHaveLength(0);
    expect(correctionWorking(run({ weather: null }), 'STD').notes[0]).toMatch(/Left as it is/);
    expect(correctionWorking(run({ weather: { p_Pa: 1, T_K: 300, rh: 0 } }), 'STD').steps).toHaveLength(0);
  });
});
