'use client';

import { useMemo } from 'react';
import type { StoredUnit } from '@/core/documents/unit';
import { isFailure } from '@/core/failure';
import { boringPlan, LEAST_GAIN_pct_per_mm, type BoringPlan } from '@/core/fit/boring';
import { jobModel } from '@/core/job/model';
import { gainOfOpening } from '@/core/job/opened';
import { effectiveOpening, grossBore } from '@/core/documents/openings';
import { formatNumber, formatQuantity, formatSigned } from '@/core/units/quantity';
import { biteWorking } from '@/core/working/bore-working';
import { DocField } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { useSized } from '@/features/job/use-model';
import { Heading } from '@/ui/answer/stop-page';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import styles from './fit.module.css';
import { msg } from './messages';

function stopText(plan: BoringPlan, target: string, wall: string): string {
  if (plan.endedBy === 'wall') return `Stop there: the next cut would leave less than ${wall} of wall.`;
  if (plan.endedBy === 'no more gain')
    return `Stop there: the next cut brings less than ${formatNumber(LEAST_GAIN_pct_per_mm, 2)} % a millimetre.`;
  return `The last cut reaches the throttle’s own ${target}.`;
}

/** Opening the manifold bite by bite: what each is worth by the ladder, the wall it leaves, and where to stop. */
export function Boring({ unit }: { unit: StoredUnit }) {
  const { pack } = usePrefs();
  const sized = useSized();
  const boring = useJob((s) => s.doc.fit.boring);
  const target = grossBore(unit.doc.throttle);
  const plan = useMemo(() => {
    const model = jobModel(sized, []);
    if (isFailure(model)) return null;
    const made = boringPlan({
      from_m: effectiveOpening(sized),
      to_m: target,
      bite_m: boring.bite_m,
      wall_m: boring.wall_m,
      leastWall_m: boring.leastWall_m,
      gainAt: gainOfOpening(sized, model, unit.doc),
    });
    return isFailure(made) ? null : made;
  }, [sized, target, boring, unit]);
  if (!plan) return null;
  const last = plan.steps.at(-1);
  return (
    <section>
      <Heading
        more={
          <span className="quiet">
            {msg.predicted} {unit.doc.name} {msg.onIt}
          </span>
        }
      >
        {msg.boringTheManifoldCutByCut}
      </Heading>
      <div className={styles['boring']}>
        <div>
          {last ? (
            <table className="plain">
              <thead>
                <tr>
                  <th className="num">{msg.bore}</th>
                  <th className="num">{msg.wallLeft}</th>
                  <th className="num">{msg.atPeak}</th>
                  <th className="num">{msg.aMillimetreBrings}</th>
                </tr>
              </thead>
              <tbody>
                {plan.steps.map((s, i) => (
                  <tr key={s.opening_m}>
                    <td className="num">{formatQuantity(s.opening_m, 'bore', pack)}</td>
                    <td className="num">{s.wall_m === null ? '—' : formatQuantity(s.wall_m, 'bore', pack)}</td>
                    <td className="num">{s.gain_pct === null ? 'chokes' : formatSigned(s.gain_pct, 1, '%')}</td>
                    <td className="num">
                      {s.perMillimetre_pct === null ? (
                        '—'
                      ) : (
                        <Num
                          small
                          label={`cut to ${formatQuantity(s.opening_m, 'bore', pack)}`}
                          working={() => biteWorking(s, plan.steps[i - 1] ?? plan.start, plan.start.opening_m, boring.wall_m)}
                        >
                          {formatSigned(s.perMillimetre_pct, 2, '%')}
                        </Num>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          ) : (
            <p>{msg.nothingCanBeCut}</p>
          )}
          <p style={{ marginTop: 8 }}>
            {stopText(plan, formatQuantity(target, 'bore', pack), formatQuantity(boring.leastWall_m, 'bore', pack))}
          </p>
        </div>
        <div>
          <DocField path="fit.boring.bite_m" label={msg.cutInDiameter} measure="bore" />
          <DocField path="fit.boring.wall_m" label={msg.wallThereIsNow} measure="bore" nullable placeholder={msg.notYet} />
          <DocField path="fit.boring.leastWall_m" label={msg.wallToBeLeft} measure="bore" />
          <p className="quiet" style={{ fontSize: 13, marginTop: 6 }}>
            {msg.measureTheWallAtItsThinnest}
          </p>
        </div>
      </div>
    </section>
  );
}
