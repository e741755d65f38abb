/** A server thread that reads and checks the job.json of an archive. Bundled by scripts/build-workers.mjs. */
import { packageDocument, type PackageDocument } from '../package/document';

export default function read(bytes: Uint8Array): PackageDocument {
  return packageDocument(bytes);
}
