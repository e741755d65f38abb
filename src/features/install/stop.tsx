'use client';

import { Button } from 'antd';
import { installSteps, STAGES } from '@/core/install/steps';
import { formatQuantity } from '@/core/units/quantity';
import { DocField } from '@/features/job/field';
import { useJob, useShelf } from '@/features/job/provider';
import { Heading, Rule, StopPage } from '@/ui/answer/stop';
import { usePrefs } from '@/ui/theme/prefs';
import styles from './install.module.css';

/** Install: the order of work for this car, its cautions where they apply, and the checks that come before any start. */
export function InstallStop() {
  const { pack } = usePrefs();
  const doc = useJob((s) => s.doc);
  const unit = useShelf().find((u) => u.id === doc.pick.chosen);
  const control = doc.car.controls.kind;
  const steps = installSteps(control, doc.pick.opening === 'matched');
  const gates = steps.filter((s) => s.gate).length;
  const { closed_V, full_V } = doc.car.controls;
  const volts =
    closed_V !== null && full_V !== null
      ? `The stock sensor read ${formatQuantity(closed_V, 'voltage', pack)} shut and ${formatQuantity(full_V, 'voltage', pack)} full: match them.`
      : 'The stock sensor has not been measured yet: do that before it comes off.';
  return (
    <StopPage
      answer={`${steps.length} steps to put ${unit ? unit.doc.name : 'a unit'} on this ${control === 'cable' ? 'cable' : 'electronic'} car; ${gates} checks stand before the first start.`}
      reason={volts}
      aside={
        <>
          <Heading>Position sensor, stock</Heading>
          <DocField path="car.controls.closed_V" label="Closed" measure="voltage" nullable placeholder="not yet" />
          <DocField path="car.controls.full_V" label="Full" measure="voltage" nullable placeholder="not yet" />
          <p className="quiet">
            Usual window {formatQuantity(0.5, 'voltage', pack)} closed to {formatQuantity(4.5, 'voltage', pack)} full; outside it the
            control unit sets a fault.
          </p>
          <Rule />
          <Heading>Whose word counts</Heading>
          <p>
            The maker’s instructions and torque figures beat what stands here. Electronic throttle and fuel systems belong with a qualified
            technician. Local rules on emissions and inspection apply.
          </p>
          <Rule />
          <Button className="no-print" onClick={() => window.print()}>
            Print the sheet
          </Button>
        </>
      }
    >
      <div className={styles['stages']}>
        {STAGES.map(({ stage, title }) => {
          const mine = steps.filter((s) => s.stage === stage);
          return mine.length === 0 ? null : (
            <section key={stage}>
              <Heading>{title}</Heading>
              <ol className={styles['list']}>
                {mine.map((s) => (
                  <li key={s.id} className={styles['step']} data-gate={s.gate ?? false}>
                    <span className={styles['n']}>{steps.indexOf(s) + 1}</span>
                    <span>
                      {s.gate && <span className={styles['gate']}>must pass · </span>}
                      {s.text}
                      {s.caution && <span className={styles['caution']}>{s.caution}</span>}
                    </span>
                  </li>
                ))}
              </ol>
            </section>
          );
        })}
      </div>
    </StopPage>
  );
}
