'use client';

import { useMemo } from 'react';
import { isFailure } from '@/core/failure';
import type { JobModel } from '@/core/job/model';
import { VERDICT_GAIN_pct } from '@/core/sizing/window';
import { shownUnit } from '@/core/units/measures';
import { fromSI } from '@/core/units/units';
import { formatNumber } from '@/core/units/quantity';
import type { ChartLine, ChartSpec } from '@/ui/chart/figure';
import { Chart } from '@/ui/chart/lazy-chart';
import { limitLines, useLimitMarks } from '@/features/job/limits';
import { usePrefs } from '@/ui/theme/prefs';
import type { Palette } from '@/ui/theme/tokens';
import { msg } from './messages';

function gainLines(model: JobModel, palette: Palette, asItIs: JobModel | null): ChartLine[] {
  return model.candidates.flatMap((c, i) => {
    const color = palette.series[i % palette.series.length]!;
    const lines: ChartLine[] = [];
    if (c.gain_pct) lines.push({ id: c.id, label: c.name, x: model.rpm, y: c.gain_pct, color, width: 2.4 });
    const other = asItIs?.candidates.find((o) => o.id === c.id)?.gain_pct;
    if (other)
      lines.push({
        id: `${c.id}-as`,
        label: `${c.name}, manifold as it is`,
        x: model.rpm,
        y: other,
        color,
        dash: 'dot',
        width: 1.4,
        bare: true,
      });
    return lines;
  });
}

/** Power against stock over rpm, and under it the power itself, on one rpm axis. */
export function GainCharts({ model, other, height }: { model: JobModel; other: JobModel | null; height: number }) {
  const { pack, palette } = usePrefs();
  const xRange: [number, number] = useMemo(() => [model.rpm[0]!, model.rpm.at(-1)!], [model]);
  const limits = useLimitMarks(model);
  const gain = useMemo<ChartSpec>(() => {
    const lines = gainLines(model, palette, other);
    const top = Math.max(2, ...lines.flatMap((l) => l.y.map((v) => v ?? 0)));
    const buying = VERDICT_GAIN_pct.worthBuying;
    return {
      lines: [
        { id: 'stock', label: msg.stock, x: xRange, y: [0, 0], color: palette.stock, dash: 'longdash' },
        ...lines,
        {
          id: 'worth',
          label: `worth buying ${formatNumber(buying, 1)}`,
          x: xRange,
          y: [buying, buying],
          color: palette.quiet,
          dash: 'dot',
          width: 1,
        },
      ],
      xRange,
      yRange: [Math.min(-0.3, ...lines.flatMap((l) => l.y.map((v) => v ?? 0))) - 0.1, top * 1.1],
      xTitle: 'rpm',
      yTitle: 'power against stock, %',
      hideX: true,
      marginRight: 118,
      decimals: 2,
    };
  }, [model, other, palette, xRange]);
  const power = useMemo<ChartSpec>(() => {
    const { unit } = shownUnit('power', pack);
    const show = (w: number): number => fromSI(w, unit);
    const all = [model.reference.result, ...model.candidates.flatMap((c) => (isFailure(c.solved) ? [] : [c.solved]))];
    const powers = all.flatMap((r) => r.power_W.map(show));
    const yRange: [number, number] = [Math.min(...powers) * 0.94, Math.max(...powers) * 1.06];
    const limit = limitLines(limits, yRange, palette.quiet);
    return {
      words: limit.words,
      yRange,
      lines: [
        ...limit.lines,
        {
          id: 'stock',
          label: msg.stock,
          x: model.rpm,
          y: model.reference.result.power_W.map(show),
          color: palette.stock,
          dash: 'longdash',
        },
        ...model.candidates.flatMap((c, i): ChartLine[] =>
          isFailure(c.solved)
            ? []
            : [
                {
                  id: c.id,
                  label: c.name,
                  x: model.rpm,
                  y: c.solved.power_W.map(show),
                  color: palette.series[i % palette.series.length]!,
                  bare: true,
                },
              ],
        ),
      ],
      xRange,
      xTitle: 'rpm',
      yTitle: `power at the crank, ${unit.label}`,
      marginRight: 118,
    };
  }, [model, limits, pack, palette, xRange]);
  return (
    <>
      <Chart spec={gain} height={Math.round(height * 0.6)} name="gain" alt={msg.predictedPowerAgainstStockOverRpm} />
      <Chart spec={power} height={Math.round(height * 0.4)} name="power" alt={msg.predictedPowerOverRpmStockAnd} />
    </>
  );
}
