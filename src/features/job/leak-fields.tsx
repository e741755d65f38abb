'use client';

import { Button } from 'antd';
import { useRef, useState } from 'react';
import type { LeakClass, ThrottleDoc } from '@/core/documents/throttle';
import { LEAK_CLASSES } from '@/core/documents/kinds';
import { BENCH_DEPRESSION_Pa, BENCH_FLOW_m3ps, CLEARANCE_m } from '@/core/documents/within';
import { isFailure } from '@/core/failure';
import { clearanceFromClosedFlow, LEAK_CLEARANCE_m } from '@/core/flow/leak';
import { throttleWideOpen } from '@/core/flow/throttle';
import { formatQuantity } from '@/core/units/quantity';
import { INCH_OF_WATER_Pa } from '@/core/units/units';
import { ChoiceField } from '@/ui/field/choice-field';
import { FieldRow } from '@/ui/field/field-row';
import { FieldGroup } from '@/ui/field/group';
import { usePrefs } from '@/ui/theme/prefs';
import { Dialog } from '@/ui/dialog';
import { msg } from './messages';

const WORDS: Readonly<Record<LeakClass, string>> = {
  sealed: 'sealed against its bore',
  production: 'production fit',
  turned: 'turned by hand',
  measured: 'measured',
};

/** A bench reading of the shut throttle, turned into the gap round its blade. */
function ClosedReading({
  throttle,
  onTake,
  onClose,
}: {
  throttle: ThrottleDoc;
  onTake: (clearance_m: number) => void;
  onClose: () => void;
}) {
  const { pack } = usePrefs();
  const [flow, setFlow] = useState<number | null>(null);
  const [depression, setDepression] = useState(28 * INCH_OF_WATER_Pa);
  const wide = throttleWideOpen(throttle);
  const gap = flow === null || isFailure(wide) ? null : clearanceFromClosedFlow(flow, depression, wide.perimeter_m);
  const found = typeof gap === 'number' ? gap : null;
  return (
    <FieldGroup>
      {(wrong) => (
        <Dialog
          open
          title={msg.fromABenchReadingBladeShut}
          onCancel={onClose}
          onOk={() => found !== null && onTake(found)}
          okText={msg.takeIt}
          okButtonProps={{ disabled: wrong || found === null }}
          width={420}
        >
          <FieldRow
            label={msg.passesShut}
            measure="benchFlow"
            value={flow}
            within={BENCH_FLOW_m3ps}
            onChange={setFlow}
            onClear={() => setFlow(null)}
            placeholder={msg.flow}
          />
          <FieldRow
            label={msg.atADepressionOf}
            measure="depression"
            value={depression}
            within={BENCH_DEPRESSION_Pa}
            onChange={setDepression}
          />
          <p style={{ marginTop: 8 }}>
            {found === null
              ? 'Type what the bench read with the blade shut and all ports blocked.'
              : `That is a clearance of ${formatQuantity(found, 'fineLength', pack)} all round.`}
          </p>
        </Dialog>
      )}
    </FieldGroup>
  );
}

/** How the blade shuts: a class with its usual gap, a feeler's figure, or a bench reading. */
export function LeakFields({ throttle, onChange }: { throttle: ThrottleDoc; onChange: (t: ThrottleDoc) => void }) {
  const [reading, setReading] = useState(false);
  /** As it was when the gap was entered: a gap that is refused in the end was never measured. */
  const entered = useRef(throttle);
  return (
    <>
      <ChoiceField<LeakClass>
        label={msg.closedSeal}
        value={throttle.leak}
        options={LEAK_CLASSES.map((value) => ({ value, label: WORDS[value] }))}
        onChange={(leak) =>
          onChange({ ...throttle, leak, clearance_m: leak === 'measured' ? throttle.clearance_m : LEAK_CLEARANCE_m[leak] })
        }
      />
      <div onFocus={() => (entered.current = throttle)}>
        <FieldRow
          label={msg.bladeClearance}
          measure="fineLength"
          value={throttle.clearance_m}
          within={CLEARANCE_m}
          onChange={(clearance_m) => onChange({ ...throttle, clearance_m, leak: 'measured' })}
          onBack={() => onChange(entered.current)}
        />
      </div>
      <Button size="small" type="link" style={{ padding: 0 }} onClick={() => setReading(true)}>
        {msg.fromABenchReadingBladeShut2}
      </Button>
      {reading && (
        <ClosedReading
          throttle={throttle}
          onClose={() => setReading(false)}
          onTake={(clearance_m) => {
            onChange({ ...throttle, clearance_m, leak: 'measured' });
            setReading(false);
          }}
        />
      )}
    </>
  );
}
