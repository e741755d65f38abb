import { Button, Segmented } from 'antd';
import { useState } from 'react';
import type { MeasuredCurve } from '@/core/documents/job';
import { FieldRow } from '@/ui/field/field-row';
import styles from './car.module.css';

/** A pressure from this share of the air outside on may well have been read with the air outside counted in. */
const DOUBTFUL_SHARE = 0.7;

/** One boost that is known, at one engine speed: enough to set the engine's efficiency by. What could be absolute is asked about. */
export function OneBoost({ ambient_Pa, onTake }: { ambient_Pa: number; onTake: (curve: MeasuredCurve) => void }) {
  const [open, setOpen] = useState(false);
  const [boost, setBoost] = useState<number | null>(null);
  const [rpm, setRpm] = useState<number | null>(null);
  const [kind, setKind] = useState<'gauge' | 'absolute' | null>(null);
  if (!open)
    return (
      <Button size="small" type="link" style={{ padding: 0 }} onClick={() => setOpen(true)}>
        only one reading of boost is known
      </Button>
    );
  const doubtful = boost !== null && boost >= DOUBTFUL_SHARE * ambient_Pa;
  const gauge = boost === null ? null : doubtful && kind === 'absolute' ? boost - ambient_Pa : boost;
  const ready = gauge !== null && gauge > 0 && rpm !== null && rpm > 0 && (!doubtful || kind !== null);
  return (
    <div className={styles['question']}>
      <FieldRow
        label="Boost that was read"
        measure="plenum"
        value={boost}
        onChange={setBoost}
        onClear={() => setBoost(null)}
        placeholder="read"
      />
      <FieldRow
        label="at an engine speed of"
        measure="rpm"
        value={rpm}
        onChange={setRpm}
        onClear={() => setRpm(null)}
        placeholder="engine speed"
      />
      {doubtful && (
        <>
          <p role="alert">Is that gauge, or with the air outside counted in?</p>
          <Segmented
            size="small"
            aria-label="Gauge or absolute"
            value={kind ?? ''}
            onChange={(v) => setKind(v as 'gauge' | 'absolute')}
            options={[
              { value: 'gauge', label: 'gauge' },
              { value: 'absolute', label: 'absolute' },
            ]}
          />
        </>
      )}
      <div className={styles['tools']}>
        <Button
          size="small"
          disabled={!ready}
          onClick={() => {
            onTake({ rpm: [rpm!], value: [gauge!], source: 'one reading', driveRatio: null });
            setOpen(false);
          }}
        >
          Take this reading
        </Button>
      </div>
    </div>
  );
}
