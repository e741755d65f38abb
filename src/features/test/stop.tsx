'use client';

import { Button, Select } from 'antd';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import type { SideComparison } from '@/core/compare/sides';
import { isFailure } from '@/core/failure';
import { CORRECTION_METHODS } from '@/core/runs/correction';
import { SMOOTHING_WIDTHS_rpm } from '@/core/runs/smooth';
import { correctionWorking } from '@/core/working/test-working';
import { DocField } from '@/features/job/field';
import { useJob, useRuns, useShelf } from '@/features/job/provider';
import { Heading, Rule, StopPage } from '@/ui/answer/stop';
import { failureText } from '@/ui/answer/words';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import type { CompareReply } from './compare.worker';
import { ImportList, useImports } from './imports';
import { Numbers } from './numbers';
import { Overlay } from './overlay';
import { RunsList } from './runs-list';
import { useComparison } from './use-comparison';
import { comparisonAnswer, comparisonReason, confounderWords } from './words';
import styles from './test.module.css';

const FILES = '.csv,.txt,.tsv,.log,.dat,.asc';

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

function Settings() {
  const test = useJob((s) => s.doc.test);
  const set = useJob((s) => s.set);
  return (
    <div className={styles['bar']}>
      <label>
        Smoothing
        <Select
          size="small"
          aria-label="Smoothing"
          style={{ width: 104 }}
          value={test.fwhm_rpm}
          options={SMOOTHING_WIDTHS_rpm.map((w) => ({ value: w, label: w === 0 ? 'none' : `${w} rpm` }))}
          onChange={(v) => set('test.fwhm_rpm', v)}
        />
      </label>
      <label>
        Correction
        <Select
          size="small"
          aria-label="Correction"
          style={{ width: 118 }}
          value={test.correction}
          options={CORRECTION_METHODS.map((m) => ({ value: m, label: m }))}
          onChange={(v) => set('test.correction', v)}
        />
      </label>
      <span className="quiet">one smoothing and one correction for every run</span>
    </div>
  );
}

function Fair({ reply }: { reply: CompareReply }) {
  const { pack } = usePrefs();
  return (
    <>
      <Heading
        more={<span className="quiet">{reply.confounders.length === 0 ? 'nothing found' : `${reply.confounders.length} to weigh`}</span>}
      >
        Fair comparison?
      </Heading>
      <ul className={styles['fair']}>
        {reply.confounders.map((c) => {
          const w = confounderWords(c, pack);
          return (
            <li key={c.code + w.what}>
              {w.what} {w.worth && <span className={styles['worth']}>{w.worth}.</span>} <span className="quiet">{w.todo}</span>
            </li>
          );
        })}
      </ul>
    </>
  );
}

function Corrections() {
  const { runs } = useRuns();
  const correction = useJob((s) => s.doc.test.correction);
  return (
    <table className="plain" style={{ marginTop: 8 }}>
      <tbody>
        {runs.map((r) => (
          <tr key={r.id}>
            <td>{r.doc.name}</td>
            <td className="num">
              <Num small label={`correction of ${r.doc.name}`} working={() => correctionWorking(r, correction)}>
                {r.doc.weather && r.doc.carried !== 'unknown' ? correction : 'left as it is'}
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
  failed: string | null,
  name: string,
  sides: { stock: number; other: number },
  runs: number,
): { answer: string; reason: ReactNode } {
  if (failed) return { answer: 'The runs cannot be read just now.', reason: failed };
  if (comparison) return { answer: comparisonAnswer(comparison, name), reason: comparisonReason(comparison) };
  if (runs === 0)
    return {
      answer: 'No runs yet: drop the dyno’s files anywhere on this page.',
      reason: 'At least one with the stock unit on and one with the new one.',
    };
  if (sides.stock === 0)
    return { answer: 'The stock side is missing.', reason: 'Say which of these runs had the stock unit on, or drop one that did.' };
  if (sides.other === 0)
    return { answer: 'The new side is missing.', reason: 'Say which of these runs had the new unit on, or drop one that did.' };
  return { answer: 'These runs cannot be compared yet.', reason: 'See beside each run what is missing.' };
}

/** Test, dyno: drop files, say which side each is, and read whether the new one gained and how sure that is. */
export function TestStop() {
  const { pack } = usePrefs();
  const { items, take, dismiss } = useImports();
  const over = useDrop(take);
  const { reply, failed, unitId } = useComparison();
  const { runs } = useRuns();
  const shelf = useShelf();
  const chooser = useRef<HTMLInputElement>(null);
  const name = shelf.find((u) => u.id === unitId)?.doc.name ?? 'the new unit';
  const raw = reply?.comparison ?? null;
  const comparison = raw !== null && !isFailure(raw) ? raw : null;
  const sides = {
    stock: runs.filter((r) => r.doc.side?.kind === 'stock').length,
    other: runs.filter((r) => r.doc.side?.kind === 'unit').length,
  };
  const { answer, reason } =
    reply === null && !failed && runs.length > 0
      ? { answer: 'Reading the runs…', reason: null }
      : answerOf(comparison, failed, name, sides, runs.length);
  return (
    <StopPage
      answer={answer}
      reason={raw !== null && isFailure(raw) ? failureText(raw, pack) : reason}
      aside={
        <>
          <Heading
            more={
              <Button size="small" onClick={() => chooser.current?.click()}>
                Choose files
              </Button>
            }
          >
            Runs
          </Heading>
          <input
            ref={chooser}
            type="file"
            multiple
            accept={FILES}
            hidden
            data-testid="files"
            onChange={(e) => {
              take([...(e.target.files ?? [])]);
              e.target.value = '';
            }}
          />
          <ImportList items={items} onDismiss={dismiss} />
          <RunsList prepared={reply?.prepared ?? []} />
          {reply && comparison && (
            <>
              <Rule />
              <Fair reply={reply} />
            </>
          )}
          <Rule />
          <DocField path="test.assumedSd_pct" label="Scatter of single runs, if not repeated, %" measure="ratio" mark={null} />
          {comparison && <Corrections />}
        </>
      }
    >
      {runs.length === 0 ? (
        <div className={styles['empty']}>
          Drop files here: comma, semicolon or tab, decimal point or comma, with or without lines above the table.
          <br />
          <span className="quiet">The folder samples/ of this installation has two to try.</span>
        </div>
      ) : (
        <>
          <Settings />
          {reply && <Overlay reply={reply} comparison={comparison} />}
          {comparison && <Numbers c={comparison} />}
        </>
      )}
      {over && <div className={styles['drop']}>Let go to take the files in</div>}
    </StopPage>
  );
}
