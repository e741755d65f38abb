'use client';

import { Button, Input, Segmented } from 'antd';
import { useEffect, useMemo, useState } from 'react';
import { NO_PASS } from '@/core/documents/blank';
import type { StoredPass, StoredVisit, StripPassDoc } from '@/core/documents/strip';
import { LANES } from '@/core/documents/kinds';
import { placePoint, slipFields, slipIssues, type SlipField } from '@/core/documents/slip';
import { oddFigures } from '@/core/strip/slip-check';
import { useShelf } from '@/features/job/provider';
import { checksSoon } from '@/ui/checks';
import { timeOnDay } from '@/ui/clock';
import { FieldRow } from '@/ui/field/field-row';
import { usePrefs } from '@/ui/theme/prefs';
import { useStream } from '../use-stream';
import { digitsOf, figure, figureOf, slipOf, SPEED_mps, type SlipDigits } from './slip-digits';
import { fieldName, issueWords } from './words';
import styles from './strip.module.css';
import { Dialog } from '@/ui/dialog';
import { msg } from './messages';

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

/** So many of the day's passes stand under the pad. */
const MOST_LISTED = 6;

interface TowerReading {
  readonly field: SlipField;
  readonly value: number;
}

/**
 * A slip typed with one thumb: the point sets itself, a full figure goes on to the next, what cannot be is said at once.
 * What is typed stays on this device until the pass is kept.
 */
export function SlipPad({
  visit,
  side,
  day,
  waiting,
  onUndo,
  stored,
  tower,
  onKeep,
  onClose,
}: {
  visit: StoredVisit;
  /** The day's other passes: what stands far from them is asked about; a new one's list to go on from. */
  day: readonly StoredPass[];
  /** Ids of those that wait on this device to be sent. */
  waiting?: ReadonlySet<string> | undefined;
  /** Takes one of them out again; left out: there is nothing to undo. */
  onUndo?: ((pass: StoredPass) => Promise<void>) | undefined;
  /** A kept pass that is put right; left out: a new one. */
  stored?: StripPassDoc | undefined;
  /** Side of the pass before: usually the same. */
  side: StripPassDoc['side'];
  /** Address of the stand-in's next pass, by side; null: none to be had. */
  tower: ((unitId: string | null) => string) | null;
  onKeep: (doc: StripPassDoc) => Promise<unknown>;
  onClose: () => void;
}) {
  const { pack } = usePrefs();
  const shelf = useShelf();
  const { course, speeds } = visit.doc;
  const fields = slipFields(course);
  const [draft, setDraft] = useState<Draft>(
    () =>
      (stored ? { digits: digitsOf(stored.slip, speeds), doc: stored } : storedDraft(visit)) ?? {
        digits: {},
        doc: { ...NO_PASS, at: timeOnDay(visit.doc.takenOn), side },
      },
  );
  const [at, setAt] = useState(0);
  const [page, setPage] = useState<'slip' | 'car'>('slip');
  const [wrong, setWrong] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const stream = useStream<TowerReading>();
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
  const slip = useMemo(() => slipOf(draft.digits, speeds), [draft.digits, speeds]);
  const issues = useMemo(() => slipIssues(slip), [slip]);
  const field = fields[at] ?? fields.at(-1)!;
  const issueOf = (f: SlipField) => issues.find((i) => i.field === f);
  const odd = useMemo(
    () =>
      oddFigures(
        slip,
        day.map((p) => p.doc.slip),
        (f, v) => figure(f, v, speeds),
        (f, t) => figureOf(f, t, speeds),
      ),
    [slip, day, speeds],
  );
  const refused = issues.some((i) => i.level === 'refused');
  const empty = fields.every((f) => slip[f] === null);
  const setDigits = (f: SlipField, typed: string): void => setDraft((d) => ({ ...d, digits: { ...d.digits, [f]: typed } }));
  const press = (key: string): void => {
    const typed = draft.digits[field] ?? '';
    if (key === 'back') {
      if (typed === '' && at > 0) setAt(at - 1);
      else setDigits(field, typed.slice(0, -1));
      return;
    }
    if (key === 'next') return setAt(Math.min(fields.length - 1, at + 1));
    // A full field typed into again begins anew: a mistake is mended by typing it right.
    const digits = placePoint(field, typed, speeds).done ? key : typed + key;
    setDigits(field, digits);
    if (placePoint(field, digits, speeds).done && at < fields.length - 1) setAt(at + 1);
  };
  const set = (more: Partial<StripPassDoc>): void => setDraft((d) => ({ ...d, doc: { ...d.doc, ...more } }));
  const fromTower = (): void => {
    const unitId = draft.doc.side?.kind === 'unit' ? draft.doc.side.unitId : null;
    stream.start(tower!(unitId), (readings) => {
      const digits = Object.fromEntries(
        readings.map(({ field: f, value }) => [
          f,
          (f.startsWith('v') ? (value / SPEED_mps[speeds]).toFixed(2) : value.toFixed(3)).replace('.', ''),
        ]),
      );
      setDraft((d) => ({ ...d, digits }));
    });
  };
  const fresh = (onCar: StripPassDoc['side']): Draft => ({
    digits: {},
    doc: { ...NO_PASS, at: timeOnDay(visit.doc.takenOn), side: onCar },
  });
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
    const doc = { ...draft.doc, slip };
    setBusy(true);
    try {
      const checks = await checksSoon();
      const issue = checks?.stripPassDoc.safeParse(doc).error?.issues[0];
      if (issue) throw new Error(issue.message);
      await onKeep(doc);
      if (!stored) localStorage.removeItem(draftKey(visit));
      if (then === 'close') return onClose();
      setDraft(fresh(draft.doc.side));
      setAt(0);
      setWrong(null);
      setBusy(false);
    } catch (error) {
      setWrong((error as Error).message);
      setBusy(false);
    }
  };
  const shut = refused || empty || busy || stream.state === 'running';
  const last = course === 'quarter' ? 't402_s' : 't201_s';
  const trap = course === 'quarter' ? 'v402_mps' : 'v201_mps';
  const units = shelf.map((u) => ({ value: u.id, label: u.doc.name }));
  const live = new Map(stream.readings.map((r) => [r.field, r.value]));
  const shown = (f: SlipField): string => {
    const running = live.get(f);
    if (stream.state === 'running')
      return running === undefined ? '·' : f.startsWith('v') ? (running / SPEED_mps[speeds]).toFixed(2) : running.toFixed(3);
    const typed = draft.digits[f] ?? '';
    return typed === '' ? '—' : placePoint(f, typed, speeds).text;
  };
  const sideValue = draft.doc.side === null ? '' : draft.doc.side.kind === 'stock' ? 'stock' : draft.doc.side.unitId;
  const now = issueOf(field) ?? issues[0];
  return (
    <Dialog
      open
      title={stored ? 'Put the pass right' : 'A pass'}
      footer={null}
      onCancel={onClose}
      width={440}
      className={styles['pad']!}
      destroyOnHidden
    >
      <label className={styles['side']}>
        <span className="quiet">{msg.onTheCar}</span>
        <select
          aria-label={msg.onTheCar}
          value={sideValue}
          onChange={(e) =>
            set({
              side:
                e.target.value === '' ? null : e.target.value === 'stock' ? { kind: 'stock' } : { kind: 'unit', unitId: e.target.value },
            })
          }
        >
          <option value="">{msg.notSaid}</option>
          <option value="stock">{msg.stock}</option>
          {units.map((u) => (
            <option key={u.value} value={u.value}>
              {u.label}
            </option>
          ))}
        </select>
        <Segmented
          size="small"
          aria-label={msg.partOfThePass}
          value={page}
          options={[
            { value: 'slip', label: msg.slip },
            { value: 'car', label: msg.carAndNotes },
          ]}
          onChange={setPage}
        />
      </label>
      {page === 'slip' ? (
        <div
          role="group"
          aria-label={msg.theSlip}
          tabIndex={0}
          className={styles['slip']}
          onKeyDown={(e) => {
            const own = e.target === e.currentTarget;
            const key = /^\d$/.test(e.key)
              ? e.key
              : e.key === 'Backspace'
                ? 'back'
                : own && (e.key === 'Enter' || e.key === 'ArrowDown')
                  ? 'next'
                  : null;
            // A button of the pad has Enter to itself; digits go on wherever the focus is.
            if (key === null || (!own && !(e.target instanceof HTMLButtonElement))) return;
            e.preventDefault();
            press(key);
          }}
        >
          <div className={styles['fields']}>
            {fields.map((f, i) => (
              <button
                key={f}
                type="button"
                data-at={i === at}
                data-wrong={issueOf(f)?.level}
                aria-label={`${fieldName(f, visit.doc)}: ${shown(f)}`}
                onClick={() => setAt(i)}
              >
                <span>{fieldName(f, visit.doc)}</span>
                <b>{shown(f)}</b>
              </button>
            ))}
          </div>
          <p className={styles['issue']} data-level={now?.level} role={now ? 'alert' : undefined}>
            {now ? `${fieldName(now.field, visit.doc)}: ${issueWords(now, visit.doc, pack)}` : 'Digits only: the point sets itself.'}
          </p>
          {draft.doc.at === null && (
            <p className={styles['odd']} role="status">
              {msg.noTimeOfDayNoAir}
            </p>
          )}
          {odd.map((o) => (
            <p key={o.field} className={styles['odd']} role="status">
              {fieldName(o.field, visit.doc)}: {o.typed}
              {msg.theDaysPassesRun} {o.from} {msg.to2} {o.to}.{' '}
              {o.swapped && (
                <Button size="small" onClick={() => setDigits(o.field, o.swapped!.replace('.', ''))}>
                  {msg.twoDigitsChangedAbout} {o.swapped}
                </Button>
              )}
            </p>
          ))}
          <div className={styles['keys']}>
            {['1', '2', '3', '4', '5', '6', '7', '8', '9'].map((k) => (
              <button key={k} type="button" onClick={() => press(k)}>
                {k}
              </button>
            ))}
            <button type="button" aria-label={msg.takeADigitBack} onClick={() => press('back')}>
              ⌫
            </button>
            <button type="button" onClick={() => press('0')}>
              0
            </button>
            <button type="button" aria-label={msg.nextFigure} onClick={() => press('next')}>
              ↵
            </button>
          </div>
        </div>
      ) : (
        <div className={styles['car']}>
          <label className={styles['stack']}>
            {msg.timeOfDay}
            <Input type="time" value={draft.doc.at ?? ''} onChange={(e) => set({ at: e.target.value === '' ? null : e.target.value })} />
          </label>
          <FieldRow
            label={msg.coolant}
            measure="temperature"
            value={draft.doc.coolant_K}
            onChange={(v) => set({ coolant_K: v })}
            onClear={() => set({ coolant_K: null })}
          />
          <FieldRow
            label={msg.inletAir}
            measure="temperature"
            value={draft.doc.inlet_K}
            onChange={(v) => set({ inlet_K: v })}
            onClear={() => set({ inlet_K: null })}
          />
          <FieldRow
            label={msg.drivenTyres}
            measure="plenum"
            value={draft.doc.tyre_Pa}
            onChange={(v) => set({ tyre_Pa: v })}
            onClear={() => set({ tyre_Pa: null })}
          />
          <FieldRow
            label={msg.launch}
            measure="rpm"
            value={draft.doc.launch_rpm}
            onChange={(v) => set({ launch_rpm: v })}
            onClear={() => set({ launch_rpm: null })}
          />
          <Segmented
            aria-label={msg.lane}
            value={draft.doc.lane}
            options={[
              { value: 'left', label: msg.leftLane },
              { value: '', label: msg.notSaid },
              { value: 'right', label: msg.rightLane },
            ]}
            onChange={(lane) => set({ lane: LANES.find((l) => l === lane) ?? '' })}
          />
          <label className={styles['stack']}>
            {msg.doneSinceThePassBefore}
            <Input
              maxLength={400}
              value={draft.doc.between}
              placeholder={msg.tyresDownTo14Bar}
              onChange={(e) => set({ between: e.target.value })}
            />
          </label>
          <label className={styles['stack']}>
            {msg.note}
            <Input.TextArea rows={2} maxLength={1000} value={draft.doc.note} onChange={(e) => set({ note: e.target.value })} />
          </label>
        </div>
      )}
      {(wrong ?? stream.state === 'away') && (
        <p className={styles['wrong']} role="alert">
          {wrong ?? 'The practice tower broke off: the server is away. What stands here is kept.'}
        </p>
      )}
      <div className={styles['foot']}>
        {tower && !stored && (
          <Button disabled={busy} onClick={stream.state === 'running' ? stream.stop : fromTower}>
            {stream.state === 'running' ? 'Stop' : 'Practice tower'}
          </Button>
        )}
        <Button size="large" type={stored ? 'primary' : 'default'} disabled={shut} onClick={() => void keep('close')}>
          {stored ? 'Keep it so' : 'Keep this pass'}
        </Button>
        {!stored && (
          <Button type="primary" size="large" disabled={shut} onClick={() => void keep('next')}>
            {msg.keepNextSlip}
          </Button>
        )}
      </div>
      {!stored && day.length > 0 && (
        <ol className={styles['running']} aria-label={msg.keptToday}>
          {day
            .slice(-MOST_LISTED)
            .toReversed()
            .map((p, i) => (
              <li key={p.id}>
                <span>{p.doc.at ?? '—'}</span>
                <b>{p.doc.slip[last] === null ? '—' : figure(last, p.doc.slip[last]!, speeds)}</b>
                <b>{p.doc.slip[trap] === null ? '—' : figure(trap, p.doc.slip[trap]!, speeds)}</b>
                <span className="quiet">{waiting?.has(p.id) ? 'waits here' : 'kept'}</span>
                {onUndo && i === 0 && (
                  <Button aria-label={`Undo the pass at ${p.doc.at ?? 'no time'}`} onClick={() => void undo(p)}>
                    {msg.undo}
                  </Button>
                )}
              </li>
            ))}
        </ol>
      )}
    </Dialog>
  );
}
