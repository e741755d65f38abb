'use client';

import type { Remote } from 'comlink';
import { Button } from 'antd';
import { useEffect, useMemo, useState } from 'react';
import type { StoredRun } from '@/core/documents/run';
import { isFailure, type Failure } from '@/core/failure';
import { roadAnswer, sharedWindow, type SidedRoadRun, type RoadRun, type RoadWindow, type SpeedSpan } from '@/core/strip/road';
import { formatNumber, formatSigned } from '@/core/units/quantity';
import { useJob, useRuns } from '@/features/job/provider';
import type { ChartSpec } from '@/ui/chart/figure';
import { Chart } from '@/ui/chart/lazy-chart';
import { StopPage } from '@/ui/answer/stop-page';
import { failureText } from '@/ui/answer/words';
import { widestWords, WORD_TITLES } from '@/ui/answer/inference-words';
import { visitOf } from '@/core/runs/order';
import { usePrefs } from '@/ui/theme/prefs';
import { useAgain } from '@/ui/use-again';
import { useLogWorker } from '../log/use-log';
import type { LogApi } from '../log/log.worker';
import { shownSpeed } from './words';
import { msg } from './messages';
import { RoadSettings } from './road-settings';
import { RoadTable } from './road-table';

const MPH = 0.44704;

type Found = { readonly run: StoredRun; readonly runs: readonly RoadRun[] | Failure; readonly widest: SpeedSpan | null };

/** The runs of every log through the window; null until they have been looked for. */
function useRoad(
  api: Remote<LogApi> | null,
  logs: readonly StoredRun[],
  road: RoadWindow,
): { found: readonly Found[] | null; wrong: boolean } {
  const [found, setFound] = useState<readonly Found[] | null>(null);
  const [wrong, setWrong] = useState(false);
  const tries = useAgain(wrong);
  useEffect(() => {
    if (!api) return;
    let current = true;
    Promise.all(logs.map(async (run) => ({ run, ...(await api.road(run, road)) })))
      .then((list) => current && (setFound(list), setWrong(false)))
      .catch(() => current && setWrong(true));
    return () => {
      current = false;
    };
  }, [api, logs, road, tries]);
  return { found, wrong };
}

/** Speed over time since the clock started, every run through the window. */
function RoadChart({ rows }: { rows: readonly { readonly run: StoredRun; readonly r: RoadRun }[] }) {
  const { pack, palette } = usePrefs();
  const spec = useMemo<ChartSpec>(() => {
    const longest = Math.max(...rows.map(({ r }) => r.time_s));
    return {
      lines: rows.map(({ run, r }) => ({
        id: `${run.id}${r.from_s}`,
        label: run.doc.name,
        x: r.curve.time_s,
        y: r.curve.speed_mps.map((v) => shownSpeed(v, pack).value),
        color: run.doc.side?.kind === 'unit' ? palette.series[0]! : run.doc.side ? palette.stock : palette.quiet,
        dash: run.doc.side?.kind === 'unit' ? 'solid' : 'longdash',
        width: 2,
      })),
      xRange: [0, longest],
      xTitle: 's, as run',
      yTitle: `road speed, ${shownSpeed(0, pack).unit}`,
      decimals: 1,
      marginRight: 150,
    };
  }, [rows, pack, palette]);
  return <Chart spec={spec} height={270} name="road" alt={msg.roadSpeedOverTimeSinceThe} />;
}

/** Road runs: a window of speed out of the logs, the grade taken out, and what the road alone could have done. */
export function RoadView({ name, unitId }: { name: string; unitId: string | null }) {
  const { pack } = usePrefs();
  const { runs } = useRuns();
  const logs = useMemo(
    () => runs.filter((r) => r.doc.kind === 'log' && r.doc.leftOut === null && r.doc.channels.some((c) => c.quantity === 'speed')),
    [runs],
  );
  const road = useJob((s) => s.doc.test.road);
  const change = useJob((s) => s.change);
  const take = ({ from_mps, to_mps }: SpeedSpan): void => {
    change((doc) => ({ ...doc, test: { ...doc.test, road: { ...doc.test.road, from_mps, to_mps } } }));
  };
  const { found: looked, wrong } = useRoad(useLogWorker(), logs, road);
  const found = looked ?? [];
  const sided = found.flatMap((f): SidedRoadRun[] => {
    const { side } = f.run.doc;
    const mark = side?.kind === 'stock' ? 'A' : side?.kind === 'unit' && side.unitId === unitId ? 'B' : null;
    if (mark === null || isFailure(f.runs)) return [];
    return f.runs.map((run) => ({ side: mark, visit: visitOf(f.run.doc), run }));
  });
  const told = roadAnswer(sided, { stretch: road.stretch });
  const rows = useMemo(() => (looked ?? []).flatMap((f) => (isFailure(f.runs) ? [] : f.runs.map((r) => ({ ...f, r })))), [looked]);
  const speed = (mps: number): string => formatNumber(shownSpeed(mps, pack).value, 0);
  const spanText = (w: SpeedSpan): string => `${speed(w.from_mps)} to ${speed(w.to_mps)} ${shownSpeed(0, pack).unit}`;
  const span = spanText(road);
  const shared = sharedWindow(
    found.flatMap((f) => (f.widest ? [f.widest] : [])),
    pack === 'metric' ? 5 / 3.6 : 5 * MPH,
  );
  const seconds = (v: number): string => formatSigned(v, 2, 's');
  const answer = wrong
    ? 'The logs cannot be read just now.'
    : logs.length === 0
      ? 'No log with a road speed yet: drop one on the Datalog view.'
      : looked === null
        ? 'Reading the logs…'
        : told
          ? `${WORD_TITLES[told.answer.word]}: ${seconds(told.difference_s)} with ${name} over ${span}, ${formatSigned(told.low_s, 2)} to ${seconds(told.high_s)}.`
          : rows.length === 0
            ? `No log goes through ${span} in one pull.`
            : `${span}: runs of one side only.`;
  const ofSide = (side: 'A' | 'B'): number => sided.filter((r) => r.side === side).length;
  const reason = told
    ? `${ofSide('A')} stock and ${ofSide('B')} new ${ofSide('A') + ofSide('B') > 2 ? 'runs' : 'run'}, ${formatNumber(told.before_s, 2)} s before and ${formatNumber(told.after_s, 2)} s after, ${told.grade === 'unknown' ? 'the ground not known' : 'on the flat by energy'}. ${widestWords(told.answer, (half) => `${formatNumber((told.before_s * half) / 100, 2)} s`)} The strip or the dyno tells better.`
    : logs.length > 0 && looked !== null && rows.length === 0
      ? 'Choose a window that the logs go through.'
      : 'Say which side each log is on the Datalog view.';
  return (
    <StopPage answer={answer} reason={reason} aside={<RoadSettings onTake={take} />}>
      {rows.length > 0 && <RoadChart rows={rows} />}
      {rows.length > 0 && <RoadTable rows={rows} />}
      {found
        .filter((f) => isFailure(f.runs))
        .map((f) => (
          <p key={f.run.id} className="quiet">
            {f.run.doc.name}: {f.widest ? `its widest pull goes from ${spanText(f.widest)}.` : failureText(f.runs as Failure, pack)}
          </p>
        ))}
      {found.some((f) => isFailure(f.runs)) && shared && (
        <Button onClick={() => take(shared)}>
          {msg.take} {spanText(shared)}
          {msg.whichEveryLogGoesThrough}
        </Button>
      )}
    </StopPage>
  );
}
