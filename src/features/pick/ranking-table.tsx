'use client';

import { peakIndex } from '@/core/numbers/peak';
import { Button, Checkbox } from 'antd';
import { useState } from 'react';
import { isFailure } from '@/core/failure';
import { MOST_SHOWN } from '@/core/documents/kinds';
import type { JobModel } from '@/core/job/model';
import type { GainRange } from '@/core/sizing/uncertainty';
import type { Misfit, RankedUnit } from '@/core/job/ranking';
import { mannersWorking, powerWorking, priceWorking } from '@/core/working/sizing-working';
import { formatNumber, formatSigned, showQuantity } from '@/core/units/quantity';
import { shownUnit } from '@/core/units/measures';
import { useJob } from '@/features/job/provider';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import styles from './pick.module.css';
import { verdictWord } from '@/ui/answer/verdict-word';
import { Term } from '@/features/thinking/term';
import { DataTable, type DataColumn } from '@/ui/table/data-table';
import { msg } from './messages';

const floorText = (rpm: number | null): string =>
  rpm === null ? 'over 6,000' : rpm < 50 ? 'none' : formatNumber(Math.round(rpm / 10) * 10, 0);

/** Why a throttle cannot go on, in a word or two. */
const MISFIT: Readonly<Record<Misfit, string>> = {
  control: 'other control',
  signal: 'other signal family',
  bores: 'other number of bores',
  flange: 'too wide for its flange',
};

/** The cells of a ranked throttle, each with its working. */
function useColumns(
  model: JobModel,
  ranges: Readonly<Record<string, GainRange>>,
  colorOf: (id: string) => string | null,
): readonly DataColumn<RankedUnit>[] {
  const { pack, money } = usePrefs();
  const doc = useJob((s) => s.doc);
  const set = useJob((s) => s.set);
  const { shown, chosen } = doc.pick;
  const power = shownUnit('power', pack);
  const perPower = (r: RankedUnit): number | null => (r.pricePerW === null ? null : r.pricePerW * power.unit.factor);
  return [
    {
      key: 'name',
      title: msg.throttleBody,
      text: (r) => r.unit.doc.name,
      by: (r) => r.unit.doc.name,
      fixed: 'left',
      render: (r) => (
        <span className={styles['unit']}>
          <Checkbox
            aria-label={`Show ${r.unit.doc.name}`}
            checked={shown.includes(r.unit.id)}
            disabled={!shown.includes(r.unit.id) && shown.length >= MOST_SHOWN}
            onChange={() => set('pick.shown', shown.includes(r.unit.id) ? shown.filter((x) => x !== r.unit.id) : [...shown, r.unit.id])}
          />
          <i className="swatch" style={{ borderColor: colorOf(r.unit.id) ?? 'transparent' }} />
          {r.unit.doc.name}
        </span>
      ),
    },
    {
      key: 'verdict',
      title: msg.verdict,
      text: (r) => verdictWord(r.verdict),
      filter: (r) => verdictWord(r.verdict),
      render: (r) => (
        <>
          <span className={styles['verdict']} data-word={r.verdict}>
            {verdictWord(r.verdict)}
          </span>
          {r.misfit && <div className={styles['range']}>{MISFIT[r.misfit]}</div>}
          {r.side.fitted.bench?.kind === 'claim' && <div className={styles['range']}>{msg.flowOnlyClaimed}</div>}
          {r.choking && (
            <div className={styles['range']}>
              {msg.chokesFrom} {formatNumber(r.choking.from_rpm, 0)}
            </div>
          )}
        </>
      ),
    },
    {
      key: 'peak',
      title: msg.atPeak,
      head: msg.atPeak2,
      numeric: true,
      text: (r) => (r.peakGain_pct === null ? '—' : formatSigned(r.peakGain_pct, 1, '%')),
      by: (r) => r.peakGain_pct,
      render: (r) => {
        const range = ranges[r.unit.id];
        return (
          <>
            {r.peakGain_pct === null ? (
              '—'
            ) : (
              <Num
                small
                label={`gain of ${r.unit.doc.name}`}
                working={() => powerWorking(doc, model, r.side, isFailure(r.side.solved) ? 0 : peakIndex(r.side.solved.power_W))}
              >
                {formatSigned(r.peakGain_pct, 1, '%')}
              </Num>
            )}
            {range && (
              <div className={styles['range']}>
                {formatSigned(range.peak_pct.p10, 1)} … {formatSigned(range.peak_pct.p90, 1)}
              </div>
            )}
          </>
        );
      },
    },
    {
      key: 'power',
      title: power.unit.label,
      numeric: true,
      by: (r) => r.peakGain_W,
      text: (r) => (r.peakGain_W === null ? '—' : `${r.peakGain_W > 0 ? '+' : ''}${showQuantity(r.peakGain_W, 'power', pack).number}`),
    },
    {
      key: 'thirds',
      title: msg.thirds,
      numeric: true,
      hidden: true,
      text: (r) => (r.thirds_pct === null ? '—' : r.thirds_pct.map((t) => formatSigned(t, 1)).join(' · ')),
      render: (r) => {
        const range = ranges[r.unit.id];
        return (
          <>
            {r.thirds_pct === null ? '—' : r.thirds_pct.map((t) => formatSigned(t, 1)).join(' · ')}
            {range && <div className={styles['range']}>{thirdsRange(range)}</div>}
          </>
        );
      },
    },
    {
      key: 'loss',
      title: `throttle and manifold bore lose at stock’s peak, ${shownUnit('loss', pack).unit.label}`,
      head: `loses, ${shownUnit('loss', pack).unit.label}`,
      numeric: true,
      hidden: true,
      by: (r) => r.loss_Pa,
      text: (r) => (r.loss_Pa === null ? '—' : showQuantity(r.loss_Pa, 'loss', pack).number),
    },
    {
      key: 'tipIn',
      title: msg.tipIn,
      head: <Term name="tip-in" />,
      numeric: true,
      by: (r) => r.tipInRatio,
      text: (r) => `${formatNumber(r.tipInRatio, 2)} ×`,
      render: (r) => (
        <Num small label={`drivability of ${r.unit.doc.name}`} working={() => mannersWorking(doc, r)}>
          <span className={r.tipInRatio > r.tipInLimit ? styles['over'] : undefined}>{formatNumber(r.tipInRatio, 2)} ×</span>
        </Num>
      ),
    },
    {
      key: 'idle',
      title: msg.idleFloorRpm,
      head: <Term name="idle floor" />,
      numeric: true,
      by: (r) => r.idleFloor_rpm,
      text: (r) => floorText(r.idleFloor_rpm),
      render: (r) => (
        <>
          {floorText(r.idleFloor_rpm)}
          <div className={styles['range']}>
            {floorText(r.idleFloorRange_rpm[0])} … {floorText(r.idleFloorRange_rpm[1])}
          </div>
        </>
      ),
    },
    { key: 'price', title: msg.price, numeric: true, by: (r) => r.price, text: (r) => (r.price === null ? '—' : money(r.price)) },
    {
      key: 'per',
      title: `per ${power.unit.label}`,
      numeric: true,
      by: perPower,
      text: (r) => {
        const per = perPower(r);
        return per === null ? '—' : money(per);
      },
      render: (r) => {
        const per = perPower(r);
        return per === null ? (
          '—'
        ) : (
          <Num
            small
            label={`cost of the gain, ${r.unit.doc.name}`}
            working={() => priceWorking(r.unit.doc.name, r.price ?? 0, r.peakGain_W ?? 0)}
          >
            {money(per)}
          </Num>
        );
      },
    },
    {
      key: 'choose',
      title: '',
      text: () => '',
      tool: true,
      fixed: 'right',
      width: 84,
      render: (r) => (
        <Button
          size="small"
          type={chosen === r.unit.id ? 'primary' : 'default'}
          aria-pressed={chosen === r.unit.id}
          aria-label={`${chosen === r.unit.id ? 'chosen' : 'choose'} ${r.unit.doc.name}`}
          onClick={() => set('pick.chosen', chosen === r.unit.id ? null : r.unit.id)}
        >
          {chosen === r.unit.id ? 'chosen' : 'choose'}
        </Button>
      ),
    },
  ];
}

const thirdsRange = ({ thirds_pct }: GainRange): string =>
  thirds_pct.p10.map((lo, i) => `${formatSigned(lo, 1)} … ${formatSigned(thirds_pct.p90[i]!, 1)}`).join(' · ');

/** The shelf, best first, with what each throttle brings and what it costs. */
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
  const chosen = useJob((s) => s.doc.pick.chosen);
  const columns = useColumns(model, ranges, colorOf);
  const [all, setAll] = useState(false);
  // What is on show stays in sight, whatever stands against it.
  const hidden = (r: RankedUnit): boolean =>
    r.misfit !== null && r.misfit !== 'flange' && colorOf(r.unit.id) === null && r.unit.id !== chosen;
  const unable = ranked.filter(hidden);
  const able = ranked.filter((r) => !hidden(r));
  return (
    <div className={styles['table']}>
      <DataTable
        name="ranking"
        rows={[...able, ...(all ? unable : [])]}
        columns={columns}
        rowKey={(r) => r.unit.id}
        row={(r) => ({ 'data-chosen': chosen === r.unit.id })}
        tools={
          unable.length > 0 && (
            <Button size="small" type="text" aria-expanded={all} onClick={() => setAll(!all)}>
              {all ? 'hide those that cannot go on this car' : `${unable.length} more cannot go on this car`}
            </Button>
          )
        }
      />
    </div>
  );
}
