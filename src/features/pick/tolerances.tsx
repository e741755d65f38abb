'use client';

import { Button } from 'antd';
import { useState } from 'react';
import { TOLERANCE } from '@/core/documents/within';
import { TOLERANCES, type Tolerances as T } from '@/core/sizing/uncertainty';
import { useJob } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop-page';
import { FieldRow } from '@/ui/field/field-row';
import { msg } from './messages';

const ROWS: readonly { key: keyof T; label: string }[] = [
  { key: 've', label: msg.volumetricEfficiency },
  { key: 'K', label: msg.everyLoss },
  { key: 'bench', label: msg.benchFigures },
  { key: 'eta0', label: msg.blowersOwnEfficiency },
  { key: 'fmep', label: msg.friction },
];

/** How far the inputs may be off: what the ranges are drawn from. */
export function Tolerances() {
  const own = useJob((s) => s.doc.sizing.tolerances);
  const set = useJob((s) => s.set);
  const blower = useJob((s) => s.doc.car.induction.kind === 'drawThrough');
  const [open, setOpen] = useState(false);
  const now = own ?? TOLERANCES;
  return (
    <>
      <Heading
        more={
          <Button size="small" type="text" aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? 'hide' : own ? 'own' : 'usual'}
          </Button>
        }
      >
        {msg.inputsMayBeOffBy}
      </Heading>
      {open && (
        <>
          {ROWS.filter((r) => r.key !== 'eta0' || blower).map((r) => (
            <FieldRow
              key={r.key}
              label={`${r.label}, ±`}
              measure="share"
              value={now[r.key]}
              within={TOLERANCE[r.key]}
              onChange={(v) => set('sizing.tolerances', { ...now, [r.key]: v })}
            />
          ))}
          {own && (
            <Button size="small" onClick={() => set('sizing.tolerances', null)}>
              {msg.backToTheUsual}
            </Button>
          )}
        </>
      )}
      {!open && (
        <p className="quiet" style={{ fontSize: 13 }}>
          {msg.n2000SimulatedCasesWithinThese}
        </p>
      )}
    </>
  );
}
