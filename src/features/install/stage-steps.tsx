'use client';

import { Fragment, type ReactNode } from 'react';
import type { JobDoc } from '@/core/documents/job';
import { needsStart, type SheetState, type StartLock } from '@/core/install/run-sheet';
import { relearnEvents, relearnFaults } from '@/core/install/relearn';
import { gatesOf, movedOwn, STAGES, stepFacts, usualSteps, type InstallStep } from '@/core/install/steps';
import { useJob } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop-page';
import type { Question } from './ask-reason';
import { lockLine, shortName } from './event-words';
import { BagsBack, BagsOut } from './fasteners';
import { reopenedText } from './history';
import styles from './install.module.css';
import { Relearn } from './relearn';
import { NewSensor, StockSensor } from './sensor';
import { StepRow } from './step-row';
import { Stops } from './stops';
import { Torque } from './torque';
import type { Entry, SheetLog } from './use-sheet';

type ControlKind = JobDoc['car']['controls']['kind'];

/** The sheet as one person at the car has it before them. */
export interface SheetAtCar {
  readonly steps: readonly InstallStep[];
  readonly sheet: SheetLog;
  readonly state: SheetState;
  /** Why the first start is shut. */
  readonly locks: readonly StartLock[];
  /** Who writes it down; empty: nobody said, and nothing is written. */
  readonly name: string;
  readonly ask: (question: Question) => void;
}

/** What belongs to a step and stands under it; null: nothing does. `locked`: why the first start is shut, in a line. */
function inside(step: string, { sheet, state, name }: SheetAtCar, control: ControlKind, locked: string | null): ReactNode {
  const named = name !== '';
  const write = (entry: Entry): void => void sheet.write(entry, name);
  switch (step) {
    case 'volts-before':
      return <StockSensor />;
    case 'fasteners':
      return <BagsOut state={state} named={named} onWrite={write} />;
    case control === 'cable' ? 'sensor-set' : 'plug-in':
      return <NewSensor />;
    case 'counted':
      return state.bags.size > 0 ? <BagsBack state={state} named={named} onWrite={write} /> : null;
    case 'threads':
      return <Torque />;
    case 'open-stop':
      return <Stops />;
    case 'relearn':
      return (
        <Relearn
          events={[...sheet.kept, ...sheet.waiting]}
          named={named}
          started={state.done.has('start')}
          locked={locked}
          clock_ms={sheet.clock_ms}
          onWrite={(entry, at_ms) => sheet.write(entry, name, at_ms)}
        />
      );
    default:
      return null;
  }
}

const Under = ({ children }: { children: ReactNode }) => (children ? <li className={styles['inside']}>{children}</li> : null);

/** Every stage with its steps, in the order of work. */
export function StageSteps({ at }: { at: SheetAtCar }) {
  const { steps, sheet, state, locks, name, ask } = at;
  const change = useJob((s) => s.change);
  const control = useJob((s) => s.doc.car.controls.kind);
  const r = useJob((s) => s.doc.install.relearn);
  const gates = gatesOf(steps);
  const locked = locks.length > 0 ? lockLine(locks, gates) : null;
  const unclean = relearnFaults(
    { cycles: r.cycles, run_s: r.run_s, rest_s: r.rest_s, band_rpm: [r.low_rpm, r.high_rpm] },
    relearnEvents([...sheet.kept, ...sheet.waiting]),
    Number.MAX_SAFE_INTEGER,
  );
  const curesLeft = (id: string): string[] =>
    (gates.find((g) => g.id === id)?.cures ?? []).filter((c) => !state.done.has(c)).map((c) => shortName(c));
  return STAGES.map(({ stage, title }) => {
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
                locked={locked}
                waits={needsStart(s.id) && !state.done.has('start')}
                named={name !== ''}
                photos={sheet.photos}
                device={sheet.device}
                reopened={reopenedText(s.id, state, steps)}
                curesLeft={curesLeft(s.id)}
                unclean={s.id === 'relearn' && unclean.length > 0}
                onPhoto={(photo) => sheet.addPhoto(s.id, photo, name)}
                onWrite={(entry) => sheet.write(entry, name)}
                onReason={(question, entry) => ask({ question, entry })}
                onMove={(by) =>
                  change((d) => ({ ...d, install: { ...d.install, own: movedOwn(usualSteps(stepFacts(d)), d.install.own, s.id, by) } }))
                }
                onRemove={() => change((d) => ({ ...d, install: { ...d.install, own: d.install.own.filter((o) => o.id !== s.id) } }))}
              />
              <Under>{inside(s.id, at, control, locked)}</Under>
            </Fragment>
          ))}
        </ol>
      </section>
    );
  });
}
