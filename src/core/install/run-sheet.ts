import type { InstallStep } from './steps';

/** What was done on a run-sheet, by whom and when. Only ever added to. */
export type SheetEvent = {
  readonly who: string;
  readonly at_ms: number;
} & (
  | { readonly type: 'done'; readonly step: string }
  | { readonly type: 'undone'; readonly step: string; readonly reason: string }
  | { readonly type: 'passed'; readonly gate: string }
  | { readonly type: 'failed'; readonly gate: string; readonly reason: string }
  | { readonly type: 'fasteners out' | 'fasteners back'; readonly bag: string; readonly count: number }
  | { readonly type: 'note'; readonly step: string; readonly text: string }
  | { readonly type: 'photo'; readonly step: string; readonly hash: string }
  | { readonly type: 'engine on' | 'engine off' }
  /** Engine speed at even steps from `at_ms` on. */
  | { readonly type: 'rpm'; readonly step_ms: number; readonly rpm: readonly number[] }
);

/** Checks that stand before the first start, and the step that cures each one that fails. */
export interface Gate {
  readonly id: string;
  readonly cure: string;
}

export interface SheetState {
  /** Steps that are done now, with who did them last and when. */
  readonly done: ReadonlyMap<string, { readonly who: string; readonly at_ms: number }>;
  readonly gates: ReadonlyMap<
    string,
    { readonly passed: boolean; readonly who: string; readonly at_ms: number; readonly reason: string | null }
  >;
  readonly bags: ReadonlyMap<string, { readonly out: number; readonly back: number }>;
  /** What was noted at a step, the oldest first; and its photos, by hash. */
  readonly notes: ReadonlyMap<string, readonly Remark[]>;
  readonly photos: ReadonlyMap<string, readonly (Remark & { readonly hash: string })[]>;
}

export interface Remark {
  readonly who: string;
  readonly at_ms: number;
  readonly text: string;
}

export const EMPTY_SHEET: SheetState = { done: new Map(), gates: new Map(), bags: new Map(), notes: new Map(), photos: new Map() };

/** Stamps may be this far ahead: clocks of two devices are never quite the same. */
export const CLOCK_SLACK_ms = 120_000;

export type EventRefusal =
  | 'no name'
  | 'in the future'
  | 'no reason'
  | 'bad count'
  | 'unknown step'
  | 'unknown check'
  | 'locked'
  | 'not started'
  | 'bad reading'
  | 'bags open';

const STARTS = new Set(['start']);

/**
 * A sheet's state from its events, in the order they arrived. A failed check reopens the step that cures it. What was ticked
 * before a check failed and only arrived after it, from a device that was away, does not undo the failure.
 */
export function sheetState(events: readonly SheetEvent[], gates: readonly Gate[]): SheetState {
  const done = new Map<string, { who: string; at_ms: number }>();
  const checks = new Map<string, { passed: boolean; who: string; at_ms: number; reason: string | null }>();
  const bags = new Map<string, { out: number; back: number }>();
  const notes = new Map<string, Remark[]>();
  const photos = new Map<string, (Remark & { hash: string })[]>();
  const reopened = new Map<string, number>();
  for (const e of events) {
    const { who, at_ms } = e;
    switch (e.type) {
      case 'done':
        if (at_ms >= (reopened.get(e.step) ?? -Infinity)) done.set(e.step, { who, at_ms });
        break;
      case 'undone':
        done.delete(e.step);
        reopened.set(e.step, at_ms);
        break;
      case 'passed': {
        const before = checks.get(e.gate);
        if (before && !before.passed && at_ms < before.at_ms) break;
        checks.set(e.gate, { passed: true, who, at_ms, reason: null });
        break;
      }
      case 'failed': {
        checks.set(e.gate, { passed: false, who, at_ms, reason: e.reason });
        const cure = gates.find((g) => g.id === e.gate)?.cure;
        if (cure !== undefined) {
          done.delete(cure);
          reopened.set(cure, at_ms);
        }
        break;
      }
      case 'note':
        notes.set(e.step, [...(notes.get(e.step) ?? []), { who, at_ms, text: e.text }]);
        break;
      case 'photo':
        photos.set(e.step, [...(photos.get(e.step) ?? []), { who, at_ms, text: '', hash: e.hash }]);
        break;
      case 'engine on':
      case 'engine off':
      case 'rpm':
        break;
      default: {
        const bag = bags.get(e.bag) ?? { out: 0, back: 0 };
        bags.set(e.bag, e.type === 'fasteners out' ? { ...bag, out: e.count } : { ...bag, back: e.count });
      }
    }
  }
  return { done, gates: checks, bags, notes, photos };
}

/** How many steps and checks of a sheet are not done or not passed. */
export const stepsLeft = (steps: readonly Pick<InstallStep, 'id' | 'gate'>[], state: SheetState): number =>
  steps.filter((s) => (s.gate ? !state.gates.get(s.id)?.passed : !state.done.has(s.id))).length;

export type StartLock =
  | { readonly why: 'check'; readonly gate: string; readonly reason: string | null }
  | { readonly why: 'cure'; readonly gate: string; readonly step: string }
  | { readonly why: 'fasteners'; readonly bag: string; readonly out: number; readonly back: number };

/**
 * What keeps the first start locked: checks not passed (or failed, with the reason), steps that cure one and were undone
 * since, and fasteners not all back. Empty: it may be started. The server asks this too, so no window can go round it.
 */
export function startLocks(state: SheetState, gates: readonly Gate[]): StartLock[] {
  const locks: StartLock[] = [];
  for (const { id, cure } of gates) {
    const check = state.gates.get(id);
    if (!check?.passed) locks.push({ why: 'check', gate: id, reason: check?.reason ?? null });
    else if (!state.done.has(cure)) locks.push({ why: 'cure', gate: id, step: cure });
  }
  for (const [bag, { out, back }] of state.bags) if (out !== back) locks.push({ why: 'fasteners', bag, out, back });
  return locks;
}

/** Whether a new event may be written down on a sheet; null: it may. `now_ms` is the time where it is kept. */
export function refuseEvent(
  event: SheetEvent,
  sheet: { readonly steps: readonly Pick<InstallStep, 'id'>[]; readonly gates: readonly Gate[]; readonly events: readonly SheetEvent[] },
  now_ms: number,
): EventRefusal | null {
  if (event.who.trim() === '') return 'no name';
  if (!(event.at_ms <= now_ms + CLOCK_SLACK_ms)) return 'in the future';
  if ((event.type === 'undone' || event.type === 'failed') && event.reason.trim() === '') return 'no reason';
  switch (event.type) {
    case 'done':
    case 'undone':
    case 'note':
    case 'photo': {
      if (!sheet.steps.some((s) => s.id === event.step)) return 'unknown step';
      if (event.type !== 'done') return null;
      if (STARTS.has(event.step)) return locked(sheet) ? 'locked' : null;
      return CLOSES.has(event.step) && bagsOpen(sheet) ? 'bags open' : null;
    }
    case 'passed':
    case 'failed':
      if (!sheet.gates.some((g) => g.id === event.gate)) return 'unknown check';
      return event.type === 'passed' && event.gate === COUNTED && bagsOpen(sheet) ? 'bags open' : null;
    case 'engine on':
      if (locked(sheet)) return 'locked';
      return sheetState(sheet.events, sheet.gates).done.has('start') ? null : 'not started';
    case 'engine off':
      return null;
    case 'rpm':
      return event.rpm.every((r) => r >= 0 && r <= MOST_rpm) && event.step_ms > 0 ? null : 'bad reading';
    default:
      return Number.isInteger(event.count) && event.count >= 0 && event.count <= 200 ? null : 'bad count';
  }
}

type Sheet = { readonly gates: readonly Gate[]; readonly events: readonly SheetEvent[] };
/** Faster than any engine here. */
const MOST_rpm = 25_000;
/** The check that counts fasteners, and the steps that close a cover or the sheet. */
const COUNTED = 'counted';
const CLOSES = new Set(['rules']);
const locked = ({ gates, events }: Sheet): boolean => startLocks(sheetState(events, gates), gates).length > 0;
const bagsOpen = ({ gates, events }: Sheet): boolean => [...sheetState(events, gates).bags.values()].some((b) => b.out !== b.back);
