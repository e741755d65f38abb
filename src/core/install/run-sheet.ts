import type { SheetEvent } from '../documents/sheet-event';
import { relearnEvents, relearnFaults, type RelearnPlan } from './relearn';
import type { InstallStep } from './steps';

/** Checks that stand before the first start, and the steps that cure each one that fails. */
export interface Gate {
  readonly id: string;
  readonly cures: readonly string[];
}

/** The word that stands of a check. */
export interface CheckWord {
  readonly passed: boolean;
  readonly who: string;
  readonly at_ms: number;
  readonly reason: string | null;
  /** Of the event it comes from. */
  readonly id: string | null;
}

/** An event that is kept and not counted, and why: said, never in silence. */
export interface SetAside {
  readonly event: SheetEvent;
  /** It did not know of `of`, written meanwhile elsewhere; or a cure is missing since that failure. */
  readonly why: 'did not know' | 'cure missing';
  readonly of: SheetEvent;
}

export interface SheetState {
  /** Steps that are done now, with who did them last and when. */
  readonly done: ReadonlyMap<string, { readonly who: string; readonly at_ms: number; readonly reason: string | null }>;
  readonly gates: ReadonlyMap<string, CheckWord>;
  /** Checks that stood as passed and are open again, and the event that did it. */
  readonly reopened: ReadonlyMap<string, SheetEvent>;
  /** The check that failed after the first start, while the start has not been made again. */
  readonly stopped: { readonly gate: string; readonly reason: string; readonly who: string; readonly at_ms: number } | null;
  readonly bags: ReadonlyMap<string, { readonly out: number; readonly back: number }>;
  /** What was noted at a step, the oldest first; and its photos, by hash. */
  readonly notes: ReadonlyMap<string, readonly Remark[]>;
  readonly photos: ReadonlyMap<string, readonly (Remark & { readonly hash: string })[]>;
  readonly setAside: readonly SetAside[];
}

export interface Remark {
  readonly who: string;
  readonly at_ms: number;
  readonly text: string;
}

export const EMPTY_SHEET: SheetState = {
  done: new Map(),
  gates: new Map(),
  reopened: new Map(),
  stopped: null,
  bags: new Map(),
  notes: new Map(),
  photos: new Map(),
  setAside: [],
};

export type EventRefusal =
  | 'no name'
  | 'no reason'
  | 'bad count'
  | 'unknown step'
  | 'unknown check'
  | 'unknown event'
  | 'locked'
  | 'not started'
  | 'cure first'
  | 'relearn not clean'
  | 'bad reading'
  | 'bags open';

const START = 'start';
const RELEARN = 'relearn';
/** Steps that are done with an engine that runs. */
const NEED_START: ReadonlySet<string> = new Set(['fault-light', RELEARN, 'drive-gentle', 'drive-stops', 'drive-coast', 'drive-again']);
/** The check that counts fasteners, and the steps that close the sheet. */
const COUNTED = 'counted';
const CLOSES = new Set(['rules']);
/** Faster than any engine here. */
const MOST_rpm = 25_000;
const MOST_FASTENERS = 200;

type Of<T extends SheetEvent['type']> = Extract<SheetEvent, { readonly type: T }>;

/** Folds one sheet, event by event; kept apart from what is told of it. */
class Fold {
  readonly done = new Map<string, { who: string; at_ms: number; reason: string | null; at: number }>();
  readonly gates = new Map<string, CheckWord & { at: number }>();
  readonly reopened = new Map<string, SheetEvent>();
  stopped: SheetState['stopped'] = null;
  readonly counts: { id: string | undefined; bag: string; side: 'out' | 'back'; count: number }[] = [];
  readonly notes = new Map<string, (Remark & { id: string | undefined })[]>();
  readonly photos = new Map<string, (Remark & { hash: string; id: string | undefined })[]>();
  readonly setAside: SetAside[] = [];
  /** The last failure of each check, and the last event that reopened each step. */
  private readonly failures = new Map<string, { event: SheetEvent; at: number }>();
  private readonly undone = new Map<string, { event: SheetEvent; at: number }>();
  private readonly place = new Map<string, number>();
  private readonly events: SheetEvent[] = [];

  constructor(private readonly all: readonly Gate[]) {}

  /** Whether who wrote `e` had heard of the event at place `at`. Of events of older releases only the stamps tell. */
  private knew(e: SheetEvent, other: SheetEvent, at: number): boolean {
    if (e.device !== undefined && e.device === other.device) return true;
    if (e.seen !== undefined) return e.seen !== null && (this.place.get(e.seen) ?? -1) >= at;
    return e.at_ms >= other.at_ms;
  }

  private reopen(step: string, by: SheetEvent): void {
    for (const { id, cures } of this.all) {
      if (!cures.includes(step) || !this.gates.get(id)?.passed) continue;
      this.gates.delete(id);
      this.reopened.set(id, by);
    }
  }

  private takeBack(of: string, e: SheetEvent): void {
    const target = this.events[this.place.get(of) ?? -1];
    if (!target) return;
    switch (target.type) {
      case 'passed':
      case 'failed': {
        if (target.type === 'failed' && this.failures.get(target.gate)?.event === target) this.failures.delete(target.gate);
        // What stands then is no older word: the check is open, and is to be made again.
        if (this.gates.get(target.gate)?.id !== of) return;
        this.gates.delete(target.gate);
        this.reopened.set(target.gate, e);
        return;
      }
      case 'fasteners out':
      case 'fasteners back': {
        const i = this.counts.findIndex((c) => c.id === of);
        if (i >= 0) this.counts.splice(i, 1);
        return;
      }
      case 'note':
        this.notes.set(
          target.step,
          (this.notes.get(target.step) ?? []).filter((n) => n.id !== of),
        );
        return;
      case 'photo':
        this.photos.set(
          target.step,
          (this.photos.get(target.step) ?? []).filter((n) => n.id !== of),
        );
        return;
      default:
      // Ticks have an undo of their own, and what an engine did was done.
    }
  }

  private tick(e: Of<'done'>, at: number): void {
    const { who, at_ms } = e;
    const before = this.undone.get(e.step);
    if (before && !this.knew(e, before.event, before.at)) {
      this.setAside.push({ event: e, why: 'did not know', of: before.event });
      return;
    }
    this.reopen(e.step, e);
    this.done.set(e.step, { who, at_ms, reason: e.reason ?? null, at });
    if (e.step === START) this.stopped = null;
  }

  /** Why a check that was passed does not count, with the event it did not know or that asks for its cures; null: it does. */
  private aside(e: Of<'passed'>): Omit<SetAside, 'event'> | null {
    const failure = this.failures.get(e.gate);
    if (failure) {
      if (!this.knew(e, failure.event, failure.at)) return { why: 'did not know', of: failure.event };
      const cures = this.all.find((g) => g.id === e.gate)?.cures ?? [];
      if (!cures.every((c) => (this.done.get(c)?.at ?? -1) > failure.at)) return { why: 'cure missing', of: failure.event };
    }
    const by = this.reopened.get(e.gate);
    return by && !this.knew(e, by, this.events.indexOf(by)) ? { why: 'did not know', of: by } : null;
  }

  private pass(e: Of<'passed'>, at: number): void {
    const aside = this.aside(e);
    if (aside) {
      this.setAside.push({ event: e, ...aside });
      return;
    }
    this.failures.delete(e.gate);
    this.reopened.delete(e.gate);
    this.gates.set(e.gate, { passed: true, who: e.who, at_ms: e.at_ms, reason: null, id: e.id ?? null, at });
  }

  /** A failed check reopens the steps that cure it, and stops an engine that was started. */
  private fail(e: Of<'failed'>, at: number): void {
    const { who, at_ms, reason } = e;
    this.gates.set(e.gate, { passed: false, who, at_ms, reason, id: e.id ?? null, at });
    this.reopened.delete(e.gate);
    this.failures.set(e.gate, { event: e, at });
    for (const cure of this.all.find((g) => g.id === e.gate)?.cures ?? []) {
      this.done.delete(cure);
      this.undone.set(cure, { event: e, at });
      this.reopen(cure, e);
    }
    if (this.done.delete(START)) {
      this.undone.set(START, { event: e, at });
      this.stopped = { gate: e.gate, reason, who, at_ms };
    }
  }

  add(e: SheetEvent): void {
    const at = this.events.length;
    this.events.push(e);
    if (e.id !== undefined) this.place.set(e.id, at);
    const { who, at_ms } = e;
    switch (e.type) {
      case 'done':
        this.tick(e, at);
        return;
      case 'undone':
        this.done.delete(e.step);
        this.undone.set(e.step, { event: e, at });
        this.reopen(e.step, e);
        return;
      case 'passed':
        this.pass(e, at);
        return;
      case 'failed':
        this.fail(e, at);
        return;
      case 'taken back':
        this.takeBack(e.of, e);
        return;
      case 'note':
        this.notes.set(e.step, [...(this.notes.get(e.step) ?? []), { who, at_ms, text: e.text, id: e.id }]);
        return;
      case 'photo':
        this.photos.set(e.step, [...(this.photos.get(e.step) ?? []), { who, at_ms, text: '', hash: e.hash, id: e.id }]);
        return;
      case 'fasteners out':
      case 'fasteners back':
        this.counts.push({ id: e.id, bag: e.bag, side: e.type === 'fasteners out' ? 'out' : 'back', count: e.count });
        return;
      default:
      // Engine stamps and readings are the relearn's.
    }
  }
}

/**
 * A sheet's state from its events, in the order they were kept: no clock decides anything. A failed check reopens the steps that
 * cure it, and the first start; it passes again only once each of them was done after it. Undoing or redoing a cure opens a check
 * that stood as passed. What was written without knowing of a failure does not undo it, and is told as set aside.
 */
export function sheetState(events: readonly SheetEvent[], gates: readonly Gate[]): SheetState {
  const fold = new Fold(gates);
  for (const e of events) fold.add(e);
  const bags = new Map<string, { out: number; back: number }>();
  for (const { bag, side, count } of fold.counts) bags.set(bag, { ...(bags.get(bag) ?? { out: 0, back: 0 }), [side]: count });
  const { done, gates: words, reopened, stopped, notes, photos, setAside } = fold;
  return { done, gates: words, reopened, stopped, bags, notes, photos, setAside };
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
  for (const { id, cures } of gates) {
    const check = state.gates.get(id);
    if (!check?.passed) locks.push({ why: 'check', gate: id, reason: check?.reason ?? null });
    else for (const step of cures) if (!state.done.has(step)) locks.push({ why: 'cure', gate: id, step });
  }
  for (const [bag, { out, back }] of state.bags) if (out !== back) locks.push({ why: 'fasteners', bag, out, back });
  return locks;
}

interface Sheet {
  readonly steps: readonly Pick<InstallStep, 'id'>[];
  readonly gates: readonly Gate[];
  readonly events: readonly SheetEvent[];
  /** How the idle is to be relearnt; missing: not judged. */
  readonly relearn?: RelearnPlan;
}

/** A sheet as it stands when an event is to be added. */
interface Standing extends Sheet {
  readonly state: SheetState;
  readonly locked: boolean;
  readonly bagsOpen: boolean;
  readonly now_ms: number;
}

function refuseDone({ step, reason }: Of<'done'>, on: Standing): EventRefusal | null {
  if (step === START) return on.locked ? 'locked' : null;
  if (NEED_START.has(step)) {
    if (on.locked) return 'locked';
    if (!on.state.done.has(START)) return 'not started';
  }
  if (step === RELEARN && on.relearn && (reason ?? '').trim() === '')
    return relearnFaults(on.relearn, relearnEvents(on.events), on.now_ms).length > 0 ? 'relearn not clean' : null;
  return CLOSES.has(step) && on.bagsOpen ? 'bags open' : null;
}

function refuseCheck(event: Of<'passed' | 'failed'>, { events, gates, state, bagsOpen }: Standing): EventRefusal | null {
  const gate = gates.find((g) => g.id === event.gate);
  if (!gate) return 'unknown check';
  if (event.type === 'failed') return null;
  if (event.gate === COUNTED && bagsOpen) return 'bags open';
  // What was written away from here, before a failure was heard of, is kept and set aside instead.
  const aside = sheetState([...events, event], gates).setAside.at(-1);
  if (aside?.event === event && aside.why === 'did not know') return null;
  return gate.cures.every((c) => state.done.has(c)) && aside?.event !== event ? null : 'cure first';
}

/** What no event is without: who wrote it, and of what takes something back, why. */
function refuseUnsigned(event: SheetEvent): EventRefusal | null {
  if (event.who.trim() === '') return 'no name';
  const wantsReason = event.type === 'undone' || event.type === 'failed' || event.type === 'taken back';
  return wantsReason && event.reason.trim() === '' ? 'no reason' : null;
}

/** Whether a new event may be written down on a sheet; null: it may. `now_ms` is the time where it is kept. */
export function refuseEvent(event: SheetEvent, sheet: Sheet, now_ms: number): EventRefusal | null {
  const unsigned = refuseUnsigned(event);
  if (unsigned) return unsigned;
  const state = sheetState(sheet.events, sheet.gates);
  const locked = startLocks(state, sheet.gates).length > 0;
  const bagsOpen = [...state.bags.values()].some((b) => b.out !== b.back);
  const on: Standing = { ...sheet, state, locked, bagsOpen, now_ms };
  switch (event.type) {
    case 'done':
    case 'undone':
    case 'note':
    case 'photo':
      if (!sheet.steps.some((s) => s.id === event.step)) return 'unknown step';
      return event.type === 'done' ? refuseDone(event, on) : null;
    case 'passed':
    case 'failed':
      return refuseCheck(event, on);
    case 'taken back':
      return sheet.events.some((e) => e.id === event.of) ? null : 'unknown event';
    case 'engine on':
      if (locked) return 'locked';
      return state.done.has(START) ? null : 'not started';
    case 'engine off':
      return null;
    case 'rpm':
      return event.rpm.every((r) => r >= 0 && r <= MOST_rpm) && event.step_ms > 0 ? null : 'bad reading';
    default:
      return Number.isInteger(event.count) && event.count >= 0 && event.count <= MOST_FASTENERS ? null : 'bad count';
  }
}

/** Whether a step is done with an engine that runs, and so only once the first start is made. */
export const needsStart = (step: string): boolean => NEED_START.has(step);
