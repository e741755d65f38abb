'use client';

import { Button, Progress } from 'antd';
import { useMemo, useState } from 'react';
import { isFailure } from '@/core/failure';
import type { JobModel } from '@/core/job/model';
import { NO_DIFFERENCE, waveScore } from '@/core/job/wave-answer';
import { waveGain, wavesDecide } from '@/core/job/wave-gain';
import { waveSetup } from '@/core/job/wave-inlet';
import { knotCurve } from '@/core/numbers/curve';
import { peakGain } from '@/core/numbers/peak';
import { formatNumber, formatSigned } from '@/core/units/quantity';
import { useSideWaves } from '@/features/air/waves/use-side-waves';
import { useBand } from '@/features/air/waves/use-waves';
import { useJob } from '@/features/job/provider';
import { useSized } from '@/features/job/use-model';
import { Heading } from '@/ui/answer/stop-page';
import styles from './pick.module.css';
import { msg } from './messages';

const percent = (share: number | null): string => (share === null ? '—' : `${formatSigned(share * 100, 1)} %`);

interface WaveRow {
  readonly id: string;
  readonly name: string;
  readonly even: number | null;
  readonly peak: number | null;
  readonly band: number | null;
}

export interface WaveRows {
  readonly rows: readonly WaveRow[] | null;
  readonly band: readonly [number, number];
  readonly on: boolean;
  readonly ask: () => void;
  readonly progress: number | null;
  readonly assumed: number;
}

/** What each throttle on show does to the filling once the air comes in gulps; by itself where waves decide, else when asked for. */
export function useWaveRows(model: JobModel): WaveRows {
  const sized = useSized();
  const car = useJob((s) => s.doc.car);
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
    const now = waveScore(rpm, rpm.map(known), 'band', band);
    return model.candidates.map((side, k) => {
      const ratio = ratios[k];
      const filled = ratio && rpm.map((n) => known(n) * ratio.at(n));
      const then = filled ? waveScore(rpm, filled, 'band', band) : null;
      return {
        id: side.id,
        name: side.name,
        even: isFailure(side.solved) ? null : peakGain(side.solved.power_W, stock_W) / 100,
        peak: ratio ? peakGain(waveGain(model, ratio).other_W, stock_W) / 100 : null,
        band: now === null || then === null ? null : then / now - 1,
      };
    });
  }, [ratios, rpm, sized, model, band]);
  return useMemo(() => ({ rows, band, on, ask: () => setAsked(true), progress, assumed }), [rows, band, on, progress, assumed]);
}

/** From so much on the waves' figure at peak power is another than even flow's, as a share. */
const APART = 0.01;

/** Says what the waves make of even flow's best: that another comes out ahead between shifts, or that it brings another figure. */
export function aheadByWaves({ rows }: WaveRows, best: string | null): string {
  const told = (rows ?? []).flatMap((r) => (r.band === null ? [] : [{ ...r, band: r.band }]));
  const even = told.find((r) => r.id === best);
  if (!even) return '';
  const first = told.reduce((a, r) => (r.band > a.band ? r : a), even);
  if (first.band - even.band > NO_DIFFERENCE)
    return `With the waves ${first.name} comes out ahead between shifts, ${percent(first.band)} against ${percent(even.band)}: even flow does not see that.`;
  if (even.peak === null || even.even === null || Math.abs(even.peak - even.even) < APART) return '';
  return `With the waves ${even.name} brings ${percent(even.peak)} at peak power: even flow does not see the gulps.`;
}

/** What the waves say of the throttles on show, beside what even flow says of them. */
export function WaveGains({ model, waves }: { model: JobModel; waves: WaveRows }) {
  const { kind } = useJob((s) => s.doc.car.induction);
  const own = kind === 'individual';
  const { rows, band, on, ask, progress, assumed } = waves;
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
        <Button size="small" onClick={ask}>
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
