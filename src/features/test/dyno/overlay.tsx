'use client';

import { Select } from 'antd';
import { useMemo, useState } from 'react';
import type { ExtraKind, SideExtra } from '@/core/compare/extras';
import { breaking } from '@/core/compare/confounders';
import type { SideComparison } from '@/core/compare/sides';
import { comparedUnit } from '@/core/job/compared-unit';
import { shownUnit, type MeasureName } from '@/core/units/measures';
import { fromSI } from '@/core/units/units';
import { useJob, useRuns } from '@/features/job/provider';
import type { ChartBand, ChartLine, ChartSpec } from '@/ui/chart/figure';
import { Chart } from '@/ui/chart/lazy-chart';
import { usePrefs } from '@/ui/theme/prefs';
import type { CompareReply } from './compare.worker';
import styles from '../test.module.css';
import { msg } from './messages';

const MARGIN = 148;

export const EXTRA_WORDS: Readonly<Record<ExtraKind, { readonly name: string; readonly measure: MeasureName }>> = {
  boost: { name: 'boost', measure: 'plenum' },
  'manifold pressure': { name: 'manifold pressure', measure: 'plenum' },
  depression: { name: 'depression against key-on', measure: 'loss' },
  'inlet air': { name: 'inlet air', measure: 'temperature' },
  'air mass flow': { name: 'air mass flow', measure: 'massFlow' },
  lambda: { name: 'lambda', measure: 'ratio' },
  afr: { name: 'air-fuel ratio', measure: 'ratio' },
  throttle: { name: 'throttle, %', measure: 'ratio' },
};

/** The colour of the throttle that is compared: the one it has on the other stops. */
export function useUnitColor(): string {
  const { palette } = usePrefs();
  const { runs } = useRuns();
  const chosen = useJob((s) => s.doc.pick.chosen);
  const shown = useJob((s) => s.doc.pick.shown);
  const unitId = comparedUnit(chosen, runs);
  return palette.series[Math.max(0, unitId === null ? 0 : shown.indexOf(unitId)) % palette.series.length]!;
}

function useRunLines(reply: CompareReply): ChartLine[] {
  const { pack, palette } = usePrefs();
  const { runs } = useRuns();
  const shown = useJob((s) => s.doc.pick.shown);
  const { unit } = shownUnit('power', pack);
  return useMemo<ChartLine[]>(() => {
    const show = (w: number): number => fromSI(w, unit);
    return reply.prepared.flatMap((p): ChartLine[] => {
      const run = runs.find((r) => r.id === p.id);
      if (!run || p.rpm.length === 0 || run.doc.leftOut !== null) return [];
      const stock = run.doc.side?.kind === 'stock';
      const index = run.doc.side?.kind === 'unit' ? shown.indexOf(run.doc.side.unitId) : 0;
      const color = stock
        ? palette.stock
        : run.doc.side === null
          ? palette.quiet
          : palette.series[Math.max(0, index) % palette.series.length]!;
      return [
        {
          id: p.id,
          label: run.doc.name.length > 20 ? `${run.doc.name.slice(0, 19)}…` : run.doc.name,
          x: p.rpm,
          y: p.power_W.map(show),
          color,
          dash: stock ? 'longdash' : run.doc.side === null ? 'dot' : 'solid',
          width: 1.6,
          bare: reply.prepared.length > 4,
        },
      ];
    });
  }, [reply, runs, shown, palette, unit]);
}

/** The difference with its band: what lies in the tint could be nothing. */
export function differenceSpec(
  c: SideComparison,
  palette: ReturnType<typeof usePrefs>['palette'],
  color: string,
  xRange: [number, number],
  { hideX = false, fair = true }: { hideX?: boolean; fair?: boolean } = {},
): ChartSpec {
  const { grid_rpm, difference_pct, band } = c;
  const top = Math.max(...band.high_pct.map(Math.abs), ...band.low_pct.map(Math.abs)) * 1.06;
  const bands: ChartBand[] = [{ x: grid_rpm, low: [...band.low_pct], high: [...band.high_pct], color: `${color}26` }];
  return {
    lines: [{ id: 'difference', label: msg.newStock, x: grid_rpm, y: difference_pct, color: palette.ink, width: 2.2 }],
    bands,
    // An unfair comparison calls nothing a gain, whatever its figures say.
    words: (fair ? c.clear : []).map((r) => ({
      x: (r.from_rpm + r.to_rpm) / 2,
      text: r.sign > 0 ? 'gain' : 'loss',
      color,
      anchor: 'center' as const,
      low: r.sign < 0,
    })),
    xRange,
    yRange: [-top, top],
    xTitle: 'rpm',
    yTitle: band ? 'difference, % of stock, with its 95 % band' : 'difference, % of stock; the tint is what noise alone can do',
    yZeroLine: true,
    marginRight: MARGIN,
    decimals: 2,
    hideX,
  };
}

function extraSpec(
  e: SideExtra,
  xRange: [number, number],
  pack: Parameters<typeof shownUnit>[1],
  palette: ReturnType<typeof usePrefs>['palette'],
  color: string,
): ChartSpec {
  const { name, measure } = EXTRA_WORDS[e.kind];
  const { unit, decimals } = shownUnit(measure, pack);
  const show = (values: readonly number[]): (number | null)[] => values.map((v) => (Number.isFinite(v) ? fromSI(v, unit) : null));
  return {
    lines: [
      ...(e.a ? [{ id: 'a', label: msg.stock, x: e.rpm, y: show(e.a), color: palette.stock, dash: 'longdash' as const, width: 2 }] : []),
      ...(e.b ? [{ id: 'b', label: msg.newWord, x: e.rpm, y: show(e.b), color, width: 2 }] : []),
    ],
    xRange,
    xTitle: 'rpm',
    yTitle: unit.label ? `${name}, ${unit.label}` : name,
    marginRight: MARGIN,
    decimals: Math.max(1, decimals),
  };
}

/** What the runs' picture takes at least, px: kept free while they are read. */
export const OVERLAY_HEIGHT = 340;

/** Every run's power over rpm, under it the difference with its band, and any other channel on the same axis. */
export function Overlay({ reply, comparison }: { reply: CompareReply; comparison: SideComparison | null }) {
  const { pack, palette } = usePrefs();
  const lines = useRunLines(reply);
  const color = useUnitColor();
  const [extra, setExtra] = useState<ExtraKind | 'none'>('none');
  const { unit } = shownUnit('power', pack);
  const xRange = useMemo<[number, number]>(() => {
    const xs = lines.flatMap((l) => [l.x[0]!, l.x.at(-1)!]);
    return xs.length === 0 ? [0, 1] : [Math.min(...xs), Math.max(...xs)];
  }, [lines]);
  const power = useMemo<ChartSpec>(() => {
    const show = (w: number): number => fromSI(w, unit);
    const means: ChartLine[] =
      comparison && reply.prepared.length > 4
        ? [
            {
              id: 'mean-a',
              label: msg.stockMean,
              x: comparison.grid_rpm,
              y: comparison.a_W.map(show),
              color: palette.stock,
              dash: 'longdash',
              width: 2.6,
            },
            { id: 'mean-b', label: msg.newMean, x: comparison.grid_rpm, y: comparison.b_W.map(show), color, width: 2.6 },
          ]
        : [];
    const faint = means.length > 0 ? lines.map((l) => ({ ...l, width: 1, color: `${l.color}99` })) : lines;
    return {
      lines: [...faint, ...means],
      xRange,
      xTitle: 'rpm',
      yTitle: `power, ${unit.label}`,
      marginRight: MARGIN,
      hideX: comparison !== null,
    };
  }, [lines, xRange, unit, comparison, palette, color, reply.prepared.length]);
  const shownExtra = reply.extras.find((e) => e.kind === extra);
  const difference = useMemo(
    () =>
      comparison
        ? differenceSpec(comparison, palette, color, xRange, {
            hideX: shownExtra !== undefined,
            fair: breaking(reply.confounders).length === 0,
          })
        : null,
    [comparison, xRange, palette, color, shownExtra, reply.confounders],
  );
  const beside = useMemo(
    () => (shownExtra ? extraSpec(shownExtra, xRange, pack, palette, color) : null),
    [shownExtra, xRange, pack, palette, color],
  );
  if (lines.length === 0) return null;
  return (
    <>
      <Chart spec={power} height={difference ? 226 : OVERLAY_HEIGHT} name="dyno" alt={msg.powerOfEachRunOverRpm} />
      {difference && <Chart spec={difference} height={172} name="difference" alt={msg.differenceOfTheNewSideFrom} />}
      {beside && <Chart spec={beside} height={150} name={`dyno ${extra}`} alt={`${extra} of both sides over the same engine speeds`} />}
      {reply.extras.length > 0 && (
        <label className={styles['beneath']}>
          {msg.channelBelowSameAxis}
          <Select
            size="small"
            aria-label={msg.channelBelow}
            style={{ width: 190 }}
            value={extra}
            options={[
              { value: 'none', label: msg.nothingMore },
              ...reply.extras.map((e) => ({ value: e.kind, label: EXTRA_WORDS[e.kind].name })),
            ]}
            onChange={setExtra}
          />
        </label>
      )}
    </>
  );
}
