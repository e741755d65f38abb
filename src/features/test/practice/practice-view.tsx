'use client';

import { Button, Segmented } from 'antd';
import { useMemo, useState } from 'react';
import type { PracticeRig, StoredPractice } from '@/core/documents/practice';
import { formatNumber } from '@/core/units/quantity';
import { useJob } from '@/features/job/provider';
import { Rule, StopPage } from '@/ui/answer/stop-page';
import { Chart } from '@/ui/chart/lazy-chart';
import { usePrefs } from '@/ui/theme/prefs';
import { LiveChart } from '../dyno/live-chart';
import { differenceSpec } from '../dyno/overlay';
import { Widths } from '../dyno/widths';
import { stretchName } from '../dyno/words';
import { measureText, shownSpeed } from '../strip/words';
import { answerFor, useCarried } from './answer';
import { PracticeDrawing } from './drawing';
import { msg } from './messages';
import { NextRunPanel } from './next-run';
import { RunsTable } from './runs-table';
import { Decide, Score } from './score';
import styles from '../test.module.css';
import { useSession, type Session } from './use-session';

/** Mean trap speed of a session's passes, m/s. */
const meanTrap = (p: StoredPractice): number => {
  const all = p.runs.flatMap((r) => r.pass?.trap_mps ?? []);
  return all.reduce((s, v) => s + v, 0) / all.length;
};

function Aside({ session, shown }: { session: Session; shown: number | null }) {
  const plan = useJob((s) => s.doc.test.plan);
  const [rig, setRig] = useState<PracticeRig>('dyno');
  const { practice, score, open, wrong } = session;
  return (
    <>
      {open && (
        <>
          <NextRunPanel session={session} practice={practice!} />
          <Rule />
          <Decide shown={shown} onDecide={session.decide} />
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
      <Button block={!open} type={open ? 'default' : 'primary'} size={open ? 'small' : 'middle'} onClick={() => session.begin(rig)}>
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
  );
}

/** Practice: the person plans, runs and decides at the stand-in, and is scored on whether they found the truth and what it cost. */
export function PracticeView({ unitId }: { unitId: string | null }) {
  const { pack, palette, money } = usePrefs();
  const { decidesOn } = useJob((s) => s.doc.test.plan);
  const engine = useJob((s) => s.doc.car.engine);
  const session = useSession(unitId);
  const { practice, score, pull, next, open } = session;
  const carried = useCarried(practice);
  const { comparison, strip } = carried;
  const difference = useMemo(
    () =>
      comparison ? differenceSpec(comparison, palette, palette.series[0]!, [comparison.grid_rpm[0]!, comparison.grid_rpm.at(-1)!]) : null,
    [comparison, palette],
  );
  const shown = comparison ? comparison.deciding.mean_pct : strip && practice ? 100 * 3 * (strip.estimate / meanTrap(practice)) : null;
  const { answer, reason } = answerFor(practice, score, carried, (mps) => measureText('trap_mps', mps, pack, true), money);
  return (
    <StopPage answer={answer} reason={reason} aside={<Aside session={session} shown={shown} />}>
      {practice && (pull.state === 'running' || pull.readings.length > 0) && (
        <LiveChart
          readings={pull.readings}
          behind={null}
          color={next.side === 'A' ? palette.stock : palette.series[0]!}
          range={[engine.lowest_rpm, engine.redline_rpm]}
        />
      )}
      {pull.state === 'away' && (
        <p className={styles['wrong']} role="alert">
          {msg.thePullBrokeOffHalfA}
        </p>
      )}
      {difference && <Chart spec={difference} height={240} name="practice" alt={msg.differenceOfTheNewPartFrom} />}
      {comparison && practice?.setup.rig !== 'strip' && <Widths answer={comparison.deciding.answer} />}
      {strip && <Widths answer={strip} unit={shownSpeed(0, pack).unit} factor={shownSpeed(1, pack).value} />}
      {practice && practice.runs.length > 0 && (
        <RunsTable practice={practice} comparison={comparison} decidesOn={decidesOn} onLeave={open ? session.leave : null} />
      )}
      {!practice && <PracticeDrawing />}
    </StopPage>
  );
}
