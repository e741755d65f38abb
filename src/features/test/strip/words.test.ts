import fc from 'fast-check';
import { analyseStrip } from '@/core/strip/analyse';
import type { MeasuredEffect, StripAnalysis, StripWarning } from '@/core/strip/analysis';
import { stripBook, stripOf, UNIT_ID } from '../../../../test/facts';
import { fieldName, intervalText, issueWords, measureText, movedWords, pairLimits, stripAnswer, airWords, warningWords } from './words';

const FEET = { marks: 'feet', speeds: 'mph' } as const;
const METRES = { marks: 'metres', speeds: 'kmh' } as const;

it('names a slip’s fields as its track prints them', () => {
  expect(fieldName('t18_s', FEET)).toBe('60 ft');
  expect(fieldName('t18_s', METRES)).toBe('18 m');
  expect(fieldName('t402_s', FEET)).toBe('¼ mile');
  expect(fieldName('v402_mps', FEET)).toBe('¼ mile, mph');
  expect(fieldName('v402_mps', METRES)).toBe('402 m, km/h');
  expect(fieldName('reaction_s', METRES)).toBe('reaction');
});

it.each([
  [{ code: 'order', after: 't100_s', than_s: 5.123 }, /^Later marks take longer: 330 ft was 5\.123 s already/],
  [{ code: 'too_fast', speed_mps: 150, from_m: 18.3, to_m: 100.6 }, /540 km\/h on average between 18 and 101 m/],
  [{ code: 'too_slow', speed_mps: 1 }, /walking pace \(4 km\/h\)/],
  [{ code: 'trap_high', most_mps: 50 }, /More than 180 km\/h/],
  [{ code: 'lifted', expected_mps: 40 }, /144 km\/h.*kept, and marked/],
  [{ code: 'trap_low', expected_mps: 40 }, /before the line\? It is kept, and marked/],
  [{ code: 'reaction' }, /between −2 and 10 s/],
])('says of a mistake what it is and how to mend it: %j', (issue, said) => {
  expect(issueWords(issue as Parameters<typeof issueWords>[0], FEET, 'metric')).toMatch(said);
});

it('speaks of speeds in the reader’s unit and of times in seconds, a sign on every difference', () => {
  expect(measureText('trap_mps', 40, 'metric')).toBe('144.00 km/h');
  expect(measureText('trap_mps', 40, 'us')).toBe('89.48 mph');
  expect(measureText('trap_mps', 0.5, 'metric', true)).toBe('+1.80 km/h');
  expect(measureText('et_s', -0.0762, 'us', true)).toBe('−0.076 s');
  expect(measureText('sixty_s', 2.1, 'us')).toBe('2.100 s');
});

it('says an interval’s unit once, and its ends are those of the figures alone', () => {
  expect(intervalText('trap_mps', -0.1, 0.4, 'metric')).toBe('−0.36 to +1.44 km/h');
  expect(intervalText('et_s', -0.169, 0.018, 'us')).toBe('−0.169 to +0.018 s');
  fc.assert(
    fc.property(
      fc.constantFrom('trap_mps' as const, 'et_s' as const, 'sixty_s' as const),
      fc.constantFrom('metric' as const, 'us' as const, 'mixed' as const),
      fc.double({ min: -3, max: 3, noNaN: true }),
      fc.double({ min: 0, max: 3, noNaN: true }),
      (measure, pack, low, more) => {
        const text = intervalText(measure, low, low + more, pack);
        const [a, b] = text.split(' to ');
        expect(measureText(measure, low, pack, true).startsWith(a!)).toBe(true);
        expect(b).toBe(measureText(measure, low + more, pack, true));
      },
    ),
  );
});

it('says how alike two matched passes are in the reader’s units', () => {
  expect(pairLimits('metric')).toBe('30 m of density altitude and 5 °C');
  expect(pairLimits('us')).toBe('98 ft of density altitude and 9 °F');
});

it('names the part of the run that moved, better and worse apart', () => {
  expect(movedWords([])).toBe('');
  expect(movedWords([{ part: 'power', better: true }])).toBe('Better in power (the trap speed).');
  expect(
    movedWords([
      { part: 'launch', better: true },
      { part: 'traction', better: true },
      { part: 'power', better: false },
    ]),
  ).toBe('Better in the launch (60 ft) and traction and gearing (60 to 330 ft). Worse in power (the trap speed).');
});

it('says whether the air was taken out', () => {
  const e = { perMetre: null } as MeasuredEffect;
  expect(airWords(e)).toMatch(/nothing was taken out/);
  expect(airWords({ ...e, perMetre: 1e-4 })).toMatch(/as a column/);
});

it.each<[StripWarning, RegExp]>([
  [{ code: 'sides_by_day' }, /^Stock was run on one day and the new throttle on another/],
  [{ code: 'one_stay' }, /changed once only/],
  [{ code: 'lane', a: 'left', b: 'right' }, /mostly in the left lane, the new throttle in the right/],
  [{ code: 'mass', apart_kg: 32 }, /32 kg more on the new side/],
  [{ code: 'tyre', apart: -20_000 }, /less on the new side/],
  [{ code: 'launch', apart: 400 }, /400 rpm more on the new side/],
  [{ code: 'coolant', apart: -7 }, /7\.0 °C cooler|7\.0 K cooler/],
  [{ code: 'inlet', apart: 9 }, /warmer on the new side/],
  [{ code: 'no_air', passes: 1 }, /^1 pass without air/],
  [{ code: 'distances', others: [{ distance: 'eighth', passes: 3 }] }, /^3 passes over the ⅛ mile stand for themselves/],
])('what went with the sides is a sentence: %j', (warning, said) => {
  expect(warningWords(warning, 'metric')).toMatch(said);
});

describe('the answer', () => {
  const analysis = stripOf(10, 0.06);
  const trap = analysis.effects.trap_mps as MeasuredEffect;
  const with_ = (more: Partial<StripAnalysis>): StripAnalysis => ({ ...analysis, ...more });
  const answered = (answer: Partial<MeasuredEffect['answer']>): StripAnalysis =>
    with_({ effects: { ...analysis.effects, trap_mps: { ...trap, answer: { ...trap.answer, ...answer } as MeasuredEffect['answer'] } } });

  it('without passes says how to begin', () => {
    expect(stripAnswer(null, 'Fenwick 66', 'metric', String).answer).toMatch(/^No passes yet/);
    expect(stripAnswer(with_({ passes: [] }), 'Fenwick 66', 'metric', String).answer).toMatch(/^No passes yet/);
  });

  it.each([
    ['gain', 0.4, 'Gain: Fenwick 66 is 1.44 km/h faster in trap speed.'],
    ['loss', -0.4, 'Loss: Fenwick 66 is 1.44 km/h slower in trap speed.'],
    ['no difference that matters', 0.01, 'No difference that matters: Fenwick 66 is 0.04 km/h faster in trap speed.'],
  ] as const)('of %s says how much and which way', (answer, difference, said) => {
    const out = stripAnswer(
      answered({ word: answer, estimate: difference, low: difference - 0.1, high: difference + 0.1 }),
      'Fenwick 66',
      'metric',
      String,
    );
    expect(out.answer).toBe(said);
    expect(out.reason).toMatch(/^95 % interval .* km\/h from 5 stock and 5 new passes/);
  });

  it('that cannot be told yet shows its interval, what carries it, and what would tell', () => {
    const open = analyseStrip(stripBook(4, 0.01), { kind: 'na', unitId: UNIT_ID, costs: { run_min: 30 } });
    const out = stripAnswer(open, 'Fenwick 66', 'metric', (v) => `€${v}`);
    expect(out.answer).toMatch(/^Can’t tell yet: Fenwick 66 is \d\.\d\d km\/h \w+ in trap speed, .* to .* km\/h\.$/);
    expect(out.reason).toMatch(/^From 2 stock and 2 new passes in 4 stays, .* alone could make ±.* km\/h/);
    expect(out.reason).toMatch(/Cheapest that is as likely as not|Nothing within one more visit/);
  });

  it('goes by the time where no speed was printed', () => {
    const none = { error: 'too_few_passes' } as const;
    const out = stripAnswer(with_({ effects: { ...analysis.effects, trap_mps: none } }), 'Fenwick 66', 'metric', String);
    expect(out.answer).toMatch(/Fenwick 66 is \d\.\d{3} s sooner at the line/);
  });

  it('of one side alone says which is missing, and of two distances that they are not one', () => {
    const none = { error: 'too_few_passes' } as const;
    const bare = { effects: { trap_mps: none, et_s: none, sixty_s: none } };
    expect(stripAnswer(with_({ ...bare, countB: 0 }), 'x', 'metric', String).answer).toBe(
      '10 passes so far, none with the new throttle on.',
    );
    expect(stripAnswer(with_({ ...bare, countA: 0 }), 'x', 'metric', String).answer).toBe(
      '10 passes so far, none with the stock throttle on.',
    );
    const few = stripAnswer(with_({ ...bare, countA: 1, countB: 1 }), 'x', 'metric', String);
    expect(few.answer).toBe('1 stock and 1 new pass, but no distance that both have driven.');
  });
});
