'use client';

import { peakGain, peakIndex } from '@/core/numbers/peak';
import { Button, Input } from 'antd';
import Link from 'next/link';
import { useMemo } from 'react';
import type { SideComparison } from '@/core/compare/sides';
import { thirdOf } from '@/core/compare/compare';
import { isFailure } from '@/core/failure';
import { jobModel, type CandidateSide, type JobModel } from '@/core/job/model';
import { powerWorking, priceWorking } from '@/core/working/sizing-working';
import { noiseWorking, peakWorking, thirdWorking } from '@/core/working/test-working';
import { shownUnit } from '@/core/units/measures';
import { formatNumber, formatQuantity, formatSigned } from '@/core/units/quantity';
import { useJob, useShelf } from '@/features/job/provider';
import { useSized } from '@/features/job/use-model';
import { useComparison } from '@/features/test/use-comparison';
import { runsEach, THIRDS } from '@/features/test/words';
import { Heading, Pair, Rule, StopPage } from '@/ui/answer/stop';
import { Chart } from '@/ui/chart/lazy-chart';
import type { ChartSpec } from '@/ui/chart/figure';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import styles from './verdict.module.css';

interface Prediction {
  readonly model: JobModel;
  readonly side: CandidateSide;
  readonly gain_pct: readonly number[];
}

/** What the model says of the tested unit at the grid points the dyno measured. */
function usePrediction(unitId: string | null): Prediction | null {
  const sized = useSized();
  const opening = useJob((s) => s.doc.pick.opening);
  const unit = useShelf().find((u) => u.id === unitId);
  return useMemo(() => {
    if (!unit) return null;
    const model = jobModel(sized, [{ unit, opening }]);
    if (isFailure(model)) return null;
    const side = model.candidates[0]!;
    return side.gain_pct ? { model, side, gain_pct: side.gain_pct } : null;
  }, [sized, opening, unit]);
}

/** Mean predicted gain by thirds of the rpm range that was measured. */
function predictedThirds(p: Prediction, range: readonly [number, number]): (number | null)[] {
  const sums = [0, 1, 2].map(() => ({ total: 0, n: 0 }));
  p.model.rpm.forEach((rpm, i) => {
    if (rpm < range[0] || rpm > range[1]) return;
    const band = sums[thirdOf(rpm, range[0], range[1])]!;
    band.total += p.gain_pct[i]!;
    band.n += 1;
  });
  return sums.map((s) => (s.n === 0 ? null : s.total / s.n));
}

const predictedPeak = (p: Prediction): number =>
  isFailure(p.side.solved) ? 0 : peakGain(p.side.solved.power_W, p.model.reference.result.power_W);

function advice(c: SideComparison, name: string, matched: number | null): { answer: string; reason: string } {
  const best = formatSigned(c.answer.best_pct, 1, '%');
  const noise = `±${formatNumber(c.noise_pct, 1)} %`;
  const told = matched === null ? '' : ` The model said ${formatSigned(matched, 1, '%')} there.`;
  switch (c.answer.kind) {
    case 'gain':
      return {
        answer: `Keep it: ${name} gained ${best} over ${THIRDS[c.answer.bestThird]}.`,
        reason: `More than the ${noise} that noise alone could do.${told}`,
      };
    case 'loss':
      return {
        answer: `Go back to stock: ${name} lost ${best} over ${THIRDS[c.answer.bestThird]}.`,
        reason: `More than the ${noise} that noise alone could do.${told}`,
      };
    case 'mixed':
      return { answer: `${name} gained in one place and lost in another: it depends on where the engine is used.`, reason: told.trim() };
    case 'inside the noise':
      return {
        answer: `Test more: ${best} over ${THIRDS[c.answer.bestThird]} could still be noise.`,
        reason: `Differences up to ${noise} come by noise alone with ${runsEach(c)}.${told}`,
      };
  }
}

function PredictedMeasured({ c, p }: { c: SideComparison; p: Prediction | null }) {
  const { palette } = usePrefs();
  const spec = useMemo<ChartSpec>(() => {
    const { noise_pct, grid_rpm, difference_pct } = c;
    const xRange: [number, number] = [grid_rpm[0]!, grid_rpm.at(-1)!];
    const inside = p ? p.model.rpm.map((n, i) => ({ n, g: p.gain_pct[i]! })).filter(({ n }) => n >= xRange[0] && n <= xRange[1]) : [];
    const top = Math.max(noise_pct * 1.4, ...difference_pct.map(Math.abs), ...inside.map((q) => Math.abs(q.g))) * 1.08;
    return {
      lines: [
        { id: 'measured', label: 'measured', x: grid_rpm, y: difference_pct, color: palette.ink, width: 2.4 },
        ...(inside.length > 1
          ? [
              {
                id: 'predicted',
                label: 'predicted',
                x: inside.map((q) => q.n),
                y: inside.map((q) => q.g),
                color: palette.series[0]!,
                width: 2.4,
              },
            ]
          : []),
        {
          id: 'noise',
          label: `noise ±${formatNumber(noise_pct, 1)}`,
          x: xRange,
          y: [-noise_pct, -noise_pct],
          color: palette.quiet,
          dash: 'dot' as const,
          width: 1,
        },
      ],
      bands: [{ x: xRange, low: [-noise_pct, -noise_pct], high: [noise_pct, noise_pct], color: `${palette.stock}2e` }],
      xRange,
      yRange: [-top, top],
      xTitle: 'rpm',
      yTitle: 'power against stock, %',
      yZeroLine: true,
      decimals: 2,
    };
  }, [c, p, palette]);
  return (
    <Chart
      spec={spec}
      height={330}
      name="verdict"
      alt="Predicted and measured difference from stock over rpm in percent, with the band that noise alone can fill"
    />
  );
}

function Table({ c, p, name }: { c: SideComparison; p: Prediction | null; name: string }) {
  const doc = useJob((s) => s.doc);
  const range: [number, number] = [c.grid_rpm[0]!, c.grid_rpm.at(-1)!];
  const thirds = p ? predictedThirds(p, range) : [null, null, null];
  const peakAt = p && !isFailure(p.side.solved) ? peakIndex(p.side.solved.power_W) : 0;
  const measuredPeak = 100 * (c.peakB.smoothed_W / c.peakA.smoothed_W - 1);
  return (
    <table className="plain">
      <thead>
        <tr>
          <th>{name} against stock</th>
          <th className="num">predicted</th>
          <th className="num">measured</th>
          <th className="num">noise alone</th>
        </tr>
      </thead>
      <tbody>
        {THIRDS.map((t, i) => (
          <tr key={t}>
            <td>{t}</td>
            <td className="num">{thirds[i] === null ? '—' : formatSigned(thirds[i]!, 1, '%')}</td>
            <td className="num">
              <Num small label={`measured, ${t}`} working={() => thirdWorking(c, i as 0 | 1 | 2, doc.test.fwhm_rpm)}>
                {formatSigned(c.bandMean_pct[i]!, 1, '%')}
              </Num>
            </td>
            <td className="num">
              <Num small label="noise" working={() => noiseWorking(c)}>
                ±{formatNumber(c.noise_pct, 1)} %
              </Num>
            </td>
          </tr>
        ))}
        <tr>
          <td>peak against peak</td>
          <td className="num">
            {p ? (
              <Num small label="predicted peak" working={() => powerWorking(doc, p.model, p.side, peakAt)}>
                {formatSigned(predictedPeak(p), 1, '%')}
              </Num>
            ) : (
              '—'
            )}
          </td>
          <td className="num">
            <Num small label="measured peak" working={() => peakWorking(c)}>
              {formatSigned(measuredPeak, 1, '%')}
            </Num>
          </td>
          <td className="num">±{formatNumber(c.noise_pct, 1)} %</td>
        </tr>
      </tbody>
    </table>
  );
}

function Money({ c, price, name }: { c: SideComparison; price: number | null; name: string }) {
  const { pack } = usePrefs();
  const power = shownUnit('power', pack).unit;
  const gain_W = c.peakB.smoothed_W - c.peakA.smoothed_W;
  return (
    <>
      <Heading>Worth it?</Heading>
      <Pair name="price of the unit">
        <span>{price === null ? 'not entered' : formatQuantity(price, 'money', pack)}</span>
      </Pair>
      <Pair name="gained at peak, measured">
        <span>{`${gain_W > 0 ? '+' : ''}${formatQuantity(gain_W, 'power', pack)}`}</span>
      </Pair>
      <Pair name={`per ${power.label} gained`}>
        {price === null || gain_W <= 0 ? (
          <span>—</span>
        ) : (
          <Num small label="cost of the gain" working={() => priceWorking(name, price, gain_W)}>
            {formatQuantity((price / gain_W) * power.factor, 'money', pack)}
          </Num>
        )}
      </Pair>
      <p className="quiet">Parts only. At the place the dyno measured; the noise above applies to it.</p>
    </>
  );
}

function Note() {
  const note = useJob((s) => s.doc.verdict.note);
  const set = useJob((s) => s.set);
  return (
    <>
      <Heading>In your words</Heading>
      <Input.TextArea
        aria-label="Verdict in your words"
        rows={6}
        maxLength={4000}
        value={note}
        placeholder="Is it worth keeping, and what would you do next?"
        onChange={(e) => set('verdict.note', e.target.value)}
      />
      <p className={styles['printed']}>{note}</p>
    </>
  );
}

/** Verdict: what was predicted against what was measured, on one page, and what to do about it. */
export function VerdictStop() {
  const { reply, failed, unitId } = useComparison();
  const unit = useShelf().find((u) => u.id === unitId);
  const p = usePrediction(unitId);
  const raw = reply?.comparison ?? null;
  const c = raw !== null && !isFailure(raw) ? raw : null;
  const name = unit?.doc.name ?? 'the new unit';
  if (!c) {
    const reading = reply === null && !failed;
    return (
      <StopPage
        answer={reading ? 'Reading the runs…' : 'There is nothing to judge yet.'}
        reason={
          failed ??
          (reading
            ? null
            : p
              ? `${name} is predicted to bring ${formatSigned(predictedPeak(p), 1, '%')} at peak. Runs of both sides on the Test stop say whether it did.`
              : 'Choose a unit on the Pick stop and drop runs of both sides on the Test stop.')
        }
        aside={<Note />}
      >
        {!reading && (
          <p style={{ marginTop: 16 }}>
            <Link href="./test">Go to Test</Link>
          </p>
        )}
      </StopPage>
    );
  }
  const range: [number, number] = [c.grid_rpm[0]!, c.grid_rpm.at(-1)!];
  const said = p ? predictedThirds(p, range)[c.answer.bestThird]! : null;
  const { answer, reason } = advice(c, name, said);
  return (
    <StopPage
      answer={answer}
      reason={reason}
      aside={
        <>
          <Money c={c} price={unit?.doc.price ?? null} name={name} />
          <Rule />
          <Note />
          <Rule />
          <Button className="no-print" onClick={() => window.print()}>
            Print this page
          </Button>
        </>
      }
    >
      <PredictedMeasured c={c} p={p} />
      <Table c={c} p={p} name={name} />
      {reply && reply.confounders.length > 0 && (
        <p className={styles['fair']}>
          {reply.confounders.length} {reply.confounders.length === 1 ? 'thing' : 'things'} besides the throttle could have moved these
          figures: see <Link href="./test">Fair comparison</Link> on the Test stop.
        </p>
      )}
    </StopPage>
  );
}
