import { BLOCK_ROWS } from './result';

/** A column that grows by whole blocks: nothing is ever copied. */
export class GrowingColumn {
  readonly full: Float64Array<ArrayBuffer>[] = [];
  current = new Float64Array(1024);
  count = 0;

  put(row: number, value: number): void {
    const at = row % BLOCK_ROWS;
    if (at === 0 && row > 0) {
      this.full.push(this.current);
      this.current = new Float64Array(BLOCK_ROWS);
    } else if (at === this.current.length) {
      const larger = new Float64Array(Math.min(BLOCK_ROWS, at * 4));
      larger.set(this.current);
      this.current = larger;
    }
    this.current[at] = value;
    if (value === value) this.count += 1;
  }

  take(rows: number): Float64Array<ArrayBuffer>[] {
    const rest = rows - this.full.length * BLOCK_ROWS;
    return [...this.full, this.current.length === rest ? this.current : this.current.slice(0, rest)];
  }
}
