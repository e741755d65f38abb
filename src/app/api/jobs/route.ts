import { z } from 'zod';
import { presetJob, ENGINE_PRESETS } from '@/core/job/presets';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { addJob, duplicateJob } from '@/server/jobs';
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
      const doc = presetJob(wanted.name, wanted.preset);
      // The first three units that are larger than the stock one, so that Pick has something to say at once.
      const larger = (await listUnits(trx)).filter((u) => u.doc.throttle.bore_m > doc.car.stock.throttle.bore_m);
      return addJob(trx, { ...doc, pick: { ...doc.pick, shown: larger.slice(0, 3).map((u) => u.id) } });
    });
  return Response.json(job, { status: 201 });
});
