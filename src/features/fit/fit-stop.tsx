'use client';

import { Button, Segmented } from 'antd';
import { useMemo, useState } from 'react';
import type { ShopRule } from '@/core/documents/shop-rules';
import { asFitRule } from '@/core/fit/own-rule';
import type { StoredUnit } from '@/core/documents/unit';
import { isFailure } from '@/core/failure';
import { lipOf } from '@/core/fit/facts';
import { openingCheck, type OpeningCheck } from '@/core/fit/openings';
import { worstWord, type Facts, type FitCheck } from '@/core/fit/rule';
import { throttleWideOpen } from '@/core/flow/throttle';
import { lipLoss } from '@/core/job/lip';
import { jobModel } from '@/core/job/model';
import { effectiveOpening, grossBore, type OpeningChoice } from '@/core/documents/openings';
import type { UnitPack } from '@/core/units/measures';
import { formatQuantity, formatSigned } from '@/core/units/quantity';
import { lipWorking } from '@/core/working/sizing-working';
import { useJob } from '@/features/job/provider';
import { useSized } from '@/features/job/use-model';
import { Heading, Pair, Rule, StopPage } from '@/ui/answer/stop-page';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { Boring } from './boring';
import { Checks, PartsList } from './checks';
import { FaceDrawing } from './face-drawing';
import { ruleText } from './facts-text';
import { OwnRules } from './own-rules';
import { CarSide, ManifoldSide, MountingSide, Openings } from './sides';
import { RunnerWith } from './runner';
import { Templates } from './templates';
import { ShopRules, useChosenUnit, useFitChecks } from './use-fit';
import styles from './fit.module.css';
import { Term } from '@/features/thinking/term';
import { NextThing } from '@/ui/answer/next-thing';
import { msg } from './messages';

/** The opening as it is and the bore that is to be, both across, and what that is on either side. */
interface Sizes {
  readonly from: string;
  readonly to: string;
  /** From the one to the other, in one unit. */
  readonly arrow: string;
  readonly side: string;
}

/** Best gain of the chosen throttle on the manifold as it is, and bored to match. */
function useGains(unit: StoredUnit): { asItIs: number | null; matched: number | null } {
  const sized = useSized();
  return useMemo(() => {
    const of = (opening: OpeningChoice): number | null => {
      const model = jobModel(sized, [{ unit, opening }]);
      const side = isFailure(model) ? null : model.candidates[0]!;
      return side?.gain_pct ? Math.max(...side.gain_pct) : null;
    };
    return { asItIs: of('as it is'), matched: of('matched') };
  }, [sized, unit]);
}

function openingText(name: string, { from, to, arrow, side }: Sizes, check: OpeningCheck): string {
  switch (check.lipSide) {
    case 'none':
      return `${name} and the manifold bore are the same size: nothing to work.`;
    case 'behind the bore':
      return `${name} has ${to} on a manifold bore of ${from}: air widens into it, nothing to work.`;
    case 'into the flow':
      return check.verdict === 'does not fit'
        ? `${name} needs the manifold bored ${arrow}, more than its flange allows.`
        : `${name} needs the manifold bored to match: ${arrow} bore (${side} a side).`;
  }
}

/** The answer in a sentence: what stops it, else what it needs, else how its bore lies on the opening. */
function answerOf(name: string, checks: readonly FitCheck[], facts: Facts, opening: string, opened: string | null, pack: UnitPack): string {
  const stops = checks.filter((c) => c.word === 'does not fit' && c.rule.id !== 'opening');
  if (stops[0]) return `${name} does not fit. ${ruleText(stops[0].why, facts, pack)}`;
  const needs = checks.filter((c) => c.word === 'needs something' && c.rule.id !== 'opening');
  if (needs.length === 0) {
    const word = worstWord(checks);
    if (facts['adapter.on'] === true) {
      const open = checks.filter((c) => c.word === 'not measured').length;
      return word === 'fits'
        ? `${name} fits on its adapter plate.`
        : `${name} fits on its adapter plate as far as it is measured; ${open} ${open === 1 ? 'check waits' : 'checks wait'} for a figure.`;
    }
    if (opened && word === 'fits') return `${name} fits: the manifold is opened ${opened}, and all that is needed stands ready.`;
    return opening;
  }
  const titles = needs.map((c) => c.rule.title.toLowerCase());
  const list = titles.length > 3 ? `${titles.slice(0, 3).join(', ')} and ${titles.length - 3} more` : titles.join(', ');
  return `${name} goes on once ${needs.length === 1 ? 'one thing is' : `${needs.length} things are`} seen to: ${list}.`;
}

/** Fit: the chosen throttle on the manifold it is to go on, what decides whether it does, what is needed, and the templates. */
export function FitStop({ shopRules = [] }: { shopRules?: readonly ShopRule[] }) {
  const unit = useChosenUnit();
  const [rules, setRules] = useState(shopRules);
  const asRules = useMemo(() => rules.map(asFitRule), [rules]);
  if (!unit) {
    return (
      <StopPage answer={msg.noThrottleIsChosenYetSo} reason={msg.chooseOneOnThePickStep} aside={<ManifoldSide />}>
        <NextThing shows={msg.hereThenLiesItsFlangeOn} links={[{ to: './pick', text: msg.goToPick }]} />
      </StopPage>
    );
  }
  return (
    <ShopRules value={asRules}>
      <Fitting unit={unit} rules={rules} onRules={setRules} />
    </ShopRules>
  );
}

const SIDES = ['Needed', 'Manifold', 'Mounting', 'Car'] as const;
type Side = (typeof SIDES)[number];

function Fitting({ unit, rules, onRules }: { unit: StoredUnit; rules: readonly ShopRule[]; onRules: (r: readonly ShopRule[]) => void }) {
  const { pack, palette } = usePrefs();
  const doc = useJob((s) => s.doc);
  const set = useJob((s) => s.set);
  const gains = useGains(unit);
  const { facts, checks } = useFitChecks(unit);
  const [side, setSide] = useState<Side>('Needed');
  const [editing, setEditing] = useState(false);
  const { name, throttle, largestOpening_m } = unit.doc;
  const bore = grossBore(throttle);
  const check = openingCheck(throttle, bore, effectiveOpening(doc), largestOpening_m);
  const color = palette.series[Math.max(0, doc.pick.shown.indexOf(unit.id)) % palette.series.length]!;
  const wide = throttleWideOpen(throttle);
  if (isFailure(check) || isFailure(wide))
    return <StopPage tone="danger" answer={msg.thisThrottlesMeasuresContradictEachOther} aside={<ManifoldSide />} children={null} />;
  const over = formatQuantity(Math.abs(check.overhang_m), 'bore', pack);
  const [from, to] = [effectiveOpening(doc), bore].map((d) => formatQuantity(d, 'bore', pack)) as [string, string];
  const arrow = `${from.replace(/\s\S+$/, '')} → ${to}`;
  const opening = openingText(name, { from, to, arrow, side: over }, check);
  // On an adapter plate the taper takes the place of the lip.
  const into = check.lipSide === 'into the flow' && !doc.fit.mounting.adapter;
  const opened = into && doc.fit.mounting.have.includes('opening') ? arrow : null;
  const answer = answerOf(name, checks, facts, opening, opened, pack);
  const worth =
    gains.asItIs !== null && gains.matched !== null && into
      ? `Left as it is the throttle brings ${formatSigned(gains.asItIs, 1, '%')} where it brings most; bored to match, ${formatSigned(gains.matched, 1, '%')}.`
      : '';
  const word = worstWord(checks);
  return (
    <StopPage
      wideAside
      answer={answer}
      reason={[answer === opening || opened || doc.fit.mounting.adapter ? '' : opening, worth].filter(Boolean).join(' ')}
      tone={word === 'does not fit' ? 'danger' : undefined}
      aside={
        <>
          <Segmented<Side>
            block
            size="small"
            className={styles['sides']!}
            aria-label={msg.besideTheDrawing}
            value={side}
            options={[...SIDES]}
            onChange={setSide}
          />
          {side === 'Needed' && (
            <>
              <Heading>{msg.theWhole}</Heading>
              <Pair name="verdict">
                <span className={styles['verdict']} data-word={word}>
                  {word}
                </span>
              </Pair>
              <LipPairs unit={unit} over={over} into={into} gross_m2={wide.grossArea_m2} bore_m={bore} />
              {largestOpening_m !== null && (
                <Pair name="flange allows up to">
                  <span>{formatQuantity(largestOpening_m, 'bore', pack)}</span>
                </Pair>
              )}
              <RunnerWith unit_m={(facts['length.unit_m'] as number | null) ?? null} name={name} />
              <Rule />
              <Heading>{msg.partsList}</Heading>
              <PartsList all={checks} facts={facts} />
              <Button size="small" type="link" style={{ padding: 0 }} onClick={() => setEditing(true)}>
                {msg.checksOfOurOwn2}
                {rules.length > 0 ? ` (${rules.length})` : ''}
              </Button>
              <Rule />
              <Openings />
              {into && (
                <>
                  <Rule />
                  <Heading>{msg.beforeTheCutter}</Heading>
                  <p>{msg.traceTheGasketAsTheTemplate}</p>
                </>
              )}
            </>
          )}
          {side === 'Manifold' && <ManifoldSide />}
          {side === 'Mounting' && <MountingSide unit={unit} />}
          {side === 'Car' && <CarSide />}
        </>
      }
    >
      <FaceDrawing doc={doc} unit={unit.doc} color={color} onClock={(clock) => set('fit.mounting.clock_rad', clock)} />
      <Checks checks={checks} facts={facts} />
      {into && <Boring unit={unit} />}
      <Templates unit={unit} />
      {editing && <OwnRules rules={rules} onSaved={onRules} onClose={() => setEditing(false)} />}
    </StopPage>
  );
}

/** The lip: how wide, how much metal in the air, and what that costs at peak power. */
function LipPairs({
  unit,
  over,
  into,
  gross_m2,
  bore_m,
}: {
  unit: StoredUnit;
  over: string;
  into: boolean;
  gross_m2: number;
  bore_m: number;
}) {
  const { pack } = usePrefs();
  const doc = useJob((s) => s.doc);
  const sized = useSized();
  const lip = lipOf(doc, unit.doc);
  const loss = useMemo(() => (into ? lipLoss(sized, unit) : null), [into, sized, unit]);
  const working = () => lipWorking(doc, unit.doc.name, bore_m, gross_m2, effectiveOpening(doc), loss);
  return (
    <>
      <Pair name={into ? <Term name="step">{msg.stepFacingTheFlow}</Term> : 'ledge behind the bore'}>
        <Num small label={msg.stepArea} working={working}>
          {lip ? formatQuantity(into ? lip.lip_m2 : lip.ledge_m2, 'area', pack) : '—'}
        </Num>
      </Pair>
      <Pair name="on each side">
        <Num small label={msg.overhangOnEachSide} working={working}>
          {over}
        </Num>
      </Pair>
      {loss && (
        <Pair name={`it costs, at ${formatQuantity(loss.at_rpm, 'rpm', pack)}`}>
          <Num small label={msg.lossOfTheStep} working={working}>
            {formatQuantity(loss.loss_Pa, 'loss', pack)}
          </Num>
        </Pair>
      )}
    </>
  );
}
