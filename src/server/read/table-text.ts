import { fileKind } from '@/core/read/text';
import type { ReadRefusal } from '@/core/read/result';
import { openContainer } from './open';

/** Largest text that is handed to a page for a small table. */
const TABLE_TEXT_LIMIT = 6_000_000;

export interface TableText {
  readonly refused: null;
  /** The table as it stands in the file, words and all: lines of tabs where the file was no text. */
  readonly text: string;
  readonly container: string;
  readonly unread: readonly string[];
}

/** A file's table as text, for the places that take pasted tables; or why there is none. */
export function readTableText(bytes: Uint8Array, choice: string | null): TableText | ReadRefusal {
  if (bytes.length === 0) return { refused: 'empty_file' };
  const opened = openContainer(bytes, choice);
  if (opened.refused !== null) return opened;
  const kind = fileKind(opened.text.subarray(0, 65_536));
  if (kind.kind === 'not text') return { refused: 'not_text', looksLike: kind.looksLike };
  const text = new TextDecoder(kind.encoding)
    .decode(opened.text)
    .replace(/^\uFEFF/, '')
    .replaceAll('\0', '');
  if (text.length > TABLE_TEXT_LIMIT) return { refused: 'container', container: opened.container || 'a table', why: 'too_large' };
  return { refused: null, text, container: opened.container, unread: opened.unread };
}
