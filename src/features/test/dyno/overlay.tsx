'use client';

import { useMemo } from 'react';
import type { SideComparison } from '@/core/compare/sides';
import { shownUnit } from '@/core/units/measures';
import { formatNumber } from '@/core/units/quantity';
import { fromSI } from '@/core/units/units';
import { useJob, useRuns } from '@/features/job/provider';
import type { ChartLine, ChartSpec } from '@/ui/chart/figure';
import { Chart } from '@/ui/chart/lazy-chart';
import { usePrefs } from '@/ui/theme/prefs';
import type { CompareReply } from './compare.worker';

/** Every run's power over rpm, and under it the difference with the band that noise alone can fill. */
export function Overlay({ reply, comparison }: { reply: CompareReply; comparison: SideComparison | null }) {
  const { pack, palette } = usePrefs();
  const { runs } = useRuns();
  const shown = useJob((s) => s.doc.pick.shown);
  const { unit } = shownUnit('power', pack);
  const lines = useMemo<ChartLine[]>(() => {
    const show = (w: number): number => fromSI(w, unit);
    return reply.prepared.flatMap((p): ChartLine[] => {
      const run = runs.find((r) => r.id === p.id);
      if (!run || p.rpm.length === 0) return [];
      const stock = run.doc.side?.kind === 'stock';
      const color = stock
        ? palette.stock
        : run.doc.side === null
          ? palette.quiet
          : palette.series[Math.max(0, shown.indexOf(run.doc.side.kind === 'unit' ? run.doc.side.unitId : '')) % palette.series.length]!;
      return [
        {
          id: p.id,
          label: run.doc.name.length > 20 ? `${run.doc.name.slice(0, 19)}…` : run.doc.name,
          x: p.rpm,
          y: p.power_W.map(show),
          color,
          dash: stock ? 'longdash' : run.doc.side === null ? 'dot' : 'solid',
          width: 2,
        },
      ];
    });
  }, [reply, runs, shown, palette, unit]);
  const xRange = useMemo<[number, number]>(() => {
    const xs = lines.flatMap((l) => [l.x[0]!, l.x.at(-1)!]);
    return xs.length === 0 ? [0, 1] : [Math.min(...xs), Math.max(...xs)];
  }, [lines]);
  const power = useMemo<ChartSpec>(
    () => ({ lines, xRange, xTitle: 'rpm', yTitle: `power, ${unit.label}`, marginRight: 148, hideX: comparison !== null }),
    [lines, xRange, unit, comparison],
  );
  const difference = useMemo<ChartSpec | null>(() => {
    if (!comparison) return null;
    const { noise_pct, grid_rpm, difference_pct } = comparison;
    const top = Math.max(noise_pct * 1.3, ...difference_pct.map(Math.abs)) * 1.08;
    const ends: [number, number] = [grid_rpm[0]!, grid_rpm.at(-1)!];
    return {
      lines: [
        { id: 'difference', label: 'new − stock', x: grid_rpm, y: difference_pct, color: palette.ink, width: 2.2 },
        {
          id: 'noise',
          label: `noise ±${formatNumber(noise_pct, 1)}`,
          x: ends,
          y: [noise_pct, noise_pct],
          color: palette.quiet,
          dash: 'dot',
          width: 1,
        },
        { id: 'noise-low', label: '', x: ends, y: [-noise_pct, -noise_pct], color: palette.quiet, dash: 'dot', width: 1, bare: true },
      ],
      bands: [{ x: ends, low: [-noise_pct, -noise_pct], high: [noise_pct, noise_pct], color: `${palette.stock}2e` }],
      xRange,
      yRange: [-top, top],
      xTitle: 'rpm',
      yTitle: 'difference, % of stock',
      yZeroLine: true,
      marginRight: 148,
      decimals: 2,
    };
  }, [comparison, xRange, palette]);
  if (lines.length === 0) return null;
  return (
    <>
      <Chart
        spec={power}
        height={difference ? 240 : 340}
        name="dyno"
        alt="Power of each run over rpm at one smoothing and one correction"
      />
      {difference && (
        <Chart
          spec={difference}
          height={180}
          name="difference"
          alt="Difference of the new side from stock over rpm in percent, with the band that noise alone can fill"
        />
      )}
    </>
  );
}
