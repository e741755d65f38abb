import { constants } from 'node:os';

/** What is to be ended where this process is told to end: the newest first. */
const ends = new Set();
let listening = false;

/** Adds what is to be ended too, where somebody listens; gives back what takes it off again. */
export function endsToo(end) {
  ends.add(end);
  return () => void ends.delete(end);
}

/**
 * Whoever stops this process (Ctrl-C, kill, a window that is closed) stops what it began as well: a database and a server would
 * otherwise run on unseen. `end` must do it at once: nothing is waited for. Gives back what takes it off again.
 */
export function whenInterrupted(end) {
  if (!listening) {
    listening = true;
    for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
      process.on(signal, () => {
        for (const each of [...ends].reverse()) {
          try {
            each();
          } catch {
            // What is gone already needs no end.
          }
        }
        process.exit(128 + constants.signals[signal]);
      });
  }
  return endsToo(end);
}
