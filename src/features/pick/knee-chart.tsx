'use client';

import { peakOf } from '@/core/numbers/peak';
import { useMemo } from 'react';
import type { JobBounds } from '@/core/job/bounds';
import type { JobKnee } from '@/core/job/knee';
import type { JobModel } from '@/core/job/model';
import type { RankedUnit } from '@/core/job/ranking';
import { grossBore } from '@/core/documents/openings';
import { isFailure } from '@/core/failure';
import { shownUnit } from '@/core/units/measures';
import { formatNumber, formatSigned } from '@/core/units/quantity';
import { fromSI, toSI } from '@/core/units/units';
import type { ChartPoint, ChartSpec } from '@/ui/chart/figure';
import { Chart } from '@/ui/chart/lazy-chart';
import { RpmScrubber } from '@/ui/chart/scrubber';
import { usePrefs } from '@/ui/theme/prefs';
import { verdictWord } from '@/ui/answer/verdict-word';
import { msg } from './messages';

const MARGIN_RIGHT = 118;

/** Peak power against bore, the window shaded on it, every unit of the shelf a mark, and a bore to try by hand. */
export function KneeChart({
  model,
  knee,
  bounds,
  ranked,
  colorOf,
  probe_m,
  onProbe,
  height,
}: {
  model: JobModel;
  knee: JobKnee;
  bounds: JobBounds;
  ranked: readonly RankedUnit[];
  colorOf: (id: string) => string | null;
  probe_m: number;
  onProbe: (bore_m: number) => void;
  height: number;
}) {
  const { pack, palette } = usePrefs();
  const { unit: boreUnit } = shownUnit('bore', pack);
  const range = useMemo(
    (): [number, number] => [fromSI(knee.bores_m[0]!, boreUnit), fromSI(knee.bores_m.at(-1)!, boreUnit)],
    [knee, boreUnit],
  );
  const spec = useMemo<ChartSpec>(() => {
    const { unit } = shownUnit('power', pack);
    const show = (w: number | null): number | null => (w === null ? null : fromSI(w, unit));
    const x = knee.bores_m.map((b) => fromSI(b, boreUnit));
    const values = [...knee.matched_W, ...knee.asItIs_W].filter((v): v is number => v !== null).map((v) => fromSI(v, unit));
    const top = Math.max(...values);
    const stockPeak = fromSI(peakOf(model.reference.result.power_W), unit);
    const floor = Math.min(Math.max(Math.min(...values), stockPeak - (top - stockPeak) * 2.5 - 0.02 * stockPeak), stockPeak * 0.985);
    const yRange: [number, number] = [floor, top + (top - floor) * 0.22];
    const clip = (n: number): number => Math.min(range[1], Math.max(range[0], n));
    const { lower_m, upper_m, empty } = bounds.window;
    const lower = lower_m === null ? range[0] : clip(fromSI(lower_m, boreUnit));
    const upper = upper_m === null ? range[1] : clip(fromSI(upper_m, boreUnit));
    const window_ = empty ? [upper, lower] : [lower, upper];
    const stockBore = fromSI(grossBore(model.stock.fitted.throttle), boreUnit);
    const points = ranked.flatMap((r): ChartPoint[] => {
      // What cannot go on this car at all is no point on its curve.
      if (isFailure(r.side.solved) || (r.misfit !== null && r.misfit !== 'flange')) return [];
      const color = colorOf(r.unit.id);
      const peak = fromSI(peakOf(r.side.solved.power_W), unit);
      const bore = fromSI(grossBore(r.unit.doc.throttle), boreUnit);
      if (peak < yRange[0]) return [];
      const name = `${r.unit.doc.name}: ${formatSigned(r.peakGain_pct ?? 0, 1, '%')}, ${verdictWord(r.verdict)}`;
      return [{ x: bore, y: peak, name, color: color ?? palette.quiet, strong: color !== null, ...(color && { text: r.unit.doc.name }) }];
    });
    return {
      lines: [
        { id: 'asItIs', label: msg.manifoldAsItIs, x, y: knee.asItIs_W.map(show), color: palette.quiet, dash: 'dot', width: 1.6 },
        { id: 'matched', label: msg.boredToMatch, x, y: knee.matched_W.map(show), color: palette.ink, width: 2.4 },
      ],
      bands: [
        {
          x: window_,
          low: [yRange[0], yRange[0]],
          high: [yRange[1], yRange[1]],
          color: empty ? palette.quiet : `${palette.series[0]!}26`,
          hatch: empty,
        },
      ],
      words: [
        {
          x: (window_[0]! + window_[1]!) / 2,
          text: empty
            ? 'no bore suits both sides'
            : upper - lower < (range[1] - range[0]) * 0.12
              ? 'window'
              : 'bores that suit: enough air, drivable',
          color: empty ? palette.quiet : palette.series[0]!,
          anchor: 'center',
          low: true,
        },
      ],
      points: [{ x: stockBore, y: stockPeak, name: 'stock', color: palette.stock, strong: true, text: msg.stock }, ...points],
      xRange: range,
      yRange,
      xTitle: `bore, ${boreUnit.label}`,
      yTitle: `peak power at the crank, ${unit.label}`,
      marginRight: MARGIN_RIGHT,
    };
  }, [model, knee, bounds, ranked, colorOf, pack, palette, range, boreUnit]);
  const step = boreUnit.id === 'in' ? 0.01 : 0.5;
  const shown = Math.min(range[1], Math.max(range[0], fromSI(probe_m, boreUnit)));
  return (
    <Chart spec={spec} height={height} name="peak power against bore" alt={msg.predictedPeakPowerAgainstThrottleBore}>
      <RpmScrubber
        rpm={shown}
        range={range}
        step={step}
        marginRight={MARGIN_RIGHT}
        label={msg.boreTried}
        text={(n) => `${formatNumber(n, boreUnit.id === 'in' ? 2 : 1)}`}
        valueText={(n) => `${formatNumber(n, boreUnit.id === 'in' ? 2 : 1)} ${boreUnit.label}`}
        onChange={(n) => onProbe(toSI(n, boreUnit))}
      />
    </Chart>
  );
}
