import { join } from 'node:path';
import Piscina from 'piscina';
import { workedOut, type Given, type Result, type Sum } from './sums';

const holder = globalThis as { vannerSums?: Piscina };

/**
 * From now on this process works its sums out in threads: it answers people meanwhile. One thread stays, so that nobody waits for its
 * beginning and what it runs stays compiled; a second comes while an answer takes long, so that short ones do not stand behind it.
 */
export function keepSumThreads(): void {
  holder.vannerSums ??= new Piscina({
    filename: join(process.cwd(), 'dist/workers/sums.mjs'),
    maxThreads: 2,
    minThreads: 1,
    idleTimeout: 30_000,
  });
}

/**
 * Works something out, in a thread where the process has some: a study of a hundred runs takes a second. A script and a worker of
 * the queue have nobody to answer meanwhile and do it themselves.
 */
export const workOut = <K extends Sum>(sum: K, ...given: Given<K>): Promise<Result<K>> =>
  holder.vannerSums
    ? (holder.vannerSums.run({ sum, given }) as Promise<Result<K>>)
    : Promise.resolve().then(() => workedOut({ sum, given }));

/** Lets the threads go: a test that had some ends with them. */
export const endSumThreads = async (): Promise<void> => {
  const pool = holder.vannerSums;
  delete holder.vannerSums;
  await pool?.destroy();
};
