import { act, render, screen } from '@testing-library/react';
import { below } from './below';

const Part = ({ name }: { name: string }) => <p>{name}</p>;
type Seen = (entries: readonly { isIntersecting: boolean }[]) => void;
const observers: Seen[] = [];

beforeEach(() => {
  observers.length = 0;
  jest.spyOn(globalThis, 'IntersectionObserver').mockImplementation(((seen: Seen) => {
    observers.push(seen);
    return { observe: () => {}, disconnect: () => {}, unobserve: () => {} };
  }) as never);
  jest.useFakeTimers();
});
afterEach(() => {
  jest.useRealTimers();
  jest.restoreAllMocks();
});

const begin = (answers: readonly (() => Promise<typeof Part>)[] = [() => Promise.resolve(Part)]) => {
  let asked = 0;
  const Below = below(() => answers[Math.min(asked++, answers.length - 1)]!(), 3);
  render(<Below name="passes" />);
  return () => asked;
};
const settle = () => act(() => Promise.resolve());

it('stands as grey lines until its place comes near, and is fetched once', async () => {
  const asked = begin();
  observers[0]!([{ isIntersecting: false }]);
  await settle();
  expect(screen.queryByText('passes')).toBeNull();
  expect(asked()).toBe(0);
  observers[0]!([{ isIntersecting: true }]);
  observers[0]!([{ isIntersecting: true }]);
  await settle();
  expect(screen.getByText('passes')).toBeInTheDocument();
  expect(asked()).toBe(1);
});

it.each(['pointermove', 'keydown', 'beforeprint'])('%s fetches it', async (sign) => {
  begin();
  window.dispatchEvent(new Event(sign));
  await settle();
  expect(screen.getByText('passes')).toBeInTheDocument();
});

it('comes of itself once the page has been still', async () => {
  begin();
  await act(() => jest.advanceTimersByTimeAsync(2600));
  expect(screen.getByText('passes')).toBeInTheDocument();
});

it('what could not be fetched is tried again at the next sign', async () => {
  const asked = begin([() => Promise.reject(new Error('away')), () => Promise.resolve(Part)]);
  window.dispatchEvent(new Event('pointermove'));
  await settle();
  await settle();
  expect(screen.queryByText('passes')).toBeNull();
  window.dispatchEvent(new Event('pointermove'));
  await settle();
  expect(screen.getByText('passes')).toBeInTheDocument();
  expect(asked()).toBe(2);
});
