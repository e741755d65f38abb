'use client';

import { Popover } from 'antd';
import type { ReactNode } from 'react';
import { useWhenTouched } from '@/ui/touched';
import { later } from '@/ui/later';
import type { TermName } from './glossary';
import styles from './thinking.module.css';

const fetchMeaning = () => import('./meaning').then((m) => m.Meaning);
const Meaning = later(fetchMeaning);

/** A word of the trade with a dotted line under it: opens its meaning, its unit and a drawing, by click, tap or key. */
export function Term({ name, children }: { name: TermName; children?: ReactNode }) {
  useWhenTouched(fetchMeaning);
  return (
    <Popover trigger="click" destroyOnHidden title={name} content={<Meaning name={name} />}>
      <button
        type="button"
        className={styles['term']}
        // It may stand in a column's head, which sorts when it is pressed.
        onClick={(e) => e.stopPropagation()}
        onKeyDown={(e) => (e.key === 'Enter' || e.key === ' ') && e.stopPropagation()}
        aria-label={`${typeof children === 'string' ? children : name}: what it means`}
      >
        {children ?? name}
      </button>
    </Popover>
  );
}
