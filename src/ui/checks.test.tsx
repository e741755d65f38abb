import { act, renderHook } from '@testing-library/react';
import { checksHere, checksSoon, giveChecks, loadChecks, useChecks } from './checks';
import { useWhenTouched } from './touched';

it('a component that asks draws again once the checks are here; they are loaded once', async () => {
  giveChecks(null);
  const { result } = renderHook(() => useChecks());
  expect(result.current).toBeNull();
  const first = loadChecks();
  expect(loadChecks()).toBe(first);
  await act(async () => void (await first));
  expect(result.current).toBe(checksHere());
  expect(result.current!.jobDoc.safeParse({}).success).toBe(false);
});

it('a line that hangs holds nobody up for longer than a moment, a broken one not at all', async () => {
  jest.useFakeTimers();
  giveChecks(new Promise(() => {}));
  let answer: unknown = 'none yet';
  void checksSoon().then((checks) => (answer = checks));
  await jest.advanceTimersByTimeAsync(2900);
  expect(answer).toBe('none yet');
  await jest.advanceTimersByTimeAsync(200);
  expect(answer).toBeNull();
  jest.useRealTimers();
  giveChecks(Promise.reject(new Error('away')));
  expect(await checksSoon()).toBeNull();
});

it('the first sign of somebody fetches, later ones and a page that is gone do not', () => {
  let fetched = 0;
  const fetch = () => Promise.resolve(void (fetched += 1));
  const { unmount } = renderHook(() => useWhenTouched(fetch));
  expect(fetched).toBe(0);
  window.dispatchEvent(new Event('focusin'));
  window.dispatchEvent(new Event('pointerdown'));
  expect(fetched).toBe(1);
  unmount();
  const gone = renderHook(() => useWhenTouched(fetch));
  gone.unmount();
  window.dispatchEvent(new Event('keydown'));
  expect(fetched).toBe(1);
});
