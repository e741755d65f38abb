'use client';

import { bestStrip, plannedStrips, type StripFees } from '@/core/strip/design';
import { isFailure } from '@/core/failure';
import type { StripAnalysis } from '@/core/strip/analyse';
import { formatNumber } from '@/core/units/quantity';
import { DocField } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop';
import { designWorking, planWorking } from '@/core/working/strip-working';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { measureText } from './words';

const ORDERS = { alternating: 'turn about', 'A-B-A': 'out and back', 'A-B': 'two blocks' } as const;
const SPOKEN = { alternating: 'turn and turn about', 'A-B-A': 'stock, new, stock again', 'A-B': 'stock, then new' } as const;

/** How the day is best driven, before it; and what the next pass would tell, during it. */
export function DayPlan({
  analysis,
  trap_mps,
  predicted_share,
  name,
  fees,
}: {
  analysis: StripAnalysis | null;
  /** The speed the car crosses the line with, for the scatter in its own units. */
  trap_mps: number;
  /** What the model expects of the trap speed, a share; null: nothing. */
  predicted_share: number | null;
  name: string;
  /** What the day costs by its own record. */
  fees: StripFees;
}) {
  const { pack, money } = usePrefs();
  const plan = useJob((s) => s.doc.test.strip);
  const seen = analysis && !isFailure(analysis.effects.trap_mps) ? analysis.effects.trap_mps.effect.residualSd : null;
  const sd = seen ?? plan.trapSd * trap_mps;
  const effect = predicted_share !== null && Math.abs(predicted_share) > 1e-4 ? Math.abs(predicted_share) * trap_mps : plan.trap_mps;
  const plans = plannedStrips(plan, fees, effect, sd);
  const best = bestStrip(plans);
  const [next, other] = analysis?.next ?? [];
  const speed = (v: number): string => measureText('trap_mps', v, pack);
  return (
    <>
      <Heading>The day’s plan</Heading>
      {next && (
        <p>
          Next: <b>a pass with {next.side === 'A' ? 'stock' : name}</b>. It would narrow the interval to{' '}
          <Num small label="the next pass" working={() => designWorking('What the next pass tells', next.sharp, sd, next.half, null)}>
            ±{speed(next.half)}
          </Num>
          {other ? `; with ${other.side === 'A' ? 'stock' : name} to ±${speed(other.half)}` : ''}.
        </p>
      )}
      {!next && best && (
        <p>
          Best: <b>{SPOKEN[best.order]}</b>, {best.sequence.length} passes in {formatNumber(best.minutes / 60, 1)} h: a{' '}
          {formatNumber(100 * best.chance!, 0)} % chance to tell {speed(effect)}.
        </p>
      )}
      {!next && !best && <p className="quiet">The hours allow fewer than four passes: that tells nothing in any order.</p>}
      <table className="plain">
        <thead>
          <tr>
            <th>order</th>
            <th className="num">passes</th>
            <th className="num">cost</th>
            <th className="num">interval</th>
            <th className="num">chance</th>
          </tr>
        </thead>
        <tbody>
          {plans.map((p) => (
            <tr key={p.order} data-decides={p === best}>
              <td title={SPOKEN[p.order]}>{ORDERS[p.order]}</td>
              <td className="num">{p.sequence.length}</td>
              <td className="num">{money(p.cost)}</td>
              <td className="num">
                {p.sharp === null ? (
                  '—'
                ) : (
                  <Num
                    small
                    label={`interval, ${ORDERS[p.order]}`}
                    working={() => planWorking({ ...p, sharp: p.sharp! }, SPOKEN[p.order], sd, effect)}
                  >
                    ±{speed(p.half!)}
                  </Num>
                )}
              </td>
              <td className="num">{p.chance === null ? '—' : `${formatNumber(100 * p.chance, 0)} %`}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="quiet">
        To tell {speed(effect)} ({predicted_share !== null && Math.abs(predicted_share) > 1e-4 ? 'what the model expects' : 'what matters'})
        from a scatter of {speed(sd)} ({seen === null ? 'assumed' : 'from these passes'}), a drift of the day taken out.
      </p>
      <details>
        <summary className="quiet">Hours and what counts</summary>
        <DocField path="test.strip.hours_min" label="Time at the track, min" measure="count" mark={null} />
        <DocField path="test.strip.perPass_min" label="A pass takes, min" measure="count" mark={null} />
        <DocField path="test.strip.coolDown_min" label="Cooling down, min" measure="count" mark={null} />
        <DocField path="test.strip.swap_min" label="A swap takes, min" measure="count" mark={null} />
        <DocField path="test.strip.trapSd" label="Scatter of the trap speed" measure="fineShare" mark={null} />
        <DocField path="test.strip.et_s" label="Elapsed time counts from" measure="time" mark={null} />
        <DocField path="test.strip.trap_mps" label="Trap speed counts from" measure="roadSpeed" mark={null} />
        <DocField path="test.strip.sixty_s" label="60 ft counts from" measure="time" mark={null} />
      </details>
    </>
  );
}
