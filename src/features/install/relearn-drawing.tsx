'use client';

import { runFault, type CycleReport, type RelearnEvent, type RelearnPlan } from '@/core/install/relearn';
import { formatNumber } from '@/core/units/quantity';
import { usePrefs } from '@/ui/theme/prefs';
import styles from './install.module.css';
import { msg } from './messages';
import { clock, IDLES } from './relearn-words';

const W = 620;
const H = 190;

/** Engine speed of a run against its band, over time. */
export function Trace({
  events,
  from_ms,
  to_ms,
  plan,
}: {
  events: readonly RelearnEvent[];
  from_ms: number;
  to_ms: number;
  plan: RelearnPlan;
}) {
  const { palette } = usePrefs();
  const [low, high] = plan.band_rpm;
  const samples = events.filter((e) => e.type === 'rpm' && e.at_ms >= from_ms && e.at_ms <= to_ms) as Extract<
    RelearnEvent,
    { type: 'rpm' }
  >[];
  const span = Math.max(plan.run_s * 1000, to_ms - from_ms);
  const top = Math.max(high * 1.6, ...samples.map((s) => s.rpm));
  const x = (t: number): number => 52 + ((t - from_ms) / span) * (W - 62);
  const y = (rpm: number): number => H - 26 - (rpm / top) * (H - 40);
  const path = samples.map((s, i) => `${i === 0 ? 'M' : 'L'}${x(s.at_ms).toFixed(1)} ${y(s.rpm).toFixed(1)}`).join(' ');
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className={styles['trace']}
      role="img"
      aria-label={`Engine speed against its band of ${low} to ${high} rpm`}
    >
      <rect x="52" y={y(high)} width={W - 62} height={y(low) - y(high)} fill={palette.series[0]} opacity="0.14" />
      <text x={W - 14} y={y(low) + 17} textAnchor="end" fontSize="16" fill={palette.series[0]}>
        {msg.band} {low} {msg.to} {high} {msg.rpm}
      </text>
      <path d={`M52 ${H - 26} H${W - 10} M52 ${H - 26} V8`} stroke={palette.hairline} fill="none" />
      {[0, 0.5, 1].map((s) => (
        <text
          key={s}
          x={52 + s * (W - 62)}
          y={H - 6}
          fontSize="16"
          textAnchor={s === 0 ? 'start' : s === 1 ? 'end' : 'middle'}
          fill={palette.quiet}
        >
          {clock((s * span) / 1000)}
        </text>
      ))}
      {[1000, 2000]
        .filter((v) => v < top)
        .map((v) => (
          <text key={v} x="48" y={y(v) + 4} textAnchor="end" fontSize="16" fill={palette.quiet}>
            {formatNumber(v, 0)}
          </text>
        ))}
      <path d={path} fill="none" stroke={palette.ink} strokeWidth="1.6" />
    </svg>
  );
}

/** The runs so far, each with its idle and its blips. */
export function Cycles({ reports }: { reports: readonly CycleReport[] }) {
  return (
    <table className="plain">
      <thead>
        <tr>
          <th>{msg.run}</th>
          <th className="num">{msg.ran}</th>
          <th>{msg.idleAtItsEnd}</th>
          <th>{msg.blipsBackAfter}</th>
        </tr>
      </thead>
      <tbody>
        {reports.map((r, i) => (
          <tr key={r.from_ms} data-open={r.to_ms !== null && r.longEnough && runFault(r) !== null}>
            <td>{i + 1}</td>
            <td className="num">
              {r.to_ms === null ? 'running' : `${clock((r.to_ms - r.from_ms) / 1000)}${r.longEnough ? '' : ', cut short'}`}
            </td>
            <td>
              {IDLES[r.idle]}
              {r.mean_rpm !== null && `, ${formatNumber(r.mean_rpm, 0)} rpm`}
            </td>
            <td>
              {r.blips.length === 0
                ? 'none'
                : r.blips.map((b) => (b.back_s === null ? 'not back' : `${formatNumber(b.back_s, 1)} s`)).join(', ')}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
