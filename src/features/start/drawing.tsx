'use client';

import { formatNumber, formatQuantity } from '@/core/units/quantity';
import type { GuidedFacts } from '@/core/documents/guided';
import { usePrefs } from '@/ui/theme/prefs';
import styles from '@/ui/line-drawing.module.css';
import { msg } from './messages';

export type DrawnField = 'engine' | 'bore' | 'shaft' | 'pipe' | 'flow' | 'candidate';

const CENTRE = 118;
/** Millimetres to the drawing's units. */
const K = 1050;

/** Pipe, throttle and engine in section, to one scale; what is being typed is drawn strong. */
export function StartDrawing({ facts, at }: { facts: GuidedFacts; at: DrawnField }) {
  const { pack } = usePrefs();
  const size = (m: number): string => formatQuantity(m, 'bore', pack);
  const [pipe, bore, shaft, next] = [facts.pipe_m, facts.bore_m, facts.shaft_m, facts.candidate_m].map((m) => Math.min(200, m * K)) as [
    number,
    number,
    number,
    number,
  ];
  const lit = (field: DrawnField) => (at === field ? styles['lit'] : styles['line']);
  const shown = Math.min(8, facts.cylinders);
  const across = (x: number, d: number, text: string, field: DrawnField, below = false) => (
    <g className={lit(field)}>
      <path d={`M${x} ${CENTRE - d / 2}V${CENTRE + d / 2}M${x - 5} ${CENTRE - d / 2}H${x + 5}M${x - 5} ${CENTRE + d / 2}H${x + 5}`} />
      <text x={x} y={below ? CENTRE + d / 2 + 16 : CENTRE - d / 2 - 6} textAnchor="middle">
        {text}
      </text>
    </g>
  );
  return (
    <svg
      className={styles['drawing']}
      viewBox="0 0 560 236"
      role="img"
      aria-label={`Pipe ${size(facts.pipe_m)}, throttle bore ${size(facts.bore_m)} with a ${formatQuantity(shaft / K, 'fineLength', pack)} shaft, engine of ${facts.cylinders} cylinders; the bore you think of is ${size(facts.candidate_m)}`}
    >
      <g className={lit('pipe')}>
        <path d={`M20 ${CENTRE - pipe / 2}H170L200 ${CENTRE - bore / 2}M20 ${CENTRE + pipe / 2}H170L200 ${CENTRE + bore / 2}`} />
      </g>
      {across(60, pipe, size(facts.pipe_m), 'pipe')}
      <g className={lit('bore')}>
        <path d={`M200 ${CENTRE - bore / 2}H300M200 ${CENTRE + bore / 2}H300`} />
        <path d={`M236 ${CENTRE - bore / 2 + 2}L262 ${CENTRE + bore / 2 - 2}`} strokeDasharray="3 4" />
      </g>
      <circle cx="249" cy={CENTRE} r={shaft / 2} className={at === 'shaft' ? styles['litFill'] : styles['fill']} />
      <text x="249" y={CENTRE + shaft / 2 + 16} textAnchor="middle" className={at === 'shaft' ? styles['litText'] : styles['text']}>
        {formatQuantity(facts.shaft_m, 'fineLength', pack)}
      </text>
      {across(215, bore, size(facts.bore_m), 'bore', next > bore)}
      <g className={lit('candidate')} strokeDasharray="6 4">
        <path d={`M200 ${CENTRE - next / 2}H300M200 ${CENTRE + next / 2}H300`} />
      </g>
      {across(277, next, size(facts.candidate_m), 'candidate', next <= bore)}
      <g className={lit('flow')}>
        <path d={`M96 ${CENTRE}H176M168 ${CENTRE - 5}L176 ${CENTRE}L168 ${CENTRE + 5}`} />
        <text x="130" y={CENTRE - 8} textAnchor="middle">
          {facts.flow_m3ps === null ? 'air' : formatQuantity(facts.flow_m3ps, 'benchFlow', pack)}
        </text>
      </g>
      <g className={lit('engine')}>
        <path
          d={`M300 ${CENTRE - bore / 2}C320 ${CENTRE - bore / 2} 320 40 340 40H540V196H340C320 196 320 ${CENTRE + bore / 2} 300 ${CENTRE + bore / 2}`}
        />
        {Array.from({ length: shown }, (_, i) => (
          <circle key={i} cx={340 + ((i + 0.5) * 200) / shown} cy={150} r={Math.min(22, 86 / shown)} />
        ))}
        <text x="440" y="76" textAnchor="middle">
          {formatQuantity(facts.displacement_m3, 'displacement', pack)}, {facts.cylinders}{' '}
          {facts.cylinders === 1 ? 'cylinder' : 'cylinders'}
        </text>
        <text x="440" y="98" textAnchor="middle">
          {msg.to} {formatNumber(facts.redline_rpm, 0)} {msg.rpm}
        </text>
      </g>
    </svg>
  );
}
