import { db } from '@/server/db/client';
import { route } from '@/server/http';
import { sessionKey } from '@/server/passphrase';
import { sessionCookie, sessionValue } from '@/server/session';
import { takePairing } from '@/server/pairing';

/** The code on the shop's screen, scanned: signs this phone in and opens the page it was made for. */
export const GET = route<{ token: string }>(async (req, { token }) => {
  const to = await takePairing(db(), token, Date.now());
  if (to === null) return new Response(null, { status: 303, headers: { location: '/sign-in?code=old' } });
  const key = await sessionKey(db());
  const headers = new Headers({ location: to, 'cache-control': 'no-store' });
  if (key !== null)
    headers.set('set-cookie', sessionCookie(sessionValue(key, Date.now()), req.headers.get('x-forwarded-proto') === 'https'));
  return new Response(null, { status: 303, headers });
});
