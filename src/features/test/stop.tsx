'use client';

import { Segmented } from 'antd';
import { parseAsStringLiteral, useQueryState } from 'nuqs';
import { useEffect, useState } from 'react';
import { useComparison } from './dyno/use-comparison';
import { DynoView } from './dyno/view';
import { useImports } from './files/imports';
import { LogView } from './log/view';
import { PlanView } from './plan/view';
import { PracticeView } from './practice/view';
import styles from './test.module.css';

const VIEWS = ['plan', 'dyno', 'log', 'practice'] as const;
const NAMES = { plan: 'Plan', dyno: 'Dyno', log: 'Datalog', practice: 'Practice' } as const;

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

/** Test: plan the runs, take the files in, compare, look into the logs, or practise without a car. */
export function TestStop() {
  const [view, setView] = useQueryState('view', parseAsStringLiteral(VIEWS).withDefault('dyno'));
  const imports = useImports();
  const over = useDrop(imports.take);
  const comparison = useComparison();
  const tabs = (
    <div className={styles['views']}>
      <Segmented
        aria-label="Part of the test"
        value={view}
        options={VIEWS.map((v) => ({ value: v, label: NAMES[v] }))}
        onChange={(v) => void setView(v)}
      />
    </div>
  );
  return (
    <>
      {view === 'plan' && <PlanView unitId={comparison.unitId} reply={comparison.reply} tabs={tabs} />}
      {view === 'dyno' && <DynoView comparison={comparison} imports={imports} tabs={tabs} />}
      {view === 'log' && <LogView imports={imports} tabs={tabs} />}
      {view === 'practice' && <PracticeView unitId={comparison.unitId} tabs={tabs} />}
      {over && <div className={styles['drop']}>Let go to take the files in</div>}
    </>
  );
}
