'use client';

import { Button, Input, Upload } from 'antd';
import Image from 'next/image';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { SheetState } from '@/core/install/run-sheet';
import type { InstallStep } from '@/core/install/steps';
import { WhenListening } from '@/ui/when-listening';
import { usePrefs } from '@/ui/theme/prefs';
import { list } from './event-words';
import styles from './install.module.css';
import type { Entry } from './use-sheet';
import { msg } from './messages';

function Stamp({ who, at_ms, word }: { who: string; at_ms: number; word: string }) {
  const { dates } = usePrefs();
  return (
    <span className={styles['stamp']}>
      {word} {msg.by} {who}, <time dateTime={new Date(at_ms).toISOString()}>{dates.dayTime(at_ms)}</time>
    </span>
  );
}

export interface StepRowProps {
  readonly step: InstallStep;
  readonly n: number;
  readonly state: SheetState;
  /** Why the first start is shut, in a line; null: it is open. */
  readonly locked: string | null;
  /** Done with an engine that runs, and the first start is not made. */
  readonly waits: boolean;
  readonly named: boolean;
  /** Photos that wait here, by the mark that stands for their hash. */
  readonly photos: ReadonlyMap<string, Blob>;
  readonly device: string;
  /** Of a check: why it is open again, and what is to be done before it can be passed. */
  readonly reopened: string | null;
  readonly curesLeft: readonly string[];
  /** The relearn's own readings are not clean: a tick says why all the same. */
  readonly unclean: boolean;
  readonly onPhoto: (photo: Blob) => void;
  readonly onWrite: (entry: Entry) => void;
  /** Asks for a reason, then writes what is made of it. */
  readonly onReason: (question: string, entry: (reason: string) => Entry) => void;
  /** Of a step the shop put in: a place up or down, or out again. */
  readonly onMove?: ((by: 1 | -1) => void) | undefined;
  readonly onRemove?: (() => void) | undefined;
}

/** Half a note is kept in this browser until it is written down. */
const draftKey = (device: string, step: string): string => `vanner-note-${device}-${step}`;
/** A note whose field was left by keyboard is written down after this, ms; by a tap, once the tap has done its work. */
const LEFT_ms = 1200;

/** A note being typed: kept as it is typed, and written down only when no finger can be on its way to a button below. */
function NoteField({
  step,
  device,
  onKeep,
  onClose,
}: {
  step: InstallStep;
  device: string;
  onKeep: (text: string) => void;
  onClose: () => void;
}) {
  const key = draftKey(device, step.id);
  const [text, setText] = useState(() => localStorage.getItem(key) ?? '');
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const latest = useRef(text);
  const change = (next: string): void => {
    latest.current = next;
    setText(next);
    localStorage.setItem(key, next);
  };
  const keep = (): void => {
    clearTimeout(timer.current);
    const said = latest.current.trim();
    localStorage.removeItem(key);
    latest.current = '';
    if (said !== '') onKeep(said);
    onClose();
  };
  useEffect(() => () => clearTimeout(timer.current), []);
  const leave = (): void => {
    const after = (): void => {
      window.removeEventListener('click', after);
      clearTimeout(timer.current);
      // The tap that took the finger here does its own work first, on buttons that have not moved.
      timer.current = setTimeout(keep, 0);
    };
    window.addEventListener('click', after);
    timer.current = setTimeout(after, LEFT_ms);
  };
  return (
    <>
      <Input.TextArea
        aria-label={`Note at: ${step.text}`}
        autoFocus
        rows={2}
        maxLength={1000}
        value={text}
        placeholder={step.note ?? 'what the next person should know'}
        onChange={(e) => change(e.target.value)}
        onBlur={leave}
        onFocus={() => clearTimeout(timer.current)}
      />
      <Button aria-label={`Keep the note: ${step.text}`} onClick={keep}>
        {msg.keep}
      </Button>
    </>
  );
}

/** A photo of the sheet: from the server, or, while it waits here, from this device. */
function Photo({ hash, waiting, alt }: { hash: string; waiting: Blob | undefined; alt: string }) {
  const here = useMemo(() => (waiting ? URL.createObjectURL(waiting) : null), [waiting]);
  useEffect(() => () => void (here && URL.revokeObjectURL(here)), [here]);
  return <Image src={here ?? `/api/files/${hash}`} alt={alt} width={220} height={160} unoptimized />;
}

type RemarksProps = Pick<StepRowProps, 'step' | 'state' | 'named' | 'photos' | 'device' | 'onPhoto' | 'onWrite'>;

/** What was noted and photographed at a step, and the means to add to it. */
function Remarks({ step, state, named, photos: waiting, device, onPhoto, onWrite }: RemarksProps) {
  const [noting, setNoting] = useState(false);
  const [half, setHalf] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  useEffect(() => {
    const found = setTimeout(() => setHalf(device !== '' && (localStorage.getItem(draftKey(device, step.id)) ?? '') !== ''), 0);
    return () => clearTimeout(found);
  }, [device, step.id, noting]);
  const notes = state.notes.get(step.id) ?? [];
  const photos = state.photos.get(step.id) ?? [];
  return (
    <>
      {(notes.length > 0 || photos.length > 0) && (
        <ul className={styles['remarks']}>
          {notes.map((n) => (
            <li key={`${n.at_ms}${n.text}`}>
              {n.text} <Stamp {...n} word="noted" />
            </li>
          ))}
          {photos.map((p) => (
            <li key={`${p.at_ms}${p.hash}`}>
              <Photo hash={p.hash} waiting={waiting.get(p.hash)} alt={`Photo at: ${step.text}`} />
              <Stamp {...p} word={waiting.has(p.hash) ? 'waits here; taken' : 'taken'} />
            </li>
          ))}
        </ul>
      )}
      <div className={`${styles['small']} ${styles['remarkTools']} no-print`}>
        {noting ? (
          <NoteField
            step={step}
            device={device}
            onKeep={(text) => onWrite({ type: 'note', step: step.id, text })}
            onClose={() => setNoting(false)}
          />
        ) : (
          <WhenListening>
            <Button type="text" size="small" disabled={!named} aria-label={`Add a note: ${step.text}`} onClick={() => setNoting(true)}>
              {half ? 'go on with the note' : 'note'}
            </Button>
            <Upload
              accept="image/png,image/jpeg,image/webp"
              showUploadList={false}
              multiple
              disabled={!named}
              beforeUpload={(file) => {
                const good = PHOTO_TYPES.has(file.type) && file.size <= PHOTO_LIMIT_BYTES;
                setWrong(good ? null : `“${file.name}” is no PNG, JPEG or WebP picture of up to 12 MB.`);
                if (good) onPhoto(file);
                return false;
              }}
            >
              <Button type="text" size="small" disabled={!named} aria-label={`Add a photo: ${step.text}`}>
                {msg.photo}
              </Button>
            </Upload>
          </WhenListening>
        )}
      </div>
      {wrong && (
        <p role="alert" className={styles['failed']}>
          {wrong}
        </p>
      )}
    </>
  );
}

const PHOTO_TYPES: ReadonlySet<string> = new Set(['image/png', 'image/jpeg', 'image/webp']);
const PHOTO_LIMIT_BYTES = 12 * 1024 * 1024;

/** What a step says, and what is to be told of it: who did it and when, and what stands in its way. */
function Told({ step, state, reopened, curesLeft, why }: StepRowProps & { why: string | null }) {
  const done = state.done.get(step.id);
  const check = state.gates.get(step.id);
  return (
    <>
      {step.gate && <span className={styles['gate']}>{msg.mustPass} </span>}
      {step.own && <span className={styles['stamp']}>{msg.ours}</span>}
      {step.text}
      {step.why && <span className={styles['tools']}>{step.why}</span>}
      {step.tools && (
        <span className={styles['tools']}>
          {msg.withWord} {step.tools}.
        </span>
      )}
      {step.note && (
        <span className={styles['tools']}>
          {msg.writeDown} {step.note}.
        </span>
      )}
      {step.caution && <span className={styles['caution']}>{step.caution}</span>}
      {done && <Stamp {...done} word="done" />}
      {check && <Stamp {...check} word={check.passed ? 'passed' : 'failed'} />}
      {check?.reason && <span className={styles['failed']}>{check.reason}</span>}
      {done?.reason && <span className={styles['tools']}>{done.reason}</span>}
      {reopened && <span className={styles['failed']}>{reopened}</span>}
      {step.gate && !check?.passed && curesLeft.length > 0 && (
        <span className={styles['tools']}>
          {msg.toBeDoneAndTickedBefore} {list(curesLeft)}.
        </span>
      )}
      {why && <span className={styles['lock']}>{why}</span>}
    </>
  );
}

/** A step of the shop's own may be moved and taken out. */
function OwnStep({ step, state, onMove, onRemove }: StepRowProps) {
  const done = state.done.get(step.id);
  return (
    <div className={`${styles['small']} no-print`}>
      <Button type="text" size="small" aria-label={`Move up: ${step.text}`} onClick={() => onMove?.(-1)}>
        {msg.up}
      </Button>
      <Button type="text" size="small" aria-label={`Move down: ${step.text}`} onClick={() => onMove?.(1)}>
        {msg.down}
      </Button>
      <Button type="text" size="small" aria-label={`Take out: ${step.text}`} disabled={done !== undefined} onClick={onRemove}>
        {msg.takeOut}
      </Button>
    </div>
  );
}

/** A check: passed or failed. */
function CheckButtons({ step, state, named, curesLeft, onWrite, onReason }: StepRowProps) {
  const check = state.gates.get(step.id);
  return (
    <>
      <Button
        type={check?.passed ? 'primary' : 'default'}
        disabled={!named || (!check?.passed && curesLeft.length > 0)}
        aria-label={`Passed: ${step.text}`}
        aria-pressed={check?.passed === true}
        onClick={() => onWrite({ type: 'passed', gate: step.id })}
      >
        {msg.passed}
      </Button>
      <Button
        danger
        disabled={!named}
        aria-label={`Failed: ${step.text}`}
        onClick={() => onReason('What did it do?', (reason) => ({ type: 'failed', gate: step.id, reason }))}
      >
        {msg.failed}
      </Button>
    </>
  );
}

/** Done, or the way back. */
function DoneButton({ step, state, named, closed, unclean, onWrite, onReason }: StepRowProps & { closed: boolean }) {
  if (state.done.has(step.id))
    return (
      <Button
        type="text"
        disabled={!named}
        aria-label={`Undo: ${step.text}`}
        onClick={() => onReason('Why is it undone?', (reason) => ({ type: 'undone', step: step.id, reason }))}
      >
        {msg.undo}
      </Button>
    );
  return (
    <Button
      disabled={!named || closed}
      aria-label={`Done: ${step.text}`}
      onClick={() =>
        unclean
          ? onReason('The relearn is not clean by its readings. Why is it done all the same?', (reason) => ({
              type: 'done',
              step: step.id,
              reason,
            }))
          : onWrite({ type: 'done', step: step.id })
      }
    >
      {closed ? 'locked' : step.id === 'fault-light' ? 'off' : 'done'}
    </Button>
  );
}

/** The fault light stays on: its codes, and the plugs are to be looked at again. */
function LightIsOn({ step, named, onReason }: StepRowProps) {
  return (
    <Button
      danger
      disabled={!named}
      aria-label={`It is on: ${step.text}`}
      onClick={() =>
        onReason('Which codes does it show?', (reason) => ({ type: 'failed', gate: 'seated', reason: `fault light: ${reason}` }))
      }
    >
      {msg.on}
    </Button>
  );
}

/** One step of the sheet: a tick as large as a thumb, or, of a check, passed and failed; who and when; and the way back. */
export function StepRow(props: StepRowProps) {
  const { step, n, state, locked, waits } = props;
  const done = state.done.get(step.id);
  const check = state.gates.get(step.id);
  const closed = (step.id === 'start' && locked !== null) || waits;
  const why = !closed || done ? null : (locked ?? 'Waits for the first start: tick that when the engine runs.');
  return (
    <li className={styles['step']} data-gate={step.gate ?? false} data-done={done !== undefined || check?.passed === true}>
      <span className={styles['n']}>{n}</span>
      <div>
        <Told {...props} why={why} />
        <Remarks {...props} />
        {step.own && <OwnStep {...props} />}
      </div>
      <div className={`${styles['act']} no-print`}>
        {step.gate ? <CheckButtons {...props} /> : <DoneButton {...props} closed={closed} />}
        {step.id === 'fault-light' && !done && <LightIsOn {...props} />}
      </div>
    </li>
  );
}
