'use client';

import { useMemo } from 'react';
import { throttleTable } from '@/core/flow/remap';
import type { Throttle } from '@/core/flow/throttle';
import { isFailure } from '@/core/failure';
import { shownUnit } from '@/core/units/measures';
import { fromSI } from '@/core/units/units';
import type { ChartLine, ChartSpec } from '@/ui/chart/figure';
import { Chart } from '@/ui/chart/lazy-chart';
import { usePrefs } from '@/ui/theme/prefs';
import { msg } from './messages';

const OPENINGS = Array.from({ length: 101 }, (_, i) => i);

export interface PedalSide {
  readonly id: string;
  readonly name: string;
  readonly throttle: Throttle;
  readonly color: string;
  readonly dashed: boolean;
}

/** Effective area over throttle opening: what the first bit of pedal lets in. */
export function PedalChart({ sides, height }: { sides: readonly PedalSide[]; height: number }) {
  const { pack, palette } = usePrefs();
  const spec = useMemo<ChartSpec>(() => {
    const { unit } = shownUnit('area', pack);
    const lines = sides.flatMap((s): ChartLine[] => {
      const table = throttleTable(s.throttle, OPENINGS);
      if (isFailure(table)) return [];
      const y = table.effectiveArea_m2.map((a) => fromSI(a, unit));
      return [{ id: s.id, label: s.name, x: OPENINGS, y, color: s.color, dash: s.dashed ? 'longdash' : 'solid' }];
    });
    const top = Math.max(...lines.flatMap((l) => l.y.map((y) => y ?? 0)), 1e-9);
    return {
      lines,
      bands: [{ x: [0, 10], low: [0, 0], high: [top * 1.05, top * 1.05], color: palette.hairline, hatch: true }],
      words: [{ x: 10.5, text: msg.firstTenth, color: palette.quiet, anchor: 'left' }],
      xRange: [0, 100],
      yRange: [0, top * 1.05],
      xTitle: 'opening, %',
      yTitle: `effective area, ${unit.label}`,
      marginRight: 118,
      decimals: 0,
    };
  }, [sides, pack, palette]);
  return <Chart spec={spec} height={height} name="area over opening" alt={msg.effectiveOpenAreaOverThrottleOpening} />;
}
