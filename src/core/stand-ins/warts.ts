import { seededRandom } from '../numbers/random';

/** A table of figures before it is written: what a reader must get back. */
export interface PlainTable {
  readonly names: readonly string[];
  readonly units: readonly string[];
  readonly rows: readonly (readonly (number | null)[])[];
}

export interface WartFile {
  readonly fileName: string;
  readonly bytes: Uint8Array<ArrayBuffer>;
  /** What must come out, or why nothing may. */
  readonly truth: PlainTable | { readonly refused: string };
}

type Encoding = 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252';

interface Writing {
  readonly delimiter: string;
  readonly decimal: '.' | ',';
  readonly newline: string;
  readonly encoding: Encoding;
  readonly bom: boolean;
  readonly units: 'row' | 'brackets' | 'parentheses' | 'none';
  readonly header: boolean;
  readonly preamble: readonly string[];
  readonly quote: boolean;
  readonly trailing: boolean;
  readonly pad: boolean;
  readonly lastNewline: boolean;
}

const PLAIN: Writing = {
  delimiter: ',',
  decimal: '.',
  newline: '\n',
  encoding: 'utf-8',
  bom: false,
  units: 'parentheses',
  header: true,
  preamble: [],
  quote: false,
  trailing: false,
  pad: false,
  lastNewline: true,
};

function encode(text: string, encoding: Encoding, bom: boolean): Uint8Array<ArrayBuffer> {
  if (encoding === 'utf-8') return new Uint8Array(new TextEncoder().encode(bom ? `\uFEFF${text}` : text));
  if (encoding === 'windows-1252') return Uint8Array.from(text, (c) => c.charCodeAt(0) & 0xff);
  const units = bom ? `\uFEFF${text}` : text;
  const out = new Uint8Array(units.length * 2);
  for (let i = 0; i < units.length; i += 1) {
    const code = units.charCodeAt(i);
    out[2 * i + (encoding === 'utf-16le' ? 0 : 1)] = code & 0xff;
    out[2 * i + (encoding === 'utf-16le' ? 1 : 0)] = code >> 8;
  }
  return out;
}

const number = (v: number | null, decimal: string): string => (v === null ? '' : String(v).replace('.', decimal));

/** The lines of a table under one way of writing. */
function linesOf(table: PlainTable, w: Writing): string[] {
  const cell = (text: string): string => (w.quote ? `"${text}"` : w.pad ? text.padStart(9) : text);
  const line = (cells: readonly string[]): string => cells.map(cell).join(w.delimiter) + (w.trailing ? w.delimiter : '');
  const named = table.names.map((n, i) => {
    const unit = table.units[i]!;
    if (unit === '' || w.units === 'row' || w.units === 'none') return n;
    return w.units === 'brackets' ? `${n} [${unit}]` : `${n} (${unit})`;
  });
  return [
    ...w.preamble,
    ...(w.header ? [line(named)] : []),
    ...(w.header && w.units === 'row' ? [line(table.units)] : []),
    ...table.rows.map((r) => line(r.map((v) => number(v, w.decimal)))),
  ];
}

const textOf = (lines: readonly string[], w: Writing): string => lines.join(w.newline) + (w.lastNewline ? w.newline : '');

type Write = (table: PlainTable, seed: number) => { bytes: Uint8Array<ArrayBuffer>; truth: WartFile['truth'] };

/** A table written one way, read back as it is. */
const as =
  (change: Partial<Writing>, truth: (t: PlainTable) => PlainTable = (t) => t): Write =>
  (table) => {
    const w = { ...PLAIN, ...change };
    return { bytes: encode(textOf(linesOf(table, w), w), w.encoding, w.bom), truth: truth(table) };
  };

/** Lines changed after they were written. */
const bent =
  (
    bend: (lines: string[], table: PlainTable, seed: number) => string[],
    truth: (t: PlainTable, seed: number) => WartFile['truth'] = (t) => t,
    change: Partial<Writing> = {},
  ): Write =>
  (table, seed) => {
    const w = { ...PLAIN, ...change };
    return { bytes: encode(textOf(bend(linesOf(table, w), table, seed), w), w.encoding, w.bom), truth: truth(table, seed) };
  };

const refused =
  (make: (table: PlainTable, seed: number) => Uint8Array, reason: string): Write =>
  (table, seed) => ({ bytes: new Uint8Array(make(table, seed)), truth: { refused: reason } });

const nameless = (t: PlainTable): PlainTable => ({ ...t, names: t.names.map((_, i) => `column ${i + 1}`), units: t.units.map(() => '') });
const unitless = (t: PlainTable): PlainTable => ({ ...t, units: t.units.map(() => '') });
const withRows = (t: PlainTable, rows: PlainTable['rows']): PlainTable => ({ ...t, rows });
const holed = (t: PlainTable, row: number, col: number): PlainTable =>
  withRows(
    t,
    t.rows.map((r, i) => (i === row ? r.map((v, c) => (c === col ? null : v)) : r)),
  );
const middle = (t: PlainTable): number => Math.floor(t.rows.length / 2);
const concat = (...parts: readonly Uint8Array[]): Uint8Array<ArrayBuffer> => {
  const out = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const p of parts) {
    out.set(p, at);
    at += p.length;
  }
  return out;
};
const file = (table: PlainTable, change: Partial<Writing> = {}): Uint8Array<ArrayBuffer> => as(change)(table, 0).bytes;

/** A cell of a row replaced by words. */
const word = (text: string): Write =>
  bent(
    (lines, t) =>
      lines.map((l, i) =>
        i === 1 + middle(t)
          ? l
              .split(',')
              .map((c, k) => (k === 1 ? text : c))
              .join(',')
          : l,
      ),
    (t) => holed(t, middle(t), 1),
  );

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
      const row = (f: (k: number) => string): string => Array.from({ length: 700 }, (_, k) => f(k)).join(',');
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
