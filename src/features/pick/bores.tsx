'use client';

import type { Fitted } from '@/core/job/path';
import { grossBore } from '@/core/job/path';
import { formatQuantity } from '@/core/units/quantity';
import { usePrefs } from '@/ui/theme/prefs';
import styles from './pick.module.css';

const SIZE = 232;
const PAD = 8;

/** Bores drawn one inside the other to one scale, the opening they bolt to hatched behind them. */
export function Bores({ sides, opening_m }: { sides: readonly { id: string; name: string; fitted: Fitted; color: string; dashed: boolean }[]; opening_m: number }) {
  const { pack, palette } = usePrefs();
  const widest = Math.max(opening_m, ...sides.map((s) => grossBore(s.fitted.throttle)));
  const perMetre = (SIZE - 2 * PAD) / widest;
  const bottom = SIZE - PAD;
  const circle = (d: number) => ({ r: (d / 2) * perMetre, cx: SIZE / 2, cy: bottom - (d / 2) * perMetre });
  const ordered = [...sides].sort((a, b) => grossBore(b.fitted.throttle) - grossBore(a.fitted.throttle));
  return (
    <svg viewBox={`0 0 ${SIZE} ${SIZE}`} className={styles['bores']} role="img" aria-label={`Bores to scale: ${sides.map((s) => `${s.name} ${formatQuantity(grossBore(s.fitted.throttle), 'bore', pack)}`).join(', ')}`}>
      <defs>
        <pattern id="opening-hatch" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V6" stroke={palette.hairline} strokeWidth="2" />
        </pattern>
      </defs>
      <circle {...circle(opening_m)} fill="url(#opening-hatch)" stroke={palette.hairline} />
      {ordered.map((s) => {
        const d = grossBore(s.fitted.throttle);
        const c = circle(d);
        return (
          <g key={s.id}>
            <circle {...c} fill="none" stroke={s.color} strokeWidth="2" strokeDasharray={s.dashed ? '8 4' : undefined} />
            <text x={SIZE / 2} y={c.cy - c.r + 13} textAnchor="middle" fontSize="11.5" fontWeight="600" fill={s.color} fontFamily="Barlow Condensed, sans-serif">
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
