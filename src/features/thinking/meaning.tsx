'use client';

import { Link } from '@/ui/link';
import { TermDrawing } from './drawings';
import { anchorOf, entryOf, type TermName } from './glossary';
import styles from './thinking.module.css';
import { msg } from './messages';

/** What a word of the trade means here, its units and a drawing, with the way to all of them. */
export function Meaning({ name }: { name: TermName }) {
  const entry = entryOf(name);
  return (
    <div className={styles['meaning']}>
      {entry.drawing && <TermDrawing name={entry.drawing} />}
      <p>
        {entry.meaning}
        {entry.units && <span className="quiet"> · {entry.units}</span>}
      </p>
      <Link href={`/thinking#${anchorOf(name)}`}>{msg.allWordsAndHowVannerThinks}</Link>
    </div>
  );
}
