import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { ChannelMap, Quantity } from '@/core/documents/run';
import { DOUBT_WORDS } from '@/core/read/doubt-words';
import { channelSI, columnFacts, guessChannels, isSettled, type GuessedChannel } from '@/core/read/guess';
import { columnValues, type ReadColumn, type ReadResult } from '@/core/read/result';
import { WARTS, wartFile } from '@/core/stand-ins/warts';
import { refusalText } from '@/core/read/refusal-text';
import { wartTable } from '../../../test/wart-table';
import { ShopFileReader } from './file-reader';

const DOCS = join(process.cwd(), 'docs/files-read.md');
const FOLDER = join(process.cwd(), 'verification/corpus');
interface Truth {
  readonly truth: Record<string, number[] | boolean> | string | null;
  readonly note: string;
}
const TRUTH = JSON.parse(readFileSync(join(FOLDER, 'truth.json'), 'utf8')) as Record<string, Truth>;

export function readShopFile(name: string, piece = 70_000): ReadResult {
  const bytes = readFileSync(join(FOLDER, name));
  const reader = new ShopFileReader();
  for (let at = 0; at < bytes.length; at += piece) reader.push(new Uint8Array(bytes.subarray(at, at + piece)));
  return reader.finish();
}

interface Read {
  readonly columns: readonly ReadColumn[];
  readonly guesses: readonly GuessedChannel[];
}

const KEYS: Readonly<Record<string, Quantity>> = { vac: 'boost', afr2: 'afr', 'boost|manifold pressure-g': 'boost' };

/** What became of one quantity of the truth. */
function verdictOf({ columns, guesses }: Read, key: string, truth: number[] | boolean): string {
  const quantity = KEYS[key] ?? (key as Quantity);
  const guess = guesses.find((g) => g.quantity === quantity);
  if (!guess) return guesses.some((g) => g.ask) ? 'asked' : 'missing';
  if (!isSettled(guess)) return 'asked';
  if (truth === true) return 'exact';
  const values = channelSI(columnValues(columns[guess.column]!), guess as ChannelMap);
  const expected = truth as number[];
  if (values.length !== expected.length) return `${values.length} rows for ${expected.length}`;
  const shift = quantity === 'time' ? values[0]! - expected[0]! : 0;
  const scale = quantity === 'throttle' ? 100 : 1;
  const worst = expected.reduce((m, t, i) => {
    const off = Math.abs(values[i]! - shift - t * scale);
    return Math.max(m, Number.isNaN(off) ? Infinity : off / Math.max(Math.abs(t * scale), quantity === 'time' ? 1 : 1e-9));
  }, 0);
  return worst < 0.003 ? 'exact' : `off by ${worst}`;
}

const files = readdirSync(FOLDER).filter((f) => f in TRUTH);

it('has a truth for every file', () => {
  expect(files.length).toBe(41);
});

/** What became of a file, in a word for the table of them. */
function became(name: string): string {
  const read = readShopFile(name);
  if (read.refused !== null) return `refused: ${refusalText(read)}`;
  const guesses = guessChannels(read.columns.map((c) => columnFacts(c)));
  const asked = guesses.filter((g) => g.ask).map((g) => `“${read.columns[g.column]!.name}”`);
  const told = [...new Set(guesses.flatMap((g) => (g.doubt && !g.ask && g.quantity !== 'other' ? [DOUBT_WORDS[g.doubt]] : [])))];
  const { container, unread = [], extraCells, pastMidnight, layout } = read.report;
  const notes = [
    ...(container ? [`from ${container}`] : []),
    ...(layout.thousands ? ['thousands by its mark'] : []),
    ...((extraCells?.count ?? 0) > 0 ? [`${extraCells!.count} rows with words behind the last column`] : []),
    ...(pastMidnight ? ['the clock runs past midnight'] : []),
    ...read.columns.filter((c) => c.made !== undefined).map((c) => c.made!),
    ...unread.map((u) => `not read: ${u}`),
    ...told,
  ];
  return [asked.length > 0 ? `asked about ${asked.join(', ')}` : 'exact', ...notes].join('; ');
}

it('is what the table in the docs says, which is made here', () => {
  const rows = files.map((f) => `| ${f} | ${became(f).replaceAll('|', '\\|')} |`);
  const warts = WARTS.map((w) => {
    const { truth } = wartFile(w.id, wartTable());
    return `| ${w.say} | ${'refused' in truth ? `refused (${truth.refused})` : 'exact'} |`;
  });
  const text = [
    '# Files that are read',
    '',
    'Made by the tests from what the reader does with them: run them with `UPDATE_DOCS=1` after a change. Exact: every value within 0.3 % of its truth. Asked about: nothing is taken for granted until somebody says. Refused: with the reason and the way out.',
    '',
    '## As shops have them',
    '',
    '| file | what becomes of it |',
    '| --- | --- |',
    ...rows,
    '',
    '## One oddity each, written by the stand-in',
    '',
    '| what is odd | what becomes of it |',
    '| --- | --- |',
    ...warts,
    '',
  ].join('\n');
  if (process.env['UPDATE_DOCS']) writeFileSync(DOCS, text);
  expect(readFileSync(DOCS, 'utf8')).toBe(text);
});

it.each(files)('%s is exact, asked about, or refused with the reason', (name) => {
  const read = readShopFile(name);
  const { truth } = TRUTH[name]!;
  if (read.refused !== null) {
    expect([null, 'gps'].includes(truth as string | null) || name.endsWith('.pdf')).toBe(true);
    expect(read.refused).toBe('not_text');
    return;
  }
  expect(truth).not.toBeNull();
  const guesses = guessChannels(read.columns.map((c) => columnFacts(c)));
  if (typeof truth === 'string') {
    expect(guesses.map((g) => g.quantity)).toEqual(expect.arrayContaining(['time', 'speed', 'altitude']));
    return;
  }
  const found = Object.fromEntries(
    Object.entries(truth!).map(([key, t]) => [key, verdictOf({ columns: read.columns, guesses }, key, t as number[])]),
  );
  for (const [key, verdict] of Object.entries(found)) expect(`${key} ${verdict}`).toMatch(/ (exact|asked)$/);
  // Nothing of these is to be asked about: the file says it, or the law of power and torque does.
  expect(guesses.filter((g) => g.ask).map((g) => read.columns[g.column]!.name)).toEqual([]);
});
