'use client';

import { Button, Select } from 'antd';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import type { SideComparison } from '@/core/compare/sides';
import { isFailure } from '@/core/failure';
import { CORRECTION_METHODS } from '@/core/runs/correction';
import { SMOOTHING_WIDTHS_rpm } from '@/core/runs/smooth';
import { correctionWorking, noiseWorking, peakWorking, thirdWorking } from '@/core/working/test-working';
import { shownUnit } from '@/core/units/measures';
import { fromSI } from '@/core/units/units';
import { formatNumber, formatSigned } from '@/core/units/quantity';
import { DocField } from '@/features/job/field';
import { useJob, useRuns, useShelf } from '@/features/job/provider';
import { Heading, Rule, StopPage } from '@/ui/answer/stop';
import { failureText } from '@/ui/answer/words';
import { Chart } from '@/ui/chart/lazy-chart';
import type { ChartLine, ChartSpec } from '@/ui/chart/figure';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import type { CompareReply } from './compare.worker';
import { ImportList, useImports } from './imports';
import { RunsList } from './runs-list';
import { useComparison } from './use-comparison';
import { comparisonAnswer, comparisonReason, confounderWords, THIRDS } from './words';
import styles from './test.module.css';

const FILES = '.csv,.txt,.tsv,.log,.dat,.asc';

/** Files dropped anywhere on the page are taken in. */
function useDrop(take: (files: Iterable<File>) => void): boolean {
  const [over, setOver] = useState(false);
  useEffect(() => {
    let depth = 0;
    const files = (e: DragEvent): boolean => e.dataTransfer?.types.includes('Files') ?? false;
    const enter = (e: DragEvent): void => {
      if (!files(e)) return;
      depth += 1;
      setOver(true);
    };
    const leave = (): void => {
      depth = Math.max(0, depth - 1);
      if (depth === 0) setOver(false);
    };
    const hold = (e: DragEvent): void => {
      if (files(e)) e.preventDefault();
    };
    const drop = (e: DragEvent): void => {
      if (!files(e)) return;
      e.preventDefault();
      depth = 0;
      setOver(false);
      take(e.dataTransfer!.files);
    };
    const events: [string, (e: DragEvent) => void][] = [
      ['dragenter', enter],
      ['dragleave', leave],
      ['dragover', hold],
      ['drop', drop],
    ];
    for (const [name, on] of events) window.addEventListener(name, on as EventListener);
    return () => events.forEach(([name, on]) => window.removeEventListener(name, on as EventListener));
  }, [take]);
  return over;
}

function Overlay({ reply, comparison }: { reply: CompareReply; comparison: SideComparison | null }) {
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

function Settings() {
  const test = useJob((s) => s.doc.test);
  const set = useJob((s) => s.set);
  return (
    <div className={styles['bar']}>
      <label>
        Smoothing
        <Select
          size="small"
          aria-label="Smoothing"
          style={{ width: 104 }}
          value={test.fwhm_rpm}
          options={SMOOTHING_WIDTHS_rpm.map((w) => ({ value: w, label: w === 0 ? 'none' : `${w} rpm` }))}
          onChange={(v) => set('test.fwhm_rpm', v)}
        />
      </label>
      <label>
        Correction
        <Select
          size="small"
          aria-label="Correction"
          style={{ width: 118 }}
          value={test.correction}
          options={CORRECTION_METHODS.map((m) => ({ value: m, label: m }))}
          onChange={(v) => set('test.correction', v)}
        />
      </label>
      <span className="quiet">one smoothing and one correction for every run</span>
    </div>
  );
}

function Numbers({ c }: { c: SideComparison }) {
  const { pack } = usePrefs();
  const fwhm = useJob((s) => s.doc.test.fwhm_rpm);
  const power = shownUnit('power', pack).unit;
  const show = (w: number): string => formatNumber(fromSI(w, power), 1);
  return (
    <div className={styles['tables']}>
      <table className="plain">
        <thead>
          <tr>
            <th>mean over</th>
            <th className="num">{power.label}</th>
            <th className="num">difference</th>
          </tr>
        </thead>
        <tbody>
          {c.bandMean_pct.map((p, i) => (
            <tr key={THIRDS[i]}>
              <td>{THIRDS[i]}</td>
              <td className="num">{formatSigned(fromSI(c.bandMean_W[i]!, power), 1)}</td>
              <td className="num">
                <Num small label={THIRDS[i]!} working={() => thirdWorking(c, i as 0 | 1 | 2, fwhm)}>
                  {formatSigned(p, 1, '%')}
                </Num>
              </td>
            </tr>
          ))}
          <tr>
            <td>noise alone, 95 %</td>
            <td />
            <td className="num">
              <Num small label="noise" working={() => noiseWorking(c)}>
                ±{formatNumber(c.noise_pct, 1)} %
              </Num>
            </td>
          </tr>
        </tbody>
      </table>
      <table className="plain">
        <thead>
          <tr>
            <th>peak, {power.label}</th>
            <th className="num">smoothed</th>
            <th className="num">at rpm</th>
            <th className="num">as measured</th>
          </tr>
        </thead>
        <tbody>
          {(
            [
              ['stock', c.peakA],
              ['new', c.peakB],
            ] as const
          ).map(([name, p]) => (
            <tr key={name}>
              <td>{name}</td>
              <td className="num">{show(p.smoothed_W)}</td>
              <td className="num">{formatNumber(p.smoothed_rpm, 0)}</td>
              <td
                className="num"
                title={`${formatSigned(fromSI(p.difference_W, power), 1)} over the smoothed: never compare it with a smoothed one`}
              >
                {show(p.unsmoothed_W)}
              </td>
            </tr>
          ))}
          <tr>
            <td>difference</td>
            <td className="num">
              <Num small label="peak against peak" working={() => peakWorking(c)}>
                {formatSigned(100 * (c.peakB.smoothed_W / c.peakA.smoothed_W - 1), 1, '%')}
              </Num>
            </td>
            <td className="num quiet" colSpan={2}>
              unsmoothed {formatSigned(100 * (c.peakB.unsmoothed_W / c.peakA.unsmoothed_W - 1), 1, '%')}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  );
}

function Fair({ reply }: { reply: CompareReply }) {
  const { pack } = usePrefs();
  return (
    <>
      <Heading
        more={<span className="quiet">{reply.confounders.length === 0 ? 'nothing found' : `${reply.confounders.length} to weigh`}</span>}
      >
        Fair comparison?
      </Heading>
      <ul className={styles['fair']}>
        {reply.confounders.map((c) => {
          const w = confounderWords(c, pack);
          return (
            <li key={c.code + w.what}>
              {w.what} {w.worth && <span className={styles['worth']}>{w.worth}.</span>} <span className="quiet">{w.todo}</span>
            </li>
          );
        })}
      </ul>
    </>
  );
}

function Corrections() {
  const { runs } = useRuns();
  const correction = useJob((s) => s.doc.test.correction);
  return (
    <table className="plain" style={{ marginTop: 8 }}>
      <tbody>
        {runs.map((r) => (
          <tr key={r.id}>
            <td>{r.doc.name}</td>
            <td className="num">
              <Num small label={`correction of ${r.doc.name}`} working={() => correctionWorking(r, correction)}>
                {r.doc.weather && r.doc.carried !== 'unknown' ? correction : 'left as it is'}
              </Num>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function answerOf(
  comparison: SideComparison | null,
  failed: string | null,
  name: string,
  sides: { stock: number; other: number },
  runs: number,
): { answer: string; reason: ReactNode } {
  if (failed) return { answer: 'The runs cannot be read just now.', reason: failed };
  if (comparison) return { answer: comparisonAnswer(comparison, name), reason: comparisonReason(comparison) };
  if (runs === 0)
    return {
      answer: 'No runs yet: drop the dyno’s files anywhere on this page.',
      reason: 'At least one with the stock unit on and one with the new one.',
    };
  if (sides.stock === 0)
    return { answer: 'The stock side is missing.', reason: 'Say which of these runs had the stock unit on, or drop one that did.' };
  if (sides.other === 0)
    return { answer: 'The new side is missing.', reason: 'Say which of these runs had the new unit on, or drop one that did.' };
  return { answer: 'These runs cannot be compared yet.', reason: 'See beside each run what is missing.' };
}

/** Test, dyno: drop files, say which side each is, and read whether the new one gained and how sure that is. */
export function TestStop() {
  const { pack } = usePrefs();
  const { items, take, dismiss } = useImports();
  const over = useDrop(take);
  const { reply, failed, unitId } = useComparison();
  const { runs } = useRuns();
  const shelf = useShelf();
  const chooser = useRef<HTMLInputElement>(null);
  const name = shelf.find((u) => u.id === unitId)?.doc.name ?? 'the new unit';
  const raw = reply?.comparison ?? null;
  const comparison = raw !== null && !isFailure(raw) ? raw : null;
  const sides = {
    stock: runs.filter((r) => r.doc.side?.kind === 'stock').length,
    other: runs.filter((r) => r.doc.side?.kind === 'unit').length,
  };
  const { answer, reason } =
    reply === null && !failed && runs.length > 0
      ? { answer: 'Reading the runs…', reason: null }
      : answerOf(comparison, failed, name, sides, runs.length);
  return (
    <StopPage
      answer={answer}
      reason={raw !== null && isFailure(raw) ? failureText(raw, pack) : reason}
      aside={
        <>
          <Heading
            more={
              <Button size="small" onClick={() => chooser.current?.click()}>
                Choose files
              </Button>
            }
          >
            Runs
          </Heading>
          <input
            ref={chooser}
            type="file"
            multiple
            accept={FILES}
            hidden
            data-testid="files"
            onChange={(e) => {
              take([...(e.target.files ?? [])]);
              e.target.value = '';
            }}
          />
          <ImportList items={items} onDismiss={dismiss} />
          <RunsList prepared={reply?.prepared ?? []} />
          {reply && comparison && (
            <>
              <Rule />
              <Fair reply={reply} />
            </>
          )}
          <Rule />
          <DocField path="test.assumedSd_pct" label="Scatter of single runs, if not repeated, %" measure="ratio" mark={null} />
          {comparison && <Corrections />}
        </>
      }
    >
      {runs.length === 0 ? (
        <div className={styles['empty']}>
          Drop files here: comma, semicolon or tab, decimal point or comma, with or without lines above the table.
          <br />
          <span className="quiet">The folder samples/ of this installation has two to try.</span>
        </div>
      ) : (
        <>
          <Settings />
          {reply && <Overlay reply={reply} comparison={comparison} />}
          {comparison && <Numbers c={comparison} />}
        </>
      )}
      {over && <div className={styles['drop']}>Let go to take the files in</div>}
    </StopPage>
  );
}
