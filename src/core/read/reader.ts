import { cutText } from '../cut-text';
import { MOST_CHANNELS } from '../documents/kinds';
import { cellNumber, cellWithWord, isClock, isNothing, scanCell, type CellScan } from './cell';
import { AsLines, LONGEST_LINE } from './as-lines';
import { scanRow } from './row';
import { GrowingColumn } from './column';
import { joinedBytes } from './bytes';
import { LineEnds } from './line-ends';
import { derivedColumns } from './derive';
import { guessChannels, isKnownName } from './guess';
import { splitRows, type Layout } from './layout';
import { isSummary } from './names';
import { bestLayout, isHeaderOf, namesAnother } from './table-head';
import { BLOCK_ROWS, type ImportReport, type ReadRefusal, type ReadResult, type SkippedLine, type SkipReason } from './result';
import { fileKind, type Encoding } from './text';

/** Bytes looked at before deciding how the file is laid out. */
const HEAD_BYTES = 1 << 16;
/** Skipped lines kept word for word. */
const SKIPPED_KEPT = 50;
const SKIPPED_TEXT = 160;
const MOST_COLUMNS = MOST_CHANNELS;
/** Half a day: a clock that falls back by more has run past midnight. */
const HALF_DAY_s = 43_200;

const LF = 0x0a;
const CR = 0x0d;
const QUOTE = 0x22;

/**
 * Reads a delimited table of figures as it comes, chunk by chunk: `push` each chunk in order, then `finish`.
 * Comma, semicolon or tab; decimal point or comma; UTF-8, UTF-16 or Windows-1252; lines before the table; a row of names
 * and perhaps one of units. Empty lines, short rows, headers in the middle and words among figures are counted and
 * reported. Testing basis §2.
 */
export class TableReader {
  private head: Uint8Array[] = [];
  private headBytes = 0;
  private encoding: Encoding = 'utf-8';
  private lines = new AsLines('utf-8');
  private layout: Layout | null = null;
  private refusal: ReadRefusal | null = null;
  /** What is in hand of a line whose end has not come yet, in the pieces it came in. */
  private rest: Uint8Array[] = [];
  private restBytes = 0;
  private readonly ends = new LineEnds();
  /** In the middle of a line that has grown too long. */
  private dropping = false;
  private line = 0;
  private columns: GrowingColumn[] = [];
  private rows = 0;
  private blankLines = 0;
  private skipped: SkippedLine[] = [];
  private skippedTotal = 0;
  private emptyCells = 0;
  private textCells = 0;
  private firstTextCell: ImportReport['firstTextCell'] = null;
  private zeroBytes = 0;
  private sections: number[] = [];
  private timeColumn = -1;
  private lastTime = NaN;
  private back = { count: 0, firstLine: null as number | null };
  private repeated = { count: 0, firstLine: null as number | null };
  private extra = { count: 0, firstLine: null as number | null };
  private missing = { count: 0, firstLine: null as number | null };
  /** Rows of another table under other names are not of this one. */
  private foreign = false;
  /** Cells read of the last line beyond the columns are figures. */
  private figuresBeyond = false;
  private daysOn = 0;
  private clockIn: number | null = null;
  private values = new Float64Array(0);
  private delimiter = 0;
  private mark = 0;
  private header = '';
  private readonly scan: CellScan = { value: NaN, end: 0, plain: true };

  /**
   * A chunk is the caller's again once `push` is done with it. `onBlock` is shown every whole block of rows as it fills, a column after the other: what is slow to store can begin.
   */
  constructor(private readonly onBlock?: (block: number, columns: readonly Float64Array[]) => void) {}

  push(chunk: Uint8Array): void {
    if (this.refusal) return;
    if (this.layout) {
      this.take(this.lines.piece(chunk, false), false);
      return;
    }
    this.head.push(chunk.slice());
    this.headBytes += chunk.length;
    if (this.headBytes >= HEAD_BYTES) this.begin(false);
  }

  finish(): ReadResult {
    if (!this.layout && !this.refusal) this.begin(true);
    else if (this.layout) this.take(this.lines.piece(new Uint8Array(0), true), true);
    if (this.refusal) return this.refusal;
    const { names, units, words: _, ...layout } = this.layout!;
    if (this.columns.every((c) => c.count === 0)) return { refused: 'no_numeric_column', line: layout.dataLine, text: this.header };
    const read = this.columns.map((c, i) => ({ name: names[i]!, unit: units[i]!, blocks: c.take(this.rows), count: c.count }));
    return {
      refused: null,
      columns: derivedColumns(read, layout.preamble),
      report: {
        encoding: this.encoding,
        layout,
        rows: this.rows,
        blankLines: this.blankLines,
        skipped: this.skipped,
        skippedTotal: this.skippedTotal,
        emptyCells: this.emptyCells,
        textCells: this.textCells,
        firstTextCell: this.firstTextCell ?? null,
        zeroBytes: this.zeroBytes,
        sections: this.sections,
        timeBack: this.back,
        timeRepeated: this.repeated,
        extraCells: this.extra,
        missingCells: this.missing,
        pastMidnight: this.daysOn > 0,
        setWithBlanks: this.lines.spacing !== null,
      },
    };
  }

  /** The head is in hand: decides what the file is, then reads the head as the first chunk. */
  private begin(whole: boolean): void {
    const bytes = joinedBytes(this.head);
    this.head = [];
    const kind = fileKind(bytes.subarray(0, HEAD_BYTES));
    if (kind.kind === 'not text') {
      this.refusal = { refused: 'not_text', looksLike: kind.looksLike };
      return;
    }
    this.encoding = kind.encoding;
    this.lines = new AsLines(kind.encoding);
    const utf8 = this.lines.head(bytes, whole);
    const text = this.lines
      .text(utf8, 0, Math.min(utf8.length, HEAD_BYTES * 2))
      .replaceAll('\0', '')
      .replace(/\r\n?/g, '\n');
    if (whole && text.trim() === '') {
      this.refusal = { refused: 'empty_file' };
      return;
    }
    const complete = whole && utf8.length <= HEAD_BYTES * 2 ? text : text.slice(0, text.lastIndexOf('\n') + 1);
    const found = bestLayout(complete);
    this.layout = found?.layout ?? null;
    if (!this.layout) {
      const lines = text.split('\n');
      const at = Math.max(
        0,
        lines.findIndex((l) => l.trim() !== ''),
      );
      this.refusal = { refused: 'no_numeric_column', line: at + 1, text: cutText(lines[at]!, SKIPPED_TEXT) };
      return;
    }
    const { columns } = this.layout;
    if (columns > MOST_COLUMNS) {
      this.refusal = { refused: 'too_many_cells', line: this.layout.dataLine, columns };
      return;
    }
    this.columns = Array.from({ length: columns }, () => new GrowingColumn());
    this.values = new Float64Array(columns);
    this.delimiter = this.layout.delimiter.charCodeAt(0);
    this.mark = this.layout.decimal.charCodeAt(0);
    this.header = this.layout.headerLine === null ? '' : (complete.split('\n')[this.layout.headerLine - 1] ?? '').trim();
    const nothing = { count: 1, low: 0, high: 0, steady: false, step: 0, whole: false, sample: [] };
    const facts = this.layout.names.map((name, i) => ({ ...nothing, name, unit: this.layout!.units[i]! }));
    this.timeColumn = guessChannels(facts).findIndex((g) => g.quantity === 'time');
    this.lines.spacing = found!.spacing;
    if (!found!.spacing) return this.take(utf8, whole);
    this.take(this.lines.tabbed(this.lines.text(utf8, 0, utf8.length), false), false);
    if (whole) this.take(this.lines.tabbed('', true), true);
  }

  /** Reads all whole lines of what is in hand and keeps the rest for the next chunk. */
  private take(chunk: Uint8Array, last: boolean): void {
    // Pieces without a line end are only put by: nothing is copied or looked at twice, however small they come.
    if (!last && chunk.indexOf(LF) < 0 && chunk.indexOf(CR) < 0) return this.hold(chunk.slice());
    if (this.restBytes > 0 && this.endHeldLine(chunk)) return;
    const bytes = this.restBytes === 0 ? chunk : joinedBytes([...this.rest, chunk]);
    this.rest = [];
    this.restBytes = 0;
    // Without a quote or a carriage return in hand a line ends at the next line feed: the platform finds that much faster.
    let isPlain: boolean | null = null;
    const lastEnd = bytes.lastIndexOf(LF);
    let at = 0;
    while (at < bytes.length) {
      const next = this.plainRow(bytes, at, lastEnd);
      if (next >= 0) {
        at = next;
        continue;
      }
      const plain = (isPlain ??= bytes.indexOf(QUOTE) < 0 && bytes.indexOf(CR) < 0);
      const end = plain ? bytes.indexOf(LF, at) : this.ends.next(bytes, at, last);
      if (end < 0) break;
      this.lineOf(bytes, at, end, false);
      if (!plain) this.line += this.ends.inside;
      at = end + (bytes[end] === CR && bytes[end + 1] === LF ? 2 : 1);
    }
    if (at === bytes.length) return;
    if (last) this.lineOf(bytes, at, bytes.length, true);
    else this.hold(bytes.slice(at));
  }

  /** Ends the line in hand with the chunk's first line end and goes on behind it; false: the two have to be looked at as one. */
  private endHeldLine(chunk: Uint8Array): boolean {
    const end = chunk.indexOf(LF) + 1;
    if (end === 0 || end === chunk.length) return false;
    const line = joinedBytes([...this.rest, chunk.subarray(0, end)]);
    if (line.includes(QUOTE) || line.includes(CR)) return false;
    this.rest = [];
    this.restBytes = 0;
    this.take(line, false);
    this.take(chunk.subarray(end), false);
    return true;
  }

  /** Takes a row of nothing but figures in one go; the position after it, −1 where it has to be looked at with care. */
  private plainRow(bytes: Uint8Array, at: number, lastEnd: number): number {
    if (this.dropping || this.foreign || this.line + 1 < this.layout!.dataLine) return -1;
    const next = scanRow(bytes, at, lastEnd, this.delimiter, this.mark, this.values);
    if (next < 0) return -1;
    this.line += 1;
    this.keep(bytes, at, next - (bytes[next - 2] === CR ? 2 : 1));
    return next;
  }

  private hold(piece: Uint8Array): void {
    if (piece.length === 0) return;
    this.rest.push(piece);
    this.restBytes += piece.length;
    if (this.restBytes <= LONGEST_LINE) return;
    if (!this.dropping) {
      const start = joinedBytes(this.rest);
      this.skip(start, 0, start.length, 'a line without an end', this.line + 1);
    }
    this.dropping = true;
    this.rest = [];
    this.restBytes = 0;
  }

  private lineOf(bytes: Uint8Array, from: number, end: number, unfinished: boolean): void {
    this.line += 1;
    if (this.dropping) {
      this.dropping = false;
      return;
    }
    const layout = this.layout!;
    if (this.line < layout.dataLine) return;
    let to = end;
    while (to > from && (bytes[to - 1] === 0 || (unfinished && bytes[to - 1] === CR))) {
      if (bytes[to - 1] === 0) this.zeroBytes += 1;
      to -= 1;
    }
    let start = from;
    while (start < to && bytes[start] === 0) {
      this.zeroBytes += 1;
      start += 1;
    }
    let blank = true;
    for (let i = start; i < to && blank; i += 1) blank = bytes[i] === 0x20 || bytes[i] === 0x09;
    if (blank && (this.delimiter !== 0x09 || start === to)) {
      if (!unfinished) this.blankLines += 1;
      return;
    }
    const cells = this.cells(bytes, start, to);
    const least = layout.least ?? layout.columns;
    if (cells > layout.columns && !this.figuresBeyond) note(this.extra, this.line);
    else if (cells < layout.columns && cells >= least) {
      this.values.fill(NaN, cells);
      note(this.missing, this.line);
    } else if (cells !== layout.columns) {
      if (this.headerAgain(bytes, start, to)) return;
      return this.skip(bytes, start, to, unfinished ? 'cut off at the end of the file' : 'wrong number of cells');
    }
    this.keep(bytes, start, to);
  }

  /** Reads a line's cells into `values`; the number of cells, where a separator after the last one opens no new cell. */
  private cells(bytes: Uint8Array, start: number, to: number): number {
    const { columns } = this.layout!;
    const { scan } = this;
    let at = start;
    let n = 0;
    this.figuresBeyond = false;
    for (;;) {
      scanCell(bytes, at, to, this.delimiter, this.mark, scan);
      if (n < columns) this.values[n] = scan.plain ? scan.value : this.wordedCell(bytes, at, scan.end, n);
      else if (!this.figuresBeyond) {
        const value = scan.plain ? scan.value : cellNumber(this.cellText(bytes, at, scan.end), this.layout!.decimal);
        this.figuresBeyond = value === value;
      }
      n += 1;
      at = scan.end + 1;
      if (scan.end >= to) break;
      if (at === to && n === columns && this.layout!.trailing === true) break;
    }
    return n;
  }

  private cellText(bytes: Uint8Array, from: number, to: number): string {
    const text = this.lines.text(bytes, from, to);
    return text.includes('"') ? (splitRows(text, this.layout!.delimiter)[0]?.[0] ?? '') : text;
  }

  /** A cell that is no plain figure: grouped, a time of day, or a figure with the column's own word behind it. */
  private wordedCell(bytes: Uint8Array, from: number, to: number, column: number): number {
    const { decimal, words } = this.layout!;
    const text = this.cellText(bytes, from, to);
    const value = cellNumber(text, decimal);
    if (value === value) return column === this.timeColumn && isClock(text) ? this.pastMidnight(value) : value;
    const word = words?.[column] ?? '';
    const worded = word === '' ? null : cellWithWord(text, decimal);
    return worded?.word === word ? worded.value : NaN;
  }

  /** A time of day counted on over midnight. */
  private pastMidnight(clock: number): number {
    if (this.clockIn !== null && clock < this.clockIn - HALF_DAY_s) this.daysOn += 1;
    this.clockIn = clock;
    return clock + this.daysOn * 2 * HALF_DAY_s;
  }

  private keep(bytes: Uint8Array, start: number, to: number): void {
    const { values, columns } = this;
    let figures = 0;
    for (let c = 0; c < values.length; c += 1) if (values[c] === values[c]) figures += 1;
    if (figures === 0) {
      if (this.headerAgain(bytes, start, to)) return;
      this.foreign ||= namesAnother(this.layout!, this.namesOn(bytes, start, to));
      this.skip(bytes, start, to, this.foreign ? 'the names of another table' : 'no figures');
      return;
    }
    if (this.foreign) return this.skip(bytes, start, to, 'a row of another table');
    if (figures < values.length && this.sumsUp(bytes, start, to)) return this.skip(bytes, start, to, 'sums the table up');
    for (let c = 0; c < values.length; c += 1) columns[c]!.put(this.rows, values[c]!);
    if (figures < values.length) this.countHoles(bytes, start, to);
    this.rows += 1;
    if (this.onBlock && this.rows % BLOCK_ROWS === 0)
      this.onBlock(
        this.rows / BLOCK_ROWS - 1,
        columns.map((c) => c.current),
      );
    if (this.timeColumn < 0) return;
    const time = values[this.timeColumn]!;
    if (time < this.lastTime) note(this.back, this.line);
    else if (time === this.lastTime) note(this.repeated, this.line);
    if (time === time) this.lastTime = time;
  }

  /** Whether a row begins with a word such as "Max" where the column has figures: it tells of the others. */
  private sumsUp(bytes: Uint8Array, start: number, to: number): boolean {
    let at = start;
    for (let c = 0; c < this.values.length; c += 1) {
      scanCell(bytes, at, to, this.delimiter, this.mark, this.scan);
      const { end, plain } = this.scan;
      if (this.values[c] === this.values[c]) return false;
      if (!plain) {
        const hasFigures = this.columns[c]!.count > 0 || (this.rows === 0 && isKnownName(this.layout!.names[c]!));
        return hasFigures && isSummary(this.cellText(bytes, at, end));
      }
      at = end + 1;
    }
    return false;
  }

  private countHoles(bytes: Uint8Array, start: number, to: number): void {
    let at = start;
    for (let c = 0; c < this.values.length; c += 1) {
      scanCell(bytes, at, to, this.delimiter, this.mark, this.scan);
      const { end } = this.scan;
      if (this.values[c] !== this.values[c]) {
        const text = this.scan.plain ? '' : this.lines.text(bytes, at, end).trim();
        if (text === '' || isNothing(text)) this.emptyCells += 1;
        else {
          this.textCells += 1;
          this.firstTextCell ??= { line: this.line, column: this.layout!.names[c]!, text: cutText(text, 40) };
        }
      }
      at = end + 1;
    }
  }

  private namesOn(bytes: Uint8Array, start: number, to: number): string[] {
    return (splitRows(this.lines.text(bytes, start, Math.min(to, start + 65_536)), this.layout!.delimiter)[0] ?? []).map((c) => c.trim());
  }

  private headerAgain(bytes: Uint8Array, start: number, to: number): boolean {
    const same = isHeaderOf(this.layout!, this.namesOn(bytes, start, to));
    if (!same) return false;
    this.sections.push(this.rows);
    this.foreign = false;
    this.skip(bytes, start, to, 'the header again');
    return true;
  }

  private skip(bytes: Uint8Array, start: number, to: number, reason: SkipReason, line = this.line): void {
    this.skippedTotal += 1;
    if (this.skipped.length >= SKIPPED_KEPT) return;
    const text = this.lines.text(bytes, start, Math.min(to, start + 4 * SKIPPED_TEXT)).replaceAll('\0', '␀');
    this.skipped.push({ line, reason, text: cutText(text, SKIPPED_TEXT) });
  }
}

function note(where: { count: number; firstLine: number | null }, line: number): void {
  where.count += 1;
  where.firstLine ??= line;
}
