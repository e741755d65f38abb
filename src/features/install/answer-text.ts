import type { InstallStep } from '@/core/install/steps';
import type { StartLock } from '@/core/install/run-sheet';

/** What the sheet says at the top. */
export function answerText(
  steps: readonly InstallStep[],
  name: string,
  control: string,
  left: number,
  locks: readonly StartLock[],
  started: boolean,
  stopped: boolean,
): string {
  if (stopped) return 'Stop: a check failed after the first start. Engine off, key out.';
  if (left === steps.length) {
    const checks = steps.filter((s) => s.gate).length;
    return `${steps.length} steps to put ${name} on this ${control} car; ${checks} checks stand before the first start.`;
  }
  if (left === 0) return `${name} is on: every step is done and every check passed.`;
  if (started) return `The first start is made; ${left} ${left === 1 ? 'step is' : 'steps are'} left.`;
  const checks = locks.filter((l) => l.why === 'check').length;
  if (locks.length === 0)
    return `Every check is passed: the first start may be made. ${left} ${left === 1 ? 'step is' : 'steps are'} left.`;
  return checks > 0
    ? `${left} steps are left, and the first start is locked: ${checks} ${checks === 1 ? 'check does' : 'checks do'} not stand as passed.`
    : `${left} steps are left, and the first start is locked.`;
}
