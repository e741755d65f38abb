'use client';

import { useMemo } from 'react';
import { knotCurve } from '@/core/numbers/curve';
import { isFailure } from '@/core/failure';
import type { JobModel } from '@/core/job/model';
import { Chart } from '@/ui/chart/lazy-chart';
import type { ChartSpec } from '@/ui/chart/figure';
import { RpmScrubber } from '@/ui/chart/scrubber';
import { usePrefs } from '@/ui/theme/prefs';
import { msg } from './messages';
import type { WaveCurves, Waves } from './use-waves';

/** The filling known of the car at some speeds, as a share. */
export function knownAt(model: JobModel, waves: Waves): (rpm: number) => number {
  const curve = knotCurve({ rpm: model.rpm, value: waves.setup.known });
  return isFailure(curve) ? () => NaN : curve;
}

const rangeOf = (model: JobModel): [number, number] => [model.rpm[0]!, model.rpm.at(-1)!];

/** Filling over engine speed: the car's own curve, what the tried inlet makes of it, and the model by itself. */
export function CurveChart({
  model,
  waves,
  curves,
  rpm,
  onRpm,
}: {
  model: JobModel;
  waves: Waves;
  curves: WaveCurves;
  rpm: number;
  onRpm: (rpm: number) => void;
}) {
  const { palette } = usePrefs();
  const spec = useMemo<ChartSpec>(() => {
    const known = knownAt(model, waves);
    const asked = curves.rpm;
    const range = rangeOf(model);
    const there = (list: readonly (number | null)[]): { x: number[]; y: number[] } => {
      const at = asked.map((_, i) => i).filter((i) => list[i] !== null);
      return { x: at.map((i) => asked[i]!), y: at.map((i) => list[i]! * 100) };
    };
    const trial = there(curves.ratio.map((r, i) => (r === null ? null : r * known(asked[i]!))));
    const alone = there(curves.now);
    return {
      lines: [
        { id: 'alone', label: msg.modelAlone, ...alone, color: palette.quiet, dash: 'dot', width: 1.4 },
        {
          id: 'known',
          label: msg.asItIs,
          x: model.rpm,
          y: model.rpm.map((n) => known(n) * 100),
          color: palette.stock,
          dash: waves.differs ? 'longdash' : 'solid',
          width: 2,
        },
        ...(waves.differs ? [{ id: 'trial', label: msg.tried, ...trial, color: palette.series[0]!, width: 2.6 }] : []),
      ],
      xRange: range,
      xTitle: 'rpm',
      yTitle: 'volumetric efficiency, %',
      decimals: 1,
    };
  }, [model, waves, curves, palette]);
  return (
    <Chart spec={spec} height={270} name="filling" alt={msg.fillingOverRpm}>
      <RpmScrubber rpm={rpm} range={rangeOf(model)} onChange={onRpm} />
    </Chart>
  );
}
