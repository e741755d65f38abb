import { Button, Segmented, Select } from 'antd';
import { useState } from 'react';
import type { BenchRecord } from '@/core/documents/unit';
import { BENCH_FLOW_m3ps } from '@/core/documents/within';
import { ENTRIES } from '@/core/flow/bench';
import { formatQuantity } from '@/core/units/quantity';
import { INCH_OF_WATER_Pa } from '@/core/units/units';
import { useJob, useShelf, useTestedParts } from '@/features/job/provider';
import { ControlRow, FieldRow } from '@/ui/field/field-row';
import { FieldGroup } from '@/ui/field/group';
import { usePrefs } from '@/ui/theme/prefs';
import styles from './air.module.css';
import { msg } from './messages';

type Bench = Pick<BenchRecord, 'bench' | 'depression_Pa' | 'entryK'>;

/** 28 inH₂O with a radius plate: what most benches read at, where the shop has no bench yet. */
const USUAL: Bench = { bench: 'our bench', depression_Pa: 28 * INCH_OF_WATER_Pa, entryK: 0.04 };

const keyOf = (b: Bench): string => `${b.bench}/${b.depression_Pa}/${b.entryK}`;

/** The benches this shop has records of, the one most used first. */
function useBenches(): Bench[] {
  const units = useShelf();
  const parts = useTestedParts();
  const records = [...units, ...parts].flatMap((u) => u.doc.bench).filter((r) => r.kind === 'reading');
  const count = new Map<string, { bench: Bench; n: number }>();
  for (const r of records) {
    const at = count.get(keyOf(r));
    count.set(keyOf(r), { bench: { bench: r.bench, depression_Pa: r.depression_Pa, entryK: r.entryK }, n: (at?.n ?? 0) + 1 });
  }
  const found = [...count.values()].sort((a, b) => b.n - a.n).map((x) => x.bench);
  return found.length > 0 ? found : [USUAL];
}

/** What the stock throttle flowed, or is said to: which bench, and the figure. */
export function StockBench() {
  const { pack } = usePrefs();
  const record = useJob((s) => s.doc.car.stock.bench);
  const set = useJob((s) => s.set);
  const benches = useBenches();
  const [bench, setBench] = useState<Bench>(benches[0]!);
  const [kind, setKind] = useState<BenchRecord['kind']>('reading');
  const [flow, setFlow] = useState<number | null>(null);
  const take = (flow_m3ps: number): void => {
    const taken: BenchRecord = { ...bench, flow_m3ps, kind, bores: null, takenOn: null, note: '' };
    set('car.stock.bench', taken, kind === 'claim' ? 'assumed' : 'measured');
    setFlow(null);
  };
  const label = (b: Bench): string => {
    const entry = ENTRIES.find((e) => e.value === b.entryK)?.label ?? `entry K ${b.entryK}`;
    return `${b.bench}, ${formatQuantity(b.depression_Pa, 'depression', pack)}, ${entry}`;
  };
  if (record)
    return (
      <div className={styles['tools']}>
        <span>
          {record.kind === 'claim' ? 'Claimed' : 'Flowed'} {formatQuantity(record.flow_m3ps, 'benchFlow', pack)}{' '}
          <span className="quiet">
            {record.kind === 'claim' ? 'by its maker, ± 10 % until it is read' : `on ${record.bench}`}
            {msg.at} {formatQuantity(record.depression_Pa, 'depression', pack)}
          </span>
        </span>
        <Button size="small" onClick={() => set('car.stock.bench', null)}>
          {msg.useItsShapeAgain}
        </Button>
      </div>
    );
  return (
    <>
      <ControlRow label={msg.bench}>
        <Select
          aria-label={msg.benchTheStockThrottleWasRead}
          size="small"
          style={{ width: '100%' }}
          value={keyOf(bench)}
          options={benches.map((b) => ({ value: keyOf(b), label: label(b) }))}
          onChange={(key) => setBench(benches.find((b) => keyOf(b) === key) ?? bench)}
        />
      </ControlRow>
      <FieldGroup>
        {(wrong) => (
          <>
            <FieldRow
              label={msg.stockFlowed}
              measure="benchFlow"
              value={flow}
              within={BENCH_FLOW_m3ps}
              placeholder={msg.notKnown}
              onChange={setFlow}
              onClear={() => setFlow(null)}
            />
            <Segmented
              size="small"
              aria-label={msg.readOrClaimed}
              value={kind}
              onChange={setKind}
              options={[
                { value: 'reading', label: msg.readOnABench },
                { value: 'claim', label: msg.aMakersClaim },
              ]}
            />
            <Button size="small" disabled={wrong || flow === null} onClick={() => take(flow!)}>
              {msg.useThisFigure}
            </Button>
          </>
        )}
      </FieldGroup>
    </>
  );
}
