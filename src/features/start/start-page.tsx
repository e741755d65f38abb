'use client';

import { Button, Input, Segmented, Select } from 'antd';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { isFailure } from '@/core/failure';
import type { InductionKind } from '@/core/documents/induction';
import { issuesOf } from '@/core/documents/issue';
import { guidedFacts, type GuidedFacts } from '@/core/documents/guided';
import { guidedJob, guidedUnit, USUAL_FACTS } from '@/core/job/guided';
import { jobModel } from '@/core/job/model';
import { rankUnits } from '@/core/job/ranking';
import { VERDICT_GAIN_pct } from '@/core/sizing/window';
import type { MeasureName, UnitPack } from '@/core/units/measures';
import { formatNumber, formatQuantity, formatSigned } from '@/core/units/quantity';
import { Heading, Pair, StopPage } from '@/ui/answer/stop-page';
import { verdictWord } from '@/ui/answer/verdict-word';
import { failureText } from '@/ui/answer/words';
import { Chart } from '@/ui/chart/lazy-chart';
import { ControlRow, FieldRow } from '@/ui/field/field-row';
import { issueText } from '@/core/documents/issue-text';
import { send } from '@/ui/post';
import { usePrefs } from '@/ui/theme/prefs';
import { StartDrawing, type DrawnField } from './drawing';
import styles from './start.module.css';
import { msg } from './messages';

const FILLED: readonly { value: InductionKind; label: string }[] = [
  { value: 'na', label: msg.noBoostOneThrottle },
  { value: 'individual', label: msg.noBoostAThrottleForEach },
  { value: 'drawThrough', label: msg.blowerBehindItsThrottle },
  { value: 'centrifugal', label: msg.centrifugalBlowerAheadOfIt },
  { value: 'turbo', label: msg.turboAheadOfIt },
];

type Typed = { -readonly [K in keyof GuidedFacts]: GuidedFacts[K] };

/** What the few facts come to: solved as they are typed, with what stands in for all the others. */
function useAnswer(facts: GuidedFacts) {
  return useMemo(() => {
    const parsed = guidedFacts.safeParse(facts);
    if (!parsed.success) return { issues: issuesOf(parsed.error), doc: null, model: null, ranked: null };
    const doc = guidedJob('New car', parsed.data);
    const unit = { id: 'candidate', version: 1, doc: guidedUnit(doc, facts.candidate_m) };
    const model = jobModel(doc, [{ unit, opening: 'matched' }]);
    return { issues: [], doc, model, ranked: isFailure(model) ? null : rankUnits(doc, model, [unit])[0]! };
  }, [facts]);
}

function sentence({ model, ranked }: ReturnType<typeof useAnswer>, facts: GuidedFacts, pack: UnitPack): string {
  if (model === null) return 'Put right what is marked, and the answer comes back.';
  if (isFailure(model)) return failureText(model, pack);
  const { givesOut_rpm } = model.stock;
  const stock =
    givesOut_rpm === null
      ? 'Stock is enough to redline'
      : `Stock runs short from ${formatNumber(Math.round(givesOut_rpm / 10) * 10, 0)} rpm`;
  if (!ranked || ranked.peakGain_pct === null) return `${stock}.`;
  return `${stock}; ${formatQuantity(facts.candidate_m, 'bore', pack)} would bring ${formatSigned(ranked.peakGain_pct, 1, '%')} at peak: ${verdictWord(ranked.verdict)}.`;
}

function Gain({ answer }: { answer: ReturnType<typeof useAnswer> }) {
  const { palette } = usePrefs();
  const { model } = answer;
  const gain = model && !isFailure(model) ? model.candidates[0]?.gain_pct : null;
  if (!model || isFailure(model) || !gain) return null;
  const x = [model.rpm[0]!, model.rpm.at(-1)!] as const;
  const worth = VERDICT_GAIN_pct.worthBuying;
  return (
    <Chart
      name="gain"
      height={230}
      alt={msg.predictedPowerAgainstStockOverRpm}
      spec={{
        lines: [
          { id: 'stock', label: msg.stock, x, y: [0, 0], color: palette.stock, dash: 'longdash' },
          { id: 'new', label: msg.theBoreYouThinkOf, x: model.rpm, y: gain, color: palette.series[0]!, width: 2.4 },
          {
            id: 'worth',
            label: `worth buying ${formatNumber(worth, 1)}`,
            x,
            y: [worth, worth],
            color: palette.quiet,
            dash: 'dot',
            width: 1,
          },
        ],
        xRange: x,
        yRange: [Math.min(-0.3, ...gain) - 0.1, Math.max(2, ...gain) * 1.1],
        xTitle: 'rpm',
        yTitle: 'power against stock, %',
        marginRight: 130,
        decimals: 2,
      }}
    />
  );
}

/** What the figures come to so far, beside the sentence. */
function SoFar({ answer: { model, ranked } }: { answer: ReturnType<typeof useAnswer> }) {
  const { pack } = usePrefs();
  if (!model || isFailure(model)) return null;
  return (
    <>
      <Heading>{msg.soFar}</Heading>
      <Pair name="peak power, stock, estimated">
        <b>{formatQuantity(Math.max(...model.reference.result.power_W), 'power', pack)}</b>
      </Pair>
      {ranked && (
        <>
          <Pair name="first tenth of the pedal, against stock">
            <b>
              {formatNumber(ranked.tipInRatio, 2)} {msg.upTo} {formatNumber(ranked.tipInLimit, 1)})
            </b>
          </Pair>
          <Pair name="best gain anywhere">
            <b>{ranked.largestGain_pct === null ? '—' : formatSigned(ranked.largestGain_pct, 1, '%')}</b>
          </Pair>
        </>
      )}
    </>
  );
}

/** The figures become a job, which one goes on with. */
function GoOn({ facts, ready }: { facts: GuidedFacts; ready: boolean }) {
  const router = useRouter();
  const [name, setName] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const create = (): void => {
    setBusy(true);
    setWrong(null);
    send<{ id: string }>('POST', '/api/jobs', { name: name.trim() === '' ? 'New car' : name.trim(), guided: facts })
      .then(({ id }) => router.push(`/jobs/${id}/pick`))
      .catch((e: Error) => {
        setWrong(e.message);
        setBusy(false);
      });
  };
  return (
    <>
      <Heading>{msg.goOnWithIt}</Heading>
      <Input
        aria-label={msg.nameOfTheJob}
        placeholder={msg.theCarOrItsOwner}
        maxLength={80}
        value={name}
        onChange={(e) => setName(e.target.value)}
        onPressEnter={create}
      />
      <Button type="primary" block style={{ marginTop: 8 }} loading={busy} disabled={!ready} onClick={create}>
        {msg.makeItAJob}
      </Button>
      {wrong && (
        <p role="alert" className={styles['wrong']}>
          {wrong}
        </p>
      )}
      <p className="quiet">{msg.theBoreYouThinkOfGoes}</p>
    </>
  );
}

/** The nine figures. `onDrawn` hears which part of the drawing the one that is typed in stands for. */
function Facts({
  facts,
  issues,
  put,
  onDrawn,
}: {
  facts: GuidedFacts;
  issues: ReturnType<typeof useAnswer>['issues'];
  put: (more: Partial<Typed>) => void;
  onDrawn: (field: DrawnField) => void;
}) {
  const { pack } = usePrefs();
  const issue = (key: keyof GuidedFacts, measure: MeasureName): string | undefined => {
    const found = issues.find((i) => i.path === key);
    return found && issueText(found, measure, pack);
  };
  const figure = (
    key: 'displacement_m3' | 'redline_rpm' | 'bore_m' | 'shaft_m' | 'pipe_m' | 'candidate_m',
    label: string,
    measure: MeasureName,
    at: DrawnField,
  ) => (
    <div onFocus={() => onDrawn(at)}>
      <FieldRow label={label} measure={measure} value={facts[key]} wrong={issue(key, measure)} onChange={(v) => put({ [key]: v })} />
    </div>
  );
  return (
    <div className={styles['fields']}>
      <h2 className="label">{msg.theEngine}</h2>
      {figure('displacement_m3', 'Displacement', 'displacement', 'engine')}
      {figure('redline_rpm', 'Redline', 'rpm', 'engine')}
      <div onFocus={() => onDrawn('engine')}>
        <FieldRow
          label={msg.cylinders}
          measure="count"
          value={facts.cylinders}
          wrong={issue('cylinders', 'count')}
          onChange={(cylinders) => put({ cylinders })}
        />
        <ControlRow label={msg.howItIsFilled}>
          <Select
            aria-label={msg.howItIsFilled}
            style={{ width: '100%' }}
            popupMatchSelectWidth={false}
            value={facts.kind}
            options={[...FILLED]}
            onChange={(kind) => put({ kind })}
          />
        </ControlRow>
      </div>
      <h2 className="label">{msg.itsThrottle}</h2>
      {figure('bore_m', 'Bore at the blade', 'bore', 'bore')}
      {figure('shaft_m', 'Shaft', 'fineLength', 'shaft')}
      {figure('pipe_m', 'Pipe ahead of it', 'bore', 'pipe')}
      <div onFocus={() => onDrawn('flow')}>
        <FieldRow
          label={msg.itFlowsAt28Inh2o}
          measure="benchFlow"
          value={facts.flow_m3ps}
          placeholder={msg.notKnown}
          wrong={issue('flow_m3ps', 'benchFlow')}
          onChange={(flow_m3ps) => put({ flow_m3ps })}
          onClear={() => put({ flow_m3ps: null })}
        />
        {facts.flow_m3ps !== null && (
          <Segmented
            size="small"
            aria-label={msg.whereTheFlowComesFrom}
            value={facts.flowIs}
            options={[
              { value: 'claim' as const, label: msg.aClaim },
              { value: 'reading' as const, label: msg.readOnABench },
            ]}
            onChange={(flowIs) => put({ flowIs })}
          />
        )}
      </div>
      <h2 className="label">{msg.theBoreYouThinkOf2}</h2>
      {figure('candidate_m', 'Bore', 'bore', 'candidate')}
    </div>
  );
}

/** A first answer out of nine figures, growing as they are typed; it becomes a job one can go on with. */
export function StartPage() {
  const { pack } = usePrefs();
  const [facts, setFacts] = useState<Typed>(USUAL_FACTS);
  const [touched, setTouched] = useState<ReadonlySet<string>>(new Set());
  const [drawn, setDrawn] = useState<DrawnField>('engine');
  const answer = useAnswer(facts);
  const put = (more: Partial<Typed>): void => {
    setFacts((was) => ({ ...was, ...more }));
    setTouched((was) => new Set([...was, ...Object.keys(more)]));
  };
  return (
    <StopPage
      answer={sentence(answer, facts, pack)}
      reason={
        touched.size === 0
          ? 'These are the figures of an ordinary four: type yours over them, and the answer follows.'
          : 'With the usual figures for everything you have not said: cam, filter, bends, air of a mild day. They are marked assumed in the job, and each can be put right there.'
      }
      aside={
        <>
          <SoFar answer={answer} />
          <GoOn facts={facts} ready={answer.doc !== null} />
        </>
      }
    >
      <div className={styles['guide']}>
        <Facts facts={facts} issues={answer.issues} put={put} onDrawn={setDrawn} />
        <div className={styles['picture']}>
          <StartDrawing facts={facts} at={drawn} />
          <Gain answer={answer} />
        </div>
      </div>
    </StopPage>
  );
}
