'use client';

import { Button, Segmented, Select } from 'antd';
import { parseAsString, parseAsStringLiteral, useQueryState } from 'nuqs';
import { useMemo, useState, type ReactNode } from 'react';
import { isFailure } from '@/core/failure';
import { meanOf } from '@/core/numbers/moments';
import { STRIP_MEASURES, type MeasuredEffect, type ReadPass, type StripAnalysis, type StripMeasure } from '@/core/strip/analyse';
import { powerShareWorking, stripEffectWorking } from '@/core/working/strip-working';
import { formatSigned } from '@/core/units/quantity';
import type { SideByName } from '@/core/strip/slip-table';
import { useJob, useShelf } from '@/features/job/provider';
import { Rule, StopPage } from '@/ui/answer/stop-page';
import { Chart } from '@/ui/chart/lazy-chart';
import type { ChartPoint, ChartSpec } from '@/ui/chart/figure';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { usePredicted } from '../use-predicted';
import { Widths } from '../dyno/widths';
import { AirChart } from './air-chart';
import { DayPlan } from './day-plan';
import { PassLogs } from './pass-logs';
import { RoadView } from './road';
import { outbox } from '@/features/offline/outbox';
import { PhoneLink } from '@/features/job/phone-link';
import { useStrip, useStripAnalysis } from './use-strip';
import { VisitPanel } from './visit-panel';
import {
  answerWord,
  intervalText,
  MEASURE_NAMES,
  measureText,
  pairLimits,
  shownSpeed,
  stripAnswer,
  warningWords,
  DISTANCE_NAMES,
  airWords,
} from './words';
import styles from './strip.module.css';
import { NextThing } from '@/ui/answer/next-thing';
import { msg } from './messages';
import { SlipPad } from './slip-pad';
import { below } from '@/ui/below';
import { later } from '@/ui/later';
import { useWhenTouched } from '@/ui/touched';

const tables = () => import('./table-in');
const PassesTable = below(() => import('./passes-table').then((m) => m.PassesTable), 12);
const PassesIn = later(() => tables().then((m) => m.PassesIn));

/** A trap speed to plan with before anything was run, m/s: a quick road car's. */
const USUAL_TRAP_mps = 42;

const NO_FEES = { entryFee: 0, perPassFee: 0 } as const;

const PLACES = ['strip', 'road'] as const;

type Correction = 'raw' | 'corrected';

const valueOf = (p: ReadPass, measure: StripMeasure, correction: Correction): number | null =>
  correction === 'corrected' && measure !== 'sixty_s' ? (p.corrected?.[measure] ?? null) : p[measure];

/** Every pass in the order of the day, stock as open rings and the new unit filled, with each side's mean. */
function PassChart({
  analysis,
  measure,
  correction,
  name,
}: {
  analysis: StripAnalysis;
  measure: StripMeasure;
  correction: Correction;
  name: string;
}) {
  const { pack, palette } = usePrefs();
  const spec = useMemo<ChartSpec>(() => {
    const show = (v: number): number => (measure === 'trap_mps' ? shownSpeed(v, pack).value : v);
    const found = analysis.passes.flatMap((p, i) => {
      const v = valueOf(p, measure, correction);
      return v === null ? [] : [{ p, x: i + 1, y: show(v) }];
    });
    const color = { A: palette.stock, B: palette.series[0]! };
    const points = found.map(({ p, x, y }): ChartPoint => ({
      x,
      y,
      name: `${p.stored.doc.at ?? ''} ${p.side === 'A' ? 'stock' : name}: ${measureText(measure, valueOf(p, measure, correction)!, pack)}`,
      color: color[p.side],
      strong: p.side === 'B',
    }));
    const n = analysis.passes.length;
    const mean = (side: 'A' | 'B') => {
      const own = found.filter((f) => f.p.side === side).map((f) => f.y);
      return own.length === 0 ? null : meanOf(own);
    };
    const [a, b] = [mean('A'), mean('B')];
    const ys = found.map((f) => f.y);
    const [low, high] = [Math.min(...ys), Math.max(...ys)];
    const pad = Math.max((high - low) * 0.18, high * 1e-3);
    const line = (id: string, label: string, y: number, c: string, dash: 'longdash' | 'solid') => ({
      id,
      label,
      x: [0.5, n + 0.5],
      y: [y, y],
      color: c,
      dash,
      width: 2,
    });
    return {
      lines: [
        ...(a === null ? [] : [line('stock', 'stock, mean', a, palette.stock, 'longdash')]),
        ...(b === null ? [] : [line('new', `${name}, mean`, b, palette.series[0]!, 'solid')]),
      ],
      points,
      xRange: [0.5, n + 0.5],
      yRange: found.length === 0 ? [0, 1] : [low - pad, high + pad],
      xTitle: 'pass of the day',
      yTitle: `${MEASURE_NAMES[measure]}, ${measure === 'trap_mps' ? shownSpeed(0, pack).unit : 's'}${correction === 'corrected' && measure !== 'sixty_s' ? ', corrected' : ', as run'}`,
      decimals: measure === 'trap_mps' ? 2 : 3,
      marginRight: 150,
    };
  }, [analysis, measure, correction, name, pack, palette]);
  return <Chart spec={spec} height={270} name="strip" alt={`${MEASURE_NAMES[measure]} of every pass, stock and ${name}`} />;
}

/** What the passes say of power, in two independent ways. */
function PowerMoved({ analysis }: { analysis: StripAnalysis }) {
  const { powerBySpeed, powerByTime } = analysis;
  const { trap_mps, et_s } = analysis.effects;
  if (!powerBySpeed || !powerByTime || isFailure(trap_mps) || isFailure(et_s)) return null;
  const pct = (share: number): string => formatSigned(100 * share, 1, '%');
  return (
    <>
      {msg.powerMovedBy}{' '}
      <Num small label={msg.powerByTheTrapSpeed} working={() => powerShareWorking('speed', trap_mps, powerBySpeed)}>
        {pct(powerBySpeed.share)}
      </Num>{' '}
      ({pct(powerBySpeed.low)} {msg.to2} {pct(powerBySpeed.high)}
      {msg.byTheTrapSpeedBy}{' '}
      <Num small label={msg.powerByTheTime} working={() => powerShareWorking('time', et_s, powerByTime)}>
        {pct(powerByTime.share)}
      </Num>{' '}
      {msg.byTheTimeWhereTheyDisagree}{' '}
    </>
  );
}

/** ET, trap speed and 60 ft, each with its own answer. */
function Effects({ analysis }: { analysis: StripAnalysis }) {
  const { pack } = usePrefs();
  const row = (measure: StripMeasure, e: MeasuredEffect, other?: string) => {
    const text = (v: number, signed = true): string => measureText(measure, v, pack, signed);
    return (
      <tr key={other ?? measure}>
        <td>{other ?? MEASURE_NAMES[measure]}</td>
        <td className="num">{text(e.meanA, false)}</td>
        <td className="num">{text(e.meanB, false)}</td>
        <td className="num">
          <Num
            small
            label={`effect on the ${MEASURE_NAMES[measure]}`}
            working={() =>
              stripEffectWorking(e, `Effect on the ${MEASURE_NAMES[measure]}`, measure === 'trap_mps' ? 'roadSpeed' : 'time', [airWords(e)])
            }
          >
            {text(e.answer.estimate)}
          </Num>
        </td>
        <td className="num">{intervalText(measure, e.answer.low, e.answer.high, pack)}</td>
        <td>{answerWord(e.answer.word)}</td>
      </tr>
    );
  };
  return (
    <div className={styles['passes']}>
      <table className="plain">
        <thead>
          <tr>
            <th>{msg.newAgainstStock}</th>
            <th className="num">{msg.stockAsRun}</th>
            <th className="num">{msg.newAsRun}</th>
            <th className="num">{msg.effect}</th>
            <th className="num">{msg.n95Interval}</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {STRIP_MEASURES.map((m) => {
            const e = analysis.effects[m];
            return isFailure(e) ? null : row(m, e);
          })}
          {analysis.others.flatMap(({ distance, et_s, trap_mps }) => [
            ...(isFailure(et_s) ? [] : [row('et_s', et_s, `time over ${DISTANCE_NAMES[distance]}`)]),
            ...(trap_mps === null || isFailure(trap_mps) ? [] : [row('trap_mps', trap_mps, `speed over ${DISTANCE_NAMES[distance]}`)]),
          ])}
        </tbody>
      </table>
      <p className="quiet">{msg.theMeansAreAsRunThe}</p>
      {isFailure(analysis.effects.trap_mps) ? null : (
        <Widths answer={analysis.effects.trap_mps.answer} unit={shownSpeed(0, pack).unit} factor={shownSpeed(1, pack).value} />
      )}
      {analysis.warnings.length > 0 && (
        <ul className={styles['warnings']} aria-label={msg.whatWentWithTheSides}>
          {analysis.warnings.map((w) => (
            <li key={w.code}>{warningWords(w, pack)}</li>
          ))}
        </ul>
      )}
      <p className="quiet">
        <PowerMoved analysis={analysis} />
        {analysis.pairs.length === 0
          ? `No matched pair: no two passes of one day within ${pairLimits(pack)} of coolant and inlet air.`
          : `${analysis.pairs.length} matched ${analysis.pairs.length === 1 ? 'pair' : 'pairs'} (one day, within ${pairLimits(pack)}): ${analysis.pairs
              .slice(0, 4)
              .map((p) => `${p.a.stored.doc.at ?? '—'} and ${p.b.stored.doc.at ?? '—'}`)
              .join('; ')}${analysis.pairs.length > 4 ? ' and others' : ''}. The estimate uses every pass.`}
      </p>
    </div>
  );
}

/** Strip: a day's passes typed, pasted or from the practice tower, and whether the new unit made a difference over the line. */
export function StripView({ tabs, unitId: dynoUnit }: { tabs: ReactNode; unitId: string | null }) {
  const { pack, money } = usePrefs();
  const jobId = useJob((s) => s.id);
  const shelf = useShelf();
  const strip = useStrip();
  const { analysis, unitId, working } = useStripAnalysis(strip.book);
  useWhenTouched(tables);
  const [visitId, setVisitId] = useQueryState('day', parseAsString);
  const [found] = useQueryState('found', parseAsString);
  const [open, setOpen] = useState<'pad' | 'table' | null>(null);
  const [measure, setMeasure] = useState<StripMeasure>('trap_mps');
  const [correction, setCorrection] = useState<Correction>('corrected');
  const [place, setPlace] = useQueryState('place', parseAsStringLiteral(PLACES).withDefault('strip').withOptions({ history: 'push' }));
  const [seed] = useState(() => Math.floor(performance.now() * 997) % 100_000);
  const compared = unitId ?? dynoUnit;
  const unit = shelf.find((u) => u.id === compared);
  const name = unit?.doc.name ?? 'the new throttle';
  const predicted = usePredicted(compared);
  const visits = strip.book?.visits ?? [];
  const asked = visitId ?? strip.book?.passes.find((p) => p.id === found)?.visitId;
  const visit = visits.find((v) => v.id === asked) ?? visits.at(-1) ?? null;
  const passes = (strip.book?.passes ?? []).filter((p) => p.visitId === visit?.id);
  const sideOf = useMemo<SideByName>(
    () => (text) => {
      const wanted = text.trim().toLowerCase();
      if (/^(stock|a|before|old)$/.test(wanted)) return { kind: 'stock' };
      const found = shelf.find((u) => u.doc.name.toLowerCase() === wanted) ?? (/^(b|new|after)$/.test(wanted) ? unit : undefined);
      return found ? { kind: 'unit', unitId: found.id } : null;
    },
    [shelf, unit],
  );
  const places = (
    <div className={styles['bar']}>
      <Segmented<(typeof PLACES)[number]>
        size="small"
        aria-label={msg.stripOrRoad}
        value={place}
        options={[
          { value: 'strip', label: msg.strip },
          { value: 'road', label: msg.road },
        ]}
        onChange={(v) => void setPlace(v)}
      />
      {place === 'strip' && analysis && (
        <>
          <Select
            size="small"
            aria-label={msg.shownOfEachPass}
            value={measure}
            options={STRIP_MEASURES.map((m) => ({ value: m, label: MEASURE_NAMES[m] }))}
            onChange={setMeasure}
          />
          <Segmented
            size="small"
            aria-label={msg.airOfThePasses}
            value={correction}
            options={[
              { value: 'raw', label: msg.asRun },
              { value: 'corrected', label: msg.correctedToStandardAir },
            ]}
            onChange={setCorrection}
          />
        </>
      )}
    </div>
  );
  if (place === 'road')
    return (
      <RoadView
        name={name}
        unitId={compared}
        tabs={
          <>
            {tabs}
            {places}
          </>
        }
      />
    );
  const { answer, reason } = strip.wrong
    ? { answer: msg.thePassesCannotBeReadJust, reason: strip.wrong }
    : strip.book === null
      ? { answer: msg.readingThePasses, reason: '' }
      : working && analysis === null && strip.book.passes.length > 0
        ? { answer: msg.workingOutThePasses, reason: '' }
        : stripAnswer(analysis, name, pack, money);
  const trap =
    analysis && !isFailure(analysis.effects.trap_mps) ? analysis.effects.trap_mps.meanA : (analysis?.passes[0]?.trap_mps ?? USUAL_TRAP_mps);
  const tower = (chosen: string | null): string =>
    `/api/stand-ins/tower?${new URLSearchParams({
      job: jobId,
      ...(chosen !== null && { unit: chosen }),
      ...(visit?.doc.mass_kg && { mass: String(visit.doc.mass_kg) }),
      seed: String(seed),
      pass: String(passes.length),
    })}`;
  return (
    <StopPage
      answer={answer}
      reason={reason}
      aside={
        <>
          {visit && (
            <div className={styles['actions']}>
              <Button type="primary" size="large" onClick={() => setOpen('pad')}>
                {msg.typeASlip}
              </Button>
              <Button size="large" onClick={() => setOpen('table')}>
                {msg.fromATable}
              </Button>
            </div>
          )}
          <VisitPanel strip={strip} visit={visit} onPick={setVisitId} />
          <Rule />
          <DayPlan
            analysis={analysis}
            trap_mps={trap}
            predicted_share={predicted ? predicted.over.whole / 300 : null}
            name={name}
            fees={visit?.doc ?? NO_FEES}
          />
          <PassLogs passes={passes} />
          <PhoneLink stop="strip" />
          {passes.length > 0 && (
            <Button className="no-print" onClick={() => window.print()}>
              {msg.printTheDay}
            </Button>
          )}
        </>
      }
    >
      {tabs}
      {places}
      {analysis && analysis.passes.length > 0 && <PassChart analysis={analysis} measure={measure} correction={correction} name={name} />}
      {analysis && (!isFailure(analysis.effects.et_s) || !isFailure(analysis.effects.trap_mps)) && <Effects analysis={analysis} />}
      {visit && visit.doc.weather.length > 1 && <AirChart visit={visit} analysis={analysis} />}
      {strip.refused.map((i) => (
        <p key={i.seq} role="alert" className={styles['wrong']}>
          {msg.notTakenWhatWasWritten} {new Date(i.written_ms).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}.{' '}
          {i.refused}{' '}
          <Button size="small" onClick={() => void outbox().dismiss(i.seq)}>
            {msg.iHaveReadIt}
          </Button>
        </p>
      ))}
      {visit && passes.length > 0 && <PassesTable visit={visit} passes={passes} analysis={analysis} strip={strip} />}
      {visit && passes.length === 0 && <p className="quiet">{msg.thisDayHasNoPassesYet}</p>}
      {!visit && strip.book && (
        <NextThing shows={msg.hereThenStandEveryPassWith} links={[{ to: '?view=plan', text: msg.planTheDayFirst }]} />
      )}
      {open === 'pad' && visit && (
        <SlipPad
          visit={visit}
          side={passes.at(-1)?.doc.side ?? { kind: 'stock' }}
          day={passes}
          waiting={strip.waiting}
          onUndo={strip.removePass}
          tower={tower}
          onKeep={(doc) => strip.addPasses(visit, [doc])}
          onClose={() => setOpen(null)}
        />
      )}
      {open === 'table' && visit && (
        <PassesIn sideOf={sideOf} onTake={async (found) => void (await strip.addPasses(visit, found))} onClose={() => setOpen(null)} />
      )}
    </StopPage>
  );
}
