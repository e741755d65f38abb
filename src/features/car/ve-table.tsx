'use client';

import { Button, Dropdown } from 'antd';
import { VE_SHAPES, veOfShape, type VeShape } from '@/core/job/presets';
import { Mark } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop';
import { QuantityInput } from '@/ui/field/quantity-input';
import styles from './car.module.css';

const MOST_KNOTS = 12;

/** The efficiency curve's points, each typed in place; a preset shape fills a start. */
export function VeTable() {
  const ve = useJob((s) => s.doc.car.ve);
  const redline = useJob((s) => s.doc.car.engine.redline_rpm);
  const pending = useJob((s) => s.pending);
  const set = useJob((s) => s.set);
  const setKnot = (list: 'rpm' | 'value', i: number, value: number): void =>
    set('car.ve', { ...ve, [list]: ve[list].map((v, k) => (k === i ? value : v)) });
  const add = (): void => {
    const last = ve.rpm.length - 1;
    const rpm = ve.rpm[last]! + 300;
    set('car.ve', { rpm: [...ve.rpm, rpm], value: [...ve.value, ve.value[last]!] });
  };
  const wrong = pending['car.ve']?.message;
  return (
    <>
      <Heading
        more={
          <Dropdown
            trigger={['click']}
            menu={{
              items: Object.keys(VE_SHAPES).map((key) => ({ key, label: key })),
              onClick: ({ key }) => set('car.ve', veOfShape(key as VeShape, redline), 'assumed'),
            }}
          >
            <Button size="small" type="text">
              shapes
            </Button>
          </Dropdown>
        }
      >
        Volumetric efficiency
      </Heading>
      <table className={styles['ve']}>
        <thead>
          <tr>
            <th>rpm</th>
            <th>
              of ambient <Mark path="car.ve" />
            </th>
          </tr>
        </thead>
        <tbody>
          {ve.rpm.map((rpm, i) => (
            <tr key={i}>
              <td>
                <QuantityInput label={`Efficiency point ${i + 1}, rpm`} measure="rpm" value={rpm} onChange={(v) => setKnot('rpm', i, v)} />
              </td>
              <td>
                <QuantityInput
                  label={`Efficiency point ${i + 1}`}
                  measure="fineShare"
                  value={ve.value[i]!}
                  onChange={(v) => setKnot('value', i, v)}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {wrong && (
        <p role="alert" style={{ color: 'var(--danger)', fontSize: 13 }}>
          {wrong}
        </p>
      )}
      <div className={styles['tools']}>
        <Button size="small" disabled={ve.rpm.length >= MOST_KNOTS} onClick={add}>
          Add a point
        </Button>
        <Button
          size="small"
          disabled={ve.rpm.length <= 2}
          onClick={() => set('car.ve', { rpm: ve.rpm.slice(0, -1), value: ve.value.slice(0, -1) })}
        >
          Take the last out
        </Button>
      </div>
    </>
  );
}
