'use client';

import { Button, Select } from 'antd';
import { useState, type ReactNode } from 'react';
import type { JobPlace } from '@/core/documents/place';
import { SENSOR_WINDOW_V } from '@/core/fit/sensor-window';
import { sensorCheck, tracksPlausible, type SensorCheck } from '@/core/install/sensor';
import {
  BLADE_POSITIONS,
  VOLTMETER_CASES,
  type BladePosition,
  type VoltmeterCase,
  type VoltmeterReading,
} from '@/core/stand-ins/voltmeter';
import type { UnitPack } from '@/core/units/measures';
import { formatQuantity } from '@/core/units/quantity';
import { useChosenUnit } from '@/features/fit/use-fit';
import { DocField } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { usePrefs } from '@/ui/theme/prefs';
import { Large, OneByOne } from './at-car';
import car from './at-car.module.css';
import styles from './install.module.css';
import { useReadings } from './use-readings';
import { msg } from './messages';

/** What the readings mean, and which way to turn what. */
function sensorText(c: SensorCheck, electronic: boolean, pack: UnitPack): string {
  const volts = (v: number): string => formatQuantity(v, 'voltage', pack);
  const by = c.off_V === null ? '' : volts(Math.abs(c.off_V));
  const target = volts(c.target_V);
  switch (c.verdict) {
    case 'cannot be':
      return 'No sensor reads that: look at the meter’s range and its ground.';
    case 'fault':
      return c.outside.length === 0
        ? 'It reads less open than shut: the sensor is another one, or sits the wrong way round.'
        : `Outside ${volts(SENSOR_WINDOW_V[0])} to ${volts(SENSOR_WINDOW_V[1])} the control unit takes it for a broken sensor and sets a fault.`;
    case 'turn it':
      return electronic
        ? `Shut it reads ${by} ${c.way === 'down' ? 'above' : 'below'} ${target}. An electronic throttle is not turned: let the control unit learn it, or ask the maker.`
        : `Shut it reads ${by} ${c.way === 'down' ? 'too much' : 'too little'}: loosen the sensor and turn it ${c.way === 'down' ? 'back, against the way the shaft opens' : 'on, the way the shaft opens'}, until it reads ${target}.`;
    case 'no figure of stock':
      return `Close to the usual ${target}; stock was not measured, so that is all there is to go by.`;
    case 'matched':
      return `Matched: within 0.02 V of stock’s ${target}.`;
  }
}

const CASE_WORDS: Readonly<Record<VoltmeterCase, string>> = {
  sound: 'a sound throttle',
  'sticking throttle': 'a sticking throttle',
  'wrong sensor': 'a wrong sensor',
};
const POSITION_WORDS: Readonly<Record<BladePosition, string>> = { shut: 'shut', full: 'held full', 'let go': 'opened, let go' };
/** Rests of a blade let go that differ by more than this did not shut by themselves, V. */
const REST_V = 0.03;
/** Below this share of the way a blade counts as let go. */
const SHUT_SHARE = 0.25;
const KEPT = 25;

/** The voltmeter stand-in on the same screen a real one would feed: the blade held, the volts live, taken with a click. */
function Voltmeter({ electronic }: { electronic: boolean }) {
  const { pack } = usePrefs();
  const unit = useChosenUnit();
  const { closed_V, full_V } = useJob((s) => s.doc.car.controls);
  const jobNumber = useJob((s) => s.number);
  const change = useJob((s) => s.change);
  const [position, setPosition] = useState<BladePosition>('shut');
  const [kind, setKind] = useState<VoltmeterCase>('sound');
  const [recent, setRecent] = useState<readonly VoltmeterReading[]>([]);
  const meter = useReadings<VoltmeterReading>((r) => setRecent((list) => [...list.slice(-KEPT * 3), r]));
  const said = { closed_V: unit?.doc.fittings.closed_V ?? closed_V ?? 0.5, full_V: unit?.doc.fittings.full_V ?? full_V ?? 4.5 };
  const open = (at: BladePosition, as: VoltmeterCase): void => {
    setRecent([]);
    meter.open(
      `/api/stand-ins/voltmeter?${new URLSearchParams({ closed_V: String(said.closed_V), full_V: String(said.full_V), position: at, case: as, seed: String(jobNumber) }).toString()}`,
    );
  };
  const last = recent.slice(-KEPT);
  const mean = (track: 'a_V' | 'b_V'): number => Math.round((1000 * last.reduce((sum, r) => sum + r[track], 0)) / last.length) / 1000;
  const take = (): void => {
    const end = position === 'full' ? 'full' : 'closed';
    change((doc) => ({
      ...doc,
      install: { ...doc.install, [`${end}_V`]: mean('a_V'), ...(electronic && { [`${end}B_V`]: mean('b_V') }) },
    }));
  };
  const rests = recent
    .filter((r) => Math.abs(r.a_V - said.closed_V) < SHUT_SHARE * Math.abs(said.full_V - said.closed_V))
    .map((r) => r.a_V);
  const spread = rests.length > 5 ? Math.max(...rests) - Math.min(...rests) : 0;
  return (
    <div className="no-print">
      <div className={styles['devices']}>
        <Select<BladePosition>
          aria-label={msg.bladeIs}
          value={position}
          style={{ width: 130 }}
          options={BLADE_POSITIONS.map((value) => ({ value, label: POSITION_WORDS[value] }))}
          onChange={(p) => {
            setPosition(p);
            if (meter.state !== 'off') open(p, kind);
          }}
        />
        <Select<VoltmeterCase>
          aria-label={msg.practiceVoltmeterSimulatedPlays}
          value={kind}
          style={{ width: 150 }}
          options={VOLTMETER_CASES.map((value) => ({ value, label: CASE_WORDS[value] }))}
          onChange={(k) => {
            setKind(k);
            if (meter.state !== 'off') open(position, k);
          }}
        />
        {meter.state === 'off' ? (
          <Button onClick={() => open(position, kind)}>{msg.readThePracticeVoltmeter}</Button>
        ) : (
          <Button onClick={meter.close}>{msg.stopReading}</Button>
        )}
      </div>
      {meter.state === 'away' && <p className={styles['failed']}>{msg.theVoltmeterIsAwayItIs}</p>}
      {meter.last && (
        <>
          <p className={styles['live']} aria-label={msg.volts}>
            {formatQuantity(meter.last.a_V, 'voltage', pack)}
            {electronic && ` · ${formatQuantity(meter.last.b_V, 'voltage', pack)}`} <span className="quiet">{msg.simulated}</span>
          </p>
          {position === 'let go' ? (
            spread > REST_V && (
              <p role="alert" className={styles['failed']}>
                {msg.letGoItComesToRest} {formatQuantity(spread, 'voltage', pack)} {msg.apartTheBladeDoesNotShut}
              </p>
            )
          ) : (
            <Button size="small" disabled={last.length < 5} onClick={take}>
              {msg.takeItAs} {position === 'full' ? 'full' : 'closed'}
            </Button>
          )}
        </>
      )}
    </div>
  );
}

/** Both tracks of an electronic throttle, shut and full: together they make the supply, or they are not one sensor’s. */
function Tracks() {
  const { closed_V, full_V, closedB_V, fullB_V } = useJob((s) => s.doc.install);
  const of = (a: number | null, b: number | null): ReturnType<typeof tracksPlausible> | null =>
    a === null || b === null ? null : tracksPlausible({ a_V: a, b_V: b });
  const words = [of(closed_V, closedB_V), of(full_V, fullB_V)];
  return (
    <>
      <DocField path="install.closedB_V" label={msg.secondTrackClosed} measure="voltage" nullable placeholder={msg.notYet} />
      <DocField path="install.fullB_V" label={msg.secondTrackFull} measure="voltage" nullable placeholder={msg.notYet} />
      {words.some((w) => w !== null) && (
        <p role="status" className={words.every((w) => w === null || w === 'plausible') ? styles['good'] : styles['failed']}>
          {words.includes('disagree') || words.includes('cannot be')
            ? 'The two tracks do not add up to the 5 V supply: wrong throttle, wrong plug or a broken track. The control unit will set a fault.'
            : 'The two tracks add up to the supply.'}
        </p>
      )}
    </>
  );
}

/** What the sensor's volts on the new throttle mean, against stock's. */
function useSensorWords(): { text: string; good: boolean } | null {
  const { pack } = usePrefs();
  const { kind, closed_V, full_V } = useJob((s) => s.doc.car.controls);
  const now = useJob((s) => s.doc.install);
  const stock = closed_V !== null && full_V !== null ? { closed_V, full_V } : null;
  if (now.closed_V === null || now.full_V === null) return null;
  const check = sensorCheck({ closed_V: now.closed_V, full_V: now.full_V }, stock);
  return {
    text: sensorText(check, kind !== 'cable', pack),
    good: check.verdict === 'matched' || check.verdict === 'no figure of stock',
  };
}

function SensorWords({ large = false }: { large?: boolean }) {
  const { pack } = usePrefs();
  const words = useSensorWords();
  if (words)
    return (
      <p role="status" className={large ? car['say'] : words.good ? styles['good'] : styles['failed']}>
        {words.text}
      </p>
    );
  return (
    <p className={large ? car['say'] : 'quiet'}>
      {msg.usualWindow} {formatQuantity(0.5, 'voltage', pack)} {msg.closedTo} {formatQuantity(4.5, 'voltage', pack)}{' '}
      {msg.fullOutsideItTheControlUnit}
    </p>
  );
}

/** The stock sensor's volts, in the step that measures them. */
export const StockSensor = () => (
  <div className={styles['bags']}>
    <DocField path="car.controls.closed_V" label={msg.stockClosed} measure="voltage" nullable placeholder={msg.notYet} />
    <DocField path="car.controls.full_V" label={msg.stockFull} measure="voltage" nullable placeholder={msg.notYet} />
  </div>
);

const volt = (path: JobPlace, label: string) => <DocField path={path} label={label} measure="voltage" nullable placeholder={msg.notYet} />;

/** The new sensor's volts and what to do about the difference from stock's, in the step that sets it. */
export function NewSensor() {
  const electronic = useJob((s) => s.doc.car.controls.kind) !== 'cable';
  return (
    <div className={styles['bags']}>
      {volt('install.closed_V', 'Closed now')}
      {volt('install.full_V', 'Full now')}
      {electronic && <Tracks />}
      <SensorWords />
      <Voltmeter electronic={electronic} />
      <Large title={msg.throttlePositionSensorTps}>
        {(close) => (
          <OneByOne
            done={close}
            items={[
              {
                key: 'closed',
                show: (
                  <BigField say="Key on, engine off, foot off the pedal. Closed volts:">
                    {volt('install.closed_V', 'Closed, read now')}
                  </BigField>
                ),
              },
              {
                key: 'full',
                show: <BigField say="Blade fully open, held. Full volts:">{volt('install.full_V', 'Full, read now')}</BigField>,
              },
              { key: 'words', show: <SensorWords large /> },
            ]}
          />
        )}
      </Large>
    </div>
  );
}

/** One field, large, with what to do said above it. */
export const BigField = ({ say, children }: { say: string; children: ReactNode }) => (
  <>
    <p className={car['say']}>{say}</p>
    <div className={car['field']}>{children}</div>
  </>
);
