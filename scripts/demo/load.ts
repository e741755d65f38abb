import type { StoredJob } from '@/core/documents/job';
import type { StoredUnit } from '@/core/documents/unit';
import { TableReader } from '@/core/runs/read/reader';
import type { Trx } from '@/server/db/client';
import { storeFile } from '@/server/files/store';
import { addJob, refreshFinding } from '@/server/jobs';
import { addRun, newRunDoc } from '@/server/runs';
import { nameShop } from '@/server/shop';
import { addPart } from '@/server/parts';
import { addPrediction, measurePrediction } from '@/server/predictions';
import { writeSheet } from '@/server/sheet';
import { addUnit } from '@/server/units';
import { dynoFile } from './dyno-files';
import { DEMO_UNITS, larkspurJob } from './larkspur';
import { curlewJob, heronJob, pipitJob } from './others';
import { DEMO_PARTS, DEMO_SHELF } from './shelf';
import { DEMO_RUNS } from './runs';
import { demoSheet } from './sheets';

/** Loads the demo scenario through the same functions that people's own data goes through. */
export async function loadDemo(trx: Trx): Promise<string> {
  await nameShop(trx, 'Quarry Lane Engine Works');
  const units: StoredUnit[] = [];
  for (const unit of DEMO_SHELF) units.push(await addUnit(trx, unit));
  for (const part of DEMO_PARTS) await addPart(trx, part);
  const idOf = (name: string): string => {
    const unit = units.find((u) => u.doc.name === name);
    if (!unit) throw new Error(`no demo unit ${name}`);
    return unit.id;
  };
  // The Larkspur comes last, so that it lies on top of the board.
  for (const make of [curlewJob, pipitJob]) await addJob(trx, make(idOf));
  const heron = await addJob(trx, heronJob(idOf));
  // Fitted and running, not yet learnt.
  await writeDemoSheet(trx, heron, 2, '2026-04-20T08:10:00Z', 'covers');
  const doc = larkspurJob(units.slice(0, DEMO_UNITS.length).map((u) => u.id));
  const job = await addJob(trx, doc);
  await writeDemoSheet(trx, job, 1, '2026-04-17T07:40:00Z', null);
  for (const run of DEMO_RUNS) {
    const bytes = new TextEncoder().encode(dynoFile(doc, run));
    const { hash } = await storeFile(trx, new Blob([bytes]).stream());
    const reader = new TableReader();
    reader.push(bytes);
    const read = reader.finish();
    if (read.refused !== null) throw new Error(`demo file ${run.file} was refused: ${read.refused}`);
    const unit = run.unit ? units.find((u) => u.doc.name === run.unit!.name) : undefined;
    const side = unit ? { kind: 'unit' as const, unitId: unit.id } : { kind: 'stock' as const };
    const runDoc = newRunDoc(run.file, read.columns, read.report, side);
    await addRun(trx, {
      jobId: job.id,
      hash,
      fileName: run.file,
      columns: read.columns,
      report: read.report,
      doc: { ...runDoc, fuel: 'petrol 98', tune: 'as it came' },
    });
  }
  await refreshFinding(trx, job.id);
  await loadGuesses(trx, idOf);
  return `4 jobs, ${units.length} units, ${DEMO_RUNS.length} dyno runs`;
}

async function writeDemoSheet(trx: Trx, job: StoredJob, mark: number, from: string, until: string | null): Promise<void> {
  for (const event of demoSheet(job.doc, mark, from, until)) await writeSheet(trx, job.id, event, event.at_ms);
}

const CFM = 0.3048 ** 3 / 60;

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
      predicted: predicted * CFM,
      low: low * CFM,
      high: high * CFM,
    });
    await measurePrediction(trx, made.id, read * CFM);
  }
}
