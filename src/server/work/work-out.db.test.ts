import { jobStrip } from '@/core/job/strip';
import { sidedRuns } from '@/core/job/comparison';
import type { RunChannel } from '@/core/runs/dyno-run';
import { freshDatabase } from '../../../test/database';
import type { Db } from '../db/client';
import { loadDemo } from '../demo/load';
import { jobFacts } from '../facts';
import { jobFinding, readJob, refreshFinding } from '../jobs';
import { dynoChannels, listRuns } from '../runs';
import { readBook } from '../strip';
import { workedOut } from './sums';
import { endSumThreads, keepSumThreads, workOut } from './work-out';

jest.mock('./sums', () => {
  const real = jest.requireActual<{ workedOut: (asked: unknown) => unknown }>('./sums');
  return { workedOut: jest.fn(real.workedOut) };
});
const onThisThread = jest.mocked(workedOut);

let db: Db;
let drop: () => Promise<void>;
beforeAll(async () => {
  ({ db, drop } = await freshDatabase());
  await db.transaction().execute(loadDemo);
});
afterAll(() => drop());
afterEach(() => endSumThreads());

const jobsWith = async (name: string) =>
  readJob(db, (await db.selectFrom('job').select('id').where('name', '=', name).executeTakeFirstOrThrow()).id);
/** Nothing is worked out on the thread that answers. */
const nothingHere = async (work: () => Promise<void>): Promise<void> => {
  onThisThread.mockClear();
  await work();
  expect(onThisThread).not.toHaveBeenCalled();
};

it('comes to the same in a thread as in place, to the last digit', async () => {
  const { id, doc } = await jobsWith('Larkspur estate');
  const sides = sidedRuns(await listRuns(db, id), doc);
  const channels: RunChannel[][] = [];
  for (const run of sides.oneKind.runs) channels.push(await dynoChannels(db, run));
  const here = await workOut('comparison', sides, channels, doc, undefined);
  const book = await readBook(db, id);
  keepSumThreads();
  await nothingHere(async () => {
    expect(await workOut('comparison', sides, channels, doc, undefined)).toEqual(here);
    expect(await workOut('strip', doc, book, undefined, undefined)).toEqual(jobStrip(doc, book));
  });
  expect(here.compared!.difference_pct.length).toBeGreaterThan(50);
});

it('answers what a verdict stands on and saves a finding without a sum on its own thread', async () => {
  const { id, doc } = await jobsWith('Larkspur estate');
  const before = await jobFinding(db, id);
  keepSumThreads();
  await nothingHere(async () => {
    // Another tolerance is another question: nothing of it is known from before.
    const other = {
      ...doc,
      test: { ...doc.test, plan: { ...doc.test.plan, threshold_pct: 1.25 }, strip: { ...doc.test.strip, et_s: 0.07 } },
    };
    const facts = await jobFacts(db, id, other);
    expect(facts.comparison?.threshold_pct).toBe(1.25);
    expect(await db.transaction().execute((trx) => refreshFinding(trx, id))).toEqual(before);
  });
});

it('hears of what goes wrong in the thread', async () => {
  keepSumThreads();
  const { id, doc } = await jobsWith('Larkspur estate');
  const sides = sidedRuns(await listRuns(db, id), doc);
  await expect(workOut('comparison', sides, [], doc, undefined)).rejects.toThrow();
  expect((await workOut('strip', doc, { visits: [], passes: [] }, null, undefined)).analysis).toBeNull();
});
