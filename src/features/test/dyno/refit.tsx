'use client';

import { App, Button } from 'antd';
import { useMemo, useState } from 'react';
import type { SideExtra } from '@/core/compare/extras';
import type { SideComparison } from '@/core/compare/sides';
import type { StoredRun } from '@/core/documents/run';
import { isFailure } from '@/core/failure';
import { issueLine } from '@/core/documents/issue-text';
import { jobModel } from '@/core/job/model';
import { baselineCurve, DRIVELINE_LOSS, lossRefit, refitted } from '@/core/job/refit';
import { airOf } from '@/core/runs/air';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { useJob, useRuns } from '@/features/job/provider';
import { useSized } from '@/features/job/use-model';
import { Heading, Pair } from '@/ui/answer/stop-page';
import { failureText } from '@/ui/answer/words';
import { FieldRow } from '@/ui/field/field-row';
import { FieldGroup } from '@/ui/field/group';
import { usePrefs } from '@/ui/theme/prefs';
import type { PreparedRun } from './compare.worker';
import styles from '../test.module.css';
import { msg } from './messages';

/** The stock side's mean as it was measured: each run's correction undone again. */
function uncorrectedMean(c: SideComparison, stock: readonly PreparedRun[]): number[] {
  const factor = stock.reduce((s, p) => s + p.factor, 0) / Math.max(1, stock.length);
  return c.a_W.map((w) => w / factor);
}

/** The baseline runs teach the model: its efficiency, and what its path really loses, so that the next prediction is better. */
export function Refit({
  c,
  extras,
  stockRuns,
  prepared,
}: {
  c: SideComparison;
  extras: readonly SideExtra[];
  stockRuns: readonly StoredRun[];
  prepared: readonly PreparedRun[];
}) {
  const { pack } = usePrefs();
  const { message } = App.useApp();
  const { runs } = useRuns();
  const sized = useSized();
  const doc = useJob((s) => s.doc);
  const change = useJob((s) => s.change);
  const [loss, setLoss] = useState(DRIVELINE_LOSS);
  const depression = extras.find((e) => e.kind === 'depression' && e.a !== null);
  const found = useMemo(() => {
    if (!depression) return null;
    const model = jobModel(sized, []);
    return isFailure(model) ? null : lossRefit(model, sized.air.lossFactor, depression.rpm, depression.a!);
  }, [depression, sized]);
  const at = stockRuns.find((r) => airOf(r.doc));
  const air = at ? airOf(at.doc) : null;
  const wheels = at?.doc.measuredAt !== 'crank';
  const known = doc.car.measured.power?.source.startsWith('mean of') ?? false;
  const refit = (): void => {
    if (!at || !air) return;
    const stock = prepared.filter((p) => stockRuns.some((r) => r.id === p.id));
    const curve = baselineCurve(
      {
        rpm: c.grid_rpm,
        power_W: uncorrectedMean(c, stock),
        runs: stockRuns.length,
        day: at.doc.takenOn,
        weather: air,
      },
      doc.car,
      wheels ? loss : 0,
    );
    if (isFailure(curve)) return void message.error(failureText(curve, pack));
    const wrong = change((d) => refitted(d, curve));
    if (wrong) void message.error(issueLine(wrong, pack));
    else void message.success('The car’s efficiency now stands on these runs. Undo takes it back.');
  };
  return (
    <>
      <Heading>{msg.teachTheModel}</Heading>
      <p className={styles['note']}>
        {known
          ? `The car stands on its baseline: ${doc.car.measured.power!.source}.`
          : 'The stock runs can replace the car’s assumed efficiency, so that the next prediction starts from what was measured.'}
      </p>
      <FieldGroup>
        {(wrong) => (
          <>
            {wheels && (
              <FieldRow
                label={msg.drivetrainLossCrankToWheels}
                measure="fineShare"
                value={loss}
                within={{ least: 0, less: 0.4 }}
                onChange={setLoss}
              />
            )}
            <Button size="small" disabled={wrong || !at || runs.length === 0} onClick={refit}>
              {msg.fitTheEfficiencyToTheStock}
            </Button>
          </>
        )}
      </FieldGroup>
      {!at && <p className="quiet">{msg.aStockRunNeedsItsWeather}</p>}
      {found && (
        <>
          <Pair name={`depression at ${formatNumber(found.rpm, 0)} rpm, measured`}>
            <span>{formatQuantity(found.measured_Pa, 'loss', pack)}</span>
          </Pair>
          <Pair name="the model’s path loses">
            <span>{formatQuantity(found.modelled_Pa, 'loss', pack)}</span>
          </Pair>
          <Button
            size="small"
            disabled={Math.abs(found.factor / sized.air.lossFactor - 1) < 0.01}
            onClick={() => {
              const wrong = change((d) => ({ ...d, air: { ...d.air, lossFactor: Math.round(found.factor * 1000) / 1000 } }));
              if (wrong) void message.error(issueLine(wrong, pack));
            }}
          >
            {msg.scaleThePathsLossesBy} {formatNumber(found.factor, 2)}
          </Button>
        </>
      )}
    </>
  );
}
