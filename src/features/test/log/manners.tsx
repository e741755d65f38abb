'use client';

import type { LogLook } from '@/core/logs/compare-logs';
import { airToldAlike, mannersApart, sideManners, type MannersDifference, type SideManners } from '@/core/logs/side-manners';
import type { StoredRun } from '@/core/documents/run';
import { formatNumber, formatSigned } from '@/core/units/quantity';
import { Heading } from '@/ui/answer/stop-page';
import { msg } from './messages';

function sides(logs: readonly StoredRun[], looks: ReadonlyMap<string, LogLook>): { stock: SideManners; other: SideManners } {
  const of = (kind: 'stock' | 'unit') => sideManners(logs.filter((r) => r.doc.side?.kind === kind).flatMap((r) => looks.get(r.id) ?? []));
  return { stock: of('stock'), other: of('unit') };
}

/** How the engine answers the throttle, in a word. */
function answerWord(difference: Exclude<MannersDifference, null>): string {
  if (difference === 'unclear') return 'Snappier or not, these logs can’t tell';
  return difference === 'same' ? 'No snappier' : difference < 0 ? 'Snappier' : 'Lazier';
}

function idleText(difference: Exclude<MannersDifference, null>, is_rpm: number, was_rpm: number): string {
  const [is, was] = [formatNumber(is_rpm, 0), formatNumber(was_rpm, 0)];
  if (difference === 'same') return `The idle stays as steady as it was (± ${is} rpm).`;
  if (difference === 'unclear') return `Whether the idle is steadier these logs can’t tell: ± ${is} rpm, ± ${was} on stock.`;
  return `The idle is ${difference > 0 ? 'rougher' : 'steadier'}: ± ${is} rpm, ± ${was} on stock.`;
}

/** Before and after in one sentence, where both sides have a log that says something. */
export function mannersAnswer(logs: readonly StoredRun[], looks: ReadonlyMap<string, LogLook>): { answer: string; reason: string } | null {
  const { stock, other } = sides(logs, looks);
  if (stock.logs === 0 || other.logs === 0) return null;
  const parts: string[] = [];
  const apart = mannersApart(stock, other);
  if (apart.air_s !== null)
    parts.push(
      `${answerWord(apart.air_s)}: air follows the throttle in ${formatNumber(other.air_s!, 2)} s, ${formatNumber(stock.air_s!, 2)} s on stock.`,
    );
  const idle =
    apart.spread_rpm === null
      ? ''
      : other.hunting_s !== null && stock.hunting_s === null
        ? `The idle hunts now, every ${formatNumber(other.hunting_s, 1)} s by ±${formatNumber(other.huntingBy_rpm!, 0)} rpm.`
        : idleText(apart.spread_rpm, other.spread_rpm!, stock.spread_rpm!);
  if (idle && parts.length === 0)
    return { answer: idle, reason: `From ${stock.logs} stock and ${other.logs} new ${stock.logs + other.logs > 2 ? 'logs' : 'log'}.` };
  if (parts.length === 0) return null;
  const few = !airToldAlike(stock, other)
    ? ' The air is told by its flow in one log and by its pressure in another: log the same on both.'
    : apart.air_s === 'unclear' || stock.steps < 3 || other.steps < 3
      ? ' Stab it a few times more, at the logger’s highest rate, to be sure.'
      : '';
  return { answer: parts.join(' '), reason: `${idle} ${stock.steps} and ${other.steps} stabs of the throttle.${few}`.trim() };
}

/** Idle and the answer to the throttle, before and after: so that "snappier" is a number. */
export function Manners({ logs, looks }: { logs: readonly StoredRun[]; looks: ReadonlyMap<string, LogLook> }) {
  const { stock, other } = sides(logs, looks);
  if (stock.logs + other.logs === 0) return <p className="quiet">{msg.sayOfEachLogWhichSide}</p>;
  const row = (name: string, f: (s: SideManners) => number | null, unit: string, digits: number) => {
    const [a, b] = [f(stock), f(other)];
    return (
      <tr>
        <td>{name}</td>
        <td className="num">{a === null ? '—' : `${formatNumber(a, digits)} ${unit}`}</td>
        <td className="num">{b === null ? '—' : `${formatNumber(b, digits)} ${unit}`}</td>
        <td className="num">{a === null || b === null ? '—' : `${formatSigned(b - a, digits)} ${unit}`}</td>
      </tr>
    );
  };
  return (
    <>
      <Heading>{msg.drivabilityBeforeAndAfter}</Heading>
      <table className="plain">
        <thead>
          <tr>
            <td />
            <th className="num">{msg.stock}</th>
            <th className="num">{msg.newWord}</th>
            <th className="num">{msg.difference}</th>
          </tr>
        </thead>
        <tbody>
          {row('idle, mean', (s) => s.idle_rpm, 'rpm', 0)}
          {row('idle, spread (one standard deviation)', (s) => s.spread_rpm, 'rpm', 1)}
          {row('idle hunts, period', (s) => s.hunting_s, 's', 1)}
          {row('throttle to air', (s) => s.air_s, 's', 3)}
          {row('throttle to acceleration', (s) => s.acceleration_s, 's', 3)}
        </tbody>
      </table>
    </>
  );
}
