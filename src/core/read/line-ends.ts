const LF = 0x0a;
const CR = 0x0d;
const QUOTE = 0x22;
/** Lines a quoted cell may run over. */
const QUOTED_LINES = 40;

/** Finds where lines end, also those whose quoted cells hold line ends. */
export class LineEnds {
  /** Line ends inside the last line's quoted cells. */
  inside = 0;

  /** Where the line that begins at `from` ends; −1: not in what is in hand. `last`: nothing comes behind it. */
  next(bytes: Uint8Array, from: number, last: boolean): number {
    let quotes = 0;
    let lines = 0;
    let first = -1;
    this.inside = 0;
    for (let i = from; i < bytes.length; i += 1) {
      const c = bytes[i]!;
      if (c === QUOTE) quotes += 1;
      else if (c === LF || c === CR) {
        // A carriage return at the very end may have its line feed in the next chunk.
        if (c === CR && i + 1 === bytes.length && !last) return -1;
        if (quotes % 2 === 0) {
          this.inside = lines;
          return i;
        }
        if (first < 0) first = i;
        lines += 1;
        // A quote that is never closed is dirt, not a cell of many lines.
        if (lines > QUOTED_LINES) return first;
      }
    }
    return last && first >= 0 ? first : -1;
  }
}
