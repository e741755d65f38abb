'use client';

import { peakGain, peakIndex } from '@/core/numbers/peak';
import { Button, Input } from 'antd';
import Link from 'next/link';
import { useMemo } from 'react';
import type { SideComparison } from '@/core/compare/sides';
import { isFailure } from '@/core/failure';
import { predictedOver } from '@/core/job/predicted';
import { powerWorking, priceWorking } from '@/core/working/sizing-working';
import { noiseWorking, peakWorking, stretchWorking } from '@/core/working/test-working';
import { shownUnit } from '@/core/units/measures';
import { formatNumber, formatQuantity, formatSigned } from '@/core/units/quantity';
import { useJob, useShelf } from '@/features/job/provider';
import { useComparison } from '@/features/test/dyno/use-comparison';
import { clearWords, intervalText, runsEach, stretchName } from '@/features/test/dyno/words';
import { usePredicted, type Predicted } from '@/features/test/use-predicted';
import { Heading, Pair, Rule, StopPage } from '@/ui/answer/stop';
import { Chart } from '@/ui/chart/lazy-chart';
import type { ChartSpec } from '@/ui/chart/figure';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import styles from './verdict.module.css';

type Prediction = Predicted;

/** Mean predicted gain by thirds of the rpm range that was measured. */
function predictedThirds(p: Prediction, range: readonly [number, number]): readonly [number, number, number] {
  const other = isFailure(p.side.solved) ? p.model.reference.result.power_W : p.side.solved.power_W;
  const over = predictedOver(p.model.rpm, p.model.reference.result.power_W, other, range);
  return [over.bottom, over.middle, over.top];
}

const predictedPeak = (p: Prediction): number =>
  isFailure(p.side.solved) ? 0 : peakGain(p.side.solved.power_W, p.model.reference.result.power_W);

const THIRD_IDS = ['bottom', 'middle', 'top'];

function advice(c: SideComparison, name: string, p: Prediction | null): { answer: string; reason: string } {
  const by = formatSigned(c.deciding.mean_pct, 1, '%');
  const where = stretchName(c.deciding);
  const third = THIRD_IDS.indexOf(c.deciding.id);
  const said = p && (third >= 0 ? predictedThirds(p, [c.grid_rpm[0]!, c.grid_rpm.at(-1)!])[third]! : p.over.whole);
  const told = said === null || !Number.isFinite(said) ? '' : ` The model said ${formatSigned(said, 1, '%')} there.`;
  const clear = clearWords(c);
  const interval = `${intervalText(c.deciding)}.`.replace(/^./, (x) => x.toUpperCase());
  switch (c.word) {
    case 'gain':
      return { answer: `Keep it: ${name} gained ${by} over ${where}.`, reason: `${interval}${told}` };
    case 'loss':
      return { answer: `Go back to stock: ${name} lost ${by} over ${where}.`, reason: `${interval}${told}` };
    case 'no difference that matters':
      return clear
        ? { answer: `It depends on where the engine is used: ${clear}.`, reason: `Over ${where} the two are alike. ${interval}${told}` }
        : {
            answer: `Go back to stock, or keep it for other reasons: ${name} makes no difference that matters.`,
            reason: `${interval}${told}`,
          };
    default:
      return clear
        ? {
            answer: `It depends on where the engine is used: ${clear}.`,
            reason: `Over ${where} nothing is sure yet (${by}). ${interval}${told}`,
          }
        : {
            answer: `Test more: ${by} over ${where} could still be noise.`,
            reason: c.deciding.estimate
              ? `${interval}${told}`
              : `Differences up to ±${formatNumber(c.noise_pct, 1)} % come by noise alone with ${runsEach(c)}.${told}`,
          };
  }
}

function PredictedMeasured({ c, p }: { c: SideComparison; p: Prediction | null }) {
  const { palette } = usePrefs();
  const spec = useMemo<ChartSpec>(() => {
    const { grid_rpm, difference_pct } = c;
    const half = c.band?.halfWidth_pct ?? c.noise_pct;
    const xRange: [number, number] = [grid_rpm[0]!, grid_rpm.at(-1)!];
    const inside = p ? p.model.rpm.map((n, i) => ({ n, g: p.gain_pct[i]! })).filter(({ n }) => n >= xRange[0] && n <= xRange[1]) : [];
    const top =
      Math.max(half * 1.3, ...difference_pct.map((d) => Math.abs(d) + (c.band ? half : 0)), ...inside.map((q) => Math.abs(q.g))) * 1.06;
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
      ],
      bands: c.band
        ? [
            {
              x: grid_rpm,
              low: difference_pct.map((d) => d - half),
              high: difference_pct.map((d) => d + half),
              color: `${palette.stock}2e`,
            },
          ]
        : [{ x: xRange, low: [-half, -half], high: [half, half], color: `${palette.stock}2e` }],
      xRange,
      yRange: [-top, top],
      xTitle: 'rpm',
      yTitle: c.band
        ? 'power against stock, %, measured with its 95 % band'
        : 'power against stock, %; the tint is what noise alone can do',
      yZeroLine: true,
      decimals: 2,
    };
  }, [c, p, palette]);
  return (
    <Chart
      spec={spec}
      height={330}
      name="verdict"
      alt="Predicted and measured difference from stock over rpm in percent, with the measured band"
    />
  );
}

function Table({ c, p, name }: { c: SideComparison; p: Prediction | null; name: string }) {
  const doc = useJob((s) => s.doc);
  const range: [number, number] = [c.grid_rpm[0]!, c.grid_rpm.at(-1)!];
  const thirds: readonly (number | null)[] = p ? predictedThirds(p, range) : [null, null, null];
  const peakAt = p && !isFailure(p.side.solved) ? peakIndex(p.side.solved.power_W) : 0;
  const measuredPeak = 100 * (c.peakB.smoothed_W / c.peakA.smoothed_W - 1);
  return (
    <table className="plain">
      <thead>
        <tr>
          <th>{name} against stock</th>
          <th className="num">predicted</th>
          <th className="num">measured</th>
          <th className="num">95 % interval</th>
        </tr>
      </thead>
      <tbody>
        {c.thirds.map((t, i) => (
          <tr key={t.id}>
            <td>{stretchName(t)}</td>
            <td className="num">{thirds[i] === null ? '—' : formatSigned(thirds[i]!, 1, '%')}</td>
            <td className="num">
              <Num small label={`measured, ${stretchName(t)}`} working={() => stretchWorking(c, t, stretchName(t))}>
                {formatSigned(t.mean_pct, 1, '%')}
              </Num>
            </td>
            <td className="num">
              {t.estimate ? (
                `${formatSigned(t.estimate.low, 1)} to ${formatSigned(t.estimate.high, 1, '%')}`
              ) : (
                <Num small label="noise" working={() => noiseWorking(c)}>
                  ±{formatNumber(c.noise_pct, 1)} % by noise
                </Num>
              )}
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
          <td className="num quiet">a single point: see the thirds</td>
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
  const p = usePredicted(unitId);
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
  const { answer, reason } = advice(c, name, p);
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
