'use client';

import { peakIndex } from '@/core/numbers/peak';
import { Button, Checkbox } from 'antd';
import { useState, type ReactNode } from 'react';
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

function Name({ ranked: { unit }, color }: { ranked: RankedUnit; color: string | null }) {
  const shown = useJob((s) => s.doc.pick.shown);
  const set = useJob((s) => s.set);
  const on = shown.includes(unit.id);
  return (
    <span className={styles['unit']}>
      <Checkbox
        aria-label={`Show ${unit.doc.name}`}
        checked={on}
        disabled={!on && shown.length >= MOST_SHOWN}
        onChange={() => set('pick.shown', on ? shown.filter((x) => x !== unit.id) : [...shown, unit.id])}
      />
      <i className="swatch" style={{ borderColor: color ?? 'transparent' }} />
      {unit.doc.name}
    </span>
  );
}

const Verdict = ({ ranked: r }: { ranked: RankedUnit }) => (
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
);

const rangeText = (lo: number, hi: number): string => `${formatSigned(lo, 1)} … ${formatSigned(hi, 1)}`;
const peakText = (r: RankedUnit): string => (r.peakGain_pct === null ? '—' : formatSigned(r.peakGain_pct, 1, '%'));
const thirdsText = (r: RankedUnit): string => (r.thirds_pct === null ? '—' : r.thirds_pct.map((t) => formatSigned(t, 1)).join(' · '));

/** A figure of gain over the range it may lie in. */
const OverRange = ({ range, children }: { range: string | null; children: ReactNode }) => (
  <>
    {children}
    {range !== null && <div className={styles['range']}>{range}</div>}
  </>
);

function Peak({ ranked: r, model, range }: { ranked: RankedUnit; model: JobModel; range: GainRange | undefined }) {
  const doc = useJob((s) => s.doc);
  return (
    <OverRange range={range ? rangeText(range.peak_pct.p10, range.peak_pct.p90) : null}>
      {r.peakGain_pct === null ? (
        '—'
      ) : (
        <Num
          small
          label={`gain of ${r.unit.doc.name}`}
          working={() => powerWorking(doc, model, r.side, isFailure(r.side.solved) ? 0 : peakIndex(r.side.solved.power_W))}
        >
          {peakText(r)}
        </Num>
      )}
    </OverRange>
  );
}

function TipIn({ ranked: r }: { ranked: RankedUnit }) {
  const doc = useJob((s) => s.doc);
  return (
    <Num small label={`drivability of ${r.unit.doc.name}`} working={() => mannersWorking(doc, r)}>
      <span className={r.tipInRatio > r.tipInLimit ? styles['over'] : undefined}>{formatNumber(r.tipInRatio, 2)} ×</span>
    </Num>
  );
}

function Choose({ ranked: { unit } }: { ranked: RankedUnit }) {
  const chosen = useJob((s) => s.doc.pick.chosen) === unit.id;
  const set = useJob((s) => s.set);
  return (
    <Button
      size="small"
      type={chosen ? 'primary' : 'default'}
      aria-pressed={chosen}
      aria-label={`${chosen ? 'chosen' : 'choose'} ${unit.doc.name}`}
      onClick={() => set('pick.chosen', chosen ? null : unit.id)}
    >
      {chosen ? 'chosen' : 'choose'}
    </Button>
  );
}

/** The cells of a ranked throttle, each with its working. */
function useColumns(
  model: JobModel,
  ranges: Readonly<Record<string, GainRange>>,
  colorOf: (id: string) => string | null,
): readonly DataColumn<RankedUnit>[] {
  const { pack, money } = usePrefs();
  const power = shownUnit('power', pack);
  const perPower = (r: RankedUnit): number | null => (r.pricePerW === null ? null : r.pricePerW * power.unit.factor);
  const perText = (r: RankedUnit): string => {
    const per = perPower(r);
    return per === null ? '—' : money(per);
  };
  return [
    {
      key: 'name',
      title: msg.throttleBody,
      text: (r) => r.unit.doc.name,
      by: (r) => r.unit.doc.name,
      fixed: 'left',
      render: (r) => <Name ranked={r} color={colorOf(r.unit.id)} />,
    },
    {
      key: 'verdict',
      title: msg.verdict,
      text: (r) => verdictWord(r.verdict),
      filter: (r) => verdictWord(r.verdict),
      render: (r) => <Verdict ranked={r} />,
    },
    {
      key: 'peak',
      title: msg.atPeak,
      head: msg.atPeak2,
      numeric: true,
      text: peakText,
      by: (r) => r.peakGain_pct,
      render: (r) => <Peak ranked={r} model={model} range={ranges[r.unit.id]} />,
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
      text: thirdsText,
      render: (r) => {
        const range = ranges[r.unit.id];
        return <OverRange range={range ? thirdsRange(range) : null}>{thirdsText(r)}</OverRange>;
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
      render: (r) => <TipIn ranked={r} />,
    },
    {
      key: 'idle',
      title: msg.idleFloorRpm,
      head: <Term name="idle floor" />,
      numeric: true,
      by: (r) => r.idleFloor_rpm,
      text: (r) => floorText(r.idleFloor_rpm),
      render: (r) => <OverRange range={r.idleFloorRange_rpm.map(floorText).join(' … ')}>{floorText(r.idleFloor_rpm)}</OverRange>,
    },
    { key: 'price', title: msg.price, numeric: true, by: (r) => r.price, text: (r) => (r.price === null ? '—' : money(r.price)) },
    {
      key: 'per',
      title: `per ${power.unit.label}`,
      numeric: true,
      by: perPower,
      text: perText,
      render: (r) =>
        r.pricePerW === null ? (
          '—'
        ) : (
          <Num
            small
            label={`cost of the gain, ${r.unit.doc.name}`}
            working={() => priceWorking(r.unit.doc.name, r.price ?? 0, r.peakGain_W ?? 0)}
          >
            {perText(r)}
          </Num>
        ),
    },
    { key: 'choose', title: '', text: () => '', tool: true, fixed: 'right', width: 84, render: (r) => <Choose ranked={r} /> },
  ];
}

const thirdsRange = ({ thirds_pct }: GainRange): string => thirds_pct.p10.map((lo, i) => rangeText(lo, thirds_pct.p90[i]!)).join(' · ');

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
