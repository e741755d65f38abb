'use client';

import { useMemo } from 'react';
import { isFailure } from '@/core/failure';
import type { JobModel, ModelSide } from '@/core/job/model';
import { waveRatio, type WaveRatio } from '@/core/job/wave-gain';
import { assumedFigures, waveSetup } from '@/core/job/wave-inlet';
import type { WaveEngine } from '@/core/waves/input';
import { useJob } from '@/features/job/provider';
import { useSized } from '@/features/job/use-model';
import { curveSpeeds, useTasks } from './use-waves';

/** Engine speeds at which each throttle is tried: a bore's effect is smooth over them, a length moves every crest. */
const SPEEDS = 12;
const SPEEDS_OF_A_LENGTH = 47;

/** Density of the air a model's filling is told on, up to a factor that is the same for all. */
const density = ({ ambient }: WaveEngine): number => (ambient?.p_Pa ?? 101_325) / (ambient?.T_K ?? 298.15);

export interface SideWaves {
  readonly rpm: readonly number[];
  /** By candidate: the air it lets in over stock's; null: too few speeds settled. Null as a whole until all are worked. */
  readonly ratios: readonly (WaveRatio | null)[] | null;
  /** Share done; null: at rest. */
  readonly progress: number | null;
  /** How many figures of the inlet nobody knows. */
  readonly assumed: number;
}

/** What each throttle of a model does to the air taken in once it comes in gulps, worked in workers while `on`. */
export function useSideWaves(model: JobModel | null, on: boolean): SideWaves {
  const sized = useSized();
  const marks = useJob((s) => s.doc.marks);
  const setups = useMemo(() => {
    if (!on || !model || model.candidates.length === 0) return [];
    const sides: readonly ModelSide[] = [model.stock, ...model.candidates];
    return sides.map((side) => waveSetup(sized, model, side));
  }, [on, sized, model]);
  const rpm = useMemo(() => {
    if (!model) return [];
    const lengths = new Set(setups.map((s) => (isFailure(s) ? null : s.inlet.figures.length_m)).filter((l) => l !== null));
    return curveSpeeds(model.rpm[0]!, model.rpm.at(-1)!, lengths.size > 1 ? SPEEDS_OF_A_LENGTH : SPEEDS);
  }, [model, setups]);
  const tasks = useMemo(
    () =>
      setups.length === 0
        ? null
        : setups.flatMap((s) => (isFailure(s) ? [] : rpm.map((n) => ({ engine: s.engineAt(s.inlet.figures, n), rpm: n })))),
    [setups, rpm],
  );
  const { results, progress } = useTasks(tasks);
  const ratios = useMemo(() => {
    if (!tasks || progress !== null || results.length !== tasks.length) return null;
    let at = 0;
    // Air taken in, not a share of what stands before it: a throttle changes that too.
    const air = setups.map((setup) => {
      if (isFailure(setup)) return rpm.map(() => null);
      const mine = results.slice(at, at + rpm.length).map((r, i) => (r && r.settled ? r.W * density(tasks[at + i]!.engine) : null));
      at += rpm.length;
      return mine;
    });
    return air.slice(1).map((other) => waveRatio(rpm, air[0]!, other));
  }, [setups, tasks, progress, results, rpm]);
  const first = setups[0];
  return { rpm, ratios, progress, assumed: first && !isFailure(first) ? assumedFigures(first.inlet, marks).length : 0 };
}
