'use client';

import { Button, Segmented, Select } from 'antd';
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import { compareSides, type SideComparison } from '@/core/compare/sides';
import { PRACTICE_WORDS, type PracticeDecision, type StoredPractice } from '@/core/documents/practice';
import { isFailure } from '@/core/failure';
import type { PracticeScore } from '@/core/stand-ins/practice';
import { formatNumber, formatQuantity, formatSigned } from '@/core/units/quantity';
import type { DynoReading } from '@/core/stand-ins/dyno';
import { useJob, useShelf } from '@/features/job/provider';
import { Heading, Pair, Rule, StopPage } from '@/ui/answer/stop';
import { Chart } from '@/ui/chart/lazy-chart';
import { FieldRow } from '@/ui/field/field-row';
import { send } from '@/ui/post';
import { usePrefs } from '@/ui/theme/prefs';
import { LiveChart } from '../dyno/live-chart';
import { differenceSpec } from '../dyno/overlay';
import { useStream } from '../use-stream';
import { comparisonAnswer, comparisonReason, stretchName } from '../dyno/words';
import styles from '../test.module.css';

const WORDS: Readonly<Record<PracticeDecision['word'], string>> = {
  gain: 'gain',
  loss: 'loss',
  'no difference that matters': 'no difference that matters',
  "can't tell yet": 'can’t tell',
};

function useComparisonOf(practice: StoredPractice | null): SideComparison | null {
  const assumedSd_pct = useJob((s) => s.doc.test.assumedSd_pct);
  const fwhm_rpm = useJob((s) => s.doc.test.fwhm_rpm);
  return useMemo(() => {
    if (!practice) return null;
    const counted = practice.runs.map((r, order) => ({ ...r, order })).filter((r) => r.leftOut === null);
    const side = (s: 'A' | 'B') =>
      counted.filter((r) => r.side === s).map(({ rpm, power_W, order }) => ({ rpm, power_W, order, visit: 'practice' }));
    const found = compareSides(side('A'), side('B'), { fwhm_rpm, assumedSd_pct, ...practice.setup.plan });
    return isFailure(found) ? null : found;
  }, [practice, fwhm_rpm, assumedSd_pct]);
}

function Score({ score, decision }: { score: PracticeScore; decision: PracticeDecision }) {
  const { money } = usePrefs();
  return (
    <>
      <Heading>How it went</Heading>
      <Pair name="truly">
        <span>
          {formatSigned(score.true_pct, 2, '%')}: {score.trueWord}
        </span>
      </Pair>
      <Pair name="you said">
        <span>
          {formatSigned(decision.estimate_pct, 2, '%')}: {WORDS[decision.word]}
        </span>
      </Pair>
      <Pair name="off by">
        <span>{formatSigned(score.error_pct, 2, '%')}</span>
      </Pair>
      <Pair name="it took">
        <span>
          {score.runs} runs, {formatNumber(score.minutes, 0)} min{score.cost > 0 ? `, ${money(score.cost)}` : ''}
        </span>
      </Pair>
    </>
  );
}

function Decide({ comparison, onDecide }: { comparison: SideComparison | null; onDecide: (d: PracticeDecision) => void }) {
  const [word, setWord] = useState<PracticeDecision['word'] | null>(null);
  const [estimate, setEstimate] = useState<number | null>(null);
  const said = estimate ?? comparison?.deciding.mean_pct ?? 0;
  return (
    <>
      <Heading>Decide</Heading>
      <Select
        aria-label="Your decision"
        placeholder="what did it do?"
        style={{ width: '100%' }}
        value={word}
        options={PRACTICE_WORDS.map((value) => ({ value, label: WORDS[value] }))}
        onChange={setWord}
      />
      <FieldRow
        label="How much, %"
        measure="ratio"
        value={estimate ?? comparison?.deciding.mean_pct ?? null}
        placeholder="0.0"
        onChange={setEstimate}
      />
      <Button
        type="primary"
        block
        disabled={word === null}
        onClick={() => onDecide({ word: word!, estimate_pct: Math.max(-100, Math.min(100, said)) })}
      >
        That is my answer
      </Button>
    </>
  );
}

const answerFor = (
  practice: StoredPractice | null,
  score: PracticeScore | null,
  comparison: SideComparison | null,
): { answer: string; reason: string } => {
  if (!practice)
    return {
      answer: 'Practise: the truth is hidden, the dyno is a stand-in, and nobody’s engine gets hot.',
      reason: 'Plan as you would, run as many pulls as you think it takes, decide, and be told what was true and what it cost you.',
    };
  if (score)
    return {
      answer:
        score.right === null
          ? `You left it open. Truly it was ${formatSigned(score.true_pct, 1, '%')}: ${score.trueWord}.`
          : score.right
            ? `Right: truly ${formatSigned(score.true_pct, 1, '%')}, ${score.trueWord}.`
            : `Wrong: truly ${formatSigned(score.true_pct, 1, '%')}, ${score.trueWord}.`,
      reason: `${score.runs} runs and ${formatNumber(score.minutes, 0)} minutes. Your figure was off by ${formatSigned(score.error_pct, 2, '%')}.`,
    };
  if (!comparison)
    return {
      answer: 'No answer yet: pull stock and the new part.',
      reason: 'Heat soak is real here: rest between pulls costs time, hurry costs truth.',
    };
  return { answer: comparisonAnswer(comparison, 'the new part'), reason: comparisonReason(comparison) };
};

/** Practice: the person plans, runs and decides at the stand-in, and is scored on whether they found the truth and what it cost. */
export function PracticeView({ unitId, tabs }: { unitId: string | null; tabs: ReactNode }) {
  const { pack, palette } = usePrefs();
  const id = useJob((s) => s.id);
  const plan = useJob((s) => s.doc.test.plan);
  const engine = useJob((s) => s.doc.car.engine);
  const shelf = useShelf();
  const pull = useStream<DynoReading>();
  const [practice, setPractice] = useState<StoredPractice | null>(null);
  const [score, setScore] = useState<PracticeScore | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const [side, setSide] = useState<'A' | 'B'>('A');
  const [rest, setRest] = useState(8);
  const comparison = useComparisonOf(practice);
  const tell = (error: unknown): void => setWrong((error as Error).message);
  useEffect(() => {
    let current = true;
    send<StoredPractice[]>('GET', `/api/jobs/${id}/practice`)
      .then((list) => current && setPractice(list.find((p) => p.decision === null) ?? null))
      .catch((e: unknown) => current && setWrong((e as Error).message));
    return () => {
      current = false;
    };
  }, [id]);
  const begin = (): void => {
    const unit = unitId ?? shelf[0]?.id;
    if (!unit) return setWrong('The shelf is empty: put a unit on it first.');
    setScore(null);
    setWrong(null);
    pull.stop();
    send<StoredPractice>('POST', `/api/jobs/${id}/practice`, { unitId: unit, plan, guess_pct: null }).then(setPractice).catch(tell);
  };
  const run = (): void => {
    if (!practice) return;
    setWrong(null);
    pull.start(`/api/practice/${practice.id}/pull?${new URLSearchParams({ side, rest_min: String(rest) })}`, () => {
      send<StoredPractice>('POST', `/api/practice/${practice.id}/pull`, { side, rest_min: rest }).then(setPractice).catch(tell);
    });
  };
  const decide = (decision: PracticeDecision): void => {
    send<{ practice: StoredPractice; score: PracticeScore }>('POST', `/api/practice/${practice!.id}/decision`, decision)
      .then((done) => {
        setPractice(done.practice);
        setScore(done.score);
      })
      .catch(tell);
  };
  const leave = (seq: number, leftOut: string | null): void => {
    send<StoredPractice>('PUT', `/api/practice/${practice!.id}/pull`, { seq, leftOut }).then(setPractice).catch(tell);
  };
  const range: [number, number] = [engine.lowest_rpm, engine.redline_rpm];
  const difference = useMemo(
    () =>
      comparison ? differenceSpec(comparison, palette, palette.series[0]!, [comparison.grid_rpm[0]!, comparison.grid_rpm.at(-1)!]) : null,
    [comparison, palette],
  );
  const open = practice !== null && practice.decision === null;
  const { answer, reason } = answerFor(practice, score, comparison);
  const minutes = practice?.runs.at(-1)?.at_min ?? 0;
  return (
    <StopPage
      answer={answer}
      reason={reason}
      aside={
        <>
          {open && (
            <>
              <Heading more={<span className="quiet">{formatNumber(minutes, 0)} min so far</span>}>At the stand-in</Heading>
              <Segmented<'A' | 'B'>
                block
                aria-label="On the car"
                value={side}
                options={[
                  { value: 'A', label: 'stock' },
                  { value: 'B', label: 'the new part' },
                ]}
                onChange={(v) => setSide(v)}
              />
              <FieldRow label="Rest before the pull, min" measure="count" value={rest} onChange={(v) => v >= 0 && v <= 600 && setRest(v)} />
              <div className={styles['takers']}>
                {pull.state === 'running' ? (
                  <Button danger onClick={pull.stop}>
                    Lift off
                  </Button>
                ) : (
                  <Button type="primary" onClick={run}>
                    Pull
                  </Button>
                )}
              </div>
              <Rule />
              <Decide comparison={comparison} onDecide={decide} />
              <Rule />
            </>
          )}
          {practice?.decision && score && <Score score={score} decision={practice.decision} />}
          <Button block={!open} type={open ? 'default' : 'primary'} size={open ? 'small' : 'middle'} onClick={begin}>
            {practice ? 'Begin another session' : 'Begin a session'}
          </Button>
          <p className={styles['note']}>
            By the plan of this job: {stretchName({ id: plan.decidesOn, from_rpm: 0, to_rpm: 0 })} decides, from{' '}
            {formatNumber(plan.threshold_pct, 1)} % on it counts.
          </p>
          {wrong && (
            <p className={styles['wrong']} role="alert">
              {wrong}
            </p>
          )}
        </>
      }
    >
      {tabs}
      {practice && (pull.state === 'running' || pull.readings.length > 0) && (
        <LiveChart readings={pull.readings} behind={null} color={side === 'A' ? palette.stock : palette.series[0]!} range={range} />
      )}
      {pull.state === 'away' && (
        <p className={styles['wrong']} role="alert">
          The pull broke off: half a pull is none, nothing was kept. Pull again.
        </p>
      )}
      {difference && (
        <Chart
          spec={difference}
          height={240}
          name="practice"
          alt="Difference of the new part from stock over rpm in percent, with its band"
        />
      )}
      {practice && practice.runs.length > 0 && (
        <table className="plain">
          <thead>
            <tr>
              <th>pull</th>
              <th>on the car</th>
              <th className="num">rest</th>
              <th className="num">inlet at the start</th>
              <th className="num">{stretchName({ id: plan.decidesOn, from_rpm: 0, to_rpm: 0 })}, % of stock</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {practice.runs.map((r, i) => {
              const order = practice.runs.slice(0, i).filter((x) => x.leftOut === null).length;
              const value = r.leftOut === null ? comparison?.deciding.runs[order]?.value_pct : undefined;
              return (
                <tr key={i}>
                  <td>{i + 1}</td>
                  <td>{r.side === 'A' ? 'stock' : 'the new part'}</td>
                  <td className="num">{formatNumber(r.rest_min, 0)} min</td>
                  <td className="num">{formatQuantity(r.inletStart_K, 'temperature', pack)}</td>
                  <td className="num">{r.leftOut ? `left out: ${r.leftOut}` : value === undefined ? '—' : formatNumber(value, 2)}</td>
                  <td>
                    {open && (
                      <Button size="small" type="text" onClick={() => leave(i, r.leftOut ? null : 'heat-soaked')}>
                        {r.leftOut ? 'count' : 'leave out: heat-soaked'}
                      </Button>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
    </StopPage>
  );
}
