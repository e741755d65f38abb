'use client';

import { sensorCheck, SENSOR_WINDOW_V, type SensorCheck } from '@/core/install/sensor';
import type { UnitPack } from '@/core/units/measures';
import { formatQuantity } from '@/core/units/quantity';
import { DocField } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop';
import { usePrefs } from '@/ui/theme/prefs';
import styles from './install.module.css';

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
        ? `Shut it reads ${by} ${c.way === 'down' ? 'above' : 'below'} ${target}. An electronic unit is not turned: let the control unit learn it, or ask the maker.`
        : `Shut it reads ${by} ${c.way === 'down' ? 'too much' : 'too little'}: loosen the sensor and turn it ${c.way === 'down' ? 'back, against the way the shaft opens' : 'on, the way the shaft opens'}, until it reads ${target}.`;
    case 'no figure of stock':
      return `Close to the usual ${target}; stock was not measured, so that is all there is to go by.`;
    case 'matched':
      return `Matched: within 0.02 V of stock’s ${target}.`;
  }
}

/** The position sensor before and after: stock’s volts, the new unit’s, and what to do about the difference. */
export function Sensor() {
  const { pack } = usePrefs();
  const { kind, closed_V, full_V } = useJob((s) => s.doc.car.controls);
  const now = useJob((s) => s.doc.install);
  const stock = closed_V !== null && full_V !== null ? { closed_V, full_V } : null;
  const check = now.closed_V !== null && now.full_V !== null ? sensorCheck({ closed_V: now.closed_V, full_V: now.full_V }, stock) : null;
  return (
    <>
      <Heading>Position sensor, stock</Heading>
      <DocField path="car.controls.closed_V" label="Closed" measure="voltage" nullable placeholder="not yet" />
      <DocField path="car.controls.full_V" label="Full" measure="voltage" nullable placeholder="not yet" />
      <Heading>On the new unit</Heading>
      <DocField path="install.closed_V" label="Closed now" measure="voltage" nullable placeholder="not yet" />
      <DocField path="install.full_V" label="Full now" measure="voltage" nullable placeholder="not yet" />
      {check ? (
        <p
          role="status"
          className={check.verdict === 'matched' || check.verdict === 'no figure of stock' ? styles['good'] : styles['failed']}
        >
          {sensorText(check, kind !== 'cable', pack)}
        </p>
      ) : (
        <p className="quiet">
          Usual window {formatQuantity(0.5, 'voltage', pack)} closed to {formatQuantity(4.5, 'voltage', pack)} full; outside it the control
          unit sets a fault.
        </p>
      )}
    </>
  );
}
