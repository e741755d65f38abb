'use client';

import { Button, Progress } from 'antd';
import { useMemo, useState } from 'react';
import { isFailure } from '@/core/failure';
import type { JobModel, ModelSide } from '@/core/job/model';
import { waveScore } from '@/core/job/wave-answer';
import { waveSetup } from '@/core/job/wave-inlet';
import type { WaveEngine } from '@/core/waves/input';
import { knotCurve } from '@/core/numbers/curve';
import { peakGain, peakIndex } from '@/core/numbers/peak';
import { formatNumber, formatSigned } from '@/core/units/quantity';
import { curveSpeeds, useBand, useTasks } from '@/features/air/waves/use-waves';
import { useJob } from '@/features/job/provider';
import { useSized } from '@/features/job/use-model';
import { Heading } from '@/ui/answer/stop';
import styles from './pick.module.css';
import { msg } from './messages';

/** Engine speeds at which each throttle on show is tried. */
const SPEEDS = 12;
/** With so few cylinders the gulps of each reach the throttle: waves are computed without being asked for. */
const FEW_CYLINDERS = 4;

/** Density of the air a model's filling is told on, up to a factor that is the same for all. */
const air = ({ ambient }: WaveEngine): number => (ambient?.p_Pa ?? 101_325) / (ambient?.T_K ?? 298.15);

const percent = (share: number | null): string => (share === null ? '—' : `${formatSigned(share * 100, 1)} %`);

/**
 * What each throttle on show does to the filling once the air comes in gulps, beside what even flow says of it. By itself for
 * individual throttles and four cylinders or fewer; for others when asked for.
 */
export function WaveGains({ model }: { model: JobModel }) {
  const sized = useSized();
  const { kind } = useJob((s) => s.doc.car.induction);
  const cylinders = useJob((s) => s.doc.car.engine.cylinders);
  const band = useBand(model);
  const own = kind === 'individual';
  const byItself = own || (kind === 'na' && cylinders <= FEW_CYLINDERS);
  const [asked, setAsked] = useState(false);
  const on = byItself || asked;
  const rpm = useMemo(() => curveSpeeds(model.rpm[0]!, model.rpm.at(-1)!, SPEEDS), [model]);
  const sides = useMemo<readonly ModelSide[]>(() => [model.stock, ...model.candidates], [model]);
  const setups = useMemo(() => (on ? sides.map((side) => waveSetup(sized, model, side)) : []), [on, sides, sized, model]);
  const tasks = useMemo(() => {
    if (!on || setups.length < 2) return null;
    return setups.flatMap((setup) =>
      isFailure(setup) ? [] : rpm.map((n) => ({ engine: setup.engineAt(setup.inlet.figures, n), rpm: n })),
    );
  }, [on, setups, rpm]);
  const { results, progress } = useTasks(tasks);
  const rows = useMemo(() => {
    const first = setups[0];
    if (!tasks || progress !== null || first === undefined || isFailure(first)) return null;
    const known = knotCurve({ rpm: model.rpm, value: first.known });
    if (isFailure(known)) return null;
    let at = 0;
    const W = setups.map((setup) => {
      if (isFailure(setup)) return null;
      // Air taken in, not a share of what stands before it: a throttle changes that too.
      const mine = results.slice(at, at + rpm.length).map((r, i) => (r && r.settled ? r.W * air(tasks[at + i]!.engine) : null));
      at += rpm.length;
      return mine;
    });
    const peak_rpm = model.rpm[peakIndex(model.reference.result.power_W)]!;
    return model.candidates.map((side, k) => {
      const there = rpm.map((_, i) => i).filter((i) => W[0]?.[i] != null && W[k + 1]?.[i] != null);
      const speeds = there.map((i) => rpm[i]!);
      const ratio = there.map((i) => W[k + 1]![i]! / W[0]![i]!);
      const curve = ratio.length > 1 ? knotCurve({ rpm: speeds, value: ratio }) : null;
      const score = (filling: number[]): number | null => (filling.length > 1 ? waveScore(speeds, filling, 'band', band) : null);
      const now = score(speeds.map(known));
      const then = score(speeds.map((n, i) => known(n) * ratio[i]!));
      return {
        id: side.id,
        name: side.name,
        even: isFailure(side.solved) ? null : peakGain(side.solved.power_W, model.reference.result.power_W) / 100,
        peak: curve === null || isFailure(curve) ? null : curve(peak_rpm) - 1,
        band: now === null || then === null ? null : then / now - 1,
      };
    });
  }, [setups, tasks, progress, results, rpm, model, band]);
  // A blower behind the throttle keeps the waves from it.
  if (model.candidates.length === 0 || kind === 'drawThrough') return null;
  const assumed = setups[0] && !isFailure(setups[0]) ? setups[0].inlet.assumed.length : 0;
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
          </p>
        </>
      )}
    </section>
  );
}
