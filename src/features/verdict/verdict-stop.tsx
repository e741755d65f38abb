'use client';

import { Button, Input, Skeleton } from 'antd';
import { Link } from '@/ui/link';
import { useMemo, type ReactNode } from 'react';
import type { JobFacts } from '@/core/verdict/facts';
import type { ShopSettings } from '@/core/documents/shop';
import type { SideComparison, Stretch } from '@/core/compare/sides';
import { waveGain, wavesDecide, type WaveGain } from '@/core/job/wave-gain';
import { peakGain, peakOf } from '@/core/numbers/peak';
import { peakGainWorking } from '@/core/working/bore-working';
import { predictedWorking } from '@/core/working/verdict-working';
import { peakWorking, stretchWorking } from '@/core/working/test-working';
import { formatNumber, formatSigned } from '@/core/units/quantity';
import type { PredictedGain, VerdictReport } from '@/core/verdict/report';
import { useSideWaves } from '@/features/air/waves/use-side-waves';
import { useJob } from '@/features/job/provider';
import { stretchName } from '@/features/test/dyno/words';
import { usePredicted } from '@/features/test/use-predicted';
import { Heading, Rule, StopPage } from '@/ui/answer/stop-page';
import { Chart } from '@/ui/chart/lazy-chart';
import type { ChartSpec } from '@/ui/chart/figure';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { Ledger, Money, Next, Override, Reasons, Similar } from './panels';
import { MannersTable, StripTable } from './tables';
import { EffectBars } from './effect-bars';
import { Share } from './share';
import { useFinished } from '@/features/job/use-finished';
import { useReport, useShop } from './use-report';
import { verdictAnswer } from './words';
import styles from './verdict.module.css';
import { NextThing } from '@/ui/answer/next-thing';
import { msg } from './messages';

/** What the model says with waves of the throttle that was compared, where they decide; `busy` while it is worked out. */
function useVerdictWaves(unitId: string | null): {
  gain: (range?: readonly [number, number]) => WaveGain | null;
  asked: boolean;
  busy: boolean;
} {
  const car = useJob((s) => s.doc.car);
  const asked = wavesDecide(car);
  const p = usePredicted(asked ? unitId : null);
  const { ratios } = useSideWaves(p?.model ?? null, asked);
  const ratio = ratios?.[0] ?? null;
  return useMemo(
    () => ({
      gain: (range) => (p && ratio ? waveGain(p.model, ratio, range) : null),
      asked: asked && p !== null,
      busy: asked && p !== null && ratios === null,
    }),
    [asked, p, ratio, ratios],
  );
}

function PredictedMeasured({ c, p, waves }: { c: SideComparison; p: PredictedGain | null; waves: WaveGain | null }) {
  const { palette } = usePrefs();
  const spec = useMemo<ChartSpec>(() => {
    const { grid_rpm, difference_pct, band } = c;
    const xRange: [number, number] = [grid_rpm[0]!, grid_rpm.at(-1)!];
    const inside = p ? p.rpm.map((n, i) => ({ n, g: p.gain_pct[i]! })).filter(({ n }) => n >= xRange[0] && n <= xRange[1]) : [];
    const gulps = waves ? waves.rpm.map((n, i) => ({ n, g: waves.gain_pct[i]! })).filter(({ n }) => n >= xRange[0] && n <= xRange[1]) : [];
    const seen = [...band.low_pct, ...band.high_pct, ...[...inside, ...gulps].map((q) => q.g)];
    const room = 1.06;
    const yRange: [number, number] = [room * Math.min(-0.5, ...seen), room * Math.max(0.5, ...seen)];
    return {
      lines: [
        { id: 'measured', label: msg.measured, x: grid_rpm, y: difference_pct, color: palette.ink, width: 2.4 },
        ...(inside.length > 1
          ? [
              {
                id: 'predicted',
                label: waves ? msg.evenFlow : msg.predicted,
                x: inside.map((q) => q.n),
                y: inside.map((q) => q.g),
                color: palette.series[0]!,
                width: 2.4,
              },
            ]
          : []),
        ...(gulps.length > 1
          ? [
              {
                id: 'waves',
                label: msg.withWaves,
                x: gulps.map((q) => q.n),
                y: gulps.map((q) => q.g),
                color: palette.series[0]!,
                dash: 'dot' as const,
                width: 2.4,
              },
            ]
          : []),
      ],
      bands: [{ x: grid_rpm, low: [...band.low_pct], high: [...band.high_pct], color: `${palette.stock}2e` }],
      xRange,
      yRange,
      xTitle: 'rpm',
      yTitle: 'power against stock, %, measured with its 95 % band',
      yZeroLine: true,
      decimals: 2,
    };
  }, [c, p, waves, palette]);
  return <Chart spec={spec} height={330} name="verdict" alt={msg.predictedAndMeasuredDifferenceFromStock} />;
}

/** Figures this close read the same, %. */
const SAME_pct = 0.05;

interface TableProps {
  readonly c: SideComparison;
  readonly report: VerdictReport;
  readonly name: string;
  readonly waves: ReturnType<typeof useVerdictWaves>;
}

function Table({ c, report, name, waves }: TableProps) {
  const p = report.predicted;
  const written = useJob((s) => s.doc.test.plan.written);
  const measuredPeak = 100 * (c.peakB.smoothed_W / c.peakA.smoothed_W - 1);
  const said = (v: number | null, from_rpm: number, to_rpm: number, label: string) =>
    p === null || v === null || !Number.isFinite(v) ? (
      '—'
    ) : (
      <Num small label={`predicted, ${label}`} working={() => predictedWorking(p, from_rpm, to_rpm, label)}>
        {formatSigned(v, 1, '%')}
      </Num>
    );
  /** What was written down before the runs comes first; what the model says since stands beside it. */
  const held = (before: number | undefined, now: ReactNode, value: number | null): ReactNode =>
    before === undefined ? (
      now
    ) : value !== null && Math.abs(value - before) >= SAME_pct ? (
      <>
        {formatSigned(before, 1, '%')}{' '}
        <span className="quiet">
          {msg.now} {now}
        </span>
      </>
    ) : (
      now
    );
  const then = written?.predicted && written.predicted.unitId === report.unit?.id ? written.predicted : null;
  const row = (t: Stretch, label: string, predicted: number | null, before?: number) => (
    <tr key={`${t.id}${t.from_rpm}`} data-decides={t.id === c.deciding.id}>
      <td>
        {label}
        {t.id === c.deciding.id && <span className={styles['decides']}> {msg.decides}</span>}
      </td>
      <td className="num">{held(before, said(predicted, t.from_rpm, t.to_rpm, label), predicted)}</td>
      {waves.asked && <td className="num">{byWaves(waves.gain([t.from_rpm, t.to_rpm]), t, label)}</td>}
      <td className="num">
        <Num small label={`measured, ${label}`} working={() => stretchWorking(c, t, label)}>
          {formatSigned(t.mean_pct, 1, '%')}
        </Num>
      </td>
      <td className="num">
        {formatSigned(t.answer.low, 1)} {msg.to} {formatSigned(t.answer.high, 1, '%')}
      </td>
    </tr>
  );
  const byWaves = (gain: WaveGain | null, t: Stretch, label: string): ReactNode =>
    gain === null || !Number.isFinite(gain.over.whole) ? (
      '—'
    ) : (
      <Num small label={`with waves, ${label}`} working={() => predictedWorking(gain, t.from_rpm, t.to_rpm, label, true)}>
        {formatSigned(gain.over.whole, 1, '%')}
      </Num>
    );
  const whole = waves.gain();
  const used = report.driven;
  return (
    <div className="wide-table" tabIndex={0}>
      <table className="plain">
        <thead>
          <tr>
            <th>
              {msg.dyno} {name} {msg.againstStock}
            </th>
            <th className="num">{waves.asked ? msg.evenFlow : msg.predicted}</th>
            {waves.asked && <th className="num">{msg.withWaves}</th>}
            <th className="num">{msg.measured}</th>
            <th className="num">{msg.n95Interval}</th>
          </tr>
        </thead>
        <tbody>
          {c.thirds.map((t, i) => row(t, stretchName(t), p?.thirds_pct[i] ?? null, then?.thirds_pct[i]))}
          {used && row(used, `driven band, ${formatNumber(used.from_rpm, 0)} to ${formatNumber(used.to_rpm, 0)}`, p?.used_pct ?? null)}
          <tr>
            <td>{msg.peakAgainstPeak}</td>
            <td className="num">
              {p
                ? held(
                    then?.peak_pct,
                    <Num
                      small
                      label={msg.predictedPeak}
                      working={() => peakGainWorking(`Predicted peak with ${name}`, peakOf(p.stock_W), peakOf(p.other_W))}
                    >
                      {formatSigned(p.peak_pct, 1, '%')}
                    </Num>,
                    p.peak_pct,
                  )
                : '—'}
            </td>
            {waves.asked && (
              <td className="num">
                {whole ? (
                  <Num
                    small
                    label="with waves, peak"
                    working={() => peakGainWorking(`Peak with ${name}, with waves`, peakOf(whole.stock_W), peakOf(whole.other_W))}
                  >
                    {formatSigned(peakGain(whole.other_W, whole.stock_W), 1, '%')}
                  </Num>
                ) : (
                  '—'
                )}
              </td>
            )}
            <td className="num">
              <Num small label={msg.measuredPeak} working={() => peakWorking(c)}>
                {formatSigned(measuredPeak, 1, '%')}
              </Num>
            </td>
            <td className="num quiet">{msg.aSinglePointSeeTheThirds}</td>
          </tr>
        </tbody>
      </table>
    </div>
  );
}

function Note() {
  const note = useJob((s) => s.doc.verdict.note);
  const set = useJob((s) => s.set);
  return (
    <>
      <Heading>{msg.inYourWords}</Heading>
      <Input.TextArea
        aria-label={msg.verdictInYourWords}
        rows={6}
        maxLength={4000}
        value={note}
        placeholder={msg.isItWorthKeepingAndWhat}
        onChange={(e) => set('verdict.note', e.target.value)}
      />
      <p className={styles['printed']}>{note}</p>
    </>
  );
}

/** Verdict: what was predicted against what was measured, what it cost, what is next, and what to do about it. */
export function VerdictStop({ facts = null, shop: shop0 = null }: { facts?: JobFacts | null; shop?: ShopSettings | null }) {
  const { report, wrong } = useReport(facts);
  const finished = useFinished();
  const shop = useShop(shop0);
  const { pack } = usePrefs();
  const waves = useVerdictWaves(report?.unit?.id ?? null);
  if (!report)
    return (
      <StopPage answer={wrong ? 'The verdict cannot be read just now.' : 'Reading the runs…'} reason={wrong} aside={<Note />}>
        {wrong ? null : <Skeleton active paragraph={{ rows: 10 }} />}
      </StopPage>
    );
  const { comparison, strip } = report.facts;
  const name = report.unit?.doc.name ?? 'the new throttle';
  if (!comparison && !strip)
    return (
      <StopPage
        answer={msg.thereIsNothingToJudgeYet}
        reason={
          report.predicted
            ? `${name} is predicted to bring ${formatSigned(report.predicted.peak_pct, 1, '%')} at peak. Runs or passes of both sides on the Test step say whether it did.`
            : 'Choose a throttle on the Pick step and import runs of both sides on the Test step.'
        }
        aside={
          <>
            <Similar finished={finished} />
            <Rule />
            <Note />
          </>
        }
      >
        <NextThing shows={msg.hereThenStandsWhatWasMeasured} links={[{ to: './test', text: msg.goToTest }]} />
        <Next report={report} />
      </StopPage>
    );
  const { answer, reason } = verdictAnswer(report, pack);
  return (
    <StopPage
      answer={answer}
      reason={reason}
      aside={
        <>
          <Reasons report={report} />
          <Override report={report} people={shop.people} />
          <Rule />
          <Money report={report} hourly={shop.hourly} />
          <Rule />
          <Next report={report} />
          <Rule />
          <Similar finished={finished} />
          <Rule />
          <Note />
          <Rule />
          <Share />
          <Button className="no-print" onClick={() => window.print()}>
            {msg.printThisPage}
          </Button>
        </>
      }
    >
      {comparison && <PredictedMeasured c={comparison} p={report.predicted} waves={waves.gain()} />}
      {comparison && waves.busy && <p className="quiet">{msg.wavesUnderWay}</p>}
      {strip && <EffectBars bars={report.bars} />}
      <div className={styles['tables']}>
        {comparison && <Table c={comparison} report={report} name={name} waves={waves} />}
        <StripTable report={report} />
        {comparison && report.facts.confounders.length > 0 && (
          <p className={styles['fair']}>
            {report.facts.confounders.length} {report.facts.confounders.length === 1 ? 'thing' : 'things'}{' '}
            {msg.besidesTheThrottleCouldHaveMoved} <Link href="./test">{msg.fairComparison}</Link> {msg.onTheTestStep}
          </p>
        )}
        <MannersTable report={report} />
      </div>
      <Heading>{msg.whoExpectedWhat}</Heading>
      <Ledger report={report} />
    </StopPage>
  );
}
