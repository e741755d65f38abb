'use client';

import { Select, type SelectProps } from 'antd';
import type { ReactNode } from 'react';
import { ControlRow } from './field-row';

/** A labelled choice from a list, as wide as its row; everything else is the list's own. */
export function ChoiceField<T>({
  label,
  mark,
  wrong,
  ...list
}: Omit<SelectProps<T>, 'aria-label' | 'style' | 'mode'> & { label: string; mark?: ReactNode; wrong?: string | undefined }) {
  return (
    <ControlRow label={label} mark={mark} wrong={wrong}>
      <Select<T> aria-label={label} style={{ width: '100%' }} {...list} />
    </ControlRow>
  );
}
