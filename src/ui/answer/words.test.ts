import { failureText, rpmText } from './words';

it('speaks of engine speed to the nearest ten', () => {
  expect(rpmText(5268)).toBe('5,270 rpm');
});

it.each([
  [{ error: 'choked', at_rpm: 6012 }, /chokes at 6,010 rpm.*Look for a bore typed too small/],
  [{ error: 'choked', side: 'candidate', where: 'Hollin 62' }, /^With Hollin 62 the intake chokes/],
  [{ error: 'pressure_out_of_range' }, /14\.76 inHg to 32\.48 inHg\. Type the station pressure/],
  [
    { error: 'bad_geometry', where: 'pipe', reason: 'bend_too_tight' },
    /^pipe: this cannot be built: a bend is tighter than half its bore\.$/,
  ],
  [{ error: 'bad_geometry', reason: 'something else' }, /a size is impossible/],
  [{ error: 'no_bore' }, /^No bore up to 250\.0 mm is enough/],
])('says what a failure of the core means and what to do: %j', (failure, said) => {
  expect(failureText(failure as Parameters<typeof failureText>[0], 'us')).toMatch(said);
});
