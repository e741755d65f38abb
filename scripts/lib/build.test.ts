import { execFileSync } from 'node:child_process';

/** Files of the repository that a program of the compiler takes in. */
const filesOf = (project: string): string[] =>
  execFileSync(process.execPath, ['node_modules/typescript/bin/tsc', '--listFilesOnly', '-p', project], { encoding: 'utf8' })
    .split('\n')
    .filter((f) => f.startsWith(process.cwd()))
    .map((f) => f.slice(process.cwd().length + 1))
    .filter((f) => !/^(node_modules|\.next)\//.test(f));

it('the app is built from itself: nothing that only its checks have, or make, can stop a fresh machine', () => {
  const files = filesOf('tsconfig.build.json');
  expect(files).toContain('src/proxy.ts');
  expect(files.filter((f) => /^(test|e2e|scripts)\/|\.test\.tsx?$/.test(f))).toEqual([]);
}, 60_000);
