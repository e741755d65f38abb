'use client';

import { App, Button, Input, Upload } from 'antd';
import Image from 'next/image';
import { useState } from 'react';
import type { SheetState } from '@/core/install/run-sheet';
import type { InstallStep } from '@/core/install/steps';
import styles from './install.module.css';
import type { Entry } from './use-sheet';

const when = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });

const Stamp = ({ who, at_ms, word }: { who: string; at_ms: number; word: string }) => (
  <span className={styles['stamp']}>
    {word} by {who},{' '}
    <time dateTime={new Date(at_ms).toISOString()} suppressHydrationWarning>
      {when.format(at_ms)}
    </time>
  </span>
);

export interface StepRowProps {
  readonly step: InstallStep;
  readonly n: number;
  readonly state: SheetState;
  readonly locked: boolean;
  readonly named: boolean;
  readonly onWrite: (entry: Entry) => void;
  /** Asks for a reason, then writes what is made of it. */
  readonly onReason: (question: string, entry: (reason: string) => Entry) => void;
  /** Of a step the shop put in: a place up or down, or out again. */
  readonly onMove?: ((by: 1 | -1) => void) | undefined;
  readonly onRemove?: (() => void) | undefined;
}

/** What was noted and photographed at a step, and the means to add to it. */
function Remarks({ step, state, named, onWrite }: Pick<StepRowProps, 'step' | 'state' | 'named' | 'onWrite'>) {
  const { message } = App.useApp();
  const [noting, setNoting] = useState(false);
  const [text, setText] = useState('');
  const notes = state.notes.get(step.id) ?? [];
  const photos = state.photos.get(step.id) ?? [];
  const upload = async (file: Blob): Promise<void> => {
    const answer = await fetch('/api/files', { method: 'POST', body: file }).catch(() => null);
    const hash = answer?.ok ? ((await answer.json()) as { hash: string }).hash : null;
    const shown = hash ? await fetch(`/api/files/${hash}`).catch(() => null) : null;
    if (hash && shown?.ok) onWrite({ type: 'photo', step: step.id, hash });
    else if (!answer) message.error('The server cannot be reached. The photo is still on this device: add it again in a moment.');
    else message.error('That is no PNG, JPEG or WebP picture of up to 12 MB.');
  };
  const keep = (): void => {
    if (text.trim() !== '') onWrite({ type: 'note', step: step.id, text: text.trim() });
    setText('');
    setNoting(false);
  };
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
              <Image src={`/api/files/${p.hash}`} alt={`Photo at: ${step.text}`} width={220} height={160} unoptimized />
              <Stamp {...p} word="taken" />
            </li>
          ))}
        </ul>
      )}
      <div className={`${styles['small']} no-print`}>
        {noting ? (
          <Input.TextArea
            aria-label={`Note at: ${step.text}`}
            autoFocus
            rows={2}
            maxLength={1000}
            value={text}
            placeholder={step.note ?? 'what the next person should know'}
            onChange={(e) => setText(e.target.value)}
            onBlur={keep}
          />
        ) : (
          <>
            <Button type="text" size="small" disabled={!named} aria-label={`Add a note: ${step.text}`} onClick={() => setNoting(true)}>
              note
            </Button>
            <Upload
              accept="image/png,image/jpeg,image/webp"
              showUploadList={false}
              disabled={!named}
              beforeUpload={(file) => {
                void upload(file);
                return false;
              }}
            >
              <Button type="text" size="small" disabled={!named} aria-label={`Add a photo: ${step.text}`}>
                photo
              </Button>
            </Upload>
          </>
        )}
      </div>
    </>
  );
}

/** One step of the sheet: a tick as large as a thumb, or, of a check, passed and failed; who and when; and the way back. */
export function StepRow({ step, n, state, locked, named, onWrite, onReason, onMove, onRemove }: StepRowProps) {
  const done = state.done.get(step.id);
  const check = state.gates.get(step.id);
  const closed = step.id === 'start' && locked;
  return (
    <li className={styles['step']} data-gate={step.gate ?? false} data-done={done !== undefined || check?.passed === true}>
      <span className={styles['n']}>{n}</span>
      <div>
        {step.gate && <span className={styles['gate']}>must pass · </span>}
        {step.own && <span className={styles['stamp']}>ours</span>}
        {step.text}
        {step.why && <span className={styles['tools']}>{step.why}</span>}
        {step.tools && <span className={styles['tools']}>With: {step.tools}.</span>}
        {step.note && <span className={styles['tools']}>Write down: {step.note}.</span>}
        {step.caution && <span className={styles['caution']}>{step.caution}</span>}
        {done && <Stamp {...done} word="done" />}
        {check && <Stamp {...check} word={check.passed ? 'passed' : 'failed'} />}
        {check?.reason && <span className={styles['failed']}>{check.reason}</span>}
        <Remarks step={step} state={state} named={named} onWrite={onWrite} />
        {step.own && (
          <div className={`${styles['small']} no-print`}>
            <Button type="text" size="small" aria-label={`Move up: ${step.text}`} onClick={() => onMove?.(-1)}>
              up
            </Button>
            <Button type="text" size="small" aria-label={`Move down: ${step.text}`} onClick={() => onMove?.(1)}>
              down
            </Button>
            <Button type="text" size="small" aria-label={`Take out: ${step.text}`} disabled={done !== undefined} onClick={onRemove}>
              take out
            </Button>
          </div>
        )}
      </div>
      <div className={`${styles['act']} no-print`}>
        {step.gate ? (
          <>
            <Button
              type={check?.passed ? 'primary' : 'default'}
              disabled={!named}
              aria-label={`Passed: ${step.text}`}
              aria-pressed={check?.passed === true}
              onClick={() => onWrite({ type: 'passed', gate: step.id })}
            >
              passed
            </Button>
            <Button
              danger
              disabled={!named}
              aria-label={`Failed: ${step.text}`}
              onClick={() => onReason('What did it do?', (reason) => ({ type: 'failed', gate: step.id, reason }))}
            >
              failed
            </Button>
          </>
        ) : done ? (
          <Button
            type="text"
            disabled={!named}
            aria-label={`Undo: ${step.text}`}
            onClick={() => onReason('Why is it undone?', (reason) => ({ type: 'undone', step: step.id, reason }))}
          >
            undo
          </Button>
        ) : (
          <Button disabled={!named || closed} aria-label={`Done: ${step.text}`} onClick={() => onWrite({ type: 'done', step: step.id })}>
            {closed ? 'locked' : step.id === 'fault-light' ? 'off' : 'done'}
          </Button>
        )}
        {step.id === 'fault-light' && !done && (
          <Button
            danger
            disabled={!named}
            aria-label={`It is on: ${step.text}`}
            onClick={() =>
              onReason('Which codes does it show?', (reason) => ({ type: 'failed', gate: 'seated', reason: `fault light: ${reason}` }))
            }
          >
            on
          </Button>
        )}
      </div>
    </li>
  );
}
