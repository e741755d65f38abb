'use client';

import { Button, Select } from 'antd';
import type { SideComparison } from '@/core/compare/sides';
import type { PlanDoc } from '@/core/documents/plan';
import type { StoredPractice } from '@/core/documents/practice';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { usePrefs } from '@/ui/theme/prefs';
import { stretchName } from '../dyno/words';
import { measureText } from '../strip/words';
import { msg } from './messages';

/** A run is left out with its reason in words, or counted again. */
function LeaveOut({ out, onLeave }: { out: string | null; onLeave: (reason: string | null) => void }) {
  if (out)
    return (
      <Button size="small" type="text" onClick={() => onLeave(null)}>
        {msg.count}
      </Button>
    );
  return (
    <Select
      size="small"
      aria-label={msg.whyItIsLeftOut}
      placeholder={msg.leaveOut}
      value={null}
      options={['heat-soaked', 'went wrong', 'a missed gear'].map((value) => ({ value, label: value }))}
      onChange={(reason: string) => onLeave(reason)}
    />
  );
}

type SessionRun = StoredPractice['runs'][number];

/** What a pass, or a pull, came to. */
function Figures({ run: r, value }: { run: SessionRun; value: number | undefined }) {
  const { pack } = usePrefs();
  return r.pass ? (
    <>
      <td className="num">{formatQuantity(r.pass.densityAltitude_m, 'altitude', pack)}</td>
      <td className="num">{formatNumber(r.pass.et_s, 3)}</td>
      <td className="num">{r.leftOut ? `left out: ${r.leftOut}` : measureText('trap_mps', r.pass.trap_mps, pack)}</td>
    </>
  ) : (
    <>
      <td className="num">{formatQuantity(r.inletStart_K, 'temperature', pack)}</td>
      <td className="num">{r.leftOut ? `left out: ${r.leftOut}` : value === undefined ? '—' : formatNumber(value, 2)}</td>
    </>
  );
}

interface RunsTableProps {
  readonly practice: StoredPractice;
  readonly comparison: SideComparison | null;
  readonly decidesOn: PlanDoc['decidesOn'];
  /** Leaves a run out with its reason, or counts it again; null: the session is decided. */
  readonly onLeave: ((seq: number, reason: string | null) => void) | null;
}

/** The pulls or passes of a session. */
export function RunsTable({ practice, comparison, decidesOn, onLeave }: RunsTableProps) {
  const atStrip = practice.setup.rig === 'strip';
  return (
    <table className="plain" aria-label={msg.runsOfTheSession}>
      <thead>
        <tr>
          <th>{atStrip ? 'pass' : 'pull'}</th>
          <th>{msg.onTheCar2}</th>
          <th className="num">{msg.day}</th>
          <th className="num">{msg.rest}</th>
          {atStrip ? (
            <>
              <th className="num">{msg.densityAltitude}</th>
              <th className="num">{msg.timeS}</th>
              <th className="num">{msg.trapSpeed}</th>
            </>
          ) : (
            <>
              <th className="num">{msg.inletAtTheStart}</th>
              <th className="num">
                {stretchName({ id: decidesOn, from_rpm: 0, to_rpm: 0 })}
                {msg.ofStock}
              </th>
            </>
          )}
          <td />
        </tr>
      </thead>
      <tbody>
        {practice.runs.map((r, i) => {
          const order = practice.runs.slice(0, i).filter((x) => x.leftOut === null).length;
          const value = r.leftOut === null ? comparison?.deciding.runs[order]?.value_pct : undefined;
          return (
            <tr key={i} data-out={r.leftOut !== null}>
              <td>{i + 1}</td>
              <td>
                {r.side === 'A' ? 'stock' : 'the new part'}
                {r.newStay && <small> {msg.putOnAnew}</small>}
              </td>
              <td className="num">{r.day}</td>
              <td className="num">
                {formatNumber(r.rest_min, 0)} {msg.min}
              </td>
              <Figures run={r} value={value} />
              <td>{onLeave && <LeaveOut out={r.leftOut} onLeave={(reason) => onLeave(i, reason)} />}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
