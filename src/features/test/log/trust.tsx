'use client';

import { App, Button } from 'antd';
import type { LogLook } from '@/core/logs/compare-logs';
import type { StoredRun } from '@/core/documents/run';
import { formatNumber, formatQuantity, formatSigned } from '@/core/units/quantity';
import { useJobStore, useRuns } from '@/features/job/provider';
import { Heading, Pair } from '@/ui/answer/stop-page';
import { usePrefs } from '@/ui/theme/prefs';
import { saveRun } from '../files/save-run';
import { quantityName } from './quantities';
import { msg } from './messages';

const rate = (interval_s: number): string => (interval_s > 0 ? `${formatNumber(1 / interval_s, interval_s < 0.5 ? 0 : 1)} Hz` : '—');

/** Logged air beside what the model's engine needs. */
function modelWords({ meter, cylinder }: NonNullable<LogLook['againstModel']>): string {
  const parts = [
    meter !== null && `the meter reads ${formatSigned(100 * (meter - 1), 1, '%')}`,
    cylinder !== null && `air per cylinder comes to ${formatSigned(100 * (cylinder - 1), 1, '%')}`,
  ].filter((t): t is string => t !== false);
  return `Against what the model’s stock engine needs over the pull, ${parts.join(', ')}.`;
}

/** How far a log's channels can be believed: their rates, how late they are, whether two ways of logging air agree. */
export function Trust({ look, run }: { look: LogLook; run: StoredRun }) {
  const { pack } = usePrefs();
  const { setRuns } = useRuns();
  const store = useJobStore();
  const { message } = App.useApp();
  const takeKeyOn = (): void => {
    saveRun(run, { ...run.doc, keyOn_Pa: look.keyOn_Pa })
      .then((saved) => {
        setRuns((list) => list.map((r) => (r.id === run.id ? saved.run : r)));
        store.setState({ findings: saved.findings });
      })
      .catch((e: Error) => message.error(e.message));
  };
  return (
    <>
      <Heading>{msg.canItBeBelieved}</Heading>
      {look.intervals.map(({ quantity, interval_s }) => {
        const lag = look.lags.find((l) => l.quantity === quantity)?.lag;
        return (
          <Pair key={quantity} name={quantityName(quantity)}>
            <span>
              {rate(interval_s)}
              {lag && Math.abs(lag.lag_s) >= 0.01 && `, ${formatNumber(Math.abs(lag.lag_s), 2)} s ${lag.lag_s > 0 ? 'late' : 'early'}`}
            </span>
          </Pair>
        );
      })}
      {look.air && (
        <p>
          {look.air.flagged
            ? `Air per cylinder and the meter wander by ${formatNumber(100 * look.air.wander, 1)} % against one another over the pull: one of them is late or wrong, neither belongs in a verdict.`
            : `Air per cylinder comes to ${formatSigned(100 * (look.air.meanRatio - 1), 1, '%')} of the meter, steadily: a matter of scaling.`}
        </p>
      )}
      {look.againstModel && (look.againstModel.meter !== null || look.againstModel.cylinder !== null) && (
        <p>{modelWords(look.againstModel)}</p>
      )}
      {look.keyOn_Pa !== null && (
        <Pair name="manifold sensor, key on">
          <span>{formatQuantity(look.keyOn_Pa, 'barometer', pack)}</span>
        </Pair>
      )}
      {look.keyOn_Pa !== null && run.doc.keyOn_Pa !== look.keyOn_Pa && (
        <Button size="small" onClick={takeKeyOn}>
          {msg.takeDepressionsAgainstIt}
        </Button>
      )}
      {look.pedal && look.pedal.heldBack > 0.02 && (
        <p>
          {msg.withThePedalDownTheThrottle} {formatNumber(100 * look.pedal.heldBack, 0)} {msg.ofTheTime}
          {look.pedal.heldBackFrom_s !== null && `, first at ${formatNumber(look.pedal.heldBackFrom_s, 1)} s`}
          {msg.aLimitInTheTuneNot}
        </p>
      )}
    </>
  );
}
