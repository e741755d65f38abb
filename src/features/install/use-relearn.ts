'use client';

import { useMemo, useRef, useState } from 'react';
import type { SheetEvent } from '@/core/documents/sheet-event';
import {
  cycleReports,
  idleAlarm,
  relearnEvents,
  relearnFaults,
  relearnState,
  type RelearnEvent,
  type RelearnPlan,
} from '@/core/install/relearn';
import type { TachometerReading } from '@/core/stand-ins/tachometer';
import { useJob } from '@/features/job/provider';
import { ALARMS, clock, relearnText } from './relearn-words';
import { useNow } from './use-now';
import { useReadings } from './use-readings';
import type { Entry } from './use-sheet';

/** Readings are put on the sheet in batches this long, ms. */
const BATCH_ms = 10_000;
export const STEP_ms = 1000;

/**
 * The relearn as the sheet and this device's own readings tell it. `clock_ms`: added to this device's clock to have the server's.
 */
export function useRelearn(events: readonly SheetEvent[], clock_ms: number, onWrite: (entry: Entry, at_ms?: number) => void) {
  const r = useJob((s) => s.doc.install.relearn);
  const now = useNow() + clock_ms;
  const plan = useMemo<RelearnPlan>(() => ({ cycles: r.cycles, run_s: r.run_s, rest_s: r.rest_s, band_rpm: [r.low_rpm, r.high_rpm] }), [r]);
  const [live, setLive] = useState<RelearnEvent[]>([]);
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
  const faults = relearnFaults(plan, all, now);
  const text = relearnText(plan, state, faults, reports.length);
  const rpm = tacho.last?.rpm ?? null;
  const changes = state.phase === 'run long enough' || state.phase === 'rested' || state.phase === 'done';
  return {
    plan,
    all,
    now,
    reports,
    /** The run that goes on, or the last that did. */
    open,
    running,
    alarm,
    text,
    /** What wants a person's hand now, to be called out. */
    wants: alarm ? ALARMS[alarm] : changes ? text : null,
    left: state.wanted_s > 0 ? clock(Math.max(0, state.wanted_s - state.elapsed_s)) : '—',
    rpm,
    inBand: rpm !== null && rpm >= plan.band_rpm[0] && rpm <= plan.band_rpm[1],
    on,
    off,
    tachometer: {
      state: tacho.state,
      open: tacho.open,
      close: (): void => {
        tacho.close();
        flush();
      },
    },
  };
}
export type RelearnNow = ReturnType<typeof useRelearn>;
