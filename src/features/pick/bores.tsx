'use client';

import type { Fitted } from '@/core/job/path';
import { grossBore } from '@/core/job/path';
import { formatQuantity } from '@/core/units/quantity';
import { usePrefs } from '@/ui/theme/prefs';
import styles from './pick.module.css';

const WIDTH = 232;
const SIZE = 158;
const PAD = 4;
/** Sizes stand in a column beside the rings, a line each. */
const LABEL_X = 178;
const LABEL_STEP = 22;

/** Bores drawn one inside the other to one scale, the opening they bolt to hatched behind them. */
export function Bores({
  sides,
  opening_m,
}: {
  sides: readonly { id: string; name: string; fitted: Fitted; color: string; dashed: boolean }[];
  opening_m: number;
}) {
  const { pack, palette } = usePrefs();
  const widest = Math.max(opening_m, ...sides.map((s) => grossBore(s.fitted.throttle)));
  const perMetre = (SIZE - 2 * PAD) / widest;
  const bottom = SIZE - PAD;
  const circle = (d: number) => ({ r: (d / 2) * perMetre, cx: SIZE / 2, cy: bottom - (d / 2) * perMetre });
  /** From the ring, at the label's height where it has one, across to the label. */
  const leader = (c: { cx: number; cy: number; r: number }, y: number): string => {
    const rise = Math.max(-0.98, Math.min(0.98, (y - c.cy) / c.r));
    return `M${c.cx + Math.sqrt(1 - rise * rise) * c.r} ${c.cy + rise * c.r} L${LABEL_X - 4} ${y}`;
  };
  const ordered = [...sides].sort((a, b) => grossBore(b.fitted.throttle) - grossBore(a.fitted.throttle));
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${SIZE}`}
      className={styles['bores']}
      role="img"
      aria-label={`Bores to scale: ${sides.map((s) => `${s.name} ${formatQuantity(grossBore(s.fitted.throttle), 'bore', pack)}`).join(', ')}`}
    >
      <defs>
        <pattern id="opening-hatch" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V6" stroke={palette.hairline} strokeWidth="2" />
        </pattern>
      </defs>
      <circle {...circle(opening_m)} fill="url(#opening-hatch)" stroke={palette.hairline} />
      {ordered.map((s, i) => {
        const d = grossBore(s.fitted.throttle);
        const c = circle(d);
        return (
          <g key={s.id}>
            <circle {...c} fill="none" stroke={s.color} strokeWidth="2" strokeDasharray={s.dashed ? '8 4' : undefined} />
            <path d={leader(c, 18 + i * LABEL_STEP)} stroke={s.color} strokeWidth="1" fill="none" />
            <text
              x={LABEL_X}
              y={22 + i * LABEL_STEP}
              fontSize="13"
              fontWeight="600"
              fill={s.color}
              fontFamily="Barlow Condensed, sans-serif"
            >
              {formatQuantity(d, 'bore', pack, pack === 'us' ? 2 : 0)}
            </text>
          </g>
        );
      })}
      {sides
        .filter((s) => s.id === 'stock')
        .map((s) => {
          const c = circle(grossBore(s.fitted.throttle));
          const h = s.fitted.throttle.shaft_m * perMetre;
          return <rect key="shaft" x={c.cx - c.r} y={c.cy - h / 2} width={2 * c.r} height={h} fill={palette.stock} opacity="0.35" />;
        })}
    </svg>
  );
}
