'use client';

import { App, Button } from 'antd';
import type { LogLook } from '@/core/logs/compare-logs';
import type { PullDoc, StoredRun } from '@/core/documents/run';
import { formatNumber } from '@/core/units/quantity';
import { useJobStore, useRuns } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop-page';
import { DoneField } from '@/ui/field/field-row';
import { saveRun } from '../files/save-run';
import styles from './log.module.css';
import { msg } from './messages';

/** A pull as the page speaks of it: found, or set by hand. Seconds from the log's beginning. */
export interface ShownPull {
  readonly from_s: number;
  readonly to_s: number;
  readonly from_rpm: number | null;
  readonly to_rpm: number | null;
  readonly gear: string;
  readonly name: string;
  readonly byHand: boolean;
}

/** Milliseconds keep a pull's ends in the record: rows would move with a changed clock. */
const MS = 1000;

/** A log's pulls: those set by hand where there are any, else those found. */
export function pullsOf(run: StoredRun, look: LogLook): ShownPull[] {
  if (run.doc.pulls.length > 0)
    return run.doc.pulls.map((p) => ({
      from_s: p.from / MS,
      to_s: p.to / MS,
      from_rpm: null,
      to_rpm: null,
      gear: p.gear,
      name: p.name,
      byHand: true,
    }));
  return look.pulls.map((p, i) => ({
    from_s: p.from_s,
    to_s: p.to_s,
    from_rpm: p.from_rpm,
    to_rpm: p.to_rpm,
    gear:
      p.gear === null
        ? ''
        : p.gear.gear === null
          ? `${formatNumber((60 * p.gear.turnsPerMetre) / 3.6, 1)} rpm per km/h`
          : `gear ${p.gear.gear}`,
    name: `pull ${i + 1}`,
    byHand: false,
  }));
}

const asDoc = (p: ShownPull): PullDoc => ({
  from: Math.round(p.from_s * MS),
  to: Math.round(p.to_s * MS),
  gear: p.gear.slice(0, 20),
  name: p.name,
});

/** Ends nearer than this are the same, s: they are shown in hundredths. */
const SAME_s = 0.004;

/** The pulls of a log: which is looked at, and their ends, which a person can set. */
export function Pulls({
  run,
  look,
  pulls,
  chosen,
  onChosen,
}: {
  run: StoredRun;
  look: LogLook;
  pulls: readonly ShownPull[];
  chosen: number;
  onChosen: (index: number) => void;
}) {
  const { setRuns } = useRuns();
  const store = useJobStore();
  const { message } = App.useApp();
  const save = (next: readonly ShownPull[]): void => {
    saveRun(run, { ...run.doc, pulls: next.map(asDoc) })
      .then((saved) => {
        setRuns((list) => list.map((r) => (r.id === run.id ? saved.run : r)));
        store.setState({ findings: saved.findings });
      })
      .catch((e: Error) => message.error(e.message));
  };
  const set = (i: number, change: Partial<ShownPull>): void => {
    const next = pulls.map((p, k) => (k === i ? { ...p, ...change } : p));
    save(next);
  };
  const edge = (i: number, key: 'from_s' | 'to_s', label: string) => {
    const { name, from_s, to_s } = pulls[i]!;
    return (
      <DoneField
        width={78}
        label={`${name} ${label}`}
        measure="time"
        value={key === 'from_s' ? from_s : to_s}
        same={(typed, was) => Math.abs(typed - was!) < SAME_s}
        within={
          key === 'from_s'
            ? { least: Math.max(0, look.span_s?.[0] ?? 0), less: to_s }
            : { more: from_s, ...(look.span_s && { most: look.span_s[1] }) }
        }
        onDone={(v) => set(i, { [key]: v })}
      />
    );
  };
  return (
    <div>
      <Heading
        more={
          run.doc.pulls.length > 0 ? (
            <Button size="small" onClick={() => save([])}>
              {msg.asFound}
            </Button>
          ) : (
            <span className="quiet">{look.pulls.length === 0 ? 'none found' : 'found'}</span>
          )
        }
      >
        {msg.pulls}
      </Heading>
      <div className="wide-table">
        <table className="plain">
          <thead>
            <tr>
              <td />
              <th>{msg.fromS}</th>
              <th>{msg.toS}</th>
              <th className="num">{msg.rpm}</th>
              <th>{msg.gear}</th>
            </tr>
          </thead>
          <tbody>
            {pulls.map((p, i) => (
              <tr key={p.name}>
                <td>
                  <label className={styles['pullEdit']}>
                    <input type="radio" name="pull" checked={i === chosen} onChange={() => onChosen(i)} />
                    {p.name}
                  </label>
                </td>
                <td>{edge(i, 'from_s', 'from')}</td>
                <td>{edge(i, 'to_s', 'to')}</td>
                <td className="num">
                  {p.from_rpm === null
                    ? 'set by hand'
                    : `${formatNumber(Math.round(p.from_rpm), 0)} to ${formatNumber(Math.round(p.to_rpm!), 0)}`}
                </td>
                <td>{p.gear || 'not known'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {pulls.length === 0 && (
        <Button
          size="small"
          onClick={() => save([{ from_s: 0, to_s: 5, from_rpm: null, to_rpm: null, gear: '', name: 'pull 1', byHand: true }])}
        >
          {msg.setOneByHand}
        </Button>
      )}
    </div>
  );
}
