'use client';

import { Button, Dropdown } from 'antd';
import { VE_SHAPES, veOfShape, type VeShape } from '@/core/job/presets';
import { Mark } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop-page';
import { KnotTable } from './knot-table';
import { msg } from './messages';

/** Boosted engines are described by their manifold: a flat figure is a fair start. */
const FLAT = [0.86, 0.92, 0.98];
const flatVe = (value: number, redline: number) => ({ rpm: [1500, redline], value: [value, value] });

/** The efficiency curve's points, each typed in place; a preset shape fills a start. */
export function VeTable() {
  const boosted = useJob((s) => !['na', 'individual'].includes(s.doc.car.induction.kind));
  const path = boosted ? 'car.manifoldVe' : 'car.ve';
  const from = useJob((s) => s.doc.car.from.efficiency);
  const redline = useJob((s) => s.doc.car.engine.redline_rpm);
  const set = useJob((s) => s.set);
  return (
    <>
      <Heading
        more={
          <Dropdown
            trigger={['click']}
            menu={{
              items: boosted
                ? FLAT.map((v) => ({ key: String(v), label: `flat, ${100 * v} %` }))
                : Object.keys(VE_SHAPES).map((key) => ({ key, label: key })),
              onClick: ({ key }) => set(path, boosted ? flatVe(Number(key), redline) : veOfShape(key as VeShape, redline), 'assumed'),
            }}
          >
            <Button size="small" type="text">
              {msg.shapes}
            </Button>
          </Dropdown>
        }
      >
        {msg.volumetricEfficiency}
      </Heading>
      <KnotTable
        key={path}
        path={path}
        label={msg.efficiency2}
        measure="fineShare"
        fewest={2}
        head={
          <>
            {boosted ? 'of the manifold' : 'of ambient'} <Mark path={path} />
          </>
        }
      >
        {from !== 'table' && (
          <p className="quiet">
            {msg.notUsedNowTheEfficiencyIs} {from === 'air' ? 'air' : from}.
          </p>
        )}
      </KnotTable>
    </>
  );
}
