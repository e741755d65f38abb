import { seededRandom } from '../numbers/random';
import {
  type PlainTable,
  type WartFile,
  PLAIN,
  encode,
  linesOf,
  textOf,
  type Write,
  as,
  bent,
  refused,
  nameless,
  unitless,
  withRows,
  holed,
  middle,
  concat,
  file,
  word,
} from './table-file';

interface Wart {
  readonly id: string;
  /** What is odd about the file, for a list to choose from. */
  readonly say: string;
  readonly extension: string;
  readonly write: Write;
}

const wart = (id: string, say: string, write: Write, extension = 'csv'): Wart => ({ id, say, extension, write });
const PREAMBLE = ['Made-up logger 3', 'Session: "hill, second run"', 'Car: Larkspur estate', ''];

/** Ways in which files come, each with what a reader must make of it. */
export const WARTS: readonly Wart[] = [
  wart('plain', 'nothing at all', as({})),
  wart('semicolon', 'semicolons', as({ delimiter: ';' })),
  wart('tab', 'tabs', as({ delimiter: '\t' }), 'txt'),
  wart('decimal-comma', 'semicolons and decimal commas', as({ delimiter: ';', decimal: ',' })),
  wart('tab-comma', 'tabs and decimal commas', as({ delimiter: '\t', decimal: ',' }), 'txt'),
  wart('crlf', 'line ends of two characters', as({ newline: '\r\n' })),
  wart('cr', 'line ends of a lone carriage return', as({ newline: '\r' })),
  wart('bom', 'a byte order mark', as({ bom: true })),
  wart('utf16le', 'UTF-16, little end first, marked', as({ encoding: 'utf-16le', bom: true, delimiter: '\t' }), 'txt'),
  wart('utf16be', 'UTF-16, big end first, marked', as({ encoding: 'utf-16be', bom: true, delimiter: ';' })),
  wart('utf16le-bare', 'UTF-16 without a mark', as({ encoding: 'utf-16le' })),
  wart('utf16be-bare', 'UTF-16, big end first, without a mark', as({ encoding: 'utf-16be' })),
  wart(
    'windows-1252',
    'Windows-1252 with umlauts above the table',
    as({ encoding: 'windows-1252', delimiter: ';', decimal: ',', preamble: ['Prüfstand Süd, Öltemperatur 90 °C', ''] }),
  ),
  wart('brackets', 'units in square brackets', as({ units: 'brackets' })),
  wart('units-row', 'a row of units under the names', as({ units: 'row' })),
  wart('no-units', 'no units anywhere', as({ units: 'none' }, unitless)),
  wart('no-header', 'no names at all', as({ header: false }, nameless)),
  wart('preamble', 'lines above the table', as({ preamble: PREAMBLE })),
  wart('preamble-figures', 'a line of figures above the table that is not of it', as({ preamble: ['12.5,3', 'some words about it', ''] })),
  wart('quoted', 'every cell in quotes', as({ quote: true })),
  wart('padded', 'cells filled up with blanks', as({ pad: true })),
  wart('trailing', 'a separator after the last cell', as({ trailing: true })),
  wart('no-last-newline', 'no line end after the last row', as({ lastNewline: false })),
  wart(
    'truncated',
    'the last line cut off in the middle',
    bent(
      (lines) => [...lines.slice(0, -1), lines.at(-1)!.slice(0, 2)],
      (t) => withRows(t, t.rows.slice(0, -1)),
      { lastNewline: false },
    ),
  ),
  wart(
    'blank-lines',
    'blank lines between the rows',
    bent((lines) => lines.flatMap((l, i) => (i > 0 && i % 7 === 0 ? ['', l] : [l]))),
  ),
  wart(
    'header-again',
    'the header again in the middle',
    bent((lines, t) => lines.flatMap((l, i) => (i === 1 + middle(t) ? [lines[0]!, l] : [l]))),
  ),
  wart(
    'header-thrice',
    'the header again and again',
    bent((lines) => lines.flatMap((l, i) => (i > 1 && i % 20 === 1 ? [lines[0]!, l] : [l]))),
  ),
  wart(
    'short-row',
    'a row with a cell too few',
    bent(
      (lines, t) => lines.map((l, i) => (i === 1 + middle(t) ? l.split(',').slice(0, -1).join(',') : l)),
      (t) =>
        withRows(
          t,
          t.rows.filter((_, i) => i !== middle(t)),
        ),
    ),
  ),
  wart(
    'long-row',
    'a row with cells too many',
    bent(
      (lines, t) => lines.map((l, i) => (i === 1 + middle(t) ? `${l},1,2` : l)),
      (t) =>
        withRows(
          t,
          t.rows.filter((_, i) => i !== middle(t)),
        ),
    ),
  ),
  wart(
    'remark',
    'a remark between the rows',
    bent((lines, t) => lines.flatMap((l, i) => (i === 1 + middle(t) ? ['marker: gear change', l] : [l]))),
  ),
  wart(
    'sums',
    'rows that sum the table up below it',
    bent((lines) => [...lines, 'Max,5600,101.2,2.1,28.4', 'Average,3800,92.1,0.1,26.2']),
  ),
  wart('word', 'a word among the figures', word('OVERRUN')),
  wart('nan', 'NaN among the figures', word('NaN')),
  wart('dash', 'a dash for nothing', word('-')),
  wart('na', 'n/a for nothing', word('n/a')),
  wart('unclosed-quote', 'a quote that is never closed', word('"lift')),
  wart('exponent', 'figures with exponents', (table) => ({
    bytes: new Uint8Array(
      new TextEncoder().encode(
        [linesOf(table, PLAIN)[0]!, ...table.rows.map((r) => r.map((v) => (v === null ? '' : v.toExponential(6))).join(',')), ''].join(
          '\n',
        ),
      ),
    ),
    truth: withRows(
      table,
      table.rows.map((r) => r.map((v) => (v === null ? null : Number(v.toExponential(6))))),
    ),
  })),
  wart(
    'thousands',
    'engine speed with thousands marks, in quotes',
    bent((lines) =>
      lines.map((l, i) =>
        i === 0
          ? l
          : l
              .split(',')
              .map((c, k) =>
                k === 1 && c !== '' && Number(c) >= 1000 ? `"${Number(c).toLocaleString('en-US', { maximumFractionDigits: 6 })}"` : c,
              )
              .join(','),
      ),
    ),
  ),
  wart(
    'clock',
    'time as minutes and seconds',
    bent((lines) =>
      lines.map((l, i) => {
        if (i === 0) return l;
        const [time, ...rest] = l.split(',');
        const t = Number(time);
        return [`${String(Math.floor(t / 60)).padStart(2, '0')}:${(t % 60).toFixed(2).padStart(5, '0')}`, ...rest].join(',');
      }),
    ),
  ),
  wart(
    'time-back',
    'a time that goes back',
    bent(
      (lines, t) => lines.map((l, i) => (i === 1 + middle(t) ? ['0', ...l.split(',').slice(1)].join(',') : l)),
      (t) =>
        withRows(
          t,
          t.rows.map((r, i) => (i === middle(t) ? [0, ...r.slice(1)] : r)),
        ),
    ),
  ),
  wart(
    'time-twice',
    'every time twice',
    bent(
      (lines) => lines.flatMap((l, i) => (i === 0 ? [l] : [l, l])),
      (t) =>
        withRows(
          t,
          t.rows.flatMap((r) => [r, r]),
        ),
    ),
  ),
  wart('mixed-rates', '10 Hz beside 100 Hz: most cells empty', (table) => {
    const thin = withRows(
      table,
      table.rows.map((r, i) => r.map((v, k) => (k > 1 && i % 10 !== 0 ? null : v))),
    );
    return as({})(thin, 0);
  }),
  wart('empty-column', 'a column with nothing in it', (table) =>
    as({})({ names: [...table.names, 'spare'], units: [...table.units, 'V'], rows: table.rows.map((r) => [...r, null]) }, 0),
  ),
  wart('twin-names', 'two columns of one name', (table) =>
    as({})(
      { names: [...table.names, table.names[1]!], units: [...table.units, table.units[1]!], rows: table.rows.map((r) => [...r, r[1]!]) },
      0,
    ),
  ),
  wart('one-column', 'one column', (table) =>
    as({})({ names: [table.names[1]!], units: [table.units[1]!], rows: table.rows.map((r) => [r[1]!]) }, 0),
  ),
  wart('one-column-comma', 'one column with decimal commas', (table) =>
    as({ delimiter: ';', decimal: ',', units: 'none' }, unitless)(
      { names: ['Leistung'], units: [''], rows: table.rows.map((r) => [(r[1] ?? 0) + 0.5]) },
      0,
    ),
  ),
  wart('many-columns', '500 columns', (table) =>
    as({})(
      {
        names: Array.from({ length: 500 }, (_, k) => `channel ${k + 1}`),
        units: Array.from({ length: 500 }, () => 'V'),
        rows: table.rows.slice(0, 60).map((r, i) => Array.from({ length: 500 }, (_, k) => Math.round(((r[1] ?? 0) + k + i) * 100) / 100)),
      },
      0,
    ),
  ),
  wart('two-rows', 'two rows only', (table) => as({})(withRows(table, table.rows.slice(0, 2)), 0)),
  wart('zero-tail', 'a tail of zero bytes the logger never wrote', (table) => ({
    bytes: concat(file(table), new Uint8Array(5000)),
    truth: table,
  })),
  wart('zero-inside', 'a zero byte inside a figure', (table) => {
    const lines = linesOf(table, PLAIN);
    const at = 1 + middle(table);
    const cells = lines[at]!.split(',');
    cells[1] = `${cells[1]![0]!}\0${cells[1]!.slice(1)}`;
    const text = textOf(
      lines.map((l, i) => (i === at ? cells.join(',') : l)),
      PLAIN,
    );
    return { bytes: encode(text, 'utf-8', false), truth: holed(table, middle(table), 1) };
  }),
  wart('wrong-extension', 'a table called .dat', as({ delimiter: '\t' }), 'dat'),
  wart(
    'endless-line',
    'a line of two million characters',
    bent((lines, t) => lines.flatMap((l, i) => (i === 1 + middle(t) ? ['x'.repeat(2_000_000), l] : [l]))),
  ),
  wart(
    'picture',
    'a picture called .csv',
    refused((_, seed) => concat(Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10), noise(seed, 3000)), 'not_text'),
  ),
  wart(
    'archive',
    'an archive called .csv',
    refused((_, seed) => concat(Uint8Array.of(0x50, 0x4b, 3, 4), noise(seed, 3000)), 'not_text'),
  ),
  wart(
    'binary',
    'bytes of no kind',
    refused(
      (_, seed) =>
        concat(
          Uint8Array.of(1, 0, 0, 0, 2, 0, 0, 7),
          noise(seed, 3000).map((b, i) => (i % 3 === 0 ? 0 : b)),
        ),
      'not_text',
    ),
  ),
  wart(
    'empty',
    'nothing in it',
    refused(() => new Uint8Array(0), 'empty_file'),
  ),
  wart(
    'white',
    'blanks and line ends only',
    refused(() => new TextEncoder().encode('  \n\t\n   \n'), 'empty_file'),
  ),
  wart(
    'zeros',
    'nothing but zero bytes',
    refused(() => new Uint8Array(4096), 'empty_file'),
  ),
  wart(
    'letter',
    'a letter, not a table',
    refused(() => new TextEncoder().encode('Dear shop,\n\nthe file will follow next week, promise.\n\nYours\n'), 'no_numeric_column'),
  ),
  wart(
    'header-only',
    'names and no figures',
    refused((t) => new TextEncoder().encode(`${linesOf(withRows(t, []), PLAIN).join('\n')}\n`), 'no_numeric_column'),
  ),
  wart(
    'too-wide',
    'more columns than are taken',
    refused(() => {
      const row = (f: (k: number) => string): string => Array.from({ length: 2100 }, (_, k) => f(k)).join(',');
      return new TextEncoder().encode([row((k) => `c${k}`), row(String), row(String), row(String), ''].join('\n'));
    }, 'too_many_cells'),
  ),
];

function noise(seed: number, n: number): Uint8Array {
  const random = seededRandom(seed);
  return Uint8Array.from({ length: n }, () => Math.floor(256 * random()));
}

/** A table written with one wart, and what a reader must make of it. */
export function wartFile(id: string, table: PlainTable, seed = 1): WartFile {
  const found = WARTS.find((w) => w.id === id);
  if (!found) throw new RangeError(`no wart ${id}`);
  return { fileName: `logger ${id}.${found.extension}`, ...found.write(table, seed) };
}
