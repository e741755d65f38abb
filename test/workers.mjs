import { execFileSync } from 'node:child_process';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The server's threads run bundled code, in the tests as in the built app: bundled once, before the first test, not under one that runs. */
export default function bundleThreads() {
  const root = join(dirname(fileURLToPath(import.meta.url)), '..');
  execFileSync(process.execPath, ['scripts/build-workers.mjs'], { cwd: root, stdio: 'inherit' });
}
