import { z } from 'zod';
import { presetJob, ENGINE_PRESETS, unitsToShow } from '@/core/job/presets';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { addJob, duplicateJob } from '@/server/jobs';
import { readShopDefaults } from '@/server/shop';
import { addUnit, listUnits } from '@/server/units';
import type { Trx } from '@/server/db/client';
import type { StoredJob } from '@/core/documents/job';
import { guidedFacts, type GuidedFacts } from '@/core/documents/guided';
import { guidedJob, guidedUnit } from '@/core/job/guided';
import { loadExample, removeExamples } from '@/server/demo/load';

const name = z.string().trim().min(1, 'Give the job a name.').max(80);
const request = z.union([
  z.object({ duplicateOf: z.uuid() }),
  z.object({ example: z.literal(true) }),
  z.object({ name, guided: guidedFacts }),
  z.object({
    name,
    preset: z.enum(Object.keys(ENGINE_PRESETS) as [string, ...string[]]),
  }),
]);

/** A job of a few facts, with the throttle one thinks of on the shelf and beside stock. */
async function guided(trx: Trx, title: string, facts: GuidedFacts): Promise<StoredJob> {
  const doc = guidedJob(title, facts, await readShopDefaults(trx));
  const { id } = await addUnit(trx, guidedUnit(doc, facts.candidate_m));
  return addJob(trx, { ...doc, pick: { ...doc.pick, shown: [id] } });
}

export const POST = route(async (req) => {
  const wanted = await body(req, request);
  const job = await db()
    .transaction()
    .execute(async (trx) => {
      if ('duplicateOf' in wanted) return duplicateJob(trx, wanted.duplicateOf);
      if ('example' in wanted) return loadExample(trx);
      if ('guided' in wanted) return guided(trx, wanted.name, wanted.guided);
      const doc = presetJob(wanted.name, wanted.preset, await readShopDefaults(trx));
      const shown = unitsToShow(doc, await listUnits(trx)).map((u) => u.id);
      return addJob(trx, { ...doc, pick: { ...doc.pick, shown } });
    });
  return Response.json(job, { status: 201 });
});

/** Takes the example away again, with the throttles that came with it; all of it lies in the trash then. */
export const DELETE = route(async () => Response.json({ jobs: await db().transaction().execute(removeExamples) }));
