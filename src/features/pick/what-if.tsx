'use client';

import { peakGain } from '@/core/numbers/peak';
import { Button } from 'antd';
import { useMemo } from 'react';
import { isFailure } from '@/core/failure';
import { jobWhatIf } from '@/core/job/what-if';
import type { JobModel } from '@/core/job/model';
import { VERDICT_GAIN_pct } from '@/core/sizing/window';
import { formatNumber, formatQuantity, formatSigned, showQuantity } from '@/core/units/quantity';
import { peakGainWorking } from '@/core/working/bore-working';
import { DocField } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { useSized } from '@/features/job/use-model';
import { Heading, Rule } from '@/ui/answer/stop-page';
import { failureText } from '@/ui/answer/words';
import { limitText } from '@/features/job/limits';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { msg } from './messages';

/** What becomes of the stock throttle when the boost changes, from what an ideal one would bring now and then. */
function becomes(now: number | null, then: number | null): string {
  if (now === null || then === null) return '';
  const inTheWay = (pct: number): boolean => pct >= VERDICT_GAIN_pct.worthBuying;
  const free = (pct: number): boolean => pct < VERDICT_GAIN_pct.notTheRestriction;
  if (inTheWay(then))
    return inTheWay(now) ? 'The stock throttle stays the restriction.' : 'With this the stock throttle becomes the restriction.';
  if (free(then))
    return free(now) ? 'The stock throttle stays no restriction.' : 'With this the stock throttle is no restriction any more.';
  return 'The stock throttle then costs a little.';
}

const HELD = 'Both at the changed boost; the engine’s own efficiency and friction are held.';

/** With more boost than now, what becomes of the throttle: by pulley, ratio or target, whichever this engine has. */
export function WhatIfPanel({ model }: { model: JobModel }) {
  const { pack } = usePrefs();
  const sized = useSized();
  const change = useJob((s) => s.doc.pick.whatIf);
  const induction = useJob((s) => s.doc.car.induction);
  const set = useJob((s) => s.set);
  const asked = change.pulley_m ?? change.pressureRatio ?? change.boost_Pa;
  const found = useMemo(() => (asked === null ? null : jobWhatIf(sized, model, change)), [asked, sized, model, change]);
  if (induction.kind === 'na' || induction.kind === 'individual') return null;
  const stockThen = found && !isFailure(found) ? (found.sides[0]?.peak_W ?? null) : null;
  const left = (pct: number | null): string => (pct === null ? '' : `, ${formatNumber(pct, 1)} % of peak lost to it`);
  return (
    <>
      <Rule />
      <Heading
        more={
          asked === null ? null : (
            <Button size="small" type="text" onClick={() => set('pick.whatIf', { pulley_m: null, pressureRatio: null, boost_Pa: null })}>
              {msg.asNow}
            </Button>
          )
        }
      >
        {msg.withAnotherBoost}
      </Heading>
      {induction.kind === 'drawThrough' && (
        <DocField
          path="pick.whatIf.pulley_m"
          label={msg.blowerPulley}
          measure="bore"
          nullable
          placeholder={`now ${showQuantity(induction.blower.blowerPulley_m, 'bore', pack).number}`}
        />
      )}
      {induction.kind === 'centrifugal' && (
        <DocField
          path="pick.whatIf.pressureRatio"
          label={msg.pressureRatio}
          measure="ratio"
          nullable
          placeholder={`now ${formatNumber(induction.compressor.pressureRatio, 2)}`}
        />
      )}
      {induction.kind === 'turbo' && (
        <DocField
          path="pick.whatIf.boost_Pa"
          label={msg.highestBoost}
          measure="plenum"
          nullable
          placeholder={`now ${showQuantity(Math.max(...induction.compressor.boost.value), 'plenum', pack).number}`}
        />
      )}
      {isFailure(found) && <p role="alert">{failureText(found, pack)}</p>}
      {found && !isFailure(found) && (
        <>
          <p style={{ fontWeight: 600, margin: '6px 0 0' }}>{becomes(found.leftNow_pct, found.leftThen_pct)}</p>
          <p style={{ fontSize: 13, margin: '4px 0' }}>
            {msg.boost} {formatQuantity(found.boostNow_Pa, 'plenum', pack)} → {formatQuantity(found.boostThen_Pa, 'plenum', pack)}
            {msg.stockThrottleNow} {formatQuantity(found.stockNow.loss_Pa ?? 0, 'loss', pack)}
            {left(found.leftNow_pct)}
            {msg.then} {found.sides[0]?.loss_Pa == null ? 'it chokes' : formatQuantity(found.sides[0].loss_Pa, 'loss', pack)}
            {left(found.leftThen_pct)}.
          </p>
          {found.limits.map((l) => (
            <p key={l.kind} role="alert" style={{ margin: '4px 0' }}>
              {limitText(l, pack)}
            </p>
          ))}
          <table className="plain">
            <thead>
              <tr>
                <th>{msg.throttle}</th>
                <th className="num">{msg.now}</th>
                <th className="num">{msg.then2}</th>
              </tr>
            </thead>
            <tbody>
              {found.sides.slice(1).map((s) => {
                const now = model.candidates.find((c) => c.id === s.id);
                const nowGain = !now || isFailure(now.solved) ? null : peakGain(now.solved.power_W, model.reference.result.power_W);
                return (
                  <tr key={s.id}>
                    <td>{s.name}</td>
                    <td className="num">{nowGain === null ? '—' : formatSigned(nowGain, 1, '%')}</td>
                    <td className="num">
                      {s.gain_pct === null || s.peak_W === null || stockThen === null ? (
                        'chokes'
                      ) : (
                        <Num
                          small
                          label={`gain of ${s.name} then`}
                          working={() => peakGainWorking(`${s.name} with another boost`, stockThen, s.peak_W!, [HELD])}
                        >
                          {formatSigned(s.gain_pct, 1, '%')}
                        </Num>
                      )}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </>
      )}
    </>
  );
}
