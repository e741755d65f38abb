'use client';

import type { ThrottleDoc } from '@/core/documents/throttle';
import type { Fitted } from '@/core/job/path';
import { grossBore } from '@/core/documents/openings';
import { coarse, type UnitPack } from '@/core/units/measures';
import { formatQuantity } from '@/core/units/quantity';
import { usePrefs } from '@/ui/theme/prefs';
import styles from './pick.module.css';

const WIDTH = 250;
const SIZE = 158;
const PAD = 4;
/** Sizes stand in a column beside the rings, a line each. */
const LABEL_X = 178;
const LABEL_STEP = 22;
/** Metal between the two bores of a twin, as a share of one. */
const TWIN_WALL = 0.06;

/** How far a throttle's air passage reaches across and up, m: of individual ones one bore stands for all. */
function extentOf(t: ThrottleDoc): { readonly width_m: number; readonly height_m: number } {
  if (t.shape === 'oval') return { width_m: t.width_m ?? t.bore_m, height_m: t.height_m ?? t.bore_m };
  return { width_m: t.shape === 'twin' ? t.bore_m * (2 + TWIN_WALL) : t.bore_m, height_m: t.bore_m };
}

/** The passage's outline, standing on `bottom` with its middle at `cx`. */
function Outline({
  t,
  perMetre,
  cx,
  bottom,
  ...stroke
}: {
  t: ThrottleDoc;
  perMetre: number;
  cx: number;
  bottom: number;
  stroke: string;
  strokeDasharray?: string | undefined;
}) {
  const { width_m, height_m } = extentOf(t);
  const [w, h] = [width_m * perMetre, height_m * perMetre];
  const line = { fill: 'none', strokeWidth: 2, ...stroke };
  if (t.shape === 'twin')
    return (
      <>
        {[-1, 1].map((side) => (
          <circle key={side} cx={cx + (side * (w - h)) / 2} cy={bottom - h / 2} r={h / 2} {...line} />
        ))}
      </>
    );
  return <rect x={cx - w / 2} y={bottom - h} width={w} height={h} rx={h / 2} {...line} />;
}

function sizeText(t: ThrottleDoc, pack: UnitPack): string {
  const size = (m: number): string => formatQuantity(m, 'bore', pack, coarse('bore', pack));
  if (t.shape === 'oval') return `${size(t.width_m ?? 0).replace(/ .*$/, '')} × ${size(t.height_m ?? 0)}`;
  return t.count > 1 ? `${t.count} × ${size(t.bore_m)}` : size(t.bore_m);
}

/** Bores drawn one inside the other to one scale, the opening they bolt to hatched behind them. */
export function Bores({
  sides,
  opening_m,
}: {
  sides: readonly { id: string; name: string; fitted: Fitted; color: string; dashed: boolean }[];
  opening_m: number;
}) {
  const { pack, palette } = usePrefs();
  const widest = Math.max(
    opening_m,
    ...sides.flatMap((s) => {
      const { width_m, height_m } = extentOf(s.fitted.throttle);
      return [width_m, height_m];
    }),
  );
  const perMetre = (SIZE - 2 * PAD) / widest;
  const bottom = SIZE - PAD;
  const cx = SIZE / 2;
  const radius = (opening_m / 2) * perMetre;
  /** From the outline's right end, at the label's height where it has one, across to the label. */
  const leader = (t: ThrottleDoc, y: number): string => {
    const { width_m, height_m } = extentOf(t);
    const r = (height_m / 2) * perMetre;
    const end = { x: cx + (width_m / 2) * perMetre - r, y: bottom - r };
    const rise = Math.max(-0.98, Math.min(0.98, (y - end.y) / r));
    return `M${end.x + Math.sqrt(1 - rise * rise) * r} ${end.y + rise * r} L${LABEL_X - 4} ${y}`;
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
      <circle cx={cx} cy={bottom - radius} r={radius} fill="url(#opening-hatch)" stroke={palette.hairline} />
      {ordered.map((s, i) => {
        const t = s.fitted.throttle;
        return (
          <g key={s.id}>
            <Outline t={t} perMetre={perMetre} cx={cx} bottom={bottom} stroke={s.color} strokeDasharray={s.dashed ? '8 4' : undefined} />
            <path d={leader(t, 18 + i * LABEL_STEP)} stroke={s.color} strokeWidth="1" fill="none" />
            <text
              x={LABEL_X}
              y={22 + i * LABEL_STEP}
              fontSize="13"
              fontWeight="600"
              fill={s.color}
              fontFamily="Barlow Condensed, sans-serif"
            >
              {sizeText(t, pack)}
            </text>
          </g>
        );
      })}
      {sides
        .filter((s) => s.id === 'stock')
        .map((s) => {
          const t = s.fitted.throttle;
          const { width_m, height_m } = extentOf(t);
          const [w, h] = [width_m * perMetre, t.shaft_m * perMetre];
          return (
            <rect
              key="shaft"
              x={cx - w / 2}
              y={bottom - (height_m * perMetre + h) / 2}
              width={w}
              height={h}
              fill={palette.stock}
              opacity="0.35"
            />
          );
        })}
    </svg>
  );
}
