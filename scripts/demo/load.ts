import type { StoredUnit } from '@/core/documents/unit';
import { TableReader } from '@/core/runs/read/reader';
import type { Trx } from '@/server/db/client';
import { storeFile } from '@/server/files/store';
import { addJob, refreshFinding } from '@/server/jobs';
import { addRun, newRunDoc } from '@/server/runs';
import { nameShop } from '@/server/shop';
import { addUnit } from '@/server/units';
import { dynoFile } from './dyno-files';
import { DEMO_UNITS, larkspurJob } from './larkspur';
import { DEMO_RUNS } from './runs';

/** Loads the demo scenario through the same functions that people's own data goes through. */
export async function loadDemo(trx: Trx): Promise<string> {
  await nameShop(trx, 'Quarry Lane Engine Works');
  const units: StoredUnit[] = [];
  for (const doc of DEMO_UNITS) units.push(await addUnit(trx, doc));
  const doc = larkspurJob(units.map((u) => u.id));
  const job = await addJob(trx, doc);
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
  return `the Larkspur job, ${units.length} units, ${DEMO_RUNS.length} dyno runs`;
}
