'use client';

import { Button } from 'antd';
import type { ReactNode } from 'react';
import type { JobPlace } from '@/core/documents/place';
import type { MeasureName } from '@/core/units/measures';
import { valueAt } from '@/features/job/paths';
import { useJob } from '@/features/job/provider';
import { issueText } from '@/core/documents/issue-text';
import { BareField } from '@/ui/field/field-row';
import { usePrefs } from '@/ui/theme/prefs';
import styles from './car.module.css';
import { msg } from './messages';

interface Knots {
  readonly rpm: readonly number[];
  readonly value: readonly number[];
}

/** Most points a curve is typed with. */
const MOST_KNOTS = 12;
/** A new point stands this far above the last, rpm. */
const NEXT_rpm = 300;

/**
 * A curve over engine speed, its points typed in place. A curve that cannot be (rpm that fall, a value out of range) stays
 * as it was typed, with the reason under it, until it can.
 */
export function KnotTable({
  path,
  label,
  measure,
  head,
  fewest,
  children,
}: {
  path: JobPlace;
  label: string;
  measure: MeasureName;
  head: ReactNode;
  fewest: number;
  children?: ReactNode;
}) {
  const { pack } = usePrefs();
  const kept = useJob((s) => valueAt(s.doc, path)) as Knots;
  const pending = useJob((s) => s.pending[path]);
  const set = useJob((s) => s.set);
  const curve = (pending?.value as Knots | undefined) ?? kept;
  const put = (list: 'rpm' | 'value', i: number, v: number): void =>
    set(path, { ...curve, [list]: curve[list].map((x, k) => (k === i ? v : x)) });
  const at = pending?.path.slice(path.length + 1);
  const placed = at !== undefined && /^(rpm|value)\.\d+$/.test(at);
  const wrong = pending && issueText(pending, pending.path.includes('.rpm') ? 'rpm' : measure, pack);
  const wrongAt = (list: 'rpm' | 'value', i: number): string | undefined => (at === `${list}.${i}` ? wrong : undefined);
  const last = curve.rpm.length - 1;
  return (
    <>
      <table className={styles['ve']}>
        <thead>
          <tr>
            <th>{msg.rpm}</th>
            <th>{head}</th>
          </tr>
        </thead>
        <tbody>
          {curve.rpm.map((rpm, i) => (
            <tr key={i}>
              <td>
                <BareField
                  width="100%"
                  label={`${label} point ${i + 1}, rpm`}
                  measure="rpm"
                  value={rpm}
                  wrong={wrongAt('rpm', i)}
                  onChange={(v) => put('rpm', i, v)}
                />
              </td>
              <td>
                <BareField
                  width="100%"
                  label={`${label} point ${i + 1}`}
                  measure={measure}
                  value={curve.value[i]!}
                  wrong={wrongAt('value', i)}
                  onChange={(v) => put('value', i, v)}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {children}
      {wrong && !placed && (
        <p role="alert" className={styles['wrong']}>
          {wrong}
        </p>
      )}
      <div className={styles['tools']}>
        <Button
          size="small"
          disabled={curve.rpm.length >= MOST_KNOTS}
          onClick={() => set(path, { rpm: [...curve.rpm, curve.rpm[last]! + NEXT_rpm], value: [...curve.value, curve.value[last]!] })}
        >
          {msg.addAPoint}
        </Button>
        <Button
          size="small"
          disabled={curve.rpm.length <= fewest}
          onClick={() => set(path, { rpm: curve.rpm.slice(0, -1), value: curve.value.slice(0, -1) })}
        >
          {msg.takeTheLastOut}
        </Button>
      </div>
    </>
  );
}
