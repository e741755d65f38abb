'use client';

import { createContext, useContext, useEffect, useMemo, useState, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { airState } from '@/core/air/state';
import type { StoredJob } from '@/core/documents/job';
import type { StoredRun } from '@/core/documents/run';
import type { StoredPart, StoredUnit } from '@/core/documents/unit';
import type { JobFindings } from '@/core/verdict/findings';
import { isFailure } from '@/core/failure';
import { DayAir } from '@/ui/theme/prefs';
import { autosave } from './autosave';
import { rememberUndo } from './undo-memory';
import { createJobStore, type JobActions, type JobState, type JobStore } from './store';

interface JobRoom {
  readonly store: JobStore;
  readonly units: readonly StoredUnit[];
  readonly parts: readonly StoredPart[];
  readonly runs: readonly StoredRun[];
  readonly setRuns: (change: (runs: readonly StoredRun[]) => readonly StoredRun[]) => void;
}

const JobContext = createContext<JobRoom | null>(null);

function useRoom(): JobRoom {
  const room = useContext(JobContext);
  if (!room) throw new Error('used outside a job');
  return room;
}

/** Part of the open job's state; the component draws again only when that part changes. */
export function useJob<T>(select: (s: JobState & JobActions) => T): T {
  return useStore(useRoom().store, select);
}

export const useJobStore = (): JobStore => useRoom().store;
export const useShelf = (): readonly StoredUnit[] => useRoom().units;
/** Parts with bench records of their own, that a part of the path can take its loss from. */
export const useTestedParts = (): readonly StoredPart[] => useRoom().parts;
export function useRuns(): Pick<JobRoom, 'runs' | 'setRuns'> {
  const { runs, setRuns } = useRoom();
  return useMemo(() => ({ runs, setRuns }), [runs, setRuns]);
}

/** Air flows told as volumes are of this job's day. */
function OfThisDay({ store, children }: { store: JobStore; children: ReactNode }) {
  const weather = useStore(store, (s) => s.doc.car.weather);
  const density = useMemo(() => {
    const air = airState(weather);
    return isFailure(air) ? null : air.density_kgpm3;
  }, [weather]);
  return <DayAir density_kgpm3={density}>{children}</DayAir>;
}

const NO_PARTS: readonly StoredPart[] = [];

/** Holds the open job while a person walks between its stops, and saves what they change. */
export function JobProvider({
  job,
  findings,
  units,
  parts = NO_PARTS,
  runs: runs0,
  children,
}: {
  job: StoredJob;
  findings: JobFindings;
  units: readonly StoredUnit[];
  parts?: readonly StoredPart[];
  runs: readonly StoredRun[];
  children: ReactNode;
}) {
  const [store] = useState(() => createJobStore(job, findings, () => performance.now()));
  const [runs, setRuns] = useState(runs0);
  useEffect(() => {
    const stop = autosave(store);
    const forget = rememberUndo(store);
    const begin = (): void => store.getState().begin();
    document.addEventListener('focusin', begin);
    return () => {
      document.removeEventListener('focusin', begin);
      forget();
      stop();
    };
  }, [store]);
  const room = useMemo(() => ({ store, units, parts, runs, setRuns }), [store, units, parts, runs]);
  return (
    <JobContext value={room}>
      <OfThisDay store={store}>{children}</OfThisDay>
    </JobContext>
  );
}
