'use client';

import type { Confounder } from '@/core/compare/confounders';
import { useRuns } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop-page';
import { usePrefs } from '@/ui/theme/prefs';
import { confounderWords } from './words';
import styles from '../test.module.css';
import { msg } from './messages';

/** Everything besides the throttle that could have moved the figures, with what it could be worth and what to do about it. */
export function Fair({ confounders }: { confounders: readonly Confounder[] }) {
  const { pack } = usePrefs();
  const { runs } = useRuns();
  const out = runs.filter((r) => r.doc.kind === 'dyno' && r.doc.leftOut !== null);
  return (
    <>
      <Heading more={<span className="quiet">{confounders.length === 0 ? 'nothing found' : `${confounders.length} to weigh`}</span>}>
        {msg.fairComparison}
      </Heading>
      <ul className={styles['fair']}>
        {confounders.map((c) => {
          const w = confounderWords(c, pack);
          return (
            <li key={c.code + w.what}>
              {w.what}{' '}
              {w.worth && (
                <span className={styles['worth']}>
                  {msg.worth} {w.worth}.
                </span>
              )}{' '}
              <span className="quiet">{w.todo}</span>
            </li>
          );
        })}
        {out.length > 0 && (
          <li className="quiet">
            {out.length} {out.length === 1 ? 'run is' : 'runs are'} {msg.leftOutEachWithItsReason}
          </li>
        )}
      </ul>
    </>
  );
}
