import { comparedSides } from '../../../test/facts';
import type { NextAnswer } from '@/core/inference/next';
import type { Fault, Reason } from '@/core/verdict/advice';
import { ADVICE_TITLES, faultWords, reasonWords, verdictAnswer } from './words';

const gain = comparedSides(0, 0.03);
const step = { step: 'stay', runs: 3, hours: 0.8, money: 96, pWord: 0.54, pNoDifference: 0, halfWidth: 1.1 } as const;
const next: NextAnswer = { word: "can't tell yet", options: [step], best: 0, bestChance: 0 };
const top = gain.thirds.find((t) => t.id === 'top')!;

it.each<[Fault, RegExp]>([
  [{ code: 'idle_hunts', every_s: 2.5, by_rpm: 80 }, /hunts every 2\.5 s by ±80 rpm.*relearn it, then look for a leak/],
  [{ code: 'idle_rough', spread_rpm: 60, was_rpm: 25 }, /±60 rpm against ±25 rpm on stock/],
  [{ code: 'lazy', air_s: 0.31, was_s: 0.2 }, /0\.31 s against 0\.20 s\. Look at the pedal map/],
  [{ code: 'idle_floor', floor_rpm: 1100, idle_rpm: 850 }, /1,100 rpm, above the idle of 850 rpm: set the stop, or close the gap/],
  [{ code: 'lip', overhang_m: 0.004 }, /0\.3150 in wider than the manifold, half of that on each side: bore the manifold to match/],
])('every fault says what to do about it: %j', (fault, said) => {
  expect(faultWords(fault, 'us')).toMatch(said);
  expect(reasonWords({ code: 'fault', fault }, 'us')).toBe(faultWords(fault, 'us'));
});

it.each<[Reason, RegExp]>([
  [{ code: 'nothing_run' }, /^Nothing has been run on both sides yet\.$/],
  [
    { code: 'unfair', confounder: { code: 'other_record', field: 'tune', a: 'as it came', b: 'retimed', odd: [] } },
    /^The dyno comparison is unfair and decides nothing: tune differs: stock ran with as it came/,
  ],
  [{ code: 'dyno', word: 'gain', stretch: top, threshold_pct: 0.5 }, /^Dyno: gain of \+3\.0 % over the top third \(95 % interval /],
  [
    { code: 'dyno', word: 'no difference that matters', stretch: top, threshold_pct: 0.5 },
    /^Dyno: no difference that matters over the top third, \+3\.0 % and surely within ±0\.5 %\.$/,
  ],
  [{ code: 'dyno', word: "can't tell yet", stretch: top, threshold_pct: 0.5 }, /^Dyno: can’t tell yet, \+3\.0 % over the top third/],
  [{ code: 'clear', comparison: gain }, /^Over the range: gain above 5,\d\d0 rpm, nothing sure below\.$/],
  [{ code: 'used', stretch: top }, /^In the rev band between shifts \(5,\d{3} to 6,\d{3} rpm\): \+3\.0 %/],
  [
    { code: 'strip', word: "can't tell yet", trap_mps: 0.2, low_mps: -0.1, high_mps: 0.5, passes: 11 },
    /^Strip: can’t tell yet, \+0\.45 mph in trap speed \(−0\.22 to \+1\.12 mph\) from 11 passes\.$/,
  ],
  [{ code: 'strip_moved', moved: [{ part: 'launch', better: true }] }, /^Where on the run: better in the launch \(60 ft\)\.$/],
  [
    { code: 'next_runs', next, last: 'B', low: -0.3, high: 2.1 },
    /^Dyno: cheapest that is as likely as not to tell: put stock on once more, for 3 more runs \(48 min, 96; 54 in 100\)\.$/,
  ],
  [
    { code: 'next_runs', next: { ...next, best: null }, last: 'A', low: -0.3, high: 2.1 },
    /^Dyno: nothing within one more visit is likely to tell .*treat the difference as at most −0\.3 % to \+2\.1 %\.$/,
  ],
  [{ code: 'next_passes', next, last: 'A', low: -0.1, high: 0.5 }, /^Strip: cheapest .* put the new part on once more, for 3 more passes/],
  [{ code: 'assumed', answer: gain.deciding.answer }, /^This rests on an assumption: .* alone could make ±\d\.\d %, by an assumed size/],
  [
    { code: 'rerun_cool', by_K: 10, worth_pct: -1.7 },
    /^Run it again cool: the inlet air was 18\.0 °F warmer with the new part, worth about −1\.7 %/,
  ],
  [{ code: 'predicted', predicted_pct: 1.5, measured_pct: 1.1, within: false }, /\+1\.5 %, the dyno \+1\.1 %: outside what was measured/],
  [
    { code: 'inlet', by_K: 4.06, worth_pct: -0.7 },
    /^Inlet air was 7\.3 °F warmer with the new part, worth about −0\.7 %: the true effect is that much better\.$/,
  ],
  [{ code: 'inlet', by_K: -4, worth_pct: 0.7 }, /7\.2 °F cooler .* that much worse\.$/],
  [{ code: 'elsewhere', part: 'airbox filter', gain_pct: 2.4 }, /^Spend the next money on the airbox filter: \+2\.4 % at peak\.$/],
])('every reason is a sentence in the reader’s units: %j', (reason, said) => {
  expect(reasonWords(reason, 'us')).toMatch(said);
});

describe('the verdict in one sentence', () => {
  type Report = Parameters<typeof verdictAnswer>[0];
  const report = (word: Report['word'], advice: { word: Report['word']; reasons: Reason[] }, facts: object = {}): Report =>
    ({ word, advice, unit: { doc: { name: 'Fenwick 66' } }, facts: { comparison: null, strip: null, ...facts } }) as unknown as Report;
  const dyno = (word: 'gain' | 'loss'): Reason => ({
    code: 'dyno',
    word,
    stretch: { ...top, mean_pct: word === 'gain' ? 1.1 : -1.1 },
    threshold_pct: 0.5,
  });
  const strip = (word: 'gain' | 'loss', v: number): Reason => ({
    code: 'strip',
    word,
    trap_mps: v,
    low_mps: v - 0.1,
    high_mps: v + 0.1,
    passes: 12,
  });

  it.each<[string, Report]>([
    ['Keep it: Fenwick 66 gained +1.1 % over the top third.', report('keep', { word: 'keep', reasons: [dyno('gain')] })],
    ['Keep it: Fenwick 66 is +1.08 km/h in trap speed.', report('keep', { word: 'keep', reasons: [strip('gain', 0.3)] })],
    [
      'Keep it, but put something right: Fenwick 66 gained +1.1 % over the top third.',
      report('fix', { word: 'fix', reasons: [dyno('gain')] }),
    ],
    ['Go back to stock: Fenwick 66 lost −1.1 % over the top third.', report('back', { word: 'back', reasons: [dyno('loss')] })],
    ['Go back to stock: Fenwick 66 is −1.08 km/h in trap speed.', report('back', { word: 'back', reasons: [strip('loss', -0.3)] })],
    ['Go back to stock: Fenwick 66 makes no difference that matters.', report('back', { word: 'back', reasons: [] })],
    ['Test more: nothing has been run yet.', report('more', { word: 'more', reasons: [{ code: 'nothing_run' }] })],
    ['Test more: these tests cannot tell yet.', report('more', { word: 'more', reasons: [] }, { strip: {} })],
    ['Keep it: decided by hand.', report('keep', { word: 'back', reasons: [] })],
  ])('%s', (said, of) => {
    expect(verdictAnswer(of, 'metric').answer).toBe(said);
  });

  it('never boasts of an unfair comparison, and gives its first two reasons beneath', () => {
    const unfair: Reason = { code: 'unfair', confounder: { code: 'other_record', field: 'fuel', a: '95', b: '98', odd: [] } };
    const out = verdictAnswer(
      report(
        'more',
        { word: 'more', reasons: [unfair, { code: 'next_runs', next, last: 'B', low: 0, high: 1 }, dyno('gain')] },
        { comparison: gain },
      ),
      'metric',
    );
    expect(out.answer).toBe('Test more: the comparison is not a fair one.');
    expect(out.reason).toMatch(/^The dyno comparison is unfair .* Dyno: cheapest that is as likely as not to tell: .*$/);
  });

  it('has a title for each advice', () => {
    expect(Object.values(ADVICE_TITLES).every((t) => /^[A-Z]/.test(t))).toBe(true);
    expect(new Set(Object.values(ADVICE_TITLES)).size).toBe(4);
  });
});
