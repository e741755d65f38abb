'use client';

import { Checkbox, Segmented } from 'antd';
import { useMemo } from 'react';
import { isFailure, type Failure } from '@/core/failure';
import { jobModel, type JobModel } from '@/core/job/model';
import { effectiveOpening, type OpeningChoice } from '@/core/job/path';
import type { RankedUnit } from '@/core/job/ranking';
import { formatNumber, formatQuantity, formatSigned } from '@/core/units/quantity';
import { useJob, useShelf } from '@/features/job/provider';
import { useModel, useRanking, useShownUnits, useSized } from '@/features/job/use-model';
import { Heading, Pair, Rule, StopPage } from '@/ui/answer/stop';
import { failureText, rpmText } from '@/ui/answer/words';
import { usePrefs } from '@/ui/theme/prefs';
import { Bores } from './bores';
import { GainCharts } from './gain-chart';
import { RankingTable } from './ranking-table';
import styles from './pick.module.css';

const LIMIT_SHOWN = 3;

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

const peakOf = (model: JobModel | null, id: string): number | null => {
  const side = model?.candidates.find((c) => c.id === id);
  if (!model || !side || isFailure(side.solved)) return null;
  return 100 * (Math.max(...side.solved.power_W) / Math.max(...model.reference.result.power_W) - 1);
};

function answerText(best: RankedUnit | undefined, opening: OpeningChoice): string {
  if (!best) return 'Nothing on show: put up to three units from the shelf beside stock.';
  const how = opening === 'matched' ? 'with the manifold opened to match' : 'on the opening as it is';
  const gain = best.peakGain_pct === null ? '' : `: ${formatSigned(best.peakGain_pct, 1, '%')} at peak ${how}`;
  switch (best.verdict) {
    case 'not the restriction':
      return `Leave it alone: the best on show, ${best.unit.doc.name}, brings ${formatSigned(best.peakGain_pct ?? 0, 1, '%')} ${how}.`;
    case 'too big for its manners':
      return `Nothing on show suits: ${best.unit.doc.name} is too big for its manners.`;
    case 'chokes':
      return `${best.unit.doc.name} chokes on this engine.`;
    default:
      return `${best.unit.doc.name} is ${best.verdict}${gain}.`;
  }
}

function reasonText(ranked: readonly RankedUnit[], best: RankedUnit | undefined, other: JobModel | null, opening: OpeningChoice): string {
  const parts: string[] = [];
  const there = best ? peakOf(other, best.unit.id) : null;
  if (there !== null)
    parts.push(
      opening === 'matched'
        ? `On the opening as it is it would bring ${formatSigned(there, 1, '%')}: the rest comes from opening the manifold.`
        : `With the manifold opened to match it would bring ${formatSigned(there, 1, '%')}.`,
    );
  const rude = ranked.find((r) => r.verdict === 'too big for its manners');
  if (rude && rude.tipInRatio > rude.tipInLimit)
    parts.push(
      `${rude.unit.doc.name} is too big for its manners: the first tenth of the pedal opens ${formatNumber(rude.tipInRatio, 2)} times what stock does; ${formatNumber(rude.tipInLimit, 2)} is the limit for this control.`,
    );
  return parts.join(' ');
}

function ShelfChooser() {
  const shelf = useShelf();
  const shown = useJob((s) => s.doc.pick.shown);
  const set = useJob((s) => s.set);
  const { pack } = usePrefs();
  if (shelf.length === 0)
    return <p className="quiet">The shelf is empty. The demo brings three units; your own come with the Shelf room.</p>;
  return (
    <ul className={styles['shelf']}>
      {shelf.map((u) => {
        const on = shown.includes(u.id);
        return (
          <li key={u.id}>
            <Checkbox
              checked={on}
              disabled={!on && shown.length >= LIMIT_SHOWN}
              onChange={() => set('pick.shown', on ? shown.filter((x) => x !== u.id) : [...shown, u.id])}
            >
              {u.doc.name}
            </Checkbox>
            <span className="quiet">{formatQuantity(u.doc.throttle.bore_m, 'bore', pack, pack === 'us' ? 2 : 0)}</span>
          </li>
        );
      })}
    </ul>
  );
}

function Solved({ model }: { model: JobModel }) {
  const ranked = useRanking(model);
  const other = useOtherOpening(model);
  const doc = useJob((s) => s.doc);
  const set = useJob((s) => s.set);
  const { pack, palette } = usePrefs();
  const { opening, chosen } = doc.pick;
  const best = ranked[0];
  const picked = ranked.find((r) => r.unit.id === chosen);
  const sides = [
    { id: 'stock', name: 'stock', fitted: model.stock.fitted, color: palette.stock, dashed: true },
    ...model.candidates.map((c, i) => ({
      id: c.id,
      name: c.name,
      fitted: c.fitted,
      color: palette.series[i % palette.series.length]!,
      dashed: false,
    })),
  ];
  const at = best && !isFailure(best.side.solved) ? best.side.solved.power_W.indexOf(Math.max(...best.side.solved.power_W)) : null;
  return (
    <StopPage
      answer={answerText(best, opening)}
      reason={reasonText(ranked, best, other, opening)}
      aside={
        <>
          <Heading>Manifold opening, now {formatQuantity(effectiveOpening(doc), 'bore', pack)}</Heading>
          <Segmented<OpeningChoice>
            block
            aria-label="Manifold opening"
            value={opening}
            onChange={(v) => set('pick.opening', v)}
            options={[
              { label: 'as it is', value: 'as it is' },
              { label: 'matched', value: 'matched' },
            ]}
          />
          <Heading>Bores, to scale</Heading>
          <Bores sides={sides} opening_m={effectiveOpening(doc)} />
          <p className="quiet" style={{ fontSize: 13 }}>
            Hatched: the opening as it is. Bar: the stock shaft.
          </p>
          <Rule />
          <Heading more={<span className="quiet">up to three</span>}>On show</Heading>
          <ShelfChooser />
          {picked && at !== null && (
            <>
              <Rule />
              <Pair name="chosen">
                <strong>{picked.unit.doc.name}</strong>
              </Pair>
              <Pair name="peak at">
                <span>{rpmText(model.rpm[at]!)}</span>
              </Pair>
            </>
          )}
        </>
      }
    >
      <GainCharts model={model} other={other} height={400} />
      <RankingTable ranked={ranked} model={model} />
      <p className="quiet" style={{ marginTop: 8, fontSize: 13 }}>
        Solid: {opening === 'matched' ? 'manifold opened to match' : 'opening as it is'}. Dotted:{' '}
        {opening === 'matched' ? 'opening as it is' : 'opened to match'}. Tip-in is area opened by the first tenth of the pedal against
        stock.
      </p>
    </StopPage>
  );
}

/** Pick: what each unit on show would bring, at what price in money and manners; one is chosen. */
export function PickStop() {
  const model = useModel();
  const { pack } = usePrefs();
  if (!isFailure(model)) return <Solved model={model} />;
  return (
    <StopPage tone="danger" answer="Nothing can be compared yet." reason={failureText(model, pack)} aside={<ShelfChooser />}>
      <p style={{ marginTop: 16 }}>Put the intake right on the Air stop first.</p>
    </StopPage>
  );
}
