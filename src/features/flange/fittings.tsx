'use client';

import { Input } from 'antd';
import type { FittingsDoc } from '@/core/documents/flange';
import { COOLANT, IDLE_VALVES } from '@/core/documents/kinds';
import type { MeasureName } from '@/core/units/measures';
import { ChoiceField } from '@/ui/field/choice-field';
import { ControlRow, FieldRow } from '@/ui/field/field-row';
import { msg } from './messages';

type IssueAt = (path: string, measure?: MeasureName) => string | undefined;

/** What a unit is joined to besides its flange: plug, sensor, idle valve, coolant, ports, coupler, room. */
export function FittingsFields({
  fittings: f,
  issueAt,
  years = true,
  sensor = true,
  onChange,
}: {
  fittings: FittingsDoc;
  issueAt: IssueAt;
  /** Whether model years are the throttle's to have; a car has one of its own. */
  years?: boolean;
  sensor?: boolean;
  onChange: (f: FittingsDoc) => void;
}) {
  const row = (key: keyof FittingsDoc, label: string, measure: MeasureName) => (
    <FieldRow
      label={label}
      measure={measure}
      value={f[key] as number | null}
      placeholder={msg.notYet}
      wrong={issueAt(key, measure)}
      onChange={(v) => onChange({ ...f, [key]: v })}
      onClear={() => onChange({ ...f, [key]: null })}
    />
  );
  const choice = <T extends string>(key: 'idleValve' | 'coolant', label: string, options: readonly T[]) => (
    <ChoiceField
      label={label}
      placeholder={msg.notLookedYet}
      allowClear
      value={f[key] ?? undefined}
      options={options.map((value) => ({ value: value as string, label: value === 'on the unit' ? 'on the throttle' : value }))}
      onChange={(v) => onChange({ ...f, [key]: (v as T | undefined) ?? null })}
    />
  );
  return (
    <>
      <ControlRow label={msg.plug}>
        <Input
          aria-label={msg.plug}
          placeholder={msg.whatTheShopCallsIt}
          maxLength={60}
          value={f.plug ?? ''}
          onChange={(e) => onChange({ ...f, plug: e.target.value === '' ? null : e.target.value })}
        />
      </ControlRow>
      {years && (
        <>
          {row('fromYear', 'Signals from model year', 'year')}
          {row('toYear', 'to model year', 'year')}
        </>
      )}
      {sensor && (
        <>
          {row('closed_V', 'Sensor closed', 'voltage')}
          {row('full_V', 'Sensor full', 'voltage')}
        </>
      )}
      {choice('idleValve', 'Idle-air valve', IDLE_VALVES)}
      {choice('coolant', 'Coolant', COOLANT)}
      {row('ports', 'Ports', 'count')}
      {row('spigot_m', 'Spigot outside', 'bore')}
      {row('length_m', 'Flange to spigot end', 'bore')}
      {row('height_m', 'Height over the bore', 'bore')}
      {row('plugReach_m', 'Plug from the bore, to the harness', 'bore')}
    </>
  );
}
