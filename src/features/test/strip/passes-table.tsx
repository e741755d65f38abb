'use client';

import { Button, Input, Popover, Select } from 'antd';
import { Fragment, useState } from 'react';
import { isFailure } from '@/core/failure';
import type { ReadPass, StripAnalysis } from '@/core/strip/analyse';
import { FINISH } from '@/core/documents/slip';
import { densityAltitudeWorking, passPowerWorking, stripCorrectionWorking } from '@/core/working/strip-working';
import type { StoredPass, StoredVisit } from '@/core/documents/strip';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { HistoryButton } from '@/features/history/button';
import { useRuns, useShelf } from '@/features/job/provider';
import { usePrefs } from '@/ui/theme/prefs';
import { useReported } from '@/ui/reported';
import { Num } from '@/ui/working/provider';
import type { Strip } from './use-strip';
import { shownSpeed } from './words';
import styles from './strip.module.css';
import { Term } from '@/features/thinking/term';
import { useUndo } from '@/ui/undo';
import { DataTable, type DataColumn } from '@/ui/table/data-table';
import { msg } from './messages';
import { SlipPad } from './slip-pad';

/** What else is said of a pass, and what can be done with it. */
function PassMenu({ pass, strip, onEdit }: { pass: StoredPass; strip: Strip; onEdit: () => void }) {
  const undo = useUndo();
  const reported = useReported();
  const shelf = useShelf();
  const { runs } = useRuns();
  const [reason, setReason] = useState('');
  const { doc } = pass;
  const save = (more: Partial<StoredPass['doc']>): void => void reported(() => strip.savePass(pass, { ...doc, ...more }));
  const logs = runs.filter((r) => r.doc.kind === 'log');
  return (
    <div style={{ display: 'grid', gap: 8, width: 260 }}>
      <Button size="small" onClick={onEdit}>
        {msg.putItsFiguresRight}
      </Button>
      <Select
        aria-label={msg.onTheCarInThisPass}
        value={doc.side === null ? '' : doc.side.kind === 'stock' ? 'stock' : doc.side.unitId}
        options={[
          { value: '', label: msg.sideNotSaid },
          { value: 'stock', label: msg.stock },
          ...shelf.map((u) => ({ value: u.id, label: u.doc.name })),
        ]}
        onChange={(v) => save({ side: v === '' ? null : v === 'stock' ? { kind: 'stock' } : { kind: 'unit', unitId: v } })}
      />
      <Select
        aria-label={msg.logOfThisPass}
        value={doc.runId ?? ''}
        options={[{ value: '', label: msg.noLog }, ...logs.map((r) => ({ value: r.id, label: r.doc.name }))]}
        onChange={(v) => save({ runId: v === '' ? null : v })}
      />
      {doc.leftOut === null ? (
        <div style={{ display: 'flex', gap: 6 }}>
          <Input
            size="small"
            aria-label={msg.whyItIsLeftOut}
            placeholder={msg.whyMissedAGear}
            value={reason}
            onChange={(e) => setReason(e.target.value)}
          />
          <Button size="small" disabled={reason.trim() === ''} onClick={() => save({ leftOut: reason.trim() })}>
            {msg.leaveOut}
          </Button>
        </div>
      ) : (
        <Button size="small" onClick={() => save({ leftOut: null })}>
          {msg.countItAgain}
        </Button>
      )}
      <HistoryButton kind="strip_pass" id={pass.id} title={`the pass at ${doc.at ?? 'no time'}`} />
      <Button
        size="small"
        type="text"
        onClick={() =>
          void reported(async () => {
            await strip.removePass(pass);
            undo(`The pass at ${doc.at ?? 'no time'} is in the trash.`, () => reported(() => strip.bringBack(pass)));
          })
        }
      >
        {msg.intoTheTrash}
      </Button>
    </div>
  );
}

/** Every pass of a day: as it was run and, under it, corrected to standard air. */
export function PassesTable({
  visit,
  passes,
  analysis,
  strip,
}: {
  visit: StoredVisit;
  passes: readonly StoredPass[];
  analysis: StripAnalysis | null;
  strip: Strip;
}) {
  const { pack } = usePrefs();
  const shelf = useShelf();
  const [edited, setEdited] = useState<StoredPass | null>(null);
  const read = new Map((analysis?.passes ?? []).map((p) => [p.stored.id, p]));
  const quarter = visit.doc.course === 'quarter';
  const speedUnit = shownSpeed(0, pack).unit;
  const s = (v: number | null): string => (v === null ? '—' : formatNumber(v, 3));
  const main = analysis && (isFailure(analysis.effects.trap_mps) ? analysis.effects.et_s : analysis.effects.trap_mps);
  const suspects = new Set(!main || isFailure(main) ? [] : main.answer.suspects.map((i) => main.passes[i]!.stored.id));
  const details = ({ doc }: StoredPass): string =>
    [
      doc.lane && `${doc.lane} lane`,
      doc.slip.reaction_s !== null && `reaction ${formatNumber(doc.slip.reaction_s, 3)} s${doc.slip.reaction_s < 0 ? ' (red light)' : ''}`,
      doc.launch_rpm !== null && `launch ${formatQuantity(doc.launch_rpm, 'rpm', pack)}`,
      doc.tyre_Pa !== null && `tyres ${formatQuantity(doc.tyre_Pa, 'plenum', pack)}`,
    ]
      .filter(Boolean)
      .join(', ');
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
  const columns: readonly DataColumn<StoredPass>[] = [
    {
      key: 'pass',
      title: msg.pass,
      text: (p) =>
        [p.doc.at ?? '—', nameOf(p), details(p), p.doc.leftOut ? `left out: ${p.doc.leftOut}` : p.doc.between].filter(Boolean).join(', '),
      by: (p) => p.doc.at,
      fixed: 'left',
      render: (p) => {
        const { side } = p.doc;
        const said = p.doc.leftOut ? `left out: ${p.doc.leftOut}` : p.doc.between;
        return (
          <>
            <i className={styles['dot']} data-side={side === null ? 'none' : side.kind === 'stock' ? 'A' : 'B'} />
            {p.doc.at ?? '—'} {nameOf(p)}
            {suspects.has(p.id) && <b className={styles['apart']}> {msg.standsApart}</b>}
            {[details(p), said].filter(Boolean).map((line) => (
              <Fragment key={line}>
                <br />
                <small>{line}</small>
              </Fragment>
            ))}
          </>
        );
      },
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
      render: (p) => {
        const r = read.get(p.id);
        if (!r) return '—';
        if (r.densityAltitude_m === null || r.weather === null) return 'no air read';
        const { reading, gap_min } = r.weather;
        return (
          <>
            <Num small label={msg.densityAltitude} working={() => densityAltitudeWorking(reading)}>
              {formatQuantity(r.densityAltitude_m, 'altitude', pack)}
            </Num>
            {gap_min > 30 && (
              <small>
                {' '}
                {gap_min} {msg.minOff}
              </small>
            )}
          </>
        );
      },
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
        <Popover trigger="click" placement="left" destroyOnHidden content={<PassMenu pass={p} strip={strip} onEdit={() => setEdited(p)} />}>
          <button type="button" className={styles['link']} aria-label={`Change the pass at ${p.doc.at ?? 'no time'}`}>
            {msg.change}
          </button>
        </Popover>
      ),
    },
  ];
  return (
    <div className={styles['passes']}>
      <DataTable
        name="passes"
        rows={passes}
        rowKey={(p) => p.id}
        row={(p) => ({ 'data-out': p.doc.leftOut !== null || p.doc.side === null, 'data-found': p.id })}
        columns={columns}
      />
      {edited && (
        <SlipPad
          visit={visit}
          side={edited.doc.side}
          stored={edited.doc}
          day={passes.filter((p) => p.id !== edited.id)}
          tower={null}
          onKeep={(doc) => strip.savePass(edited, doc)}
          onClose={() => setEdited(null)}
        />
      )}
      <p className="quiet">{msg.aboveAsRunBelowItDotted}</p>
    </div>
  );
}
