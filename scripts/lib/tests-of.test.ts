import { execFileSync } from 'node:child_process';

/** The module is one of the scripts' own kind: it is run as they are. */
const testsOf = (...files: string[]): string[] =>
  JSON.parse(
    execFileSync(
      process.execPath,
      [
        '--input-type=module',
        '-e',
        `import { testsOf } from './scripts/lib/tests-of.mjs'; console.log(JSON.stringify(testsOf(${JSON.stringify(files)})))`,
      ],
      { encoding: 'utf8' },
    ),
  ) as string[];

it('finds what names a file: its own test, and others that take it in by either way of writing', () => {
  const of = testsOf('src/core/units/quantity.ts', 'test/install-sheet.tsx');
  expect(of).toContain('src/core/units/quantity.test.ts');
  expect(of).toContain('src/features/install/relearn.test.tsx');
  expect(of).not.toContain('src/core/strip/slip.test.ts');
});

it('a changed test is run itself; one that wants a database is not, nor one that only reaches what changed', () => {
  expect(testsOf('scripts/lib/build.test.ts')).toEqual(['scripts/lib/build.test.ts']);
  expect(testsOf('src/server/db/migrate.ts', 'src/server/strip.db.test.ts', 'docs/security.md')).toEqual([]);
});
