import { unzlibSync } from 'fflate';
import { joinedBytes } from '@/core/read/bytes';
import { chosenTable, fault, type InnerTable, type OpenResult } from './rows';

/**
 * Measurement files of ASAM MDF 4 (an open standard), as far as they can be read soundly: sorted channel groups, plain or
 * deflated data, whole numbers and floats, and conversions that are none or linear. What is beyond that is named, not
 * guessed.
 */

class Unsound extends Error {}

interface Block {
  readonly id: string;
  readonly links: readonly number[];
  readonly data: DataView;
}

/** Most blocks of one kind that are followed: a chain that bites its own tail ends there. */
const MOST_BLOCKS = 20_000;
const MOST_RECORDS = 5_000_000;

class File {
  private readonly view: DataView;
  constructor(readonly bytes: Uint8Array) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  block(at: number, wanted?: string): Block {
    if (at <= 0 || at + 24 > this.bytes.length) throw new Unsound('a link leads out of the file');
    const id = String.fromCharCode(...this.bytes.subarray(at, at + 4));
    const length = Number(this.view.getBigUint64(at + 8, true));
    const count = Number(this.view.getBigUint64(at + 16, true));
    if (!id.startsWith('##') || length < 24 + 8 * count || at + length > this.bytes.length) throw new Unsound('a block is cut off');
    if (wanted !== undefined && id !== wanted) throw new Unsound(`${id} where ${wanted} should be`);
    const links = Array.from({ length: count }, (_, i) => Number(this.view.getBigUint64(at + 24 + 8 * i, true)));
    const from = at + 24 + 8 * count;
    return { id, links, data: new DataView(this.bytes.buffer, this.bytes.byteOffset + from, at + length - from) };
  }

  *chain(first: number, wanted: string): Generator<Block> {
    let at = first;
    for (let n = 0; at !== 0; n += 1) {
      if (n > MOST_BLOCKS) throw new Unsound('a chain of blocks has no end');
      const block = this.block(at, wanted);
      yield block;
      at = block.links[0] ?? 0;
    }
  }

  text(at: number): string {
    if (at === 0) return '';
    const { id, data } = this.block(at);
    const raw = new TextDecoder().decode(new Uint8Array(data.buffer, data.byteOffset, data.byteLength)).split('\0')[0]!;
    return id === '##MD' ? (/<TX>([^<]*)<\/TX>/.exec(raw)?.[1] ?? '') : raw;
  }

  /** The records of a group, whatever list of blocks they are in. */
  records(at: number): Uint8Array {
    const parts: Uint8Array[] = [];
    const take = (where: number, depth = 0): void => {
      if (where === 0) return;
      if (depth > MOST_BLOCKS) throw new Unsound('a chain of blocks has no end');
      const block = this.block(where);
      const bytes = new Uint8Array(block.data.buffer, block.data.byteOffset, block.data.byteLength);
      if (block.id === '##DT' || block.id === '##DV') parts.push(bytes);
      else if (block.id === '##DZ') parts.push(inflated(bytes, block.data));
      else if (block.id === '##HL') take(block.links[0] ?? 0, depth + 1);
      else if (block.id === '##DL') {
        block.links.slice(1).forEach((l) => take(l, depth + 1));
        take(block.links[0] ?? 0, depth + 1);
      } else throw new Unsound(`data in a block ${block.id}`);
    };
    take(at);
    return joinedBytes(parts);
  }
}

const INFLATED_LIMIT_BYTES = 300 * 1024 * 1024;

/** A deflated block; where its bytes were stood in columns before, they are put back into rows. */
function inflated(bytes: Uint8Array, view: DataView): Uint8Array {
  const [kind, width] = [view.getUint8(2), view.getUint32(4, true)];
  const [size, packed] = [Number(view.getBigUint64(8, true)), Number(view.getBigUint64(16, true))];
  if (size > INFLATED_LIMIT_BYTES || packed > bytes.length - 24) throw new Unsound('a deflated block is larger than is taken');
  const flat = unzlibSync(bytes.subarray(24, 24 + packed), { out: new Uint8Array(size) });
  if (kind === 0) return flat;
  if (kind !== 1 || width === 0) throw new Unsound('a deflated block of another kind');
  const rows = Math.floor(size / width);
  const out = new Uint8Array(size);
  for (let r = 0; r < rows; r += 1) for (let c = 0; c < width; c += 1) out[r * width + c] = flat[c * rows + r]!;
  out.set(flat.subarray(rows * width), rows * width);
  return out;
}

interface Channel {
  readonly name: string;
  readonly unit: string;
  readonly read: (record: DataView, index: number) => number;
}

/** How a channel's raw value is read and made physical; a text: why it cannot be. */
function channelOf(file: File, { links, data }: Block, idBytes: number, invalidFrom: number): Channel | string {
  const name = file.text(links[2] ?? 0) || 'channel';
  const [kind, type, bitOffset] = [data.getUint8(0), data.getUint8(2), data.getUint8(3)];
  const [byteOffset, bits, flags, invalidBit] = [
    data.getUint32(4, true),
    data.getUint32(8, true),
    data.getUint32(12, true),
    data.getUint32(16, true),
  ];
  if (kind !== 0 && kind !== 2 && kind !== 3) return `${name} (a kind of channel that is not read)`;
  if (type > 5) return `${name} (no figures)`;
  let [slope, offset] = [1, 0];
  let unit = file.text(links[6] ?? 0);
  if (links[4]) {
    const conversion = file.block(links[4], '##CC');
    unit ||= file.text(conversion.links[1] ?? 0);
    const how = conversion.data.getUint8(0);
    if (how === 1) {
      offset = conversion.data.getFloat64(24, true);
      slope = conversion.data.getFloat64(32, true);
    } else if (how !== 0) return `${name} (a conversion that is not read)`;
  }
  const raw = rawReader(type, bits, bitOffset, byteOffset + idBytes, kind === 3);
  if (!raw) return `${name} (${bits} bits of a kind that is not read)`;
  const invalid = (record: DataView): boolean =>
    (flags & 1) !== 0 || ((flags & 2) !== 0 && ((record.getUint8(invalidFrom + (invalidBit >> 3)) >> (invalidBit & 7)) & 1) === 1);
  return { name, unit, read: (record, index) => (invalid(record) ? NaN : raw(record, index) * slope + offset) };
}

function rawReader(type: number, bits: number, bitOffset: number, at: number, virtual: boolean): Channel['read'] | null {
  if (virtual) return (_record, index) => index;
  const little = type % 2 === 0;
  if (type >= 4) {
    if (bitOffset !== 0) return null;
    if (bits === 64) return (r) => r.getFloat64(at, little);
    return bits === 32 ? (r) => r.getFloat32(at, little) : null;
  }
  const signed = type >= 2;
  if (bitOffset === 0 && bits === 64) return signed ? (r) => Number(r.getBigInt64(at, little)) : (r) => Number(r.getBigUint64(at, little));
  if (bitOffset === 0 && bits === 32) return signed ? (r) => r.getInt32(at, little) : (r) => r.getUint32(at, little);
  if (bitOffset === 0 && bits === 16) return signed ? (r) => r.getInt16(at, little) : (r) => r.getUint16(at, little);
  if (bitOffset === 0 && bits === 8) return signed ? (r) => r.getInt8(at) : (r) => r.getUint8(at);
  const bytes = Math.ceil((bits + bitOffset) / 8);
  if (bits === 0 || bytes > 6 || (!little && bitOffset !== 0)) return null;
  return (r) => {
    let value = 0;
    for (let i = 0; i < bytes; i += 1) value += r.getUint8(little ? at + i : at + bytes - 1 - i) * 256 ** i;
    value = Math.floor(value / 2 ** bitOffset) % 2 ** bits;
    return signed && value >= 2 ** (bits - 1) ? value - 2 ** bits : value;
  };
}

const figure = (value: number): string => (Number.isFinite(value) ? String(value) : '');

function groupTable(file: File, group: Block, records: Uint8Array, idBytes: number, left: string[]): InnerTable | null {
  const { data, links } = group;
  const count = Number(data.getBigUint64(8, true));
  const [dataBytes, invalidBytes] = [data.getUint32(24, true), data.getUint32(28, true)];
  const length = idBytes + dataBytes + invalidBytes;
  if (count === 0) return null;
  if (count > MOST_RECORDS) throw new Unsound('more records than are taken');
  if (records.length < count * length) throw new Unsound('records are missing');
  const channels: Channel[] = [];
  for (const cn of file.chain(links[1] ?? 0, '##CN')) {
    const channel = channelOf(file, cn, idBytes, idBytes + dataBytes);
    if (typeof channel === 'string') left.push(channel);
    else channels.push(channel);
  }
  if (channels.length === 0) return null;
  const rows: string[][] = [channels.map((c) => (c.unit ? `${c.name} (${c.unit})` : c.name))];
  for (let i = 0; i < count; i += 1) {
    const record = new DataView(records.buffer, records.byteOffset + i * length, length);
    rows.push(channels.map((c) => figure(c.read(record, i))));
  }
  return { name: file.text(links[2] ?? 0) || `group of ${channels[0]!.name}, ${count} records`, rows };
}

export function openMeasurement(bytes: Uint8Array, choice: string | null): OpenResult {
  const container = 'an MDF 4 measurement file';
  const version = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getUint16(28, true);
  if (version < 400 || !String.fromCharCode(...bytes.subarray(0, 8)).startsWith('MDF ')) return fault(container, 'form');
  try {
    const file = new File(bytes);
    const left: string[] = [];
    const tables: InnerTable[] = [];
    for (const dg of file.chain(file.block(64, '##HD').links[0] ?? 0, '##DG')) {
      const groups = [...file.chain(dg.links[1] ?? 0, '##CG')];
      // Groups mixed in one stream of records need their record ids taken apart; they are named instead.
      if (groups.length !== 1) {
        left.push(`${groups.length} channel groups in one stream of records`);
        continue;
      }
      const idBytes = dg.data.getUint8(0);
      const table = groupTable(file, groups[0]!, file.records(dg.links[2] ?? 0), idBytes, left);
      if (table)
        tables.push(tables.some((t) => t.name === table.name) ? { ...table, name: `${table.name} (${tables.length + 1})` } : table);
    }
    if (tables.length === 0 && left.length > 0) return fault(container, 'form');
    const opened = chosenTable(container, tables, choice);
    return opened.refused === null ? { ...opened, unread: [...opened.unread, ...left] } : opened;
  } catch (error) {
    return fault(container, error instanceof Unsound && /not read|data in a block|another kind/.test(error.message) ? 'form' : 'damaged');
  }
}
