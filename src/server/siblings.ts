/** Other web processes behind the same address, which `scripts/lib/web-processes.mjs` keeps; a server by itself has none. */

import cluster from 'node:cluster';

/** What a process may know to be out of date for all of them. */
type Forgotten = 'passphrase';
type Word =
  | { readonly vanner: 'forget'; readonly what: Forgotten }
  | { readonly vanner: 'measures'; readonly id: string; readonly text: string | null };

const isWord = (m: unknown): m is Word => typeof m === 'object' && m !== null && 'vanner' in m;

/** Whether this process answers beside others. */
export const hasSiblings = (): boolean => cluster.isWorker;

/** Tells the others that something changed which they may still believe. */
export function tellSiblings(what: Forgotten): void {
  if (hasSiblings()) process.send!({ vanner: 'forget', what });
}

/** Hears what another process found out of date. */
export function hearSiblings(what: Forgotten, forget: () => void): void {
  if (!hasSiblings()) return;
  process.on('message', (m: unknown) => {
    if (isWord(m) && m.vanner === 'forget' && m.what === what) forget();
  });
}

const PATIENCE_ms = 5000;

/** The measures of all processes added up; null: not all of them answered. Asked only where there are several. */
export async function measuresOfAll(): Promise<string | null> {
  const id = crypto.randomUUID();
  return new Promise((done) => {
    const answered = (text: string | null): void => {
      clearTimeout(timer);
      process.off('message', hear);
      done(text);
    };
    const hear = (m: unknown): void => {
      if (isWord(m) && m.vanner === 'measures' && m.id === id) answered(m.text);
    };
    const timer = setTimeout(() => answered(null), PATIENCE_ms);
    process.on('message', hear);
    process.send!({ vanner: 'measures', id });
  });
}
