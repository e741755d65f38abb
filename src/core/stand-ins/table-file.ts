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

export const PLAIN: Writing = {
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

export function encode(text: string, encoding: Encoding, bom: boolean): Uint8Array<ArrayBuffer> {
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
export function linesOf(table: PlainTable, w: Writing): string[] {
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

export const textOf = (lines: readonly string[], w: Writing): string => lines.join(w.newline) + (w.lastNewline ? w.newline : '');

export type Write = (table: PlainTable, seed: number) => { bytes: Uint8Array<ArrayBuffer>; truth: WartFile['truth'] };

/** A table written one way, read back as it is. */
export const as =
  (change: Partial<Writing>, truth: (t: PlainTable) => PlainTable = (t) => t): Write =>
  (table) => {
    const w = { ...PLAIN, ...change };
    return { bytes: encode(textOf(linesOf(table, w), w), w.encoding, w.bom), truth: truth(table) };
  };

/** Lines changed after they were written. */
export const bent =
  (
    bend: (lines: string[], table: PlainTable, seed: number) => string[],
    truth: (t: PlainTable, seed: number) => WartFile['truth'] = (t) => t,
    change: Partial<Writing> = {},
  ): Write =>
  (table, seed) => {
    const w = { ...PLAIN, ...change };
    return { bytes: encode(textOf(bend(linesOf(table, w), table, seed), w), w.encoding, w.bom), truth: truth(table, seed) };
  };

export const refused =
  (make: (table: PlainTable, seed: number) => Uint8Array, reason: string): Write =>
  (table, seed) => ({ bytes: new Uint8Array(make(table, seed)), truth: { refused: reason } });

export const nameless = (t: PlainTable): PlainTable => ({
  ...t,
  names: t.names.map((_, i) => `column ${i + 1}`),
  units: t.units.map(() => ''),
});
export const unitless = (t: PlainTable): PlainTable => ({ ...t, units: t.units.map(() => '') });
export const withRows = (t: PlainTable, rows: PlainTable['rows']): PlainTable => ({ ...t, rows });
export const holed = (t: PlainTable, row: number, col: number): PlainTable =>
  withRows(
    t,
    t.rows.map((r, i) => (i === row ? r.map((v, c) => (c === col ? null : v)) : r)),
  );
export const middle = (t: PlainTable): number => Math.floor(t.rows.length / 2);
export const concat = (...parts: readonly Uint8Array[]): Uint8Array<ArrayBuffer> => {
  const out = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const p of parts) {
    out.set(p, at);
    at += p.length;
  }
  return out;
};
export const file = (table: PlainTable, change: Partial<Writing> = {}): Uint8Array<ArrayBuffer> => as(change)(table, 0).bytes;

/** A cell of a row replaced by words. */
export const word = (text: string): Write =>
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
