'use client';

import { Select } from 'antd';
import { useEffect, useMemo, useState } from 'react';
import { ENGINE_SPEED_rpm } from '@/core/documents/within';
import type { ValueAt } from '@/core/logs/value-at';
import type { Quantity, StoredRun } from '@/core/documents/run';
import type { StoredPass } from '@/core/documents/strip';
import { isFailure, type Failure } from '@/core/failure';
import { formatNumber, formatSigned } from '@/core/units/quantity';
import { useRuns } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop-page';
import { FieldRow } from '@/ui/field/field-row';
import { usePrefs } from '@/ui/theme/prefs';
import { pullsOf, type ShownPull } from '../log/pulls';
import { shownQuantity } from '../log/quantities';
import { useLogWorker, useLooks } from '../log/use-log';
import { msg } from './messages';

type Values = readonly { quantity: Quantity; at: ValueAt | Failure }[];

const figure = (list: Values | undefined, quantity: Quantity): number | null => {
  const at = list?.find((v) => v.quantity === quantity)?.at;
  return at === undefined || isFailure(at) || at.stale ? null : at.value;
};

/** The logs beside the slips: a pass of either side at the same engine speed and in the same gear. */
export function PassLogs({ passes }: { passes: readonly StoredPass[] }) {
  const { pack } = usePrefs();
  const { runs } = useRuns();
  const api = useLogWorker();
  const logged = useMemo(
    () =>
      passes.flatMap((p) => {
        const run = runs.find((r) => r.id === p.doc.runId);
        return run && p.doc.side ? [{ pass: p, run, side: p.doc.side.kind === 'stock' ? ('A' as const) : ('B' as const) }] : [];
      }),
    [passes, runs],
  );
  const logs = useMemo<readonly StoredRun[]>(() => [...new Set(logged.map((l) => l.run))], [logged]);
  const { looks, wrong } = useLooks(api, logs);
  const [rpm, setRpm] = useState(5000);
  const [gear, setGear] = useState<string | null>(null);
  const [values, setValues] = useState<ReadonlyMap<string, Values>>(new Map());
  const pulls = useMemo(
    () => new Map(logged.flatMap(({ run }) => (looks.get(run.id) ? [[run.id, pullsOf(run, looks.get(run.id)!)] as const] : []))),
    [logged, looks],
  );
  const gears = [...new Set([...pulls.values()].flatMap((list) => list.map((p) => p.gear)))];
  const inGear = gear ?? gears[0] ?? '';
  useEffect(() => {
    if (!api) return;
    let current = true;
    void Promise.all(
      logged.flatMap(({ run }) => {
        const pull: ShownPull | undefined = pulls.get(run.id)?.find((p) => p.gear === inGear);
        const look = looks.get(run.id);
        return pull && look ? [api.values(run, pull, rpm, look.intervals).then((v) => [run.id, v] as const)] : [];
      }),
    )
      .then((list) => current && setValues(new Map(list)))
      // The sentence under the heading says that the server is away.
      .catch(() => {});
    return () => {
      current = false;
    };
  }, [api, logged, looks, pulls, inGear, rpm]);
  if (logged.length === 0) return null;
  const a = logged.find((l) => l.side === 'A' && values.has(l.run.id));
  const b = logged.find((l) => l.side === 'B' && values.has(l.run.id));
  const [of, other] = [a && values.get(a.run.id), b && values.get(b.run.id)];
  const quantities = [...new Set([...(of ?? []), ...(other ?? [])].map((v) => v.quantity))].filter((q) => q !== 'rpm');
  return (
    <>
      <Heading>{msg.logsBesideTheSlips}</Heading>
      {wrong && <p role="alert">{wrong}</p>}
      <FieldRow label={msg.at} measure="rpm" value={rpm} within={ENGINE_SPEED_rpm} onChange={(v) => setRpm(Math.round(v))} />
      {gears.length > 1 && (
        <Select
          aria-label={msg.gear}
          size="small"
          value={inGear}
          options={gears.map((g) => ({ value: g, label: g === '' ? 'gear not known' : g }))}
          onChange={setGear}
        />
      )}
      <table className="plain">
        <thead>
          <tr>
            <td />
            <th className="num">{a ? `stock, ${a.pass.doc.at ?? ''}` : 'stock'}</th>
            <th className="num">{b ? `new, ${b.pass.doc.at ?? ''}` : 'new'}</th>
            <th className="num">{msg.difference}</th>
          </tr>
        </thead>
        <tbody>
          {quantities.map((quantity) => {
            const { show, unit, label, decimals } = shownQuantity(quantity, pack);
            const [x, y] = [figure(of, quantity), figure(other, quantity)];
            const digits = Math.max(1, decimals);
            return (
              <tr key={quantity}>
                <td>{label}</td>
                <td className="num">{x === null ? '—' : `${formatNumber(show(x), digits)} ${unit}`}</td>
                <td className="num">{y === null ? '—' : `${formatNumber(show(y), digits)} ${unit}`}</td>
                <td className="num">{x === null || y === null ? '—' : `${formatSigned(show(y) - show(x), digits)} ${unit}`}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="quiet">{msg.aChannelThatWasHeldNot}</p>
    </>
  );
}
