import { act, renderHook } from '@testing-library/react';
import type { Axes } from '@/core/picture/plane';
import type { TracedCurve } from '@/core/picture/trace';
import { StubWorker } from '../../../../test/stub-worker';
import { usePicture } from './use-picture';

const axes: Axes = {
  x: [
    { at: { x: 10, y: 90 }, value: 2000 },
    { at: { x: 90, y: 90 }, value: 6000 },
  ],
  y: [
    { at: { x: 10, y: 90 }, value: 0 },
    { at: { x: 10, y: 10 }, value: 100 },
  ],
};
const click = { x: 50, y: 50 };
const points = Array.from({ length: 9 }, (_, i) => ({ x: 2000 + 100 * i, y: i }));

/** Workers as they are begun: each either cannot be fetched, or follows the curve of a picture it was given. */
let away: boolean[];
const taken: unknown[] = [];
const made: StubWorker[] = [];
const globals = globalThis as unknown as Record<string, unknown>;

beforeEach(() => {
  made.length = 0;
  taken.length = 0;
  globals['Worker'] = class extends StubWorker {
    constructor() {
      let has: unknown = null;
      const answers = {
        take: (id: unknown) => void taken.push((has = id)),
        trace: (id: unknown) => (has === id ? ({ points } as unknown as TracedCurve) : 'not taken'),
      };
      super(away[made.length] ? null : answers);
      made.push(this);
    }
  };
  globals['createImageBitmap'] = () => Promise.resolve({ width: 100, height: 100 });
  globals['OffscreenCanvas'] = class {
    getContext() {
      return { drawImage: () => {}, getImageData: () => ({ data: new Uint8ClampedArray(4) }) };
    }
  };
});
afterEach(() => ['Worker', 'createImageBitmap', 'OffscreenCanvas'].forEach((name) => Reflect.deleteProperty(globalThis, name)));

const png = new File(['png'], 'sheet.png', { type: 'image/png' });

it('opens a picture and follows the line that is clicked', async () => {
  away = [];
  const { result } = renderHook(() => usePicture());
  await act(() => result.current.open(png));
  await act(() => result.current.trace(axes, click));
  expect(result.current).toMatchObject({ wrong: null, busy: false, picture: { name: 'sheet.png' }, curve: { points } });
});

it('a tracer that cannot be fetched takes the picture with it no more: points go on by hand, and a later click follows the line', async () => {
  away = [true, false];
  const { result } = renderHook(() => usePicture());
  await act(() => result.current.open(png));
  expect(result.current.picture?.name).toBe('sheet.png');
  await act(() => result.current.trace(axes, click));
  expect(result.current).toMatchObject({ busy: false, curve: null });
  expect(result.current.wrong).toMatch(/^What follows a line could not be fetched/);
  // The second worker is there, and is given the picture that the first never had.
  await act(() => result.current.trace(axes, click));
  expect(result.current).toMatchObject({ wrong: null, curve: { points } });
});

it('a tracer that breaks down is no line that is not there', async () => {
  away = [];
  const { result } = renderHook(() => usePicture());
  await act(() => result.current.open(png));
  act(() => made[0]!.breakDown());
  await act(() => result.current.trace(axes, click));
  expect(result.current).toMatchObject({ wrong: null, curve: { points } });
});

it('a second picture is followed on its own pixels, not on the first one’s', async () => {
  away = [];
  const { result } = renderHook(() => usePicture());
  await act(() => result.current.open(png));
  await act(() => result.current.trace(axes, click));
  await act(() => result.current.open(new File(['png'], 'other.png', { type: 'image/png' })));
  expect(result.current.curve).toBeNull();
  await act(() => result.current.trace(axes, click));
  expect(taken).toEqual([1, 2]);
  expect(result.current.curve).toMatchObject({ points });
});

it('a file that is no picture says so', async () => {
  away = [];
  globals['createImageBitmap'] = () => Promise.reject(new Error('not an image'));
  const { result } = renderHook(() => usePicture());
  await act(() => result.current.open(png));
  expect(result.current).toMatchObject({
    picture: null,
    wrong: 'This file is no picture that can be opened here. PNG, JPEG and WebP are.',
  });
});
