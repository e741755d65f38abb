'use client';

import { Checkbox } from 'antd';
import { RULE_GROUPS } from '@/core/documents/kinds';
import { measureOfFact, type Facts, type FitCheck } from '@/core/fit/rule';
import { useJob } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop-page';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { ruleWorking } from '@/core/working/fit-working';
import { factText, ruleText } from './facts-text';
import styles from './fit.module.css';
import { msg } from './messages';

const ORDER = ['does not fit', 'needs something', 'not measured', 'fits'] as const;
const MARKS: Readonly<Record<FitCheck['word'], string>> = { fits: '✓', 'needs something': '▲', 'does not fit': '✕', 'not measured': '?' };

/** Every check in its group: fits, needs something, does not fit, or what to measure; with the number and the reason. */
export function Checks({ checks, facts }: { checks: readonly FitCheck[]; facts: Facts }) {
  const { pack } = usePrefs();
  return (
    <section aria-label={msg.checks}>
      <Heading
        more={
          <span className="quiet">
            {ORDER.map((w) => [w, checks.filter((c) => c.word === w).length] as const)
              .filter(([, n]) => n > 0)
              .map(([w, n]) => `${n} ${w}`)
              .join(', ')}
          </span>
        }
      >
        {msg.checks}
      </Heading>
      <div className={styles['checks']}>
        {RULE_GROUPS.map((group) => {
          const mine = checks.filter((c) => c.rule.group === group);
          return mine.length === 0 ? null : (
            <div key={group} className={styles['group']}>
              <h3>{group}</h3>
              <ul>
                {mine.map((c) => (
                  <li key={c.rule.id} data-word={c.word} data-rule={c.rule.id}>
                    <span className={styles['mark']} aria-hidden="true">
                      {MARKS[c.word]}
                    </span>
                    <div>
                      <strong>{c.rule.title}</strong> <span className={styles['word']}>{c.word}</span>
                      {c.rule.number !== undefined && c.word !== 'not measured' && measureOfFact(c.rule.number) && (
                        <Num small label={c.rule.title} working={() => ruleWorking(c, facts)}>
                          {factText(facts[c.rule.number] ?? null, c.rule.number, pack)}
                        </Num>
                      )}
                      <p>{ruleText(c.why, facts, pack)}</p>
                    </div>
                  </li>
                ))}
              </ul>
            </div>
          );
        })}
      </div>
    </section>
  );
}

/** What has to be got, and whether it stands ready; a line is ticked off when it does. */
export function PartsList({ all, facts }: { all: readonly FitCheck[]; facts: Facts }) {
  const { pack } = usePrefs();
  const have = useJob((s) => s.doc.fit.mounting.have);
  const set = useJob((s) => s.set);
  const lines = all.filter((c) => c.cure !== null || have.includes(c.rule.id));
  if (lines.length === 0) return <p className="quiet">{msg.nothingIsNeededBesidesTheThrottle}</p>;
  return (
    <ul className={styles['parts']}>
      {lines.map((c) => {
        const ready = have.includes(c.rule.id);
        return (
          <li key={c.rule.id}>
            <Checkbox
              checked={ready}
              onChange={(e) => set('fit.mounting.have', e.target.checked ? [...have, c.rule.id] : have.filter((id) => id !== c.rule.id))}
            >
              {ruleText(c.rule.cure ?? c.rule.title, facts, pack)}
              {ready && <span className="quiet"> {msg.standsReady}</span>}
            </Checkbox>
          </li>
        );
      })}
    </ul>
  );
}
