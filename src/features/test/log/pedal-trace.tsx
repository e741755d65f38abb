'use client';

import { useMemo } from 'react';
import type { LogLook } from '@/core/logs/compare-logs';
import type { StoredRun } from '@/core/documents/run';
import { useJob } from '@/features/job/provider';
import { Chart } from '@/ui/chart/lazy-chart';
import type { ChartSpec } from '@/ui/chart/figure';
import { usePrefs } from '@/ui/theme/prefs';
import { msg } from './messages';

/** What the throttle did for each position of the pedal, log by log: where a tune holds it back shows as a flat top. */
export function PedalTrace({ logs, looks }: { logs: readonly StoredRun[]; looks: ReadonlyMap<string, LogLook> }) {
  const { palette } = usePrefs();
  const shown = useJob((s) => s.doc.pick.shown);
  const spec = useMemo<ChartSpec | null>(() => {
    const lines = logs.flatMap((run, k) => {
      const map = looks.get(run.id)?.pedal;
      if (!map) return [];
      const at = map.pedal_pct.flatMap((_, i) => (Number.isFinite(map.throttle_pct[i]) ? [i] : []));
      if (at.length < 2) return [];
      const stock = run.doc.side?.kind === 'stock';
      const unit = run.doc.side?.kind === 'unit' ? Math.max(0, shown.indexOf(run.doc.side.unitId)) : k;
      return [
        {
          id: run.id,
          label: run.doc.name.length > 20 ? `${run.doc.name.slice(0, 19)}…` : run.doc.name,
          x: at.map((i) => map.pedal_pct[i]!),
          y: at.map((i) => map.throttle_pct[i]!),
          color: stock ? palette.stock : palette.series[unit % palette.series.length]!,
          dash: stock ? ('longdash' as const) : ('solid' as const),
          width: 2,
        },
      ];
    });
    return lines.length === 0
      ? null
      : {
          lines,
          xRange: [0, 100],
          yRange: [0, 104],
          xTitle: '% pedal',
          yTitle: 'throttle for each position of the pedal, %',
          marginRight: 148,
        };
  }, [logs, looks, shown, palette]);
  return spec && <Chart spec={spec} height={170} name="pedal" alt={msg.throttleAgainstPedalInEachLog} />;
}
