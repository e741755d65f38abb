/** A block of samples as it is stored: whole numbers of two or four bytes over a power of ten, or doubles where that is not exact. */
export interface PackedBlock {
  readonly bytes: Uint8Array<ArrayBuffer>;
  /** Bytes of a sample: 2 and 4 are whole numbers, 8 is a double, all little-endian. */
  readonly width: 2 | 4 | 8;
  /** A whole number stands for itself over ten to this power. */
  readonly decimals: number;
}

/** A packed block and where in its recording it stands. */
export interface PlacedBlock extends PackedBlock {
  readonly col: number;
  readonly block: number;
}

const MOST_DECIMALS = 6;
const TENS = Float64Array.from({ length: MOST_DECIMALS + 1 }, (_, k) => 10 ** k);
const LARGEST_SHORT = 32_767;
/** No figure: the one whole number that has no opposite. */
const NONE = { 2: -32_768, 4: -2_147_483_648 } as const;
/** Samples that tell how many decimals a block probably has. */
const LOOKED_AT = 64;

const fits = (value: number, tens: number): boolean => Math.round(value * tens) / tens === value;

/** The fewest decimals that show the first samples exactly; −1: more than are packed. */
function decimalsOf(values: Float64Array): number {
  let decimals = 0;
  const step = Math.max(1, Math.floor(values.length / LOOKED_AT));
  for (let i = 0; i < values.length; i += step) {
    const value = values[i]!;
    if (value !== value) continue;
    while (decimals <= MOST_DECIMALS && !fits(value, TENS[decimals]!)) decimals += 1;
    if (decimals > MOST_DECIMALS) return -1;
  }
  return decimals;
}

/** The block as whole numbers, where every one of them gives back the very same double; else null, or 'wide' where two bytes are too few. */
function short(values: Float64Array, decimals: number): PackedBlock | 'wide' | null {
  const tens = TENS[decimals]!;
  const narrow = new Int16Array(values.length);
  for (let i = 0; i < values.length; i += 1) {
    const value = values[i]!;
    if (value !== value) {
      narrow[i] = NONE[2];
      continue;
    }
    // Cut to the machine's whole number; what does not fit it does not come back either.
    const n = (value * tens + (value < 0 ? -0.5 : 0.5)) | 0;
    // The zero with a minus is a double of its own.
    if (n / tens !== value || (n === 0 && Object.is(value, -0))) return null;
    if (n > LARGEST_SHORT || n < -LARGEST_SHORT) return 'wide';
    narrow[i] = n;
  }
  return { bytes: new Uint8Array(narrow.buffer), width: 2, decimals };
}

function wide(values: Float64Array, decimals: number): PackedBlock | null {
  const tens = TENS[decimals]!;
  const numbers = new Int32Array(values.length);
  for (let i = 0; i < values.length; i += 1) {
    const value = values[i]!;
    if (value !== value) {
      numbers[i] = NONE[4];
      continue;
    }
    const n = (value * tens + (value < 0 ? -0.5 : 0.5)) | 0;
    if (n / tens !== value || n === NONE[4] || (n === 0 && Object.is(value, -0))) return null;
    numbers[i] = n;
  }
  return { bytes: new Uint8Array(numbers.buffer), width: 4, decimals };
}

/** Packs samples as small as they go without changing one of them: a logger writes figures of few digits. */
export function packBlock(values: Float64Array): PackedBlock {
  for (let decimals = decimalsOf(values); decimals >= 0 && decimals <= MOST_DECIMALS; decimals += 1) {
    const narrow = short(values, decimals);
    const packed = narrow === 'wide' ? wide(values, decimals) : narrow;
    if (packed) return packed;
  }
  return { bytes: new Uint8Array(Float64Array.from(values).buffer), width: 8, decimals: 0 };
}

/** The samples of a block, or of a stretch of its bytes, as doubles of their own. */
export function unpackBlock({
  bytes,
  width,
  decimals,
}: Omit<PackedBlock, 'bytes'> & { readonly bytes: Uint8Array }): Float64Array<ArrayBuffer> {
  // A copy of its own: the bytes may begin anywhere in a larger buffer.
  const own = new Uint8Array(bytes.byteLength);
  own.set(bytes);
  if (width === 8) return new Float64Array(own.buffer);
  const numbers = width === 4 ? new Int32Array(own.buffer) : new Int16Array(own.buffer);
  const [tens, none] = [TENS[decimals]!, NONE[width]];
  const values = new Float64Array(numbers.length);
  for (let i = 0; i < numbers.length; i += 1) values[i] = numbers[i] === none ? NaN : numbers[i]! / tens;
  return values;
}

/** The blocks of columns, packed, a column after the other; the first `known` of a column are left out. */
export function* packedBlocks(
  columns: readonly { readonly blocks: readonly Float64Array[] }[],
  known: (col: number) => number = () => 0,
): Generator<PlacedBlock> {
  for (const [col, { blocks }] of columns.entries())
    for (let block = known(col); block < blocks.length; block += 1) yield { col, block, ...packBlock(blocks[block]!) };
}
