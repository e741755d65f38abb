'use client';

import { useMemo, type ReactNode } from 'react';
import { breaking } from '@/core/compare/confounders';
import type { SideComparison } from '@/core/compare/sides';
import { isFailure } from '@/core/failure';
import { airOf } from '@/core/runs/air';
import { correctionWorking } from '@/core/working/test-working';
import { useJob, useRuns, useShelf } from '@/features/job/provider';
import { Rule, StopPage } from '@/ui/answer/stop-page';
import { failureText } from '@/ui/answer/words';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import type { useImports } from '../files/imports';
import { asksFirst } from '../files/ask-columns';
import { TakeFiles } from '../files/take';
import { Fair } from './fair';
import { LivePull } from './live-pull';
import { Numbers } from './numbers';
import { Overlay, OVERLAY_HEIGHT } from './overlay';
import { Refit } from './refit';
import { RunsList } from './runs-list';
import { SaveComparison } from './save-comparison';
import { Bands, Settings } from './settings';
import type { ComparisonState } from './use-comparison';
import { comparisonAnswer, comparisonReason, confounderWords, type ConfounderWords } from './words';
import styles from '../test.module.css';
import { NextThing } from '@/ui/answer/next-thing';
import { msg } from './messages';

function Corrections() {
  const { runs } = useRuns();
  const correction = useJob((s) => s.doc.test.correction);
  return (
    <table className="plain" style={{ marginTop: 8 }}>
      <tbody>
        {runs
          .filter((r) => r.doc.kind === 'dyno')
          .map((r) => (
            <tr key={r.id}>
              <td>{r.doc.name}</td>
              <td className="num">
                <Num small label={`correction of ${r.doc.name}`} working={() => correctionWorking(r, correction)}>
                  {airOf(r.doc) && r.doc.carried !== 'unknown' ? correction : 'left as it is'}
                </Num>
              </td>
            </tr>
          ))}
      </tbody>
    </table>
  );
}

function answerOf(
  comparison: SideComparison | null,
  unfair: ConfounderWords | null,
  failed: string | null,
  name: string,
  sides: { stock: number; other: number },
  runs: number,
  waiting: readonly string[],
  money: (amount: number) => string,
): { answer: string; reason: ReactNode } {
  if (failed) return { answer: msg.theRunsCannotBeReadJust, reason: failed };
  if (comparison && unfair)
    return {
      answer: `Not a fair comparison: ${unfair.what.charAt(0).toLowerCase()}${unfair.what.slice(1)}`,
      reason: `${unfair.todo} As it stands: ${comparisonAnswer(comparison, name)}`,
    };
  if (comparison) return { answer: comparisonAnswer(comparison, name), reason: comparisonReason(comparison, money) };
  if (runs === 0)
    return {
      answer: msg.noRunsYetDropTheDynos,
      reason: msg.atLeastOneWithTheStock,
    };
  if (waiting.length > 0)
    return {
      answer: `${waiting.length === 1 ? 'One run waits' : `${waiting.length} runs wait`} for an answer: in which unit is it measured?`,
      reason: `The files do not say, and nothing is compared in a unit that nobody knows. Say it beside ${waiting.join(', ')}; it is remembered for files with the same header.`,
    };
  if (sides.stock === 0) return { answer: msg.theStockSideIsMissing, reason: msg.sayWhichOfTheseRunsHad };
  if (sides.other === 0) return { answer: msg.theNewSideIsMissing, reason: msg.sayWhichOfTheseRunsHad2 };
  return { answer: msg.theseRunsCannotBeComparedYet, reason: msg.seeBesideEachRunWhatIs };
}

/** Dyno: drop files, say which side each is, and read whether the new one gained and how sure that is. */
export function DynoView({
  comparison: { reply, failed, unitId },
  imports,
}: {
  comparison: ComparisonState;
  imports: ReturnType<typeof useImports>;
}) {
  const { pack, money } = usePrefs();
  const { runs: all } = useRuns();
  const runs = useMemo(() => all.filter((r) => r.doc.kind === 'dyno'), [all]);
  const shelf = useShelf();
  const name = shelf.find((u) => u.id === unitId)?.doc.name ?? 'the new throttle';
  const raw = reply?.comparison ?? null;
  const comparison = raw !== null && !isFailure(raw) ? raw : null;
  const [broken] = breaking(reply?.confounders ?? []);
  const counted = runs.filter((r) => r.doc.leftOut === null);
  const waiting = counted.filter((r) => asksFirst(r)).map((r) => r.doc.name);
  const stockRuns = counted.filter((r) => r.doc.side?.kind === 'stock');
  const sides = { stock: stockRuns.length, other: counted.filter((r) => r.doc.side?.kind === 'unit').length };
  const { answer, reason } =
    reply === null && !failed && runs.length > 0
      ? { answer: msg.readingTheRuns, reason: null }
      : answerOf(comparison, broken ? confounderWords(broken, pack) : null, failed, name, sides, runs.length, waiting, money);
  return (
    <StopPage
      answer={answer}
      reason={raw !== null && isFailure(raw) ? failureText(raw, pack) : reason}
      aside={
        <>
          {reply && comparison && (
            <>
              <Fair confounders={reply.confounders} />
              <Rule />
            </>
          )}
          <TakeFiles imports={imports} title={msg.runs} />
          <LivePull imports={imports} unitId={unitId} />
          <RunsList prepared={reply?.prepared ?? []} />
          {reply && comparison && (
            <>
              <Rule />
              <Bands />
              <Rule />
              <Refit c={comparison} extras={reply.extras} stockRuns={stockRuns} prepared={reply.prepared} />
              <Rule />
              <SaveComparison c={comparison} reply={reply} name={name} />
            </>
          )}
          {comparison && <Corrections />}
        </>
      }
    >
      {runs.length === 0 ? (
        <div className={styles['empty']}>
          {msg.dropFilesHereCommaSemicolonOr}
          <br />
          <span className="quiet">{msg.theFolderSamplesOfThisInstallation}</span>
          <NextThing
            shows={msg.hereThenStandBothSidesOver}
            links={[
              { to: '?view=plan', text: msg.planTheDayFirst },
              { to: '?view=practice', text: msg.practiseOnASimulatedDyno },
            ]}
          />
        </div>
      ) : (
        <>
          <Settings />
          {reply ? <Overlay reply={reply} comparison={comparison} /> : !failed && <div style={{ minHeight: OVERLAY_HEIGHT }} />}
          {comparison && reply && (
            <Numbers c={comparison} fair={broken === undefined} extras={reply.extras} prepared={reply.prepared} compared={reply.compared} />
          )}
        </>
      )}
    </StopPage>
  );
}
