/** `npm run backup -- FILE`: everything in the database in one file, while people go on working. */
import { resolve } from 'node:path';
import { backupTo } from './lib/dump.mjs';
import { withDatabase } from './lib/own-database.mjs';
import { fail, Plain, step } from './lib/step.mjs';

async function main() {
  const now = new Date().toISOString().slice(0, 16).replace(/[:T]/g, '-');
  const [named, more] = process.argv.slice(2);
  if (more !== undefined) throw new Plain('One file is enough: npm run backup -- FILE');
  const file = resolve(process.env.INIT_CWD ?? '.', named ?? `vanner-${now}.backup`);
  await withDatabase((url) => step('backup', async () => `${((await backupTo(url, file)) / 1e6).toFixed(1)} MB`));
  console.log(`Everything is in ${file}`);
}

main().catch(fail);
