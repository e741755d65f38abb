'use client';

import { useMemo } from 'react';
import type { Peak } from '@/core/compare/compare';
import type { SideExtra } from '@/core/compare/extras';
import type { SideComparison, Stretch } from '@/core/compare/sides';
import { shownUnit } from '@/core/units/measures';
import { formatNumber, formatQuantity, formatSigned } from '@/core/units/quantity';
import { fromSI } from '@/core/units/units';
import { peakWorking, stretchWorking } from '@/core/working/test-working';
import { SUSPECT_CHANCE } from '@/core/inference/answer';
import { WORD_TITLES } from '@/ui/answer/inference-words';
import { useJob } from '@/features/job/provider';
import { Chart } from '@/ui/chart/lazy-chart';
import type { ChartSpec } from '@/ui/chart/figure';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import type { PreparedRun } from './compare.worker';
import { EXTRA_WORDS, useUnitColor } from './overlay';
import { stretchName } from './words';
import { Widths } from './widths';
import styles from '../test.module.css';
import { msg } from './messages';

const pct = (v: number): string => formatSigned(v, 1, '%');

/** What the gear changes are called in a table. */
const changeName = (from: number): string => `changing from ${from} to ${from + 1}`;

interface StretchRowProps {
  c: SideComparison;
  s: Stretch;
  name: string;
  decides: boolean;
  /** An unfair comparison calls nothing a gain, whatever its figures say. */
  fair: boolean;
}

function StretchRow({ c, s, name, decides, fair }: StretchRowProps) {
  const { pack } = usePrefs();
  const power = shownUnit('power', pack).unit;
  return (
    <tr data-decides={decides}>
      <td>
        {name}
        {decides && <span className={styles['decides']}> {msg.decides}</span>}
      </td>
      <td className="num">{formatSigned(fromSI(s.mean_W, power), 1)}</td>
      <td className="num">
        <Num small label={name} working={() => stretchWorking(c, s, name)}>
          {pct(s.mean_pct)}
        </Num>
      </td>
      <td className="num">
        {pct(s.answer.low)} {msg.to} {pct(s.answer.high)}
      </td>
      <td>{fair ? WORD_TITLES[s.answer.word].toLowerCase() : msg.notFair}</td>
    </tr>
  );
}

function Peaks({ c }: { c: SideComparison }) {
  const { pack } = usePrefs();
  const power = shownUnit('power', pack).unit;
  const show = (w: number): string => formatNumber(fromSI(w, power), 1);
  const warned = Math.abs(c.peakB.unsmoothed_W / c.peakA.smoothed_W - c.peakB.smoothed_W / c.peakA.smoothed_W) > 0.005;
  const row = (name: string, p: Peak) => (
    <tr key={name}>
      <td>{name}</td>
      <td className="num">{show(p.smoothed_W)}</td>
      <td className="num">{formatNumber(p.smoothed_rpm, 0)}</td>
      <td className="num">{show(p.unsmoothed_W)}</td>
      <td className="num">{formatSigned(fromSI(p.difference_W, power), 1)}</td>
    </tr>
  );
  return (
    <div>
      <table className="plain">
        <thead>
          <tr>
            <th>
              {msg.peak} {power.label}
            </th>
            <th className="num">{msg.smoothed}</th>
            <th className="num">{msg.atRpm}</th>
            <th className="num">{msg.unsmoothed}</th>
            <th className="num">{msg.apart}</th>
          </tr>
        </thead>
        <tbody>
          {row('stock', c.peakA)}
          {row('new', c.peakB)}
          <tr>
            <td>{msg.difference}</td>
            <td className="num">
              <Num small label={msg.peakAgainstPeak} working={() => peakWorking(c)}>
                {pct(100 * (c.peakB.smoothed_W / c.peakA.smoothed_W - 1))}
              </Num>
            </td>
            <td />
            <td className="num">{pct(100 * (c.peakB.unsmoothed_W / c.peakA.unsmoothed_W - 1))}</td>
            <td />
          </tr>
        </tbody>
      </table>
      {warned && (
        <p className={styles['note']}>
          {msg.theNewSidesUnsmoothedPeakAgainst} {pct(100 * (c.peakB.unsmoothed_W / c.peakA.smoothed_W - 1))}
          {msg.aFalseGainOnlyEqualsAre}
        </p>
      )}
    </div>
  );
}

function Temperatures({ prepared, compared, runsA }: { prepared: readonly PreparedRun[]; compared: readonly string[]; runsA: number }) {
  const { pack } = usePrefs();
  const of = (ids: readonly string[]): { start: number; peak: number; rise: number } | null => {
    const known = ids.flatMap((id) => prepared.find((p) => p.id === id && p.inletAirStart_K !== null) ?? []);
    if (known.length === 0) return null;
    const mean = (f: (p: PreparedRun) => number): number => known.reduce((s, p) => s + f(p), 0) / known.length;
    return {
      start: mean((p) => p.inletAirStart_K!),
      peak: mean((p) => p.inletAirPeak_K!),
      rise: mean((p) => p.inletAirPeak_K! - p.inletAirStart_K!),
    };
  };
  const sides = [of(compared.slice(0, runsA)), of(compared.slice(runsA))];
  if (sides.every((s) => s === null)) return null;
  const cell = (s: (typeof sides)[number], key: 'start' | 'peak' | 'rise'): string =>
    s === null ? '—' : formatQuantity(s[key], key === 'rise' ? 'temperatureRise' : 'temperature', pack);
  return (
    <>
      {(['start', 'peak', 'rise'] as const).map((key) => (
        <tr key={key}>
          <td>
            {msg.inletAir} {key}
          </td>
          <td className="num">{cell(sides[0]!, key)}</td>
          <td className="num">{cell(sides[1]!, key)}</td>
          <td className="num">
            {sides[0] && sides[1]
              ? `${sides[1][key] > sides[0][key] ? '+' : '−'}${formatQuantity(Math.abs(sides[1][key] - sides[0][key]), 'temperatureRise', pack)}`
              : '—'}
          </td>
        </tr>
      ))}
    </>
  );
}

function Extras({
  extras,
  prepared,
  compared,
  runsA,
}: {
  extras: readonly SideExtra[];
  prepared: readonly PreparedRun[];
  compared: readonly string[];
  runsA: number;
}) {
  const { pack } = usePrefs();
  const shown = extras.filter((e) => e.kind !== 'inlet air' && e.kind !== 'throttle');
  return (
    <table className="plain">
      <thead>
        <tr>
          <th>{msg.otherChannelsMean}</th>
          <th className="num">{msg.stock}</th>
          <th className="num">{msg.newWord}</th>
          <th className="num">{msg.difference}</th>
        </tr>
      </thead>
      <tbody>
        {shown.map((e) => {
          const { name, measure } = EXTRA_WORDS[e.kind];
          const show = (v: number | null): string => (v === null ? '—' : formatQuantity(v, measure, pack));
          const { unit, decimals } = shownUnit(measure, pack);
          return (
            <tr key={e.kind}>
              <td>{name}</td>
              <td className="num">{show(e.mean.a)}</td>
              <td className="num">{show(e.mean.b)}</td>
              <td className="num">
                {e.mean.difference === null ? '—' : `${formatSigned(e.mean.difference / unit.factor, decimals + 1)} ${unit.label}`}
              </td>
            </tr>
          );
        })}
        <Temperatures prepared={prepared} compared={compared} runsA={runsA} />
      </tbody>
    </table>
  );
}

/** Every run's mean over the deciding stretch in the order they were driven, with a line a stay. */
function RunOrder({ c }: { c: SideComparison }) {
  const { palette } = usePrefs();
  const color = useUnitColor();
  const spec = useMemo<ChartSpec>(() => {
    const { runs } = c.deciding;
    const values = runs.map((r) => r.value_pct);
    const low = Math.min(...values);
    const high = Math.max(...values);
    const pad = Math.max(0.3, (high - low) * 0.25);
    // A line a stay: what stands between two of them is a refit, or the part.
    const starts = runs.flatMap((r, i) => (r.opensStay ? [i] : []));
    const lines = starts.map((from, k) => {
      const own = runs.slice(from, starts[k + 1] ?? runs.length);
      const mean = own.reduce((s, r) => s + r.value_pct, 0) / own.length;
      const stock = own[0]!.side === 'A';
      return {
        id: `stay ${k + 1}`,
        label: k === starts.length - 1 || k === starts.length - 2 ? (stock ? 'stock' : 'new') : '',
        x: [from + 0.7, from + own.length + 0.3],
        y: [mean, mean],
        color: stock ? palette.stock : color,
        dash: stock ? ('longdash' as const) : ('solid' as const),
        width: 1.8,
        bare: k < starts.length - 2,
      };
    });
    return {
      lines,
      points: runs.map((r, i) => ({
        x: i + 1,
        y: r.value_pct,
        name: `run ${i + 1}, ${r.side === 'A' ? 'stock' : 'new'}${r.visit ? `, ${r.visit}` : ''}: ${formatNumber(r.value_pct, 2)} %${r.outlierP >= SUSPECT_CHANCE ? ', stands apart' : ''}`,
        ...(r.outlierP >= SUSPECT_CHANCE && { text: msg.standsApart }),
        color: r.side === 'A' ? palette.stock : color,
        strong: true,
      })),
      xRange: [0.5, runs.length + 0.5],
      yRange: [low - pad, high + pad],
      xTitle: 'run',
      yTitle: `each run over ${stretchName(c.deciding)}, % of stock’s mean`,
      decimals: 2,
      marginRight: 60,
    };
  }, [c, palette, color]);
  return <Chart spec={spec} height={170} name="run order" alt={msg.meanPowerOfEveryRunIn} />;
}

/** The comparison in figures: stretches with their intervals and answers, peaks smoothed and not, other channels, run order. */
export function Numbers({
  c,
  fair,
  extras,
  prepared,
  compared,
}: {
  c: SideComparison;
  fair: boolean;
  extras: readonly SideExtra[];
  prepared: readonly PreparedRun[];
  compared: readonly string[];
}) {
  const { pack } = usePrefs();
  const power = shownUnit('power', pack).unit;
  const bands = useJob((s) => s.doc.test.bands_rpm.length);
  const own = new Map(c.own.map((s) => [s.id, s]));
  const rows: { s: Stretch; name: string }[] = [
    { s: c.whole, name: stretchName(c.whole) },
    ...c.thirds.map((s) => ({ s, name: stretchName(s) })),
    ...[...own].map(([id, s]) => {
      const k = Number(id.slice(4));
      return { s, name: k < bands ? stretchName(s) : `${changeName(k - bands + 1)}, from ${formatNumber(s.from_rpm, 0)}` };
    }),
  ];
  return (
    <>
      <table className={`plain ${styles['stretches']}`}>
        <thead>
          <tr>
            <th>{msg.meanOver}</th>
            <th className="num">{power.label}</th>
            <th className="num">{msg.difference}</th>
            <th className="num">{msg.n95Interval}</th>
            <th>{msg.answer}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ s, name }) => (
            <StretchRow key={s.id} c={c} s={s} name={name} decides={s.id === c.deciding.id} fair={fair} />
          ))}
        </tbody>
      </table>
      <Widths answer={c.deciding.answer} />
      <div className={styles['tables']}>
        <Peaks c={c} />
        <Extras extras={extras} prepared={prepared} compared={compared} runsA={c.runsA} />
      </div>
      <RunOrder c={c} />
    </>
  );
}
