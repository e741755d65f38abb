'use client';

import { useEffect, useMemo, useState } from 'react';
import { isFailure, type Failure } from '@/core/failure';
import type { JobModel } from '@/core/job/model';
import { coarseFirst } from '@/core/job/wave-answer';
import { assumedFigures, tried, waveSetup, type FigureKey, type InletFigures, type WaveSetup } from '@/core/job/wave-inlet';
import type { WaveResult } from '@/core/waves/result';
import { useJob } from '@/features/job/provider';
import { useSized } from '@/features/job/use-model';
import { runWaves, type WaveTask } from './pool';

/** Speeds of a curve: round ones, both ends of the range included. Half of them make the coarse one; the ripple wants all. */
const CURVE_SPEEDS = 47;
const ROUND_rpm = 50;
/** Typing settles before waves are computed, ms. */
const QUIET_ms = 350;

export function curveSpeeds(lowest: number, redline: number, count = CURVE_SPEEDS): number[] {
  const all = Array.from({ length: count }, (_, i) => {
    const n = lowest + ((redline - lowest) * i) / (count - 1);
    return i === 0 || i === count - 1 ? n : Math.round(n / ROUND_rpm) * ROUND_rpm;
  });
  return [...new Set(all)];
}

export interface Waves {
  readonly setup: WaveSetup;
  /** Figures nobody knows. */
  readonly assumed: readonly FigureKey[];
  readonly now: InletFigures;
  readonly trial: InletFigures;
  /** Whether anything is tried that differs from what is there. */
  readonly differs: boolean;
  readonly rpm: readonly number[];
}

/** A job's inlet as it is and as it is tried; a failure where the intake cannot be solved. */
export function useWaves(model: JobModel | Failure): Waves | Failure {
  const sized = useSized();
  const trialDoc = useJob((s) => s.doc.pick.inlet);
  const marks = useJob((s) => s.doc.marks);
  const setup = useMemo(() => (isFailure(model) ? model : waveSetup(sized, model)), [model, sized]);
  // The same list as long as the same figures are in it: a mark elsewhere moves nothing here.
  const unknown = isFailure(setup) ? '' : assumedFigures(setup.inlet, marks).join(' ');
  return useMemo(() => {
    if (isFailure(model)) return model;
    if (isFailure(setup)) return setup;
    const now = setup.inlet.figures;
    const trial = tried(now, trialDoc);
    const differs = (Object.keys(now) as FigureKey[]).some((k) => Math.abs(now[k] - trial[k]) > 1e-9);
    const assumed = unknown.split(' ').filter((k): k is FigureKey => k !== '');
    return { setup, assumed, now, trial, differs, rpm: curveSpeeds(model.rpm[0]!, model.rpm.at(-1)!) };
  }, [model, setup, trialDoc, unknown]);
}

export interface Worked {
  /** By task; null: not computed yet. */
  readonly results: readonly (WaveResult | null)[];
  /** Share done; null: at rest. */
  readonly progress: number | null;
  readonly lost: number;
}
const AT_REST: Worked = { results: [], progress: null, lost: 0 };

export interface TaskOptions {
  /** In which order they are worked through; as they stand where none is told. */
  readonly order?: readonly number[] | undefined;
  /** Pictures and curves are wanted too, not the filling alone. */
  readonly whole?: boolean | undefined;
  /** Stopped by hand: what was computed stays, the rest is not. */
  readonly halted?: boolean | undefined;
}

/** Works through tasks in workers, anew when they change, a moment after the last change. Null: nothing to do. */
export function useTasks(tasks: readonly WaveTask[] | null, { order, whole = false, halted = false }: TaskOptions = {}): Worked {
  const [state, setState] = useState<{ of: readonly WaveTask[] | null; worked: Worked }>({ of: null, worked: AT_REST });
  useEffect(() => {
    if (!tasks || tasks.length === 0 || halted) return;
    let cancel = (): void => {};
    const timer = setTimeout(() => {
      const results: (WaveResult | null)[] = tasks.map(() => null);
      let done = 0;
      let lost = 0;
      let drawn = false;
      const tell = (): void => {
        if (drawn) return;
        drawn = true;
        // Several results that come together are shown together.
        requestAnimationFrame(() => {
          drawn = false;
          setState({ of: tasks, worked: { results: [...results], progress: done === tasks.length ? null : done / tasks.length, lost } });
        });
      };
      const sequence = order ?? tasks.map((_, i) => i);
      const run = runWaves(
        sequence.map((i) => tasks[i]!),
        (k, result) => {
          results[sequence[k]!] = result;
          done += 1;
          tell();
        },
        () => {
          done += 1;
          lost += 1;
          tell();
        },
        whole,
      );
      tell();
      cancel = run.cancel;
    }, QUIET_ms);
    return () => {
      clearTimeout(timer);
      cancel();
    };
  }, [tasks, order, whole, halted]);
  // What was computed for other figures is not shown beside new ones.
  return useMemo<Worked>(() => {
    if (!tasks) return AT_REST;
    const worked = state.of === tasks ? state.worked : { results: tasks.map(() => null), progress: 0, lost: 0 };
    return halted ? { ...worked, progress: null } : worked;
  }, [tasks, state, halted]);
}

export interface WaveCurves {
  readonly rpm: readonly number[];
  readonly now: readonly (number | null)[];
  readonly trial: readonly (number | null)[];
  /** Trial over now; null where either is missing or did not settle. */
  readonly ratio: readonly (number | null)[];
  readonly unsettled: readonly number[];
  readonly progress: number | null;
  /** No speed is waited for any more: holes are those that did not settle or were lost. */
  readonly complete: boolean;
  readonly lost: number;
}

/** Filling over engine speed of the inlet as it is and as it is tried; a coarse curve first. */
export function useCurves(waves: Waves, halted: boolean): WaveCurves {
  const { setup, now, trial, differs, rpm } = waves;
  const tasks = useMemo(
    () => [
      ...rpm.map((n) => ({ engine: setup.engineAt(now, n), rpm: n })),
      ...(differs ? rpm.map((n) => ({ engine: setup.engineAt(trial, n), rpm: n })) : []),
    ],
    [setup, now, trial, differs, rpm],
  );
  const order = useMemo(() => {
    const one = coarseFirst(rpm.length);
    return differs ? one.flatMap((i) => [i, rpm.length + i]) : one;
  }, [rpm, differs]);
  const { results, progress, lost } = useTasks(tasks, { order, halted });
  return useMemo(() => {
    const value = (r: WaveResult | null | undefined): number | null => (r && r.settled && Number.isFinite(r.W) ? r.W : null);
    const a = rpm.map((_, i) => value(results[i]));
    const b = differs ? rpm.map((_, i) => value(results[rpm.length + i])) : a;
    return {
      rpm,
      now: a,
      trial: b,
      ratio: rpm.map((_, i) => (a[i] === null || b[i] === null ? null : b[i]! / a[i]!)),
      unsettled: rpm.filter((_, i) => [results[i], results[rpm.length + i]].some((r) => r && !r.settled)),
      progress,
      complete: progress === null && results.length > 0 && results.filter((r) => r !== null).length + lost === results.length,
      lost,
    };
  }, [results, progress, lost, rpm, differs]);
}

/** Speed at which a curve is highest, holes left out; null where there is nothing of it. */
export function topOf(rpm: readonly number[], value: readonly (number | null)[]): number | null {
  let best: number | null = null;
  value.forEach((v, i) => {
    if (v !== null && (best === null || v > value[best]!)) best = i;
  });
  return best === null ? null : rpm[best]!;
}

/** A driver who changes up at the redline falls back to about this share of it. */
const USUAL_DROP = 0.7;

/** The band used between shifts, rpm: from where the largest drop above first gear leaves the engine to where the driver changes up. */
export function useBand(model: JobModel): readonly [number, number] {
  const ratios = useJob((s) => s.doc.car.gearbox.ratios);
  const shift = useJob((s) => s.doc.test.shift_rpm) ?? model.rpm.at(-1)!;
  return useMemo(() => {
    const drops = ratios.slice(1).map((r, i) => r / ratios[i]!);
    return [shift * (drops.length > 1 ? Math.min(...drops.slice(1)) : (drops[0] ?? USUAL_DROP)), shift] as const;
  }, [ratios, shift]);
}
