import { z } from 'zod';
import { forgetGate } from '@/server/access';
import { db } from '@/server/db/client';
import { ServerProblem } from '@/server/errors';
import { listensBeyond } from '@/server/guard';
import { body, route } from '@/server/http';
import { checkPassphrase, sessionKey, setPassphrase } from '@/server/passphrase';
import { sessionCookie, sessionValue } from '@/server/session';

const wanted = z.object({ current: z.string().max(1000).default(''), next: z.string().max(1000).nullable() });

/** Sets, changes or takes away the passphrase; whoever does it stays in, everybody else has to give the new one. */
export const PUT = route(async (req) => {
  const { current, next } = await body(req, wanted);
  if ((await sessionKey(db())) !== null) await checkPassphrase(db(), current, 'settings');
  if (next === null && listensBeyond())
    throw new ServerProblem(409, 'needed', 'This Vanner listens beyond its own machine: it cannot be without a passphrase.');
  await db()
    .transaction()
    .execute((trx) => setPassphrase(trx, next));
  forgetGate();
  const key = await sessionKey(db());
  const secure = req.headers.get('x-forwarded-proto') === 'https';
  return Response.json(
    { set: key !== null },
    { headers: { 'set-cookie': sessionCookie(key === null ? '' : sessionValue(key, Date.now()), secure) } },
  );
});
