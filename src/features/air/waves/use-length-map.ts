'use client';

import { useMemo, useState } from 'react';
import type { JobModel } from '@/core/job/model';
import { waveScore, type WavePurpose } from '@/core/job/wave-answer';
import { gridOrder, gridTasks } from '@/core/job/wave-sweep';
import { knownAt } from './curve-chart';
import { mapRatios } from './map-ratios';
import { useServerSweep } from './use-server-sweep';
import { curveSpeeds, useBand, useTasks, type Waves } from './use-waves';

/** Lengths and speeds of the map that this browser computes in half a minute, and of the one that is left to a worker. */
const HERE = { lengths: 12, speeds: 24, round_m: 0.005 };
const FINE = { lengths: 24, speeds: 47, round_m: 0.001 };
/** From how much shorter to how much longer than it is. */
const SPAN = [0.55, 1.7] as const;

/** The map of lengths: what is asked for, how far it is, what it says of each length and which is best for a purpose. */
export function useLengthMap(model: JobModel, waves: Waves, purpose: WavePurpose) {
  const band = useBand(model);
  // What is computed is computed for these figures: others ask for it anew.
  const [asked, setAsked] = useState<{ of: Waves['setup']; stopped: boolean; fine: boolean; nth: number } | null>(null);
  const { setup, now } = waves;
  const on = asked !== null && asked.of === setup;
  const fine = on && asked.fine;
  const grid = fine ? FINE : HERE;
  const rpm = useMemo(() => curveSpeeds(model.rpm[0]!, model.rpm.at(-1)!, grid.speeds), [model, grid]);
  const lengths = useMemo(() => {
    const [lo, hi] = [now.length_m * SPAN[0], now.length_m * SPAN[1]];
    const at = (i: number): number => Math.round((lo + ((hi - lo) * i) / (grid.lengths - 1)) / grid.round_m) * grid.round_m;
    return Array.from({ length: grid.lengths }, (_, i) => at(i));
  }, [now, grid]);
  const tasks = useMemo(
    () => (on && !fine ? gridTasks(setup, now, { lengths_m: lengths, rpm }) : null),
    [on, fine, lengths, rpm, setup, now],
  );
  const nth = asked?.nth ?? 0;
  // Asked for once more after it failed, it is another wish for the same map.
  const wanted = useMemo(() => (fine && nth > 0 ? { lengths_m: lengths, rpm } : null), [fine, nth, lengths, rpm]);
  const ask = (how: { fine: boolean }): void => setAsked({ of: setup, stopped: false, fine: how.fine, nth: nth + 1 });
  const order = useMemo(() => gridOrder(lengths.length, rpm.length), [lengths, rpm]);
  const halted = asked?.stopped ?? false;
  const here = useTasks(tasks, { order, halted });
  const there = useServerSweep(wanted, halted);
  const shown = !on ? null : fine ? there : here;

  const running = shown !== null && shown.progress !== null && !halted;
  const ratio = useMemo(() => {
    const step = (lengths.at(-1)! - lengths[0]!) / (lengths.length - 1);
    return mapRatios(shown?.results, lengths.length, rpm.length, running ? (now.length_m - lengths[0]!) / step : null);
  }, [shown, lengths, rpm, running, now]);
  const best = useMemo(() => {
    // Told once all of it is there: a coarse map may have its best elsewhere.
    if (!shown || shown.progress !== null || shown.results.some((r) => r === null)) return null;
    const known = knownAt(model, waves);
    const scored = lengths.flatMap((length_m, row) => {
      const there = rpm.map((_, i) => i).filter((i) => ratio[row]![i] !== null);
      const score = waveScore(
        there.map((i) => rpm[i]!),
        there.map((i) => ratio[row]![i]! * known(rpm[i]!)),
        purpose,
        band,
      );
      return score === null ? [] : [{ length_m, score }];
    });
    const asItIs = waveScore(rpm, rpm.map(known), purpose, band);
    const top = scored.length > 0 ? scored.reduce((a, b) => (b.score > a.score ? b : a)) : null;
    return top && asItIs !== null ? { ...top, gain: top.score / asItIs - 1 } : null;
  }, [shown, ratio, lengths, rpm, purpose, band, model, waves]);
  return {
    rpm,
    lengths,
    ratio,
    best,
    band,
    /** What is shown and how far it is; null: nothing is asked for. */
    shown,
    running: shown !== null && shown.progress !== null,
    stopped: on && asked.stopped,
    /** It may be asked for anew here; a fine one always may. */
    asksHere: !(on && !fine && !asked.stopped),
    says: fine && !asked.stopped ? there.says : null,
    ask,
    stop: (): void => setAsked({ of: setup, stopped: true, fine, nth }),
  };
}
export type LengthMapState = ReturnType<typeof useLengthMap>;
