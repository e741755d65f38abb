'use client';

import { Checkbox, Select } from 'antd';
import { useMemo } from 'react';
import { usualRuns } from '@/core/compare/look';
import { DECIDING } from '@/core/documents/kinds';
import type { RunOrder } from '@/core/documents/plan';
import { RUN_ORDERS } from '@/core/documents/kinds';
import { isFailure, type Failure } from '@/core/failure';
import type { JobModel } from '@/core/job/model';
import { waveGain, wavesDecide } from '@/core/job/wave-gain';
import { formatNumber, formatSigned } from '@/core/units/quantity';
import { learntPrediction, modelRecord } from '@/core/verdict/learning';
import { useSideWaves } from '@/features/air/waves/use-side-waves';
import { expectedWithWaves } from '@/features/air/waves/words';
import { DocField } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { useUncertainty } from '@/features/job/use-uncertainty';
import { useFinished } from '@/features/job/use-finished';
import { Heading, StopPage } from '@/ui/answer/stop-page';
import { usePrefs } from '@/ui/theme/prefs';
import type { CompareReply } from '../dyno/compare.worker';
import { DECIDING_WORDS } from '../dyno/words';
import { usePredicted, type Predicted } from '../use-predicted';
import { Checklist } from './checklist';
import { adviceWords, Orders, useDesign } from './orders';
import { Guesses } from './guesses';
import styles from '../test.module.css';
import planStyles from './plan.module.css';
import { Term } from '@/features/thinking/term';
import { msg } from './messages';

export const ORDER_WORDS: Readonly<Record<RunOrder, string>> = {
  'A-B-A-B': 'stock, new, stock, new',
  'A-B-B-A': 'stock, new, new strapped down anew, stock',
  alternating: 'alternate every run',
  'A-B-A': 'stock, new, stock again',
  'A-B': 'stock, then new',
};

const NO_MODEL: Failure = { error: 'bad_input' };

const hours = (minutes: number): string => {
  const h = Math.floor(minutes / 60);
  const m = Math.round(minutes % 60);
  return h === 0 ? `${m} min` : m === 0 ? `${h} h` : `${h} h ${m} min`;
};

/** The range the uncertain inputs leave the model's prediction over the deciding stretch, where it has been drawn. */
function useRange(p: Predicted | null): { low: number; high: number } | null {
  const decides = useJob((s) => s.doc.test.plan.decidesOn);
  const model: JobModel | Failure = p?.model ?? NO_MODEL;
  const { ranges } = useUncertainty(model);
  const range = p ? ranges[p.unit.id] : undefined;
  if (!range) return null;
  const third = decides === 'bottom' ? 0 : decides === 'middle' ? 1 : 2;
  if (decides === 'whole' || decides === 'own') {
    const mean = (list: readonly number[]): number => list.reduce((s, v) => s + v, 0) / list.length;
    return { low: mean(range.thirds_pct.p10), high: mean(range.thirds_pct.p90) };
  }
  return { low: range.thirds_pct.p10[third]!, high: range.thirds_pct.p90[third]! };
}

function Fields() {
  const plan = useJob((s) => s.doc.test.plan);
  const set = useJob((s) => s.set);
  return (
    <>
      <Heading more={<Term name="smallest change that matters">{msg.whatIsThat}</Term>}>{msg.whatCounts}</Heading>
      <DocField path="test.plan.threshold_pct" label={msg.smallestChangeThatMatters} measure="ratio" mark={null} />
      <label className={planStyles['stacked']}>
        {msg.decidedOver}
        <Select
          aria-label={msg.decidedOver}
          value={plan.decidesOn}
          options={DECIDING.map((value) => ({ value, label: DECIDING_WORDS[value] }))}
          onChange={(v) => set('test.plan.decidesOn', v)}
        />
      </label>
      <Heading>{msg.theDay}</Heading>
      <label className={planStyles['stacked']}>
        {msg.order}
        <Select
          aria-label={msg.orderOfTheRuns}
          value={plan.order}
          options={RUN_ORDERS.map((value) => ({ value, label: ORDER_WORDS[value] }))}
          onChange={(v) => set('test.plan.order', v)}
        />
      </label>
      <DocField
        path="test.plan.runsPerStay"
        label={plan.order === 'alternating' ? 'Pairs of single runs' : 'Runs a stay'}
        measure="count"
        nullable
        placeholder={`as usual: ${usualRuns(plan.order)}`}
        mark={null}
      />
      <DocField path="test.plan.visits" label={msg.days2} measure="count" mark={null} />
      <DocField path="test.plan.minutesPerRun" label={msg.aRunTakesMin} measure="count" mark={null} />
      <DocField path="test.plan.minutesPerSwap" label={msg.aSwapAndStrappingDownMin} measure="count" mark={null} />
      <DocField path="test.plan.minutesPerVisit" label={msg.comingWarmingUpGoingMin} measure="count" mark={null} />
      <DocField path="test.plan.costPerHour" label={msg.labourRatePerHour} measure="money" mark={null} />
      <DocField path="test.plan.costPerRun" label={msg.aRunCosts} measure="money" mark={null} />
      <DocField path="test.plan.costPerVisit" label={msg.theVisitCosts} measure="money" mark={null} />
      <Checkbox checked={plan.learn} onChange={(e) => set('test.plan.learn', e.target.checked)}>
        {msg.shiftTheModelByHowIt}
      </Checkbox>
      <Heading>{msg.toHold}</Heading>
      <DocField
        path="test.plan.holds.inletAir_K"
        label={msg.inletAirAtTheStartWithin}
        measure="temperatureRise"
        nullable
        placeholder={msg.notHeld}
        mark={null}
      />
      <DocField
        path="test.plan.holds.coolant_K"
        label={msg.coolantWithin}
        measure="temperatureRise"
        nullable
        placeholder={msg.notHeld}
        mark={null}
      />
      <DocField
        path="test.plan.holds.density"
        label={msg.airDensityWithin}
        measure="fineShare"
        nullable
        placeholder={msg.notHeld}
        mark={null}
      />
    </>
  );
}

/** The prediction as this shop's own measurements shift and widen it, and what to say of that; null: nothing learnt, or not wanted. */
function useLearnt(
  modelled: number | null,
  bare: { low: number; high: number } | null,
): { said: { predicted: number; low: number; high: number }; words: string } | null {
  const id = useJob((s) => s.id);
  const induction = useJob((s) => s.doc.car.induction.kind);
  const wanted = useJob((s) => s.doc.test.plan.learn);
  const finished = useFinished();
  if (modelled === null || !wanted || !finished) return null;
  const record = modelRecord(finished, { id, induction });
  if (!record) return null;
  const said = learntPrediction({ predicted: modelled, low: bare?.low ?? modelled, high: bare?.high ?? modelled }, record);
  const by = `${formatNumber(Math.abs(record.bias_pct), 1)} % ${record.bias_pct > 0 ? 'high' : 'low'}`;
  const words = `By itself it says ${formatSigned(modelled, 1, '%')}; over ${record.jobs} ${record.jobs === 1 ? 'job' : 'jobs'} of this kind here it was about ${by}.`;
  return { said, words };
}

/**
 * What the waves say of the throttle over the deciding stretch, where they decide: in words, and the figure that is to be believed
 * in place of even flow's (null: even flow's stands).
 */
function useWavesHere(p: Predicted | null): { words: string; believed_pct: number | null } {
  const car = useJob((s) => s.doc.car);
  const decidesOn = useJob((s) => s.doc.test.plan.decidesOn);
  const asked = p !== null && wavesDecide(car);
  const { ratios, assumed } = useSideWaves(p?.model ?? null, asked);
  const ratio = ratios?.[0] ?? null;
  const over = useMemo(() => (p && ratio ? waveGain(p.model, ratio).over : null), [p, ratio]);
  const own = car.induction.kind === 'individual';
  const gain_pct = over && over[decidesOn === 'own' ? 'whole' : decidesOn];
  const words = expectedWithWaves({ asked, gain_pct, done: ratios !== null, own, assumed });
  return { words, believed_pct: asked && own ? gain_pct : null };
}

/** Plan: what would count, which order of the day tells it, what that costs, and who expects what, before the first run. */
export function PlanView({ unitId, reply }: { unitId: string | null; reply: CompareReply | null }) {
  const { money: amount } = usePrefs();
  const test = useJob((s) => s.doc.test);
  const p = usePredicted(unitId);
  const bare = useRange(p);
  const { plan } = test;
  const modelled = p ? p.over[plan.decidesOn === 'own' ? 'whole' : plan.decidesOn] : null;
  const learnt = useLearnt(modelled, bare);
  const predicted = learnt?.said.predicted ?? modelled;
  const range = learnt?.said ?? bare;
  const { words: withWaves, believed_pct } = useWavesHere(p);
  const { options, asked } = useDesign(believed_pct ?? predicted);
  const own = options?.own ?? null;
  const name = p?.unit.doc.name ?? 'the new throttle';
  const where = DECIDING_WORDS[plan.decidesOn];
  const said =
    predicted === null
      ? 'Choose a throttle on the Pick step and the model says what to expect.'
      : `The model expects ${formatSigned(predicted, 1, '%')} over ${where}${range ? ` (${formatSigned(range.low, 1)} to ${formatSigned(range.high, 1, '%')})` : ''} from ${name}.`;
  const cost = own && own.money > 0 ? `, ${amount(own.money)}` : '';
  const answer = own
    ? `${own.runs} runs, ${ORDER_WORDS[plan.order]}${plan.visits > 1 ? `, on ${plan.visits} days` : ''}: ${hours(60 * own.hours)}${cost}; it tells ${formatNumber(asked, 1)} % in ${formatNumber(100 * own.pRight, 0)} of 100 such tests.`
    : 'Working out what each order of the day would tell…';
  return (
    <StopPage
      answer={answer}
      reason={`${said}${withWaves ? ` ${withWaves}` : ''}${learnt ? ` ${learnt.words}` : ''}${options ? ` ${adviceWords(options, asked, amount)}` : ''}`}
      aside={<Fields />}
    >
      {options && <Orders options={options} asked={asked} />}
      <div className={styles['tables']}>
        <Checklist reply={reply} name={name} />
        <Guesses
          predicted={predicted}
          range={range}
          name={name}
          reply={reply !== null && reply.comparison !== null && !isFailure(reply.comparison) ? reply.comparison : null}
        />
      </div>
    </StopPage>
  );
}
