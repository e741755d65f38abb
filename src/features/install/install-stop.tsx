'use client';

import { Button, Input } from 'antd';
import { useEffect, useState } from 'react';
import type { SheetEventDoc } from '@/core/documents/sheet';
import { sheetState, startLocks, stepsLeft, type SheetState } from '@/core/install/run-sheet';
import { gatesOf, jobSteps, STAGES, type InstallStep } from '@/core/install/steps';
import { formatQuantity } from '@/core/units/quantity';
import { installFinding } from '@/core/verdict/findings';
import { PhoneLink } from '@/features/job/phone-link';
import { useJob, useJobStore, useShelf } from '@/features/job/provider';
import { NextThing } from '@/ui/answer/next-thing';
import { Heading, Rule, StopPage } from '@/ui/answer/stop-page';
import { ControlRow } from '@/ui/field/field-row';
import { usePrefs } from '@/ui/theme/prefs';
import { answerText } from './answer-text';
import { AskReason, type Question } from './ask-reason';
import { curesOf, lockText, shortName } from './event-words';
import { History } from './history';
import styles from './install.module.css';
import { msg } from './messages';
import { OwnSteps } from './own-steps';
import { StageSteps } from './stage-steps';
import { Traffic } from './traffic';
import { useSheet } from './use-sheet';
import { useWho } from './use-who';

/** The whole sheet at a glance: a square a step, checks hatched, the start barred while it is locked. */
function Progress({ steps, state, locked }: { steps: readonly InstallStep[]; state: SheetState; locked: boolean }) {
  return (
    <div className={`${styles['progress']} no-print`}>
      {STAGES.map(({ stage, title }) => {
        const mine = steps.filter((s) => s.stage === stage);
        const done = mine.length - stepsLeft(mine, state);
        return (
          <a key={stage} href={`#stage-${stage}`} className={styles['stage']}>
            <span className={styles['squares']} aria-hidden="true">
              {mine.map((s) => (
                <i
                  key={s.id}
                  data-gate={s.gate ?? false}
                  data-failed={state.gates.get(s.id)?.passed === false}
                  data-done={s.gate ? state.gates.get(s.id)?.passed === true : state.done.has(s.id)}
                  data-locked={s.id === 'start' && locked && !state.done.has(s.id)}
                />
              ))}
            </span>
            <span>
              {title.split(':')[0]}{' '}
              <span className="quiet">
                {done} {msg.ofWord} {mine.length}
              </span>
            </span>
          </a>
        );
      })}
    </div>
  );
}

/** A check that failed after the first start: large, before anything else. */
function Stopped({ state, gates }: { state: SheetState; gates: ReturnType<typeof gatesOf> }) {
  const { dates } = usePrefs();
  if (!state.stopped) return null;
  const { gate, reason, who, at_ms } = state.stopped;
  return (
    <div role="alert" className={styles['stopped']}>
      <strong>{msg.stopEngineOffKeyOut}</strong>
      <p>
        {who} {msg.failed} {shortName(gate)}: {reason}{' '}
        <time dateTime={new Date(at_ms).toISOString()} suppressHydrationWarning>
          ({dates.dayTime(at_ms)})
        </time>
      </p>
      <ol>
        <li>{msg.engineOffKeyOutNobodyIn}</li>
        <li>
          {msg.doAgainAndTick} {curesOf(gate, gates)}.
        </li>
        <li>{msg.passThisCheckAndEveryCheck}</li>
        <li>{msg.onlyThenTheFirstStartAgain}</li>
      </ol>
    </div>
  );
}

/** Where somebody signs for the work, on paper. */
const Signed = () => (
  <div className={styles['signed']} aria-hidden="true">
    {['Fitted by', 'Checked by', 'Date'].map((t) => (
      <span key={t}>{t}</span>
    ))}
  </div>
);

/** Install: the order of work for this car, its cautions where they apply, and the checks that come before any start. */
export function InstallStop({ written = [] }: { written?: readonly SheetEventDoc[] }) {
  const { pack } = usePrefs();
  const doc = useJob((s) => s.doc);
  const unit = useShelf().find((u) => u.id === doc.pick.chosen);
  const control = doc.car.controls.kind;
  const steps = jobSteps(doc);
  const gates = gatesOf(steps);
  const jobId = useJob((s) => s.id);
  const [who, setWho] = useWho();
  const sheet = useSheet(jobId, written);
  const state = sheetState([...sheet.kept, ...sheet.waiting], gates);
  // Only what the server keeps opens the start: two windows, or one without a connection, must not go round it.
  const locks = startLocks(sheetState(sheet.kept, gates), gates);
  const left = stepsLeft(steps, state);
  const store = useJobStore();
  const { kept } = sheet;
  useEffect(() => {
    // The spine beside it says what the sheet says.
    const install = installFinding(doc, unit !== undefined, kept);
    store.setState((s) => ({ findings: { stops: s.findings.stops.map((f) => (f.stop === 'install' ? install : f)) } }));
  }, [store, doc, unit, kept]);
  const name = who.trim();
  const [asking, setAsking] = useState<Question | null>(null);
  const { closed_V, full_V } = doc.car.controls;
  const volts =
    closed_V !== null && full_V !== null
      ? `The stock sensor read ${formatQuantity(closed_V, 'voltage', pack)} shut and ${formatQuantity(full_V, 'voltage', pack)} full: match them.`
      : state.done.has('unit-off')
        ? 'The stock sensor was not measured before it came off: the usual 0.5 V closed is all there is to go by.'
        : 'The stock sensor has not been measured yet: do that before it comes off.';
  return (
    <StopPage
      wideAside
      tone={state.stopped ? 'danger' : undefined}
      answer={answerText(
        steps,
        unit ? unit.doc.name : 'a throttle',
        control === 'cable' ? 'cable' : 'electronic',
        left,
        locks,
        state.done.has('start'),
        state.stopped !== null,
      )}
      reason={volts}
      aside={
        <>
          {left < steps.length && !state.done.has('start') && locks.length > 0 && (
            <>
              <Heading>{msg.lockedTheFirstStart}</Heading>
              <ul className={styles['locks']}>
                {locks.map((l) => (
                  <li key={`${l.why}${'gate' in l ? l.gate : l.bag}`}>{lockText(l, gates)}</li>
                ))}
              </ul>
              <Rule />
            </>
          )}
          <OwnSteps />
          <Rule />
          <Heading>{msg.whoseWordCounts}</Heading>
          <p>{msg.theMakersInstructionsAndTorqueFigures}</p>
          <Rule />
          <div className={`${styles['devices']} no-print`}>
            <PhoneLink stop="install" />
            <Button onClick={() => window.print()}>{msg.printTheSheet}</Button>
          </div>
        </>
      }
    >
      <Stopped state={state} gates={gates} />
      {!unit && <NextThing shows={msg.noThrottleIsChosenTheseAre} links={[{ to: './pick', text: msg.goToPick }]} />}
      <Progress steps={steps} state={state} locked={locks.length > 0} />
      <div className={`${styles['who']} no-print`}>
        <ControlRow label={msg.atTheCar} wrong={name === '' ? 'A name is needed to write anything down.' : undefined}>
          <Input aria-label={msg.atTheCar} value={who} maxLength={60} placeholder={msg.yourName} onChange={(e) => setWho(e.target.value)} />
        </ControlRow>
        <Traffic sheet={sheet} steps={steps} state={state} />
      </div>
      <div className={styles['stages']}>
        <StageSteps at={{ steps, sheet, state, locks, name, ask: setAsking }} />
      </div>
      <History
        events={[...sheet.kept, ...sheet.waiting]}
        state={state}
        steps={steps}
        named={name !== ''}
        onReason={(question, entry) => setAsking({ question, entry })}
      />
      <Signed />
      {asking && <AskReason asked={asking} onWrite={(entry) => sheet.write(entry, name)} onClose={() => setAsking(null)} />}
    </StopPage>
  );
}
