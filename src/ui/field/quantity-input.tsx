'use client';

import { useId, useRef, useState, type KeyboardEvent } from 'react';
import { wantedText } from '@/core/documents/issue-text';
import { notWithin, type Within } from '@/core/documents/within';
import { shownUnit, type MeasureName } from '@/core/units/measures';
import { fieldText, formatNumber, formatQuantity, MORE_DECIMALS, parseQuantity, withoutSign, type ParseIssue } from '@/core/units/quantity';
import { fromSI, toSI } from '@/core/units/units';
import { unitsItFits } from '@/core/units/usual';
import { usePrefs } from '../theme/prefs';
import styles from './field.module.css';
import { useInGroup } from './group';
import { msg } from './messages';

/** The sentence for a figure that cannot be read: what is wrong and how to mend it. */
function parseIssueText(issue: ParseIssue): string {
  if (issue.code === 'empty') return 'A figure is needed here.';
  if (issue.code === 'not_a_number') return `"${issue.text}" is not a number. Type digits, with a unit behind them if you like.`;
  return `"${issue.word}" is not a unit for this. Known here: ${issue.known.join(', ')}.`;
}

interface FieldProps {
  readonly label: string;
  readonly value: number | null;
  readonly measure: MeasureName;
  readonly onChange: (si: number) => void;
  /** What was passed on since the field was entered does not stand after all; left out: the figure of then is passed on again. */
  readonly onBack?: (() => void) | undefined;
  /** Offered where the figure may be left empty. */
  readonly onClear?: (() => void) | undefined;
  readonly placeholder?: string | undefined;
  readonly disabled?: boolean | undefined;
  readonly onWrong?: ((text: string | null) => void) | undefined;
  readonly id?: string | undefined;
}

/** Who says that a figure cannot be: the document it is a part of, or bounds of the field's own. A field has one of them. */
export type QuantityInputProps = FieldProps &
  (
    | { /** What is wrong with the last value given, from outside. */ readonly wrong: string | undefined; readonly within?: undefined }
    | { /** What it may be, SI: anything else is refused here, and not passed on. */ readonly within: Within; readonly wrong?: undefined }
  );

/**
 * One figure in any unit. Every keystroke that reads as a number is passed on at once; text that does not stays in place
 * with the reason, and nothing is passed on.
 */
export function QuantityInput({
  label,
  value,
  measure,
  onChange,
  onBack,
  onClear,
  wrong,
  within,
  placeholder,
  disabled,
  onWrong,
  id,
}: QuantityInputProps) {
  const { pack, currency } = usePrefs();
  const own = useId();
  const [text, setText] = useState<string | null>(null);
  const [unread, setUnread] = useState<string | null>(null);
  /** The figure as it was when the field was entered, and whether another was passed on since. */
  const before = useRef(value);
  const passed = useRef(false);
  const [hint, setHint] = useState<Hint | null>(null);
  const { unit, decimals } = shownUnit(measure, pack);
  // No thousands commas in a field: half-edited, "1,23" would read as 1.23.
  const fixed = value === null ? '' : fieldText(value, measure, pack);
  const shown = measure === 'axis' && fixed !== '' ? String(Number(fixed)) : fixed;
  const error = unread ?? wrong ?? null;
  useInGroup(own, error !== null);
  const report = (message: string | null): void => {
    setUnread(message);
    onWrong?.(message);
    if (message === null || !passed.current) return;
    // The first digits of what is not taken were: they were never meant.
    passed.current = false;
    if (onBack) onBack();
    else if (before.current === null) onClear?.();
    else onChange(before.current);
  };
  const pass = (si: number): void => {
    passed.current = true;
    onChange(si);
  };
  /** Passes a figure on, or says why it is not taken. */
  const give = (si: number): void => {
    const wanted = within ? notWithin(si, within) : null;
    report(wanted && wantedText(wanted, (bound) => formatQuantity(bound, measure, pack)));
    if (!wanted) pass(si);
  };
  const read = (next: string): void => {
    setText(next);
    setHint(null);
    if (next.trim() === '' && onClear) {
      report(null);
      passed.current = true;
      onClear();
      return;
    }
    const money = measure === 'money';
    const foreign = money ? foreignSign(next, currency) : null;
    if (foreign !== null)
      return report(
        `“${foreign}” is not this shop’s sign, which is ${currency}. Amounts are not converted: type what it is in ${currency}.`,
      );
    const parsed = parseQuantity(money ? withoutSign(next, currency) : next, measure, pack);
    if (!parsed.ok) {
      const { issue } = parsed;
      return report(parseIssueText(money && issue.code === 'unknown_unit' ? { ...issue, known: [currency] } : issue));
    }
    give(parsed.si);
    const value = fromSI(parsed.si, parsed.unit);
    const fits = parsed.bare ? unitsItFits(value, measure, pack) : [];
    if (parsed.two) setHint({ kind: 'two', ...parsed.two, unit: parsed.unit.label });
    else if (fits.length > 0) setHint({ kind: 'unit', value, units: fits.map((u) => u.label), shown: parsed.unit.label });
  };
  const nudge = (e: KeyboardEvent<HTMLInputElement>): void => {
    const direction = e.key === 'ArrowUp' ? 1 : e.key === 'ArrowDown' ? -1 : 0;
    if (direction === 0 || value === null) return;
    e.preventDefault();
    const step = (decimals === 0 ? (measure === 'rpm' ? 50 : 1) : 10 ** -decimals) * (e.shiftKey ? 10 : 1);
    // From what stands there: one step on from 8.25 is 9.25, and from a converted 13.78 it is 13.79.
    const next = toSI(Number((Number(fieldText(value, measure, pack)) + direction * step).toFixed(decimals + MORE_DECIMALS)), unit);
    setText(fieldText(next, measure, pack));
    give(next);
  };
  return (
    <div className={styles['holder']}>
      <div className={styles['box']} data-wrong={error !== null}>
        <input
          id={id ?? own}
          className={styles['input']}
          aria-label={label}
          aria-invalid={error !== null}
          inputMode="decimal"
          autoComplete="off"
          spellCheck={false}
          placeholder={placeholder}
          disabled={disabled}
          value={text ?? shown}
          onFocus={(e) => {
            before.current = value;
            passed.current = false;
            e.currentTarget.select();
          }}
          onChange={(e) => read(e.target.value)}
          onKeyDown={nudge}
          onBlur={() => {
            if (error === null) setText(null);
          }}
        />
        <span className={styles['unit']}>{measure === 'money' ? currency : unit.label}</span>
      </div>
      {hint && <FieldHint hint={hint} onTake={read} />}
    </div>
  );
}

/** What is to be said of a figure as it was read: another reading, or a unit in which it would be a usual one. */
type Hint =
  | { readonly kind: 'two'; readonly value: number; readonly also: number; readonly unit: string }
  | { readonly kind: 'unit'; readonly value: number; readonly units: readonly string[]; readonly shown: string };

function FieldHint({ hint, onTake }: { hint: Hint; onTake: (text: string) => void }) {
  if (hint.kind === 'two')
    return (
      <p className={styles['hint']} role="status">
        {msg.readAs} {formatNumber(hint.value, Number.isInteger(hint.value) ? 0 : 3)} {hint.unit}.{' '}
        <button type="button" onClick={() => onTake(`${hint.also}${Number.isInteger(hint.also) ? '' : '0'} ${hint.unit}`.trim())}>
          {formatNumber(hint.also, Number.isInteger(hint.also) ? 0 : 3)} {hint.unit}
        </button>
        ?
      </p>
    );
  return (
    <p className={styles['hint']} role="status">
      {msg.unusualIn} {hint.shown}
      {msg.meant}{' '}
      {hint.units.map((u, i) => (
        <span key={u}>
          {i > 0 && ' or '}
          <button type="button" onClick={() => onTake(`${hint.value} ${u}`)}>
            {hint.value} {u}
          </button>
        </span>
      ))}
      ?
    </p>
  );
}

/** A sign of money in a typed amount that is not the shop's; null: there is none. */
function foreignSign(text: string, currency: string): string | null {
  const sign = /\p{Sc}/u.exec(withoutSign(text, currency))?.[0] ?? null;
  return sign === currency ? null : sign;
}
