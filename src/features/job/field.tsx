'use client';

import type { ReactNode } from 'react';
import type { JobPlace } from '@/core/documents/place';
import type { Provenance } from '@/core/documents/job';
import { PROVENANCE } from '@/core/documents/kinds';
import type { MeasureName } from '@/core/units/measures';
import { FieldRow } from '@/ui/field/field-row';
import { issueText } from '@/core/documents/issue-text';
import { usePrefs } from '@/ui/theme/prefs';
import { valueAt } from './paths';
import { useJob } from './provider';
import styles from '@/ui/field/field.module.css';

/** Where a figure of the car comes from; a click goes on to the next of measured, entered, assumed. */
export function Mark({ path }: { path: JobPlace }) {
  const key = path.replace(/^car\./, '');
  const mark: Provenance = useJob((s) => s.doc.marks[key] ?? 'assumed');
  const change = useJob((s) => s.change);
  const next = PROVENANCE[(PROVENANCE.indexOf(mark) + 1) % PROVENANCE.length]!;
  return (
    <button
      type="button"
      className={styles['mark']}
      data-mark={mark}
      aria-label={`${mark}, change to ${next}`}
      onClick={() => change((doc) => ({ ...doc, marks: { ...doc.marks, [key]: next } }))}
    >
      {mark}
    </button>
  );
}

/** A figure of the job document by its path. */
export function DocField({
  path,
  label,
  measure,
  nullable = false,
  placeholder,
  mark,
}: {
  path: JobPlace;
  label: string;
  measure: MeasureName;
  nullable?: boolean;
  placeholder?: string;
  mark?: ReactNode;
}) {
  const value = useJob((s) => valueAt(s.doc, path)) as number | null | undefined;
  const pending = useJob((s) => s.pending[path]);
  const { pack } = usePrefs();
  const set = useJob((s) => s.set);
  const back = useJob((s) => s.back);
  return (
    <FieldRow
      label={label}
      measure={measure}
      value={typeof pending?.value === 'number' ? pending.value : (value ?? null)}
      wrong={pending && issueText(pending, measure, pack)}
      placeholder={placeholder}
      onChange={(si) => set(path, si)}
      onBack={back}
      onClear={nullable ? () => set(path, path.includes('.join.') ? undefined : null) : undefined}
      mark={mark ?? (path.startsWith('car.') ? <Mark path={path} /> : undefined)}
    />
  );
}
