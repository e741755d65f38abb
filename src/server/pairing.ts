import { randomBytes } from 'node:crypto';
import { networkInterfaces } from 'node:os';
import { listensBeyond } from './guard';

/** How long a code is good for, min: long enough to fetch a phone, too short to be found later. */
export const PAIRING_MINUTES = 10;
/** More than this many open codes are a mistake. */
const MOST = 200;

interface Pairing {
  readonly to: string;
  readonly until_ms: number;
}

const held = globalThis as { vannerPairings?: Map<string, Pairing> };
const open = (): Map<string, Pairing> => (held.vannerPairings ??= new Map());

/** A code that opens one page on another device, once. */
export function newPairing(to: string, now_ms: number): string {
  const all = open();
  for (const [token, p] of all) if (p.until_ms <= now_ms || all.size >= MOST) all.delete(token);
  const token = randomBytes(18).toString('base64url');
  all.set(token, { to, until_ms: now_ms + PAIRING_MINUTES * 60_000 });
  return token;
}

/** Where a code leads; null: it was used, has run out, or never was. It is gone after this. */
export function usePairing(token: string, now_ms: number): string | null {
  const found = open().get(token);
  open().delete(token);
  return found && found.until_ms > now_ms ? found.to : null;
}

const LOOPBACK_NAME = /^(localhost|127\.|\[?::1)/i;

/** Addresses under which a phone in this house reaches the page at `origin`; none when only this machine does. */
export function reachableOrigins(origin: URL): string[] {
  if (!LOOPBACK_NAME.test(origin.hostname)) return [origin.origin];
  if (!listensBeyond()) return [];
  const addresses = Object.values(networkInterfaces()).flatMap((list) =>
    (list ?? []).filter((a) => !a.internal && a.family === 'IPv4').map((a) => a.address),
  );
  return addresses.map((a) => `${origin.protocol}//${a}${origin.port === '' ? '' : `:${origin.port}`}`);
}
