'use client';

import { Button } from 'antd';
import { useState } from 'react';
import type { Within } from '@/core/documents/within';
import { isFailure } from '@/core/failure';
import { averageReading, centreSpan, READING_SPREAD_m, type SpanBy } from '@/core/fit/calipers';
import { formatQuantity } from '@/core/units/quantity';
import { ChoiceField } from '@/ui/field/choice-field';
import { FieldRow } from '@/ui/field/field-row';
import { FieldGroup } from '@/ui/field/group';
import { usePrefs } from '@/ui/theme/prefs';
import styles from './flange.module.css';
import { Dialog } from '@/ui/dialog';
import { msg } from './messages';

const BY: readonly { value: SpanBy; label: string }[] = [
  { value: 'inside edges', label: msg.theInsideEdges },
  { value: 'outside edges', label: msg.theOutsideEdges },
  { value: 'same edges', label: msg.edgesOfTheSameSide },
  { value: 'centres', label: msg.theCentres },
];
/** What a caliper reads here. */
const READING_m: Within = { more: 0, most: 0.5 };
const READINGS = 4;

/** A distance between two holes as calipers give it: edges and hole sizes in, centres out, several readings averaged. */
function CaliperDialog({
  label,
  hole_m,
  onTake,
  onClose,
}: {
  label: string;
  hole_m: number;
  onTake: (span_m: number) => void;
  onClose: () => void;
}) {
  const { pack } = usePrefs();
  const [by, setBy] = useState<SpanBy>('inside edges');
  const [holes, setHoles] = useState([hole_m, hole_m]);
  const [readings, setReadings] = useState<(number | null)[]>(Array.from({ length: READINGS }, () => null));
  const typed = readings.filter((r): r is number => r !== null);
  const mean = averageReading(typed);
  const span = isFailure(mean) ? null : centreSpan(by, mean.mean_m, holes[0]!, holes[1]);
  const found = typeof span === 'number' ? span : null;
  const at = (m: number): string => formatQuantity(m, 'fineLength', pack);
  return (
    <FieldGroup>
      {(wrong) => (
        <Dialog
          open
          title={`${label}, by caliper`}
          okText={msg.takeIt}
          okButtonProps={{ disabled: wrong || found === null }}
          onOk={() => found !== null && onTake(found)}
          onCancel={onClose}
          width={460}
        >
          <ChoiceField<SpanBy> label={msg.heldAt} value={by} options={[...BY]} onChange={setBy} />
          {by !== 'centres' &&
            ['One hole', 'The other hole'].map((name, i) => (
              <FieldRow
                key={name}
                label={name}
                measure="fineLength"
                value={holes[i]!}
                within={READING_m}
                onChange={(v) => setHoles(holes.map((h, k) => (k === i ? v : h)))}
              />
            ))}
          {readings.map((r, i) => (
            <FieldRow
              key={i}
              label={`Reading ${i + 1}`}
              measure="fineLength"
              value={r}
              within={READING_m}
              placeholder={i === 0 ? 'needed' : 'if taken'}
              onChange={(v) => setReadings(readings.map((x, k) => (k === i ? v : x)))}
              onClear={() => setReadings(readings.map((x, k) => (k === i ? null : x)))}
            />
          ))}
          <p role="status" className={styles['found']}>
            {isFailure(mean)
              ? 'Type what the caliper reads, once or several times.'
              : isFailure(span)
                ? 'Those holes would run into one another. Was the reading taken at the other edges?'
                : `${at(found!)} from centre to centre${mean.count > 1 ? `; ${mean.count} readings, ${at(mean.spread_m)} apart` : ''}.`}
          </p>
          {!isFailure(mean) && mean.spread_m > READING_SPREAD_m && (
            <p role="alert" className={styles['wrong']}>
              {msg.theReadingsDifferBy} {at(mean.spread_m)}
              {msg.takeThemAgainSquareToThe}
            </p>
          )}
        </Dialog>
      )}
    </FieldGroup>
  );
}

/** A distance between holes: typed, or worked out from caliper readings. */
export function SpanRow({
  label,
  value,
  hole_m,
  wrong,
  fromSpan = (s) => s,
  spanLabel,
  onChange,
}: {
  label: string;
  value: number;
  hole_m: number;
  wrong?: string | undefined;
  /** What a caliper's span makes of the figure; a circle's from neighbouring holes. */
  fromSpan?: (span_m: number) => number;
  spanLabel?: string;
  onChange: (v: number) => void;
}) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <FieldRow
        label={label}
        measure="fineLength"
        value={value}
        wrong={wrong}
        onChange={onChange}
        mark={
          <Button type="link" size="small" className={styles['caliper']!} aria-label={`${label} by caliper`} onClick={() => setOpen(true)}>
            {msg.caliper}
          </Button>
        }
      />
      {open && (
        <CaliperDialog
          label={spanLabel ?? label}
          hole_m={hole_m}
          onClose={() => setOpen(false)}
          onTake={(s) => {
            onChange(fromSpan(s));
            setOpen(false);
          }}
        />
      )}
    </>
  );
}
