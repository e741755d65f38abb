'use client';

import { Checkbox, Input } from 'antd';
import type { RunDoc } from '@/core/documents/run';
import { CARRIED_CORRECTIONS } from '@/core/documents/kinds';
import { CAR_TEMPERATURE_K, KEY_ON_Pa, WEATHER } from '@/core/documents/within';
import { ChoiceField } from '@/ui/field/choice-field';
import { ControlRow, FieldRow } from '@/ui/field/field-row';
import { DayField, TimeField } from '@/ui/field/when';
import styles from '../test.module.css';
import { msg } from './messages';

const CARRIED = CARRIED_CORRECTIONS.map((value) => ({ value, label: value === 'none' ? 'none, as measured' : value }));
const SMOOTHED = [
  { value: -1, label: msg.notKnown },
  ...[0, 50, 100, 200, 400].map((value) => ({ value, label: value === 0 ? 'none' : `${value} rpm wide` })),
];
const STANDARD_WEATHER = { p_Pa: 101_325, T_K: 288.15, rh: 0.5 };

/** The day and the car as the run had them: weather, tune, fuel, what else was changed. */
export function Conditions({ doc, onChange }: { doc: RunDoc; onChange: (doc: RunDoc) => void }) {
  const weather = doc.weather;
  const setWeather = (part: Partial<typeof STANDARD_WEATHER>): void =>
    onChange({ ...doc, weather: { ...(weather ?? STANDARD_WEATHER), ...part } });
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
        <FieldRow
          label={msg.barometer}
          measure="barometer"
          value={weather?.p_Pa ?? null}
          placeholder={msg.notKnown}
          within={WEATHER.p_Pa}
          onChange={(p_Pa) => setWeather({ p_Pa })}
          onClear={() => onChange({ ...doc, weather: null })}
        />
        <FieldRow
          label={msg.airTemperature}
          measure="temperature"
          value={weather?.T_K ?? null}
          placeholder={msg.notKnown}
          within={WEATHER.T_K}
          onChange={(T_K) => setWeather({ T_K })}
          onClear={() => onChange({ ...doc, weather: null })}
        />
        <FieldRow
          label={msg.humidity}
          measure="share"
          value={weather?.rh ?? null}
          placeholder={msg.notKnown}
          within={WEATHER.rh}
          onChange={(rh) => setWeather({ rh })}
          onClear={() => onChange({ ...doc, weather: null })}
        />
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
