import { Button, Segmented } from 'antd';
import { useState } from 'react';
import type { MeasuredCurve } from '@/core/documents/job';
import { ENGINE_SPEED_rpm } from '@/core/documents/within';
import { FieldRow } from '@/ui/field/field-row';
import { FieldGroup } from '@/ui/field/group';
import styles from './car.module.css';
import { msg } from './messages';

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
        {msg.onlyOneReadingOfBoostIs}
      </Button>
    );
  const doubtful = boost !== null && boost >= DOUBTFUL_SHARE * ambient_Pa;
  const gauge = boost === null ? null : doubtful && kind === 'absolute' ? boost - ambient_Pa : boost;
  const ready = gauge !== null && gauge > 0 && rpm !== null && (!doubtful || kind !== null);
  return (
    <FieldGroup>
      {(wrong) => (
        <div className={styles['question']}>
          <FieldRow
            label={msg.boostThatWasRead}
            measure="plenum"
            value={boost}
            within={{ more: 0, most: 500_000 }}
            onChange={setBoost}
            onClear={() => setBoost(null)}
            placeholder={msg.read}
          />
          <FieldRow
            label={msg.atAnEngineSpeedOf}
            measure="rpm"
            value={rpm}
            within={ENGINE_SPEED_rpm}
            onChange={setRpm}
            onClear={() => setRpm(null)}
            placeholder={msg.engineSpeed}
          />
          {doubtful && (
            <>
              <p role="alert">{msg.isThatGaugeOrWithThe}</p>
              <Segmented
                size="small"
                aria-label={msg.gaugeOrAbsolute}
                value={kind ?? ''}
                onChange={(v) => setKind(v as 'gauge' | 'absolute')}
                options={[
                  { value: 'gauge', label: msg.gauge },
                  { value: 'absolute', label: msg.absolute },
                ]}
              />
            </>
          )}
          <div className={styles['tools']}>
            <Button
              size="small"
              disabled={wrong || !ready}
              onClick={() => {
                onTake({ rpm: [rpm!], value: [gauge!], source: 'one reading', driveRatio: null });
                setOpen(false);
              }}
            >
              {msg.takeThisReading}
            </Button>
          </div>
        </div>
      )}
    </FieldGroup>
  );
}
