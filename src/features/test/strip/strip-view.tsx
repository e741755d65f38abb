'use client';

import { Button, Segmented, Select } from 'antd';
import { parseAsString, useQueryState } from 'nuqs';
import type { StoredPass, StoredVisit } from '@/core/documents/strip';
import { useMemo, useState } from 'react';
import type { StoredUnit } from '@/core/documents/unit';
import { isFailure } from '@/core/failure';
import { STRIP_MEASURES, type StripAnalysis, type StripMeasure } from '@/core/strip/analysis';
import type { SideByName } from '@/core/strip/slip-table';
import { useJob, useShelf } from '@/features/job/provider';
import { PhoneLink } from '@/features/job/phone-link';
import { outbox } from '@/features/offline/outbox';
import { NextThing } from '@/ui/answer/next-thing';
import { Rule, StopPage } from '@/ui/answer/stop-page';
import { below } from '@/ui/below';
import { later } from '@/ui/later';
import { usePrefs } from '@/ui/theme/prefs';
import { useWhenTouched } from '@/ui/touched';
import { usePredicted } from '../use-predicted';
import { AirChart } from './air-chart';
import { DayPlan } from './day-plan';
import { Effects } from './effects';
import { msg } from './messages';
import { PassChart, type Correction } from './pass-chart';
import { PassLogs } from './pass-logs';
import { RoadView } from './road';
import { SlipPad } from './slip-pad';
import styles from './strip.module.css';
import { useStrip, useStripAnalysis, type Strip } from './use-strip';
import { VisitPanel } from './visit-panel';
import { MEASURE_NAMES, stripAnswer } from './words';

const tables = () => import('./table-in');
const PassesTable = below(() => import('./passes-table').then((m) => m.PassesTable), 12);
const PassesIn = later(() => tables().then((m) => m.PassesIn));

/** A trap speed to plan with before anything was run, m/s: a quick road car's. */
const USUAL_TRAP_mps = 42;

const NO_FEES = { entryFee: 0, perPassFee: 0 } as const;

interface Shown {
  readonly measure: StripMeasure;
  readonly setMeasure: (measure: StripMeasure) => void;
  readonly correction: Correction;
  readonly setCorrection: (correction: Correction) => void;
}

/** What is shown of each pass. */
const ShownOfEach = ({ measure, setMeasure, correction, setCorrection }: Shown) => (
  <div className={styles['bar']}>
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
  </div>
);

/** What the server did not take of what was written here. */
const Refused = ({ strip }: { strip: Strip }) =>
  strip.refused.map((i) => (
    <p key={i.seq} role="alert" className={styles['wrong']}>
      {msg.notTakenWhatWasWritten} {new Date(i.written_ms).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}. {i.refused}{' '}
      <Button size="small" onClick={() => void outbox().dismiss(i.seq)}>
        {msg.iHaveReadIt}
      </Button>
    </p>
  ));

/** The side that a table's word means; null: none that is known. */
const sideByName =
  (shelf: readonly StoredUnit[], unit: StoredUnit | undefined): SideByName =>
  (text) => {
    const wanted = text.trim().toLowerCase();
    if (/^(stock|a|before|old)$/.test(wanted)) return { kind: 'stock' };
    const found = shelf.find((u) => u.doc.name.toLowerCase() === wanted) ?? (/^(b|new|after)$/.test(wanted) ? unit : undefined);
    return found ? { kind: 'unit', unitId: found.id } : null;
  };

/** What is to be said while there is no answer yet; null: there is one. */
function bookAnswer(strip: Strip, working: boolean): { answer: string; reason: string } | null {
  if (strip.wrong) return { answer: msg.thePassesCannotBeReadJust, reason: strip.wrong };
  if (strip.book === null) return { answer: msg.readingThePasses, reason: '' };
  return working && strip.book.passes.length > 0 ? { answer: msg.workingOutThePasses, reason: '' } : null;
}

const trapToPlanWith = (analysis: StripAnalysis | null): number =>
  analysis && !isFailure(analysis.effects.trap_mps) ? analysis.effects.trap_mps.meanA : (analysis?.passes[0]?.trap_mps ?? USUAL_TRAP_mps);

/** What is known of the passes: the chart, the effects, the day's air, and every pass with what came of it. */
function Shown({
  strip,
  visit,
  passes,
  analysis,
  measure,
  correction,
  name,
}: {
  strip: Strip;
  visit: StoredVisit | null;
  passes: readonly StoredPass[];
  analysis: StripAnalysis | null;
  measure: StripMeasure;
  correction: Correction;
  name: string;
}) {
  const told = analysis && (!isFailure(analysis.effects.et_s) || !isFailure(analysis.effects.trap_mps));
  return (
    <>
      {analysis && analysis.passes.length > 0 && <PassChart analysis={analysis} measure={measure} correction={correction} name={name} />}
      {told && <Effects analysis={analysis} />}
      {visit && visit.doc.weather.length > 1 && <AirChart visit={visit} analysis={analysis} />}
      <Refused strip={strip} />
      {visit && passes.length > 0 && <PassesTable visit={visit} passes={passes} analysis={analysis} strip={strip} />}
      {visit && passes.length === 0 && <p className="quiet">{msg.thisDayHasNoPassesYet}</p>}
      {!visit && strip.book && (
        <NextThing shows={msg.hereThenStandEveryPassWith} links={[{ to: '?view=plan', text: msg.planTheDayFirst }]} />
      )}
    </>
  );
}

/** Beside the answer: what is typed, which day it is, and the plan of it. */
function Beside({
  strip,
  visit,
  passes,
  analysis,
  name,
  predicted_share,
  onPick,
  onOpen,
}: {
  strip: Strip;
  visit: StoredVisit | null;
  passes: readonly StoredPass[];
  analysis: StripAnalysis | null;
  name: string;
  predicted_share: number | null;
  onPick: (id: string) => void;
  onOpen: (what: 'pad' | 'table') => void;
}) {
  return (
    <>
      {visit && (
        <div className={styles['actions']}>
          <Button type="primary" size="large" onClick={() => onOpen('pad')}>
            {msg.typeASlip}
          </Button>
          <Button size="large" onClick={() => onOpen('table')}>
            {msg.fromATable}
          </Button>
        </div>
      )}
      <VisitPanel strip={strip} visit={visit} onPick={onPick} />
      <Rule />
      <DayPlan
        analysis={analysis}
        trap_mps={trapToPlanWith(analysis)}
        predicted_share={predicted_share}
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
  );
}

/** Strip: a day's passes typed, pasted or from the practice tower, and whether the new unit made a difference over the line. */
export function StripView({ place, unitId: dynoUnit }: { place: 'strip' | 'road'; unitId: string | null }) {
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
  const [seed] = useState(() => Math.floor(performance.now() * 997) % 100_000);
  const compared = unitId ?? dynoUnit;
  const unit = shelf.find((u) => u.id === compared);
  const name = unit?.doc.name ?? 'the new throttle';
  const predicted = usePredicted(compared);
  const visits = strip.book?.visits ?? [];
  const asked = visitId ?? strip.book?.passes.find((p) => p.id === found)?.visitId;
  const visit = visits.find((v) => v.id === asked) ?? visits.at(-1) ?? null;
  const passes = (strip.book?.passes ?? []).filter((p) => p.visitId === visit?.id);
  const sideOf = useMemo(() => sideByName(shelf, unit), [shelf, unit]);
  if (place === 'road') return <RoadView name={name} unitId={compared} />;
  const { answer, reason } = bookAnswer(strip, working && analysis === null) ?? stripAnswer(analysis, name, pack, money);
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
          <Beside
            strip={strip}
            visit={visit}
            passes={passes}
            analysis={analysis}
            name={name}
            predicted_share={predicted ? predicted.over.whole / 300 : null}
            onPick={(id) => void setVisitId(id)}
            onOpen={setOpen}
          />
        </>
      }
    >
      {analysis && <ShownOfEach measure={measure} setMeasure={setMeasure} correction={correction} setCorrection={setCorrection} />}
      <Shown strip={strip} visit={visit} passes={passes} analysis={analysis} measure={measure} correction={correction} name={name} />
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
