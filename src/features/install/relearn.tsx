'use client';

import { Button, Select } from 'antd';
import { useState, type ReactNode } from 'react';
import type { SheetEvent } from '@/core/documents/sheet-event';
import { TACHOMETER_rpm } from '@/core/documents/within';
import { TACHOMETER_CASES, type TachometerCase } from '@/core/stand-ins/tachometer';
import { formatQuantity } from '@/core/units/quantity';
import { DocField } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { usePrefs } from '@/ui/theme/prefs';
import { BareField } from '@/ui/field/field-row';
import { FieldGroup } from '@/ui/field/group';
import { Called, Large } from './at-car';
import car from './at-car.module.css';
import styles from './install.module.css';
import { msg } from './messages';
import { Cycles, Trace } from './relearn-drawing';
import { ALARMS } from './relearn-words';
import { STEP_ms, useRelearn, type RelearnNow } from './use-relearn';
import type { Entry } from './use-sheet';

/** Where readings come from: the practice tachometer, or a figure typed. */
function Readings({ relearn, named, onWrite }: { relearn: RelearnNow; named: boolean; onWrite: (entry: Entry) => void }) {
  const jobNumber = useJob((s) => s.number);
  const [kind, setKind] = useState<TachometerCase>('sound');
  const [typed, setTyped] = useState<number | null>(null);
  const { running, tachometer, plan } = relearn;
  const [low, high] = plan.band_rpm;
  return (
    <>
      <Select<TachometerCase>
        aria-label={msg.practiceTachometerSimulatedPlays}
        value={kind}
        style={{ width: 170 }}
        options={TACHOMETER_CASES.map((value) => ({ value, label: value === 'sound' ? 'a sound engine' : `a ${value}` }))}
        onChange={setKind}
      />
      {tachometer.state === 'off' ? (
        <Button
          disabled={!running}
          onClick={() =>
            tachometer.open(`/api/stand-ins/tachometer?low=${low}&high=${high}&case=${encodeURIComponent(kind)}&seed=${jobNumber}`)
          }
        >
          {msg.listenToThePracticeTachometer}
        </Button>
      ) : (
        <Button onClick={tachometer.close}>{msg.stopListening}</Button>
      )}
      <FieldGroup>
        {(wrong) => (
          <>
            <BareField
              width={116}
              label={msg.engineSpeedTyped}
              measure="rpm"
              placeholder={msg.read}
              value={typed}
              within={TACHOMETER_rpm}
              onChange={setTyped}
              onClear={() => setTyped(null)}
            />
            <Button
              disabled={wrong || !named || !running || typed === null}
              onClick={() => {
                onWrite({ type: 'rpm', step_ms: STEP_ms, rpm: [Math.round(typed!)] });
                setTyped(null);
              }}
            >
              {msg.noteIt}
            </Button>
          </>
        )}
      </FieldGroup>
    </>
  );
}

/** The same, as large as it is read from the driver's seat. */
function FromTheSeat({ relearn: { alarm, left, text, rpm, inBand, plan, wants }, engine }: { relearn: RelearnNow; engine: ReactNode }) {
  const { pack } = usePrefs();
  return (
    <div className={car['one']}>
      <p className={car['big']} data-tone={alarm ? 'danger' : undefined}>
        {left}
      </p>
      <p className={car['say']} role={alarm ? 'alert' : undefined}>
        {alarm ? ALARMS[alarm] : text}
      </p>
      {rpm !== null && (
        <>
          <p className={car['big']} data-tone={inBand ? 'good' : 'danger'}>
            {formatQuantity(rpm, 'rpm', pack)}
          </p>
          <p className={car['say']}>
            {inBand ? 'In its band.' : `Outside its band of ${plan.band_rpm[0]} to ${plan.band_rpm[1]} rpm.`} {msg.simulatedSentence}
          </p>
        </>
      )}
      <div className={car['go']}>{engine}</div>
      <Called text={wants} />
    </div>
  );
}

const PlanFields = () => (
  <div className="no-print">
    <DocField path="install.relearn.cycles" label={msg.runs} measure="count" />
    <DocField path="install.relearn.run_s" label={msg.eachRuns} measure="seconds" />
    <DocField path="install.relearn.rest_s" label={msg.offBetween} measure="seconds" />
    <DocField path="install.relearn.low_rpm" label={msg.idleFrom} measure="rpm" />
    <DocField path="install.relearn.high_rpm" label={msg.to} measure="rpm" />
    <p className="quiet" style={{ fontSize: 13 }}>
      {msg.commonPracticeOursTheMakersOwn}
    </p>
  </div>
);

/** Idle relearn: run and rest by time stamps, rpm against its band, blips and what each run's idle did, and the alarm. */
export function Relearn({
  events,
  named,
  started,
  locked,
  clock_ms,
  onWrite,
}: {
  events: readonly SheetEvent[];
  named: boolean;
  started: boolean;
  /** Why the first start is shut, in a line; null: it is open. */
  locked: string | null;
  /** Add to this device's clock to have the server's, ms. */
  clock_ms: number;
  onWrite: (entry: Entry, at_ms?: number) => void;
}) {
  const { pack } = usePrefs();
  const relearn = useRelearn(events, clock_ms, onWrite);
  const { plan, all, now, reports, open, running, alarm, text, rpm } = relearn;
  const engine = (
    <>
      <Button type="primary" size="large" disabled={!named || !started || locked !== null || running} onClick={relearn.on}>
        {msg.engineOn}
      </Button>
      <Button size="large" disabled={!named || !running} onClick={relearn.off}>
        {msg.engineOff}
      </Button>
    </>
  );
  return (
    <div className={`${styles['panel']} ${styles['relearn']}`}>
      <div>
        <p role="timer" className={styles['live']}>
          {text}
        </p>
        {alarm && (
          <p role="alert" className={styles['alarm']}>
            {ALARMS[alarm]}
          </p>
        )}
        <div className={`${styles['devices']} no-print`}>
          {engine}
          <Readings relearn={relearn} named={named} onWrite={onWrite} />
        </div>
        {!started && <p className="quiet">{locked ?? 'Begins when the first start is ticked.'}</p>}
        <Large title={msg.idleRelearn}>{() => <FromTheSeat relearn={relearn} engine={engine} />}</Large>
        {relearn.tachometer.state === 'away' && <p className={styles['failed']}>{msg.theTachometerIsAwayItIs}</p>}
        {rpm !== null && (
          <p className={styles['live']} aria-label={msg.engineSpeed}>
            {formatQuantity(rpm, 'rpm', pack)} <span className="quiet">{msg.simulated}</span>
          </p>
        )}
        {open && <Trace events={all} from_ms={open.from_ms} to_ms={open.to_ms ?? now} plan={plan} />}
        {reports.length > 0 && <Cycles reports={reports} />}
      </div>
      <PlanFields />
    </div>
  );
}
