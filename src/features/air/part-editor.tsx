'use client';

import { Button, Dropdown, Select } from 'antd';
import { useState } from 'react';
import type { PartPlace } from '@/core/documents/place';
import type { JobDoc } from '@/core/documents/job';
import type { PartDoc } from '@/core/documents/part';
import { RESTRICTORS } from '@/core/flow/compile';
import { CONVOLUTED_ROUGHNESS_m, SILICONE_ROUGHNESS_m, SMOOTH_ROUGHNESS_m } from '@/core/flow/losses';
import { DocField } from '@/features/job/field';
import { formatQuantity } from '@/core/units/quantity';
import { useJob, useTestedParts } from '@/features/job/provider';
import { Heading } from '@/ui/answer/stop-page';
import { ChoiceField } from '@/ui/field/choice-field';
import { ControlRow } from '@/ui/field/field-row';
import { usePrefs } from '@/ui/theme/prefs';
import { ADDABLE, addPart, isMovable, movePart, removePart } from './edit-parts';
import { StockBench } from './stock-bench';
import styles from './air.module.css';
import { msg } from './messages';

const WALLS = [
  { value: SMOOTH_ROUGHNESS_m, label: msg.smoothTube },
  { value: SILICONE_ROUGHNESS_m, label: msg.siliconeHose },
  { value: CONVOLUTED_ROUGHNESS_m, label: msg.convolutedHose },
];

function Bends({ path, bends }: { path: PartPlace; bends: readonly { angle_rad: number; radiusRatio: number }[] }) {
  const set = useJob((s) => s.set);
  return (
    <>
      {bends.map((_, i) => (
        <div key={i}>
          <DocField path={`${path}.bends.${i}.angle_rad`} label={`Bend ${i + 1}, angle`} measure="angle" />
          <DocField path={`${path}.bends.${i}.radiusRatio`} label={msg.itsRadiusBore} measure="ratio" />
        </div>
      ))}
      <div className={styles['tools']}>
        <Button
          size="small"
          disabled={bends.length >= 8}
          onClick={() => set(`${path}.bends`, [...bends, { angle_rad: Math.PI / 2, radiusRatio: 1.5 }])}
        >
          {msg.addABend}
        </Button>
        {bends.length > 0 && (
          <Button size="small" onClick={() => set(`${path}.bends`, bends.slice(0, -1))}>
            {msg.takeOneOut}
          </Button>
        )}
      </div>
    </>
  );
}

/** A throat that a class prescribes, or a plate: its shape decides how much comes back behind it. */
function RestrictorFields({ part, path }: { part: Extract<PartDoc, { type: 'restrictor' }>; path: PartPlace }) {
  const set = useJob((s) => s.set);
  return (
    <>
      <DocField path={`${path}.bore_m`} label={msg.throat} measure="bore" />
      <DocField path={`${path}.count`} label={msg.sideBySide} measure="count" />
      <ControlRow label={msg.shape}>
        <Select
          aria-label={msg.shapeOfTheRestrictor}
          size="small"
          style={{ width: '100%' }}
          value={part.kind}
          options={[
            { value: 'venturi', label: msg.venturiWithItsDiffuser },
            { value: 'plate', label: msg.thinPlateSharpEdge },
          ]}
          onChange={(kind) => set(`${path}.kind`, kind)}
        />
      </ControlRow>
      <DocField
        path={`${path}.Cd`}
        label={msg.dischargeCoefficient}
        measure="coefficient"
        nullable
        placeholder={part.kind === 'venturi' ? String(RESTRICTORS.venturi.Cd) : 'by the pipe, ISO 5167'}
      />
      <DocField
        path={`${path}.recovery`}
        label={msg.headWonBackBehindIt}
        measure="share"
        nullable
        placeholder={part.kind === 'venturi' ? '80' : 'none'}
      />
      <p className="quiet">{msg.itPassesNoMoreThanIts}</p>
    </>
  );
}

function PartFields({ part, path }: { part: PartDoc; path: PartPlace }) {
  const set = useJob((s) => s.set);
  switch (part.type) {
    case 'openEnd':
      return (
        <>
          <DocField path={`${path}.bore_m`} label={msg.bore} measure="bore" />
          <DocField path={`${path}.edgeRadius_m`} label={msg.edgeRadius} measure="bore" />
        </>
      );
    case 'filter':
      return (
        <>
          <DocField path={`${path}.bore_m`} label={msg.neckBore} measure="bore" />
          <DocField path={`${path}.ratedFlow_m3ps`} label={msg.ratedFlow} measure="benchFlow" />
          <DocField path={`${path}.ratedLoss_Pa`} label={msg.atALossOf} measure="loss" />
          <DocField path={`${path}.loading`} label={msg.loading1CleanTo2Due} measure="ratio" />
        </>
      );
    case 'pipe':
      return (
        <>
          <DocField path={`${path}.bore_m`} label={msg.bore} measure="bore" />
          <DocField path={`${path}.length_m`} label={msg.length} measure="length" />
          {part.count > 1 && <DocField path={`${path}.count`} label={msg.sideBySide} measure="count" />}
          <ChoiceField
            label={msg.wall}
            size="small"
            options={WALLS}
            value={part.roughness_m}
            onChange={(v) => set(`${path}.roughness_m`, v)}
          />
          <Bends path={path} bends={part.bends} />
        </>
      );
    case 'restrictor':
      return <RestrictorFields part={part} path={path} />;
    case 'meter':
    case 'section':
      return (
        <>
          <DocField path={`${path}.bore_m`} label={msg.bore} measure="bore" />
          <DocField path={`${path}.K`} label={msg.lossCoefficientK} measure="coefficient" />
        </>
      );
    case 'taper':
      return (
        <>
          <DocField path={`${path}.inBore_m`} label={msg.boreAirSide} measure="bore" />
          <DocField path={`${path}.outBore_m`} label={msg.boreEngineSide} measure="bore" />
          <DocField path={`${path}.halfAngle_rad`} label={msg.halfAngle} measure="angle" />
        </>
      );
    case 'airbox':
      return (
        <>
          <DocField path={`${path}.bore_m`} label={msg.boreOfItsInside} measure="bore" />
          <DocField path={`${path}.volume_m3`} label={msg.volume} measure="displacement" />
          <DocField path={`${path}.join.edgeRadius_m`} label={msg.radiusOnTheTrumpets} measure="bore" nullable placeholder={msg.sharp} />
        </>
      );
    case 'compressor':
      return <p className="quiet">{msg.compressorAndCoolerAreTheEngines}</p>;
    case 'throttle':
      return (
        <>
          <DocField path="car.stock.throttle.bore_m" label={msg.stockBore} measure="bore" />
          <DocField path="car.stock.throttle.shaft_m" label={msg.shaft} measure="bore" />
          <StockBench />
        </>
      );
    case 'opening':
      return (
        <>
          <DocField path="car.stock.manifoldOpening_m" label={msg.manifoldBore} measure="bore" />
          <DocField path="car.stock.gasketOpening_m" label={msg.gasketBore} measure="bore" />
          <DocField path={`${path}.edgeRadius_m`} label={msg.radiusOnItsEdge} measure="bore" />
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
        <span className="quiet">
          {msg.lossFrom} {part.bench.from}
        </span>
        <Button size="small" onClick={() => setBench(undefined)}>
          {msg.useItsOwnAgain}
        </Button>
      </div>
    );
  return (
    <ChoiceField
      label={msg.benchRecord}
      size="small"
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
  );
}

/** How the part meets the next one: a bare step unless somebody measured better. */
function JoinFields({ part, path }: { part: PartDoc; path: PartPlace }) {
  const [open, setOpen] = useState(part.join?.offset_m !== undefined || part.join?.halfAngle_rad !== undefined);
  if (part.type === 'airbox' || part.type === 'restrictor') return null;
  if (!open)
    return (
      <Button size="small" type="link" style={{ padding: 0 }} onClick={() => setOpen(true)}>
        {msg.howItMeetsTheNextPart}
      </Button>
    );
  return (
    <>
      <DocField path={`${path}.join.halfAngle_rad`} label={msg.halfAngleToTheNext} measure="angle" nullable placeholder={msg.bareStep} />
      <DocField path={`${path}.join.edgeRadius_m`} label={msg.radiusOnItsEdge} measure="bore" nullable placeholder={msg.sharp} />
      <DocField path={`${path}.join.offset_m`} label={msg.centresApartBy} measure="bore" nullable placeholder={msg.inLine} />
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
                {msg.towardTheAir}
              </Button>
              <Button
                size="small"
                disabled={parts[index + 1]?.type === 'throttle'}
                onClick={() => edit((d) => movePart(d, part.id, index + 1))}
              >
                {msg.towardTheEngine}
              </Button>
              <Button
                size="small"
                danger
                onClick={() => {
                  edit((d) => removePart(d, part.id));
                  onSelect(null);
                }}
              >
                {msg.takeOut}
              </Button>
            </div>
          )}
        </>
      ) : (
        <p className="quiet">{msg.clickAPartOfTheDrawing}</p>
      )}
      <Dropdown
        menu={{ items: ADDABLE.map((a) => ({ key: a.type, label: a.title })), onClick: ({ key }) => add(key as PartDoc['type']) }}
        trigger={['click']}
      >
        <Button className={styles['add']!}>{msg.addAPart}</Button>
      </Dropdown>
    </>
  );
}
