import { ledgerScore } from './ledger';

const entry = (source: string, predicted: number, measured: number, half = 1) => ({
  source,
  predicted,
  low: predicted - half,
  high: predicted + half,
  measured,
});

it('scores each source by its own guesses, in the order they came', () => {
  const scores = ledgerScore([entry('Maud', 10, 8), entry('model', 9, 8.5), entry('Maud', 6, 8)]);
  expect(scores).toEqual([
    { source: 'Maud', count: 2, bias: 0, meanAbsoluteError: 2, hitRate: 0 },
    { source: 'model', count: 1, bias: 0.5, meanAbsoluteError: 0.5, hitRate: 1 },
  ]);
});

it('the ends of a range belong to it', () => {
  expect(ledgerScore([entry('a', 10, 11), entry('a', 10, 9), entry('a', 10, 11.001)])[0]!.hitRate).toBeCloseTo(2 / 3, 12);
});

it('nothing guessed, nothing scored', () => {
  expect(ledgerScore([])).toEqual([]);
});
