import { act, renderHook } from '@testing-library/react';
import { checksHere, giveChecks, loadChecks, useChecks, useWhenTouched } from './checks';

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
