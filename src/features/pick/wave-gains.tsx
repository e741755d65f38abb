'use client';

import { Button, Progress } from 'antd';
import { useMemo, useState } from 'react';
import { isFailure } from '@/core/failure';
import type { JobModel } from '@/core/job/model';
import { waveScore } from '@/core/job/wave-answer';
import { wavesDecide } from '@/core/job/wave-gain';
import { waveSetup } from '@/core/job/wave-inlet';
import { knotCurve } from '@/core/numbers/curve';
import { peakGain, peakIndex } from '@/core/numbers/peak';
import { formatNumber, formatSigned } from '@/core/units/quantity';
import { useSideWaves } from '@/features/air/waves/use-side-waves';
import { useBand } from '@/features/air/waves/use-waves';
import { useJob } from '@/features/job/provider';
import { useSized } from '@/features/job/use-model';
import { Heading } from '@/ui/answer/stop';
import styles from './pick.module.css';
import { msg } from './messages';

const percent = (share: number | null): string => (share === null ? '—' : `${formatSigned(share * 100, 1)} %`);

/**
 * What each throttle on show does to the filling once the air comes in gulps, beside what even flow says of it. By itself for
 * individual throttles and four cylinders or fewer; for others when asked for.
 */
export function WaveGains({ model }: { model: JobModel }) {
  const sized = useSized();
  const car = useJob((s) => s.doc.car);
  const { kind } = car.induction;
  const own = kind === 'individual';
  const band = useBand(model);
  const [asked, setAsked] = useState(false);
  const on = wavesDecide(car) || asked;
  const { rpm, ratios, progress, assumed } = useSideWaves(model, on);
  const rows = useMemo(() => {
    const setup = waveSetup(sized, model);
    if (!ratios || isFailure(setup)) return null;
    const known = knotCurve({ rpm: model.rpm, value: setup.known });
    if (isFailure(known)) return null;
    const stock_W = model.reference.result.power_W;
    const peak_rpm = model.rpm[peakIndex(stock_W)]!;
    const now = waveScore(rpm, rpm.map(known), 'band', band);
    return model.candidates.map((side, k) => {
      const ratio = ratios[k];
      const filled = ratio && rpm.map((n) => known(n) * ratio.at(n));
      const then = filled ? waveScore(rpm, filled, 'band', band) : null;
      return {
        id: side.id,
        name: side.name,
        even: isFailure(side.solved) ? null : peakGain(side.solved.power_W, stock_W) / 100,
        peak: ratio ? ratio.at(peak_rpm) - 1 : null,
        band: now === null || then === null ? null : then / now - 1,
      };
    });
  }, [ratios, rpm, sized, model, band]);
  const lengthOpen = [model.stock, ...model.candidates].some((side) => (side.fitted.length_m ?? null) === null);
  // A blower behind the throttle keeps the waves from it.
  if (model.candidates.length === 0 || kind === 'drawThrough') return null;
  return (
    <section style={{ marginTop: 16 }}>
      <Heading
        more={
          <span className="quiet">{`filling beside stock, between shifts ${formatNumber(Math.round(band[0] / 50) * 50, 0)} to ${formatNumber(Math.round(band[1] / 50) * 50, 0)} rpm`}</span>
        }
      >
        {msg.withWaves}
      </Heading>
      {!on && (
        <Button size="small" onClick={() => setAsked(true)}>
          {msg.computeTheWaves}
        </Button>
      )}
      {on && progress !== null && (
        <span className={styles['progress']}>
          <Progress percent={Math.round(100 * progress)} size="small" aria-label={msg.withWaves} />
        </span>
      )}
      {rows && (
        <>
          <table className="plain">
            <thead>
              <tr>
                <th>{msg.throttle}</th>
                <th className="num">{msg.evenFlowPeakPower}</th>
                <th className="num">{msg.wavesAtPeakPower}</th>
                <th className="num">{msg.wavesBetweenShifts}</th>
              </tr>
            </thead>
            <tbody>
              {rows.map((r) => (
                <tr key={r.id}>
                  <td>{r.name}</td>
                  <td className="num">{percent(r.even)}</td>
                  <td className="num">{percent(r.peak)}</td>
                  <td className="num">{percent(r.band)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="quiet">
            {own ? msg.gulpsOfItsOwn : msg.gulpsShared}
            {assumed > 0 &&
              ` ${assumed === 1 ? 'One figure' : `${assumed} figures`} of the inlet ${assumed === 1 ? 'is' : 'are'} assumed (Air, Waves).`}
            {own && lengthOpen && ` ${msg.lengthAsStock}`}
          </p>
        </>
      )}
    </section>
  );
}
