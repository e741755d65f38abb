import { randomInt } from 'node:crypto';
import type { JobDoc } from '@/core/documents/job';
import {
  practiceDecision,
  practiceRun,
  practiceSetup,
  type PracticeDecision,
  type PracticeRun,
  type PracticeSetup,
  type StoredPractice,
} from '@/core/documents/practice';
import { isFailure } from '@/core/failure';
import { runSweep } from '@/core/runs/sweep';
import { dynoReadings, type DynoSettings } from '@/core/stand-ins/dyno';
import { practiceCurve, practiceMinutes, practiceScore, practiceTruth, type PracticeScore } from '@/core/stand-ins/practice';
import type { Db, Trx } from './db/client';
import { engineAtWheels } from './devices/dyno';
import { notFound, ServerProblem } from './errors';
import { isUuid } from './ids';

/** The stand-in's air: practice has one steady day. */
const AIR_K = 293.15;
/** A session is a day: more pulls than this are not made in one. */
const MOST_PULLS = 60;

async function row(db: Db | Trx, id: string) {
  const found = isUuid(id) ? await db.selectFrom('practice').selectAll().where('id', '=', id).executeTakeFirst() : undefined;
  if (!found) throw notFound('practice session');
  return found;
}

async function runsOf(db: Db | Trx, id: string): Promise<PracticeRun[]> {
  const rows = await db.selectFrom('practice_run').select('run').where('practice_id', '=', id).orderBy('seq').execute();
  return rows.map((r) => practiceRun.parse(r.run));
}

/** Begins a session: what is true is drawn now and stays on the server until the person has decided. */
export async function startPractice(
  db: Db,
  jobId: string,
  doc: JobDoc,
  setup: PracticeSetup,
  seed = randomInt(1, 2 ** 31),
): Promise<StoredPractice> {
  const curve = await engineAtWheels(db, doc, null, null);
  const made = await db
    .insertInto('practice')
    .values({
      job_id: jobId,
      seed,
      setup: JSON.stringify(practiceSetup.parse(setup)),
      truth: JSON.stringify({ ...practiceTruth(seed), curve: { rpm: curve.rpm, power_W: curve.power_W } }),
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  return readPractice(db, made.id);
}

export async function readPractice(db: Db | Trx, id: string): Promise<StoredPractice> {
  const found = await row(db, id);
  const { curve: _curve, ...truth } = found.truth;
  return {
    id: found.id,
    setup: practiceSetup.parse(found.setup),
    runs: await runsOf(db, id),
    decision: found.decision,
    truth: found.decision === null ? null : truth,
    startedAt: found.created_at.toISOString(),
  };
}

/** The job's sessions, the newest first. */
export async function listPractice(db: Db, jobId: string): Promise<StoredPractice[]> {
  const rows = await db.selectFrom('practice').select('id').where('job_id', '=', jobId).orderBy('created_at', 'desc').limit(20).execute();
  const out: StoredPractice[] = [];
  for (const { id } of rows) out.push(await readPractice(db, id));
  return out;
}

/** The next pull of a session as the stand-in makes it. */
export async function pullSettings(db: Db | Trx, id: string, side: 'A' | 'B', rest_min: number): Promise<DynoSettings> {
  const found = await row(db, id);
  const before = await runsOf(db, id);
  if (found.decision !== null) throw new ServerProblem(409, 'decided', 'This session has been decided. Begin another one.');
  if (before.length >= MOST_PULLS) throw new ServerProblem(409, 'too_many', `A session has ${MOST_PULLS} pulls at most.`);
  const { plan } = practiceSetup.parse(found.setup);
  const swap = before.length > 0 && before.at(-1)!.side !== side ? plan.minutesPerSwap : 0;
  return {
    curve: practiceCurve(found.truth.curve, found.truth, side),
    seed: found.seed,
    rests_min: [...before.map((r) => r.rest_min), Math.max(swap, rest_min)],
    air_K: AIR_K,
    driftPerPull_pct: found.truth.driftPerPull_pct,
  };
}

/** Keeps a pull. It is made again from the session's seed, so that what is kept is what the dyno read, whatever the page sends. */
export async function keepPull(trx: Trx, id: string, side: 'A' | 'B', rest_min: number): Promise<StoredPractice> {
  await trx.selectFrom('practice').select('id').where('id', '=', id).forUpdate().execute();
  const settings = await pullSettings(trx, id, side, rest_min);
  const readings = [...dynoReadings(settings)];
  const sweep = runSweep(
    readings.map((r) => r.rpm),
    readings.map((r) => r.throttle_pct),
  );
  if (isFailure(sweep)) throw new ServerProblem(422, sweep.error, 'The pull has no sweep in it.');
  const kept = readings.slice(sweep.first, sweep.last + 1);
  const before = await runsOf(trx, id);
  const { plan } = practiceSetup.parse((await row(trx, id)).setup);
  const made = { side, rest_min: settings.rests_min.at(-1)! };
  const run = practiceRun.parse({
    ...made,
    at_min: practiceMinutes([...before, made], plan),
    rpm: kept.map((r) => r.rpm),
    power_W: kept.map((r) => r.power_W),
    inletStart_K: kept[0]!.inlet_K,
    inletPeak_K: kept.reduce((m, r) => Math.max(m, r.inlet_K), 0),
    coolantStart_K: kept[0]!.coolant_K,
    leftOut: null,
  } satisfies PracticeRun);
  await trx
    .insertInto('practice_run')
    .values({ practice_id: id, seq: before.length, run: JSON.stringify(run) })
    .execute();
  return readPractice(trx, id);
}

/** Leaves a pull out with a reason, or counts it again. */
export async function leavePullOut(trx: Trx, id: string, seq: number, leftOut: string | null): Promise<StoredPractice> {
  const before = await runsOf(trx, id);
  const run = before[seq];
  if (!run) throw notFound('pull');
  await trx
    .updateTable('practice_run')
    .set({ run: JSON.stringify({ ...run, leftOut }) })
    .where('practice_id', '=', id)
    .where('seq', '=', seq)
    .execute();
  return readPractice(trx, id);
}

/** The person decides, once; only now the truth comes out. */
export async function decidePractice(
  trx: Trx,
  id: string,
  decision: PracticeDecision,
): Promise<{ practice: StoredPractice; score: PracticeScore }> {
  const found = await row(trx, id);
  if (found.decision !== null) throw new ServerProblem(409, 'decided', 'This session has been decided already.');
  const said = practiceDecision.parse(decision);
  await trx
    .updateTable('practice')
    .set({ decision: JSON.stringify(said) })
    .where('id', '=', id)
    .execute();
  return { practice: await readPractice(trx, id), score: await scoreOf(trx, id) };
}

export async function scoreOf(db: Db | Trx, id: string): Promise<PracticeScore> {
  const found = await row(db, id);
  if (found.decision === null) throw new ServerProblem(409, 'undecided', 'Decide first; then the truth is told.');
  return practiceScore(found.truth.curve, found.truth, practiceSetup.parse(found.setup).plan, found.decision, await runsOf(db, id));
}
