import { rememberingCache } from './style-registry';

type Change = Parameters<ReturnType<typeof rememberingCache>['opUpdate']>[1];
/** What the library does with a cache: keeps what is there, makes what is not. */
const use =
  (make: () => unknown): Change =>
  (before) => [before?.[0] ?? 0, before?.[1] ?? make()];

it('makes the variables of a component once for all pages, and gives each page only its own', () => {
  const make = jest.fn(() => ['--a: 1']);
  const [first, second] = [rememberingCache(), rememberingCache()];
  first.opUpdate('cssVar%Button%light', use(make));
  second.opUpdate('cssVar%Button%light', use(make));
  expect(make).toHaveBeenCalledTimes(1);
  expect(second.opGet('cssVar%Button%light')).toEqual([0, ['--a: 1']]);
  // The other page has no table, so it is not given a table's variables; nor does another theme get this one's.
  first.opUpdate(
    'cssVar%Table%light',
    use(() => ['--t: 1']),
  );
  expect(second.opGet('cssVar%Table%light')).toBeNull();
  second.opUpdate(
    'cssVar%Button%dark',
    use(() => ['--a: 2']),
  );
  expect(second.opGet('cssVar%Button%dark')?.[1]).toEqual(['--a: 2']);
});

it('forgets for a page what the library takes out of it, and no more than a few hundred are kept', () => {
  const page = rememberingCache();
  page.opUpdate(
    'token%x',
    use(() => 'x'),
  );
  page.opUpdate('token%x', () => null as never);
  expect(page.opGet('token%x')).toBeNull();
  for (let i = 0; i < 500; i += 1)
    page.opUpdate(
      `token%${i}`,
      use(() => i),
    );
  const again = jest.fn(() => 'anew');
  rememberingCache().opUpdate('token%0', use(again));
  expect(again).toHaveBeenCalled();
});
