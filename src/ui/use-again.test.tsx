import { act, renderHook } from '@testing-library/react';
import { useAgain } from './use-again';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

it('asks again every few seconds and when the network is back, and only while something has failed', () => {
  const { result, rerender } = renderHook(({ failed }) => useAgain(failed), { initialProps: { failed: false } });
  act(() => jest.advanceTimersByTime(60_000));
  act(() => void window.dispatchEvent(new Event('online')));
  expect(result.current).toBe(0);
  rerender({ failed: true });
  act(() => jest.advanceTimersByTime(10_500));
  expect(result.current).toBe(2);
  act(() => void window.dispatchEvent(new Event('online')));
  expect(result.current).toBe(3);
  rerender({ failed: false });
  act(() => jest.advanceTimersByTime(60_000));
  expect(result.current).toBe(3);
});
