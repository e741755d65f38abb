'use client';

import { App, Button } from 'antd';
import { Link } from '@/ui/link';
import { useState } from 'react';
import styles from './jobs.module.css';
import { msg } from './messages';

/** A car's curve with and without a part, its band and its answer: what a finished job looks like. */
const ExampleDrawing = () => (
  <svg viewBox="0 0 220 96" aria-hidden="true">
    <path d="M14 82H208M14 82V10" className={styles['axis']} />
    <path d="M20 70C60 52 110 34 150 26C175 21 190 26 204 34" className={styles['was']} />
    <path
      d="M20 70C60 51 110 31 150 20C175 13 190 15 204 20L204 28C190 23 175 21 150 27C110 37 60 56 20 73Z"
      className={styles['bandArea']}
    />
    <path d="M20 70C60 51 110 32 150 22C175 16 190 18 204 23" className={styles['now']} />
    <text x="118" y="66">
      {msg.n19KeepIt}
    </text>
  </svg>
);

/** A bore with its blade, measured across. */
const SizeDrawing = () => (
  <svg viewBox="0 0 220 96" aria-hidden="true">
    <circle cx="74" cy="46" r="36" className={styles['was']} />
    <circle cx="74" cy="46" r="29" className={styles['now']} />
    <path d="M45 46H103" className={styles['now']} />
    <path d="M136 22V70M130 22H142M130 70H142" className={styles['axis']} />
    <text x="150" y="42">
      {msg.n58Mm}
    </text>
    <text x="150" y="62">
      {msg.n64Mm}
    </text>
  </svg>
);

/** Pulls that scatter about a truth nobody sees. */
const PracticeDrawing = () => (
  <svg viewBox="0 0 220 96" aria-hidden="true">
    <path d="M14 82H208M14 82V10" className={styles['axis']} />
    {[52, 47, 55, 50, 36, 41, 34, 39, 51, 48, 37, 33].map((y, i) => (
      <circle key={i} cx={26 + 15 * i} cy={y} r="3.4" className={i % 8 < 4 ? styles['dotWas'] : styles['dotNow']} />
    ))}
    <path d="M20 44H204" className={styles['hiddenLine']} />
    <text x="24" y="76">
      {msg.trueEffectHidden}
    </text>
  </svg>
);

/** Three ways to begin, for a shop in which nothing stands yet. */
export function Doors({ onExample }: { onExample: () => Promise<void> }) {
  const { message } = App.useApp();
  const [busy, setBusy] = useState(false);
  const open = (): void => {
    setBusy(true);
    onExample().catch((e: Error) => {
      setBusy(false);
      void message.error(e.message);
    });
  };
  return (
    <div className={styles['doors']}>
      <section>
        <ExampleDrawing />
        <h2>{msg.tryAnExample}</h2>
        <p>{msg.aFinishedJobAMadeUp}</p>
        <Button block loading={busy} onClick={open}>
          {busy ? 'Loading: runs are read as files are' : 'Load the example'}
        </Button>
      </section>
      <section>
        <SizeDrawing />
        <h2>{msg.sizeAThrottleNow}</h2>
        <p>{msg.nineFiguresAboutYourEngineAnd}</p>
        <Link href="/start" className={styles['doorLink']}>
          {msg.sizeAThrottle}
        </Link>
      </section>
      <section>
        <PracticeDrawing />
        <h2>{msg.practise}</h2>
        <p>{msg.aSimulatedDynoWithAHidden}</p>
        <Link href="/practice" className={styles['doorLink']}>
          {msg.practiseTesting}
        </Link>
      </section>
    </div>
  );
}
