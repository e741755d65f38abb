import { spawnSync } from 'node:child_process';

/** What `npm test` says of what it was given, without running a check. */
const asked = (...args: string[]) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, ['scripts/test.mjs', ...args], { encoding: 'utf8' });
  return { status, says: stdout + stderr };
};
const chosen = (...args: string[]): string[] =>
  asked('--list', ...args)
    .says.trim()
    .split('\n');

it('runs every check unless some are named, and with --fast none of the built app', () => {
  const all = chosen();
  expect(all).toEqual(expect.arrayContaining(['types', 'lint', 'format', 'unit', 'database', 'e2e']));
  expect(chosen('--fast')).toEqual(all.filter((n) => n !== 'e2e'));
  expect(chosen('e2e', 'types')).toEqual(['types', 'e2e']);
  expect(chosen('e2e', 'types', '--fast')).toEqual(['types']);
});

it.each([
  [['--quick'], /Unknown option '--quick'[^]*--fast/],
  [['units'], /There is no check units\.[^]*unit/],
  [['e2e', '--fast'], /nothing is left of e2e/],
  [['--', '-t', 'air'], /go to one check: name it/],
  [['unit', 'database', '--', '-t', 'air'], /go to one check: name it/],
])('%j is refused before anything runs, with what there is', (args, why) => {
  const { status, says } = asked(...args);
  expect(status).toBe(1);
  expect(says).toMatch(why);
  expect(says).not.toMatch(/^npm packages/m);
});

it('says what it takes', () =>
  expect(asked('--help')).toMatchObject({ status: 0, says: expect.stringMatching(/npm test -- NAME/) as string }));
