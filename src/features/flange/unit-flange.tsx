'use client';

import { Button } from 'antd';
import { squareUnitFlange } from '@/core/documents/blank';
import type { UnitFlangeDoc } from '@/core/documents/flange';
import { CLOCKINGS, SEALS } from '@/core/documents/kinds';
import type { MeasureName } from '@/core/units/measures';
import { Heading } from '@/ui/answer/stop-page';
import { ChoiceField } from '@/ui/field/choice-field';
import { FieldRow } from '@/ui/field/field-row';
import { FaceFields, PatternFields } from './fields';
import { msg } from './messages';

const CLOCKING_WORDS = { 'as it is': 'one way only', 'quarter turns': 'by 90°', free: 'any way' } as const;

/** A four-hole flange that clears a bore, to be overwritten by what is measured. */
export const usualFlange = (bore_m: number): UnitFlangeDoc => squareUnitFlange(Math.round((bore_m + 0.014) * 1000) / 1000);

/** A unit's flange: holes, thickness, seal, and how its housing may be turned. */
export function UnitFlange({
  flange,
  bore_m,
  issueAt,
  onChange,
}: {
  flange: UnitFlangeDoc | null;
  bore_m: number;
  issueAt: (path: string, measure?: MeasureName) => string | undefined;
  onChange: (f: UnitFlangeDoc | null) => void;
}) {
  if (!flange)
    return (
      <>
        <Heading>{msg.flange}</Heading>
        <p className="quiet">{msg.notMeasuredWhetherItFitsA}</p>
        <Button size="small" onClick={() => onChange(usualFlange(bore_m))}>
          {msg.measureIt}
        </Button>
      </>
    );
  return (
    <>
      <Heading
        more={
          <Button size="small" type="text" onClick={() => onChange(null)}>
            {msg.clear}
          </Button>
        }
      >
        {msg.flange}
      </Heading>
      <PatternFields
        pattern={flange.pattern}
        hole_m={flange.hole_m}
        issueAt={issueAt}
        onChange={(pattern) => onChange({ ...flange, pattern })}
      />
      <FieldRow
        label={msg.hole}
        measure="fineLength"
        value={flange.hole_m}
        wrong={issueAt('hole_m', 'fineLength')}
        onChange={(v) => onChange({ ...flange, hole_m: v })}
      />
      <FieldRow
        label={msg.thickness}
        measure="fineLength"
        value={flange.thickness_m}
        wrong={issueAt('thickness_m', 'fineLength')}
        onChange={(v) => onChange({ ...flange, thickness_m: v })}
      />
      <FaceFields flange={flange} issueAt={issueAt} onChange={onChange} />
      <ChoiceField
        label={msg.seal}
        value={flange.seal}
        options={SEALS.map((value) => ({ value, label: value }))}
        onChange={(seal) => onChange({ ...flange, seal })}
      />
      <ChoiceField
        label={msg.canBeClocked}
        value={flange.clocking}
        options={CLOCKINGS.map((value) => ({ value, label: CLOCKING_WORDS[value] }))}
        onChange={(clocking) => onChange({ ...flange, clocking })}
      />
    </>
  );
}
