'use client';

import { Button, Input, Segmented, Select } from 'antd';
import { useEffect, useMemo, useState } from 'react';
import { LOG_BASES, type LogBase, type LogLook } from '@/core/logs/compare-logs';
import type { Quantity, StoredRun } from '@/core/documents/run';
import { formatNumber, formatSigned } from '@/core/units/quantity';
import { useJob, useRuns } from '@/features/job/provider';
import { Heading, Rule, StopPage } from '@/ui/answer/stop-page';
import { Chart } from '@/ui/chart/lazy-chart';
import type { ChartSpec } from '@/ui/chart/figure';
import { usePrefs } from '@/ui/theme/prefs';
import { RunsList } from '../dyno/runs-list';
import type { useImports } from '../files/imports';
import { TakeFiles } from '../files/take';
import { LoggerStandIn } from './logger-stand-in';
import { Manners, mannersAnswer } from './manners';
import { PedalTrace } from './pedal-trace';
import { Pulls, pullsOf, type ShownPull } from './pulls';
import { quantityName, shownChannel, shownQuantity } from './quantities';
import { Trust } from './trust';
import type { Lane, View } from './draw-lane';
import { TraceView } from './trace-view';
import { useDrawn, useLogWorker, useLooks } from './use-log';
import { ValuesAt } from './values-at';
import styles from './log.module.css';
import { msg } from './messages';

const MOST_LANES = 5;
const FIRST: readonly Quantity[] = ['rpm', 'throttle', 'manifold pressure', 'boost', 'air mass flow'];
const NOBODY: readonly never[] = [];

const firstColumns = (run: StoredRun): number[] =>
  FIRST.flatMap((q) => run.doc.channels.find((c) => c.quantity === q)?.column ?? []).slice(0, MOST_LANES - 1);

/** The channels of a log, to be shown or not. */
function Channels({ run, shown, onShown }: { run: StoredRun; shown: readonly number[]; onShown: (columns: number[]) => void }) {
  const [find, setFind] = useState('');
  const { pack } = usePrefs();
  const list = run.doc.channels.filter((c) => c.quantity !== 'time' && (run.columns[c.column]?.count ?? 0) > 0);
  const named = list.map((c) => ({ c, label: shownChannel(run, c, pack), file: run.columns[c.column]!.name }));
  const matching = named.filter(({ label, file }) => `${label.label} ${file}`.toLowerCase().includes(find.trim().toLowerCase()));
  return (
    <>
      <Heading
        more={
          <span className="quiet">
            {shown.length} {msg.ofWord} {list.length}, {MOST_LANES} {msg.atOnce}
          </span>
        }
      >
        {msg.channels}
      </Heading>
      {list.length > 12 && (
        <Input
          size="small"
          aria-label={msg.findAChannel}
          placeholder={msg.findAChannel2}
          value={find}
          onChange={(e) => setFind(e.target.value)}
        />
      )}
      <ul className={styles['channels']}>
        {matching.slice(0, 120).map(({ c, label, file }) => (
          <li key={c.column}>
            <label>
              <input
                type="checkbox"
                checked={shown.includes(c.column)}
                disabled={!shown.includes(c.column) && shown.length >= MOST_LANES}
                onChange={(e) => onShown(e.target.checked ? [...shown, c.column] : shown.filter((x) => x !== c.column))}
              />
              <span>
                {label.label}
                {file !== label.label && <small className="quiet"> {file}</small>}
              </span>
              <span className={styles['unit']}>{label.unit}</span>
            </label>
          </li>
        ))}
      </ul>
    </>
  );
}

/** One channel of several logs' pulls on a base they share. */
function Aligned({
  logs,
  pulls,
  api,
}: {
  logs: readonly StoredRun[];
  pulls: ReadonlyMap<string, ShownPull>;
  api: ReturnType<typeof useLogWorker>;
}) {
  const { pack, palette } = usePrefs();
  const shownUnits = useJob((s) => s.doc.pick.shown);
  const [base, setBase] = useState<LogBase>('rpm');
  const quantities = useMemo(() => {
    const has = (q: Quantity): boolean => logs.every((r) => r.doc.channels.some((c) => c.quantity === q));
    return (
      ['manifold pressure', 'boost', 'air mass flow', 'throttle', 'speed', 'lambda', 'inlet air', 'cylinder air', 'rpm'] as const
    ).filter(has);
  }, [logs]);
  const [asked, setAsked] = useState<Quantity | null>(null);
  const quantity = asked && quantities.includes(asked as 'rpm') ? asked : (quantities[0] ?? null);
  const [curves, setCurves] = useState<ReadonlyMap<string, { x: number[]; y: number[] }>>(new Map());
  useEffect(() => {
    if (!api || quantity === null) return;
    let current = true;
    void Promise.all(
      logs.flatMap((run) => {
        const pull = pulls.get(run.id);
        return pull ? [api.aligned(run, quantity, pull, base).then((c) => [run.id, c] as const)] : [];
      }),
    )
      .then((list) => current && setCurves(new Map(list.flatMap(([id, c]) => (c ? [[id, c] as const] : [])))))
      // The channels' own panel says that the server is away.
      .catch(() => {});
    return () => {
      current = false;
    };
  }, [api, logs, pulls, quantity, base]);
  const spec = useMemo<ChartSpec | null>(() => {
    if (quantity === null) return null;
    const { show, unit, label } = shownQuantity(quantity, pack);
    const lines = logs.flatMap((run, k) => {
      const c = curves.get(run.id);
      if (!c || c.x.length < 2) return [];
      const stock = run.doc.side?.kind === 'stock';
      const at = run.doc.side?.kind === 'unit' ? Math.max(0, shownUnits.indexOf(run.doc.side.unitId)) : k;
      return [
        {
          id: run.id,
          label: run.doc.name.length > 20 ? `${run.doc.name.slice(0, 19)}…` : run.doc.name,
          x: c.x,
          y: c.y.map(show),
          color: stock ? palette.stock : palette.series[at % palette.series.length]!,
          dash: stock ? ('longdash' as const) : ('solid' as const),
          width: 2,
        },
      ];
    });
    if (lines.length === 0) return null;
    const xs = lines.flatMap((l) => [l.x[0]!, l.x.at(-1)!]);
    return {
      lines,
      xRange: [Math.min(...xs), Math.max(...xs)],
      xTitle: base === 'rpm' ? 'rpm' : base === 'time' ? 's' : 'm',
      yTitle: unit ? `${label}, ${unit}` : label,
      marginRight: 148,
    };
  }, [curves, logs, quantity, base, pack, palette, shownUnits]);
  if (quantities.length === 0 || pulls.size === 0) return null;
  return (
    <>
      <div className={styles['bar']}>
        <Select
          size="small"
          aria-label={msg.channelLaidOverOneAnother}
          style={{ width: 170 }}
          value={quantity}
          options={quantities.map((q) => ({ value: q, label: quantityName(q) }))}
          onChange={setAsked}
        />
        <span>{msg.ofEachLogsPullOver}</span>
        <Segmented
          size="small"
          aria-label={msg.base}
          value={base}
          options={LOG_BASES.map((b) => ({ value: b, label: b === 'rpm' ? 'engine speed' : b }))}
          onChange={(v) => setBase(v)}
        />
      </div>
      {spec ? (
        <Chart spec={spec} height={210} name="logs" alt={`${quantity ?? ''} of each log’s pull over ${base}`} />
      ) : (
        <p className="quiet">{base === 'distance' ? 'Distance needs a road speed channel.' : 'Nothing to draw on this base.'}</p>
      )}
    </>
  );
}

function lookAnswer(run: StoredRun, look: LogLook): { answer: string; reason: string } {
  const best = look.pulls.reduce<LogLook['pulls'][number] | null>(
    (a, p) => (a === null || p.to_rpm - p.from_rpm > a.to_rpm - a.from_rpm ? p : a),
    null,
  );
  const gear = best?.gear?.gear ? ` in gear ${best.gear.gear}` : '';
  const pulls =
    best === null
      ? 'no pull found in it'
      : `${look.pulls.length === 1 ? 'one pull' : `${look.pulls.length} pulls`}, the widest from ${formatNumber(Math.round(best.from_rpm / 10) * 10, 0)} to ${formatNumber(Math.round(best.to_rpm / 10) * 10, 0)} rpm${gear}`;
  const parts: string[] = [];
  if (look.idle)
    parts.push(
      `idles at ${formatNumber(look.idle.mean_rpm, 0)} ± ${formatNumber(look.idle.spread_rpm, 0)} rpm${look.idle.hunting ? ', hunting' : ''}`,
    );
  if (look.tipIn?.air_s != null) parts.push(`air follows a stab of the throttle in ${formatNumber(look.tipIn.air_s, 2)} s`);
  if (look.air)
    parts.push(
      `the two air figures differ by ${formatSigned(100 * (look.air.meanRatio - 1), 1, '%')}${look.air.flagged ? ' and wander' : ''}`,
    );
  return {
    answer: `${run.doc.name}: ${pulls}.`,
    reason:
      parts.length > 0
        ? `${parts.join('; ')}.`.replace(/^./, (c) => c.toUpperCase())
        : 'Full throttle (95 % and more) for a second and a half makes a pull.',
  };
}

/** The channels on show as they are drawn, those that are read already. */
function useLanes(run: StoredRun | null, columns: readonly number[], traces: ReturnType<typeof useDrawn>['traces']): Lane[] {
  const { pack, palette } = usePrefs();
  return useMemo(
    () =>
      run
        ? columns.flatMap((column, k) => {
            const trace = traces.get(column);
            const map = run.doc.channels.find((c) => c.column === column);
            return trace && map
              ? [{ id: String(column), shown: shownChannel(run, map, pack), color: palette.series[k % palette.series.length]!, trace }]
              : [];
          })
        : [],
    [run, columns, traces, pack, palette],
  );
}

/** The pull of each log that is looked at. */
function useEveryPull(logs: readonly StoredRun[], looks: ReturnType<typeof useLooks>['looks'], pullOf: ReadonlyMap<string, number>) {
  return useMemo(() => {
    const out = new Map<string, ShownPull>();
    for (const r of logs) {
      const l = looks.get(r.id);
      const list = l ? pullsOf(r, l) : [];
      const at = list[pullOf.get(r.id) ?? widest(list)];
      if (at) out.set(r.id, at);
    }
    return out;
  }, [logs, looks, pullOf]);
}

/** What is looked at: all of the log, or its pull. */
function ViewBar({ duration_s, pull, onView }: { duration_s: number; pull: ShownPull | null; onView: (view: View) => void }) {
  return (
    <div className={styles['bar']}>
      <span>{msg.dragToMoveWheelToZoom}</span>
      <Button size="small" onClick={() => onView([0, duration_s])}>
        {msg.allOfIt}
      </Button>
      {pull && (
        <Button size="small" onClick={() => onView([Math.max(0, pull.from_s - 1), Math.min(duration_s, pull.to_s + 1)])}>
          {msg.thePull}
        </Button>
      )}
    </div>
  );
}

/** Datalog: look into a log, its pulls and manners, and lay several over one another. */
export function LogView({ imports }: { imports: ReturnType<typeof useImports> }) {
  const { runs } = useRuns();
  const logs = useMemo(() => runs.filter((r) => r.doc.kind === 'log' && r.doc.leftOut === null), [runs]);
  const [chosen, setChosen] = useState<string | null>(null);
  const run = logs.find((r) => r.id === chosen) ?? logs.at(-1) ?? null;
  const [columnsOf, setColumnsOf] = useState<ReadonlyMap<string, readonly number[]>>(new Map());
  const columns = useMemo(() => (run ? (columnsOf.get(run.id) ?? firstColumns(run)) : NOBODY), [run, columnsOf]);
  const api = useLogWorker();
  const { looks, wrong: lookWrong } = useLooks(api, logs);
  const { traces, wrong } = useDrawn(api, run, columns);
  const look = run ? looks.get(run.id) : undefined;
  const duration_s = useMemo(() => [...traces.values()].reduce((m, t) => Math.max(m, t.time_s.at(-1) ?? 0), 0) || 1, [traces]);
  const [viewOf, setViewOf] = useState<{ id: string; view: View } | null>(null);
  const view = viewOf && viewOf.id === run?.id ? viewOf.view : ([0, duration_s] as const);
  const onView = (v: View): void => void (run && setViewOf({ id: run.id, view: v }));
  const [pullOf, setPullOf] = useState<ReadonlyMap<string, number>>(new Map());
  const pulls = useMemo(() => (run && look ? pullsOf(run, look) : []), [run, look]);
  const pullIndex = Math.min(pulls.length - 1, run ? (pullOf.get(run.id) ?? widest(pulls)) : 0);
  const pull = pulls[pullIndex] ?? null;
  const lanes = useLanes(run, columns, traces);
  const spans = useMemo(
    () => pulls.map((p, i) => ({ from_s: p.from_s, to_s: p.to_s, label: p.name, chosen: i === pullIndex })),
    [pulls, pullIndex],
  );
  const everyPull = useEveryPull(logs, looks, pullOf);
  const compared = mannersAnswer(logs, looks);
  const { answer, reason } = !run
    ? {
        answer: msg.noLogsYetDropADatalog,
        reason: msg.aTableOverTimeWithEngine,
      }
    : (compared ?? (look ? lookAnswer(run, look) : { answer: msg.readingTheLog, reason: '' }));
  return (
    <StopPage
      answer={answer}
      reason={reason}
      aside={
        <>
          <TakeFiles imports={imports} title={msg.logs} />
          <LoggerStandIn imports={imports} />
          {logs.length > 1 && (
            <Select
              aria-label={msg.logLookedInto}
              style={{ width: '100%', marginTop: 8 }}
              value={run?.id ?? null}
              options={logs.map((r) => ({ value: r.id, label: r.doc.name }))}
              onChange={setChosen}
            />
          )}
          <RunsList prepared={NOBODY} kind="log" />
          {run && (
            <>
              <Rule />
              <Channels run={run} shown={columns} onShown={(next) => setColumnsOf((m) => new Map(m).set(run.id, next))} />
            </>
          )}
          {look && run && (
            <>
              <Rule />
              <Trust look={look} run={run} />
            </>
          )}
        </>
      }
    >
      {(wrong ?? lookWrong) && (
        <p role="alert" className="quiet">
          {wrong ?? lookWrong}
        </p>
      )}
      {run && lanes.length > 0 && (
        <>
          <ViewBar duration_s={duration_s} pull={pull} onView={onView} />
          <TraceView lanes={lanes} spans={spans} duration_s={duration_s} view={view} onView={onView} />
        </>
      )}
      {run && look && (
        <>
          <div className={styles['two']}>
            <Pulls
              key={run.id}
              run={run}
              look={look}
              pulls={pulls}
              chosen={pullIndex}
              onChosen={(i) => setPullOf((m) => new Map(m).set(run.id, i))}
            />
            {pull && api && <ValuesAt key={`${run.id}-${pullIndex}`} api={api} run={run} pull={pull} intervals={look.intervals} />}
          </div>
          <Aligned logs={logs} pulls={everyPull} api={api} />
          <PedalTrace logs={logs} looks={looks} />
          <Manners logs={logs} looks={looks} />
        </>
      )}
    </StopPage>
  );
}

const widest = (pulls: readonly ShownPull[]): number =>
  pulls.reduce((k, p, i) => (p.to_s - p.from_s > (pulls[k]?.to_s ?? 0) - (pulls[k]?.from_s ?? 0) ? i : k), 0);
