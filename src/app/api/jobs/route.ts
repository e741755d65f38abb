import { z } from 'zod';
import { presetJob, ENGINE_PRESETS, unitsToShow } from '@/core/job/presets';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { addJob, duplicateJob } from '@/server/jobs';
import { readShopDefaults } from '@/server/shop';
import { listUnits } from '@/server/units';

const request = z.union([
  z.object({ duplicateOf: z.uuid() }),
  z.object({
    name: z.string().trim().min(1, 'Give the job a name.').max(80),
    preset: z.enum(Object.keys(ENGINE_PRESETS) as [string, ...string[]]),
  }),
]);

export const POST = route(async (req) => {
  const wanted = await body(req, request);
  const job = await db()
    .transaction()
    .execute(async (trx) => {
      if ('duplicateOf' in wanted) return duplicateJob(trx, wanted.duplicateOf);
      const doc = presetJob(wanted.name, wanted.preset, await readShopDefaults(trx));
      const shown = unitsToShow(doc, await listUnits(trx)).map((u) => u.id);
      return addJob(trx, { ...doc, pick: { ...doc.pick, shown } });
    });
  return Response.json(job, { status: 201 });
});
