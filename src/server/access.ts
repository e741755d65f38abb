import { db } from './db/client';
import { ServerProblem } from './errors';
import { foreignRequest, listensBeyond } from './guard';
import { sessionKey } from './passphrase';
import { hearSiblings, tellSiblings } from './siblings';
import { endedSessions, endSession, isSession, renewedSession, SESSION_COOKIE, sessionCookie } from './session';

/** How long what is known of the passphrase is believed, ms: several processes share one database. */
const GATE_KEPT_ms = 3000;

interface Gate {
  /** Signs sessions; null: this installation has no passphrase. */
  readonly key: string | null;
  readonly ended: ReadonlySet<string>;
  readonly at: number;
}
const holder = globalThis as { vannerGate?: Gate; vannerGateHears?: true };
const forget = (): void => void delete holder.vannerGate;

/** Forget what is known of the passphrase, here and in the processes beside this one: it was changed just now. */
export function forgetGate(): void {
  forget();
  tellSiblings('passphrase');
}

/** Whether who comes in has to give a passphrase, as far as that is known while the database is away. */
export const hasPassphrase = async (): Promise<boolean> => ((await gate())?.key ?? null) !== null;

/** What sessions are judged by; undefined while the database is away and it was never known. */
async function gate(): Promise<Gate | undefined> {
  if (!holder.vannerGateHears) {
    holder.vannerGateHears = true;
    hearSiblings('passphrase', forget);
  }
  const known = holder.vannerGate;
  if (known && Date.now() - known.at < GATE_KEPT_ms) return known;
  try {
    const key = await sessionKey(db());
    const ended = key === null ? new Set<string>() : await endedSessions(db());
    return (holder.vannerGate = { key, ended, at: Date.now() });
  } catch {
    return known;
  }
}

/**
 * Open to anybody: whether the app answers, its measures (which only this machine is told), the ways in, a customer's own page, and
 * what a browser asks for without its cookies to install the app (no data is in it).
 */
const OPEN =
  /^\/(api\/health|api\/metrics|api\/sign-in|sign-in|pair\/[\w-]+|c\/[\w-]+(\/pdf|\/photo\/\d+)?|manifest\.webmanifest|sw\.js|offline\.html|favicon\.ico|icons\/[\w-]+\.png)$/;

function cookieOf(headers: Headers, name: string): string | undefined {
  return new RegExp(`(?:^|;\\s*)${name}=([^;]*)`).exec(headers.get('cookie') ?? '')?.[1];
}

/**
 * Why a request is not answered, or null. A foreign page is refused; with a passphrase, so is whoever has not given it; and a
 * server that listens beyond its own machine without one answers nobody.
 */
export async function refusal(request: {
  readonly method: string;
  readonly headers: Headers;
  readonly url: string;
}): Promise<ServerProblem | null> {
  const foreign = foreignRequest(request);
  if (foreign) return new ServerProblem(403, 'foreign', foreign);
  const now = await gate();
  const key = now?.key;
  if (now === undefined || key === null || key === undefined) {
    if (!listensBeyond()) return null;
    return key === null
      ? new ServerProblem(
          403,
          'no_passphrase',
          'This Vanner listens beyond its own machine and has no passphrase yet. Set one with: npm run passphrase',
        )
      : new ServerProblem(503, 'database_away', 'The database cannot be reached just now.');
  }
  if (OPEN.test(new URL(request.url).pathname)) return null;
  return isSession(cookieOf(request.headers, SESSION_COOKIE), key, Date.now(), now.ended)
    ? null
    : new ServerProblem(401, 'sign_in', 'Sign in with the shop’s passphrase first.');
}

/** The header that keeps a session in use from going idle; null: nothing is to be set. Asked only of what was not refused. */
export async function renewal(request: { readonly headers: Headers }): Promise<string | null> {
  const key = (await gate())?.key;
  const value = key ? renewedSession(cookieOf(request.headers, SESSION_COOKIE), key, Date.now()) : null;
  return value === null ? null : sessionCookie(value, request.headers.get('x-forwarded-proto') === 'https');
}

/** Signs a request's session out: here at once, on servers elsewhere of this database as soon as they look again. */
export async function signOut(request: Request): Promise<void> {
  const key = await sessionKey(db());
  if (key !== null) await endSession(db(), cookieOf(request.headers, SESSION_COOKIE), key);
  forgetGate();
}

/** Refuses a request that the proxy has not seen: uploads and the API go past it. */
export async function admit(request: Request): Promise<void> {
  const problem = await refusal(request);
  if (problem) throw problem;
}
