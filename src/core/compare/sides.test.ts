import { isFailure, must } from '../failure';
import { baselineStudy, compareSides } from './sides';

const rpm = Array.from({ length: 220 }, (_, i) => 2000 + 22 * i);
const curve = (scale: number, top = 0) => ({ rpm, power_W: rpm.map((n) => 20 * n * scale * (1 + (top * Math.max(0, n - 5000)) / 1800)) });
const options = { fwhm_rpm: 100 };

describe('compareSides', () => {
  it('with one run a side says how wide everything that is assumed makes it', () => {
    const c = must(compareSides([curve(1)], [curve(1, 0.03)], options));
    expect(c).toMatchObject({ word: "can't tell yet", clear: [], staysA: 1, staysB: 1, visits: 1, withLeftOut: null });
    expect(c.deciding.id).toBe('top');
    expect(c.deciding.answer).toMatchObject({ widest: 'run', widestIs: 'assumed' });
    expect(c.noise_pct).toBeGreaterThan(2);
    expect(c.noise_pct).toBeCloseTo((c.deciding.answer.high - c.deciding.answer.low) / 2, 9);
    expect(c.thirds.map((t) => t.id)).toEqual(['bottom', 'middle', 'top']);
    expect(c.thirds[2].mean_pct).toBeGreaterThan(c.thirds[1].mean_pct);
  });

  const several = (scale: number, top = 0) => [0, 0.002, -0.001].map((d) => curve(scale * (1 + d), top));

  it('a difference beyond refits and scatter is a gain or a loss, and the band says from where', () => {
    const gain = must(compareSides(several(1), several(1, 0.2), options));
    expect(gain.word).toBe('gain');
    expect(gain.clear).toHaveLength(1);
    expect(gain.clear[0]).toMatchObject({ sign: 1, to_rpm: gain.grid_rpm.at(-1) });
    expect(gain.clear[0]!.from_rpm).toBeGreaterThan(5000);
    // A stay a side cannot say that nothing happened: a refit hides that much.
    expect(gain.thirds[0].answer.word).toBe("can't tell yet");
    expect(must(compareSides(several(1), several(0.9), options)).word).toBe('loss');
    const both = several(1).map((r) => ({ rpm, power_W: r.power_W.map((w, i) => w * (rpm[i]! < 4400 ? 0.9 : 1.1)) }));
    expect(must(compareSides(several(1), both, options)).clear.map((r) => r.sign)).toEqual([-1, 1]);
  });

  it('the curve is the runs’ own, by the weights of the answer: its mean over what decides is the estimate', () => {
    const c = must(compareSides(several(1), several(1, 0.1), options));
    const inside = c.difference_pct.filter((_, i) => c.grid_rpm[i]! >= c.deciding.from_rpm && c.grid_rpm[i]! <= c.deciding.to_rpm);
    const mean = inside.reduce((s, v) => s + Math.log1p(v / 100), 0) / inside.length;
    expect(100 * Math.expm1(mean)).toBeCloseTo(c.deciding.mean_pct, 6);
    expect(c.band.low_pct.every((v, i) => v < c.difference_pct[i]! && c.difference_pct[i]! < c.band.high_pct[i]!)).toBe(true);
  });

  it('what decides is what was agreed on', () => {
    const of = (decidesOn: 'whole' | 'bottom' | 'own') =>
      must(compareSides(several(1), several(1, 0.08), { ...options, decidesOn, bands_rpm: [[5600, 6200]] }));
    expect(Math.abs(of('bottom').deciding.mean_pct)).toBeLessThan(0.2);
    expect(of('bottom').deciding.id).toBe('bottom');
    expect(of('whole').deciding.id).toBe('whole');
    expect(of('own').deciding).toMatchObject({ id: 'own-0', from_rpm: 5600, to_rpm: 6200 });
  });

  const driven = (scale: number, order: number, more: object = {}) => ({ ...curve(scale), order, ...more });

  it('counts stays, not runs: two a side tell what many runs in one cannot', () => {
    const scatter = [0, 0.003, -0.002, 0.001];
    const one = must(
      compareSides(
        scatter.map((d, i) => driven(1 + d, i)),
        scatter.map((d, i) => driven(1.012 + d, 4 + i)),
        options,
      ),
    );
    const two = must(
      compareSides(
        scatter.map((d, i) => driven(1 + d, i < 2 ? i : 2 + i)),
        scatter.map((d, i) => driven(1.012 + d, i < 2 ? 2 + i : 4 + i)),
        options,
      ),
    );
    expect([one.staysA, one.staysB, two.staysA, two.staysB]).toEqual([1, 1, 2, 2]);
    expect(one.word).toBe("can't tell yet");
    expect(one.deciding.answer.widest).toBe('refit');
    expect(two.noise_pct).toBeLessThan(0.8 * one.noise_pct);
    // Strapped down anew, the second half of a side is a stay of its own.
    const anew = must(
      compareSides(
        scatter.map((d, i) => driven(1 + d, i, { newStay: i === 2 })),
        scatter.map((d, i) => driven(1.012 + d, 4 + i, { newStay: i === 2 })),
        options,
      ),
    );
    expect([anew.staysA, anew.staysB]).toEqual([2, 2]);
    expect(anew.noise_pct).toBeLessThan(one.noise_pct);
  });

  it('a side tied to a day is not told from the day, whatever the runs say', () => {
    const day = (visit: string, scale: number, order: number) => driven(scale, order, { visit });
    const apart = must(
      compareSides(
        [0, 1, 2, 3].map((i) => day('1', 1 + 0.001 * (i % 2), i)),
        [0, 1, 2, 3].map((i) => day('2', 1.02 + 0.001 * (i % 2), i)),
        options,
      ),
    );
    expect(apart.word).toBe("can't tell yet");
    expect(apart.deciding.answer).toMatchObject({ widest: 'day', widestIs: 'assumed' });
    const each = must(
      compareSides(
        ['1', '2'].flatMap((v, k) => [day(v, 1 + 0.03 * k, 0), day(v, 1.001 + 0.03 * k, 3)]),
        ['1', '2'].flatMap((v, k) => [day(v, 1.03 + 0.03 * k, 1), day(v, 1.031 + 0.03 * k, 2)]),
        options,
      ),
    );
    expect(each.word).toBe('gain');
    expect(each.deciding.mean_pct).toBeCloseTo(3, 0);
  });

  it('marks a run that stands apart, and tells the answer without it', () => {
    const order = [0, 1, 2, 6, 7, 8];
    const c = must(
      compareSides(
        [1, 1.001, 0.999, 1.001, 0.96, 1].map((k, i) => driven(k, order[i]!)),
        [1.02, 1.021, 1.019].map((k, i) => driven(k, 3 + i)),
        options,
      ),
    );
    const worst = c.deciding.runs.reduce((m, r) => (r.outlierP > m.outlierP ? r : m));
    expect(worst).toMatchObject({ index: 4, side: 'A' });
    expect(worst.outlierP).toBeGreaterThan(0.5);
    expect(c.withoutSuspect).toMatchObject({ runs: [4] });
    expect(c.withoutSuspect!.high_pct - c.withoutSuspect!.low_pct).toBeLessThan(2 * c.noise_pct);
  });

  it('tells the answer with what was left out', () => {
    const base = [several(1), several(1.01)] as const;
    const c = must(compareSides(...base, { ...options, leftOut: [{ side: 'B', run: curve(0.97) }] }));
    expect(c.withLeftOut).toMatchObject({ runs: [6] });
    expect(c.withLeftOut!.mean_pct).toBeLessThan(c.deciding.mean_pct);
    const short = { rpm: rpm.slice(0, 60), power_W: curve(1).power_W.slice(0, 60) };
    expect(must(compareSides(...base, { ...options, leftOut: [{ side: 'B', run: short }] })).withLeftOut).toBeNull();
  });

  it('says what would tell next while it cannot tell, and only then', () => {
    const costs = { perHour: 100 };
    const open = must(compareSides(several(1), several(1.01), { ...options, costs }));
    expect(open.next!.options.map((o) => o.step)).toContain('stay');
    expect(open.next!.best).not.toBeNull();
    expect(must(compareSides(several(1), several(1.1), { ...options, costs })).next).toBeNull();
  });

  it('a file that came smoothed makes every run as smooth, and is not smoothed twice', () => {
    const c = must(compareSides([{ ...curve(1), carriedSmoothing_rpm: 200 }], [curve(1)], options));
    expect(c).toMatchObject({ fwhm_rpm: 200, widened: true });
    expect(must(compareSides([{ ...curve(1), carriedSmoothing_rpm: 50 }], [curve(1)], options)).widened).toBe(false);
  });

  it('compares no further than it is told to', () => {
    const c = must(compareSides([curve(1)], [curve(1)], { ...options, range_rpm: [3010, 5990] }));
    expect([c.grid_rpm[0], c.grid_rpm.at(-1)]).toEqual([3025, 5975]);
  });

  it('refuses a side without runs and runs without a common range', () => {
    expect(compareSides([], [curve(1)], options)).toMatchObject({ error: 'too_few_runs' });
    expect(compareSides([{ rpm: [1000, 1100], power_W: [1, 2] }], [curve(1)], options)).toMatchObject({ error: 'no_common_range' });
    expect(compareSides([curve(1)], [curve(1)], { ...options, range_rpm: [9000, 9500] })).toMatchObject({
      error: 'no_common_range',
      reason: 'beyond_range',
      facts: { from_rpm: 2000, to_rpm: 6800 },
    });
    // A place that is no figure spoils the run, also where it does not decide; out of the range it is left alone.
    const broken = { rpm, power_W: curve(1).power_W.with(3, Infinity) };
    const whole = { fwhm_rpm: 0 };
    expect(compareSides([curve(1)], [broken], whole)).toMatchObject({ error: 'bad_input' });
    expect(isFailure(compareSides([curve(1)], [broken], { ...whole, range_rpm: [3000, 6500] }))).toBe(false);
  });
});

it('repeat baselines of one part are a study by themselves', () => {
  const study = baselineStudy([curve(1), curve(1.004), curve(0.998)], options)!;
  expect(study.map((r) => r.side)).toEqual(['A', 'A', 'A']);
  expect(study[1]!.value - study[0]!.value).toBeCloseTo(100 * Math.log(1.004), 6);
  expect(baselineStudy([curve(1)], options)).toBeNull();
});

describe('curves read off pictures', () => {
  const rpm = Array.from({ length: 200 }, (_, i) => 2000 + 24 * i);
  const run = (k: number, readingError_pct = 0) => ({ rpm, power_W: rpm.map((n) => 20 * n * k), readingError_pct });
  const options = { fwhm_rpm: 0 };

  it('widen the interval by their reading error, which no repeat takes away', () => {
    const from = (reading: number) =>
      must(
        compareSides(
          [1, 1.001, 0.999].map((k) => run(k, reading)),
          [1.03, 1.031, 1.029].map((k) => run(k)),
          options,
        ),
      ).deciding.answer;
    const [files, pictures] = [from(0), from(3)];
    expect(files).toMatchObject({ word: 'gain', shares: { reading: 0 } });
    expect(pictures).toMatchObject({ word: "can't tell yet", widest: 'reading' });
    expect(pictures.sd).toBeGreaterThan(files.sd);
  });
});

describe('an order that is only a guess', () => {
  const rpm = Array.from({ length: 200 }, (_, i) => 2000 + 24 * i);
  const of = (k: number, order: number) => ({ rpm, power_W: rpm.map((n) => 20 * n * k), order });
  const a = [0, 2, 4, 6].map((o, i) => of(1 + 0.0003 * (i % 2), o));
  const b = [1, 3, 5, 7].map((o, i) => of(1.008 + 0.0003 * (i % 2), o));
  const options = { fwhm_rpm: 0 };

  it('is no row of stays: what was perhaps alternated counts as one stay a side', () => {
    const known = must(compareSides(a, b, options));
    const guessed = must(compareSides(a, b, { ...options, orderKnown: false }));
    expect([known.staysA, guessed.staysA]).toEqual([4, 1]);
    expect(known.word).toBe('gain');
    expect(guessed.word).toBe("can't tell yet");
  });
});
