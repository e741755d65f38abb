'use client';

import { Button, Input } from 'antd';
import { Fragment, useEffect, useState, useSyncExternalStore } from 'react';
import { PERSON_COOKIE } from '@/core/person-cookie';
import type { SheetEventDoc } from '@/core/documents/sheet';
import { needsStart, sheetState, startLocks, stepsLeft, type SheetState, type StartLock } from '@/core/install/run-sheet';
import { relearnEvents, relearnFaults } from '@/core/install/relearn';
import { gatesOf, jobSteps, movedOwn, STAGES, stepFacts, usualSteps, type InstallStep } from '@/core/install/steps';
import { formatQuantity } from '@/core/units/quantity';
import { installFinding } from '@/core/verdict/findings';
import { useJob, useJobStore, useShelf } from '@/features/job/provider';
import { Heading, Rule, StopPage } from '@/ui/answer/stop';
import { usePrefs } from '@/ui/theme/prefs';
import { ControlRow } from '@/ui/field/field-row';
import styles from './install.module.css';
import { asideText, History, reopenedText } from './history';
import { curesOf, eventText, lockLine, lockText, shortName } from './event-words';
import { BagsBack, BagsOut } from './fasteners';
import { OwnSteps } from './own-steps';
import { Relearn } from './relearn';
import { NewSensor, StockSensor } from './sensor';
import { StepRow } from './step-row';
import { Stops } from './stops';
import { Torque } from './torque';
import { useSheet, type Entry, type SheetLog } from './use-sheet';
import { outbox } from '@/features/offline/outbox';
import { PhoneLink } from '@/features/job/phone-link';
import { Dialog } from '@/ui/dialog';
import { NextThing } from '@/ui/answer/next-thing';
import { msg } from './messages';

const WHO_KEY = 'vanner-who';
const nothing = (): (() => void) => () => {};

/** Whoever the top bar says sits at this screen. */
const personHere = (): string => {
  const kept = new RegExp(`(?:^|;\\s*)${PERSON_COOKIE}=([^;]*)`).exec(document.cookie)?.[1] ?? '';
  try {
    return decodeURIComponent(kept);
  } catch {
    // Another server of this machine wrote it: cookies know no ports.
    return '';
  }
};

/** Who is at the car, remembered on this device; until somebody says, whoever sits at this screen. */
function useWho(): [string, (who: string) => void] {
  const kept = useSyncExternalStore(
    nothing,
    () => localStorage.getItem(WHO_KEY) ?? personHere(),
    () => '',
  );
  const [typed, setTyped] = useState<string | null>(null);
  const set = (who: string): void => {
    localStorage.setItem(WHO_KEY, who);
    setTyped(who);
  };
  return [typed ?? kept, set];
}

function answerText(
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

interface Question {
  readonly question: string;
  readonly entry: (reason: string) => Entry;
}

/** Asks for the reason that an undone step or a failed check must have. */
function AskReason({ asked, onWrite, onClose }: { asked: Question; onWrite: (entry: Entry) => void; onClose: () => void }) {
  const [reason, setReason] = useState('');
  return (
    <Dialog
      open
      title={asked.question}
      okText={msg.writeItDown}
      okButtonProps={{ disabled: reason.trim() === '' }}
      onCancel={onClose}
      onOk={() => {
        onWrite(asked.entry(reason.trim()));
        onClose();
      }}
      width={420}
    >
      <Input.TextArea
        aria-label={msg.inAFewWords}
        autoFocus
        rows={2}
        maxLength={400}
        value={reason}
        onChange={(e) => setReason(e.target.value)}
      />
    </Dialog>
  );
}

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

/** What is on its way, what was not taken, and what others do meanwhile. */
function Traffic({ sheet, steps, state }: { sheet: SheetLog; steps: readonly InstallStep[]; state: SheetState }) {
  const { dates } = usePrefs();
  const [newest] = sheet.heard;
  const mine = state.setAside.filter((a) => a.event.device === sheet.device);
  return (
    <>
      {newest && (
        <p role={newest.type === 'failed' ? 'alert' : 'status'} className={newest.type === 'failed' ? styles['failed'] : styles['heard']}>
          {newest.who} {eventText(newest, steps, sheet.kept)}, {dates.dayTime(newest.at_ms)}.
        </p>
      )}
      {sheet.live === 'away' && (
        <p role="status" className={styles['failed']}>
          {msg.whatOthersWriteDoesNotCome}
        </p>
      )}
      {sheet.waiting.length > 0 && (
        <p role="status" className="quiet">
          {sheet.waiting.length} {msg.writtenDownHereWaitingForThe}
        </p>
      )}
      {mine.map((a) => (
        <p key={a.event.id} role="alert" className={styles['failed']}>
          {asideText(a, steps)}
        </p>
      ))}
      {sheet.refusedLater.map((i) => (
        <p key={i.seq} role="alert" className={styles['failed']}>
          {msg.notTaken}
          {i.kind === 'photo' ? 'a photo' : eventText(i.body as SheetEventDoc, steps)}”. {i.refused}{' '}
          <Button size="small" onClick={() => void outbox().dismiss(i.seq)}>
            {msg.iHaveReadIt}
          </Button>
        </p>
      ))}
      {sheet.refused && (
        <p role="alert" className={styles['failed']}>
          {sheet.refused}
        </p>
      )}
    </>
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
  const change = useJob((s) => s.change);
  const gates = gatesOf(steps);
  const jobId = useJob((s) => s.id);
  const [who, setWho] = useWho();
  const sheet = useSheet(jobId, written);
  const state = sheetState([...sheet.kept, ...sheet.waiting], gates);
  // Only what the server keeps opens the start: two windows, or one without a connection, must not go round it.
  const locks = startLocks(sheetState(sheet.kept, gates), gates);
  const left = stepsLeft(steps, state);
  const r = doc.install.relearn;
  const unclean = relearnFaults(
    { cycles: r.cycles, run_s: r.run_s, rest_s: r.rest_s, band_rpm: [r.low_rpm, r.high_rpm] },
    relearnEvents([...sheet.kept, ...sheet.waiting]),
    Number.MAX_SAFE_INTEGER,
  );
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
        {STAGES.map(({ stage, title }) => {
          const mine = steps.filter((s) => s.stage === stage);
          return mine.length === 0 ? null : (
            <section key={stage} id={`stage-${stage}`}>
              <Heading>{title}</Heading>
              <ol className={styles['list']}>
                {mine.map((s) => (
                  <Fragment key={s.id}>
                    <StepRow
                      step={s}
                      n={steps.indexOf(s) + 1}
                      state={state}
                      locked={locks.length > 0 ? lockLine(locks, gates) : null}
                      waits={needsStart(s.id) && !state.done.has('start')}
                      named={name !== ''}
                      photos={sheet.photos}
                      device={sheet.device}
                      reopened={reopenedText(s.id, state, steps)}
                      curesLeft={
                        gates
                          .find((g) => g.id === s.id)
                          ?.cures.filter((c) => !state.done.has(c))
                          .map((c) => shortName(c)) ?? []
                      }
                      unclean={s.id === 'relearn' && unclean.length > 0}
                      onPhoto={(photo) => sheet.addPhoto(s.id, photo, name)}
                      onWrite={(entry) => sheet.write(entry, name)}
                      onReason={(question, entry) => setAsking({ question, entry })}
                      onMove={(by) =>
                        change((d) => ({
                          ...d,
                          install: { ...d.install, own: movedOwn(usualSteps(stepFacts(d)), d.install.own, s.id, by) },
                        }))
                      }
                      onRemove={() => change((d) => ({ ...d, install: { ...d.install, own: d.install.own.filter((o) => o.id !== s.id) } }))}
                    />
                    {s.id === 'volts-before' && (
                      <li className={styles['inside']}>
                        <StockSensor />
                      </li>
                    )}
                    {s.id === 'fasteners' && (
                      <li className={styles['inside']}>
                        <BagsOut state={state} named={name !== ''} onWrite={(entry) => sheet.write(entry, name)} />
                      </li>
                    )}
                    {s.id === (control === 'cable' ? 'sensor-set' : 'plug-in') && (
                      <li className={styles['inside']}>
                        <NewSensor />
                      </li>
                    )}
                    {s.id === 'counted' && state.bags.size > 0 && (
                      <li className={styles['inside']}>
                        <BagsBack state={state} named={name !== ''} onWrite={(entry) => sheet.write(entry, name)} />
                      </li>
                    )}
                    {s.id === 'threads' && (
                      <li className={styles['inside']}>
                        <Torque />
                      </li>
                    )}
                    {s.id === 'open-stop' && (
                      <li className={styles['inside']}>
                        <Stops />
                      </li>
                    )}
                    {s.id === 'relearn' && (
                      <li className={styles['inside']}>
                        <Relearn
                          events={[...sheet.kept, ...sheet.waiting]}
                          named={name !== ''}
                          started={state.done.has('start')}
                          locked={locks.length > 0 ? lockLine(locks, gates) : null}
                          clock_ms={sheet.clock_ms}
                          onWrite={(entry, at_ms) => sheet.write(entry, name, at_ms)}
                        />
                      </li>
                    )}
                  </Fragment>
                ))}
              </ol>
            </section>
          );
        })}
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
