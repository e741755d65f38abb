'use client';

import { useMemo } from 'react';
import { airState } from '@/core/air/state';
import type { StoredVisit } from '@/core/documents/strip';
import { isFailure } from '@/core/failure';
import { nightMinutes } from '@/core/strip/air-of-day';
import type { StripAnalysis } from '@/core/strip/analysis';
import { shownUnit } from '@/core/units/measures';
import { fromSI } from '@/core/units/units';
import type { ChartSpec } from '@/ui/chart/figure';
import { Chart } from '@/ui/chart/lazy-chart';
import { usePrefs } from '@/ui/theme/prefs';
import { msg } from './messages';

/** Density altitude over the night: the readings as a line, every pass where it was run. */
export function AirChart({ visit, analysis }: { visit: StoredVisit; analysis: StripAnalysis | null }) {
  const { pack, palette } = usePrefs();
  const spec = useMemo<ChartSpec | null>(() => {
    const { unit } = shownUnit('altitude', pack);
    const own = (analysis?.passes ?? []).filter((p) => p.visit === visit.id && p.minute !== null && p.densityAltitude_m !== null);
    const { weather } = visit.doc;
    const minutes = nightMinutes([...weather.map((w) => w.at), ...own.map((p) => p.stored.doc.at)]);
    const readings = weather
      .flatMap((w, i) => {
        const air = airState(w);
        return isFailure(air) ? [] : [{ x: minutes[i]! / 60, y: fromSI(air.densityAltitude_m, unit) }];
      })
      .sort((a, b) => a.x - b.x);
    if (readings.length < 2) return null;
    const points = own.map((p, i) => ({
      x: minutes[weather.length + i]! / 60,
      y: fromSI(p.densityAltitude_m!, unit),
      name: `${p.stored.doc.at ?? ''} ${p.side === 'A' ? 'stock' : 'new'}`,
      color: p.side === 'A' ? palette.stock : palette.series[0]!,
      strong: p.side === 'B',
    }));
    const ys = [...readings.map((r) => r.y), ...points.map((p) => p.y)];
    const pad = Math.max(10, 0.15 * (Math.max(...ys) - Math.min(...ys)));
    const xs = [...readings.map((r) => r.x), ...points.map((p) => p.x)];
    return {
      lines: [{ id: 'air', label: msg.theAir, x: readings.map((r) => r.x), y: readings.map((r) => r.y), color: palette.quiet, width: 1.6 }],
      points,
      xRange: [Math.min(...xs) - 0.1, Math.max(...xs) + 0.1],
      yRange: [Math.min(...ys) - pad, Math.max(...ys) + pad],
      xTitle: msg.hourOfTheDay,
      yTitle: `density altitude, ${unit.label}`,
      decimals: 0,
      marginRight: 110,
    };
  }, [visit, analysis, pack, palette]);
  if (!spec) return null;
  return <Chart spec={spec} height={170} name="air of the day" alt={msg.densityAltitudeOverTheNightWith} />;
}
