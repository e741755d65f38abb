import { issuesOf } from '@/core/documents/issue';
import { packageDoc, PACKAGE_FORMAT, PACKAGE_VERSION, type PackageDoc } from '@/core/documents/package';

/** An archive's job.json as a document, or why it is none. */
export type PackageDocument =
  | { readonly doc: PackageDoc; readonly refused: null }
  | { readonly doc: null; readonly refused: { readonly code: string; readonly message: string } };

const refused = (code: string, message: string): PackageDocument => ({ doc: null, refused: { code, message } });

/** Reads and checks job.json. Takes seconds for the largest: the server does it in a thread. */
export function packageDocument(bytes: Uint8Array): PackageDocument {
  let raw: unknown;
  try {
    raw = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    return refused('not_a_job', 'The job.json of this archive is not JSON.');
  }
  const said = (typeof raw === 'object' && raw !== null ? raw : {}) as { format?: unknown; version?: unknown };
  if (said.format !== PACKAGE_FORMAT) return refused('not_a_job', 'The job.json of this archive is not a job of Vanner.');
  if (typeof said.version === 'number' && said.version > PACKAGE_VERSION)
    return refused('newer', 'This job was exported by a newer Vanner. Bring this one up to date first.');
  const parsed = packageDoc.safeParse(raw);
  if (parsed.success) return { doc: parsed.data, refused: null };
  const [issue] = issuesOf(parsed.error, raw);
  return refused('bad_job', `job.json, ${issue?.path || 'as a whole'}: ${issue?.message ?? 'It is not possible.'}`);
}
