'use client';

import { Button, InputNumber, Select } from 'antd';
import { useMemo, useRef, useState, useSyncExternalStore } from 'react';
import {
  cycleReports,
  idleAlarm,
  relearnEvents,
  relearnFaults,
  relearnState,
  runFault,
  type CycleReport,
  type IdleAlarm,
  type IdleVerdict,
  type RelearnEvent,
  type RelearnFault,
  type RelearnPlan,
} from '@/core/install/relearn';
import type { SheetEvent } from '@/core/documents/sheet-event';
import { TACHOMETER_CASES, type TachometerCase, type TachometerReading } from '@/core/stand-ins/tachometer';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { DocField } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { usePrefs } from '@/ui/theme/prefs';
import { Called, Large } from './at-car';
import car from './at-car.module.css';
import styles from './install.module.css';
import { useReadings } from './use-readings';
import type { Entry } from './use-sheet';
import { msg } from './messages';

/** Readings are put on the sheet in batches this long, ms. */
const BATCH_ms = 10_000;
const STEP_ms = 1000;

let second = 0;
let ticking: ReturnType<typeof setInterval> | undefined;
const listeners = new Set<() => void>();
function tick(): void {
  second = Date.now();
  listeners.forEach((l) => l());
}
function subscribe(changed: () => void): () => void {
  listeners.add(changed);
  ticking ??= setInterval(tick, 1000);
  // The first time is shown at once, and not while the page is being put together.
  const soon = setTimeout(tick, 0);
  return () => {
    clearTimeout(soon);
    listeners.delete(changed);
    if (listeners.size > 0) return;
    clearInterval(ticking);
    ticking = undefined;
  };
}
/** The time by this device's clock, once a second; only ever read against stamps. */
const useNow = (): number =>
  useSyncExternalStore(
    subscribe,
    () => second,
    () => 0,
  );

const clock = (s: number): string => `${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, '0')}`;

const ALARMS: Readonly<Record<IdleAlarm, string>> = {
  climbing: 'The idle climbs. Key off now: more air gets in than the stops allow.',
  hunting: 'The idle hunts up and down. Key off, look for a leak behind the throttle, then set the stop again.',
  'not back':
    'It did not come back from the blip. Key off now: the blade may stick. The first start is locked again once you fail the snap-shut check.',
};
const IDLES: Readonly<Record<IdleVerdict, string>> = {
  steady: 'steady in its band',
  climbing: 'climbing',
  hunting: 'hunting',
  high: 'steady, above its band',
  low: 'steady, below its band',
  'too few readings': 'too few readings to say',
};

const FAULTS: Readonly<Record<RelearnFault['why'], string>> = {
  'not back': 'it did not come back from a blip',
  climbing: 'the idle climbed',
  hunting: 'the idle hunted',
  high: 'the idle was above its band',
  low: 'the idle was below its band',
  'too few readings': 'the idle has too few readings to say',
  'runs missing': 'not as many runs as planned',
};

const W = 620;
const H = 190;

/** Engine speed of a run against its band, over time. */
function Trace({ events, from_ms, to_ms, plan }: { events: readonly RelearnEvent[]; from_ms: number; to_ms: number; plan: RelearnPlan }) {
  const { palette } = usePrefs();
  const [low, high] = plan.band_rpm;
  const samples = events.filter((e) => e.type === 'rpm' && e.at_ms >= from_ms && e.at_ms <= to_ms) as Extract<
    RelearnEvent,
    { type: 'rpm' }
  >[];
  const span = Math.max(plan.run_s * 1000, to_ms - from_ms);
  const top = Math.max(high * 1.6, ...samples.map((s) => s.rpm));
  const x = (t: number): number => 52 + ((t - from_ms) / span) * (W - 62);
  const y = (rpm: number): number => H - 26 - (rpm / top) * (H - 40);
  const path = samples.map((s, i) => `${i === 0 ? 'M' : 'L'}${x(s.at_ms).toFixed(1)} ${y(s.rpm).toFixed(1)}`).join(' ');
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className={styles['trace']}
      role="img"
      aria-label={`Engine speed against its band of ${low} to ${high} rpm`}
    >
      <rect x="52" y={y(high)} width={W - 62} height={y(low) - y(high)} fill={palette.series[0]} opacity="0.14" />
      <text x={W - 14} y={y(low) + 17} textAnchor="end" fontSize="16" fill={palette.series[0]}>
        {msg.band} {low} {msg.to} {high} {msg.rpm}
      </text>
      <path d={`M52 ${H - 26} H${W - 10} M52 ${H - 26} V8`} stroke={palette.hairline} fill="none" />
      {[0, 0.5, 1].map((s) => (
        <text
          key={s}
          x={52 + s * (W - 62)}
          y={H - 6}
          fontSize="16"
          textAnchor={s === 0 ? 'start' : s === 1 ? 'end' : 'middle'}
          fill={palette.quiet}
        >
          {clock((s * span) / 1000)}
        </text>
      ))}
      {[1000, 2000]
        .filter((v) => v < top)
        .map((v) => (
          <text key={v} x="48" y={y(v) + 4} textAnchor="end" fontSize="16" fill={palette.quiet}>
            {formatNumber(v, 0)}
          </text>
        ))}
      <path d={path} fill="none" stroke={palette.ink} strokeWidth="1.6" />
    </svg>
  );
}

function Cycles({ reports }: { reports: readonly CycleReport[] }) {
  return (
    <table className="plain">
      <thead>
        <tr>
          <th>{msg.run}</th>
          <th className="num">{msg.ran}</th>
          <th>{msg.idleAtItsEnd}</th>
          <th>{msg.blipsBackAfter}</th>
        </tr>
      </thead>
      <tbody>
        {reports.map((r, i) => (
          <tr key={r.from_ms} data-open={r.to_ms !== null && r.longEnough && runFault(r) !== null}>
            <td>{i + 1}</td>
            <td className="num">
              {r.to_ms === null ? 'running' : `${clock((r.to_ms - r.from_ms) / 1000)}${r.longEnough ? '' : ', cut short'}`}
            </td>
            <td>
              {IDLES[r.idle]}
              {r.mean_rpm !== null && `, ${formatNumber(r.mean_rpm, 0)} rpm`}
            </td>
            <td>
              {r.blips.length === 0
                ? 'none'
                : r.blips.map((b) => (b.back_s === null ? 'not back' : `${formatNumber(b.back_s, 1)} s`)).join(', ')}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Idle relearn: run and rest by time stamps, rpm against its band, blips and what each run's idle did, and the alarm. */
export function Relearn({
  events,
  named,
  started,
  locked,
  clock_ms,
  onWrite,
}: {
  events: readonly SheetEvent[];
  named: boolean;
  started: boolean;
  /** Why the first start is shut, in a line; null: it is open. */
  locked: string | null;
  /** Add to this device's clock to have the server's, ms. */
  clock_ms: number;
  onWrite: (entry: Entry, at_ms?: number) => void;
}) {
  const { pack } = usePrefs();
  const r = useJob((s) => s.doc.install.relearn);
  const jobNumber = useJob((s) => s.number);
  const now = useNow() + clock_ms;
  const plan = useMemo<RelearnPlan>(() => ({ cycles: r.cycles, run_s: r.run_s, rest_s: r.rest_s, band_rpm: [r.low_rpm, r.high_rpm] }), [r]);
  const [live, setLive] = useState<RelearnEvent[]>([]);
  const [kind, setKind] = useState<TachometerCase>('sound');
  const [typed, setTyped] = useState<number | null>(null);
  const written = useMemo(() => relearnEvents(events), [events]);
  const batch = useRef<{ from: number; rpm: number[] } | null>(null);
  const flush = (): void => {
    const b = batch.current;
    if (b && b.rpm.length > 0) onWrite({ type: 'rpm', step_ms: STEP_ms, rpm: b.rpm.map((v) => Math.round(v)) }, b.from);
    batch.current = null;
    setLive([]);
  };
  const tacho = useReadings<TachometerReading>((reading) => {
    const at_ms = Date.now();
    const b = (batch.current ??= { from: at_ms, rpm: [] });
    // One a second goes on the sheet; a batch that is whole is written down.
    if (at_ms >= b.from + b.rpm.length * STEP_ms) {
      b.rpm.push(reading.rpm);
      setLive((list) => [...list, { type: 'rpm', at_ms, rpm: reading.rpm }]);
    }
    if (at_ms - b.from >= BATCH_ms) flush();
  });
  const all = useMemo(() => [...written, ...live], [written, live]);
  const state = relearnState(plan, all, now);
  const reports = cycleReports(plan, all, now);
  const open = reports.at(-1);
  const running = open !== undefined && open.to_ms === null;
  const alarm = running
    ? idleAlarm(
        all.flatMap((e) => (e.type === 'rpm' && e.at_ms >= open.from_ms ? [{ at_ms: e.at_ms, rpm: e.rpm }] : [])),
        plan.band_rpm,
      )
    : null;
  const on = (): void => onWrite({ type: 'engine on' });
  const off = (): void => {
    tacho.close();
    flush();
    onWrite({ type: 'engine off' });
  };
  const left = Math.max(0, state.wanted_s - state.elapsed_s);
  const faults = relearnFaults(plan, all, now);
  const unclean =
    state.phase === 'done' && faults.length > 0
      ? `${state.cyclesDone} runs were long enough, but it is not done: ${faults.map((f) => `${f.run === null ? '' : `run ${f.run}, `}${FAULTS[f.why]}`).join('; ')}. Run it again, or say at the tick why it is done.`
      : null;
  const text =
    unclean ??
    {
      'not begun': `${plan.cycles} runs of ${clock(plan.run_s)}, ${clock(plan.rest_s)} off between them; a light blip or two in each.`,
      running: `Run ${reports.length}: ${clock(left)} to go. Blip it lightly and let go.`,
      'run long enough': `Run ${reports.length} was long enough: key off.`,
      resting: `Off for another ${clock(left)}; ${state.cyclesDone} of ${plan.cycles} runs done.`,
      rested: `Rested: start run ${state.cyclesDone + 1} of ${plan.cycles}.`,
      done: `All ${plan.cycles} runs are done and clean. Drive it gently now, so that it learns.`,
    }[state.phase];
  const rpmNow = tacho.last?.rpm ?? null;
  const inBand = rpmNow !== null && rpmNow >= plan.band_rpm[0] && rpmNow <= plan.band_rpm[1];
  const wants = alarm
    ? ALARMS[alarm]
    : state.phase === 'run long enough' || state.phase === 'rested' || state.phase === 'done'
      ? text
      : null;
  const engine = (
    <>
      <Button type="primary" size="large" disabled={!named || !started || locked !== null || running} onClick={on}>
        {msg.engineOn}
      </Button>
      <Button size="large" disabled={!named || !running} onClick={off}>
        {msg.engineOff}
      </Button>
    </>
  );
  return (
    <div className={`${styles['panel']} ${styles['relearn']}`}>
      <div>
        <p role="timer" className={styles['live']}>
          {text}
        </p>
        {alarm && (
          <p role="alert" className={styles['alarm']}>
            {ALARMS[alarm]}
          </p>
        )}
        <div className={`${styles['devices']} no-print`}>
          {engine}
          <Select<TachometerCase>
            aria-label={msg.practiceTachometerSimulatedPlays}
            value={kind}
            style={{ width: 170 }}
            options={TACHOMETER_CASES.map((value) => ({ value, label: value === 'sound' ? 'a sound engine' : `a ${value}` }))}
            onChange={setKind}
          />
          {tacho.state === 'off' ? (
            <Button
              disabled={!running}
              onClick={() =>
                tacho.open(
                  `/api/stand-ins/tachometer?low=${r.low_rpm}&high=${r.high_rpm}&case=${encodeURIComponent(kind)}&seed=${jobNumber}`,
                )
              }
            >
              {msg.listenToThePracticeTachometer}
            </Button>
          ) : (
            <Button
              onClick={() => {
                tacho.close();
                flush();
              }}
            >
              {msg.stopListening}
            </Button>
          )}
          <InputNumber
            aria-label={msg.engineSpeedTyped}
            min={0}
            max={25_000}
            precision={0}
            placeholder={msg.rpm}
            value={typed}
            onChange={setTyped}
            style={{ width: 90 }}
          />
          <Button
            disabled={!named || !running || typed === null}
            onClick={() => {
              onWrite({ type: 'rpm', step_ms: STEP_ms, rpm: [typed!] });
              setTyped(null);
            }}
          >
            {msg.noteIt}
          </Button>
        </div>
        {!started && <p className="quiet">{locked ?? 'Begins when the first start is ticked.'}</p>}
        <Large title={msg.idleRelearn}>
          {() => (
            <div className={car['one']}>
              <p className={car['big']} data-tone={alarm ? 'danger' : undefined}>
                {state.wanted_s > 0 ? clock(left) : '—'}
              </p>
              <p className={car['say']} role={alarm ? 'alert' : undefined}>
                {alarm ? ALARMS[alarm] : text}
              </p>
              {rpmNow !== null && (
                <p className={car['big']} data-tone={inBand ? 'good' : 'danger'}>
                  {formatQuantity(rpmNow, 'rpm', pack)}
                </p>
              )}
              {rpmNow !== null && (
                <p className={car['say']}>
                  {inBand ? 'In its band.' : `Outside its band of ${plan.band_rpm[0]} to ${plan.band_rpm[1]} rpm.`} {msg.simulatedSentence}
                </p>
              )}
              <div className={car['go']}>{engine}</div>
              <Called text={wants} />
            </div>
          )}
        </Large>
        {tacho.state === 'away' && <p className={styles['failed']}>{msg.theTachometerIsAwayItIs}</p>}
        {tacho.last && (
          <p className={styles['live']} aria-label={msg.engineSpeed}>
            {formatQuantity(tacho.last.rpm, 'rpm', pack)} <span className="quiet">{msg.simulated}</span>
          </p>
        )}
        {open && <Trace events={all} from_ms={open.from_ms} to_ms={open.to_ms ?? now} plan={plan} />}
        {reports.length > 0 && <Cycles reports={reports} />}
      </div>
      <div className="no-print">
        <DocField path="install.relearn.cycles" label={msg.runs} measure="count" />
        <DocField path="install.relearn.run_s" label={msg.eachRuns} measure="seconds" />
        <DocField path="install.relearn.rest_s" label={msg.offBetween} measure="seconds" />
        <DocField path="install.relearn.low_rpm" label={msg.idleFrom} measure="rpm" />
        <DocField path="install.relearn.high_rpm" label={msg.to} measure="rpm" />
        <p className="quiet" style={{ fontSize: 13 }}>
          {msg.commonPracticeOursTheMakersOwn}
        </p>
      </div>
    </div>
  );
}
