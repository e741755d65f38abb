'use client';

import { Input, Modal, Select } from 'antd';
import { useState } from 'react';
import { CARRIED_CORRECTIONS, QUANTITIES, type Quantity, type RunDoc, type StoredRun } from '@/core/documents/run';
import { runDoc } from '@/core/documents/run';
import { dimensionOf, likelyUnit } from '@/core/runs/read/guess';
import { UNITS } from '@/core/units/units';
import { Heading } from '@/ui/answer/stop';
import { ControlRow, FieldRow } from '@/ui/field/field-row';
import styles from '../test.module.css';

const CARRIED = CARRIED_CORRECTIONS.map((value) => ({ value, label: value === 'none' ? 'none, as measured' : value }));
const SMOOTHED = [
  { value: -1, label: 'not known' },
  ...[0, 50, 100, 200, 400].map((value) => ({ value, label: value === 0 ? 'none' : `${value} rpm wide` })),
];
const STANDARD_WEATHER = { p_Pa: 101_325, T_K: 288.15, rh: 0.5 };

function Mapping({ run, doc, onChange }: { run: StoredRun; doc: RunDoc; onChange: (doc: RunDoc) => void }) {
  const setChannel = (column: number, quantity: Quantity, unit: string | null): void => {
    // One column a quantity: the one that had it before becomes "other".
    const channels = doc.channels.map((c) =>
      c.column === column
        ? { ...c, quantity, unit }
        : quantity !== 'other' && c.quantity === quantity
          ? { ...c, quantity: 'other' as const, unit: null }
          : c,
    );
    onChange({ ...doc, channels });
  };
  return (
    <table className={`plain ${styles['mapping']}`}>
      <thead>
        <tr>
          <th>column in the file</th>
          <th className="num">figures</th>
          <th>is</th>
          <th>in</th>
        </tr>
      </thead>
      <tbody>
        {doc.channels.map((c) => {
          const column = run.columns[c.column];
          const dimension = dimensionOf(c.quantity);
          return (
            <tr key={c.column}>
              <td>
                {column?.name} {column?.unit && <span className="quiet">({column.unit})</span>}
              </td>
              <td className="num">{column?.count.toLocaleString('en-US')}</td>
              <td>
                <Select
                  virtual={false}
                  listHeight={420}
                  aria-label={`${column?.name} is`}
                  size="small"
                  style={{ width: 160 }}
                  value={c.quantity}
                  options={QUANTITIES.map((q) => ({ value: q, label: q === 'rpm' ? 'engine speed' : q }))}
                  onChange={(q) =>
                    setChannel(c.column, q, likelyUnit(q, 0) ?? UNITS.find((u) => u.dimension === dimensionOf(q))?.id ?? null)
                  }
                />
              </td>
              <td>
                {dimension && dimension !== 'plain' && (
                  <Select
                    virtual={false}
                    aria-label={`${column?.name} in`}
                    size="small"
                    style={{ width: 96 }}
                    value={c.unit}
                    options={UNITS.filter((u) => u.dimension === dimension).map((u) => ({ value: u.id, label: u.label }))}
                    onChange={(u) => setChannel(c.column, c.quantity, u)}
                  />
                )}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

function Conditions({ doc, onChange }: { doc: RunDoc; onChange: (doc: RunDoc) => void }) {
  const weather = doc.weather;
  const setWeather = (part: Partial<typeof STANDARD_WEATHER>): void =>
    onChange({ ...doc, weather: { ...(weather ?? STANDARD_WEATHER), ...part } });
  const text = (key: 'gear' | 'fuel' | 'tune' | 'otherChanges', label: string, placeholder: string) => (
    <ControlRow label={label}>
      <Input aria-label={label} value={doc[key]} placeholder={placeholder} onChange={(e) => onChange({ ...doc, [key]: e.target.value })} />
    </ControlRow>
  );
  return (
    <div className={styles['grid']}>
      <div>
        <ControlRow label="Measured at">
          <Select
            aria-label="Measured at"
            style={{ width: '100%' }}
            value={doc.measuredAt}
            options={['wheels', 'hub', 'crank', 'unknown'].map((value) => ({ value: value as RunDoc['measuredAt'], label: value }))}
            onChange={(measuredAt) => onChange({ ...doc, measuredAt })}
          />
        </ControlRow>
        <ControlRow label="File is corrected by">
          <Select
            aria-label="File is corrected by"
            style={{ width: '100%' }}
            value={doc.carried}
            options={CARRIED}
            onChange={(carried) => onChange({ ...doc, carried })}
          />
        </ControlRow>
        <ControlRow label="File was smoothed">
          <Select
            aria-label="File was smoothed"
            style={{ width: '100%' }}
            value={doc.carriedSmoothing_rpm ?? -1}
            options={SMOOTHED}
            onChange={(v) => onChange({ ...doc, carriedSmoothing_rpm: v === -1 ? null : (v as 0 | 50 | 100 | 200 | 400) })}
          />
        </ControlRow>
        <FieldRow
          label="Barometer"
          measure="barometer"
          value={weather?.p_Pa ?? null}
          placeholder="not known"
          onChange={(p_Pa) => setWeather({ p_Pa })}
          onClear={() => onChange({ ...doc, weather: null })}
        />
        <FieldRow
          label="Air temperature"
          measure="temperature"
          value={weather?.T_K ?? null}
          placeholder="not known"
          onChange={(T_K) => setWeather({ T_K })}
          onClear={() => onChange({ ...doc, weather: null })}
        />
        <FieldRow
          label="Humidity"
          measure="share"
          value={weather?.rh ?? null}
          placeholder="not known"
          onChange={(rh) => setWeather({ rh })}
          onClear={() => onChange({ ...doc, weather: null })}
        />
      </div>
      <div>
        <ControlRow label="Date">
          <Input
            aria-label="Date"
            type="date"
            value={doc.takenOn ?? ''}
            onChange={(e) => onChange({ ...doc, takenOn: e.target.value || null })}
          />
        </ControlRow>
        <FieldRow
          label="Coolant at the start"
          measure="temperature"
          value={doc.coolantStart_K}
          placeholder="not known"
          onChange={(coolantStart_K) => onChange({ ...doc, coolantStart_K })}
          onClear={() => onChange({ ...doc, coolantStart_K: null })}
        />
        {text('gear', 'Gear', '4th')}
        {text('fuel', 'Fuel', 'petrol 98')}
        {text('tune', 'Tune', 'as it came')}
        {text('otherChanges', 'Else changed', 'nothing')}
      </div>
    </div>
  );
}

/** A run's record: what its columns are, what its figures carry, and the conditions it was taken in. */
export function RunRecord({ run, onClose, onSave }: { run: StoredRun; onClose: () => void; onSave: (doc: RunDoc) => Promise<void> }) {
  const [doc, setDoc] = useState(run.doc);
  const [wrong, setWrong] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const save = async (): Promise<void> => {
    const parsed = runDoc.safeParse(doc);
    if (!parsed.success) return setWrong(`${parsed.error.issues[0]!.path.join(' ')}: ${parsed.error.issues[0]!.message}`);
    setBusy(true);
    try {
      await onSave(parsed.data);
    } catch (error) {
      setWrong((error as Error).message);
      setBusy(false);
    }
  };
  return (
    <Modal
      open
      title={`Record of ${run.fileName}`}
      width={820}
      okText="Save"
      onOk={() => void save()}
      confirmLoading={busy}
      onCancel={onClose}
    >
      <ControlRow label="Name">
        <Input aria-label="Name of the run" value={doc.name} maxLength={120} onChange={(e) => setDoc({ ...doc, name: e.target.value })} />
      </ControlRow>
      <Heading>Columns</Heading>
      <div style={{ maxHeight: 250, overflow: 'auto' }}>
        <Mapping run={run} doc={doc} onChange={setDoc} />
      </div>
      <Heading>Conditions</Heading>
      <Conditions doc={doc} onChange={setDoc} />
      {wrong && (
        <p className={styles['wrong']} role="alert">
          {wrong}
        </p>
      )}
    </Modal>
  );
}
