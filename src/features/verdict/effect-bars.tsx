import { barReach, type EffectBar } from '@/core/verdict/bars';
import styles from './verdict.module.css';
import { msg } from './messages';
import { barName } from './words';

const WIDTH = 720;
const LEFT = 150;
const ROW = 34;
const HEAD = 22;

/** Every measured effect with its interval on one scale: the tinted middle does not matter, the right is better. */
export function EffectBars({ bars }: { bars: readonly EffectBar[] }) {
  if (bars.length === 0) return null;
  const reach = barReach(bars);
  const x = (v: number): number => LEFT + ((v + reach) / (2 * reach)) * (WIDTH - LEFT - 10);
  const height = HEAD + ROW * bars.length + 26;
  const words = bars
    .map((b) => `${barName(b)}: ${b.middle.toFixed(1)} times what matters, ${b.low.toFixed(1)} to ${b.high.toFixed(1)}`)
    .join('; ');
  return (
    <svg className={styles['bars']} viewBox={`0 0 ${WIDTH} ${height}`} role="img" aria-label={`Measured effects: ${words}`}>
      <rect x={x(-1)} y={HEAD} width={x(1) - x(-1)} height={ROW * bars.length} className={styles['slight']} />
      <line x1={x(0)} x2={x(0)} y1={HEAD} y2={HEAD + ROW * bars.length} className={styles['zero']} />
      <text x={x(0)} y={14} textAnchor="middle">
        {msg.doesNotMatter}
      </text>
      <text x={x(-reach)} y={14}>
        {msg.worse}
      </text>
      <text x={x(reach)} y={14} textAnchor="end">
        {msg.better}
      </text>
      {bars.map((b, i) => {
        const y = HEAD + ROW * (i + 0.5);
        const word = b.low > 0 ? 'up' : b.high < 0 ? 'down' : 'open';
        return (
          <g key={b.of} data-word={word} className={styles['effect']}>
            <text x={LEFT - 12} y={y + 5} textAnchor="end" className={styles['barName']}>
              {barName(b)}
            </text>
            <line x1={x(b.low)} x2={x(b.high)} y1={y} y2={y} />
            <line x1={x(b.low)} x2={x(b.low)} y1={y - 6} y2={y + 6} />
            <line x1={x(b.high)} x2={x(b.high)} y1={y - 6} y2={y + 6} />
            <circle cx={x(b.middle)} cy={y} r="5" />
          </g>
        );
      })}
      <text x={x(0)} y={height - 8} textAnchor="middle">
        {msg.eachWithIts95IntervalIn}
      </text>
    </svg>
  );
}
