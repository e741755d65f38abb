import { z } from 'zod';
import { signOut } from '@/server/access';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { checkPassphrase, sessionKey } from '@/server/passphrase';
import { sessionCookie, sessionValue } from '@/server/session';

const wanted = z.object({ passphrase: z.string().min(1, 'Type the shop’s passphrase.').max(1000) });

export const POST = route(async (req) => {
  const { passphrase } = await body(req, wanted);
  await checkPassphrase(db(), passphrase, req.headers.get('x-forwarded-for') ?? '');
  const key = await sessionKey(db());
  const secure = req.headers.get('x-forwarded-proto') === 'https';
  return Response.json(
    { ok: true },
    { headers: { 'set-cookie': sessionCookie(key === null ? '' : sessionValue(key, Date.now()), secure) } },
  );
});

/** Signs out: the session ends here, not only its cookie in this browser. */
export const DELETE = route(async (req) => {
  await signOut(req);
  return Response.json({ ok: true }, { headers: { 'set-cookie': sessionCookie('', false) } });
});
