'use client';

import { Button, Dropdown, Select } from 'antd';
import { useState } from 'react';
import type { JobDoc } from '@/core/documents/job';
import type { PartDoc } from '@/core/documents/part';
import { RESTRICTORS } from '@/core/flow/compile';
import { CONVOLUTED_ROUGHNESS_m, SILICONE_ROUGHNESS_m, SMOOTH_ROUGHNESS_m } from '@/core/flow/losses';
import { DocField } from '@/features/job/field';
import { formatQuantity } from '@/core/units/quantity';
import { useJob, useTestedParts } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop';
import { ControlRow } from '@/ui/field/field-row';
import { usePrefs } from '@/ui/theme/prefs';
import { ADDABLE, addPart, isMovable, movePart, removePart } from './edit-parts';
import { StockBench } from './stock-bench';
import styles from './air.module.css';

const WALLS = [
  { value: SMOOTH_ROUGHNESS_m, label: 'smooth tube' },
  { value: SILICONE_ROUGHNESS_m, label: 'silicone hose' },
  { value: CONVOLUTED_ROUGHNESS_m, label: 'convoluted hose' },
];

function Bends({ path, bends }: { path: string; bends: readonly { angle_rad: number; radiusRatio: number }[] }) {
  const set = useJob((s) => s.set);
  return (
    <>
      {bends.map((_, i) => (
        <div key={i}>
          <DocField path={`${path}.bends.${i}.angle_rad`} label={`Bend ${i + 1}, angle`} measure="angle" />
          <DocField path={`${path}.bends.${i}.radiusRatio`} label="its radius ÷ bore" measure="ratio" />
        </div>
      ))}
      <div className={styles['tools']}>
        <Button
          size="small"
          disabled={bends.length >= 8}
          onClick={() => set(`${path}.bends`, [...bends, { angle_rad: Math.PI / 2, radiusRatio: 1.5 }])}
        >
          Add a bend
        </Button>
        {bends.length > 0 && (
          <Button size="small" onClick={() => set(`${path}.bends`, bends.slice(0, -1))}>
            Take one out
          </Button>
        )}
      </div>
    </>
  );
}

/** A throat that a class prescribes, or a plate: its shape decides how much comes back behind it. */
function RestrictorFields({ part, path }: { part: Extract<PartDoc, { type: 'restrictor' }>; path: string }) {
  const set = useJob((s) => s.set);
  return (
    <>
      <DocField path={`${path}.bore_m`} label="Throat" measure="bore" />
      <DocField path={`${path}.count`} label="Side by side" measure="count" />
      <ControlRow label="Shape">
        <Select
          aria-label="Shape of the restrictor"
          size="small"
          style={{ width: '100%' }}
          value={part.kind}
          options={[
            { value: 'venturi', label: 'venturi, with its diffuser' },
            { value: 'plate', label: 'thin plate, sharp edge' },
          ]}
          onChange={(kind) => set(`${path}.kind`, kind)}
        />
      </ControlRow>
      <DocField
        path={`${path}.Cd`}
        label="Discharge coefficient"
        measure="coefficient"
        nullable
        placeholder={part.kind === 'venturi' ? String(RESTRICTORS.venturi.Cd) : 'by the pipe, ISO 5167'}
      />
      <DocField
        path={`${path}.recovery`}
        label="Head won back behind it"
        measure="share"
        nullable
        placeholder={part.kind === 'venturi' ? '80' : 'none'}
      />
      <p className="quiet">It passes no more than its throat chokes at, whatever stands behind it.</p>
    </>
  );
}

function PartFields({ part, path }: { part: PartDoc; path: string }) {
  const set = useJob((s) => s.set);
  switch (part.type) {
    case 'openEnd':
      return (
        <>
          <DocField path={`${path}.bore_m`} label="Bore" measure="bore" />
          <DocField path={`${path}.edgeRadius_m`} label="Edge radius" measure="bore" />
        </>
      );
    case 'filter':
      return (
        <>
          <DocField path={`${path}.bore_m`} label="Neck bore" measure="bore" />
          <DocField path={`${path}.ratedFlow_m3ps`} label="Rated flow" measure="benchFlow" />
          <DocField path={`${path}.ratedLoss_Pa`} label="at a loss of" measure="loss" />
          <DocField path={`${path}.loading`} label="Loading, 1 clean to 2 due" measure="ratio" />
        </>
      );
    case 'pipe':
      return (
        <>
          <DocField path={`${path}.bore_m`} label="Bore" measure="bore" />
          <DocField path={`${path}.length_m`} label="Length" measure="length" />
          {part.count > 1 && <DocField path={`${path}.count`} label="Side by side" measure="count" />}
          <ControlRow label="Wall">
            <Select
              aria-label="Wall"
              size="small"
              style={{ width: '100%' }}
              options={WALLS}
              value={part.roughness_m}
              onChange={(v) => set(`${path}.roughness_m`, v)}
            />
          </ControlRow>
          <Bends path={path} bends={part.bends} />
        </>
      );
    case 'restrictor':
      return <RestrictorFields part={part} path={path} />;
    case 'meter':
    case 'section':
      return (
        <>
          <DocField path={`${path}.bore_m`} label="Bore" measure="bore" />
          <DocField path={`${path}.K`} label="Loss coefficient K" measure="coefficient" />
        </>
      );
    case 'taper':
      return (
        <>
          <DocField path={`${path}.inBore_m`} label="Bore, air side" measure="bore" />
          <DocField path={`${path}.outBore_m`} label="Bore, engine side" measure="bore" />
          <DocField path={`${path}.halfAngle_rad`} label="Half-angle" measure="angle" />
        </>
      );
    case 'airbox':
      return (
        <>
          <DocField path={`${path}.bore_m`} label="Bore of its inside" measure="bore" />
          <DocField path={`${path}.volume_m3`} label="Volume" measure="displacement" />
          <DocField path={`${path}.join.edgeRadius_m`} label="Radius on the trumpets" measure="bore" nullable placeholder="sharp" />
        </>
      );
    case 'compressor':
      return <p className="quiet">Compressor and cooler are the engine’s: their figures are on the Car step, under Breathing.</p>;
    case 'throttle':
      return (
        <>
          <DocField path="car.stock.throttle.bore_m" label="Stock bore" measure="bore" />
          <DocField path="car.stock.throttle.shaft_m" label="Shaft" measure="bore" />
          <StockBench />
        </>
      );
    case 'opening':
      return (
        <>
          <DocField path="car.stock.manifoldOpening_m" label="Manifold bore" measure="bore" />
          <DocField path="car.stock.gasketOpening_m" label="Gasket bore" measure="bore" />
          <DocField path={`${path}.edgeRadius_m`} label="Radius on its edge" measure="bore" />
        </>
      );
  }
}

/** The part's loss taken from a bench record in place of its own coefficient. */
function BenchFigure({ part }: { part: PartDoc }) {
  const tested = useTestedParts();
  const change = useJob((s) => s.change);
  const { pack } = usePrefs();
  const records = tested.flatMap((t) => t.doc.bench.map((r, i) => ({ key: `${t.id}/${i}`, name: t.doc.name, r })));
  const id = part.id;
  const setBench = (bench: PartDoc['bench']): void =>
    void change((doc) => ({
      ...doc,
      air: { ...doc.air, parts: doc.air.parts.map((p) => (p.id === id ? { ...p, bench } : p)) },
    }));
  if (part.bench)
    return (
      <div className={styles['tools']}>
        <span className="quiet">Loss from {part.bench.from}</span>
        <Button size="small" onClick={() => setBench(undefined)}>
          use its own again
        </Button>
      </div>
    );
  return (
    <ControlRow label="Bench record">
      <Select
        aria-label="Bench record"
        size="small"
        style={{ width: '100%' }}
        placeholder={records.length === 0 ? 'none in the Bench room' : 'none'}
        disabled={records.length === 0}
        value={null}
        options={records.map(({ key, name, r }) => ({
          value: key,
          label: `${name}: ${formatQuantity(r.flow_m3ps, 'benchFlow', pack)} at ${formatQuantity(r.depression_Pa, 'depression', pack)}`,
        }))}
        onChange={(key) => {
          const found = records.find((x) => x.key === key);
          if (!found) return;
          const { flow_m3ps, depression_Pa, entryK, bench } = found.r;
          setBench({ flow_m3ps, depression_Pa, entryK, from: `${found.name}, ${bench}` });
        }}
      />
    </ControlRow>
  );
}

/** How the part meets the next one: a bare step unless somebody measured better. */
function JoinFields({ part, path }: { part: PartDoc; path: string }) {
  const [open, setOpen] = useState(part.join?.offset_m !== undefined || part.join?.halfAngle_rad !== undefined);
  if (part.type === 'airbox' || part.type === 'restrictor') return null;
  if (!open)
    return (
      <Button size="small" type="link" style={{ padding: 0 }} onClick={() => setOpen(true)}>
        How it meets the next part
      </Button>
    );
  return (
    <>
      <DocField path={`${path}.join.halfAngle_rad`} label="Half-angle to the next" measure="angle" nullable placeholder="bare step" />
      <DocField path={`${path}.join.edgeRadius_m`} label="Radius on its edge" measure="bore" nullable placeholder="sharp" />
      <DocField path={`${path}.join.offset_m`} label="Centres apart by" measure="bore" nullable placeholder="in line" />
    </>
  );
}

const TITLE: Readonly<Record<PartDoc['type'], string>> = {
  openEnd: 'Inlet mouth',
  filter: 'Filter',
  pipe: 'Pipe',
  meter: 'MAF housing',
  restrictor: 'Restrictor',
  taper: 'Taper',
  section: 'Section',
  airbox: 'Airbox',
  compressor: 'Compressor and cooler',
  throttle: 'Throttle on the car',
  opening: 'Manifold bore',
};

/** The selected part of the intake, edited in place; parts are added ahead of the throttle. */
export function PartEditor({ selected, onSelect }: { selected: string | null; onSelect: (id: string | null) => void }) {
  const parts = useJob((s) => s.doc.air.parts);
  const change = useJob((s) => s.change);
  const index = parts.findIndex((p) => p.id === selected);
  const part = parts[index];
  const edit = (f: (doc: JobDoc) => JobDoc): void => void change(f);
  const add = (type: PartDoc['type']): void => {
    let id: string | null = null;
    change((doc) => {
      const added = addPart(doc, type, selected);
      id = added.id;
      return added.doc;
    });
    onSelect(id);
  };
  return (
    <>
      <Heading>{part ? TITLE[part.type] : 'The path'}</Heading>
      {part ? (
        <>
          <PartFields key={part.id} part={part} path={`air.parts.${index}`} />
          {isMovable(part) && part.type !== 'filter' && part.type !== 'airbox' && part.type !== 'restrictor' && <BenchFigure part={part} />}
          {isMovable(part) && <JoinFields part={part} path={`air.parts.${index}`} />}
          {isMovable(part) && (
            <div className={styles['tools']}>
              <Button size="small" disabled={index === 0} onClick={() => edit((d) => movePart(d, part.id, index - 1))}>
                ← toward the air
              </Button>
              <Button
                size="small"
                disabled={parts[index + 1]?.type === 'throttle'}
                onClick={() => edit((d) => movePart(d, part.id, index + 1))}
              >
                toward the engine →
              </Button>
              <Button
                size="small"
                danger
                onClick={() => {
                  edit((d) => removePart(d, part.id));
                  onSelect(null);
                }}
              >
                Take out
              </Button>
            </div>
          )}
        </>
      ) : (
        <p className="quiet">
          Click a part of the drawing to change it, drag it to another place, drag its wall to another bore. Every change moves the answer
          at once; Ctrl Z takes it back.
        </p>
      )}
      <Dropdown
        menu={{ items: ADDABLE.map((a) => ({ key: a.type, label: a.title })), onClick: ({ key }) => add(key as PartDoc['type']) }}
        trigger={['click']}
      >
        <Button className={styles['add']!}>Add a part</Button>
      </Dropdown>
    </>
  );
}
