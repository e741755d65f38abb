import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { packStatic } from './pack-static.mjs';
import { run } from './run.mjs';
import { Plain } from './step.mjs';
import { ROOT } from './paths.mjs';

const INPUTS = [
  'src',
  'public',
  'next.config.ts',
  'tsconfig.json',
  'tsconfig.build.json',
  'package-lock.json',
  'scripts/build-workers.mjs',
  'scripts/lib/pack-static.mjs',
];
/** Made by the build itself. */
const MADE = new Set([join(ROOT, 'public', 'sw.js')]);
const RELEASE_LENGTH = 12;
const STAMP = join(ROOT, '.next', 'vanner-sources');

function* files(path) {
  if (!existsSync(path)) return;
  if (!statSync(path).isDirectory()) yield path;
  else for (const name of readdirSync(path).sort()) yield* files(join(path, name));
}

/** Content of everything a build is made of: a checkout that only changes dates does not build again. */
function sourceHash() {
  const hash = createHash('sha256');
  for (const input of INPUTS) {
    for (const file of files(join(ROOT, input))) {
      if (/\.test\.tsx?$/.test(file) || MADE.has(file)) continue;
      hash.update(file.slice(ROOT.length)).update('\0').update(readFileSync(file)).update('\0');
    }
  }
  return hash.digest('hex');
}

/** The release that was built last, as the app names it. */
export const builtRelease = () => readFileSync(STAMP, 'utf8').slice(0, RELEASE_LENGTH);

/** Builds the app and its worker threads when the sources are not those of the last build. */
export async function ensureBuilt() {
  const hash = sourceHash();
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === hash) return 'up to date';
  const env = { ...process.env, NEXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production', VANNER_RELEASE: hash.slice(0, RELEASE_LENGTH) };
  for (const [command, args] of [
    [process.execPath, ['scripts/build-workers.mjs']],
    [process.execPath, ['node_modules/next/dist/bin/next', 'build']],
  ]) {
    const built = await run(command, args, { quiet: true, cwd: ROOT, env });
    if (built.code !== 0) throw new Plain(`The build failed:\n${built.output}`);
  }
  await packStatic(join(ROOT, '.next', 'static'));
  writeFileSync(STAMP, hash);
  return 'built';
}
