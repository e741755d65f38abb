import { resolvedInlet, tried } from '@/core/job/wave-inlet';
import { presetJob } from '@/core/job/presets';
import { shader } from './shades';
import { coarseCurve } from '../../../../test/waves';
import { effectSentence, expectedWithWaves, triedWords } from './words';

const { figures } = resolvedInlet(presetJob('car', 'four, 2.0 L four-valve'));
const range = [2000, 7000] as const;

describe('the answer of the waves', () => {
  it('names what is tried', () => {
    const as = (trial: object): string =>
      triedWords(figures, tried(figures, { length_m: null, mouthBore_m: null, plenum_m3: null, ...trial }), 'metric');
    expect(as({ length_m: 0.31 })).toBe('A 310 mm runner');
    expect(as({ length_m: 0.31, plenum_m3: 0.004 })).toBe('A 310 mm runner with a plenum of 4.000 L');
    expect(as({ mouthBore_m: 0.05 })).toBe('A mouth of 50.0 mm');
  });

  it.each([
    ['no difference', [1, 1.002, 0.999, 1, 1.001, 1], 'A 310 mm runner makes no difference that matters at any speed.'],
    ['a middle that gains', [1, 1.02, 1.02, 1, 1, 1], 'A 310 mm runner fills the engine 2.0 % better from 3,000 to 4,000 rpm.'],
    [
      'a middle that gains and a top that costs',
      [1, 1.03, 1.03, 1, 0.98, 0.98],
      'A 310 mm runner fills the engine 3.0 % better from 3,000 to 4,000 rpm and 2.0 % worse above 6,000 rpm.',
    ],
    ['one speed alone', [1, 1.03, 1, 1, 1, 1], 'A 310 mm runner fills the engine 3.0 % better near 3,000 rpm.'],
    ['all of it', [0.97, 0.97, 0.97, 0.97, 0.97, 0.97], 'A 310 mm runner fills the engine 3.0 % worse at every speed.'],
  ])('says of %s what it is', (_, ratio, words) => {
    expect(effectSentence('A 310 mm runner', coarseCurve(ratio, range), range)).toBe(words);
  });
});

describe('what is expected with waves', () => {
  const waves = { asked: true, gain_pct: 3.42, done: true, own: false, assumed: 0 };
  it.each([
    ['nothing where nobody asked', { asked: false }, ''],
    ['that it is being worked out', { done: false, gain_pct: null }, 'The waves in the inlet are being computed.'],
    ['that it cannot be told', { gain_pct: null }, 'What the waves in the inlet do to it cannot be told: too few engine speeds came out.'],
    ['a figure', {}, 'With the waves in the inlet it is +3.4 % there.'],
    [
      'a figure to believe, and what it rests on',
      { own: true, gain_pct: -0.6, assumed: 1 },
      'With the waves in the inlet it is −0.6 % there: believe that figure, even flow says too little of a cylinder’s own gulps, and the day is sized for it. It rests on 1 assumed figure of the inlet (Air, Waves).',
    ],
  ])('%s', (_, more, words) => {
    expect(expectedWithWaves({ ...waves, ...more })).toBe(words);
  });
});

it('a shade is the middle at nothing, the ends at one and beyond', () => {
  const shade = shader('#000000', '#808080', '#ffffff');
  expect(shade(0)).toEqual([128, 128, 128]);
  expect(shade(-1)).toEqual([0, 0, 0]);
  expect(shade(3)).toEqual([255, 255, 255]);
  expect(shade(0.5)[0]).toBeGreaterThan(shade(0.2)[0]);
});
