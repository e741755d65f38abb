'use client';

import { useMemo } from 'react';
import { windowRemedies, type JobBounds, type Remedy } from '@/core/job/bounds';
import type { JobModel } from '@/core/job/model';
import { coarse } from '@/core/units/measures';
import { formatQuantity } from '@/core/units/quantity';
import { boundWorking, type BoundKey } from '@/core/working/bore-working';
import { useJob } from '@/features/job/provider';
import { useSized } from '@/features/job/use-model';
import { Heading } from '@/ui/answer/stop-page';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import styles from './pick.module.css';
import { Term } from '@/features/thinking/term';
import { msg } from './messages';

const BOUND_WORDS: Readonly<Record<BoundKey, string>> = {
  loss: 'pressure lost',
  gasSpeed: 'gas speed',
  bench: 'bench flow',
  power: 'power left',
  idle: 'idle',
  tipIn: 'tip-in',
  fit: 'fit',
};

const REMEDY: Readonly<Record<Remedy['kind'], string>> = {
  'electronic control': 'an electronic throttle, which can be remapped',
  'sealed blade': 'a sealed blade',
  'more loss allowed': 'allowing more loss',
  'larger flange': 'a flange that takes a larger bore',
};

/** The seven bounds on the bore, which two decide, and what would open a window that is empty. */
export function WindowPanel({ model, bounds }: { model: JobModel; bounds: JobBounds }) {
  const { pack } = usePrefs();
  const sized = useSized();
  const marks = useJob((s) => s.doc.marks);
  const { lowerBy, upperBy, empty } = bounds.window;
  const bore = (m: number | null): string => (m === null ? '—' : formatQuantity(m, 'bore', pack, coarse('bore', pack)));
  const rows: { key: BoundKey; value: number | null; side: '≥' | '≤' }[] = [
    { key: 'loss', value: bounds.loss_m, side: '≥' },
    { key: 'gasSpeed', value: bounds.gasSpeed_m, side: '≥' },
    { key: 'bench', value: bounds.bench_m, side: '≥' },
    { key: 'power', value: bounds.power_m, side: '≥' },
    { key: 'idle', value: bounds.idle_m, side: '≤' },
    { key: 'tipIn', value: bounds.tipIn_m, side: '≤' },
    { key: 'fit', value: bounds.fit_m, side: '≤' },
  ];
  // Each remedy tried is a window of its own: not for every frame of a drag.
  const remedies = useMemo(() => (empty ? windowRemedies(sized, model, bounds) : []), [empty, sized, model, bounds]);
  return (
    <>
      <Heading more={<span className="quiet">{msg.bore}</span>}>
        <Term name="bores that suit">{msg.boresThatSuit}</Term>
      </Heading>
      <table className={`plain ${styles['bounds']}`}>
        <tbody>
          {rows.map((r) => (
            <tr key={r.key} data-binds={r.key === lowerBy || r.key === upperBy}>
              <td>{BOUND_WORDS[r.key]}</td>
              <td className="num">
                {r.value === null ? (
                  <span className="quiet">{r.key === 'fit' ? 'not known' : 'no bound'}</span>
                ) : (
                  <Num small label={`bound by ${BOUND_WORDS[r.key]}`} working={() => boundWorking({ ...sized, marks }, bounds, r.key)}>
                    {r.side} {bore(r.value)}
                  </Num>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {empty && lowerBy && upperBy && (
        <p role="status" style={{ fontSize: 13, marginTop: 6 }}>
          <strong>{msg.nothingSuitsBoth}</strong> {BOUND_WORDS[lowerBy]} {msg.wantsMoreThan} {BOUND_WORDS[upperBy]} {msg.allows}{' '}
          {remedies.length > 0
            ? `It would open with ${remedies.map((r) => `${REMEDY[r.kind]}${r.bound_m === null ? '' : ` (${bore(r.bound_m)})`}`).join(', or ')}.`
            : 'Accept one side, or change the path ahead.'}
        </p>
      )}
    </>
  );
}
