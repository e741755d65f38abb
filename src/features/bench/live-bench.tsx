'use client';

import { Button } from 'antd';
import { useEffect, useRef, useState } from 'react';
import type { ThrottleDoc } from '@/core/documents/throttle';
import type { FlowBenchReading } from '@/core/stand-ins/flow-bench';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { usePrefs } from '@/ui/theme/prefs';
import { deviceReadings } from './read-stream';
import styles from './bench.module.css';
import { msg } from './messages';

const WIDTH = 300;
const HEIGHT = 84;
const SHOWN_s = 20;
/** Readings averaged into the one that is taken. */
const AVERAGED = 15;

/** The last of a run's readings as a line that runs in from the right. */
function Trace({ readings }: { readings: readonly FlowBenchReading[] }) {
  const { palette } = usePrefs();
  const last = readings.at(-1);
  if (!last) return <svg className={styles['trace']} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} aria-hidden="true" />;
  const from = Math.max(0, last.t_s - SHOWN_s);
  const seen = readings.filter((r) => r.t_s >= from);
  const top = Math.max(1e-6, ...readings.map((r) => r.flow_m3ps)) * 1.06;
  const x = (t: number): number => ((t - from) / SHOWN_s) * WIDTH;
  const y = (f: number): number => HEIGHT - (f / top) * HEIGHT;
  return (
    <svg className={styles['trace']} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label={msg.flowOverTime}>
      <polyline
        points={seen.map((r) => `${x(r.t_s).toFixed(1)},${y(r.flow_m3ps).toFixed(1)}`).join(' ')}
        fill="none"
        stroke={palette.series[0]}
        strokeWidth="1.8"
      />
      {last.settled && <circle cx={x(last.t_s)} cy={y(last.flow_m3ps)} r="4" fill={palette.series[0]} />}
    </svg>
  );
}

/** The flow-bench stand-in, live: runs up, settles, and gives its reading when it is taken. */
export function LiveBench({
  throttle,
  depression_Pa,
  entryK,
  seed,
  onTake,
  disabled,
}: {
  throttle: ThrottleDoc;
  depression_Pa: number;
  entryK: number;
  seed: number;
  onTake: (flow_m3ps: number, depression_Pa: number) => void;
  disabled: boolean;
}) {
  const { pack } = usePrefs();
  const [readings, setReadings] = useState<readonly FlowBenchReading[]>([]);
  const [running, setRunning] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  const stop = useRef<AbortController | null>(null);
  useEffect(() => () => stop.current?.abort(), []);
  const run = async (): Promise<void> => {
    const mine = new AbortController();
    stop.current = mine;
    setReadings([]);
    setWrong(null);
    setRunning(true);
    try {
      for await (const reading of deviceReadings({ throttle, depression_Pa, entryK, seed }, mine.signal))
        setReadings((list) => [...list, reading]);
    } catch (error) {
      if (!mine.signal.aborted) setWrong(error instanceof Error ? error.message : 'The bench does not answer.');
    }
    if (stop.current === mine) setRunning(false);
  };
  const halt = (): void => {
    stop.current?.abort();
    setRunning(false);
  };
  const last = readings.at(-1);
  const take = (): void => {
    const end = readings.slice(-AVERAGED);
    const mean = (f: (r: FlowBenchReading) => number): number => end.reduce((a, r) => a + f(r), 0) / end.length;
    halt();
    onTake(
      mean((r) => r.flow_m3ps),
      mean((r) => r.depression_Pa),
    );
  };
  return (
    <div className={styles['live']}>
      <p className="quiet">{msg.practiceFlowBenchSimulatedItReads}</p>
      <Trace readings={readings} />
      <div className={styles['read']} aria-live="polite">
        <strong>{last ? formatQuantity(last.flow_m3ps, 'benchFlow', pack) : '—'}</strong>
        <span>{last ? `at ${formatQuantity(last.depression_Pa, 'depression', pack)}` : 'not running'}</span>
        <span className={last?.settled ? styles['settled'] : 'quiet'}>
          {last ? (last.settled ? 'settled' : `settling, ${formatNumber(last.t_s, 0)} s`) : ''}
        </span>
      </div>
      {wrong && (
        <p role="alert" className={styles['wrong']}>
          {wrong}
        </p>
      )}
      <div className={styles['tools']}>
        {running ? (
          <Button onClick={halt}>{msg.stopTheFan}</Button>
        ) : (
          <Button disabled={disabled} onClick={() => void run()}>
            {msg.startTheBench}
          </Button>
        )}
        <Button type="primary" disabled={!last?.settled} onClick={take}>
          {msg.takeTheReading}
        </Button>
      </div>
    </div>
  );
}
