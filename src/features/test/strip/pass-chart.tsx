'use client';

import { useMemo } from 'react';
import { meanOf } from '@/core/numbers/moments';
import type { ReadPass, StripAnalysis, StripMeasure } from '@/core/strip/analysis';
import type { ChartPoint, ChartSpec } from '@/ui/chart/figure';
import { Chart } from '@/ui/chart/lazy-chart';
import { usePrefs } from '@/ui/theme/prefs';
import { MEASURE_NAMES, measureText, shownSpeed } from './words';

/** Figures as they were run, or corrected to standard air. */
export type Correction = 'raw' | 'corrected';

const valueOf = (p: ReadPass, measure: StripMeasure, correction: Correction): number | null =>
  correction === 'corrected' && measure !== 'sixty_s' ? (p.corrected?.[measure] ?? null) : p[measure];

/** Every pass in the order of the day, stock as open rings and the new unit filled, with each side's mean. */
export function PassChart({
  analysis,
  measure,
  correction,
  name,
}: {
  analysis: StripAnalysis;
  measure: StripMeasure;
  correction: Correction;
  name: string;
}) {
  const { pack, palette } = usePrefs();
  const spec = useMemo<ChartSpec>(() => {
    const show = (v: number): number => (measure === 'trap_mps' ? shownSpeed(v, pack).value : v);
    const found = analysis.passes.flatMap((p, i) => {
      const v = valueOf(p, measure, correction);
      return v === null ? [] : [{ p, x: i + 1, y: show(v) }];
    });
    const color = { A: palette.stock, B: palette.series[0]! };
    const points = found.map(({ p, x, y }): ChartPoint => ({
      x,
      y,
      name: `${p.stored.doc.at ?? ''} ${p.side === 'A' ? 'stock' : name}: ${measureText(measure, valueOf(p, measure, correction)!, pack)}`,
      color: color[p.side],
      strong: p.side === 'B',
    }));
    const n = analysis.passes.length;
    const mean = (side: 'A' | 'B') => {
      const own = found.filter((f) => f.p.side === side).map((f) => f.y);
      return own.length === 0 ? null : meanOf(own);
    };
    const [a, b] = [mean('A'), mean('B')];
    const ys = found.map((f) => f.y);
    const [low, high] = [Math.min(...ys), Math.max(...ys)];
    const pad = Math.max((high - low) * 0.18, high * 1e-3);
    const line = (id: string, label: string, y: number, c: string, dash: 'longdash' | 'solid') => ({
      id,
      label,
      x: [0.5, n + 0.5],
      y: [y, y],
      color: c,
      dash,
      width: 2,
    });
    return {
      lines: [
        ...(a === null ? [] : [line('stock', 'stock, mean', a, palette.stock, 'longdash')]),
        ...(b === null ? [] : [line('new', `${name}, mean`, b, palette.series[0]!, 'solid')]),
      ],
      points,
      xRange: [0.5, n + 0.5],
      yRange: found.length === 0 ? [0, 1] : [low - pad, high + pad],
      xTitle: 'pass of the day',
      yTitle: `${MEASURE_NAMES[measure]}, ${measure === 'trap_mps' ? shownSpeed(0, pack).unit : 's'}${correction === 'corrected' && measure !== 'sixty_s' ? ', corrected' : ', as run'}`,
      decimals: measure === 'trap_mps' ? 2 : 3,
      marginRight: 150,
    };
  }, [analysis, measure, correction, name, pack, palette]);
  return <Chart spec={spec} height={270} name="strip" alt={`${MEASURE_NAMES[measure]} of every pass, stock and ${name}`} />;
}
