'use client';

import { Button } from 'antd';
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
}

/** One step of the sheet: a tick as large as a thumb, or, of a check, passed and failed; who and when; and the way back. */
export function StepRow({ step, n, state, locked, named, onWrite, onReason }: StepRowProps) {
  const done = state.done.get(step.id);
  const check = state.gates.get(step.id);
  const closed = step.id === 'start' && locked;
  return (
    <li className={styles['step']} data-gate={step.gate ?? false} data-done={done !== undefined || check?.passed === true}>
      <span className={styles['n']}>{n}</span>
      <div>
        {step.gate && <span className={styles['gate']}>must pass · </span>}
        {step.text}
        {step.caution && <span className={styles['caution']}>{step.caution}</span>}
        {done && <Stamp {...done} word="done" />}
        {check && <Stamp {...check} word={check.passed ? 'passed' : 'failed'} />}
        {check?.reason && <span className={styles['failed']}>{check.reason}</span>}
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
            {closed ? 'locked' : 'done'}
          </Button>
        )}
      </div>
    </li>
  );
}
