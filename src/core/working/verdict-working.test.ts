import { gainCost } from '../verdict/cost';
import { FORMULAS } from './formulas';
import { costWorking, pooledWorking, predictedStripWorking, predictedWorking } from './verdict-working';

const gain = { gain_W: 2000, low_W: 1500, high_W: 2500, word: 'gain', fair: true } as const;

it('costs are added up and shared among the kilowatts', () => {
  const w = costWorking(gainCost({ unit: 385, otherParts: 38, fitting: 204, testing: 195 }, gain));
  const [together, per] = w.steps;
  expect(together!.terms.reduce((s, t) => s + t.value, 0)).toBe(together!.result.value);
  expect(together!.result.value).toBe(822);
  expect(per!.result.value).toBeCloseTo(411, 9);
  expect(per!.terms[1]).toMatchObject({ value: 2000, measure: 'power' });
});

it('a gain that is none costs nothing per kilowatt rather than something infinite', () => {
  const w = costWorking(
    gainCost({ unit: 100, otherParts: 0, fitting: 0, testing: 0 }, { gain_W: -500, low_W: -900, high_W: -100, word: 'loss', fair: true }),
  );
  expect(w.steps.at(-1)!.result.value).toBe(0);
});

it('a prediction is the mean of the model’s speeds inside the stretch, and of no others', () => {
  const p = {
    rpm: [2000, 3000, 4000, 5000, 6000],
    gain_pct: [0, 0, 1, 2, 3],
    stock_W: [40_000, 60_000, 80_000, 100_000, 110_000],
    other_W: [40_000, 60_000, 80_800, 102_000, 113_300],
    over: { whole: 0, low: 0, middle: 0, high: 0 },
  } as unknown as Parameters<typeof predictedWorking>[0];
  const w = predictedWorking(p, 4000, 6000, 'the top third');
  expect(w.title).toBe('Predicted, the top third');
  expect(w.steps[0]!.terms[0]!.value).toBeCloseTo(290_000 / 3, 6);
  expect(w.steps[0]!.result.value).toBeCloseTo(296_100 / 290_000 - 1, 12);
  expect(w.notes[0]).toContain('3 engine speeds');
});

it('what is predicted at the strip is shown in the measure’s own unit', () => {
  const w = predictedStripWorking('roadSpeed', 40, 0.018, 0.24);
  expect(w.steps[0]!.terms.map((t) => t.measure)).toEqual(['fineShare', 'roadSpeed']);
  expect(w.steps[0]!.result).toMatchObject({ value: 0.24, measure: 'roadSpeed' });
  expect(FORMULAS[w.steps[0]!.formula]).toBeDefined();
});

it('jobs pooled show how many they were and how far they differ', () => {
  const w = pooledWorking({
    jobs: [{}, {}, {}],
    pooled: { mean_pct: 1.4, low_pct: 0.6, high_pct: 2.2, between_pct: 0.4 },
  } as unknown as Parameters<typeof pooledWorking>[0]);
  expect(w.steps[0]!.terms.map((t) => t.value)).toEqual([3, 0.004]);
  expect(w.steps[0]!.result.value).toBeCloseTo(0.014, 12);
  expect(w.notes[0]).toContain('0.6 to 2.2 %');
});
