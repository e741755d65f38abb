'use client';

import { Button } from 'antd';
import type { KeyboardEvent, Ref } from 'react';
import type { SlipField, SlipIssue } from '@/core/documents/slip';
import type { StoredVisit } from '@/core/documents/strip';
import type { OddFigure } from '@/core/strip/slip-check';
import { usePrefs } from '@/ui/theme/prefs';
import { msg } from './messages';
import styles from './strip.module.css';
import type { SlipPadState } from './use-slip-pad';
import { fieldName, issueWords, oddWords } from './words';

/** What a key does on the pad; null: it is not the pad's. A button of the pad has Enter to itself; digits go on wherever the focus is. */
function padKey(e: KeyboardEvent): string | null {
  const own = e.target === e.currentTarget;
  if (!own && !(e.target instanceof HTMLButtonElement)) return null;
  if (/^\d$/.test(e.key)) return e.key;
  if (e.key === 'Backspace') return 'back';
  return own && (e.key === 'Enter' || e.key === 'ArrowDown') ? 'next' : null;
}

type Asked = { readonly field: SlipField } & ({ readonly issue: SlipIssue } | { readonly odd: OddFigure });

/**
 * What is asked about the slip, one question at a time in room that is always there, so that no key moves under a thumb: what
 * cannot be first, as nothing is kept before it is mended, then of the figure that is looked at, then of the others.
 */
function Question({ visit, pad }: { visit: StoredVisit; pad: SlipPadState }) {
  const { pack } = usePrefs();
  const all: Asked[] = [
    ...pad.issues.filter((i) => i.level === 'refused').map((issue) => ({ field: issue.field, issue })),
    ...pad.odd.map((odd) => ({ field: odd.field, odd })),
    ...pad.issues.filter((i) => i.level === 'doubt').map((issue) => ({ field: issue.field, issue })),
  ];
  const cannotBe = all.filter((a) => 'issue' in a && a.issue.level === 'refused');
  const first = cannotBe.length > 0 ? cannotBe : all;
  const now = first.find((a) => a.field === pad.fields[pad.at]) ?? first[0];
  if (!now)
    return (
      <div className={styles['issue']}>
        <p>{msg.digitsOnly}</p>
      </div>
    );
  const swapped = 'odd' in now ? now.odd.swapped : null;
  const others = new Set(all.map((a) => a.field)).size - 1;
  return (
    <div className={styles['issue']} data-level={'issue' in now ? now.issue.level : 'doubt'} role="alert">
      <p>
        {fieldName(now.field, visit.doc)}: {'issue' in now ? issueWords(now.issue, visit.doc, pack) : oddWords(now.odd)}
        {others > 0 && ` ${others} more ${others === 1 ? 'is' : 'are'} marked.`}
      </p>
      {swapped !== null && (
        <Button size="small" onClick={() => pad.setDigits(now.field, swapped.replace('.', ''))}>
          {msg.twoDigitsChangedAbout} {swapped}
        </Button>
      )}
    </div>
  );
}

/** The slip's figures with what is wrong with them, over the keys that write them. */
export function SlipFace({ visit, pad, ref }: { visit: StoredVisit; pad: SlipPadState; ref?: Ref<HTMLDivElement> }) {
  const levelOf = (f: SlipField) =>
    pad.issues.find((i) => i.field === f)?.level ?? (pad.odd.some((o) => o.field === f) ? 'doubt' : undefined);
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
            data-wrong={levelOf(f)}
            aria-label={`${fieldName(f, visit.doc)}: ${pad.shown(f)}`}
            onClick={() => pad.goTo(i)}
          >
            <span>{fieldName(f, visit.doc)}</span>
            <b>{pad.shown(f)}</b>
          </button>
        ))}
      </div>
      {pad.doc.at === null && (
        <p className={styles['odd']} role="status">
          {msg.noTimeOfDayNoAir}
        </p>
      )}
      <Question visit={visit} pad={pad} />
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
