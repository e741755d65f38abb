import { fileKind } from '@/core/read/text';

/** A table that could not be had from a file; several tables in it are named, one of them is to be said. */
class TableRefused extends Error {
  constructor(
    message: string,
    readonly tables: readonly string[] = [],
  ) {
    super(message);
  }
}

interface Answer {
  readonly text?: string;
  readonly message?: string;
  readonly refusal?: { readonly refused: string; readonly tables?: readonly { readonly name: string }[] };
}

/** A file's table as text, whatever it is in: the server's reader opens it. Throws TableRefused with the sentence. */
export async function tableTextOf(file: File, table?: string): Promise<string> {
  const query = new URLSearchParams({ fileName: file.name, ...(table !== undefined && { table }) });
  const response = await fetch(`/api/tables?${query}`, { method: 'POST', body: file }).catch(() => null);
  if (!response) throw new TableRefused('The server is away; paste the table instead.');
  const answer = (await response.json().catch(() => ({}))) as Answer;
  if (response.ok && answer.text !== undefined) return answer.text;
  throw new TableRefused(
    answer.message ?? 'The file could not be read.',
    (answer.refusal?.tables ?? []).map((t) => t.name),
  );
}

/** More than this is left to the server, which refuses what is no small table. */
const SMALL_bytes = 2_000_000;

/** A small text file in whatever encoding a shop's programs write; null where it is no text or not small. */
export async function plainTextOf(file: File): Promise<string | null> {
  if (file.size > SMALL_bytes) return null;
  const bytes = new Uint8Array(await file.arrayBuffer());
  const kind = fileKind(bytes.subarray(0, 65_536));
  return kind.kind === 'text' ? new TextDecoder(kind.encoding).decode(bytes) : null;
}

/** Kinds of files a small table may come in. */
export const TABLE_FILES = '.csv,.txt,.tsv,.tab,.xlsx,.xls,.ods,.zip,.gz,.json,.ndjson,.html,.htm,.md,.xml';
