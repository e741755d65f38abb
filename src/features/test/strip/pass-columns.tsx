'use client';

import { Popover } from 'antd';
import { Fragment } from 'react';
import { FINISH } from '@/core/documents/slip';
import type { StoredPass, StoredVisit, StripPassDoc } from '@/core/documents/strip';
import { isFailure } from '@/core/failure';
import type { ReadPass, StripAnalysis } from '@/core/strip/analysis';
import type { UnitPack } from '@/core/units/measures';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { densityAltitudeWorking, passPowerWorking, stripCorrectionWorking } from '@/core/working/strip-working';
import { useShelf } from '@/features/job/provider';
import { Term } from '@/features/thinking/term';
import type { DataColumn } from '@/ui/table/data-table';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { msg } from './messages';
import { PassMenu } from './pass-menu';
import styles from './strip.module.css';
import type { Strip } from './use-strip';
import { shownSpeed } from './words';

/** What a reading of the air was taken this long from the pass is said, min. */
const FAR_min = 30;

const detailsOf = (doc: StripPassDoc, pack: UnitPack): string =>
  [
    doc.lane && `${doc.lane} lane`,
    doc.slip.reaction_s !== null && `reaction ${formatNumber(doc.slip.reaction_s, 3)} s${doc.slip.reaction_s < 0 ? ' (red light)' : ''}`,
    doc.launch_rpm !== null && `launch ${formatQuantity(doc.launch_rpm, 'rpm', pack)}`,
    doc.tyre_Pa !== null && `tyres ${formatQuantity(doc.tyre_Pa, 'plenum', pack)}`,
  ]
    .filter(Boolean)
    .join(', ');

/** When a pass was run and on what, and what else is said of it. */
function Pass({ pass: { doc }, name, details, apart }: { pass: StoredPass; name: string; details: string; apart: boolean }) {
  const said = doc.leftOut ? `left out: ${doc.leftOut}` : doc.between;
  return (
    <>
      <i className={styles['dot']} data-side={doc.side === null ? 'none' : doc.side.kind === 'stock' ? 'A' : 'B'} />
      {doc.at ?? '—'} {name}
      {apart && <b className={styles['apart']}> {msg.standsApart}</b>}
      {[details, said].filter(Boolean).map((line) => (
        <Fragment key={line}>
          <br />
          <small>{line}</small>
        </Fragment>
      ))}
    </>
  );
}

/** The air of a pass, and how far from it that was read. */
function Air({ read: r }: { read: ReadPass | undefined }) {
  const { pack } = usePrefs();
  if (!r) return '—';
  if (r.densityAltitude_m === null || r.weather === null) return 'no air read';
  const { reading, gap_min } = r.weather;
  return (
    <>
      <Num small label={msg.densityAltitude} working={() => densityAltitudeWorking(reading)}>
        {formatQuantity(r.densityAltitude_m, 'altitude', pack)}
      </Num>
      {gap_min > FAR_min && (
        <small>
          {' '}
          {gap_min} {msg.minOff}
        </small>
      )}
    </>
  );
}

/** The columns of a day's passes. */
export function usePassColumns(
  visit: StoredVisit,
  analysis: StripAnalysis | null,
  strip: Strip,
  onEdit: (pass: StoredPass) => void,
): readonly DataColumn<StoredPass>[] {
  const { pack } = usePrefs();
  const shelf = useShelf();
  const read = new Map((analysis?.passes ?? []).map((p) => [p.stored.id, p]));
  const quarter = visit.doc.course === 'quarter';
  const speedUnit = shownSpeed(0, pack).unit;
  const s = (v: number | null): string => (v === null ? '—' : formatNumber(v, 3));
  const main = analysis && (isFailure(analysis.effects.trap_mps) ? analysis.effects.et_s : analysis.effects.trap_mps);
  const suspects = new Set(!main || isFailure(main) ? [] : main.answer.suspects.map((i) => main.passes[i]!.stored.id));
  const details = ({ doc }: StoredPass): string => detailsOf(doc, pack);
  const v = (mps: number | null): string => (mps === null ? '—' : formatNumber(shownSpeed(mps, pack).value, 2));
  const powers = (r: ReadPass | undefined): string =>
    r?.power
      ? `${formatQuantity(r.power.fromSpeed_W, 'power', pack, 0)}, ${formatQuantity(r.power.fromTime_W, 'power', pack, 0)}`
      : r && quarter && visit.doc.mass_kg === null
        ? 'weigh the car'
        : '—';
  const nameOf = ({ doc: { side } }: StoredPass): string =>
    side === null
      ? 'side not said'
      : side.kind === 'stock'
        ? 'stock'
        : (shelf.find((u) => u.id === side.unitId)?.doc.name ?? 'a throttle no longer on the shelf');
  const et = (p: StoredPass) => p.doc.slip[FINISH[visit.doc.course]];
  const trap = (p: StoredPass) => (quarter ? p.doc.slip.v402_mps : p.doc.slip.v201_mps);
  /** A figure off the slip, and below it what it comes to corrected for its air. */
  const measured = (
    key: 'et' | 'trap',
    title: string,
    by: (p: StoredPass) => number | null,
    shown: (value: number | null) => string,
    correctedName: string,
    corrected: 'et_s' | 'trap_mps',
  ): DataColumn<StoredPass> => ({
    key,
    title,
    numeric: true,
    by,
    text: (p) => shown(by(p)),
    render: (p) => {
      const r = read.get(p.id);
      return (
        <span className={styles['both']}>
          {shown(by(p))}
          {r?.corrected && (
            <Num small label={correctedName} working={() => stripCorrectionWorking(r)}>
              {shown(r.corrected[corrected])}
            </Num>
          )}
        </span>
      );
    },
  });
  return [
    {
      key: 'pass',
      title: msg.pass,
      text: (p) =>
        [p.doc.at ?? '—', nameOf(p), details(p), p.doc.leftOut ? `left out: ${p.doc.leftOut}` : p.doc.between].filter(Boolean).join(', '),
      by: (p) => p.doc.at,
      fixed: 'left',
      render: (p) => <Pass pass={p} name={nameOf(p)} details={details(p)} apart={suspects.has(p.id)} />,
    },
    { key: 'side', title: msg.throttle, hidden: true, text: nameOf, filter: nameOf },
    { key: 'sixty', title: msg.n60FtS, numeric: true, by: (p) => p.doc.slip.t18_s, text: (p) => s(p.doc.slip.t18_s) },
    measured('et', `${quarter ? '¼ mile' : '⅛ mile'}, s`, et, s, msg.correctedTime, 'et_s'),
    measured('trap', `trap, ${speedUnit}`, trap, v, msg.correctedTrapSpeed, 'trap_mps'),
    {
      key: 'air',
      title: msg.densityAltitude,
      head: <Term name="density altitude" />,
      numeric: true,
      by: (p) => read.get(p.id)?.densityAltitude_m ?? null,
      text: (p) => {
        const at = read.get(p.id)?.densityAltitude_m;
        return at == null ? 'no air read' : formatQuantity(at, 'altitude', pack);
      },
      render: (p) => <Air read={read.get(p.id)} />,
    },
    {
      key: 'power',
      title: msg.powerBySpeedByTime,
      numeric: true,
      by: (p) => read.get(p.id)?.power?.fromSpeed_W ?? null,
      text: (p) => powers(read.get(p.id)),
      render: (p) => {
        const r = read.get(p.id);
        return r?.power ? (
          <Num small label={msg.powerFromThePass} working={() => passPowerWorking(r, visit.doc.mass_kg!)}>
            {powers(r)}
          </Num>
        ) : (
          powers(r)
        );
      },
    },
    {
      key: 'tools',
      title: '',
      text: () => '',
      tool: true,
      render: (p) => (
        <Popover trigger="click" placement="left" destroyOnHidden content={<PassMenu pass={p} strip={strip} onEdit={() => onEdit(p)} />}>
          <button type="button" className={styles['link']} aria-label={`Change the pass at ${p.doc.at ?? 'no time'}`}>
            {msg.change}
          </button>
        </Popover>
      ),
    },
  ];
}
