import { StubWorker } from '../../test/stub-worker';
import { openThread, ThreadGone } from './thread';

/** A thread whose workers answer with their own number, in the order they were begun, or cannot be fetched. */
function threads(...away: boolean[]) {
  const made: StubWorker[] = [];
  const begin = (): Worker => {
    const number = made.length + 1;
    made.push(new StubWorker(away[made.length] ? null : { ask: () => number }));
    return made.at(-1) as unknown as Worker;
  };
  return { made, thread: openThread<{ ask: (of: string) => number }>(begin) };
}

it('answers, from one worker however often it is asked', async () => {
  const { made, thread } = threads();
  expect(await thread.api.ask('a')).toBe(1);
  expect(await thread.api.ask('b')).toBe(1);
  expect(made).toHaveLength(1);
});

it('a worker that could not be fetched fails the call, and the next call begins another', async () => {
  const { made, thread } = threads(true, true, false);
  const early = thread.api.ask('a');
  await expect(early).rejects.toThrow(ThreadGone);
  await expect(thread.api.ask('b')).rejects.toThrow(ThreadGone);
  expect(await thread.api.ask('c')).toBe(3);
  expect(made.map((w) => w.terminated)).toEqual([true, true, false]);
});

it('one that breaks down later fails what it was asked, once it is gone', async () => {
  const { made, thread } = threads(false, false);
  expect(await thread.api.ask('a')).toBe(1);
  made[0]!.breakDown();
  expect(await thread.api.ask('b')).toBe(2);
});

it('once ended it begins none, and answers nobody who is no longer there', async () => {
  const { made, thread } = threads(true);
  thread.end();
  expect(made[0]!.terminated).toBe(true);
  const late = Promise.race([thread.api.ask('a'), new Promise((r) => setTimeout(() => r('silence'), 30))]);
  expect(await late).toBe('silence');
  expect(made).toHaveLength(1);
});

it('is no promise to whoever awaits it', async () => {
  const { thread } = threads();
  expect(await Promise.resolve(thread.api)).toBe(thread.api);
});
