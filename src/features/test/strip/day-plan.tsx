'use client';

import { useMemo } from 'react';
import { isFailure } from '@/core/failure';
import { designStudy, type DayOrder, type DesignPlan } from '@/core/inference/design';
import { historyLogs } from '@/core/inference/shop-history';
import { stripCosts } from '@/core/job/strip';
import type { NextPass, StripAnalysis } from '@/core/strip/analysis';
import { formatNumber } from '@/core/units/quantity';
import { DocField } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { useShopHistory } from '@/features/job/use-shop-history';
import { Heading } from '@/ui/answer/stop-page';
import { usePrefs } from '@/ui/theme/prefs';
import { measureText, shownSpeed } from './words';
import styles from './strip.module.css';
import { msg } from './messages';

const ORDERS: Readonly<Record<DayOrder, string>> = {
  'A-B': 'stock, new',
  'A-B-A': 'stock, new, stock',
  'A-B-B-A': 'stock, new, new, stock',
  'A-B-A-B': 'stock, new, stock, new',
  alternate: 'alternate every pass',
};

/** Orders that fit into the hours of one day, the likeliest to tell first. */
function useDay(effect_mps: number, threshold: number, fees: StripFees): readonly DesignPlan[] {
  const plan = useJob((s) => s.doc.test.strip);
  const history = useShopHistory();
  return useMemo(() => {
    const { plans } = designStudy({
      rig: 'stripSpeed',
      effect: effect_mps,
      threshold,
      visits: [1],
      costs: { ...stripCosts(plan, fees), visit_min: 0 },
      history: historyLogs(history).stripSpeed,
    });
    const fitting = plans.filter((p) => p.hours * 60 <= plan.hours_min);
    // Of every order the one with most passes that the day holds.
    const best = new Map<DayOrder, DesignPlan>();
    for (const p of fitting) if (!best.has(p.order) || best.get(p.order)!.pRight < p.pRight) best.set(p.order, p);
    return [...best.values()].sort((a, b) => b.pRight - a.pRight);
  }, [effect_mps, threshold, fees, plan, history]);
}

export interface StripFees {
  readonly entryFee: number;
  readonly perPassFee: number;
}

/** A good chance to say the right word. */
const ENOUGH = 0.8;

function Coming({ next, name }: { next: NextPass; name: string }) {
  const { pack } = usePrefs();
  if (!next.et && !next.trap) return null;
  const time = next.et && `${formatNumber(next.et.value, 2)} s (${formatNumber(next.et.low, 2)} to ${formatNumber(next.et.high, 2)})`;
  const speed = next.trap && measureText('trap_mps', next.trap.value, pack);
  return (
    <li>
      {next.side === 'A' ? 'with stock' : `with ${name}`}: <b>{[time, speed].filter(Boolean).join(', ')}</b>
    </li>
  );
}

/** How the day is best driven before it; during it, what the next pass will do: a dial-in, with the range single passes keep. */
export function DayPlan({
  analysis,
  trap_mps,
  predicted_share,
  name,
  fees,
}: {
  analysis: StripAnalysis | null;
  /** The speed the car crosses the line with. */
  trap_mps: number;
  /** What the model expects of the trap speed, a share; null: nothing. */
  predicted_share: number | null;
  name: string;
  /** What the day costs by its own record. */
  fees: StripFees;
}) {
  const { pack, money } = usePrefs();
  const plan = useJob((s) => s.doc.test.strip);
  const expected = predicted_share === null ? 0 : Math.abs(predicted_share) * trap_mps;
  const effect = Math.max(expected, 1.5 * plan.trap_mps);
  const day = useDay(effect, plan.trap_mps, fees);
  const [best] = day;
  const costs = day.some((p) => p.money > 0);
  const speed = (v: number): string => measureText('trap_mps', v, pack);
  const per100 = (p: number): string => `${formatNumber(100 * p, 0)} in 100`;
  const coming = analysis && !isFailure(analysis.effects.et_s) ? analysis.coming : [];
  return (
    <>
      {coming.length > 0 && (
        <>
          <Heading>{msg.theNextPass}</Heading>
          <ul className={styles['coming']}>
            {coming.map((c) => (
              <Coming key={c.side} next={c} name={name} />
            ))}
          </ul>
          <p className="quiet">{msg.inTheAirOfTheLast}</p>
        </>
      )}
      <Heading>{msg.theDaysPlan}</Heading>
      {!best ? (
        <p className="quiet">{msg.theHoursAllowNoOrderThat}</p>
      ) : best.pRight >= ENOUGH ? (
        <p>
          {msg.best} <b>{ORDERS[best.order]}</b>, {best.runs} {msg.passesIn} {formatNumber(best.hours, 1)} {msg.hTells} {speed(effect)}{' '}
          {msg.inWord} {per100(best.pRight)}.
        </p>
      ) : (
        <p>
          <b>
            {msg.noOrderOfOneSuchDay} {speed(effect)}.
          </b>{' '}
          {msg.theBest} {ORDERS[best.order]}
          {msg.wouldIn} {per100(best.pRight)}
          {msg.driveBothOnASecond}
        </p>
      )}
      {day.length > 0 && (
        <table className="plain">
          <thead>
            <tr>
              <th>{msg.order}</th>
              <th className="num">{msg.passes}</th>
              {costs && <th className="num">{msg.cost}</th>}
              <th className="num">
                {msg.interval}, {shownSpeed(0, pack).unit}
              </th>
              <th className="num">{msg.tells}</th>
            </tr>
          </thead>
          <tbody>
            {day.map((p) => (
              <tr key={p.order} data-decides={p === best && p.pRight >= ENOUGH}>
                <td>{ORDERS[p.order]}</td>
                <td className="num">{p.runs}</td>
                {costs && <td className="num">{money(p.money)}</td>}
                <td className="num">±{formatNumber(shownSpeed(p.halfWidth, pack).value, 2)}</td>
                <td className="num">{formatNumber(100 * p.pRight, 0)} %</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="quiet">
        {msg.toTell} {speed(effect)} ({expected > 1.5 * plan.trap_mps ? 'what the model expects' : 'half as much again as matters'}
        {msg.passesSwapsAndDaysScatterAs}
      </p>
      <details>
        <summary className="quiet">{msg.hoursAndWhatCounts}</summary>
        <DocField path="test.strip.hours_min" label={msg.timeAtTheTrackMin} measure="count" mark={null} />
        <DocField path="test.strip.perPass_min" label={msg.aPassTakesMin} measure="count" mark={null} />
        <DocField path="test.strip.coolDown_min" label={msg.coolingDownMin} measure="count" mark={null} />
        <DocField path="test.strip.swap_min" label={msg.aSwapTakesMin} measure="count" mark={null} />
        <DocField path="test.strip.et_s" label={msg.elapsedTimeSmallestChangeThatMatters} measure="time" mark={null} />
        <DocField path="test.strip.trap_mps" label={msg.trapSpeedSmallestChangeThatMatters} measure="roadSpeed" mark={null} />
        <DocField path="test.strip.sixty_s" label={msg.n60FtSmallestChangeThatMatters} measure="time" mark={null} />
      </details>
    </>
  );
}
