'use client';

import { Popover } from 'antd';
import Link from 'next/link';
import type { ReactNode } from 'react';
import { TermDrawing } from './drawings';
import { anchorOf, entryOf, type TermName } from './glossary';
import styles from './thinking.module.css';
import { msg } from './messages';

/** A word of the trade with a dotted line under it: opens its meaning, its unit and a drawing, by click, tap or key. */
export function Term({ name, children }: { name: TermName; children?: ReactNode }) {
  const entry = entryOf(name);
  return (
    <Popover
      trigger="click"
      destroyOnHidden
      title={entry.term}
      content={
        <div className={styles['meaning']}>
          {entry.drawing && <TermDrawing name={entry.drawing} />}
          <p>
            {entry.meaning}
            {entry.units && <span className="quiet"> · {entry.units}</span>}
          </p>
          <Link href={`/thinking#${anchorOf(name)}`}>{msg.allWordsAndHowVannerThinks}</Link>
        </div>
      }
    >
      <button type="button" className={styles['term']} aria-label={`${typeof children === 'string' ? children : name}: what it means`}>
        {children ?? name}
      </button>
    </Popover>
  );
}
