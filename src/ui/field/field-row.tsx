'use client';

import { useState, type ReactNode } from 'react';
import type { Within } from '@/core/documents/within';
import { QuantityInput, type QuantityInputProps } from './quantity-input';
import styles from './field.module.css';

/** A labelled figure with its provenance and, when something is wrong, the reason right under it. */
export function FieldRow({ mark, ...input }: QuantityInputProps & { mark?: ReactNode }) {
  const [unread, setUnread] = useState<string | null>(null);
  const error = unread ?? input.wrong ?? null;
  return (
    <div className={styles['row']}>
      <div className={styles['name']}>
        {input.label}
        {mark}
      </div>
      <QuantityInput {...input} onWrong={setUnread} />
      {error && (
        <div className={styles['wrong']} role="alert">
          {error}
        </div>
      )}
    </div>
  );
}

/** A figure in a line or a table cell, whose name stands elsewhere; the reason right under it when something is wrong. */
export function BareField({ width, ...input }: QuantityInputProps & { width: number | '100%' }) {
  const [unread, setUnread] = useState<string | null>(null);
  const error = unread ?? input.wrong ?? null;
  return (
    <span className={styles['bare']} style={{ width }}>
      <QuantityInput {...input} onWrong={setUnread} />
      {error && (
        <span className={styles['wrong']} role="alert">
          {error}
        </span>
      )}
    </span>
  );
}

/** A bare figure that is written down once the hand leaves it, not at every digit; `same`: it is what it was. */
export function DoneField({
  value,
  same = Object.is,
  onDone,
  ...input
}: Pick<QuantityInputProps, 'label' | 'measure' | 'value' | 'disabled'> & {
  width: number;
  within: Within;
  same?: (typed: number, value: number | null) => boolean;
  onDone: (si: number) => void;
}) {
  const [typed, setTyped] = useState<number | null>(null);
  const done = (): void => {
    if (typed !== null && !same(typed, value)) onDone(typed);
    setTyped(null);
  };
  return (
    <span onBlur={done} onKeyDown={(e) => e.key === 'Enter' && done()}>
      <BareField {...input} value={typed ?? value} onChange={setTyped} onBack={() => setTyped(null)} />
    </span>
  );
}

/** A labelled control that is not a figure. */
export function ControlRow({
  label,
  mark,
  children,
  wrong,
}: {
  label: string;
  mark?: ReactNode;
  children: ReactNode;
  wrong?: string | undefined;
}) {
  return (
    <div className={styles['row']} data-wide="true">
      <div className={styles['name']}>
        {label}
        {mark}
      </div>
      <div>{children}</div>
      {wrong && (
        <div className={styles['wrong']} role="alert">
          {wrong}
        </div>
      )}
    </div>
  );
}
