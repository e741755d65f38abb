/** A server thread that takes a small table out of whatever file it is in. Bundled by scripts/build-workers.mjs. */
import { readTableText, type TableText } from '../read/table-text';
import type { ReadRefusal } from '../../core/read/result';

export default function tableText({ bytes, table }: { bytes: Uint8Array; table: string | null }): TableText | ReadRefusal {
  return readTableText(bytes, table);
}
