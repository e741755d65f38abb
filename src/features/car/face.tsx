'use client';

import type { JobDoc } from '@/core/documents/job';
import { formatQuantity } from '@/core/units/quantity';
import { usePrefs } from '@/ui/theme/prefs';
import styles from './car.module.css';
import { msg } from './messages';

const SIZE = 210;

/** The stock throttle face on, to scale: bore with its shaft, the gasket's opening, the manifold's. Three numbers that often differ. */
export function StockFace({ stock }: { stock: JobDoc['car']['stock'] }) {
  const { pack, palette } = usePrefs();
  const t = stock.throttle;
  const w = t.shape === 'oval' ? (t.width_m ?? t.bore_m) : t.bore_m;
  const h = t.shape === 'oval' ? (t.height_m ?? t.bore_m) : t.bore_m;
  const bores = t.shape === 'twin' ? Math.max(2, t.count) : 1;
  const across = Math.max(w * bores * (bores > 1 ? 1.08 : 1), stock.gasketOpening_m, stock.manifoldOpening_m);
  const k = (SIZE - 30) / across;
  const mid = SIZE / 2;
  const ring = (d: number, color: string, dash?: string) => (
    <circle cx={mid} cy={mid} r={(d / 2) * k} fill="none" stroke={color} strokeWidth="1.5" strokeDasharray={dash} />
  );
  return (
    <svg
      viewBox={`0 0 ${SIZE} ${SIZE + 36}`}
      className={styles['face']}
      role="img"
      aria-label={`Stock throttle face on to scale: bore ${formatQuantity(w, 'bore', pack)}, gasket ${formatQuantity(stock.gasketOpening_m, 'bore', pack)}, manifold ${formatQuantity(stock.manifoldOpening_m, 'bore', pack)}`}
    >
      {ring(stock.manifoldOpening_m, palette.series[0]!)}
      {ring(stock.gasketOpening_m, palette.series[1]!, '2 3')}
      {Array.from({ length: bores }, (_, i) => {
        const cx = mid + (i - (bores - 1) / 2) * w * 1.08 * k;
        return (
          <g key={i}>
            <rect
              x={cx - (w / 2) * k}
              y={mid - (h / 2) * k}
              width={w * k}
              height={h * k}
              rx={(h / 2) * k}
              fill={palette.stock}
              fillOpacity="0.12"
              stroke={palette.stock}
              strokeWidth="2.4"
              strokeDasharray="9 4"
            />
            <rect
              x={cx - (w / 2) * k}
              y={mid - (t.shaft_m / 2) * k}
              width={w * k}
              height={Math.max(1, t.shaft_m * k)}
              fill={palette.ink}
              opacity="0.8"
            />
          </g>
        );
      })}
      <g fontSize="12" fontFamily="Barlow Condensed, sans-serif" fontWeight="600">
        <text x="0" y={SIZE + 10} fill={palette.stock}>
          {msg.bore} {formatQuantity(w, 'bore', pack)}
        </text>
        <text x="0" y={SIZE + 28} fill={palette.series[0]}>
          {msg.manifold} {formatQuantity(stock.manifoldOpening_m, 'bore', pack)}
        </text>
        <text x={SIZE} y={SIZE + 10} fill={palette.series[1]} textAnchor="end">
          {msg.gasket} {formatQuantity(stock.gasketOpening_m, 'bore', pack)}
        </text>
        <text x={SIZE} y={SIZE + 28} fill={palette.quiet} textAnchor="end">
          {msg.toScale}
        </text>
      </g>
    </svg>
  );
}
