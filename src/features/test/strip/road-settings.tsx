'use client';

import { Button, Select } from 'antd';
import { ROAD_STRETCHES, type RoadStretch } from '@/core/documents/kinds';
import type { SpeedSpan } from '@/core/strip/road';
import { DocField } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop-page';
import { msg } from './messages';
import styles from './strip.module.css';

const STRETCH_WORDS: Readonly<Record<RoadStretch, string>> = {
  no: 'no, or not known',
  'one way': 'yes, one way',
  'both ways': 'yes, both ways each',
};

const MPH = 0.44704;
const WINDOWS: readonly [label: string, from: number, to: number][] = [
  ['0 to 60 mph', 0, 60 * MPH],
  ['60 to 130 mph', 60 * MPH, 130 * MPH],
  ['0 to 100 km/h', 0, 100 / 3.6],
  ['80 to 120 km/h', 80 / 3.6, 120 / 3.6],
  ['100 to 200 km/h', 100 / 3.6, 200 / 3.6],
];

/** The window between two speeds, the rollout, and what is known of the road. */
export function RoadSettings({ onTake }: { onTake: (span: SpeedSpan) => void }) {
  const road = useJob((s) => s.doc.test.road);
  const change = useJob((s) => s.change);
  return (
    <>
      <Heading>{msg.window}</Heading>
      <div className={styles['actions']}>
        {WINDOWS.map(([label, from_mps, to_mps]) => (
          <Button
            key={label}
            size="small"
            type={Math.abs(road.from_mps - from_mps) < 0.01 && Math.abs(road.to_mps - to_mps) < 0.01 ? 'primary' : 'default'}
            onClick={() => onTake({ from_mps, to_mps })}
          >
            {label}
          </Button>
        ))}
      </div>
      <DocField path="test.road.from_mps" label={msg.from} measure="roadSpeed" mark={null} />
      <DocField path="test.road.to_mps" label={msg.to} measure="roadSpeed" mark={null} />
      <DocField path="test.road.rollout_m" label={msg.rolloutBeforeTheClock} measure="length" mark={null} />
      <p className="quiet">{msg.rolloutIsWhatTheCarMoves}</p>
      <Heading>{msg.theRoad}</Heading>
      <DocField
        path="test.road.grade"
        label={msg.gradeWhereNoAltitudeIsLogged}
        measure="fineShare"
        nullable
        placeholder={msg.notKnown}
        mark={null}
      />
      <label className={styles['stack']}>
        {msg.bothSidesOverOneStretch}
        <Select
          aria-label={msg.bothSidesOverOneStretch}
          value={road.stretch}
          options={ROAD_STRETCHES.map((value) => ({ value, label: STRETCH_WORDS[value] }))}
          onChange={(stretch) => change((doc) => ({ ...doc, test: { ...doc.test, road: { ...doc.test.road, stretch } } }))}
        />
      </label>
      <DocField path="test.road.wind_mps" label={msg.windThereMayHaveBeen} measure="gasSpeed" mark={null} />
      <p className="quiet">{msg.fullThrottleOnAPublicRoad}</p>
    </>
  );
}
