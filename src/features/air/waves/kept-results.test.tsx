import 'fake-indexeddb/auto';
import { waitFor } from '@testing-library/react';
import { madeUpResult } from '../../../../test/waves';
import { KeptResults } from './kept-results';

// A browser's own copy of what is stored; the test environment has none.
globalThis.structuredClone ??= ((v: unknown) => v) as typeof structuredClone;

const engine = {
  engine: { displacement_m3: 1e-3, cylinders: 1, compressionRatio: 10 },
  runner: { segments: [{ length_m: 0.3, inBore_m: 0.04, outBore_m: 0.04 }] },
};
const result = (rpm: number) => madeUpResult(engine, rpm);
const databases = async (): Promise<(string | undefined)[]> => (await indexedDB.databases()).map((d) => d.name).sort();

it('gives back the points it was given, in the order asked for, and says which it has not; pictures are not kept', async () => {
  const kept = new KeptResults('one');
  await kept.put('a', result(3000));
  await kept.put('b', result(5000));
  await kept.close();
  const again = new KeptResults('one');
  const found = await again.load(['b', 'none', 'a']);
  expect(found.map((f) => f?.W ?? null)).toEqual([result(5000).W, null, result(3000).W]);
  expect(Object.keys(found[0]!)).not.toContain('picture');
  await again.close();
});

it('another release of the model begins with none, and clears away what was before it', async () => {
  const old = new KeptResults('one');
  await old.put('a', result(3000));
  await old.close();
  const next = new KeptResults('two');
  expect(await next.load(['a'])).toEqual([null]);
  await next.close();
  await waitFor(async () => expect(await databases()).toEqual(['vanner-waves-two']));
});

it('a browser that keeps nothing has nothing, and breaks nothing', async () => {
  const was = indexedDB.open.bind(indexedDB);
  indexedDB.open = () => {
    throw new DOMException('no', 'SecurityError');
  };
  const kept = new KeptResults('three');
  await kept.put('a', result(3000));
  expect(await kept.load(['a', 'b'])).toEqual([null, null]);
  indexedDB.open = was;
});
