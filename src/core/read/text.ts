/** What kind of bytes a file holds: enough to refuse a picture with a table's name, and to pick the decoder. */
export const ENCODINGS = [
  'utf-8',
  'utf-16le',
  'utf-16be',
  'windows-1252',
  'windows-1250',
  'windows-1251',
  'koi8-r',
  'shift_jis',
  'gb18030',
] as const;
export type Encoding = (typeof ENCODINGS)[number];
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

/** More control characters than this, which no text has, and it is none either. */
const BINARY_CONTROLS = 0.02;

function controls(head: Uint8Array, end: number): number {
  let n = 0;
  // Tab, the line ends, form feed and escape do stand in texts; nought is counted by itself.
  for (let i = 0; i < end; i += 1)
    if (head[i]! < 0x20 && head[i] !== 0 && !(head[i]! >= 0x09 && head[i]! <= 0x0d) && head[i] !== 0x1b) n += 1;
  return n;
}

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
  if (even + odd > end * BINARY_ZEROS || controls(head, end) > end * BINARY_CONTROLS)
    return { kind: 'not text', looksLike: 'a binary file' };
  return { kind: 'text', encoding: isUtf8(head) ? 'utf-8' : byVocabulary(head) };
}

/** Words of tables by which an encoding of one byte, or of two for some characters, is known. */
const VOCABULARY: readonly (readonly [Encoding, RegExp])[] = [
  ['windows-1251', /оборот|мощност|момент|время|давлен|температур|об\/мин|квт|скорост|частот/gi],
  ['koi8-r', /оборот|мощност|момент|время|давлен|температур|об\/мин|квт|скорост|частот/gi],
  ['shift_jis', /回転|出力|トルク|時間|馬力|車速|温度/g],
  ['gb18030', /转速|功率|扭矩|时间|温度|车速/g],
  ['windows-1250', /prędkość|ciśnienie|výkon|otáčky|točivý|čas\b|nyomaték|teljesítmény|moment obrotowy/gi],
];

/** The encoding under which the head has most words of the trade; Windows-1252 where none has any. */
function byVocabulary(head: Uint8Array): Encoding {
  let best: { encoding: Encoding; hits: number } = { encoding: 'windows-1252', hits: 0 };
  for (const [encoding, words] of VOCABULARY) {
    const hits = new TextDecoder(encoding).decode(head.subarray(0, 8192)).match(words)?.length ?? 0;
    if (hits > best.hits) best = { encoding, hits };
  }
  return best.encoding;
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
