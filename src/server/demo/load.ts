import type { StoredJob } from '@/core/documents/job';
import type { RunDoc } from '@/core/documents/run';
import type { StoredUnit } from '@/core/documents/unit';
import { TableReader } from '@/core/read/reader';
import { LOGGER_COLUMNS, loggerRows } from '@/core/stand-ins/logger';
import { wartFile } from '@/core/stand-ins/warts';
import type { Trx } from '@/server/db/client';
import { storeFile } from '@/server/files/store';
import { addJob, listJobs, readJob, refreshFinding } from '@/server/jobs';
import { jobComparison } from '@/server/comparison';
import { addRuns } from '@/server/runs';
import { saveShop } from '@/server/shop';
import { shopSettingsDoc } from '@/core/documents/shop';
import { addPart } from '@/server/parts';
import { addPrediction, measurePrediction, scorePredictions } from '@/server/predictions';
import { loggerDrive } from '@/server/devices/logger';
import { writeSheet } from '@/server/sheet';
import { setTrashed } from '@/server/trash';
import { addUnit, listUnits } from '@/server/units';
import { dynoFile, type DemoRun } from './dyno-files';
import { DEMO_UNITS, larkspurJob } from './larkspur';
import { curlewJob, heronJob, pipitJob, wrenJob } from './others';
import { DEMO_PARTS, DEMO_SHELF } from './shelf';
import { CURLEW_RUNS, DEMO_RUNS, HERON_RUNS } from './runs';
import { demoSheet } from './sheets';
import { LARKSPUR_DAYS, loadStrip, PIPIT_DAYS } from './strip';
import { CFM_m3ps } from '@/core/units/units';

/** Loads the demo scenario through the same functions that people's own data goes through. */
export async function loadDemo(trx: Trx): Promise<string> {
  await saveShop(trx, shopSettingsDoc.parse({ name: 'Quarry Lane Engine Works', people: ['Maud', 'Tobin'], hourly: 68 }));
  const units: StoredUnit[] = [];
  for (const unit of DEMO_SHELF) units.push(await addUnit(trx, unit));
  for (const part of DEMO_PARTS) await addPart(trx, part);
  const idOf = (name: string): string => {
    const unit = units.find((u) => u.doc.name === name);
    if (!unit) throw new Error(`no demo unit ${name}`);
    return unit.id;
  };
  // The Larkspur comes last, so that it lies on top of the board.
  const wren = await addJob(trx, wrenJob(idOf));
  const curlew = await addJob(trx, curlewJob(idOf));
  await loadRuns(trx, curlew, CURLEW_RUNS, units, {});
  const pipit = await addJob(trx, pipitJob(idOf));
  const pipitPasses = await loadStrip(trx, pipit, idOf('Dunlin 62'), PIPIT_DAYS);
  const heron = await addJob(trx, heronJob(idOf));
  await loadRuns(trx, heron, HERON_RUNS, units, { fuel: 'petrol 102' });
  // Fitted and running, not yet learnt.
  await writeDemoSheet(trx, heron, 2, '2026-04-20T08:10:00Z', 'covers');
  const doc = larkspurJob(units.slice(0, DEMO_UNITS.length).map((u) => u.id));
  const job = await addJob(trx, doc);
  await writeDemoSheet(trx, job, 1, '2026-04-17T07:40:00Z', null);
  await loadDynoGuesses(trx, job.id);
  await loadRuns(trx, job, DEMO_RUNS, units, { fuel: 'petrol 98', tune: 'as it came' });
  for (const [name, unit] of [
    ['stock', null],
    ['Fenwick 66', idOf('Fenwick 66')],
  ] as const)
    await loadLog(trx, job, name, unit);
  const passes = pipitPasses + (await loadStrip(trx, job, idOf('Fenwick 66'), LARKSPUR_DAYS));
  const jobs = [wren.id, curlew.id, pipit.id, heron.id, job.id];
  // Twice: each leans on what the others' studies leave, and that is known after the first time.
  for (const id of [...jobs, ...jobs]) await refreshFinding(trx, id);
  await scorePredictions(trx, 'dyno', job.id, await measuredOf(trx, job));
  await loadGuesses(trx, idOf);
  return `5 jobs, ${units.length} throttles, ${DEMO_RUNS.length + HERON_RUNS.length + CURLEW_RUNS.length} dyno runs, 2 logs, ${passes} passes`;
}

/** The word that an example job is tagged with, and its throttles' notes begin with. */
const EXAMPLE_TAG = 'example';
const EXAMPLE_NOTE = 'Example, made up.';

/** The Larkspur alone, for a shop that wants to see a finished job; it says that it is an example, and can be taken away again. */
export async function loadExample(trx: Trx): Promise<StoredJob> {
  const units: StoredUnit[] = [];
  for (const unit of DEMO_UNITS) units.push(await addUnit(trx, { ...unit, note: `${EXAMPLE_NOTE} ${unit.note}`.trim() }));
  const doc = larkspurJob(units.map((u) => u.id));
  const job = await addJob(trx, { ...doc, name: 'Larkspur estate, an example', tags: [EXAMPLE_TAG] });
  const fenwick = units.find((u) => u.doc.name === 'Fenwick 66')!;
  // Events are known by their ids in the whole shop: each example brings ids of its own.
  await writeDemoSheet(trx, job, 1, '2026-04-17T07:40:00Z', null, job.id.slice(0, 13));
  await loadDynoGuesses(trx, job.id);
  await loadRuns(trx, job, DEMO_RUNS, units, { fuel: 'petrol 98', tune: 'as it came' });
  await loadStrip(trx, job, fenwick.id, LARKSPUR_DAYS);
  await refreshFinding(trx, job.id);
  await scorePredictions(trx, 'dyno', job.id, await measuredOf(trx, job));
  return readJob(trx, job.id);
}

/** Puts every example job and the throttles that came with it into the trash; resolves with how many jobs that were. */
export async function removeExamples(trx: Trx): Promise<number> {
  const jobs = (await listJobs(trx)).filter((j) => j.tags.includes(EXAMPLE_TAG));
  for (const { id } of jobs) await setTrashed(trx, 'job', id, true);
  for (const unit of await listUnits(trx)) if (unit.doc.note.startsWith(EXAMPLE_NOTE)) await setTrashed(trx, 'unit', unit.id, true);
  return jobs.length;
}

/** A job's dyno files, each taken in as a dropped one would be. */
async function loadRuns(
  trx: Trx,
  job: StoredJob,
  runs: readonly DemoRun[],
  units: readonly StoredUnit[],
  say: Partial<RunDoc>,
): Promise<void> {
  for (const run of runs) {
    const bytes = new TextEncoder().encode(dynoFile(job.doc, run));
    const { hash } = await storeFile(trx, new Blob([bytes]).stream());
    const reader = new TableReader();
    reader.push(bytes);
    const read = reader.finish();
    if (read.refused !== null) throw new Error(`demo file ${run.file} was refused: ${read.refused}`);
    const unit = run.unit ? units.find((u) => u.doc.name === run.unit!.name) : undefined;
    const side = unit ? { kind: 'unit' as const, unitId: unit.id } : { kind: 'stock' as const };
    await addRuns(trx, { jobId: job.id, hash, fileName: run.file, side, columns: read.columns, report: read.report, say });
  }
}

/** A minute's drive of a job's car in a logger's file, taken in as a dropped one would be. */
async function loadLog(trx: Trx, job: StoredJob, name: string, unitId: string | null): Promise<void> {
  const drive = await loggerDrive(trx, job.doc, unitId, unitId === null ? 58 : 66, 0);
  const table = { names: LOGGER_COLUMNS.map((c) => c.name), units: LOGGER_COLUMNS.map((c) => c.unit), rows: [...loggerRows(drive)] };
  const { bytes } = wartFile('plain', table);
  const { hash } = await storeFile(trx, new Blob([bytes]).stream());
  const reader = new TableReader();
  reader.push(bytes);
  const read = reader.finish();
  if (read.refused !== null) throw new Error(`demo log ${name} was refused: ${read.refused}`);
  const side = unitId === null ? { kind: 'stock' as const } : { kind: 'unit' as const, unitId };
  await addRuns(trx, { jobId: job.id, hash, fileName: `${name}, road log.csv`, side, columns: read.columns, report: read.report });
}

/** What was expected of the Larkspur's runs before the new part went on. */
async function loadDynoGuesses(trx: Trx, jobId: string): Promise<void> {
  const guesses: readonly [who: string, guess: number, low: number, high: number][] = [
    ['the model', 1.6, 1.4, 1.7],
    ['Maud', 3, 2, 4],
    ['Tobin', 0.8, 0, 1.5],
  ];
  for (const [source, predicted, low, high] of guesses) {
    const title = 'Fenwick 66, mean over the deciding stretch, %';
    await addPrediction(trx, { subject: 'dyno', subjectId: jobId, title, source, predicted, low, high });
  }
}

async function measuredOf(trx: Trx, job: StoredJob): Promise<number> {
  const { compared } = await jobComparison(trx, job.id, job.doc);
  if (!compared) throw new Error('the demo runs do not compare');
  return compared.deciding.mean_pct;
}

async function writeDemoSheet(trx: Trx, job: StoredJob, mark: number, from: string, until: string | null, family?: string): Promise<void> {
  for (const event of demoSheet(job.doc, mark, from, until, family)) await writeSheet(trx, job.id, event, event.at_ms);
}

/** Guesses written down before units went on the bench, and what it then read. */
async function loadGuesses(trx: Trx, idOf: (name: string) => string): Promise<void> {
  const guesses: readonly [unit: string, who: string, guess: number, low: number, high: number, read: number][] = [
    ['Fenwick 66', 'Maud', 700, 670, 730, 679],
    ['Fenwick 66', 'the model', 661, 628, 694, 679],
    ['Sorrel 64', 'Maud', 640, 610, 670, 604],
    ['Sorrel 64', 'Tobin', 600, 580, 620, 604],
    ['Sorrel 64', 'the model', 597, 567, 627, 604],
    ['Ridley 82', 'Tobin', 1020, 990, 1050, 1068],
    ['Ridley 82', 'the model', 1058, 1005, 1111, 1068],
  ];
  for (const [unit, source, predicted, low, high, read] of guesses) {
    const title = `${unit} at 28 inH₂O, radius plate`;
    const made = await addPrediction(trx, {
      subject: 'bench',
      subjectId: idOf(unit),
      title,
      source,
      predicted: predicted * CFM_m3ps,
      low: low * CFM_m3ps,
      high: high * CFM_m3ps,
    });
    await measurePrediction(trx, made.id, read * CFM_m3ps);
  }
}
