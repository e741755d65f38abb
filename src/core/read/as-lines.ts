import { spacedLine, type Spacing } from './spacing';
import type { Encoding } from './text';

const BOM = [0xef, 0xbb, 0xbf];

/** A line longer than this is no row of figures: it is dropped as it comes, so that it never fills the memory. */
export const LONGEST_LINE = 1 << 20;

/** Where the last whole line of a text ends; a carriage return at its very end may have its line feed in the next one. */
const lastEnd = (text: string): number => Math.max(text.lastIndexOf('\n'), text.slice(0, -1).lastIndexOf('\r')) + 1;

/**
 * A file's bytes as they come, brought to lines of UTF-8 (or of one byte a character in Windows' Western way, which is read as it is)
 * with one separator: other encodings are decoded first, and texts set with blanks get tabs once it is known how they are cut.
 */
export class AsLines {
  /** Only for files that are not UTF-8, nor one byte a character in Windows' Western way. */
  private readonly wide: TextDecoder | null;
  private readonly plain: TextDecoder;
  /** Of a text set with blanks: what goes on from chunk to chunk, and what has no line end yet. */
  private going: TextDecoder | null = null;
  private waiting: string[] = [];
  private waits = 0;
  /** In the middle of a line that has grown too long: it goes on as it is, to be dropped. */
  private overlong = false;
  spacing: Spacing | null = null;

  constructor(private readonly encoding: Encoding) {
    this.wide = encoding === 'utf-8' || encoding === 'windows-1252' ? null : new TextDecoder(encoding);
    this.plain = new TextDecoder(this.byteEncoding);
  }

  private get byteEncoding(): string {
    return this.encoding === 'windows-1252' ? 'windows-1252' : 'utf-8';
  }

  /** The head of the file, before it is known how its lines are cut. */
  head(bytes: Uint8Array, whole: boolean): Uint8Array {
    const utf8 = this.wide ? new TextEncoder().encode(this.wide.decode(bytes, { stream: !whole })) : bytes;
    return BOM.every((b, i) => utf8[i] === b) ? utf8.subarray(BOM.length) : utf8;
  }

  /** A further piece of the file. */
  piece(chunk: Uint8Array, last: boolean): Uint8Array {
    if (this.spacing) {
      this.going ??= this.wide ?? new TextDecoder(this.byteEncoding);
      return this.tabbed(this.going.decode(chunk, { stream: !last }), last);
    }
    return this.wide ? new TextEncoder().encode(this.wide.decode(chunk, { stream: !last })) : chunk;
  }

  /** A text set with blanks, with tabs; what has no line end yet waits for the next one unless this is the last. */
  tabbed(text: string, last: boolean): Uint8Array {
    let out = '';
    let from = 0;
    if (this.overlong) {
      from = text.search(/[\r\n]/);
      if (from < 0) return new TextEncoder().encode(text);
      this.overlong = false;
      out = text.slice(0, from);
    }
    const to = last ? text.length : Math.max(from, lastEnd(text));
    if (last || to > from) out += this.apart(this.held() + text.slice(from, to));
    this.waiting.push(text.slice(to));
    this.waits += text.length - to;
    if (this.waits > LONGEST_LINE) {
      this.overlong = true;
      out += this.held();
    }
    return new TextEncoder().encode(out);
  }

  /** What waited, which is in hand from here on. */
  private held(): string {
    const text = this.waiting.join('');
    this.waiting = [];
    this.waits = 0;
    return text;
  }

  private apart(lines: string): string {
    return lines
      .split(/\r\n|\n|\r/)
      .map((l) => spacedLine(l, this.spacing!))
      .join('\n');
  }

  /** A stretch of what came out of here, as text. */
  text(bytes: Uint8Array, from: number, to: number): string {
    return this.plain.decode(bytes.subarray(from, to));
  }
}
