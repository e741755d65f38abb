import { GET as listPractice, POST as startPractice } from '@/app/api/jobs/[id]/practice/route';
import { GET as readGuesses, PUT as scoreGuesses } from '@/app/api/jobs/[id]/guesses/route';
import { POST as postJob } from '@/app/api/jobs/route';
import { GET as getScore, POST as decide } from '@/app/api/practice/[id]/decision/route';
import { GET as pullLive, POST as keepPull, PUT as leavePull } from '@/app/api/practice/[id]/pull/route';
import { POST as postGuess } from '@/app/api/predictions/route';
import { GET as shopHistory } from '@/app/api/shop/history/route';
import { GET as dynoStream } from '@/app/api/stand-ins/dyno/route';
import { GET as loggerStream } from '@/app/api/stand-ins/logger/route';
import { POST as postUnits } from '@/app/api/units/route';
import { NO_PLAN } from '@/core/documents/blank';
import type { StoredJob } from '@/core/documents/job';
import type { StoredPractice } from '@/core/documents/practice';
import type { StoredPrediction } from '@/core/documents/prediction';
import type { StoredUnit } from '@/core/documents/unit';
import { TableReader } from '@/core/read/reader';
import { columnValues } from '@/core/read/result';
import type { DynoReading } from '@/core/stand-ins/dyno';
import type { PracticeScore } from '@/core/stand-ins/practice';
import { WARTS } from '@/core/stand-ins/warts';
import { ask, at, bare, json, NOBODY, none, onFreshDatabase } from '../../test/api';
import { aUnit } from '../../test/units';
import { db } from './db/client';
import { keepPull as keep } from './practice';

onFreshDatabase();

let job: StoredJob;
let unit: StoredUnit;
beforeAll(async () => {
  job = await json<StoredJob>(await postJob(ask({ name: 'Practice car', preset: 'straight six, 2.9 L' }), none));
  [unit] = (await json<StoredUnit[]>(await postUnits(ask({ units: [aUnit(66, { name: 'Practice 66' }).doc] }), none))) as [StoredUnit];
});

const get = (query: string): Request => new Request(`http://127.0.0.1/x?${query}`, { headers: { host: '127.0.0.1' } });
const start = async (): Promise<StoredPractice> =>
  json(await startPractice(ask({ unitId: unit.id, plan: NO_PLAN, guess_pct: null }), at({ id: job.id })));

/** First messages of a stream; then the reader goes away. */
async function first(response: Response, count: number): Promise<unknown[]> {
  const reader = response.body!.getReader();
  let text = '';
  while ((text.match(/\n\n/g) ?? []).length < count) {
    const { value, done } = await reader.read();
    if (done) break;
    text += new TextDecoder().decode(value);
  }
  await reader.cancel();
  return text
    .split('\n\n')
    .slice(0, count)
    .map((m) => JSON.parse(m.replace(/^data: /, '')) as unknown);
}

describe('practice', () => {
  it('keeps the truth to itself until the person has decided', async () => {
    const begun = await start();
    expect(begun).toMatchObject({ runs: [], decision: null, truth: null });
    expect((await getScore(bare(), at({ id: begun.id }))).status).toBe(409);
    const after = await json<StoredPractice>(await keepPull(ask({ side: 'A', rest_min: 8 }), at({ id: begun.id })));
    expect(after.runs).toHaveLength(1);
    expect(JSON.stringify(after)).not.toMatch(/top_pct|driftPerPull/);
    const next = await json<StoredPractice>(await keepPull(ask({ side: 'B', rest_min: 8 }), at({ id: begun.id })));
    // Changing the part takes its time: the rest is at least that.
    expect(next.runs[1]).toMatchObject({
      side: 'B',
      rest_min: NO_PLAN.minutesPerSwap,
      at_min: 2 * NO_PLAN.minutesPerRun + 8 + NO_PLAN.minutesPerSwap,
    });
    const left = await json<StoredPractice>(await leavePull(ask({ seq: 0, leftOut: 'lifted early' }, 'PUT'), at({ id: begun.id })));
    expect(left.runs[0]!.leftOut).toBe('lifted early');
    expect((await leavePull(ask({ seq: 9, leftOut: null }, 'PUT'), at({ id: begun.id }))).status).toBe(404);
    const done = await json<{ practice: StoredPractice; score: PracticeScore }>(
      await decide(ask({ word: 'no difference that matters', estimate_pct: 0.1 }), at({ id: begun.id })),
    );
    expect(done.practice.truth).toMatchObject({ top_pct: expect.any(Number) as number });
    expect(done.score).toMatchObject({ runs: 2, right: expect.any(Boolean) as boolean });
    expect(done.score.true_pct + done.score.error_pct).toBeCloseTo(0.1, 9);
    expect((await decide(ask({ word: 'gain', estimate_pct: 1 }), at({ id: begun.id }))).status).toBe(409);
    expect((await keepPull(ask({ side: 'A', rest_min: 8 }), at({ id: begun.id }))).status).toBe(409);
    expect(await json<StoredPractice[]>(await listPractice(bare(), at({ id: job.id })))).toHaveLength(1);
  });

  it('shows live what it then keeps, and two pulls at once are two', async () => {
    const begun = await start();
    const live = (await first(await pullLive(get('side=A&rest_min=8'), at({ id: begun.id })), 4)) as DynoReading[];
    const kept = await json<StoredPractice>(await keepPull(ask({ side: 'A', rest_min: 8 }), at({ id: begun.id })));
    expect(kept.runs[0]!.rpm).toEqual(expect.arrayContaining([live[3]!.rpm]));
    const twice = (): Promise<StoredPractice> =>
      db()
        .transaction()
        .execute((trx) => keep(trx, begun.id, { side: 'A', rest_min: 5, newStay: false, day: 1 }));
    await Promise.all([twice(), twice()]);
    const [now] = await json<StoredPractice[]>(await listPractice(bare(), at({ id: job.id })));
    expect(now!.runs).toHaveLength(3);
  });

  it('refuses what is not there', async () => {
    expect((await startPractice(ask({ unitId: unit.id, plan: NO_PLAN, guess_pct: null }), at({ id: NOBODY }))).status).toBe(404);
    expect((await pullLive(get('side=C&rest_min=8'), at({ id: NOBODY }))).status).toBe(422);
    expect((await pullLive(get('side=A&rest_min=8'), at({ id: NOBODY }))).status).toBe(404);
  });
});

describe('the stand-ins of the test stop', () => {
  it('the dyno turns the job’s own engine at fifty readings a second', async () => {
    const response = await dynoStream(get(`job=${job.id}&seed=4&rests=8&rate=4000`), none);
    expect(response.headers.get('content-type')).toBe('text/event-stream');
    const [a, b] = (await first(response, 2)) as [DynoReading, DynoReading];
    expect(b.t_s - a.t_s).toBeCloseTo(0.02, 9);
    expect(a.plenum_Pa).toBeGreaterThan(90_000);
    expect((await dynoStream(get(`job=${job.id}&seed=4&rests=soon`), none)).status).toBe(422);
    expect((await dynoStream(get(`job=${job.id}&unit=${NOBODY}&seed=4&rests=8`), none)).status).toBe(404);
  });

  it('the logger writes a file with the wart that was asked for, or drives live', async () => {
    const response = await loggerStream(get(`job=${job.id}&unit=${unit.id}&seed=4&wart=decimal-comma`), none);
    expect(response.headers.get('content-disposition')).toContain('logger decimal-comma.csv');
    const reader = new TableReader();
    reader.push(new Uint8Array(await response.arrayBuffer()));
    const read = reader.finish();
    if (read.refused !== null) throw new Error(read.refused);
    expect(read.report).toMatchObject({ skippedTotal: 0, layout: { decimal: ',' } });
    expect(columnValues(read.columns[1]!).some((v) => v > 3000)).toBe(true);
    const [rows] = (await first(await loggerStream(get(`job=${job.id}&seed=4&live=1`), none), 1)) as [(number | null)[][]];
    expect(rows).toHaveLength(10);
    for (const { id } of WARTS.slice(-3)) expect((await loggerStream(get(`job=${job.id}&seed=4&wart=${id}`), none)).status).toBe(200);
  });
});

describe('who expects what', () => {
  const guess = (source: string, predicted: number) =>
    postGuess(ask({ subject: 'dyno', subjectId: job.id, title: 'x', source, predicted, low: predicted - 1, high: predicted + 1 }), none);

  it('is written down before the new part is run, and scored once by what was measured', async () => {
    expect((await guess('Maud', 2)).status).toBe(201);
    const scored = await json<StoredPrediction[]>(await scoreGuesses(ask({ measured: 1.4 }, 'PUT'), at({ id: job.id })));
    expect(scored).toEqual([expect.objectContaining({ source: 'Maud', measured: 1.4 })]);
    const again = await json<StoredPrediction[]>(await scoreGuesses(ask({ measured: 9 }, 'PUT'), at({ id: job.id })));
    expect(again[0]!.measured).toBe(1.4);
    await db().insertInto('file').values({ hash: 'f', size: 1 }).execute();
    const log = await db()
      .insertInto('log')
      .values({ job_id: job.id, file_hash: 'f', file_name: 'n', columns: '[]', report: '{}', rows: 0 })
      .returning('id')
      .executeTakeFirstOrThrow();
    await db()
      .insertInto('run')
      .values({
        job_id: job.id,
        log_id: log.id,
        first_row: 0,
        last_row: 0,
        doc: JSON.stringify({ side: { kind: 'unit', unitId: unit.id } }),
      })
      .execute();
    const late = await guess('Tobin', 1.4);
    expect(late.status).toBe(409);
    expect(await json(late)).toMatchObject({ error: 'too_late' });
    expect(await json(await readGuesses(bare(), at({ id: job.id })))).toHaveLength(1);
  });

  it('a shop without a study has no history of its own', async () => {
    expect(await json(await shopHistory(bare(), none))).toEqual({});
  });
});
