/** What kind of bytes a file holds: enough to refuse a picture with a table's name, and to pick the decoder. */
export type FileKind =
  | { readonly kind: 'text'; readonly encoding: 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252' }
  | { readonly kind: 'not text'; readonly looksLike: string };

const MAGIC: readonly (readonly [string, readonly number[]])[] = [
  ['a PNG picture', [0x89, 0x50, 0x4e, 0x47]],
  ['a JPEG picture', [0xff, 0xd8, 0xff]],
  ['a GIF picture', [0x47, 0x49, 0x46, 0x38]],
  ['a PDF document', [0x25, 0x50, 0x44, 0x46]],
  ['a zip archive or office document', [0x50, 0x4b, 0x03, 0x04]],
  ['a gzip archive', [0x1f, 0x8b]],
];

const starts = (bytes: Uint8Array, magic: readonly number[]): boolean => magic.every((b, i) => bytes[i] === b);

/** Looks at the first bytes of a file (64 kB are plenty). */
export function fileKind(head: Uint8Array): FileKind {
  if (starts(head, [0xff, 0xfe])) return { kind: 'text', encoding: 'utf-16le' };
  if (starts(head, [0xfe, 0xff])) return { kind: 'text', encoding: 'utf-16be' };
  for (const [looksLike, magic] of MAGIC) if (starts(head, magic)) return { kind: 'not text', looksLike };
  let zeros = 0;
  for (const byte of head) if (byte === 0) zeros += 1;
  if (zeros > head.length / 100) return { kind: 'not text', looksLike: 'a binary file' };
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
