import { act, renderHook } from '@testing-library/react';
import { FakeEventSource } from '../../../test/event-source';
import { useReadings } from './use-readings';

beforeEach(() => {
  FakeEventSource.opened = [];
  Object.assign(globalThis, { EventSource: FakeEventSource });
});

const begin = () => {
  const told: unknown[] = [];
  const hook = renderHook(() => useReadings<{ v: number }>((r) => told.push(r)));
  return { ...hook, told };
};

it('is off until it is opened, live once something comes, and tells each reading', () => {
  const { result, told } = begin();
  expect(result.current).toMatchObject({ state: 'off', last: null });
  act(() => result.current.open('/a'));
  expect(result.current.state).toBe('opening');
  act(() => FakeEventSource.latest().give({ v: 1 }));
  act(() => FakeEventSource.latest().give({ v: 2 }));
  expect(result.current).toMatchObject({ state: 'live', last: { v: 2 } });
  expect(told).toEqual([{ v: 1 }, { v: 2 }]);
});

it('a connection that breaks is away, and live again when it comes back', () => {
  const { result } = begin();
  act(() => result.current.open('/a'));
  act(() => FakeEventSource.latest().onerror?.());
  expect(result.current.state).toBe('away');
  act(() => FakeEventSource.latest().give({ v: 3 }));
  expect(result.current.state).toBe('live');
});

it('opening another ends the one before; its end, closing and leaving the page end the last', () => {
  const { result, unmount } = begin();
  act(() => result.current.open('/a'));
  act(() => result.current.open('/b'));
  expect(FakeEventSource.opened.map((s) => s.closed)).toEqual([true, false]);
  act(() => FakeEventSource.latest().end());
  expect(result.current.state).toBe('off');
  act(() => result.current.open('/c'));
  act(() => result.current.close());
  expect(FakeEventSource.latest().closed).toBe(true);
  act(() => result.current.open('/d'));
  unmount();
  expect(FakeEventSource.latest().closed).toBe(true);
});
