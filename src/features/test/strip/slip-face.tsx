'use client';

import { Button } from 'antd';
import type { KeyboardEvent, Ref } from 'react';
import type { SlipField } from '@/core/documents/slip';
import type { StoredVisit } from '@/core/documents/strip';
import { usePrefs } from '@/ui/theme/prefs';
import { msg } from './messages';
import styles from './strip.module.css';
import type { SlipPadState } from './use-slip-pad';
import { fieldName, issueWords } from './words';

/** What a key does on the pad; null: it is not the pad's. A button of the pad has Enter to itself; digits go on wherever the focus is. */
function padKey(e: KeyboardEvent): string | null {
  const own = e.target === e.currentTarget;
  if (!own && !(e.target instanceof HTMLButtonElement)) return null;
  if (/^\d$/.test(e.key)) return e.key;
  if (e.key === 'Backspace') return 'back';
  return own && (e.key === 'Enter' || e.key === 'ArrowDown') ? 'next' : null;
}

/** The slip's figures with what is wrong with them, over the keys that write them. */
export function SlipFace({ visit, pad, ref }: { visit: StoredVisit; pad: SlipPadState; ref?: Ref<HTMLDivElement> }) {
  const { pack } = usePrefs();
  const issueOf = (f: SlipField) => pad.issues.find((i) => i.field === f);
  const now = issueOf(pad.fields[pad.at] ?? pad.fields.at(-1)!) ?? pad.issues[0];
  return (
    <div
      ref={ref}
      role="group"
      aria-label={msg.theSlip}
      tabIndex={0}
      className={styles['slip']}
      onKeyDown={(e) => {
        const key = padKey(e);
        if (key === null) return;
        e.preventDefault();
        pad.press(key);
      }}
    >
      <div className={styles['fields']}>
        {pad.fields.map((f, i) => (
          <button
            key={f}
            type="button"
            data-at={i === pad.at}
            data-wrong={issueOf(f)?.level}
            aria-label={`${fieldName(f, visit.doc)}: ${pad.shown(f)}`}
            onClick={() => pad.goTo(i)}
          >
            <span>{fieldName(f, visit.doc)}</span>
            <b>{pad.shown(f)}</b>
          </button>
        ))}
      </div>
      <p className={styles['issue']} data-level={now?.level} role={now ? 'alert' : undefined}>
        {now ? `${fieldName(now.field, visit.doc)}: ${issueWords(now, visit.doc, pack)}` : 'Digits only: the point sets itself.'}
      </p>
      {pad.doc.at === null && (
        <p className={styles['odd']} role="status">
          {msg.noTimeOfDayNoAir}
        </p>
      )}
      {pad.odd.map((o) => (
        <p key={o.field} className={styles['odd']} role="status">
          {fieldName(o.field, visit.doc)}: {o.typed}
          {msg.theDaysPassesRun} {o.from} {msg.to2} {o.to}.{' '}
          {o.swapped && (
            <Button size="small" onClick={() => pad.setDigits(o.field, o.swapped!.replace('.', ''))}>
              {msg.twoDigitsChangedAbout} {o.swapped}
            </Button>
          )}
        </p>
      ))}
      <div className={styles['keys']}>
        {['1', '2', '3', '4', '5', '6', '7', '8', '9'].map((k) => (
          <button key={k} type="button" onClick={() => pad.press(k)}>
            {k}
          </button>
        ))}
        <button type="button" aria-label={msg.takeADigitBack} onClick={() => pad.press('back')}>
          ⌫
        </button>
        <button type="button" onClick={() => pad.press('0')}>
          0
        </button>
        <button type="button" aria-label={msg.nextFigure} onClick={() => pad.press('next')}>
          ↵
        </button>
      </div>
    </div>
  );
}
