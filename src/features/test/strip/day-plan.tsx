'use client';

import { useMemo } from 'react';
import { isFailure } from '@/core/failure';
import { designStudy, type DayOrder, type DesignPlan } from '@/core/inference/design';
import { historyLogs } from '@/core/inference/shop-history';
import { stripCosts } from '@/core/job/strip';
import type { NextPass, StripAnalysis } from '@/core/strip/analyse';
import { formatNumber } from '@/core/units/quantity';
import { DocField } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { useShopHistory } from '@/features/job/use-shop-history';
import { Heading } from '@/ui/answer/stop';
import { usePrefs } from '@/ui/theme/prefs';
import { measureText } from './words';
import styles from './strip.module.css';

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
  const speed = (v: number): string => measureText('trap_mps', v, pack);
  const per100 = (p: number): string => `${formatNumber(100 * p, 0)} in 100`;
  const coming = analysis && !isFailure(analysis.effects.et_s) ? analysis.coming : [];
  return (
    <>
      {coming.length > 0 && (
        <>
          <Heading>The next pass</Heading>
          <ul className={styles['coming']}>
            {coming.map((c) => (
              <Coming key={c.side} next={c} name={name} />
            ))}
          </ul>
          <p className="quiet">In the air of the last pass; 95 of 100 single passes lie within. Dial in by the middle, not by the best.</p>
        </>
      )}
      <Heading>The day’s plan</Heading>
      {!best ? (
        <p className="quiet">The hours allow no order that tells anything.</p>
      ) : best.pRight >= ENOUGH ? (
        <p>
          Best: <b>{ORDERS[best.order]}</b>, {best.runs} passes in {formatNumber(best.hours, 1)} h: tells {speed(effect)} in{' '}
          {per100(best.pRight)}.
        </p>
      ) : (
        <p>
          <b>No order of one such day is likely to tell {speed(effect)}.</b> The best, {ORDERS[best.order]}, would in {per100(best.pRight)}:
          drive both units on a second day as well.
        </p>
      )}
      {day.length > 0 && (
        <table className="plain">
          <thead>
            <tr>
              <th>order</th>
              <th className="num">passes</th>
              <th className="num">cost</th>
              <th className="num">interval</th>
              <th className="num">tells</th>
            </tr>
          </thead>
          <tbody>
            {day.map((p) => (
              <tr key={p.order} data-decides={p === best && p.pRight >= ENOUGH}>
                <td>{ORDERS[p.order]}</td>
                <td className="num">{p.runs}</td>
                <td className="num">{money(p.money)}</td>
                <td className="num">±{speed(p.halfWidth)}</td>
                <td className="num">{formatNumber(100 * p.pRight, 0)} %</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="quiet">
        To tell {speed(effect)} ({expected > 1.5 * plan.trap_mps ? 'what the model expects' : 'half as much again as matters'}). Passes,
        swaps and days scatter as this shop’s do, or as assumed.
      </p>
      <details>
        <summary className="quiet">Hours and what counts</summary>
        <DocField path="test.strip.hours_min" label="Time at the track, min" measure="count" mark={null} />
        <DocField path="test.strip.perPass_min" label="A pass takes, min" measure="count" mark={null} />
        <DocField path="test.strip.coolDown_min" label="Cooling down, min" measure="count" mark={null} />
        <DocField path="test.strip.swap_min" label="A swap takes, min" measure="count" mark={null} />
        <DocField path="test.strip.et_s" label="Elapsed time: smallest change that matters" measure="time" mark={null} />
        <DocField path="test.strip.trap_mps" label="Trap speed: smallest change that matters" measure="roadSpeed" mark={null} />
        <DocField path="test.strip.sixty_s" label="60 ft: smallest change that matters" measure="time" mark={null} />
      </details>
    </>
  );
}
