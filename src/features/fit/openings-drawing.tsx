'use client';

import { formatQuantity } from '@/core/units/quantity';
import { usePrefs } from '@/ui/theme/prefs';
import styles from './fit.module.css';

const W = 720;
const H = 500;
const MID_X = 300;
const MID_Y = 236;

/** Unit, gasket and manifold opening face on, one scale, the lip between them shaded, each with its size on a leader. */
export function OpeningsDrawing({
  name,
  bore_m,
  shaft_m,
  gasket_m,
  opening_m,
  color,
}: {
  name: string;
  bore_m: number;
  shaft_m: number;
  gasket_m: number;
  opening_m: number;
  color: string;
}) {
  const { pack, palette } = usePrefs();
  const widest = Math.max(bore_m, gasket_m, opening_m);
  const k = 400 / widest;
  const r = (d: number): number => (d / 2) * k;
  const narrow = Math.min(bore_m, opening_m);
  const wide = Math.max(bore_m, opening_m);
  const ring = (d: number): string =>
    `M${MID_X - r(d)} ${MID_Y} a${r(d)} ${r(d)} 0 1 0 ${2 * r(d)} 0 a${r(d)} ${r(d)} 0 1 0 ${-2 * r(d)} 0`;
  const leaders = [
    { d: bore_m, text: `${name} bore ${formatQuantity(bore_m, 'bore', pack)}`, color, y: 70 },
    { d: opening_m, text: `manifold opening ${formatQuantity(opening_m, 'bore', pack)}`, color: palette.ink, y: 104 },
    { d: gasket_m, text: `gasket opening ${formatQuantity(gasket_m, 'bore', pack)}`, color: palette.quiet, y: 138 },
  ];
  const barMm = pack === 'us' ? 25.4 : 20;
  const bar = (barMm / 1000) * k;
  return (
    <svg viewBox={`0 0 ${W} ${H}`} className={styles['face']} role="img" aria-label={leaders.map((l) => l.text).join(', ')}>
      <defs>
        <pattern id="lip-hatch" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="7" height="7" fill={palette.stock} opacity="0.12" />
          <path d="M0 0V7" stroke={palette.stock} strokeWidth="2" opacity="0.6" />
        </pattern>
      </defs>
      {wide > narrow && <path d={`${ring(wide)} ${ring(narrow)}`} fill="url(#lip-hatch)" fillRule="evenodd" />}
      <rect x={MID_X - r(bore_m)} y={MID_Y - (shaft_m / 2) * k} width={2 * r(bore_m)} height={shaft_m * k} fill={color} opacity="0.25" />
      <path d={ring(opening_m)} fill="none" stroke={palette.ink} strokeWidth="2.4" />
      <path d={ring(gasket_m)} fill="none" stroke={palette.quiet} strokeWidth="1.4" strokeDasharray="3 4" />
      <path d={ring(bore_m)} fill="none" stroke={color} strokeWidth="2.4" />
      <path d={`M${MID_X - 12} ${MID_Y} h24 M${MID_X} ${MID_Y - 12} v24`} className={styles['dim']} />
      {leaders.map((l) => {
        const angle = Math.asin(Math.max(-1, Math.min(1, (l.y - MID_Y) / r(l.d))));
        const x = MID_X + Math.cos(angle) * r(l.d);
        return (
          <g key={l.text}>
            <path d={`M${x} ${MID_Y + Math.sin(angle) * r(l.d)} L${530} ${l.y}`} stroke={l.color} strokeWidth="1" />
            <text x="536" y={l.y + 4} fontSize="15" fontFamily="Barlow Condensed, sans-serif" fontWeight="600" fill={l.color}>
              {l.text}
            </text>
          </g>
        );
      })}
      <path d={`M${MID_X - bar / 2} ${H - 30} v8 h${bar} v-8`} fill="none" stroke={palette.ink} strokeWidth="1.4" />
      <text x={MID_X} y={H - 6} textAnchor="middle" fontSize="13" fill={palette.quiet}>
        {formatQuantity(barMm / 1000, 'bore', pack, pack === 'us' ? 1 : 0)}, drawn to scale
      </text>
    </svg>
  );
}
