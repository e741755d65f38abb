import { capital } from '@/core/cut-text';
import { preambleFacts } from '@/core/read/preamble';
import type { ImportReport } from '@/core/read/result';

const count = (n: number, one: string, several: string): string => `${n.toLocaleString('en-US')} ${n === 1 ? one : several}`;

interface Alike {
  readonly count: number;
  readonly firstLine: number | null;
}
/** Where a number of lines are alike: how many, and the first. */
const many = (of: Alike | undefined, words: (count: number) => string): string | false =>
  of !== undefined && of.count > 0 && `${words(of.count)}, first in line ${of.firstLine}`;

const MOST_NAMES = 8;
const listed = (names: readonly string[]): string =>
  names.length <= MOST_NAMES ? names.join(', ') : `${names.slice(0, MOST_NAMES).join(', ')} and ${names.length - MOST_NAMES} more`;

/** How the table was laid out. */
function usualOf({ rows, encoding, layout, setWithBlanks }: ImportReport): string[] {
  return [
    count(rows, 'row', 'rows'),
    encoding,
    setWithBlanks ? 'set with blanks' : { ',': 'commas', ';': 'semicolons', '\t': 'tabs', '|': 'bars' }[layout.delimiter],
    layout.decimal === ',' ? 'decimal commas' : 'decimal points',
    layout.headerLine === null ? 'no names' : `names in line ${layout.headerLine}`,
    `figures from line ${layout.dataLine}`,
  ];
}

/** What of a file was not as usual. */
function oddOf(report: ImportReport): string[] {
  const { layout, firstTextCell: first } = report;
  const above = preambleFacts(layout.preamble);
  return [
    report.container && `from ${report.container}`,
    layout.thousands && `figures such as 6${layout.thousands}400 read as thousands`,
    many(report.extraCells, (n) => `${count(n, 'row has', 'rows have')} words behind the last column`),
    many(report.missingCells, (n) => `${count(n, 'row lacks', 'rows lack')} cells at ${n === 1 ? 'its' : 'their'} end`),
    above.guessed.length > 0 && `above the table, without a unit: ${listed(above.guessed)}`,
    above.unread.length > 0 && `above the table, not understood and not in the record: ${listed(above.unread)}`,
    above.unused.length > 0 && `above the table, not used: ${listed(above.unused)}`,
    report.pastMidnight && 'the clock runs past midnight and is counted on',
    report.unread && report.unread.length > 0 && `not read: ${report.unread.join(', ')}`,
    report.emptyCells > 0 && count(report.emptyCells, 'empty cell', 'empty cells'),
    report.textCells > 0 &&
      `${count(report.textCells, 'cell', 'cells')} with words${first ? `, first “${first.text}” in ${first.column}, line ${first.line}` : ''}`,
    report.blankLines > 0 && count(report.blankLines, 'blank line', 'blank lines'),
    report.zeroBytes && count(report.zeroBytes, 'zero byte', 'zero bytes'),
    many(report.timeBack, (n) => `time goes back ${count(n, 'time', 'times')}`),
    report.timeRepeated && report.timeRepeated.count > 0 && count(report.timeRepeated.count, 'repeated time', 'repeated times'),
  ].filter((t): t is string => typeof t === 'string' && t !== '');
}

/** What the reader made of a file, in sentences: how it is laid out, what was odd about it, what was left out. */
export function reportText(report: ImportReport): string {
  const odd = oddOf(report);
  const left = report.skippedTotal;
  return [
    `${usualOf(report).join(', ')}.`,
    ...(odd.length > 0 ? [`${capital(odd.join('; '))}.`] : []),
    left === 0 ? 'No line was left out.' : `${count(left, 'line was', 'lines were')} left out:`,
  ].join(' ');
}
