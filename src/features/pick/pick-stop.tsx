'use client';

import { peakGain, peakOf } from '@/core/numbers/peak';
import { Button, Progress, Segmented } from 'antd';
import { parseAsFloat, parseAsStringLiteral, useQueryState } from 'nuqs';
import { useCallback, useDeferredValue, useMemo, type ReactNode } from 'react';
import { MOST_SHOWN } from '@/core/documents/kinds';
import { isFailure, type Failure } from '@/core/failure';
import { jobBounds } from '@/core/job/bounds';
import { jobKnee, kneeBores, peakAtBore } from '@/core/job/knee';
import { jobModel, type JobModel } from '@/core/job/model';
import { effectiveOpening, grossBore, type OpeningChoice } from '@/core/documents/openings';
import { leaderOf, type RankedUnit } from '@/core/job/ranking';
import { formatNumber, formatQuantity, formatSigned } from '@/core/units/quantity';
import { peakGainWorking } from '@/core/working/bore-working';
import { useJob, useShelf } from '@/features/job/provider';
import { useModel, useShelfRanking, useShownUnits, useSized } from '@/features/job/use-model';
import type { Deciding } from '@/core/job/deciding';
import type { UnitPack } from '@/core/units/measures';
import { chokingText, Limits } from '@/features/job/limits';
import { useDeciding } from '@/features/job/use-deciding';
import { useUncertainty, type UncertaintyState } from '@/features/job/use-uncertainty';
import { Heading, Pair, Rule, StopPage } from '@/ui/answer/stop-page';
import { failureText } from '@/ui/answer/words';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { Bores } from './bores';
import { GainCharts } from './gain-chart';
import { KneeChart } from './knee-chart';
import { PedalChart } from './pedal-chart';
import { RankingTable } from './ranking-table';
import { Tolerances } from './tolerances';
import { aheadByWaves, useWaveRows, WaveGains } from './wave-gains';
import { WhatIfPanel } from './what-if';
import { WindowPanel } from './window-panel';
import { later as laterPart } from '@/ui/later';
import styles from './pick.module.css';
import { verdictWord } from '@/ui/answer/verdict-word';
import { NextThing } from '@/ui/answer/next-thing';
import { msg } from './messages';

const Remap = laterPart(() => import('./remap').then((m) => m.Remap));

/** The same units with the other choice of opening, so that both can be told. */
function useOtherOpening(model: JobModel | Failure): JobModel | null {
  const sized = useSized();
  const units = useShownUnits();
  const now = useJob((s) => s.doc.pick.opening);
  return useMemo(() => {
    if (isFailure(model)) return null;
    const opening: OpeningChoice = now === 'matched' ? 'as it is' : 'matched';
    const other = jobModel(
      sized,
      units.map((unit) => ({ unit, opening })),
    );
    return isFailure(other) ? null : other;
  }, [model, sized, units, now]);
}

const gainOf = (model: JobModel | null, id: string): number | null => {
  const side = model?.candidates.find((c) => c.id === id);
  if (!model || !side || isFailure(side.solved)) return null;
  return peakGain(side.solved.power_W, model.reference.result.power_W);
};

function answerText(best: RankedUnit | undefined, opening: OpeningChoice, behindCompressor: boolean): string {
  if (!best) return 'Nothing to rank: the shelf is empty. Put throttle bodies on it in the Shelf room.';
  const how = opening === 'matched' ? 'with the manifold bored to match' : 'on the manifold as it is';
  const gain = best.peakGain_pct === null ? '' : `: ${formatSigned(best.peakGain_pct, 1, '%')} at peak ${how}`;
  switch (best.verdict) {
    case 'not the restriction':
      return `Leave it alone: the best on the shelf, ${best.unit.doc.name}, brings ${formatSigned(best.peakGain_pct ?? 0, 1, '%')}${best.choking ? `; the ${best.choking.part} holds this engine` : behindCompressor ? '; behind the compressor the air is dense' : ''}.`;
    case 'too big for its manners':
      return `Nothing on the shelf suits: ${best.unit.doc.name} is too touchy off idle.`;
    case 'does not fit':
      return `Nothing on the shelf fits: ${best.unit.doc.name} is too wide for its flange.`;
    case 'costs power':
      return `Nothing on the shelf is larger than what is on: the best, ${best.unit.doc.name}, costs ${formatNumber(best.largestLoss_pct ?? 0, 1)} %.`;
    case 'measure the gap':
      return `${best.unit.doc.name} would be worth having${gain}, if its blade shuts well enough to idle: measure the blade’s clearance first.`;
    case 'chokes':
      return `${best.unit.doc.name} cannot be solved on this engine.`;
    default:
      return `${best.unit.doc.name} is ${best.verdict}${gain}.`;
  }
}

/** A gain smaller than this reads as none, %. */
const SAME_pct = 0.05;

function reasonText(
  ranked: readonly RankedUnit[],
  best: RankedUnit | undefined,
  other: JobModel | null,
  opening: OpeningChoice,
  money: (v: number) => string,
): string {
  const parts: string[] = [];
  const there = best ? gainOf(other, best.unit.id) : null;
  if (there !== null && best && Math.abs(there - (best.peakGain_pct ?? 0)) >= 0.1)
    parts.push(
      opening === 'matched'
        ? `On the manifold as it is it would bring ${formatSigned(there, 1, '%')}: the rest comes from boring the manifold.`
        : `With the manifold bored to match it would bring ${formatSigned(there, 1, '%')}.`,
    );
  const larger = ranked[0];
  const more = larger && best ? (larger.peakGain_pct ?? 0) - (best.peakGain_pct ?? 0) : 0;
  if (best && larger && larger !== best && larger.price !== null && best.price !== null && more >= SAME_pct)
    parts.push(`${larger.unit.doc.name} would add ${formatNumber(more, 1)} % to that for ${money(larger.price - best.price)} more.`);
  if (best?.choking) parts.push(chokingText(best.unit.doc.name, best.choking));
  if (best && best.side.fitted.bench?.kind === 'claim')
    parts.push(`What ${best.unit.doc.name} flows is only claimed: the answer hangs on it until somebody reads it.`);
  const rude = ranked.filter((r) => r.verdict === 'too big for its manners' && r.side !== best?.side).at(0);
  if (rude && rude.tipInRatio > rude.tipInLimit)
    parts.push(
      `${rude.unit.doc.name} is too touchy off idle: the first tenth of the pedal opens ${formatNumber(rude.tipInRatio, 2)} times what stock does; ${formatNumber(rude.tipInLimit, 2)} is the limit for this control.`,
    );
  return parts.join(' ');
}

/** On what the answer hangs, and what it would be instead. */
function decidingText({ what, measure, now, then, leader, verdict, gain_pct }: Deciding, pack: UnitPack): string {
  const show = (v: number): string => formatQuantity(v, measure, pack);
  const would =
    leader === null || verdict === null
      ? 'nothing would lead'
      : `it would be ${leader}, ${verdictWord(verdict)}${gain_pct === null ? '' : ` at ${formatSigned(gain_pct, 1, '%')}`}`;
  return `The answer hangs on the ${what}: it is assumed ${show(now)}; at ${show(then)} ${would}. Measure it.`;
}

const KNEE_HEIGHT = 256;
const LOOKS = ['power', 'pedal', 'remap'] as const;
type Look = (typeof LOOKS)[number];
const LOOK_WORDS: Readonly<Record<Look, string>> = { power: 'Power over rpm', pedal: 'Area over pedal', remap: 'Remap' };

/** The bore tried by hand, kept in the address, m. */
function useProbe(start_m: number): [number, (bore_m: number) => void] {
  const [mm, setMm] = useQueryState('bore', parseAsFloat.withOptions({ throttleMs: 300 }));
  const set = useCallback((m: number) => void setMm(Math.round(m * 1e5) / 100), [setMm]);
  return [mm === null ? start_m : mm / 1000, set];
}

const TRIED = 'The stock throttle’s own make in this size: shaft, blade and finish as they are.';

function Probe({ model, bore_m }: { model: JobModel; bore_m: number }) {
  const { pack } = usePrefs();
  const sized = useSized();
  const stock = peakOf(model.reference.result.power_W);
  const gain = (opening: OpeningChoice): ReactNode => {
    const peak = peakAtBore(sized, model, bore_m, opening);
    if (peak === null) return 'chokes';
    return (
      <Num
        small
        label={`gain of the bore tried, ${opening}`}
        working={() => peakGainWorking('Gain of the bore tried', stock, peak, [TRIED])}
      >
        {formatSigned(100 * (peak / stock - 1), 1, '%')}
      </Num>
    );
  };
  return (
    <>
      <Heading>
        {msg.boreTried2} {formatQuantity(bore_m, 'bore', pack)}
      </Heading>
      <Pair name="bored to match">{gain('matched')}</Pair>
      <Pair name="manifold as it is">{gain('as it is')}</Pair>
    </>
  );
}

function RangeProgress({ uncertainty, any }: { uncertainty: UncertaintyState; any: boolean }) {
  const { progress, ranges, stop, start } = uncertainty;
  if (progress !== null)
    return (
      <span className={styles['progress']}>
        <Progress
          percent={Math.round(100 * progress)}
          size="small"
          showInfo={false}
          style={{ width: 110 }}
          aria-label={msg.rangesBeingDrawn}
        />
        <Button size="small" type="text" onClick={stop}>
          {msg.stop}
        </Button>
      </span>
    );
  if (!any) return null;
  return Object.keys(ranges).length > 0 ? (
    <span className="quiet">{msg.ranges8Of10Of2}</span>
  ) : (
    <Button size="small" type="text" onClick={start}>
      {msg.drawTheRanges}
    </Button>
  );
}

/** Beside the answer: the manifold's bore, what the probe reads, the bores to scale, the window and what is set loose. */
function Beside({
  model,
  bounds,
  probe_m,
  colorOf,
}: {
  model: JobModel;
  bounds: ReturnType<typeof jobBounds>;
  probe_m: number;
  colorOf: (id: string) => string | null;
}) {
  const doc = useJob((s) => s.doc);
  const set = useJob((s) => s.set);
  const { pack, palette } = usePrefs();
  const sides = [
    { id: 'stock', name: 'stock', fitted: model.stock.fitted, color: palette.stock, dashed: true },
    ...model.candidates.map((c) => ({ id: c.id, name: c.name, fitted: c.fitted, color: colorOf(c.id)!, dashed: false })),
  ];
  return (
    <>
      <Heading>
        {msg.manifoldBoreNow} {formatQuantity(effectiveOpening(doc), 'bore', pack)}
      </Heading>
      <Segmented<OpeningChoice>
        block
        aria-label={msg.manifoldBore}
        value={doc.pick.opening}
        onChange={(v) => set('pick.opening', v)}
        options={[
          { label: msg.manifoldAsIs, value: 'as it is' },
          { label: msg.boredToMatch, value: 'matched' },
        ]}
      />
      <Probe model={model} bore_m={probe_m} />
      <Heading>{msg.boresToScale}</Heading>
      <Bores sides={sides} opening_m={effectiveOpening(doc)} />
      <p className="quiet" style={{ fontSize: 13 }}>
        {msg.hatchedTheManifoldAsItIs}
      </p>
      <Rule />
      <WindowPanel model={model} bounds={bounds} />
      <WhatIfPanel model={model} />
      <Rule />
      <Tolerances />
    </>
  );
}

/** A closer look at those on show: power, pedal, or the pedal's map drawn anew. */
function Looks({
  model,
  other,
  opening,
  colorOf,
}: {
  model: JobModel;
  other: ReturnType<typeof useOtherOpening>;
  opening: OpeningChoice;
  colorOf: (id: string) => string | null;
}) {
  const { palette } = usePrefs();
  const [look, setLook] = useQueryState('look', parseAsStringLiteral(LOOKS).withDefault('power').withOptions({ history: 'push' }));
  const pedal = useMemo(
    () => [
      { id: 'stock', name: 'stock', throttle: model.stock.fitted.throttle, color: palette.stock, dashed: true },
      ...model.candidates.map((c) => ({ id: c.id, name: c.name, throttle: c.fitted.throttle, color: colorOf(c.id)!, dashed: false })),
    ],
    [model, palette, colorOf],
  );
  return (
    <>
      <div className={styles['head']}>
        <Segmented<Look>
          size="small"
          aria-label={msg.lookAt}
          value={look}
          onChange={(v) => void setLook(v)}
          options={LOOKS.map((value) => ({ value, label: LOOK_WORDS[value] }))}
        />
        <span className="quiet">
          {look === 'power'
            ? `Solid: ${opening === 'matched' ? 'manifold bored to match' : 'manifold as it is'}. Dotted: ${opening === 'matched' ? 'manifold as it is' : 'bored to match'}.`
            : ''}
        </span>
      </div>
      {look === 'power' && <GainCharts model={model} other={other} height={400} />}
      {look === 'pedal' && <PedalChart sides={pedal} height={300} />}
      {look === 'remap' && <Remap model={model} />}
    </>
  );
}

function Solved({ model }: { model: JobModel }) {
  const shelf = useShelf();
  const other = useOtherOpening(model);
  const doc = useJob((s) => s.doc);
  const { pack, palette, money } = usePrefs();
  const sized = useSized();
  const { opening, shown } = doc.pick;
  const bounds = useMemo(() => jobBounds(sized, model, opening), [sized, model, opening]);
  // The whole shelf is ranked and the knee drawn behind the answer: a hand on a slider comes first.
  const later = useDeferredValue(model);
  const ranked = useShelfRanking(later, bounds);
  const [probe_m, setProbe] = useProbe(grossBore(doc.car.stock.throttle));
  // Eighty engines solved for a picture that only the browser draws: not on the server, and not before the page is alive.
  const drawn = useDeferredValue(true, false);
  const knee = useMemo(() => {
    if (!drawn) return null;
    const others = shelf.map((u) => grossBore(u.doc.throttle));
    return jobKnee(sized, later, kneeBores(sized, others), bounds.limits.powerShare);
  }, [drawn, sized, later, shelf, bounds]);
  const uncertainty = useUncertainty(model);
  const colorOf = useCallback(
    (id: string): string | null => {
      const at = model.candidates.findIndex((c) => c.id === id);
      return at < 0 ? null : palette.series[at % palette.series.length]!;
    },
    [model, palette],
  );
  const best = leaderOf(ranked);
  const waves = useWaveRows(later);
  const deciding = useDeciding(ranked);
  return (
    <StopPage
      answer={answerText(best, opening, model.before !== null)}
      reason={[
        reasonText(ranked, best, other, opening, money),
        deciding && decidingText(deciding, pack),
        aheadByWaves(waves, best?.side.id ?? null),
      ]
        .filter(Boolean)
        .join(' ')}
      aside={
        <>
          <Beside model={model} bounds={bounds} probe_m={probe_m} colorOf={colorOf} />
        </>
      }
    >
      <Limits model={model} />
      <div style={{ minHeight: KNEE_HEIGHT }}>
        {knee && (
          <KneeChart
            model={later}
            knee={knee}
            bounds={bounds}
            ranked={ranked}
            colorOf={colorOf}
            probe_m={probe_m}
            onProbe={setProbe}
            height={KNEE_HEIGHT}
          />
        )}
      </div>
      <div className={styles['head']}>
        <h2 className="label">
          {msg.theShelfRanked} {shown.length} {msg.ofWord} {MOST_SHOWN} {msg.onShow}
        </h2>
        <RangeProgress uncertainty={uncertainty} any={model.candidates.length > 0} />
      </div>
      {ranked.length === 0 ? (
        <NextThing
          shows={msg.hereThenStandTheThrottlesOf}
          links={[
            { to: '/shelf', text: msg.putThrottleBodiesOnTheShelf },
            { to: './air', text: msg.seeFirstWhetherStockRunsShort },
          ]}
        />
      ) : (
        <RankingTable ranked={ranked} model={model} ranges={uncertainty.ranges} colorOf={colorOf} />
      )}
      <WaveGains model={later} waves={waves} />
      <Looks model={model} other={other} opening={opening} colorOf={colorOf} />
    </StopPage>
  );
}

/** Pick: what each throttle of the shelf would bring, at what price in money and drivability; one is chosen. */
export function PickStop() {
  const model = useModel();
  const { pack } = usePrefs();
  if (!isFailure(model)) return <Solved model={model} />;
  return (
    <StopPage tone="danger" answer={msg.nothingCanBeComparedYet} reason={failureText(model, pack)} aside={null}>
      <p style={{ marginTop: 16 }}>{msg.putTheIntakeRightOnThe}</p>
    </StopPage>
  );
}
