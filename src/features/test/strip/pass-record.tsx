'use client';

import { Input, Segmented } from 'antd';
import { LANES } from '@/core/documents/kinds';
import type { StripPassDoc } from '@/core/documents/strip';
import { CAR_TEMPERATURE_K, LAUNCH_rpm, TYRE_Pa } from '@/core/documents/within';
import { FieldRow } from '@/ui/field/field-row';
import { msg } from './messages';
import styles from './strip.module.css';

type Set = (more: Partial<StripPassDoc>) => void;

/** The car at the line, and what was done and noted. */
export function PassRecord({ doc, set }: { doc: StripPassDoc; set: Set }) {
  return (
    <div className={styles['car']}>
      <label className={styles['stack']}>
        {msg.timeOfDay}
        <Input type="time" value={doc.at ?? ''} onChange={(e) => set({ at: e.target.value === '' ? null : e.target.value })} />
      </label>
      <FieldRow
        label={msg.coolant}
        measure="temperature"
        value={doc.coolant_K}
        within={CAR_TEMPERATURE_K}
        onChange={(v) => set({ coolant_K: v })}
        onClear={() => set({ coolant_K: null })}
      />
      <FieldRow
        label={msg.inletAir}
        measure="temperature"
        value={doc.inlet_K}
        within={CAR_TEMPERATURE_K}
        onChange={(v) => set({ inlet_K: v })}
        onClear={() => set({ inlet_K: null })}
      />
      <FieldRow
        label={msg.drivenTyres}
        measure="plenum"
        value={doc.tyre_Pa}
        within={TYRE_Pa}
        onChange={(v) => set({ tyre_Pa: v })}
        onClear={() => set({ tyre_Pa: null })}
      />
      <FieldRow
        label={msg.launch}
        measure="rpm"
        value={doc.launch_rpm}
        within={LAUNCH_rpm}
        onChange={(v) => set({ launch_rpm: v })}
        onClear={() => set({ launch_rpm: null })}
      />
      <Segmented
        aria-label={msg.lane}
        value={doc.lane}
        options={[
          { value: 'left', label: msg.leftLane },
          { value: '', label: msg.notSaid },
          { value: 'right', label: msg.rightLane },
        ]}
        onChange={(lane) => set({ lane: LANES.find((l) => l === lane) ?? '' })}
      />
      <label className={styles['stack']}>
        {msg.doneSinceThePassBefore}
        <Input maxLength={400} value={doc.between} placeholder={msg.tyresDownTo14Bar} onChange={(e) => set({ between: e.target.value })} />
      </label>
      <label className={styles['stack']}>
        {msg.note}
        <Input.TextArea rows={2} maxLength={1000} value={doc.note} onChange={(e) => set({ note: e.target.value })} />
      </label>
    </div>
  );
}
