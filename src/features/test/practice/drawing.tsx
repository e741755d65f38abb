import styles from '@/ui/line-drawing.module.css';
import { msg } from './messages';

const STEPS = [
  { x: 20, title: msg.aHiddenTruth, text: msg.drawnAnewEachTime },
  { x: 216, title: msg.yourPulls, text: msg.heatRefitsDaysABadOne },
  { x: 412, title: msg.yourWord, text: msg.gainLossNothingOpen },
  { x: 608, title: msg.whatWasTrue, text: msg.andWhatFindingItCost },
] as const;
const PULLS = [62, 58, 65, 60, 44, 50, 42, 47, 61, 59, 46, 43] as const;

/** What practice is, before it begins: a hidden truth, pulls that scatter about it, a word, and the score. */
export function PracticeDrawing() {
  return (
    <svg className={styles['drawing']} viewBox="0 0 800 210" role="img" aria-label={msg.fourStepsAHiddenTruthIs}>
      {STEPS.map(({ x, title, text }, i) => (
        <g key={title}>
          <rect x={x} y="26" width="172" height="112" className={styles['frame']} />
          <text x={x} y="160" className={styles['strong']}>
            {i + 1}. {title}
          </text>
          <text x={x} y="180">
            {text}
          </text>
          {i > 0 && <path d={`M${x - 20} 82h14m-5-5l5 5l-5 5`} className={styles['line']} />}
        </g>
      ))}
      <path d="M40 82H172" className={styles['line']} strokeDasharray="3 6" />
      <text x="106" y="72" textAnchor="middle">
        ? %
      </text>
      {PULLS.map((y, i) => (
        <circle key={i} cx={232 + 12.4 * i} cy={y + 28} r="3.6" className={i % 8 < 4 ? styles['fill'] : styles['litFill']} />
      ))}
      {['gain', 'loss', 'no difference', 'can’t tell yet'].map((word, i) => (
        <g key={word}>
          <rect x="430" y={38 + 24 * i} width="12" height="12" className={styles['frame']} />
          <text x="450" y={49 + 24 * i}>
            {word}
          </text>
        </g>
      ))}
      <path d="M628 82H760" className={styles['line']} strokeDasharray="3 6" />
      <path d="M690 56V108M666 82h48" className={styles['lit']} />
      <text x="700" y="72">
        +1.2 %
      </text>
      <text x="628" y="124">
        {msg.n14Runs3H}
      </text>
    </svg>
  );
}
