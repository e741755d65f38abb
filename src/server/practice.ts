import { randomInt } from 'node:crypto';
import type { z } from 'zod';
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
import { readKept } from '@/core/documents/kept';
import { isFailure } from '@/core/failure';
import { inferStrip, type AnswerWord } from '@/core/inference/answer';
import { runSweep } from '@/core/runs/sweep';
import { dynoReadings, type DynoSettings } from '@/core/stand-ins/dyno';
import {
  practiceComparison,
  practiceCurve,
  practiceMinutes,
  practicePass,
  practicePasses,
  practiceScore,
  practiceTruth,
  pullLuck,
  type PracticeScore,
} from '@/core/stand-ins/practice';
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
  return rows.map((r) => readKept(practiceRun, r.run));
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

async function readPractice(db: Db | Trx, id: string): Promise<StoredPractice> {
  const found = await row(db, id);
  const { curve: _curve, ...truth } = found.truth;
  return {
    id: found.id,
    setup: readKept(practiceSetup, found.setup),
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

/** What a person asks for: which side, how long a rest, strapped down anew, on which day. */
export const pullWanted = practiceRun.pick({ side: true, rest_min: true, newStay: true, day: true });
export type PullWanted = z.infer<typeof pullWanted>;

interface Asked {
  readonly found: Awaited<ReturnType<typeof row>>;
  readonly setup: PracticeSetup;
  readonly before: readonly PracticeRun[];
  /** The run as it is asked for: a swap is rest too, and days do not go back. */
  readonly made: PullWanted;
}

async function asked(db: Db | Trx, id: string, wanted: PullWanted): Promise<Asked> {
  const found = await row(db, id);
  const before = await runsOf(db, id);
  if (found.decision !== null) throw new ServerProblem(409, 'decided', 'This session has been decided. Begin another one.');
  if (before.length >= MOST_PULLS) throw new ServerProblem(409, 'too_many', `A session has ${MOST_PULLS} runs at most.`);
  const setup = readKept(practiceSetup, found.setup);
  const last = before.at(-1);
  const swap = last && (last.side !== wanted.side || wanted.newStay) ? setup.plan.minutesPerSwap : 0;
  const made = { ...wanted, rest_min: Math.max(swap, wanted.rest_min), day: Math.max(last?.day ?? 1, wanted.day) };
  return { found, setup, before, made };
}

/** The next pull of a session as the stand-in makes it. */
export async function pullSettings(db: Db | Trx, id: string, wanted: PullWanted): Promise<DynoSettings> {
  const { found, before, made } = await asked(db, id, wanted);
  const today = before.filter((r) => r.day === made.day);
  return {
    curve: practiceCurve(found.truth.curve, found.truth, made.side),
    // Another day has other air in the cell and another drift; the pulls of a day follow one another.
    seed: found.seed + 7919 * (made.day - 1),
    rests_min: [...today.map((r) => r.rest_min), made.rest_min],
    air_K: AIR_K,
    driftPerPull_pct: found.truth.driftPerPull_pct,
    ...pullLuck(found.seed, [...before, made]),
  };
}

/** Keeps a run. It is made again from the session's seed, so that what is kept is what the stand-in read, whatever the page sends. */
export async function keepPull(trx: Trx, id: string, wanted: PullWanted): Promise<StoredPractice> {
  await row(trx, id);
  await trx.selectFrom('practice').select('id').where('id', '=', id).forUpdate().execute();
  const { found, setup, before, made } = await asked(trx, id, wanted);
  const at_min = practiceMinutes([...before, made], setup.plan);
  const run = setup.rig === 'strip' ? passOf(found, before, made, at_min) : await pullOf(trx, id, wanted, made, at_min);
  await trx
    .insertInto('practice_run')
    .values({ practice_id: id, seq: before.length, run: JSON.stringify(run) })
    .execute();
  return readPractice(trx, id);
}

function passOf(found: Asked['found'], before: readonly PracticeRun[], made: PullWanted, at_min: number): PracticeRun {
  const pass = practicePass(found.seed, found.truth, [...before, made]);
  return practiceRun.parse({
    ...made,
    at_min,
    pass,
    rpm: [],
    power_W: [],
    inletStart_K: AIR_K,
    inletPeak_K: AIR_K,
    coolantStart_K: AIR_K,
    leftOut: null,
  } satisfies PracticeRun);
}

async function pullOf(trx: Trx, id: string, wanted: PullWanted, made: PullWanted, at_min: number): Promise<PracticeRun> {
  const readings = [...dynoReadings(await pullSettings(trx, id, wanted))];
  const sweep = runSweep(
    readings.map((r) => r.rpm),
    readings.map((r) => r.throttle_pct),
  );
  if (isFailure(sweep)) throw new ServerProblem(422, sweep.error, 'The pull has no sweep in it.');
  const kept = readings.slice(sweep.first, sweep.last + 1);
  return practiceRun.parse({
    ...made,
    at_min,
    pass: null,
    rpm: kept.map((r) => r.rpm),
    power_W: kept.map((r) => r.power_W),
    inletStart_K: kept[0]!.inlet_K,
    inletPeak_K: kept.reduce((m, r) => Math.max(m, r.inlet_K), 0),
    coolantStart_K: kept[0]!.coolant_K,
    leftOut: null,
  } satisfies PracticeRun);
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
  const setup = readKept(practiceSetup, found.setup);
  const runs = await runsOf(db, id);
  return practiceScore(found.truth.curve, found.truth, setup, found.decision, runs, carriedBy(setup, runs));
}

/** What the runs of a session can carry. */
function carriedBy(setup: PracticeSetup, runs: readonly PracticeRun[]): AnswerWord {
  const found = setup.rig === 'strip' ? inferStrip({ measure: 'speed', runs: practicePasses(runs) }) : practiceComparison(setup, runs);
  return isFailure(found) ? "can't tell yet" : found.word;
}
