'use client';

import { useCallback, useEffect, useMemo, useState } from 'react';
import { NO_PASS } from '@/core/documents/blank';
import { issuesOf } from '@/core/documents/issue';
import { issueLine } from '@/core/documents/issue-text';
import { placePoint, slipFields, slipIssues, type Slip, type SlipField, type SlipIssue } from '@/core/documents/slip';
import type { StoredPass, StoredVisit, StripPassDoc } from '@/core/documents/strip';
import { oddFigures, type OddFigure } from '@/core/strip/slip-check';
import { checksSoon } from '@/ui/checks';
import { timeOnDay } from '@/ui/clock';
import { usePrefs } from '@/ui/theme/prefs';
import { useStream } from '../use-stream';
import { digitsOf, figure, figureOf, slipOf, SPEED_mps, type SlipDigits } from './slip-digits';

/** What is typed of a pass that is not kept yet: digits of the slip, and the rest of the record. */
interface Draft {
  readonly digits: SlipDigits;
  readonly doc: StripPassDoc;
}

const draftKey = (visit: StoredVisit): string => `vanner-slip-${visit.id}`;

function storedDraft(visit: StoredVisit): Draft | null {
  try {
    const raw = JSON.parse(localStorage.getItem(draftKey(visit)) ?? 'null') as Draft | null;
    return raw?.digits && raw.doc ? { digits: raw.digits, doc: { ...NO_PASS, ...raw.doc } } : null;
  } catch {
    return null;
  }
}

interface TowerReading {
  readonly field: SlipField;
  readonly value: number;
}

/** Keys of the pad: a digit, one back, on to the next figure. */
export type PadKey = string;

export interface SlipPadTask {
  readonly visit: StoredVisit;
  /** The day's other passes: what stands far from them is asked about; a new one's list to go on from. */
  readonly day: readonly StoredPass[];
  /** Takes one of them out again; left out: there is nothing to undo. */
  readonly onUndo?: ((pass: StoredPass) => Promise<void>) | undefined;
  /** A kept pass that is put right; left out: a new one. */
  readonly stored?: StripPassDoc | undefined;
  /** Side of the pass before: usually the same. */
  readonly side: StripPassDoc['side'];
  /** Address of the stand-in's next pass, by side; null: none to be had. */
  readonly tower: ((unitId: string | null) => string) | null;
  readonly onKeep: (doc: StripPassDoc) => Promise<unknown>;
  readonly onClose: () => void;
}

/** What stands on the pad, and what a hand can do to it. */
export interface SlipPadState {
  readonly doc: StripPassDoc;
  readonly slip: Slip;
  readonly fields: readonly SlipField[];
  /** Place of the figure that is typed. */
  readonly at: number;
  readonly goTo: (at: number) => void;
  readonly issues: readonly SlipIssue[];
  readonly odd: readonly OddFigure[];
  /** A figure as it is written, with its point. */
  readonly shown: (f: SlipField) => string;
  readonly press: (key: PadKey) => void;
  readonly setDigits: (f: SlipField, typed: string) => void;
  readonly set: (more: Partial<StripPassDoc>) => void;
  readonly wrong: string | null;
  readonly busy: boolean;
  /** Nothing can be kept as it stands. */
  readonly shut: boolean;
  readonly tower: { readonly state: ReturnType<typeof useStream>['state']; readonly start: () => void; readonly stop: () => void };
  readonly undo: (pass: StoredPass) => Promise<void>;
  readonly keep: (then: 'close' | 'next') => Promise<void>;
}

const fresh = (visit: StoredVisit, side: StripPassDoc['side']): Draft => ({
  digits: {},
  doc: { ...NO_PASS, at: timeOnDay(visit.doc.takenOn), side },
});

/** What is typed, kept on this device until the pass is. */
function useDraft({ visit, stored, side }: SlipPadTask) {
  const [draft, setDraft] = useState<Draft>(
    () => (stored ? { digits: digitsOf(stored.slip, visit.doc.speeds), doc: stored } : storedDraft(visit)) ?? fresh(visit, side),
  );
  const [begun] = useState(draft);
  useEffect(() => {
    // Nothing typed is nothing to keep: the next slip has its own time of day.
    if (draft === begun || stored) return;
    try {
      localStorage.setItem(draftKey(visit), JSON.stringify(draft));
    } catch {
      // A full or forbidden store: the draft then lives only as long as the page.
    }
  }, [visit, draft, begun, stored]);
  return [draft, setDraft] as const;
}

/** Digits that go into their fields: a full one goes on to the next. */
function usePad(task: SlipPadTask, digits: SlipDigits, setDigits: (f: SlipField, typed: string) => void) {
  const { course, speeds } = task.visit.doc;
  const fields = slipFields(course);
  const [at, goTo] = useState(0);
  const field = fields[at] ?? fields.at(-1)!;
  const press = (key: PadKey): void => {
    const typed = digits[field] ?? '';
    if (key === 'back') {
      if (typed === '' && at > 0) goTo(at - 1);
      else setDigits(field, typed.slice(0, -1));
      return;
    }
    if (key === 'next') return goTo(Math.min(fields.length - 1, at + 1));
    // A full field typed into again begins anew: a mistake is mended by typing it right.
    const next = placePoint(field, typed, speeds).done ? key : typed + key;
    setDigits(field, next);
    if (placePoint(field, next, speeds).done && at < fields.length - 1) goTo(at + 1);
  };
  return { fields, at, goTo, press };
}

/**
 * What is to be asked about the slip. Not of the figure that is half typed, whose next digit may answer it, until the pass is to
 * be kept with it: `askedBefore` puts what was not asked yet, and says whether there is nothing of that sort.
 */
function useQuestions({ visit, day }: SlipPadTask, field: SlipField | undefined, digits: SlipDigits, slip: Slip) {
  const { speeds } = visit.doc;
  /** The digits as they stood when everything was asked about. */
  const [asked, setAsked] = useState<SlipDigits | null>(null);
  const typed = field === undefined ? '' : (digits[field] ?? '');
  const half = field !== undefined && typed !== '' && !placePoint(field, typed, speeds).done && asked !== digits;
  const about = useCallback(
    (s: Slip) => ({
      issues: slipIssues(s),
      odd: oddFigures(
        s,
        day.map((p) => p.doc.slip),
        (f, v) => figure(f, v, speeds),
        (f, t) => figureOf(f, t, speeds),
      ),
    }),
    [day, speeds],
  );
  const whole = useMemo(() => about(slip), [about, slip]);
  const shown = useMemo(() => (half ? about({ ...slip, [field]: null }) : whole), [about, half, slip, field, whole]);
  const askedBefore = (): boolean => {
    if (whole.issues.length + whole.odd.length <= shown.issues.length + shown.odd.length) return true;
    setAsked(digits);
    return false;
  };
  return { ...shown, askedBefore };
}

const written = (f: SlipField, value: number, speeds: StoredVisit['doc']['speeds']): string =>
  f.startsWith('v') ? (value / SPEED_mps[speeds]).toFixed(2) : value.toFixed(3);

export function useSlipPad(task: SlipPadTask): SlipPadState {
  const { visit, stored, onUndo, onKeep, onClose } = task;
  const { speeds } = visit.doc;
  const [draft, setDraft] = useDraft(task);
  const { pack } = usePrefs();
  const [wrong, setWrong] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const stream = useStream<TowerReading>();
  const setDigits = (f: SlipField, typed: string): void => setDraft((d) => ({ ...d, digits: { ...d.digits, [f]: typed } }));
  const pad = usePad(task, draft.digits, setDigits);
  const slip = useMemo(() => slipOf(draft.digits, speeds), [draft.digits, speeds]);
  const { issues, odd, askedBefore } = useQuestions(task, pad.fields[pad.at], draft.digits, slip);
  const empty = pad.fields.every((f) => slip[f] === null);
  const live = new Map(stream.readings.map((r) => [r.field, r.value]));
  const shown = (f: SlipField): string => {
    const running = live.get(f);
    if (stream.state === 'running') return running === undefined ? '·' : written(f, running, speeds);
    const typed = draft.digits[f] ?? '';
    return typed === '' ? '—' : placePoint(f, typed, speeds).text;
  };
  const fromTower = (): void => {
    const unitId = draft.doc.side?.kind === 'unit' ? draft.doc.side.unitId : null;
    stream.start(task.tower!(unitId), (readings) => {
      const digits = Object.fromEntries(readings.map(({ field, value }) => [field, written(field, value, speeds).replace('.', '')]));
      setDraft((d) => ({ ...d, digits }));
    });
  };
  const undo = async (pass: StoredPass): Promise<void> => {
    try {
      await onUndo!(pass);
      // Back into the pad, to be put right and kept again: an undo loses nothing.
      if (empty) setDraft({ digits: digitsOf(pass.doc.slip, speeds), doc: pass.doc });
      setWrong(null);
    } catch (error) {
      setWrong((error as Error).message);
    }
  };
  const keep = async (then: 'close' | 'next'): Promise<void> => {
    if (!askedBefore()) return;
    const doc = { ...draft.doc, slip };
    setBusy(true);
    try {
      const checks = await checksSoon();
      const error = checks?.checkedChange(checks.stripPassDoc, stored ?? null, doc).error;
      if (error) throw new Error(issueLine(issuesOf(error)[0]!, pack));
      await onKeep(doc);
      if (!stored) localStorage.removeItem(draftKey(visit));
      if (then === 'close') return onClose();
      setDraft(fresh(visit, draft.doc.side));
      pad.goTo(0);
      setWrong(null);
      setBusy(false);
    } catch (error) {
      setWrong((error as Error).message);
      setBusy(false);
    }
  };
  return {
    ...pad,
    doc: draft.doc,
    slip,
    issues,
    odd,
    shown,
    setDigits,
    set: (more) => setDraft((d) => ({ ...d, doc: { ...d.doc, ...more } })),
    wrong,
    busy,
    shut: issues.some((i) => i.level === 'refused') || empty || busy || stream.state === 'running',
    tower: { state: stream.state, start: fromTower, stop: stream.stop },
    undo,
    keep,
  };
}
