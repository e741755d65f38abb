'use client';

import { Checkbox, Input } from 'antd';
import type { RunDoc } from '@/core/documents/run';
import { CARRIED_CORRECTIONS } from '@/core/documents/kinds';
import { CAR_TEMPERATURE_K, KEY_ON_Pa, WEATHER } from '@/core/documents/within';
import { airFrom, airOf, givenAir, USUAL_AIR, type AirFigure } from '@/core/runs/air';
import { formatQuantity } from '@/core/units/quantity';
import { ChoiceField } from '@/ui/field/choice-field';
import { ControlRow, FieldRow } from '@/ui/field/field-row';
import { DayField, TimeField } from '@/ui/field/when';
import { usePrefs } from '@/ui/theme/prefs';
import styles from './files.module.css';
import { msg } from './messages';

const CARRIED = CARRIED_CORRECTIONS.map((value) => ({ value, label: value === 'none' ? 'none, as measured' : value }));
const SMOOTHED = [
  { value: -1, label: msg.notKnown },
  ...[0, 50, 100, 200, 400].map((value) => ({ value, label: value === 0 ? 'none' : `${value} rpm wide` })),
];

/** The day and the car as the run had them: weather, tune, fuel, what else was changed. */
export function Conditions({ doc, onChange }: { doc: RunDoc; onChange: (doc: RunDoc) => void }) {
  const { pack } = usePrefs();
  const air = givenAir(doc);
  const setAir = (key: AirFigure, value: number | null): void => onChange({ ...doc, ...airFrom({ ...air, [key]: value }) });
  const text = (key: 'gear' | 'fuel' | 'tune' | 'pulley' | 'tyres' | 'visit' | 'otherChanges', label: string, placeholder: string) => (
    <ControlRow label={label}>
      <Input aria-label={label} value={doc[key]} placeholder={placeholder} onChange={(e) => onChange({ ...doc, [key]: e.target.value })} />
    </ControlRow>
  );
  return (
    <div className={styles['grid']}>
      <div>
        <ChoiceField
          label={msg.measuredAt}
          value={doc.measuredAt}
          options={['wheels', 'hub', 'crank', 'unknown'].map((value) => ({ value: value as RunDoc['measuredAt'], label: value }))}
          onChange={(measuredAt) => onChange({ ...doc, measuredAt })}
        />
        <ChoiceField
          label={msg.fileIsCorrectedBy}
          value={doc.carried}
          options={CARRIED}
          onChange={(carried) => onChange({ ...doc, carried })}
        />
        <ChoiceField
          label={msg.fileWasSmoothed}
          value={doc.carriedSmoothing_rpm ?? -1}
          options={SMOOTHED}
          onChange={(v) => onChange({ ...doc, carriedSmoothing_rpm: v === -1 ? null : (v as 0 | 50 | 100 | 200 | 400) })}
        />
        {(
          [
            ['p_Pa', msg.barometer, 'barometer'],
            ['T_K', msg.airTemperature, 'temperature'],
            ['rh', msg.humidity, 'share'],
          ] as const
        ).map(([key, label, measure]) => (
          <FieldRow
            key={key}
            label={label}
            measure={measure}
            value={air[key]}
            placeholder={key === 'rh' && airOf(doc) ? `${formatQuantity(USUAL_AIR.rh, 'share', pack)} taken` : msg.notKnown}
            within={WEATHER[key]}
            onChange={(value) => setAir(key, value)}
            onClear={() => setAir(key, null)}
          />
        ))}
        {doc.weather && !airOf(doc) && <p className="quiet">{msg.correctedOncePressureAndTemperature}</p>}
        {text('gear', 'Gear', '4th')}
        {text('fuel', 'Fuel', 'petrol 98')}
        {text('tune', 'Tune', 'as it came')}
        {text('pulley', 'Pulley', 'none, or 84 mm')}
        {text('tyres', 'Tyres and straps', '2.4 bar, two straps')}
      </div>
      <div>
        <ControlRow label={msg.date}>
          <DayField label={msg.date} value={doc.takenOn} onChange={(takenOn) => onChange({ ...doc, takenOn })} />
        </ControlRow>
        <FieldRow
          label={msg.coolantAtTheStart}
          measure="temperature"
          value={doc.coolantStart_K}
          placeholder={msg.notKnown}
          within={CAR_TEMPERATURE_K}
          onChange={(coolantStart_K) => onChange({ ...doc, coolantStart_K })}
          onClear={() => onChange({ ...doc, coolantStart_K: null })}
        />
        <ControlRow label={msg.timeOfDay}>
          <TimeField label={msg.timeOfDay} value={doc.takenAt} onChange={(takenAt) => onChange({ ...doc, takenAt })} />
        </ControlRow>
        {text('visit', 'Visit, if not the date', 'second session')}
        <Checkbox checked={doc.restrapped} onChange={(e) => onChange({ ...doc, restrapped: e.target.checked })}>
          {msg.strappedDownAnewOrThePart}
        </Checkbox>
        <FieldRow
          label={msg.oilAtTheStart}
          measure="temperature"
          value={doc.oilStart_K}
          placeholder={msg.notKnown}
          within={CAR_TEMPERATURE_K}
          onChange={(oilStart_K) => onChange({ ...doc, oilStart_K })}
          onClear={() => onChange({ ...doc, oilStart_K: null })}
        />
        <FieldRow
          label={msg.manifoldSensorKeyOn}
          measure="barometer"
          value={doc.keyOn_Pa}
          placeholder={msg.notKnown}
          within={KEY_ON_Pa}
          onChange={(keyOn_Pa) => onChange({ ...doc, keyOn_Pa })}
          onClear={() => onChange({ ...doc, keyOn_Pa: null })}
        />
        {text('otherChanges', 'Else changed', 'nothing')}
      </div>
    </div>
  );
}
