'use client';

import { Select } from 'antd';
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import { chanceCurve, plannedDay, suggestedRuns } from '@/core/compare/plan-runs';
import { DECIDING } from '@/core/compare/sides';
import { RUN_ORDERS } from '@/core/documents/plan';
import { isFailure, type Failure } from '@/core/failure';
import type { JobModel } from '@/core/job/model';
import { formatNumber, formatSigned } from '@/core/units/quantity';
import { DocField } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { useUncertainty } from '@/features/job/use-uncertainty';
import { Heading, Rule, StopPage } from '@/ui/answer/stop';
import { Chart } from '@/ui/chart/lazy-chart';
import type { ChartSpec } from '@/ui/chart/figure';
import { send } from '@/ui/post';
import { usePrefs } from '@/ui/theme/prefs';
import type { CompareReply } from '../dyno/compare.worker';
import { DECIDING_WORDS } from '../dyno/words';
import { usePredicted, type Predicted } from '../use-predicted';
import { Checklist } from './checklist';
import { Guesses } from './guesses';
import styles from '../test.module.css';

export interface ShopScatter {
  readonly sd_pct: number;
  readonly df: number;
  readonly jobs: number;
}

/** Scatter of single runs in this shop, once it has answered. */
export function useShopScatter(): ShopScatter | null {
  const [scatter, setScatter] = useState<ShopScatter | null>(null);
  useEffect(() => {
    let current = true;
    send<ShopScatter | null>('GET', '/api/shop/scatter')
      .then((s) => current && setScatter(s))
      // Without it the assumption stands, and says so.
      .catch(() => {});
    return () => {
      current = false;
    };
  }, []);
  return scatter;
}

const ORDER_WORDS = {
  'A-B-A': 'stock, new, stock again',
  alternating: 'turn and turn about',
  'A-B': 'stock, then new',
} as const;

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

function Chance({
  effect_pct,
  threshold_pct,
  sd_pct,
  planned,
}: {
  effect_pct: number | null;
  threshold_pct: number;
  sd_pct: number;
  planned: number;
}) {
  const { palette } = usePrefs();
  const spec = useMemo<ChartSpec>(() => {
    const matters = chanceCurve(threshold_pct, sd_pct);
    const lines = [
      {
        id: 'matters',
        label: `what matters, ${formatNumber(threshold_pct, 1)} %`,
        x: matters.runs,
        y: matters.chance.map((c) => 100 * c),
        color: palette.stock,
        dash: 'longdash' as const,
        width: 2,
      },
    ];
    const effect = effect_pct === null ? null : Math.abs(effect_pct);
    const expected = effect !== null && effect > 0.02 ? chanceCurve(effect, sd_pct) : null;
    const enough = { id: 'enough', label: 'enough, 80 %', x: [2, 12], y: [80, 80], color: palette.quiet, dash: 'dot' as const, width: 1 };
    const all = expected
      ? [
          ...lines,
          enough,
          {
            id: 'expected',
            label: `the prediction, ${formatNumber(effect!, 1)} %`,
            x: expected.runs,
            y: expected.chance.map((c) => 100 * c),
            color: palette.series[0]!,
            width: 2.4,
          },
        ]
      : [...lines, enough];
    const at = (expected ?? matters).chance[planned - 2];
    return {
      lines: all,
      bands: [{ x: [2, 12], low: [80, 80], high: [100, 100], color: `${palette.series[0]!}14` }],
      ...(at !== undefined && {
        marks: [
          {
            x: planned,
            y: 100 * at,
            text: `${planned} a side: ${formatNumber(100 * at, 0)} %`,
            color: palette.ink,
            side: 'right' as const,
          },
        ],
      }),
      xRange: [2, 12],
      yRange: [0, 104],
      xTitle: 'runs a side',
      yTitle: `chance of telling a difference from scatter of ${formatNumber(sd_pct, 2)} %, in per cent`,
      marginRight: 150,
    };
  }, [effect_pct, threshold_pct, sd_pct, planned, palette]);
  return <Chart spec={spec} height={290} name="plan" alt="Chance of telling a difference against the number of runs a side" />;
}

function Fields({ suggested }: { suggested: number }) {
  const plan = useJob((s) => s.doc.test.plan);
  const set = useJob((s) => s.set);
  return (
    <>
      <Heading>What counts</Heading>
      <DocField path="test.plan.threshold_pct" label="A gain counts from, %" measure="ratio" mark={null} />
      <label className={styles['stacked']}>
        Decided over
        <Select
          aria-label="Decided over"
          value={plan.decidesOn}
          options={DECIDING.map((value) => ({ value, label: DECIDING_WORDS[value] }))}
          onChange={(v) => set('test.plan.decidesOn', v)}
        />
      </label>
      <Heading>The day</Heading>
      <label className={styles['stacked']}>
        Order
        <Select
          aria-label="Order of the runs"
          value={plan.order}
          options={RUN_ORDERS.map((value) => ({ value, label: ORDER_WORDS[value] }))}
          onChange={(v) => set('test.plan.order', v)}
        />
      </label>
      <DocField
        path="test.plan.runsPerSide"
        label="Runs a side"
        measure="count"
        nullable
        placeholder={`as asked: ${suggested}`}
        mark={null}
      />
      <DocField path="test.plan.minutesPerRun" label="A run takes, min" measure="count" mark={null} />
      <DocField path="test.plan.minutesPerSwap" label="A swap takes, min" measure="count" mark={null} />
      <DocField path="test.plan.costPerRun" label="A run costs" measure="money" mark={null} />
      <DocField path="test.plan.costPerVisit" label="The visit costs" measure="money" mark={null} />
      <Heading>To hold</Heading>
      <DocField
        path="test.plan.holds.inletAir_K"
        label="Inlet air at the start, within"
        measure="temperatureRise"
        nullable
        placeholder="not held"
        mark={null}
      />
      <DocField
        path="test.plan.holds.coolant_K"
        label="Coolant, within"
        measure="temperatureRise"
        nullable
        placeholder="not held"
        mark={null}
      />
      <DocField
        path="test.plan.holds.density"
        label="Air density, within"
        measure="fineShare"
        nullable
        placeholder="not held"
        mark={null}
      />
      <Rule />
      <DocField path="test.assumedSd_pct" label="Scatter of single runs, if not repeated, %" measure="ratio" mark={null} />
    </>
  );
}

/** Plan: what would count, how many runs it takes, what they cost, and who expects what, before the first run. */
export function PlanView({ unitId, reply, tabs }: { unitId: string | null; reply: CompareReply | null; tabs: ReactNode }) {
  const { money: amount } = usePrefs();
  const test = useJob((s) => s.doc.test);
  const p = usePredicted(unitId);
  const range = useRange(p);
  const shop = useShopScatter();
  const sd_pct = shop && shop.df >= 2 ? shop.sd_pct : test.assumedSd_pct;
  const { plan } = test;
  const effect = p ? p.over[plan.decidesOn === 'own' ? 'whole' : plan.decidesOn] : null;
  const { runs: suggested, asked } = suggestedRuns(effect, plan.threshold_pct, sd_pct);
  const day = plannedDay(plan, plan.runsPerSide ?? suggested);
  const name = p?.unit.doc.name ?? 'the new unit';
  const where = DECIDING_WORDS[plan.decidesOn];
  const money = day.cost > 0 ? `, ${amount(day.cost)}` : '';
  const a = day.sequence.filter((s) => s === 'A').length;
  const answer = `${a} stock and ${day.runsPerSide} new runs, ${ORDER_WORDS[plan.order]}: ${hours(day.minutes)}${money}.`;
  const scatter =
    shop && shop.df >= 2 ? `this shop’s own ${formatNumber(sd_pct, 2)} % (${shop.df} repeats)` : `an assumed ${formatNumber(sd_pct, 1)} %`;
  const said =
    effect === null
      ? 'Choose a unit on the Pick stop and the model says what to expect.'
      : `The model expects ${formatSigned(effect, 1, '%')} over ${where}${range ? ` (${formatSigned(range.low, 1)} to ${formatSigned(range.high, 1, '%')})` : ''} from ${name}.`;
  const enough =
    asked === null || asked > day.runsPerSide
      ? ` That ${asked === null ? 'no number of runs could tell' : `would take ${asked} runs a side to tell`} from the scatter of single runs, ${scatter}.`
      : ` Single runs scatter by ${scatter}.`;
  return (
    <StopPage answer={answer} reason={`${said}${enough}`} aside={<Fields suggested={suggested} />}>
      {tabs}
      <Chance effect_pct={effect} threshold_pct={plan.threshold_pct} sd_pct={sd_pct} planned={day.runsPerSide} />
      <div className={styles['tables']}>
        <Checklist day={day} reply={reply} name={name} />
        <Guesses
          predicted={effect}
          range={range}
          name={name}
          reply={reply !== null && reply.comparison !== null && !isFailure(reply.comparison) ? reply.comparison : null}
        />
      </div>
    </StopPage>
  );
}
