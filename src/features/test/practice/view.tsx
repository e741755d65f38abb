'use client';

import { Button, Checkbox, Segmented, Select } from 'antd';
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import type { SideComparison } from '@/core/compare/sides';
import type { PracticeDecision, PracticeRig, StoredPractice } from '@/core/documents/practice';
import { PRACTICE_WORDS } from '@/core/documents/kinds';
import { inferStrip, type StripAnswer } from '@/core/inference/answer';
import { isFailure } from '@/core/failure';
import { practiceComparison, practicePasses, type PracticeScore } from '@/core/stand-ins/practice';
import { widestWords, WORD_TITLES } from '@/ui/answer/inference-words';
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
import { Widths } from '../dyno/widths';
import { measureText, shownSpeed } from '../strip/words';
import { useStream } from '../use-stream';
import { comparisonAnswer, comparisonReason, stretchName } from '../dyno/words';
import { PracticeDrawing } from './drawing';
import styles from '../test.module.css';
import { msg } from './messages';

const WORDS: Readonly<Record<PracticeDecision['word'], string>> = {
  gain: 'gain',
  loss: 'loss',
  'no difference that matters': 'no difference that matters',
  "can't tell yet": 'can’t tell',
};

interface Carried {
  readonly comparison: SideComparison | null;
  readonly strip: StripAnswer | null;
}

/** What the runs of the session say so far. */
function useCarried(practice: StoredPractice | null): Carried {
  return useMemo(() => {
    if (!practice) return { comparison: null, strip: null };
    if (practice.setup.rig === 'strip') {
      const found = inferStrip({ measure: 'speed', runs: practicePasses(practice.runs) });
      return { comparison: null, strip: isFailure(found) ? null : found };
    }
    const found = practiceComparison(practice.setup, practice.runs);
    return { comparison: isFailure(found) ? null : found, strip: null };
  }, [practice]);
}

function Score({ score, decision, rig }: { score: PracticeScore; decision: PracticeDecision; rig: PracticeRig }) {
  const { money } = usePrefs();
  const { lesson } = score;
  return (
    <>
      <Heading>{msg.howItWent}</Heading>
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
      <Pair name="your runs could carry">
        <span>{WORDS[score.carried]}</span>
      </Pair>
      <Pair name="off by">
        <span>{formatSigned(score.error_pct, 2, '%')}</span>
      </Pair>
      <Pair name="it took">
        <span>
          {score.runs} {rig === 'dyno' ? 'runs' : 'passes'} {msg.inWord} {score.stays} {msg.stays} {formatNumber(score.minutes, 0)}{' '}
          {msg.min}
          {score.cost > 0 ? `, ${money(score.cost)}` : ''}
        </span>
      </Pair>
      <p className={styles['note']}>
        {lesson
          ? `The cheapest day that would as a rule have told: ${lesson.order === 'alternate' ? `${lesson.runsPerStay} alternating pairs` : `${lesson.order.replaceAll('-', ', ').replaceAll('A', 'stock').replaceAll('B', 'new')}, ${lesson.runsPerStay} a stay`}${lesson.visits > 1 ? `, on ${lesson.visits} days` : ''}: ${formatNumber(lesson.hours, 1)} h, the right word in ${formatNumber(100 * lesson.pRight, 0)} of 100.`
          : 'No day that anybody drives would as a rule have told this: then “can’t tell” is the right thing to say, and stopping early the cheapest.'}
      </p>
    </>
  );
}

function Decide({ shown, onDecide }: { shown: number | null; onDecide: (d: PracticeDecision) => void }) {
  const [word, setWord] = useState<PracticeDecision['word'] | null>(null);
  const [estimate, setEstimate] = useState<number | null>(null);
  const said = estimate ?? shown ?? 0;
  return (
    <>
      <Heading>{msg.decide}</Heading>
      <Select
        aria-label={msg.yourDecision}
        placeholder={msg.whatDidItDo}
        style={{ width: '100%' }}
        value={word}
        options={PRACTICE_WORDS.map((value) => ({ value, label: WORDS[value] }))}
        onChange={setWord}
      />
      <FieldRow label={msg.howMuchPower} measure="ratio" value={estimate ?? shown} placeholder="0.0" onChange={setEstimate} />
      <Button
        type="primary"
        block
        disabled={word === null}
        onClick={() => onDecide({ word: word!, estimate_pct: Math.max(-100, Math.min(100, said)) })}
      >
        {msg.thatIsMyAnswer}
      </Button>
    </>
  );
}

const answerFor = (
  practice: StoredPractice | null,
  score: PracticeScore | null,
  { comparison, strip }: Carried,
  speed: (mps: number) => string,
  money: (amount: number) => string,
): { answer: string; reason: string } => {
  if (!practice)
    return {
      answer: msg.practiseTheTruthIsHiddenThe,
      reason: msg.planAsYouWouldRunAs,
    };
  if (score) {
    const truly = `truly ${formatSigned(score.true_pct, 1, '%')}, ${score.trueWord}`;
    return {
      answer:
        score.right === null
          ? `You left it open${score.honest ? ', and the runs carried no more' : ', though the runs carried a word'}. It was ${truly}.`
          : score.right
            ? `Right${score.honest ? '' : ', by luck: the runs did not carry it'}: ${truly}.`
            : `Wrong: ${truly}.`,
      reason: `${score.runs} runs in ${score.stays} stays and ${formatNumber(score.minutes, 0)} minutes. Your figure was off by ${formatSigned(score.error_pct, 2, '%')}. A word the runs cannot carry is not worth saying, even when it happens to be true.`,
    };
  }
  if (practice.setup.rig === 'strip')
    return strip
      ? {
          answer: `${WORD_TITLES[strip.word]}: ${speed(strip.estimate)} in trap speed, ${speed(strip.low)} to ${speed(strip.high)}.`,
          reason: `${widestWords(strip, (half) => speed(half).replace('+', ''))} The air is taken out as far as these passes allow.`,
        }
      : { answer: msg.noAnswerYetDriveStockAnd, reason: msg.theAirSinksThroughTheNight };
  if (!comparison)
    return {
      answer: msg.noAnswerYetPullStockAnd,
      reason: msg.heatSoakIsRealHereRest,
    };
  return { answer: comparisonAnswer(comparison, 'the new part'), reason: comparisonReason(comparison, money) };
};

/** Mean trap speed of a session's passes, m/s. */
const meanTrap = (p: StoredPractice): number => {
  const all = p.runs.flatMap((r) => r.pass?.trap_mps ?? []);
  return all.reduce((s, v) => s + v, 0) / all.length;
};

/** A run is left out with its reason in words, or counted again. */
function LeaveOut({ out, onLeave }: { out: string | null; onLeave: (reason: string | null) => void }) {
  if (out)
    return (
      <Button size="small" type="text" onClick={() => onLeave(null)}>
        {msg.count}
      </Button>
    );
  return (
    <Select
      size="small"
      aria-label={msg.whyItIsLeftOut}
      placeholder={msg.leaveOut}
      value={null}
      options={['heat-soaked', 'went wrong', 'a missed gear'].map((value) => ({ value, label: value }))}
      onChange={(reason: string) => onLeave(reason)}
    />
  );
}

/** Practice: the person plans, runs and decides at the stand-in, and is scored on whether they found the truth and what it cost. */
export function PracticeView({ unitId, tabs }: { unitId: string | null; tabs: ReactNode }) {
  const { pack, palette, money } = usePrefs();
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
  const [rig, setRig] = useState<PracticeRig>('dyno');
  const [newStay, setNewStay] = useState(false);
  const [day, setDay] = useState(1);
  const carried = useCarried(practice);
  const { comparison, strip } = carried;
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
    if (!unit) return setWrong('The shelf is empty: put a throttle on it first.');
    setScore(null);
    setWrong(null);
    setDay(1);
    setNewStay(false);
    pull.stop();
    send<StoredPractice>('POST', `/api/jobs/${id}/practice`, { unitId: unit, plan, guess_pct: null, rig }).then(setPractice).catch(tell);
  };
  const run = (): void => {
    if (!practice) return;
    setWrong(null);
    const wanted = { side, rest_min: rest, newStay, day };
    const keep = (): void => {
      send<StoredPractice>('POST', `/api/practice/${practice.id}/pull`, wanted)
        .then((p) => {
          setPractice(p);
          setNewStay(false);
        })
        .catch(tell);
    };
    if (practice.setup.rig === 'strip') return keep();
    const query = new URLSearchParams({ side, rest_min: String(rest), newStay: String(newStay), day: String(day) });
    pull.start(`/api/practice/${practice.id}/pull?${query}`, keep);
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
  const speed = (mps: number): string => measureText('trap_mps', mps, pack, true);
  const atStrip = practice?.setup.rig === 'strip';
  const shown = comparison ? comparison.deciding.mean_pct : strip && practice ? 100 * 3 * (strip.estimate / meanTrap(practice)) : null;
  const { answer, reason } = answerFor(practice, score, carried, speed, money);
  const minutes = practice?.runs.at(-1)?.at_min ?? 0;
  return (
    <StopPage
      answer={answer}
      reason={reason}
      aside={
        <>
          {open && (
            <>
              <Heading
                more={
                  <span className="quiet">
                    {msg.day} {day}, {formatNumber(minutes, 0)} {msg.minSoFar}
                  </span>
                }
              >
                {atStrip ? 'At the strip' : 'At the practice dyno'}
              </Heading>
              <Segmented<'A' | 'B'>
                block
                aria-label={msg.onTheCar}
                value={side}
                options={[
                  { value: 'A', label: msg.stock },
                  { value: 'B', label: msg.theNewPart },
                ]}
                onChange={(v) => setSide(v)}
              />
              <FieldRow label={msg.restBeforeThePullMin} measure="count" value={rest} onChange={(v) => v >= 0 && v <= 600 && setRest(v)} />
              <Checkbox checked={newStay} onChange={(e) => setNewStay(e.target.checked)}>
                {atStrip ? 'Take it off and on again first' : 'Strap down anew first'}
              </Checkbox>
              <div className={styles['takers']}>
                {pull.state === 'running' ? (
                  <Button danger onClick={pull.stop}>
                    {msg.liftOff}
                  </Button>
                ) : (
                  <Button type="primary" onClick={run}>
                    {atStrip ? 'Make a pass' : 'Pull'}
                  </Button>
                )}
                <Button disabled={day >= 5 || practice.runs.every((r) => r.day < day)} onClick={() => setDay(day + 1)}>
                  {msg.comeBackAnotherDay}
                </Button>
              </div>
              <Rule />
              <Decide shown={shown} onDecide={decide} />
              <Rule />
            </>
          )}
          {practice?.decision && score && <Score score={score} decision={practice.decision} rig={practice.setup.rig} />}
          {!open && (
            <Segmented<PracticeRig>
              block
              className={styles['rig']}
              aria-label={msg.practiseAt}
              value={rig}
              options={[
                { value: 'dyno', label: msg.dyno },
                { value: 'strip', label: msg.strip },
              ]}
              onChange={setRig}
            />
          )}
          <Button block={!open} type={open ? 'default' : 'primary'} size={open ? 'small' : 'middle'} onClick={begin}>
            {practice ? 'Begin another session' : 'Begin a session'}
          </Button>
          <p className={styles['note']}>
            {msg.byThePlanOfThisJob} {stretchName({ id: plan.decidesOn, from_rpm: 0, to_rpm: 0 })} {msg.decidesFrom}{' '}
            {formatNumber(plan.threshold_pct, 1)} {msg.onItCounts}
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
          {msg.thePullBrokeOffHalfA}
        </p>
      )}
      {difference && <Chart spec={difference} height={240} name="practice" alt={msg.differenceOfTheNewPartFrom} />}
      {comparison && !atStrip && <Widths answer={comparison.deciding.answer} />}
      {strip && <Widths answer={strip} unit={shownSpeed(0, pack).unit} factor={shownSpeed(1, pack).value} />}
      {practice && practice.runs.length > 0 && (
        <table className="plain" aria-label={msg.runsOfTheSession}>
          <thead>
            <tr>
              <th>{atStrip ? 'pass' : 'pull'}</th>
              <th>{msg.onTheCar2}</th>
              <th className="num">{msg.day}</th>
              <th className="num">{msg.rest}</th>
              {atStrip ? (
                <>
                  <th className="num">{msg.densityAltitude}</th>
                  <th className="num">{msg.timeS}</th>
                  <th className="num">{msg.trapSpeed}</th>
                </>
              ) : (
                <>
                  <th className="num">{msg.inletAtTheStart}</th>
                  <th className="num">
                    {stretchName({ id: plan.decidesOn, from_rpm: 0, to_rpm: 0 })}
                    {msg.ofStock}
                  </th>
                </>
              )}
              <td />
            </tr>
          </thead>
          <tbody>
            {practice.runs.map((r, i) => {
              const order = practice.runs.slice(0, i).filter((x) => x.leftOut === null).length;
              const value = r.leftOut === null ? comparison?.deciding.runs[order]?.value_pct : undefined;
              return (
                <tr key={i} data-out={r.leftOut !== null}>
                  <td>{i + 1}</td>
                  <td>
                    {r.side === 'A' ? 'stock' : 'the new part'}
                    {r.newStay && <small> {msg.putOnAnew}</small>}
                  </td>
                  <td className="num">{r.day}</td>
                  <td className="num">
                    {formatNumber(r.rest_min, 0)} {msg.min}
                  </td>
                  {r.pass ? (
                    <>
                      <td className="num">{formatQuantity(r.pass.densityAltitude_m, 'altitude', pack)}</td>
                      <td className="num">{formatNumber(r.pass.et_s, 3)}</td>
                      <td className="num">{r.leftOut ? `left out: ${r.leftOut}` : measureText('trap_mps', r.pass.trap_mps, pack)}</td>
                    </>
                  ) : (
                    <>
                      <td className="num">{formatQuantity(r.inletStart_K, 'temperature', pack)}</td>
                      <td className="num">{r.leftOut ? `left out: ${r.leftOut}` : value === undefined ? '—' : formatNumber(value, 2)}</td>
                    </>
                  )}
                  <td>{open && <LeaveOut out={r.leftOut} onLeave={(reason) => leave(i, reason)} />}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      {!practice && <PracticeDrawing />}
    </StopPage>
  );
}
