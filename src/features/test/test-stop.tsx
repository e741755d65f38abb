'use client';

import { Segmented } from 'antd';
import dynamic from 'next/dynamic';
import { parseAsStringLiteral, useQueryState } from 'nuqs';
import { useEffect, useState } from 'react';
import { Views } from '@/ui/answer/stop-page';
import { AwayView } from '@/ui/later';
import { refetched } from '@/ui/refetched';
import { useComparison } from './dyno/use-comparison';
import { useImports } from './files/imports';
import styles from './test.module.css';
import { msg } from './messages';

/**
 * Each view comes when it is looked at: none of them is small, and a page shows one. The import stands in `dynamic` itself, which is
 * how the server knows what to send along with a page.
 */
const dyno = () => import('./dyno/dyno-view').then((m) => m.DynoView);
const plan = () => import('./plan/plan-view').then((m) => m.PlanView);
const log = () => import('./log/log-view').then((m) => m.LogView);
const strip = () => import('./strip/strip-view').then((m) => m.StripView);
const practice = () => import('./practice/practice-view').then((m) => m.PracticeView);
const DynoView = dynamic(() => import('./dyno/dyno-view').then((m) => m.DynoView).catch(() => refetched(dyno, AwayView)));
const PlanView = dynamic(() => import('./plan/plan-view').then((m) => m.PlanView).catch(() => refetched(plan, AwayView)));
const LogView = dynamic(() => import('./log/log-view').then((m) => m.LogView).catch(() => refetched(log, AwayView)));
const StripView = dynamic(() => import('./strip/strip-view').then((m) => m.StripView).catch(() => refetched(strip, AwayView)));
const PracticeView = dynamic(() =>
  import('./practice/practice-view').then((m) => m.PracticeView).catch(() => refetched(practice, AwayView)),
);

const VIEWS = ['plan', 'dyno', 'log', 'strip', 'practice'] as const;
const NAMES = { plan: 'Plan', dyno: 'Dyno', log: 'Datalog', strip: 'Strip', practice: 'Practice' } as const;

/** Where a pass is made: over a strip's beams, or on a road by the car's own log. */
const PLACES = ['strip', 'road'] as const;

/** A drag over the page says so several times a second; silent for this long, it has gone elsewhere. */
const DRAG_GONE_MS = 700;

/**
 * Files dropped anywhere on the page are taken in. Whether one hangs over it is told by the drag's own heartbeat, not by
 * counting enters and leaves: a page still waking up replays an enter after its drop.
 */
function useDrop(take: (files: Iterable<File>) => void): boolean {
  const [over, setOver] = useState(false);
  useEffect(() => {
    let gone: ReturnType<typeof setTimeout> | undefined;
    const files = (e: DragEvent): boolean => e.dataTransfer?.types.includes('Files') ?? false;
    const end = (): void => {
      clearTimeout(gone);
      setOver(false);
    };
    const hold = (e: DragEvent): void => {
      if (!files(e)) return;
      e.preventDefault();
      setOver(true);
      clearTimeout(gone);
      gone = setTimeout(end, DRAG_GONE_MS);
    };
    const drop = (e: DragEvent): void => {
      if (!files(e)) return;
      e.preventDefault();
      end();
      take(e.dataTransfer!.files);
    };
    window.addEventListener('dragover', hold);
    window.addEventListener('drop', drop);
    return () => {
      clearTimeout(gone);
      window.removeEventListener('dragover', hold);
      window.removeEventListener('drop', drop);
    };
  }, [take]);
  return over;
}

/** Test: plan the runs, take the files in, compare, look into the logs, or practise without a car. */
export function TestStop() {
  const [view, setView] = useQueryState('view', parseAsStringLiteral(VIEWS).withDefault('dyno').withOptions({ history: 'push' }));
  const [place, setPlace] = useQueryState('place', parseAsStringLiteral(PLACES).withDefault('strip').withOptions({ history: 'push' }));
  const imports = useImports();
  const over = useDrop(imports.take);
  const comparison = useComparison();
  const choice = (
    <>
      <Segmented
        aria-label={msg.partOfTheTest}
        value={view}
        options={VIEWS.map((v) => ({ value: v, label: NAMES[v] }))}
        onChange={(v) => void setView(v)}
      />
      {view === 'strip' && (
        <Segmented
          size="small"
          aria-label={msg.stripOrRoad}
          value={place}
          options={PLACES.map((p) => ({ value: p, label: msg[p] }))}
          onChange={(p) => void setPlace(p)}
        />
      )}
    </>
  );
  return (
    <>
      <Views choice={choice}>
        {view === 'plan' && <PlanView unitId={comparison.unitId} reply={comparison.reply} />}
        {view === 'dyno' && <DynoView comparison={comparison} imports={imports} />}
        {view === 'log' && <LogView imports={imports} />}
        {view === 'strip' && <StripView unitId={comparison.unitId} place={place} />}
        {view === 'practice' && <PracticeView unitId={comparison.unitId} />}
      </Views>
      {over && <div className={styles['drop']}>{msg.letGoToTakeTheFiles}</div>}
    </>
  );
}
