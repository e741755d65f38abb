import type { Confounder } from '@/core/compare/confounders';
import { compareSides } from '@/core/compare/sides';
import { must } from '@/core/failure';
import type { StoredUnit } from '@/core/documents/unit';
import type { StoredRun } from '@/core/documents/run';
import { correctionWorking, peakWorking, stretchWorking } from '@/core/working/test-working';
import { comparedUnit } from '@/core/job/compared-unit';
import { sideOfName } from './files/import-file';
import { refusalText } from '@/core/read/refusal-text';
import { clearWords, comparisonAnswer, comparisonReason, confounderWords } from './dyno/words';

const rpm = Array.from({ length: 200 }, (_, i) => 2000 + 24 * i);
const side = (k: number, top = 0) => ({ rpm, power_W: rpm.map((n) => 20 * n * k * (n > 5000 ? 1 + top : 1)) });
const options = { fwhm_rpm: 0 };

describe('the answer', () => {
  const thrice = (k: number, top = 0) => [0, 0.002, -0.001].map((d) => side(k * (1 + d), top));

  const reason = (c: Parameters<typeof comparisonReason>[0]): string => comparisonReason(c, (v) => `€${v}`);

  it('with one run a side cannot tell, and says what alone could make as much', () => {
    const c = must(compareSides([side(1)], [side(1, 0.018)], options));
    expect(comparisonAnswer(c, 'Fenwick 66')).toMatch(/^Can’t tell yet: \+1\.8 % over the top third, \u2212\d\.\d % to \+\d\.\d %\.$/);
    expect(reason(c)).toMatch(
      /^95 % interval .* from one run a side\. The scatter of single runs alone could make ±\d\.\d %, by an assumed size: more runs help\./,
    );
  });

  it('claims a gain or a loss only where stays carry it, and says where', () => {
    expect(comparisonAnswer(must(compareSides(thrice(1), thrice(1, 0.06), options)), 'X')).toMatch(
      /^Gain: X made \+6\.\d % over the top third; gain above 5,\d\d0 rpm, nothing sure below\.$/,
    );
    expect(comparisonAnswer(must(compareSides(thrice(1), thrice(0.95), options)), 'X')).toMatch(
      /^Loss: X made \u2212[45]\.\d % over the top third; loss from end to end\.$/,
    );
    // The very same figures on both sides: one stay a side cannot say that nothing happened.
    expect(comparisonAnswer(must(compareSides(thrice(1), thrice(1.0001), options)), 'X')).toMatch(/^Can’t tell yet: [+\u2212]?0\.\d %/);
    const pairs = (k: number, from: number) =>
      Array.from({ length: 14 }, (_, i) => ({ ...side(k * (1 + 0.001 * (i % 3))), order: 2 * i + from }));
    expect(comparisonAnswer(must(compareSides(pairs(1, 0), pairs(1, 1), options)), 'X')).toBe(
      'No difference that matters: X is within ±1.0 % of stock over the top third.',
    );
  });

  it.each([
    [2000, 6800, 'gain from end to end'],
    [2050, 6800, 'gain above 2,050 rpm'],
    [2000, 6700, 'gain below 6,700 rpm'],
    [2050, 6700, 'gain from 2,050 to 6,700 rpm'],
    [2500, 6800, 'gain above 2,500 rpm, nothing sure below'],
    [2000, 5000, 'gain below 5,000 rpm, nothing sure above'],
    [3000, 5000, 'gain from 3,000 to 5,000 rpm, nothing sure elsewhere'],
  ])('of a gain from %d to %d rpm tells what is left only where that is more than a sliver', (from_rpm, to_rpm, said) => {
    const c = must(compareSides(thrice(1), thrice(1), options));
    expect(clearWords({ ...c, grid_rpm: [2000, 6800], clear: [{ from_rpm, to_rpm, sign: 1 }] })).toBe(said);
  });

  it('otherwise says what would tell, what it costs and how likely it is, or that nothing is likely to', () => {
    const costs = { perHour: 120, perVisit: 50 };
    const c = must(compareSides(thrice(1), thrice(1.012), { ...options, costs }));
    expect(reason(c)).toMatch(/A refit|Taking the part off and on, and strapping down, alone could make ±\d\.\d %/);
    expect(reason(c)).toMatch(
      /Cheapest that is as likely as not to tell: put stock on once more, for 3 more runs \(\d+ min, €\d+; \d+ in 100\)\./,
    );
    const loose = (k: number) => [0, 0.03, -0.03].map((d) => side(k * (1 + d)));
    expect(reason(must(compareSides(loose(1), loose(1.004), { ...options, costs })))).toMatch(
      /Nothing within one more visit is likely to tell \(at best \d+ in 100, if you .*\): treat the difference as at most/,
    );
  });

  it('tells of the run that stands apart, and of what was left out', () => {
    const odd = [1, 1.001, 0.999, 0.95].map((k, i) => ({ ...side(k), order: i }));
    const c = must(
      compareSides(
        odd,
        thrice(1.02).map((r, i) => ({ ...r, order: 4 + i })),
        { ...options, leftOut: [{ side: 'B', run: side(0.98) }] },
      ),
    );
    expect(reason(c)).toMatch(/Run 4 of the day stands apart: make one more run before the part comes off\. Without it the word is/);
    expect(reason(c)).toMatch(/With what was left out: /);
  });
});

it('has words, worth and a remedy for every confounder', () => {
  const all: Confounder[] = [
    { code: 'mixed_correction', a: 'STD', b: 'none', odd: [], worth_pct: 4 },
    { code: 'unknown_correction', runs: ['a'], worth_pct: 4 },
    { code: 'humidity_unknown', runs: ['a', 'b'], taken: 0.5, worth_pct: 0.84, decides: false },
    { code: 'smoothing', a: 0, b: 200 },
    { code: 'inlet_air', apart_K: 5, limit_K: 3, worth_pct: -0.8 },
    { code: 'coolant', apart_K: -6, limit_K: 5 },
    { code: 'oil', apart_K: 12, limit_K: 10 },
    { code: 'air_density', apart_pct: -1.4, limit_pct: 1, worth_pct: -1.4, corrected: true },
    { code: 'air_density', apart_pct: 1.4, limit_pct: 1, worth_pct: 1.4, corrected: false },
    { code: 'days_apart', days: 1, bothEachDay: false },
    { code: 'days_apart', days: 2, bothEachDay: true },
    { code: 'other_record', field: 'gear', a: '3', b: '4', odd: [] },
    { code: 'more_changed', text: 'pulley' },
    { code: 'one_stay_a_side', worth_pct: 1 },
    { code: 'duplicate', runs: ['a', 'b'] },
    { code: 'other_level', runs: ['a', 'b'], share: 0.745 },
    { code: 'order_guessed' },
    { code: 'overcorrected', corrected_pct: 1, uncorrected_pct: 0.2 },
    { code: 'smoothing_unknown', runs: ['a'] },
    { code: 'widened', to_rpm: 200 },
    { code: 'gear_far', gear: '2nd', ratio: 2.1, better: 4 },
    { code: 'short_range', share: 0.5 },
  ];
  for (const c of all) {
    const w = confounderWords(c, 'metric');
    expect(w.what).toMatch(/\.$/);
    expect(w.todo).toMatch(/\.$/);
    expect(`${w.what}${w.worth}${w.todo}`).not.toMatch(/undefined|NaN/);
  }
  expect(
    confounderWords(
      all.find((c) => c.code === 'inlet_air')!,
      'us',
    ).what,
  ).toContain('9.0 °F warmer');
});

it('names the odd runs by their whole names, and only where they are few', () => {
  const what = (c: Confounder) => confounderWords(c, 'metric').what;
  const mixed = { code: 'mixed_correction', a: 'STD', b: 'STD, none', worth_pct: 4 } as const;
  const names = ['Fenwick 66, 2', 'Fenwick 66, 3'];
  expect(what({ ...mixed, odd: [{ has: 'none', runs: names }] })).toBe(
    'Corrections are mixed: stock’s runs are corrected by STD, the new side’s corrected by STD and uncorrected (uncorrected: “Fenwick 66, 2” and “Fenwick 66, 3”).',
  );
  expect(what({ ...mixed, odd: [{ has: 'none', runs: [...names, 'a', 'b'] }] })).toMatch(/corrected by STD and uncorrected\.$/);
  expect(what({ code: 'duplicate', runs: names })).toBe('“Fenwick 66, 2” and “Fenwick 66, 3” are the same run to the last figure.');
  const unknown = (runs: string[]) => what({ code: 'unknown_correction', runs, worth_pct: 4 });
  expect(unknown(['a', ...names])).toContain('“a”, “Fenwick 66, 2” and “Fenwick 66, 3”');
  expect(unknown(['a'])).toBe('It is not known what correction “a” carries.');
  expect(unknown(['a', 'b', 'c', 'd'])).toContain('“a”, “b”, “c” and “d” carry.');
  expect(unknown(['a', 'b', 'c', 'd', 'e', 'f'])).toContain('“a”, “b”, “c” and 3 more carry.');
});

describe('whose file it is', () => {
  const units = [{ id: 'u1', version: 1, doc: { name: 'Fenwick 66' } }] as unknown as StoredUnit[];

  it('is read off its name', () => {
    expect(sideOfName('larkspur-fenwick-66-again.txt', units)).toEqual({ kind: 'unit', unitId: 'u1' });
    expect(sideOfName('Larkspur STOCK 58.csv', units)).toEqual({ kind: 'stock' });
    expect(sideOfName('run0042.csv', units)).toBeNull();
    expect(sideOfName('fenwick pull.csv', units)).toBeNull();
    // Both named, stock turned about, two that are named alike: asked, not guessed.
    for (const name of ['stock vs Fenwick 66.csv', 'not-stock.csv', 'stock neu.csv', 'restocked.csv'])
      expect(sideOfName(name, units)).toBeNull();
    for (const name of ['Messung 3 Serie.csv', 'stock no. 2.csv']) expect(sideOfName(name, units)).toEqual({ kind: 'stock' });
    const named = (id: string, name: string) => ({ ...units[0]!, id, doc: { ...units[0]!.doc, name } });
    const shelf = [named('a', 'Hollin 62'), named('b', 'Hollin 62 long'), named('c', '62 Hollin'), named('d', 'Stock ported 58')];
    expect(sideOfName('hollin_62_long run 2.csv', shelf)).toEqual({ kind: 'unit', unitId: 'b' });
    expect(sideOfName('hollin 62.csv', shelf)).toBeNull();
    expect(sideOfName('stock ported 58.csv', shelf)).toEqual({ kind: 'unit', unitId: 'd' });
  });

  it('the chosen throttle is compared if it has runs, else one that has', () => {
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
    { refused: 'no_numeric_column', line: 1, text: 'Dear shop,' },
    { refused: 'too_many_cells', line: 1, columns: 700 },
  ] as const) {
    expect(refusalText(r).split('. ').length).toBeGreaterThan(1);
  }
});

describe('workings', () => {
  const c = must(compareSides([side(1)], [side(1, 0.02)], options));

  it('end in the figures shown', () => {
    expect(stretchWorking(c, c.thirds[2], 'the top third').steps[1]!.terms[0]!.value * 100).toBeCloseTo(c.thirds[2].mean_pct, 9);
    expect(peakWorking(c).steps[0]!.result.value).toBeCloseTo(c.peakB.smoothed_W / c.peakA.smoothed_W - 1, 12);
    expect(stretchWorking(c, c.whole, 'all').notes[0]).toContain('unsmoothed');
    const more = must(compareSides([side(1), side(1.002)], [side(1.02), side(1.023)], options));
    const shown = stretchWorking(more, more.deciding, 'the top third');
    expect(shown.steps[1]!.result.value * 200).toBeCloseTo(more.deciding.answer.high - more.deciding.answer.low, 9);
    expect(shown.notes.join(' ')).toMatch(/1 and 1 stays on 1 day\..*of 6 ways to deal them/);
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
