'use client';

import { Button } from 'antd';
import { isFailure } from '@/core/failure';
import type { JobModel } from '@/core/job/model';
import type { RankedUnit } from '@/core/job/ranking';
import { mannersWorking, powerWorking, priceWorking } from '@/core/working/sizing-working';
import type { Working } from '@/core/working/working';
import { formatNumber, formatQuantity, formatSigned, showQuantity } from '@/core/units/quantity';
import { shownUnit } from '@/core/units/measures';
import { useJob } from '@/features/job/provider';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import styles from './pick.module.css';

const peakIndex = (power: readonly number[]): number => power.indexOf(Math.max(...power));

function Row({ r, model, onChoose, chosen }: { r: RankedUnit; model: JobModel; onChoose: () => void; chosen: boolean }) {
  const { pack, palette } = usePrefs();
  const doc = useJob((s) => s.doc);
  const color = palette.series[model.candidates.indexOf(r.side) % palette.series.length]!;
  const power = (): Working => powerWorking(doc, model, r.side, isFailure(r.side.solved) ? 0 : peakIndex(r.side.solved.power_W));
  const perPower = r.pricePerW === null ? null : r.pricePerW * shownUnit('power', pack).unit.factor;
  return (
    <tr data-chosen={chosen}>
      <td className={styles['unit']}>
        <i className={styles['swatch']} style={{ borderColor: color }} />
        {r.unit.doc.name}
      </td>
      <td>
        <span className={styles['verdict']} data-word={r.verdict}>
          {r.verdict}
        </span>
      </td>
      <td className="num">
        {r.peakGain_pct === null ? (
          '—'
        ) : (
          <Num small label={`gain of ${r.unit.doc.name}`} working={power}>
            {formatSigned(r.peakGain_pct, 1, '%')}
          </Num>
        )}
      </td>
      <td className="num">
        {r.peakGain_W === null ? '—' : `${r.peakGain_W > 0 ? '+' : ''}${showQuantity(r.peakGain_W, 'power', pack).number}`}
      </td>
      <td className={`num ${styles['spare']}`}>{r.thirds_pct === null ? '—' : r.thirds_pct.map((t) => formatSigned(t, 1)).join(' · ')}</td>
      <td className="num">
        <Num small label={`manners of ${r.unit.doc.name}`} working={() => mannersWorking(doc, r)}>
          <span className={r.tipInRatio > r.tipInLimit ? styles['over'] : undefined}>{formatNumber(r.tipInRatio, 2)} ×</span>
        </Num>
      </td>
      <td className={`num ${styles['spare']}`}>
        {r.idleFloor_rpm === null ? '—' : r.idleFloor_rpm < 50 ? 'none' : formatNumber(Math.round(r.idleFloor_rpm / 10) * 10, 0)}
      </td>
      <td className="num">{r.price === null ? '—' : formatQuantity(r.price, 'money', pack)}</td>
      <td className="num">
        {perPower === null ? (
          '—'
        ) : (
          <Num
            small
            label={`cost of the gain, ${r.unit.doc.name}`}
            working={() => priceWorking(r.unit.doc.name, r.price ?? 0, r.peakGain_W ?? 0)}
          >
            {formatQuantity(perPower, 'money', pack)}
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

/** The units on show, best first, with what each brings and what it costs. */
export function RankingTable({ ranked, model }: { ranked: readonly RankedUnit[]; model: JobModel }) {
  const { pack } = usePrefs();
  const chosen = useJob((s) => s.doc.pick.chosen);
  const set = useJob((s) => s.set);
  const power = shownUnit('power', pack).unit.label;
  return (
    <div className={styles['table']}>
      <table className="plain">
        <thead>
          <tr>
            <th>unit</th>
            <th>verdict</th>
            <th className="num">at peak</th>
            <th className="num">{power}</th>
            <th className={`num ${styles['spare']}`}>thirds of the range, %</th>
            <th className="num">tip-in</th>
            <th className={`num ${styles['spare']}`} title="Engine speed below which the leak past the shut blade would not let it fall">
              idle floor, rpm
            </th>
            <th className="num">price</th>
            <th className="num">per {power}</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {ranked.map((r) => (
            <Row
              key={r.unit.id}
              r={r}
              model={model}
              chosen={chosen === r.unit.id}
              onChoose={() => set('pick.chosen', chosen === r.unit.id ? null : r.unit.id)}
            />
          ))}
        </tbody>
      </table>
    </div>
  );
}
