import fc from 'fast-check';
import { isFailure, must } from '../failure';
import { normalQuantile } from '../numbers/normal';
import { gaussian, seededRandom } from '../numbers/random';
import { inferRoad, inferSides, inferStretches, inferStrip, wordOf } from './answer';
import { inferCurve } from './curve';
import { designStudy, plannedRuns } from './design';
import { GRID_SIZE } from './grid';
import { historyOf, studyLikelihood } from './history';
import { nextRoadStay, nextStay, nextStripStay } from './next';
import { RIG_ROWS } from './rig';
import { shopHistoryOf, historyLogs } from './shop-history';
import { TROUBLES, troubledRuns } from '../stand-ins/troubles';
import { GROUPS, staysOf, type StudyRun } from './study';

const study = (text: string, values: (i: number) => number, more: (i: number) => Partial<StudyRun> = () => ({})): StudyRun[] =>
  [...text].map((side, i) => ({ side: side as 'A' | 'B', value: values(i), ...more(i) }));

const anyStudy = fc
  .tuple(
    fc.array(fc.constantFrom('A', 'B'), { minLength: 2, maxLength: 12 }).filter((s) => s.includes('A') && s.includes('B')),
    fc.array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: 12, maxLength: 12 }),
    fc.array(fc.integer({ min: 1, max: 2 }), { minLength: 12, maxLength: 12 }),
  )
  .map(([sides, values, visits]) =>
    sides.map((side, i): StudyRun => ({ side: side as 'A' | 'B', value: values[i]!, visit: visits.slice(0, i + 1).sort()[i]! })),
  );

describe('sides', () => {
  it('the estimate is the run weights times the values, the shares sum to one, and a shift changes nothing', () => {
    fc.assert(
      fc.property(anyStudy, fc.double({ min: -50, max: 50, noNaN: true }), (runs, by) => {
        const a = must(inferSides({ runs }));
        const mean = runs.reduce((s, r, i) => s + a.weights[i]! * r.value, 0);
        expect(mean).toBeCloseTo(a.estimate, 7);
        expect(GROUPS.reduce((s, g) => s + a.shares[g], 0)).toBeCloseTo(1, 9);
        expect(a.low).toBeLessThan(a.estimate);
        expect(a.high).toBeGreaterThan(a.estimate);
        const moved = must(inferSides({ runs: runs.map((r) => ({ ...r, value: r.value + by })) }));
        expect(moved.estimate).toBeCloseTo(a.estimate, 6);
        expect(moved.high).toBeCloseTo(a.high, 6);
      }),
      { numRuns: 15 },
    );
  });

  it('turned about it is the same the other way', () => {
    fc.assert(
      fc.property(anyStudy, (runs) => {
        const a = must(inferSides({ runs }));
        const turned = must(inferSides({ runs: runs.map((r) => ({ ...r, side: r.side === 'A' ? 'B' : 'A' })) }));
        expect(turned.estimate).toBeCloseTo(-a.estimate, 7);
        expect(turned.low).toBeCloseTo(-a.high, 7);
        expect(turned.pGain).toBeCloseTo(a.pLoss, 9);
      }),
      { numRuns: 10 },
    );
  });

  it('several stretches of the same runs have, to the last bit, the answers that each has alone; one that is no figure spoils none', () => {
    const three = fc.array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: 12, maxLength: 12 });
    fc.assert(
      fc.property(anyStudy, fc.tuple(three, three), ([...runs], others) => {
        const values = [runs.map((r) => r.value), ...others.map((o) => o.slice(0, runs.length))];
        const bad = values[0]!.with(0, NaN);
        const [first, wrong, ...rest] = inferStretches({ runs, values: [values[0]!, bad, ...values.slice(1)], threshold: 1.5 });
        expect(wrong).toEqual({ error: 'bad_input', facts: { run: 0 } });
        const alone = values.map((own) => inferSides({ runs: runs.map((r, i) => ({ ...r, value: own[i]! })), threshold: 1.5 }));
        expect([first, ...rest]).toEqual(alone);
      }),
      { numRuns: 10 },
    );
  });

  it('asks for the words in their order', () => {
    expect(wordOf({ pGain: 0.99, pLoss: 0.01, pMatters: 0.04 }, 'at')).toBe('no difference that matters');
    expect(wordOf({ pGain: 0.98, pLoss: 0.02, pMatters: 0.9 }, 'at')).toBe('gain');
    expect(wordOf({ pGain: 0.98, pLoss: 0.02, pMatters: 0.9 }, 'after')).toBe("can't tell yet");
    expect(wordOf({ pGain: 0.01, pLoss: 0.992, pMatters: 0.9 }, 'after')).toBe('loss');
    expect(wordOf({ pGain: 0.992, pLoss: 0.008, pMatters: 0.9 }, 'before')).toBe("can't tell yet");
  });

  it('a stay ends with the side, the day, its label, or by being strapped down anew', () => {
    const runs = study(
      'AABBBA',
      () => 0,
      (i) => ({ visit: i < 5 ? 1 : 2, ...(i === 4 && { newStay: true }), stay: i === 1 ? 'b' : 'a' }),
    );
    expect([...staysOf(runs)]).toEqual([0, 1, 2, 2, 3, 4]);
  });

  it('one run that went wrong is neither believed nor deleted', () => {
    const values = [0, 0.1, -0.1, 2, 1.9, -3, 0.05, 0];
    const a = must(inferSides({ runs: study('AAABBBAA', (i) => values[i]!) }));
    expect(a.suspects).toEqual([5]);
    expect(a.estimate).toBeGreaterThan(1);
  });

  it('a picture’s reading error belongs to its runs, and is told', () => {
    const runs = study(
      'AABBAABB',
      (i) => ([2, 3, 6, 7].includes(i) ? 1.5 : 0) + 0.05 * (i % 3),
      () => ({ readingVariance: 4 }),
    );
    const a = must(inferSides({ runs }));
    expect(a.widest).toBe('reading');
    expect(a.word).toBe("can't tell yet");
    expect(must(inferSides({ runs: runs.map(({ readingVariance: _, ...r }) => r) })).word).toBe('gain');
  });

  it('says which run is none', () => {
    expect(inferSides({ runs: [] })).toMatchObject({ error: 'too_few_runs' });
    expect(inferSides({ runs: study('AB', (i) => (i ? NaN : 1)) })).toMatchObject({ error: 'bad_input', facts: { run: 1 } });
    expect(inferStrip({ measure: 'time', runs: study('AB', () => 13) })).toMatchObject({ error: 'bad_input' });
    expect(inferRoad({ runs: study('AA', () => 1) })).toMatchObject({ error: 'one_side_only' });
  });
});

describe('curves', () => {
  const rpm = Array.from({ length: 80 }, (_, i) => 2000 + 50 * i);
  const run = (side: 'A' | 'B', seed: number) => {
    const random = seededRandom(seed);
    return { side, curve_pct: rpm.map((n) => (side === 'B' ? (n > 4000 ? 2 : 0) : 0) + 0.3 * gaussian(random)) };
  };

  it('hold the estimate over what decides, and the band is widest where the runs disagree', () => {
    const runs = [...'AABBAABB'].map((s, i) => run(s as 'A' | 'B', i + 1));
    const c = must(inferCurve({ runs, rpm, deciding: [50, 79], fwhm_rpm: 100 }));
    const inside = c.difference_pct.slice(50, 80);
    expect(inside.reduce((s, v) => s + v, 0) / 30).toBeCloseTo(c.estimate, 9);
    // 1 + 3950 rpm over 250: as many places as hang together are independent, and the band holds at all of them.
    expect(c.factor).toBeCloseTo(normalQuantile(1 - 0.025 / 16.8) / 1.959964, 5);
    expect(c.factor).toBeCloseTo(1.516, 2);
    // Where the runs agree on the shape, the band is the interval's width times that, everywhere.
    const level = runs.map((r, i) => ({ side: r.side, curve_pct: rpm.map(() => (r.side === 'B' ? 1 : 0) + 0.2 * ((i * 7) % 5)) }));
    const flat = must(inferCurve({ runs: level, rpm, deciding: [50, 79], fwhm_rpm: 100 }));
    flat.halfWidth_pct.forEach((h) => expect(h).toBeCloseTo(((flat.high - flat.low) / 2) * flat.factor, 9));
    expect(Math.min(...c.halfWidth_pct)).toBeGreaterThan(((c.high - c.low) / 2) * c.factor);
  });
});

describe('planning', () => {
  it('more stays, days and runs never tell less, and money counts them', () => {
    const { plans } = designStudy({ effect: 1.5, costs: { perHour: 100, perRun: 5 } });
    for (const p of plans)
      for (const q of plans.filter((x) => x.order === p.order && x.visits === p.visits && x.runsPerStay > p.runsPerStay)) {
        expect(q.halfWidth).toBeLessThan(p.halfWidth);
        expect(q.money).toBeGreaterThan(p.money);
      }
    expect(plannedRuns('A-B-B-A', 2, 1).map((r) => `${r.side}${r.newStay ? '*' : ''}`)).toEqual([
      'A*',
      'A',
      'B*',
      'B',
      'B*',
      'B',
      'A*',
      'A',
    ]);
  });

  it('recommends nothing when nothing has a good chance', () => {
    expect(designStudy({ effect: 0.6, visits: [1] }).recommended).toBeNull();
    expect(designStudy({ effect: 0.2, visits: [1], orders: ['A-B'], threshold: 0.1 }).recommended).toBeNull();
  });

  it('a shop that repeats well tells with less', () => {
    const good = Array.from({ length: 6 }, (_, s) => {
      const random = seededRandom(s + 1);
      return { runs: study('AABBAABB', (i) => ([2, 3, 6, 7].includes(i) ? 1 : 0) + 0.12 * gaussian(random)) };
    });
    const own = must(historyOf({ studies: good }));
    expect(own.run).toBeLessThan(RIG_ROWS.dyno.run / 2);
    expect(own.known.run).toBe('measured');
    const chance = (history?: readonly number[]) =>
      designStudy({ effect: 1, orders: ['A-B-A-B'], runsPerStay: [3], visits: [1], history }).plans[0]!.pRight;
    expect(chance(own.logL)).toBeGreaterThan(chance() + 0.2);
  });
});

describe('what would tell next', () => {
  const open = study('AAABBB', (i) => (i > 2 ? 0.9 : 0) + 0.05 * (i % 3));

  it('a stay of the other side tells more than a run more of this one', () => {
    const n = must(nextStay({ runs: open, costs: { perHour: 100 } }));
    const of = (step: string) => n.options.find((o) => o.step === step)!;
    expect(of('stay').pWord).toBeGreaterThan(of('run').pWord);
    expect(of('twoStays').halfWidth).toBeLessThan(of('stay').halfWidth);
    expect(of('visit A-B-A').money).toBeGreaterThan(of('twoStays').money);
  });

  it('goes for passes in their air and for runs on their ground', () => {
    const passes = open.map((r, i) => ({ ...r, value: 45 + 0.1 * r.value, densityAltitude_m: 300 - 10 * i }));
    expect(must(nextStripStay({ runs: passes, measure: 'speed' })).options).toHaveLength(5);
    const road = must(nextRoadStay({ runs: open.map((r) => ({ ...r, value: 200 + r.value })) }));
    expect(road.options.every((o) => o.pWord >= 0 && o.pWord <= 1 + 1e-9)).toBe(true);
  });
});

describe('the shop’s own history', () => {
  it('adds up studies and baselines, and says how many', () => {
    const runs = study(
      'AAAA',
      (i) => 0.1 * (i % 2),
      (i) => ({ newStay: i === 2 }),
    );
    const logs = studyLikelihood(runs);
    if (isFailure(logs)) throw new Error(logs.error);
    expect(logs).toHaveLength(GRID_SIZE);
    const shop = shopHistoryOf([{ dyno: logs }, { dyno: logs, stripTime: logs }, {}]);
    expect(shop.dyno).toMatchObject({ studies: 2 });
    expect(shop.stripTime).toMatchObject({ studies: 1 });
    expect(shop.stripSpeed).toBeUndefined();
    expect(Object.keys(historyLogs(shop))).toEqual(['dyno', 'stripTime']);
    expect(historyLogs(null)).toEqual({});
    expect(historyOf({ logs: [[1, 2]] })).toMatchObject({ error: 'bad_input' });
    expect(studyLikelihood([])).toMatchObject({ error: 'too_few_runs' });
  });
});

describe('by simulation', () => {
  // A thousand each by `npm run trust`.
  const trials = 40;
  const bound = (share: number): number => share + 3 * Math.sqrt((share * (1 - share)) / trials);

  it.each(TROUBLES.filter((t) => !t.order.includes('|')).map((t) => [t.name, t] as const))(
    'no word is false more often than stated, and the interval holds the truth: %s',
    (_name, t) => {
      let [wrong, covered] = [0, 0];
      for (let trial = 0; trial < trials; trial += 1) {
        const a = must(inferSides({ runs: troubledRuns(t, seededRandom(977 + trial)) }));
        if (t.effect === 0 ? a.word === 'gain' || a.word === 'loss' : a.word === 'loss' || a.word === 'no difference that matters')
          wrong += 1;
        if (a.low <= t.effect && t.effect <= a.high) covered += 1;
      }
      expect(wrong / trials).toBeLessThanOrEqual(bound(0.06));
      expect(covered / trials).toBeGreaterThanOrEqual(1 - bound(0.07));
    },
  );

  it('a part that goes with a day is hardly ever a gain or a loss', () => {
    const t = TROUBLES.find((x) => x.order.includes('|') && x.name.startsWith('stock'))!;
    let wrong = 0;
    for (let trial = 0; trial < trials; trial += 1) {
      const a = must(inferSides({ runs: troubledRuns(t, seededRandom(31 + trial)) }));
      if (a.word === 'gain' || a.word === 'loss') wrong += 1;
    }
    expect(wrong / trials).toBeLessThanOrEqual(bound(0.06));
  });
});
