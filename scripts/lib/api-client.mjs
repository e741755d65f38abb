import { existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './paths.mjs';
import { must } from './run.mjs';

const MADE = join(ROOT, 'test/api-client.d.ts');
/** What the API's description is made of, for the most part. */
const FROM = ['src/server/api', 'src/core/documents'];

const newest = (folder) =>
  Math.max(...readdirSync(join(ROOT, folder), { recursive: true }).map((f) => statSync(join(ROOT, folder, f)).mtimeMs));

/** Writes the types of the API's client, which the tests are compiled against. */
export const makeApiClient = () => must(process.execPath, ['--import', 'tsx', 'scripts/api-client.ts'], { cwd: ROOT });

/** The same, where there are none yet or the API has changed since: the rest of the time it would be five seconds for nothing. */
export async function ensureApiClient() {
  if (existsSync(MADE) && statSync(MADE).mtimeMs > Math.max(...FROM.map(newest))) return 'as the API';
  await makeApiClient();
  return 'made';
}
