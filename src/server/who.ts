import { cutText } from '@/core/cut-text';
import { AsyncLocalStorage } from 'node:async_hooks';
import { PERSON_COOKIE } from '@/core/person-cookie';

const holder = globalThis as { vannerWho?: AsyncLocalStorage<string> };
const who = (holder.vannerWho ??= new AsyncLocalStorage<string>());

/** Runs work in the name of a person: what is saved meanwhile carries it. */
export const asPerson = <T>(name: string, work: () => T): T => who.run(name, work);

/** Whose work is being done; empty where nobody said. */
export const personNow = (): string => who.getStore() ?? '';

/** The name that a request came with. */
export function personOf(request: Request): string {
  const found = new RegExp(`(?:^|;\\s*)${PERSON_COOKIE}=([^;]*)`).exec(request.headers.get('cookie') ?? '')?.[1];
  if (!found) return '';
  try {
    return cutText(decodeURIComponent(found), 60);
  } catch {
    return '';
  }
}
