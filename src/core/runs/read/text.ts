/** What kind of bytes a file holds: enough to refuse a picture with a table's name, and to pick the decoder. */
export type Encoding = 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252';
export type FileKind = { readonly kind: 'text'; readonly encoding: Encoding } | { readonly kind: 'not text'; readonly looksLike: string };

const MAGIC: readonly (readonly [string, readonly number[]])[] = [
  ['a PNG picture', [0x89, 0x50, 0x4e, 0x47]],
  ['a JPEG picture', [0xff, 0xd8, 0xff]],
  ['a GIF picture', [0x47, 0x49, 0x46, 0x38]],
  ['a PDF document', [0x25, 0x50, 0x44, 0x46]],
  ['a zip archive or office document', [0x50, 0x4b, 0x03, 0x04]],
  ['a gzip archive', [0x1f, 0x8b]],
];

/** Share of zero bytes in every second place that speaks of two bytes a character, and what the other places may have. */
const WIDE_ZEROS = 0.6;
const WIDE_OTHERS = 0.05;
/** More zero bytes than this, apart from a padded tail, and it is no text. */
const BINARY_ZEROS = 0.01;

const starts = (bytes: Uint8Array, magic: readonly number[]): boolean => magic.every((b, i) => bytes[i] === b);

/** Looks at the first bytes of a file (64 kB are plenty). A tail of zeros is a logger's unwritten space and is not counted. */
export function fileKind(head: Uint8Array): FileKind {
  if (starts(head, [0xff, 0xfe])) return { kind: 'text', encoding: 'utf-16le' };
  if (starts(head, [0xfe, 0xff])) return { kind: 'text', encoding: 'utf-16be' };
  for (const [looksLike, magic] of MAGIC) if (starts(head, magic)) return { kind: 'not text', looksLike };
  let end = head.length;
  while (end > 1 && head[end - 1] === 0 && head[end - 2] === 0) end -= 1;
  const zeros = [0, 0];
  for (let i = 0; i < end; i += 1) if (head[i] === 0) zeros[i % 2]! += 1;
  const half = end / 2;
  const [even, odd] = zeros as [number, number];
  if (odd > WIDE_ZEROS * half && even < WIDE_OTHERS * half) return { kind: 'text', encoding: 'utf-16le' };
  if (even > WIDE_ZEROS * half && odd < WIDE_OTHERS * half) return { kind: 'text', encoding: 'utf-16be' };
  if (even + odd > end * BINARY_ZEROS) return { kind: 'not text', looksLike: 'a binary file' };
  return { kind: 'text', encoding: isUtf8(head) ? 'utf-8' : 'windows-1252' };
}

/** A head may end in the middle of a character: the last three bytes are not held against it. */
function isUtf8(head: Uint8Array): boolean {
  for (let cut = 0; cut <= 3 && cut < head.length; cut += 1) {
    try {
      new TextDecoder('utf-8', { fatal: true }).decode(head.subarray(0, head.length - cut));
      return true;
    } catch {
      // Tried again with a byte less.
    }
  }
  return head.length === 0;
}
