'use client';

import { Button, Popover, Table, type TableColumnsType } from 'antd';
import { useMemo } from 'react';
import { costsOf, dayOrder, runOrder, runsPerStayOf } from '@/core/compare/look';
import type { RunOrder } from '@/core/documents/plan';
import { designStudy, type DesignPlan } from '@/core/inference/design';
import { RIG_ROWS } from '@/core/inference/rig';
import { historyLogs, type ShopHistory } from '@/core/inference/shop-history';
import { formatNumber } from '@/core/units/quantity';
import { useJob } from '@/features/job/provider';
import { useShopHistory } from '@/features/job/use-shop-history';
import { usePrefs } from '@/ui/theme/prefs';
import styles from '../test.module.css';
import planStyles from './plan.module.css';
import { msg } from './messages';

const SHOWN_NAMES: Readonly<Record<RunOrder, string>> = {
  'A-B': 'stock, new',
  'A-B-A': 'stock, new, stock',
  'A-B-B-A': 'stock, new, new, stock',
  'A-B-A-B': 'stock, new, stock, new',
  alternating: 'alternate every run',
};

export interface DesignOptions {
  readonly plans: readonly DesignPlan[];
  readonly recommended: DesignPlan | null;
  readonly best: DesignPlan | null;
  /** The plan as it stands. */
  readonly own: DesignPlan;
  readonly history: ShopHistory | null;
}

/** Orders of the day with their chance to say the right word of what is expected, or of what matters where nothing is. */
export function useDesign(predicted: number | null): { options: DesignOptions | null; asked: number } {
  const plan = useJob((s) => s.doc.test.plan);
  const history = useShopHistory();
  // An effect no larger than matters cannot be a gain that matters: then what is asked is the smallest that is.
  const asked = Math.max(Math.abs(predicted ?? 0), 1.5 * plan.threshold_pct);
  const options = useMemo<DesignOptions>(() => {
    const input = { effect: asked, threshold: plan.threshold_pct, costs: costsOf(plan), history: historyLogs(history).dyno };
    const all = designStudy(input);
    const own = designStudy({ ...input, orders: [dayOrder(plan.order)], runsPerStay: [runsPerStayOf(plan)], visits: [plan.visits] });
    const at = (i: number | null): DesignPlan | null => (i === null ? null : all.plans[i]!);
    return { plans: all.plans, recommended: at(all.recommended), best: at(all.best), own: own.plans[0]!, history };
  }, [plan, history, asked]);
  return { options, asked };
}

const planWords = (p: DesignPlan): string =>
  `${SHOWN_NAMES[runOrder(p.order)]}, ${p.runsPerStay} ${p.order === 'alternate' ? 'pairs' : 'runs a stay'}${p.visits > 1 ? ` on ${p.visits} days` : ''}`;

/** What is recommended, or that nothing is: never the least bad. */
export function adviceWords({ recommended, best, history }: DesignOptions, asked: number, money: (n: number) => string): string {
  const chance = (p: DesignPlan): string => `${formatNumber(100 * p.pRight, 0)} in 100`;
  const own = history?.dyno;
  const sizes = own
    ? `this shop’s own sizes from ${own.studies} ${own.studies === 1 ? 'study' : 'studies'}`
    : 'assumed sizes of runs, refits and days';
  if (recommended)
    return `Cheapest with a good chance to tell ${formatNumber(asked, 1)} %: ${planWords(recommended)} (${chance(recommended)}${recommended.money > 0 ? `, ${money(recommended.money)}` : ''}). By ${sizes}.`;
  return `No day here has a good chance to tell ${formatNumber(asked, 1)} %${best ? `: the best, ${planWords(best)}, would in ${chance(best)}` : ''}. A refit alone moves it by ${formatNumber(own?.refit ?? RIG_ROWS.dyno.refit, 2)} %, a run by ${formatNumber(own?.run ?? RIG_ROWS.dyno.run, 2)} %: only more stays help. By ${sizes}.`;
}

/** Every order of the day: what it takes, what it costs, and how likely it says the right word. */
export function Orders({ options, asked }: { options: DesignOptions; asked: number }) {
  const { money } = usePrefs();
  const change = useJob((s) => s.change);
  const { own, recommended } = options;
  const same = (a: DesignPlan, b: DesignPlan | null): boolean =>
    b !== null && a.order === b.order && a.runsPerStay === b.runsPerStay && a.visits === b.visits;
  const take = (p: DesignPlan): void =>
    void change((doc) => ({
      ...doc,
      test: { ...doc.test, plan: { ...doc.test.plan, order: runOrder(p.order), runsPerStay: p.runsPerStay, visits: p.visits } },
    }));
  const columns: TableColumnsType<DesignPlan> = [
    {
      title: msg.orderOfTheDay,
      render: (_, p) => (
        <>
          {SHOWN_NAMES[runOrder(p.order)]}
          {same(p, recommended) && <span className={styles['decides']}> {msg.recommended}</span>}
        </>
      ),
    },
    {
      title: `tells ${formatNumber(asked, 1)} %`,
      align: 'right',
      defaultSortOrder: 'descend',
      sorter: (a, b) => a.pRight - b.pRight,
      render: (_, p) => (
        <Popover content={`In ${formatNumber(100 * p.pRight, 0)} of 100 such tests the word is the right one.`} trigger="click">
          <button type="button" className={planStyles['chance']} aria-label={`${formatNumber(100 * p.pRight, 0)} of 100`}>
            <i style={{ width: `${Math.round(70 * p.pRight)}px` }} data-enough={p.pRight >= 0.8} />
            {formatNumber(100 * p.pRight, 0)} %
          </button>
        </Popover>
      ),
    },
    {
      title: msg.runs,
      align: 'right',
      render: (_, p) => `${p.runs} (${p.runsPerStay} ${p.order === 'alternate' ? 'pairs' : 'a stay'})`,
      sorter: (a, b) => a.runs - b.runs,
    },
    { title: msg.days, align: 'right', dataIndex: 'visits', sorter: (a, b) => a.visits - b.visits },
    { title: msg.hours, align: 'right', render: (_, p) => formatNumber(p.hours, 1), sorter: (a, b) => a.hours - b.hours },
    ...(options.plans.some((p) => p.money > 0)
      ? [
          {
            title: msg.costs,
            align: 'right' as const,
            render: (_: unknown, p: DesignPlan) => money(p.money),
            sorter: (a: DesignPlan, b: DesignPlan) => a.money - b.money,
          },
        ]
      : []),
    {
      title: msg.interval,
      align: 'right',
      render: (_, p) => `±${formatNumber(p.halfWidth, 1)} %`,
      sorter: (a, b) => a.halfWidth - b.halfWidth,
    },
    {
      title: <span className="visually-hidden">{msg.choose}</span>,
      render: (_, p) =>
        same(p, own) ? (
          <span className="quiet">{msg.thePlan}</span>
        ) : (
          <Button size="small" type="text" aria-label={`Plan ${planWords(p)}`} onClick={() => take(p)}>
            {msg.planThis}
          </Button>
        ),
    },
  ];
  return (
    <Table<DesignPlan>
      size="small"
      className={planStyles['orders']!}
      columns={columns}
      dataSource={[...options.plans]}
      rowKey={(p) => `${p.order} ${p.runsPerStay} ${p.visits}`}
      pagination={{ pageSize: 8, hideOnSinglePage: true, size: 'small', showSizeChanger: false }}
      scroll={{ x: 'max-content' }}
      aria-label={msg.ordersOfTheDay}
    />
  );
}
