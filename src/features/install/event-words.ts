import type { SheetEvent } from '@/core/documents/sheet-event';
import type { StartLock, Gate } from '@/core/install/run-sheet';
import type { InstallStep } from '@/core/install/steps';

/** The few words by which a check or step is named in a sentence. */
const SHORT: Readonly<Record<string, string>> = {
  snap: 'the blade snaps shut by itself',
  travel: 'full travel from the seat',
  'self-test': 'the self-test, and shut by itself',
  follows: 'the blade follows the pedal',
  floor: 'floor and pedal clear',
  'nothing-left': 'nothing left in the intake',
  seated: 'connectors seated',
  counted: 'fasteners counted',
  spring: 'the return spring, seated',
  'closed-stop': 'the closed stop, set anew',
  'open-stop': 'the open stop, set anew',
  'no-push': 'the throttle body set on',
  'plug-in': 'the connectors, on and locked',
  coupler: 'the coupler, on square',
  clear: 'the intake, looked through',
  threads: 'the fasteners, tightened',
  start: 'the first start',
  relearn: 'the idle relearn',
};

const FIRST_WORDS = 5;

/** A step or check in a few words: its own name, or how its text begins. */
export function shortName(id: string, steps: readonly InstallStep[] = []): string {
  const known = SHORT[id];
  if (known !== undefined) return known;
  const text = steps.find((s) => s.id === id)?.text;
  if (text === undefined) return id;
  const head = text.split(/[:;.,]/)[0]!.trim();
  const words = head.split(/\s+/);
  return `“${words.slice(0, FIRST_WORDS).join(' ')}${words.length > FIRST_WORDS ? ' …' : ''}”`;
}

export const list = (words: readonly string[]): string =>
  words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

/** The few words for the steps that cure a failed check. */
export const curesOf = (gate: string, gates: readonly Gate[]): string =>
  list((gates.find((g) => g.id === gate)?.cures ?? []).map((c) => shortName(c)));

/** Why the first start is shut, lock by lock. */
export function lockText(lock: StartLock, gates: readonly Gate[]): string {
  switch (lock.why) {
    case 'check':
      return lock.reason === null
        ? `Not passed yet: ${shortName(lock.gate)}.`
        : `Failed: ${shortName(lock.gate)} (${lock.reason}). To be done again: ${curesOf(lock.gate, gates)}.`;
    case 'cure':
      return `To be done first: ${shortName(lock.step)}.`;
    case 'fasteners':
      return `Fasteners of ${lock.bag}: ${lock.out} came out, ${lock.back} went back.`;
  }
}

/** Why the first start is shut, in one line: a failure before what is only not done yet. */
export function lockLine(locks: readonly StartLock[], gates: readonly Gate[]): string {
  const failed = locks.find((l) => l.why === 'check' && l.reason !== null);
  const first = failed ?? locks[0];
  if (!first) return '';
  const more = locks.length - 1;
  const text = lockText(first, gates);
  return `Start locked. ${text}${more > 0 ? ` And ${more} more.` : ''}`;
}

/** What somebody wrote down, as a sentence without its subject. */
export function eventText(e: SheetEvent, steps: readonly InstallStep[], all: readonly SheetEvent[] = []): string {
  switch (e.type) {
    case 'done':
      return `ticked ${shortName(e.step, steps)}${e.reason ? `, because: ${e.reason}` : ''}`;
    case 'undone':
      return `undid ${shortName(e.step, steps)}: ${e.reason}`;
    case 'passed':
      return `passed ${shortName(e.gate, steps)}`;
    case 'failed':
      return `failed ${shortName(e.gate, steps)}: ${e.reason}`;
    case 'taken back': {
      const of = all.find((x) => x.id === e.of);
      return `took back ${of ? `“${eventText(of, steps)}”` : 'something'}: ${e.reason}`;
    }
    case 'fasteners out':
      return `counted ${e.count} out of ${e.bag}`;
    case 'fasteners back':
      return `counted ${e.count} back into ${e.bag}`;
    case 'note':
      return `noted at ${shortName(e.step, steps)}: ${e.text}`;
    case 'photo':
      return `took a photo at ${shortName(e.step, steps)}`;
    case 'engine on':
      return 'engine on';
    case 'engine off':
      return 'engine off';
    case 'rpm':
      return `${e.rpm.length} readings of engine speed`;
  }
}
