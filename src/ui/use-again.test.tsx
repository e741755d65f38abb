import { act, renderHook } from '@testing-library/react';
import { useAgain } from './use-again';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

it('asks again soon, then rarer, and when the network is back, and only while something has failed', () => {
  const { result, rerender } = renderHook(({ failed }) => useAgain(failed), { initialProps: { failed: false } });
  act(() => jest.advanceTimersByTime(60_000));
  act(() => void window.dispatchEvent(new Event('online')));
  expect(result.current).toBe(0);
  rerender({ failed: true });
  act(() => jest.advanceTimersByTime(5500));
  expect(result.current).toBe(1);
  act(() => jest.advanceTimersByTime(10_000));
  expect(result.current).toBe(2);
  act(() => void window.dispatchEvent(new Event('online')));
  expect(result.current).toBe(3);
  // Once a minute by then.
  act(() => jest.advanceTimersByTime(600_000));
  expect(result.current).toBeLessThan(3 + 14);
  expect(result.current).toBeGreaterThan(3 + 8);
  const asked = result.current;
  rerender({ failed: false });
  act(() => jest.advanceTimersByTime(600_000));
  expect(result.current).toBe(asked);
});
