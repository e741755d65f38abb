import { columnFacts, guessChannels } from '../read/guess';
import { preambleFacts } from '../read/preamble';
import { TableReader } from '../read/reader';
import { columnValues } from '../read/result';
import { pictureRunCsv, readingError_pct } from './sheet-run';

const curve = {
  points: Array.from({ length: 400 }, (_, i) => ({ x: 2011 + 10 * i, y: 60 + 0.2 * i })),
  gaps: [[3020, 3180]] as const,
  error: 0.35,
};

it('a curve of a picture is a table that the reader knows for what it is', () => {
  const text = pictureRunCsv(curve, { picture: 'sheet 7.jpg', quantity: 'power', unit: 'hp', at: 'wheels', carried: 'SAE J1349' });
  const reader = new TableReader();
  reader.push(new TextEncoder().encode(text));
  const read = reader.finish();
  if (read.refused !== null) throw new Error(read.refused);
  const guesses = guessChannels(read.columns.map((c) => columnFacts(c)));
  expect(guesses).toMatchObject([
    { quantity: 'rpm', unit: 'rpm', ask: false },
    { quantity: 'power', unit: 'hp', ask: false, power: { at: 'wheels' } },
  ]);
  const rpm = [...columnValues(read.columns[0]!)];
  expect(rpm.slice(0, 2)).toEqual([2050, 2100]);
  // What was out of sight is not made up.
  expect(rpm.some((n) => n > 3020 && n < 3180)).toBe(false);
  const facts = preambleFacts(read.report.layout.preamble);
  expect(facts).toMatchObject({ measuredAt: 'wheels', carried: 'SAE J1349', picture: { name: 'sheet 7.jpg' } });
  expect(facts.picture!.error_pct).toBeCloseTo(readingError_pct(curve), 3);
});

it('the reading error is a share of the upper figures', () => {
  expect(readingError_pct(curve)).toBeCloseTo((100 * 0.35) / (60 + 0.2 * 266), 3);
});
