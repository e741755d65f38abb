'use client';

import { Select } from 'antd';
import { CARRIED_CORRECTIONS } from '@/core/documents/kinds';
import type { RunDoc } from '@/core/documents/run';
import { ownUnits } from '@/core/units/units';
import { ControlRow } from '@/ui/field/field-row';
import { msg } from './messages';

/** What a curve stands for; null: nobody has said. */
export interface CurveIs {
  readonly quantity: 'power' | 'torque';
  readonly unit: string | null;
  readonly at: RunDoc['measuredAt'] | null;
  readonly carried: RunDoc['carried'] | null;
}
export const UNSAID: CurveIs = { quantity: 'power', unit: null, at: null, carried: null };

/** Asks what a curve stands for: nothing of it can be read off the picture. */
export function CurveFields({ is, onChange }: { is: CurveIs; onChange: (is: CurveIs) => void }) {
  return (
    <>
      <ControlRow label={msg.theCurveIs}>
        <Select
          aria-label={msg.powerOrTorque}
          value={is.quantity}
          options={[
            { value: 'power' as const, label: msg.power },
            { value: 'torque' as const, label: msg.torque },
          ]}
          onChange={(quantity) => onChange({ ...is, quantity, unit: null })}
        />
      </ControlRow>
      <ControlRow label={msg.inWord}>
        <Select
          aria-label={msg.unitOfTheCurve}
          placeholder={msg.whichUnit}
          value={is.unit}
          options={ownUnits(is.quantity).map((u) => ({ value: u.id, label: u.label }))}
          onChange={(unit) => onChange({ ...is, unit })}
        />
      </ControlRow>
      <ControlRow label={msg.measuredAt}>
        <Select
          aria-label={msg.whereItWasMeasured}
          placeholder={msg.wheelsOrCrank}
          value={is.at}
          options={(['wheels', 'hub', 'crank', 'unknown'] as const).map((value) => ({
            value,
            label: value === 'unknown' ? 'not known' : value,
          }))}
          onChange={(at) => onChange({ ...is, at })}
        />
      </ControlRow>
      <ControlRow label={msg.correctedBy}>
        <Select
          aria-label={msg.correctionOfTheCurve}
          placeholder={msg.whichStandard}
          value={is.carried}
          options={CARRIED_CORRECTIONS.map((value) => ({
            value,
            label: value === 'none' ? 'none, as measured' : value === 'unknown' ? 'not known' : value,
          }))}
          onChange={(carried) => onChange({ ...is, carried })}
        />
      </ControlRow>
    </>
  );
}
