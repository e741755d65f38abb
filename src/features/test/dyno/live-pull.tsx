'use client';

import { Button, Checkbox, Select } from 'antd';
import { useState } from 'react';
import { REST_min } from '@/core/documents/within';
import { dynoFileText, type DynoReading } from '@/core/stand-ins/dyno';
import { useJob, useShelf } from '@/features/job/provider';
import { stampNow } from '@/ui/clock';
import { FieldRow } from '@/ui/field/field-row';
import { FieldGroup } from '@/ui/field/group';
import { usePrefs } from '@/ui/theme/prefs';
import type { useImports } from '../files/imports';
import { LiveChart } from './live-chart';
import { useStream } from '../use-stream';
import styles from '../test.module.css';
import { msg } from './messages';

const SEEDS = 100_000;

/** The stand-in dyno: a pull of this job's own engine, live; done, it is taken in as a file like any other. */
export function LivePull({ imports, unitId }: { imports: ReturnType<typeof useImports>; unitId: string | null }) {
  const { palette } = usePrefs();
  const id = useJob((s) => s.id);
  const car = useJob((s) => s.doc.car);
  const shelf = useShelf();
  const [side, setSide] = useState<string>('stock');
  const [rest, setRest] = useState(8);
  const [rate, setRate] = useState(420);
  const [hidden, setHidden] = useState(false);
  const [seed] = useState(() => Math.floor(performance.now() * 997) % SEEDS);
  const [rests, setRests] = useState<readonly number[]>([]);
  const pull = useStream<DynoReading>();
  const unit = shelf.find((u) => u.id === side);
  const name = unit?.doc.name ?? 'stock';
  const done = (readings: readonly DynoReading[], all: readonly number[]): void => {
    setRests(all);
    const text = dynoFileText(readings, name, car.weather, stampNow());
    imports.take([new File([text], `practice dyno ${name} ${all.length}.csv`, { type: 'text/csv' })]);
  };
  const start = (): void => {
    const all = [...rests, rest];
    const query = new URLSearchParams({
      job: id,
      ...(side !== 'stock' && { unit: side }),
      seed: String(seed),
      rests: all.join(','),
      rate: String(rate),
      hidden: hidden ? '1' : '0',
    });
    pull.start(`/api/stand-ins/dyno?${query}`, (readings) => done(readings, all));
  };
  const options = [{ value: 'stock', label: msg.stock }, ...shelf.map((u) => ({ value: u.id, label: u.doc.name }))];
  const shown = pull.state === 'running' || pull.readings.length > 0;
  return (
    <FieldGroup>
      {(wrong) => (
        <details className={styles['standIn']}>
          <summary>{msg.practiceDyno}</summary>
          <p className="quiet">{msg.simulatedTurnsThisJobsOwnEngine}</p>
          <Select
            aria-label={msg.onThePracticeDynosCar}
            size="small"
            style={{ width: '100%' }}
            value={side}
            options={unitId ? options.sort((a, b) => Number(b.value === unitId) - Number(a.value === unitId)) : options}
            onChange={setSide}
          />
          <FieldRow label={msg.restBeforeThePullMin} measure="count" value={rest} within={REST_min} onChange={setRest} />
          <FieldRow label={msg.sweepRpmASecond} measure="count" value={rate} within={{ least: 100, most: 4000 }} onChange={setRate} />
          <Checkbox checked={hidden} onChange={(e) => setHidden(e.target.checked)}>
            {msg.hideATrueEffectOfIts}
          </Checkbox>
          {shown && (
            <LiveChart
              readings={pull.readings}
              behind={null}
              color={side === 'stock' ? palette.stock : palette.series[0]!}
              range={[car.engine.lowest_rpm, car.engine.redline_rpm]}
            />
          )}
          {pull.state === 'away' && (
            <p className={styles['wrong']} role="alert">
              {msg.thePullBrokeOffHalfA}
            </p>
          )}
          <div className={styles['takers']}>
            {pull.state === 'running' ? (
              <Button size="small" danger onClick={pull.stop}>
                {msg.liftOff}
              </Button>
            ) : (
              <Button size="small" type="primary" disabled={wrong} onClick={start}>
                {msg.pull}
              </Button>
            )}
            <span className="quiet">{rests.length > 0 ? `${rests.length} made` : ''}</span>
          </div>
        </details>
      )}
    </FieldGroup>
  );
}
