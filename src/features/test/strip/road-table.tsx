'use client';

import type { StoredRun } from '@/core/documents/run';
import type { RoadRun } from '@/core/strip/road';
import { formatNumber, formatSigned } from '@/core/units/quantity';
import { roadWorking } from '@/core/working/strip-working';
import { useJob } from '@/features/job/provider';
import { Num } from '@/ui/working/provider';
import { msg } from './messages';
import styles from './strip.module.css';

/** Every run through the window: as it was run, on the flat, and how wrong each part of it may be. */
export function RoadTable({ rows }: { rows: readonly { readonly run: StoredRun; readonly r: RoadRun }[] }) {
  const road = useJob((s) => s.doc.test.road);
  return (
    <div className={styles['passes']}>
      <table className="plain">
        <thead>
          <tr>
            <th>{msg.log}</th>
            <th className="num">{msg.asRun}</th>
            <th className="num">{msg.climb}</th>
            <th className="num">{msg.onTheFlat}</th>
            <th className="num">{msg.gradeS}</th>
            <th className="num">{msg.windS}</th>
            <th className="num">{msg.rolloutS}</th>
            <th className="num">{msg.together}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ run, r }) => (
            <tr key={`${run.id}${r.from_s}`}>
              <td>
                <i className={styles['dot']} data-side={run.doc.side === null ? 'none' : run.doc.side.kind === 'stock' ? 'A' : 'B'} />
                {run.doc.name}
              </td>
              <td className="num">{formatNumber(r.time_s, 2)} s</td>
              <td className="num">
                {r.climb_m === null ? 'not known' : `${formatSigned(r.climb_m, 1)} m ${r.climbFrom === 'altitude' ? 'logged' : 'entered'}`}
              </td>
              <td className="num">
                <Num small label={`${run.doc.name} on the flat`} working={() => roadWorking(r, road)}>
                  {formatNumber(r.flat_s, 2)} s
                </Num>
              </td>
              <td className="num">{formatNumber(r.errors.grade_s, 2)}</td>
              <td className="num">{formatNumber(r.errors.wind_s, 2)}</td>
              <td className="num">{formatNumber(r.errors.rollout_s, 2)}</td>
              <td className="num">{formatNumber(r.errors.all_s, 2)} s</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
