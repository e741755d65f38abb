import styles from './drawing.module.css';

const STEPS = [
  { x: 20, title: 'A hidden truth', text: 'drawn anew each time' },
  { x: 216, title: 'Your pulls', text: 'heat, refits, days, a bad one' },
  { x: 412, title: 'Your word', text: 'gain, loss, nothing, open' },
  { x: 608, title: 'What was true', text: 'and what finding it cost' },
] as const;
const PULLS = [62, 58, 65, 60, 44, 50, 42, 47, 61, 59, 46, 43] as const;

/** What practice is, before it begins: a hidden truth, pulls that scatter about it, a word, and the score. */
export function PracticeDrawing() {
  return (
    <svg
      className={styles['drawing']}
      viewBox="0 0 800 210"
      role="img"
      aria-label="Four steps: a hidden truth is drawn; you pull stock and new, with heat soak, refits and days; you say gain, loss, no difference or leave it open; you are told what was true and what finding it cost."
    >
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
        14 runs, 3 h
      </text>
    </svg>
  );
}
