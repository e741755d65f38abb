'use client';

import type { Remote } from 'comlink';
import { useEffect, useState } from 'react';
import { ENGINE_SPEED_rpm } from '@/core/documents/within';
import type { LogLook } from '@/core/logs/compare-logs';
import type { ValueAt } from '@/core/logs/value-at';
import type { Quantity, StoredRun } from '@/core/documents/run';
import { isFailure, type Failure } from '@/core/failure';
import { formatNumber } from '@/core/units/quantity';
import { Heading } from '@/ui/answer/stop-page';
import { FieldRow } from '@/ui/field/field-row';
import { usePrefs } from '@/ui/theme/prefs';
import type { LogApi } from './log.worker';
import type { ShownPull } from './pulls';
import { shownQuantity } from './quantities';
import styles from './log.module.css';
import { msg } from './messages';

/** Every channel as the pull passes one engine speed; those that were held are marked and not to be believed. */
export function ValuesAt({
  api,
  run,
  pull,
  intervals,
}: {
  api: Remote<LogApi>;
  run: StoredRun;
  pull: ShownPull;
  intervals: LogLook['intervals'];
}) {
  const { pack } = usePrefs();
  const middle = pull.from_rpm !== null && pull.to_rpm !== null ? Math.round((pull.from_rpm + pull.to_rpm) / 200) * 100 : 4000;
  const [rpm, setRpm] = useState(middle);
  const [found, setFound] = useState<readonly { quantity: Quantity; at: ValueAt | Failure }[]>([]);
  useEffect(() => {
    let current = true;
    api
      .values(run, pull, rpm, intervals)
      .then((list) => current && setFound(list))
      // The traces above say that the server is away.
      .catch(() => {});
    return () => {
      current = false;
    };
  }, [api, run, pull, rpm, intervals]);
  const unreached = found.length > 0 && found.every(({ at }) => isFailure(at) && at.error === 'rpm_not_reached');
  return (
    <div>
      <Heading>{msg.valuesAtAnEngineSpeed}</Heading>
      <FieldRow label={msg.asThePullPasses} measure="rpm" value={rpm} within={ENGINE_SPEED_rpm} onChange={(v) => setRpm(Math.round(v))} />
      {unreached ? (
        <p className="quiet">
          {msg.thePullNeverReaches} {formatNumber(rpm, 0)} {msg.rpm2}
        </p>
      ) : (
        <table className="plain">
          <tbody>
            {found.map(({ quantity, at }) => {
              const { show, unit, label, decimals } = shownQuantity(quantity, pack);
              return (
                <tr key={quantity}>
                  <td>{label}</td>
                  <td className="num">{isFailure(at) ? '—' : `${formatNumber(show(at.value), Math.max(1, decimals))} ${unit}`}</td>
                  <td className={isFailure(at) || at.stale ? styles['stale'] : 'quiet'}>
                    {isFailure(at) ? 'no sample there' : at.stale ? 'held, not measured there' : ''}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
    </div>
  );
}
