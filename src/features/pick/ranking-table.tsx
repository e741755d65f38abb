'use client';

import { peakIndex } from '@/core/numbers/peak';
import { Button, Checkbox } from 'antd';
import { useState } from 'react';
import { isFailure } from '@/core/failure';
import { MOST_SHOWN } from '@/core/documents/job';
import type { JobModel } from '@/core/job/model';
import type { GainRange } from '@/core/sizing/uncertainty';
import type { Misfit, RankedUnit } from '@/core/job/ranking';
import { mannersWorking, powerWorking, priceWorking } from '@/core/working/sizing-working';
import type { Working } from '@/core/working/working';
import { formatNumber, formatSigned, showQuantity } from '@/core/units/quantity';
import { shownUnit } from '@/core/units/measures';
import { useJob } from '@/features/job/provider';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import styles from './pick.module.css';
import { verdictWord } from '@/ui/answer/verdict-word';
import { Term } from '@/features/thinking/term';

interface RowProps {
  readonly r: RankedUnit;
  readonly model: JobModel;
  readonly range: GainRange | undefined;
  readonly color: string | null;
  readonly chosen: boolean;
  readonly onChoose: () => void;
}

const floorText = (rpm: number | null): string =>
  rpm === null ? 'over 6,000' : rpm < 50 ? 'none' : formatNumber(Math.round(rpm / 10) * 10, 0);

/** Why a unit cannot go on, in a word or two. */
const MISFIT: Readonly<Record<Misfit, string>> = {
  control: 'other control',
  signal: 'other signal family',
  bores: 'other number of bores',
  flange: 'too wide for its flange',
};

function Row({ r, model, range, color, onChoose, chosen }: RowProps) {
  const { pack, money } = usePrefs();
  const doc = useJob((s) => s.doc);
  const set = useJob((s) => s.set);
  const { shown } = doc.pick;
  const on = shown.includes(r.unit.id);
  const power = (): Working => powerWorking(doc, model, r.side, isFailure(r.side.solved) ? 0 : peakIndex(r.side.solved.power_W));
  const perPower = r.pricePerW === null ? null : r.pricePerW * shownUnit('power', pack).unit.factor;
  return (
    <tr data-chosen={chosen}>
      <td className={styles['unit']}>
        <Checkbox
          aria-label={`Show ${r.unit.doc.name}`}
          checked={on}
          disabled={!on && shown.length >= MOST_SHOWN}
          onChange={() => set('pick.shown', on ? shown.filter((x) => x !== r.unit.id) : [...shown, r.unit.id])}
        />
        <i className="swatch" style={{ borderColor: color ?? 'transparent' }} />
        {r.unit.doc.name}
      </td>
      <td>
        <span className={styles['verdict']} data-word={r.verdict}>
          {verdictWord(r.verdict)}
        </span>
        {r.misfit && <div className={styles['range']}>{MISFIT[r.misfit]}</div>}
        {r.side.fitted.bench?.kind === 'claim' && <div className={styles['range']}>flow only claimed</div>}
        {r.choking && <div className={styles['range']}>chokes from {formatNumber(r.choking.from_rpm, 0)}</div>}
      </td>
      <td className="num">
        {r.peakGain_pct === null ? (
          '—'
        ) : (
          <Num small label={`gain of ${r.unit.doc.name}`} working={power}>
            {formatSigned(r.peakGain_pct, 1, '%')}
          </Num>
        )}
        {range && (
          <div className={styles['range']}>
            {formatSigned(range.peak_pct.p10, 1)} … {formatSigned(range.peak_pct.p90, 1)}
          </div>
        )}
      </td>
      <td className="num">
        {r.peakGain_W === null ? '—' : `${r.peakGain_W > 0 ? '+' : ''}${showQuantity(r.peakGain_W, 'power', pack).number}`}
      </td>
      <td className={`num ${styles['spare']}`} title={range ? thirdsTitle(range) : undefined}>
        {r.thirds_pct === null ? '—' : r.thirds_pct.map((t) => formatSigned(t, 1)).join(' · ')}
      </td>
      <td className={`num ${styles['wide']}`}>{r.loss_Pa === null ? '—' : showQuantity(r.loss_Pa, 'loss', pack).number}</td>
      <td className="num">
        <Num small label={`drivability of ${r.unit.doc.name}`} working={() => mannersWorking(doc, r)}>
          <span className={r.tipInRatio > r.tipInLimit ? styles['over'] : undefined}>{formatNumber(r.tipInRatio, 2)} ×</span>
        </Num>
      </td>
      <td className={`num ${styles['spare']}`}>
        {floorText(r.idleFloor_rpm)}
        <div className={styles['range']}>
          {floorText(r.idleFloorRange_rpm[0])} … {floorText(r.idleFloorRange_rpm[1])}
        </div>
      </td>
      <td className="num">{r.price === null ? '—' : money(r.price)}</td>
      <td className="num">
        {perPower === null ? (
          '—'
        ) : (
          <Num
            small
            label={`cost of the gain, ${r.unit.doc.name}`}
            working={() => priceWorking(r.unit.doc.name, r.price ?? 0, r.peakGain_W ?? 0)}
          >
            {money(perPower)}
          </Num>
        )}
      </td>
      <td className="num">
        <Button size="small" type={chosen ? 'primary' : 'default'} aria-pressed={chosen} onClick={onChoose}>
          {chosen ? 'chosen' : 'choose'}
        </Button>
      </td>
    </tr>
  );
}

const thirdsTitle = ({ thirds_pct }: GainRange): string =>
  thirds_pct.p10.map((lo, i) => `${formatSigned(lo, 1)} … ${formatSigned(thirds_pct.p90[i]!, 1)}`).join(' · ');

/** The shelf, best first, with what each unit brings and what it costs. */
export function RankingTable({
  ranked,
  model,
  ranges,
  colorOf,
}: {
  ranked: readonly RankedUnit[];
  model: JobModel;
  ranges: Readonly<Record<string, GainRange>>;
  colorOf: (id: string) => string | null;
}) {
  const { pack } = usePrefs();
  const chosen = useJob((s) => s.doc.pick.chosen);
  const set = useJob((s) => s.set);
  const power = shownUnit('power', pack).unit.label;
  const [all, setAll] = useState(false);
  // What is on show stays in sight, whatever stands against it.
  const hidden = (r: RankedUnit): boolean =>
    r.misfit !== null && r.misfit !== 'flange' && colorOf(r.unit.id) === null && r.unit.id !== chosen;
  const unable = ranked.filter(hidden);
  const able = ranked.filter((r) => !hidden(r));
  return (
    <div className={styles['table']}>
      <table className="plain">
        <thead>
          <tr>
            <th>throttle body</th>
            <th>verdict</th>
            <th className="num">at peak</th>
            <th className="num">{power}</th>
            <th className={`num ${styles['spare']}`}>thirds, %</th>
            <th className={`num ${styles['wide']}`} title="throttle and opening, where stock makes its peak">
              loses, {shownUnit('loss', pack).unit.label}
            </th>
            <th className="num">
              <Term name="tip-in" />
            </th>
            <th className={`num ${styles['spare']}`}>
              <Term name="idle floor" />
            </th>
            <th className="num">price</th>
            <th className="num">per {power}</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {[...able, ...(all ? unable : [])].map((r) => (
            <Row
              key={r.unit.id}
              r={r}
              model={model}
              range={ranges[r.unit.id]}
              color={colorOf(r.unit.id)}
              chosen={chosen === r.unit.id}
              onChoose={() => set('pick.chosen', chosen === r.unit.id ? null : r.unit.id)}
            />
          ))}
        </tbody>
      </table>
      {unable.length > 0 && (
        <Button size="small" type="text" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? 'hide those that cannot go on this car' : `${unable.length} more cannot go on this car`}
        </Button>
      )}
    </div>
  );
}
