'use client';

import { Button, Input, Popover, Select } from 'antd';
import { useState } from 'react';
import { isFailure } from '@/core/failure';
import type { ReadPass, StripAnalysis } from '@/core/strip/analyse';
import { FINISH } from '@/core/strip/slip';
import { densityAltitudeWorking, passPowerWorking, stripCorrectionWorking } from '@/core/working/strip-working';
import type { StoredPass, StoredVisit } from '@/core/documents/strip';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { HistoryButton } from '@/features/history/button';
import { useRuns, useShelf } from '@/features/job/provider';
import { usePrefs } from '@/ui/theme/prefs';
import { useTried } from '@/ui/tried';
import { Num } from '@/ui/working/provider';
import { SlipPad } from './slip-pad';
import type { Strip } from './use-strip';
import { shownSpeed } from './words';
import styles from './strip.module.css';
import { Term } from '@/features/thinking/term';

/** What else is said of a pass, and what can be done with it. */
function PassMenu({ pass, strip, onEdit }: { pass: StoredPass; strip: Strip; onEdit: () => void }) {
  const tried = useTried();
  const shelf = useShelf();
  const { runs } = useRuns();
  const [reason, setReason] = useState('');
  const { doc } = pass;
  const save = (more: Partial<StoredPass['doc']>): void => void tried(() => strip.savePass(pass, { ...doc, ...more }));
  const logs = runs.filter((r) => r.doc.kind === 'log');
  return (
    <div style={{ display: 'grid', gap: 8, width: 260 }}>
      <Button size="small" onClick={onEdit}>
        Put its figures right
      </Button>
      <Select
        aria-label="On the car in this pass"
        value={doc.side === null ? '' : doc.side.kind === 'stock' ? 'stock' : doc.side.unitId}
        options={[
          { value: '', label: 'side not said' },
          { value: 'stock', label: 'stock' },
          ...shelf.map((u) => ({ value: u.id, label: u.doc.name })),
        ]}
        onChange={(v) => save({ side: v === '' ? null : v === 'stock' ? { kind: 'stock' } : { kind: 'unit', unitId: v } })}
      />
      <Select
        aria-label="Log of this pass"
        value={doc.runId ?? ''}
        options={[{ value: '', label: 'no log' }, ...logs.map((r) => ({ value: r.id, label: r.doc.name }))]}
        onChange={(v) => save({ runId: v === '' ? null : v })}
      />
      {doc.leftOut === null ? (
        <div style={{ display: 'flex', gap: 6 }}>
          <Input
            size="small"
            aria-label="Why it is left out"
            placeholder="why? missed a gear"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
          />
          <Button size="small" disabled={reason.trim() === ''} onClick={() => save({ leftOut: reason.trim() })}>
            Leave out
          </Button>
        </div>
      ) : (
        <Button size="small" onClick={() => save({ leftOut: null })}>
          Count it again
        </Button>
      )}
      <HistoryButton kind="strip_pass" id={pass.id} title={`the pass at ${doc.at ?? 'no time'}`} />
      <Button size="small" type="text" onClick={() => void tried(() => strip.removePass(pass))}>
        Into the trash
      </Button>
    </div>
  );
}

/** Every pass of a day: as it was driven and, under it, in the reference air. */
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
  return (
    <div className={styles['passes']}>
      <table className="plain">
        <thead>
          <tr>
            <th>pass</th>
            <th className="num">60 ft, s</th>
            <th className="num">{quarter ? '¼ mile' : '⅛ mile'}, s</th>
            <th className="num">trap, {speedUnit}</th>
            <th className="num">
              <Term name="density altitude" />
            </th>
            <th className="num">power by speed, by time</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {passes.map((p) => {
            const r: ReadPass | undefined = read.get(p.id);
            const { slip, side } = p.doc;
            const name =
              side === null
                ? 'side not said'
                : side.kind === 'stock'
                  ? 'stock'
                  : (shelf.find((u) => u.id === side.unitId)?.doc.name ?? 'a unit');
            return (
              <tr key={p.id} data-out={p.doc.leftOut !== null || side === null}>
                <td>
                  <i className={styles['dot']} data-side={side === null ? 'none' : side.kind === 'stock' ? 'A' : 'B'} />
                  {p.doc.at ?? '—'} {name}
                  {suspects.has(p.id) && <b className={styles['apart']}> stands apart</b>}
                  {details(p) !== '' && (
                    <>
                      <br />
                      <small>{details(p)}</small>
                    </>
                  )}
                  {(p.doc.leftOut ?? p.doc.between) && (
                    <>
                      <br />
                      <small>{p.doc.leftOut ? `left out: ${p.doc.leftOut}` : p.doc.between}</small>
                    </>
                  )}
                </td>
                <td className="num">{s(slip.t18_s)}</td>
                <td className="num">
                  <span className={styles['both']}>
                    {s(slip[FINISH[visit.doc.course]])}
                    {r?.corrected && (
                      <Num small label="corrected time" working={() => stripCorrectionWorking(r)}>
                        {s(r.corrected.et_s)}
                      </Num>
                    )}
                  </span>
                </td>
                <td className="num">
                  <span className={styles['both']}>
                    {v(quarter ? slip.v402_mps : slip.v201_mps)}
                    {r?.corrected && (
                      <Num small label="corrected trap speed" working={() => stripCorrectionWorking(r)}>
                        {v(r.corrected.trap_mps)}
                      </Num>
                    )}
                  </span>
                </td>
                <td className="num">
                  {!r ? (
                    '—'
                  ) : r.densityAltitude_m === null || r.weather === null ? (
                    'no air read'
                  ) : (
                    <Num small label="density altitude" working={() => densityAltitudeWorking(r.weather!.reading)}>
                      {formatQuantity(r.densityAltitude_m, 'altitude', pack)}
                    </Num>
                  )}
                  {r?.weather && r.weather.gap_min > 30 && <small> {r.weather.gap_min} min off</small>}
                </td>
                <td className="num">
                  {r?.power ? (
                    <Num small label="power from the pass" working={() => passPowerWorking(r, visit.doc.mass_kg!)}>
                      {formatQuantity(r.power.fromSpeed_W, 'power', pack, 0)}, {formatQuantity(r.power.fromTime_W, 'power', pack, 0)}
                    </Num>
                  ) : r && quarter && visit.doc.mass_kg === null ? (
                    'weigh the car'
                  ) : (
                    '—'
                  )}
                </td>
                <td>
                  <Popover
                    trigger="click"
                    placement="left"
                    destroyOnHidden
                    content={<PassMenu pass={p} strip={strip} onEdit={() => setEdited(p)} />}
                  >
                    <button type="button" className={styles['link']} aria-label={`Change the pass at ${p.doc.at ?? 'no time'}`}>
                      change
                    </button>
                  </Popover>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
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
      <p className="quiet">
        Above as driven; below it, dotted, in the reference air. Both stand side by side: corrected alone is never shown.
      </p>
    </div>
  );
}
