'use client';

import { Button, Select } from 'antd';
import { parseAsString, useQueryState } from 'nuqs';
import { isFailure } from '@/core/failure';
import { throttleRemap, throttleTable, type RemapMark } from '@/core/flow/remap';
import type { CandidateSide, JobModel } from '@/core/job/model';
import { shownUnit } from '@/core/units/measures';
import { formatNumber } from '@/core/units/quantity';
import { fromSI } from '@/core/units/units';
import { useJob } from '@/features/job/provider';
import { saveFile } from '@/ui/chart/save-file';
import { usePrefs } from '@/ui/theme/prefs';
import { remapCsv, remapJson, type RemapRow } from './remap-file';
import styles from './pick.module.css';
import { msg } from './messages';

const OPENINGS = [0, 1, 2, 3, 4, 5, 6, 8, 10, 12, 15, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 90, 100];
const MARKS: Readonly<Record<RemapMark, string>> = {
  exact: '',
  candidate_leaks_more: 'shut, it already passes more',
  candidate_too_small: 'it never gets there',
};

export function remapRows(model: JobModel, side: CandidateSide): RemapRow[] {
  const stock = model.stock.fitted.throttle;
  const map = throttleRemap(stock, side.fitted.throttle, OPENINGS);
  const area = throttleTable(stock, OPENINGS);
  if (isFailure(map) || isFailure(area)) return [];
  return OPENINGS.map((opening_pct, i) => ({
    opening_pct,
    area_m2: area.effectiveArea_m2[i]!,
    candidate_pct: map.candidateOpening_pct[i]!,
    mark: map.mark[i]!,
  }));
}

/** For each stock opening the throttle's opening that lets the same air in: the table an electronic throttle is calibrated by. */
export function Remap({ model }: { model: JobModel }) {
  const { pack } = usePrefs();
  const chosen = useJob((s) => s.doc.pick.chosen);
  const control = useJob((s) => s.doc.car.controls.kind);
  const job = useJob((s) => s.doc.name);
  const [id, setId] = useQueryState('remap', parseAsString.withDefault(chosen ?? ''));
  const side = model.candidates.find((c) => c.id === id) ?? model.candidates[0];
  if (!side) return <p className="quiet">{msg.putAThrottleOnShowFirst}</p>;
  const rows = remapRows(model, side);
  const { unit } = shownUnit('area', pack);
  const name = `remap ${job} ${side.name}`.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-');
  return (
    <div className={styles['remap']}>
      <div className={styles['tools']}>
        <Select
          aria-label={msg.unitRemappedTo}
          size="small"
          value={side.id}
          options={model.candidates.map((c) => ({ value: c.id, label: c.name }))}
          onChange={(v) => void setId(v)}
          style={{ minWidth: 160 }}
        />
        <Button size="small" onClick={() => saveFile(`${name}.csv`, remapCsv(side.name, rows), 'text/csv')}>
          {msg.csv}
        </Button>
        <Button size="small" onClick={() => saveFile(`${name}.json`, remapJson(job, side.name, rows), 'application/json')}>
          {msg.json}
        </Button>
        <span className="quiet">
          {control === 'cable'
            ? 'This car has a cable: the table shows what the pedal will feel like; it cannot be remapped.'
            : 'Same effective area, so the pedal feels as it did.'}
        </span>
      </div>
      <table className="plain">
        <thead>
          <tr>
            <th className="num">{msg.stockOpening}</th>
            <th className="num">
              {msg.letsIn} {unit.label}
            </th>
            <th className="num">
              {side.name} {msg.opening}
            </th>
            <td />
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={r.opening_pct}>
              <td className="num">{r.opening_pct}</td>
              <td className="num">{formatNumber(fromSI(r.area_m2, unit), shownUnit('area', pack).decimals)}</td>
              <td className="num">{formatNumber(r.candidate_pct, 1)}</td>
              <td className="quiet">{MARKS[r.mark]}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
