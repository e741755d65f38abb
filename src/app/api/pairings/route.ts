import { z } from 'zod';
import { db } from '@/server/db/client';
import { ServerProblem } from '@/server/errors';
import { body, route } from '@/server/http';
import { readJob } from '@/server/jobs';
import { newPairing, PAIRING_MINUTES, reachableOrigins } from '@/server/pairing';

const wanted = z.object({ jobId: z.uuid(), stop: z.enum(['install', 'strip']), origin: z.url() });

/** A code for a phone: opens this job's run-sheet or strip day there, signed in, once. */
export const POST = route(async (req) => {
  const { jobId, stop, origin } = await body(req, wanted);
  await readJob(db(), jobId);
  const asked = new URL(origin);
  if (asked.host !== req.headers.get('host')) throw new ServerProblem(422, 'invalid', 'origin: not this server’s own address');
  const origins = reachableOrigins(asked);
  const token = await newPairing(db(), stop === 'install' ? `/jobs/${jobId}/install` : `/jobs/${jobId}/test?view=strip`, Date.now());
  return Response.json(
    {
      links: origins.map((o) => `${o}/pair/${token}`),
      minutes: PAIRING_MINUTES,
      why:
        origins.length > 0
          ? null
          : 'This Vanner listens only on this machine, so no phone can reach it. Stop it, set a passphrase with “npm run passphrase”, and start it with “npm start -- --host 0.0.0.0 --tls”.',
    },
    { status: 201 },
  );
});
