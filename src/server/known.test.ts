import { Known } from './known';

const later = <T>() => {
  let done!: (value: T) => void;
  let fail!: (error: Error) => void;
  const promise = new Promise<T>((resolve, reject) => ([done, fail] = [resolve, reject]));
  return { promise, done, fail };
};

describe('what is known', () => {
  it('is begun once for all who ask meanwhile, and not again once it is there', async () => {
    const known = new Known<number>(2);
    const { promise, done } = later<number>();
    const begin = jest.fn(() => promise);
    const both = [known.orBegin('a', begin), known.orBegin('a', begin)];
    done(7);
    expect(await Promise.all(both)).toEqual([7, 7]);
    expect(await known.of('a')).toBe(7);
    expect(await known.orBegin('a', begin)).toBe(7);
    expect(begin).toHaveBeenCalledTimes(1);
    expect(known.of('b')).toBeUndefined();
  });

  it('is not what failed: everybody who waited hears of it, and the next one begins anew', async () => {
    const known = new Known<number>(2);
    const { promise, fail } = later<number>();
    const both = [known.orBegin('a', () => promise), known.orBegin('a', () => promise)];
    fail(new Error('no thread'));
    for (const one of both) await expect(one).rejects.toThrow('no thread');
    expect(known.of('a')).toBeUndefined();
    expect(await known.orBegin('a', () => Promise.resolve(1))).toBe(1);
  });

  it('lets go of the first begun, and a failure of one let go of does not take its successor with it', async () => {
    const known = new Known<number>(2);
    const { promise, fail } = later<number>();
    const first = known.orBegin('a', () => promise);
    void known.orBegin('b', () => Promise.resolve(2));
    void known.orBegin('c', () => Promise.resolve(3));
    expect(known.of('a')).toBeUndefined();
    expect(await known.orBegin('a', () => Promise.resolve(10))).toBe(10);
    fail(new Error('late'));
    await expect(first).rejects.toThrow('late');
    expect(await known.of('a')).toBe(10);
  });
});
