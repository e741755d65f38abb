import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join, normalize } from 'node:path';
import { ROOT } from './paths.mjs';

const bare = (path) => path.replace(/\.[mc]?[jt]sx?$/, '').replace(/\/index$/, '');

/** What a file of this repository takes in, as paths without their ending. */
function takesIn(file) {
  const text = readFileSync(join(ROOT, file), 'utf8');
  return [...text.matchAll(/(?:\bfrom|\bimport|\bimport\(|\brequireActual\w*\(|\bmock\()\s*'((?:@\/|\.)[^']*)'/g)].map(([, to]) =>
    bare(to.startsWith('@/') ? `src/${to.slice(2)}` : normalize(join(dirname(file), to))),
  );
}

/**
 * The unit and component tests that name one of these files, and those of them that are tests. Not those that reach it over others: of
 * what stands at the ground of the core that is nearly all of them.
 */
export function testsOf(files) {
  const changed = new Set(files.map(bare));
  return ['src', 'scripts']
    .flatMap((folder) => readdirSync(join(ROOT, folder), { recursive: true }).map((f) => join(folder, f)))
    .filter((f) => /\.test\.tsx?$/.test(f) && !/\.db\.test\.ts$/.test(f) && existsSync(join(ROOT, f)))
    .filter((f) => changed.has(bare(f)) || takesIn(f).some((t) => changed.has(t)));
}
