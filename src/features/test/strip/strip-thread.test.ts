import { jobStrip } from '@/core/job/strip';
import { stripBook, UNIT_ID } from '../../../../test/facts';
import { larkspur } from '../../../../test/render-job';
import { StubWorker } from '../../../../test/stub-worker';
import { openStripThread } from './strip-thread';

const job = { car: larkspur.car, pick: { chosen: UNIT_ID }, test: { strip: larkspur.test.strip } };
const book = stripBook(10, 0.06);

afterEach(() => Reflect.deleteProperty(globalThis, 'Worker'));

it('at a strip without a network, where the thread’s script cannot be fetched, the page works out the passes itself', async () => {
  let begun = 0;
  globalThis.Worker = class extends StubWorker {
    constructor() {
      super(null);
      begun += 1;
    }
  } as unknown as typeof Worker;
  const thread = openStripThread();
  const found = await thread.analyse(job, book, undefined);
  expect(begun).toBe(1);
  expect(found).toEqual(jobStrip(job, book));
  expect(found.analysis).not.toBeNull();
});
