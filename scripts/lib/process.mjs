import { readFileSync } from 'node:fs';

/** Command line of a live process, or null. A zombie has none and counts as gone. */
function commandLine(pid) {
  if (!Number.isInteger(pid) || pid <= 1) return null;
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').replaceAll('\0', ' ').trim() || null;
  } catch {
    return null;
  }
}

/** Whether a pid still belongs to a process whose command line holds `text`: pids are used again. */
export const isOurs = (pid, text) => commandLine(pid)?.includes(text) ?? false;

export const sleep = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
