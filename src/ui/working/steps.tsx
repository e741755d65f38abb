'use client';

import katex from 'katex';
import 'katex/dist/katex.min.css';
import { FORMULAS } from '@/core/working/formulas';
import type { Term, Working } from '@/core/working/working';
import { formatQuantity } from '@/core/units/quantity';
import { usePrefs } from '../theme/prefs';
import styles from './steps.module.css';

/** The renderer escapes everything it is given; the text comes from our own formula table. */
function Tex({ tex, block = false }: { tex: string; block?: boolean }) {
  const html = katex.renderToString(tex, { displayMode: block, throwOnError: false, output: 'htmlAndMathml' });
  return <span dangerouslySetInnerHTML={{ __html: html }} />;
}

const FROM = {
  measured: 'measured',
  entered: 'entered',
  assumed: 'assumed',
  computed: '',
  constant: 'constant',
  default: 'usual value',
} as const;

function TermRow({ term, result = false }: { term: Term; result?: boolean }) {
  const { pack, money } = usePrefs();
  return (
    <tr data-result={result}>
      <td className={styles['symbol']}>
        <Tex tex={term.symbol} />
      </td>
      <td>
        {term.label}
        {FROM[term.from] && (
          <span className={styles['from']} data-from={term.from}>
            {FROM[term.from]}
          </span>
        )}
      </td>
      <td className="num">{term.measure === 'money' ? money(term.value) : formatQuantity(term.value, term.measure, pack)}</td>
    </tr>
  );
}

/** The steps of a working: formula, what was put in, what came out, and the source. */
export function Steps({ working }: { working: Working }) {
  return (
    <div className={styles['steps']}>
      {working.steps.map((s, i) => {
        const formula = FORMULAS[s.formula];
        return (
          <section key={`${s.formula}-${i}`}>
            <h3 className="label">{formula.title}</h3>
            <div className={styles['formula']}>
              <Tex tex={formula.tex} block />
            </div>
            <table className="plain">
              <tbody>
                {s.terms.map((t, k) => (
                  <TermRow key={`${t.label}-${k}`} term={t} />
                ))}
                <TermRow term={s.result} result />
              </tbody>
            </table>
            <p className={styles['source']}>{formula.source}</p>
          </section>
        );
      })}
      {working.notes.map((n) => (
        <p key={n} className={styles['note']}>
          {n}
        </p>
      ))}
    </div>
  );
}
