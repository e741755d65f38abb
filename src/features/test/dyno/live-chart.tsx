'use client';

import type { DynoReading } from '@/core/stand-ins/dyno';
import { shownUnit } from '@/core/units/measures';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { fromSI } from '@/core/units/units';
import { usePrefs } from '@/ui/theme/prefs';
import styles from '../test.module.css';
import { msg } from './messages';

const WIDTH = 640;
const HEIGHT = 150;

/** A pull as it comes in: power over engine speed so far, before a faint curve of what stock made. */
export function LiveChart({
  readings,
  behind,
  color,
  range,
}: {
  readings: readonly DynoReading[];
  behind: { readonly rpm: readonly number[]; readonly power_W: readonly number[] } | null;
  color: string;
  range: readonly [number, number];
}) {
  const { pack, palette } = usePrefs();
  const last = readings.at(-1);
  const highest = Math.max(1, ...(behind?.power_W ?? []), ...readings.map((r) => r.power_W)) * 1.08;
  const x = (n: number): string => (((n - range[0]) / (range[1] - range[0])) * WIDTH).toFixed(1);
  const y = (w: number): string => (HEIGHT - (Math.max(0, w) / highest) * HEIGHT).toFixed(1);
  const { unit } = shownUnit('power', pack);
  return (
    <figure className={styles['live']}>
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label={msg.powerOverEngineSpeedAsIt} preserveAspectRatio="none">
        {behind && (
          <polyline
            points={behind.rpm.map((n, i) => `${x(n)},${y(behind.power_W[i]!)}`).join(' ')}
            fill="none"
            stroke={palette.stock}
            strokeDasharray="8 5"
            strokeWidth="1.4"
          />
        )}
        <polyline
          points={readings
            .filter((r) => r.power_W >= 0)
            .map((r) => `${x(r.rpm)},${y(r.power_W)}`)
            .join(' ')}
          fill="none"
          stroke={color}
          strokeWidth="2.2"
        />
      </svg>
      <div className={styles['liveAxis']} aria-hidden="true">
        <span>{formatNumber(range[0], 0)}</span>
        <span>{msg.rpm}</span>
        <span>{formatNumber(range[1], 0)}</span>
      </div>
      <figcaption aria-live="off">
        <span>
          <strong>{last ? formatNumber(Math.round(last.rpm / 10) * 10, 0) : '—'}</strong> {msg.rpm}
        </span>
        <span>
          <strong>{last ? formatNumber(fromSI(Math.max(0, last.power_W), unit), 1) : '—'}</strong> {unit.label}
        </span>
        <span>
          {msg.inlet} <strong>{last ? formatQuantity(last.inlet_K, 'temperature', pack) : '—'}</strong>
        </span>
        <span>
          {msg.coolant} <strong>{last ? formatQuantity(last.coolant_K, 'temperature', pack) : '—'}</strong>
        </span>
      </figcaption>
    </figure>
  );
}
