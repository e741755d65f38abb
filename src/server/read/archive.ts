import { Gunzip, Unzip, UnzipInflate } from 'fflate';
import { joinedBytes } from '@/core/read/bytes';

/** Most that a compressed file may unpack to, bytes. */
const UNPACKED_LIMIT_BYTES = 400 * 1024 * 1024;
/** What unpacks to more times its size than this, beyond the first megabytes, is made to fill a disk. */
const MOST_RATIO = 250;
const RATIO_FREE_BYTES = 20 * 1024 * 1024;
const MOST_ENTRIES = 2000;
const PIECE = 1 << 18;

export class TooLarge extends Error {}

class Meter {
  private sum = 0;
  constructor(private readonly packed: number) {}
  add(bytes: number): void {
    this.sum += bytes;
    if (this.sum > UNPACKED_LIMIT_BYTES || (this.sum > RATIO_FREE_BYTES && this.sum > this.packed * MOST_RATIO)) throw new TooLarge();
  }
}

function fed(bytes: Uint8Array, push: (piece: Uint8Array, last: boolean) => void): void {
  for (let at = 0; at < bytes.length; at += PIECE) push(bytes.subarray(at, at + PIECE), at + PIECE >= bytes.length);
}

/** Unpacks a gzip file. Throws TooLarge, or an Error where it is damaged. */
export function unpackGzip(bytes: Uint8Array): Uint8Array {
  const meter = new Meter(bytes.length);
  const parts: Uint8Array[] = [];
  const gunzip = new Gunzip((piece) => {
    meter.add(piece.length);
    parts.push(piece);
  });
  fed(bytes, (piece, last) => gunzip.push(piece, last));
  return joinedBytes(parts);
}

export interface Entry {
  readonly name: string;
  readonly bytes: Uint8Array;
}

/** What a zip holds, unpacked under a limit; `wanted` says which entries are unpacked at all. */
export function unpackZip(bytes: Uint8Array, wanted: (name: string) => boolean): Entry[] {
  const meter = new Meter(bytes.length);
  const entries: Entry[] = [];
  let count = 0;
  const unzip = new Unzip((file) => {
    count += 1;
    if (count > MOST_ENTRIES) throw new TooLarge();
    if (!wanted(file.name)) return;
    const parts: Uint8Array[] = [];
    file.ondata = (error, piece, last) => {
      if (error) throw error;
      meter.add(piece.length);
      parts.push(piece);
      if (last) entries.push({ name: file.name, bytes: joinedBytes(parts) });
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  fed(bytes, (piece, last) => unzip.push(piece, last));
  return entries;
}

/** Goes through a zip without keeping anything: throws TooLarge where it unpacks to too much. */
export function weighZip(bytes: Uint8Array): void {
  const meter = new Meter(bytes.length);
  const unzip = new Unzip((file) => {
    file.ondata = (error, piece) => {
      if (error) throw error;
      meter.add(piece.length);
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  fed(bytes, (piece, last) => unzip.push(piece, last));
}
