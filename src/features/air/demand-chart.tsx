'use client';

import { useMemo } from 'react';
import type { JobModel, ModelSide } from '@/core/job/model';
import { shownUnit } from '@/core/units/measures';
import { formatNumber } from '@/core/units/quantity';
import { fromSI } from '@/core/units/units';
import { Chart } from '@/ui/chart/lazy-chart';
import type { ChartMark, ChartSpec } from '@/ui/chart/figure';
import { RpmScrubber } from '@/ui/chart/scrubber';
import { limitLines, useLimitMarks } from '@/features/job/limits';
import { usePrefs } from '@/ui/theme/prefs';
import { msg } from './messages';

/** A throttle that passes many times what is asked for is cut off at the top: the demand must stay readable. */
const HEADROOM = 2.2;

const nearestIndex = (rpms: readonly number[], rpm: number): number =>
  rpms.reduce((best, n, i) => (Math.abs(n - rpm) < Math.abs(rpms[best]! - rpm) ? i : best), 0);

/** What the engine needs against what each side passes at the allowed loss. */
export function DemandChart({ model, rpm, onRpm, height }: { model: JobModel; rpm: number; onRpm: (rpm: number) => void; height: number }) {
  const { pack, palette } = usePrefs();
  const range: [number, number] = [model.rpm[0]!, model.rpm.at(-1)!];
  const limits = useLimitMarks(model);
  const spec = useMemo<ChartSpec>(() => {
    const { unit } = shownUnit('massFlow', pack);
    const show = (kgps: number): number => fromSI(kgps, unit);
    const [lo, hi] = [model.rpm[0]!, model.rpm.at(-1)!];
    const level = (side: ModelSide, color: string, dash?: 'longdash'): ChartSpec['lines'] =>
      side.passes_kgps === null ? [] : [{ id: side.id, label: side.name, x: model.rpm, y: side.passes_kgps.map(show), color, dash }];
    const stockPasses = model.stock.passes_kgps;
    const above = model.rpm
      .map((n, i) => ({ n, d: model.demand_kgps[i]!, passes: stockPasses?.[i] ?? Infinity }))
      .filter(({ d, passes }) => d > passes);
    const from = model.stock.givesOut_rpm;
    const mark = (side: ModelSide, color: string): ChartMark[] =>
      side.givesOut_rpm === null || side.passes_kgps === null || side.givesOut_rpm <= lo
        ? []
        : [
            {
              x: side.givesOut_rpm,
              y: show(side.passes_kgps[nearestIndex(model.rpm, side.givesOut_rpm)]!),
              text: `runs short from ${formatNumber(Math.round(side.givesOut_rpm / 10) * 10, 0)}`,
              color,
              side: 'left',
            },
          ];
    const sides = model.candidates.map((c, i) => ({ c, color: palette.series[i % palette.series.length]! }));
    const most = Math.min(
      Math.max(...model.demand_kgps.map(show)) * HEADROOM,
      Math.max(...[...model.demand_kgps, ...(stockPasses ?? []), ...model.candidates.flatMap((c) => c.passes_kgps ?? [])].map(show)) * 1.06,
    );
    const limit = limitLines(limits, [0, most], palette.quiet);
    return {
      words: limit.words,
      lines: [
        ...limit.lines,
        ...level(model.stock, palette.stock, 'longdash'),
        ...sides.flatMap(({ c, color }) => level(c, color)),
        { id: 'demand', label: msg.needs, x: model.rpm, y: model.demand_kgps.map(show), color: palette.ink, width: 2.4 },
      ],
      bands:
        from !== null && stockPasses !== null && above.length > 0
          ? [
              {
                x: [from, ...above.map((p) => p.n)],
                low: [show(above[0]!.passes), ...above.map((p) => show(p.passes))],
                high: [show(above[0]!.passes), ...above.map((p) => show(p.d))],
                color: palette.stock,
                hatch: true,
              },
            ]
          : [],
      marks: [...mark(model.stock, palette.stock), ...sides.flatMap(({ c, color }) => mark(c, color))],
      xRange: [lo, hi],
      yRange: [0, most],
      xTitle: 'rpm',
      yTitle: unit.airVolume === undefined ? `air, ${unit.label}` : `air, ${unit.label} of the day’s air`,
      decimals: 0,
    };
  }, [model, limits, pack, palette]);
  return (
    <Chart spec={spec} height={height} name="demand" alt={msg.airTheEngineNeedsOverRpm}>
      <RpmScrubber rpm={rpm} range={range} onChange={onRpm} />
    </Chart>
  );
}
