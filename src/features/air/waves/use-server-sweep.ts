'use client';

import { useEffect, useRef, useState } from 'react';
import { gridPoints, type WaveGrid } from '@/core/job/wave-sweep';
import { useJobStore } from '@/features/job/provider';
import type { SweepResult } from '@/server/queue/wave-sweep';
import type { WorkSeen } from '@/server/queue/work';
import { send, type Refused } from '@/ui/post';
import { msg } from './messages';

/** A point of a map as it is drawn. */
export interface MapPoint {
  readonly W: number;
  readonly settled: boolean;
}

export interface ServerSweep {
  /** By point; null: not computed yet. */
  readonly results: readonly (MapPoint | null)[];
  /** Share done; null: at rest. */
  readonly progress: number | null;
  /** Where it stands, or why it ended without an answer. */
  readonly says: string | null;
}

const AT_REST: ServerSweep = { results: [], progress: null, says: null };
/** How often it is asked how far it is, ms, and how often in a row the server may be away. */
const ASK_ms = 700;
const MOST_AWAY = 40;
/** What is typed is saved within a moment; for so long it is waited for, ms. */
const SAVED_WITHIN_ms = 8000;

const wait = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

const pointsOf = (grid: WaveGrid, sweep: SweepResult | null): (MapPoint | null)[] => {
  const off = new Set(sweep?.unsettled ?? []);
  return Array.from({ length: gridPoints(grid) }, (_, i) => {
    const W = sweep?.filling[i] ?? null;
    return W !== null ? { W, settled: true } : off.has(i) ? { W: NaN, settled: false } : null;
  });
};

/**
 * A map computed by a worker of the server, as the job is saved. It goes on when the page is left; asked for again, it is joined or
 * there at once. `halted` stops it there: what was computed until then stays on show. A null grid: nothing is wanted.
 */
export function useServerSweep(grid: WaveGrid | null, halted: boolean): ServerSweep {
  const store = useJobStore();
  const [state, setState] = useState<{ of: WaveGrid | null; sweep: ServerSweep; work: string | null }>({
    of: null,
    sweep: AT_REST,
    work: null,
  });
  const work = state.of === grid ? state.work : null;
  const stopped = useRef(halted);
  // A stop is heard before the same is asked for again: two requests may overtake each other.
  const stopping = useRef<Promise<unknown>>(Promise.resolve());
  useEffect(() => {
    stopped.current = halted;
    if (!grid || halted) return;
    let gone = false;
    const tell = (sweep: ServerSweep, id: string | null): void => {
      if (!gone) setState({ of: grid, sweep, work: id });
    };
    const end = (says: string, results: ServerSweep['results'] = []): void => tell({ results, progress: null, says }, null);
    const run = async (): Promise<void> => {
      // The server computes what is saved; what was typed a moment ago is on its way there.
      for (let waited = 0; store.getState().save !== 'saved'; waited += 200) {
        if (gone) return;
        if (waited > SAVED_WITHIN_ms) return end(msg.notSavedYet);
        await wait(200);
      }
      await stopping.current;
      const { id: job, version } = store.getState();
      const { work: id } = await send<{ work: string }>('POST', `/api/jobs/${job}/wave-sweeps`, { version, grid });
      if (gone) {
        // Stopped before the server had said its name: it is stopped all the same. Left alone, it goes on.
        if (stopped.current) stopping.current = send('DELETE', `/api/work/${id}`).catch(() => {});
        return;
      }
      let away = 0;
      let last: (MapPoint | null)[] = [];
      while (!gone) {
        const seen = await send<WorkSeen>('GET', `/api/work/${id}`).catch((error: Refused) => {
          if (error.status >= 400 && error.status < 500) throw error;
          away += 1;
          return null;
        });
        if (away > MOST_AWAY) return end(msg.serverAwayForTheMap, last);
        if (seen) {
          away = 0;
          last = pointsOf(grid, seen.result as SweepResult | null);
          if (seen.state === 'done') return tell({ results: last, progress: null, says: msg.computedByAWorker }, id);
          if (seen.state === 'failed') return end(seen.problem?.message ?? msg.mapFailed, last);
          // Who stops it here no longer asks.
          if (seen.state === 'cancelled') return end(msg.stoppedElsewhere, last);
          tell({ results: last, progress: seen.share, says: seen.state === 'waiting' ? msg.waitsForAWorker : msg.goesOnWithoutYou }, id);
        }
        await wait(ASK_ms);
      }
    };
    setState({ of: grid, sweep: { results: pointsOf(grid, null), progress: 0, says: null }, work: null });
    run().catch((error: Error) => end(error.message));
    return () => {
      gone = true;
    };
  }, [grid, halted, store]);
  useEffect(() => {
    if (halted && work !== null) stopping.current = send('DELETE', `/api/work/${work}`).catch(() => {});
  }, [halted, work]);
  if (!grid || state.of !== grid) return grid ? { results: [], progress: 0, says: null } : AT_REST;
  return halted ? { ...state.sweep, progress: null, says: null } : state.sweep;
}
