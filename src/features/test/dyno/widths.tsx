'use client';

import { Collapse } from 'antd';
import type { SidesAnswer } from '@/core/inference/answer';
import { SIZES } from '@/core/inference/grid';
import { GROUPS } from '@/core/inference/study';
import { formatNumber } from '@/core/units/quantity';
import { aloneHalf, GROUP_WORDS } from '@/ui/answer/inference-words';
import styles from '../test.module.css';
import { msg } from './messages';

/** Shares smaller than this are not worth a row. */
const WORTH_A_ROW = 0.01;
const SIZE_NAMES = { run: 'run-to-run scatter', refit: 'a refit moves it by', day: 'a day moves it by' } as const;

/** What carries the width of an interval, largest first, as bars; and which sizes are measured, which assumed. */
export function Widths({ answer, unit = '%', factor = 1 }: { answer: SidesAnswer; unit?: string; factor?: number }) {
  const shares = GROUPS.filter((g) => answer.shares[g] >= WORTH_A_ROW).sort((a, b) => answer.shares[b] - answer.shares[a]);
  const text = (v: number): string => `${formatNumber(v * factor, 2)} ${unit}`;
  return (
    <div className={styles['widths']}>
      <table className="plain" aria-label={msg.whatMakesTheIntervalWide}>
        <thead>
          <tr>
            <th>{msg.whatMakesTheIntervalWide2}</th>
            <td />
            <th className="num">{msg.share}</th>
            <th className="num">{msg.alone}</th>
          </tr>
        </thead>
        <tbody>
          {shares.map((g) => (
            <tr key={g}>
              <td>{GROUP_WORDS[g].name}</td>
              <td>
                <span className={styles['share']} style={{ width: `${Math.round(120 * answer.shares[g])}px` }} />
              </td>
              <td className="num">{formatNumber(100 * answer.shares[g], 0)} %</td>
              <td className="num">{text(aloneHalf(answer, g))}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <Collapse
        ghost
        size="small"
        items={[
          {
            key: 'sizes',
            label: msg.whichSizesAreMeasuredWhichAssumed,
            children: (
              <ul className={styles['sizes']}>
                {SIZES.map((s) => {
                  const { sd, assumed, measured } = answer.sizes[s];
                  return (
                    <li key={s}>
                      {SIZE_NAMES[s]} {text(sd)}, {measured ? 'measured' : `assumed (${text(assumed)} before these runs)`}
                    </li>
                  );
                })}
                <li>{msg.repeatBaselinesTwoRunsEachAnd}</li>
              </ul>
            ),
          },
        ]}
      />
    </div>
  );
}
