'use client';

import { Button } from 'antd';
import { Link } from '@/ui/link';
import { useState } from 'react';
import { plainAdapter, squareManifoldFlange } from '@/core/documents/blank';
import { isUnmeasuredOval, ovalOf } from '@/core/documents/reshape';
import { roundBoreOf } from '@/core/documents/faces';
import type { AdapterDoc, FittingsDoc, ManifoldFlangeDoc, MountingDoc, OpeningShape, RoomDoc } from '@/core/documents/flange';
import { boltDiameter, BOLT_SIZES, SEAL_STATES } from '@/core/documents/kinds';
import type { StoredUnit } from '@/core/documents/unit';
import { THREADED_IN } from '@/core/documents/kinds';
import { FaceFields, PatternFields } from '@/features/flange/fields';
import { FittingsFields } from '@/features/flange/fittings';
import { DocField } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { Heading, Rule } from '@/ui/answer/stop-page';
import { ChoiceField } from '@/ui/field/choice-field';
import { FieldRow } from '@/ui/field/field-row';
import type { MeasureName } from '@/core/units/measures';
import { useDocPart } from './use-fit';
import { msg } from './messages';

const words = <T extends string>(list: readonly T[]) => list.map((value) => ({ value, label: value as string }));

export function Openings() {
  return (
    <>
      <Heading>{msg.measuredOnTheCar}</Heading>
      <DocField path="car.stock.manifoldOpening_m" label={msg.manifoldBore} measure="bore" />
      <DocField path="car.stock.gasketOpening_m" label={msg.gasketBore} measure="bore" />
    </>
  );
}

/** The manifold's face: holes, thread, and the bolts that held the stock throttle. */
export function ManifoldSide() {
  const { value: flange, set, issueAt } = useDocPart<ManifoldFlangeDoc | null>('car.stock.flange');
  const opening_m = useJob((s) => s.doc.car.stock.manifoldOpening_m);
  if (!flange) {
    const side = Math.round((opening_m + 0.014) * 1000) / 1000;
    return (
      <>
        <Openings />
        <Rule />
        <Heading>{msg.manifoldsFace}</Heading>
        <p className="quiet">{msg.notMeasuredWhetherHolesMeetAnd}</p>
        <Button size="small" onClick={() => set(squareManifoldFlange(side))}>
          {msg.measureIt}
        </Button>
      </>
    );
  }
  const length = (key: 'threadDepth_m' | 'boltLength_m' | 'stockThickness_m', label: string, nullable: boolean) => (
    <FieldRow
      label={label}
      measure="fineLength"
      value={flange[key]}
      placeholder={msg.notYet}
      wrong={issueAt(key, 'fineLength')}
      onChange={(v) => set({ ...flange, [key]: v })}
      onClear={nullable ? () => set({ ...flange, [key]: null }) : undefined}
    />
  );
  return (
    <>
      <Openings />
      <Rule />
      <Heading>{msg.manifoldsFace}</Heading>
      <OpeningFields flange={flange} issueAt={issueAt} />
      <PatternFields
        pattern={flange.pattern}
        hole_m={boltDiameter(flange.bolt)}
        issueAt={issueAt}
        onChange={(pattern) => set({ ...flange, pattern })}
      />
      <ChoiceField label={msg.thread} value={flange.bolt} options={words(BOLT_SIZES)} onChange={(bolt) => set({ ...flange, bolt })} />
      <ChoiceField
        label={msg.heldBy}
        value={flange.fastening}
        options={[
          { value: 'bolt', label: msg.bolts },
          { value: 'stud', label: msg.studs },
        ]}
        onChange={(fastening) => set({ ...flange, fastening })}
      />
      <ChoiceField label={msg.cutIn} value={flange.into} options={words(THREADED_IN)} onChange={(into) => set({ ...flange, into })} />
      {length('threadDepth_m', 'Full thread, deep', false)}
      {length('boltLength_m', flange.fastening === 'stud' ? 'Studs stand out' : 'Stock bolts, under the head', true)}
      {length('stockThickness_m', 'Stock flange, thick', true)}
      <FaceFields flange={flange} issueAt={issueAt} onChange={set} />
    </>
  );
}

const SHAPES = [
  { value: 'round' as const, label: msg.round },
  { value: 'oval' as const, label: msg.oval },
  { value: 'twin' as const, label: msg.twoRoundOnes },
];

/** The opening's shape; of one that is not round the bore of equal area goes into the flow model. */
function OpeningFields({
  flange,
  issueAt,
}: {
  flange: ManifoldFlangeDoc;
  issueAt: (path: string, measure?: MeasureName) => string | undefined;
}) {
  const change = useJob((s) => s.change);
  const [wrong, setWrong] = useState<string | null>(null);
  const { opening } = flange;
  const put = (next: OpeningShape | null): void => {
    const issue = change((doc) => ({
      ...doc,
      car: {
        ...doc.car,
        stock: {
          ...doc.car.stock,
          flange: { ...flange, opening: next },
          ...(next && {
            manifoldOpening_m: roundBoreOf(next),
            gasketOpening_m: roundBoreOf(next) + Math.max(0, doc.car.stock.gasketOpening_m - doc.car.stock.manifoldOpening_m),
          }),
        },
      },
    }));
    setWrong(issue?.message ?? null);
  };
  const bore_m = useJob((s) => s.doc.car.stock.manifoldOpening_m);
  const row = (key: string, label: string, value: number) => (
    <FieldRow
      label={label}
      measure="fineLength"
      value={value}
      wrong={issueAt(`opening.${key}`, 'fineLength')}
      onChange={(v) => put({ ...opening!, [key]: v } as OpeningShape)}
    />
  );
  return (
    <>
      <ChoiceField
        label={msg.boreIs}
        wrong={wrong ?? undefined}
        value={opening?.shape ?? 'round'}
        options={SHAPES}
        onChange={(shape) =>
          put(
            shape === 'round'
              ? null
              : shape === 'oval'
                ? { shape: 'oval', ...ovalOf(bore_m) }
                : { shape: 'twin', bore_m: bore_m / Math.SQRT2, spacing_m: bore_m / Math.SQRT2 + 0.004 },
          )
        }
      />
      {opening?.shape === 'oval' && (
        <>
          {row('width_m', 'Bore across', opening.width_m)}
          {row('height_m', 'Bore height', opening.height_m)}
          {isUnmeasuredOval(bore_m, opening) && <p className="quiet">{msg.ovalIsAGuess}</p>}
        </>
      )}
      {opening?.shape === 'twin' && (
        <>
          {row('bore_m', 'Each bore', opening.bore_m)}
          {row('spacing_m', 'Centres apart', opening.spacing_m)}
        </>
      )}
    </>
  );
}

const USUAL_ADAPTER_m = 0.02;

/** How the throttle is put on: an adapter or none, bolts, gasket, seal. */
export function MountingSide({ unit }: { unit: StoredUnit }) {
  const { value: m, set, issueAt } = useDocPart<MountingDoc>('fit.mounting');
  const { adapter } = m;
  const put = (more: Partial<AdapterDoc>): void => set({ ...m, adapter: { ...adapter!, ...more } });
  return (
    <>
      <Heading>{msg.howItGoesOn}</Heading>
      <ChoiceField
        label={msg.adapterPlate}
        value={adapter ? 'yes' : 'no'}
        options={[
          { value: 'no', label: msg.none },
          { value: 'yes', label: msg.aPlateBetween },
        ]}
        onChange={(v) => set({ ...m, adapter: v === 'yes' ? plainAdapter(USUAL_ADAPTER_m) : null })}
      />
      {adapter && (
        <>
          <FieldRow
            label={msg.plateThick}
            measure="fineLength"
            value={adapter.thickness_m}
            wrong={issueAt('adapter.thickness_m', 'fineLength')}
            onChange={(v) => put({ thickness_m: v })}
          />
          <ChoiceField
            label={msg.throttlesBoltsIntoIt}
            value={adapter.bolt}
            options={words(BOLT_SIZES)}
            onChange={(bolt) => put({ bolt })}
          />
          <ChoiceField label={msg.plateIsOf} value={adapter.into} options={words(THREADED_IN)} onChange={(into) => put({ into })} />
          <FieldRow
            label={msg.throttlesBoltsUnderTheHead}
            measure="fineLength"
            value={adapter.unitBolt_m}
            placeholder={msg.notYet}
            wrong={issueAt('adapter.unitBolt_m', 'fineLength')}
            onChange={(v) => put({ unitBolt_m: v })}
            onClear={() => put({ unitBolt_m: null })}
          />
          <FieldRow
            label={msg.secondGasket}
            measure="fineLength"
            value={adapter.gasket_m}
            wrong={issueAt('adapter.gasket_m', 'fineLength')}
            onChange={(v) => put({ gasket_m: v })}
          />
        </>
      )}
      <FieldRow
        label={msg.boltsIntoTheManifold}
        measure="fineLength"
        value={m.bolt_m}
        placeholder={msg.asStock}
        wrong={issueAt('bolt_m', 'fineLength')}
        onChange={(v) => set({ ...m, bolt_m: v })}
        onClear={() => set({ ...m, bolt_m: null })}
      />
      <FieldRow
        label={msg.spacerAndWashers}
        measure="fineLength"
        value={m.extraGrip_m}
        wrong={issueAt('extraGrip_m', 'fineLength')}
        onChange={(v) => set({ ...m, extraGrip_m: v })}
      />
      <FieldRow
        label={msg.gasketThick}
        measure="fineLength"
        value={m.gasket_m}
        wrong={issueAt('gasket_m', 'fineLength')}
        onChange={(v) => set({ ...m, gasket_m: v })}
      />
      <ChoiceField label={msg.sealIs} value={m.seal} options={words(SEAL_STATES)} onChange={(seal) => set({ ...m, seal })} />
      <p className="quiet" style={{ fontSize: 13, marginTop: 8 }}>
        {msg.theThrottlesOwnFlangeAndPlugs} <Link href={`/shelf?unit=${unit.id}`}>{msg.shelf}</Link>
        {msg.onceForEveryCar}
      </p>
    </>
  );
}

/** What the car has round its throttle, and the room it leaves. */
export function CarSide() {
  const fittings = useDocPart<FittingsDoc>('car.stock.fittings');
  const room = useDocPart<RoomDoc>('car.room');
  const row = (key: keyof RoomDoc, label: string, measure: MeasureName) => (
    <FieldRow
      label={label}
      measure={measure}
      value={room.value[key]}
      placeholder={msg.notYet}
      wrong={room.issueAt(key, measure)}
      onChange={(v) => room.set({ ...room.value, [key]: v })}
      onClear={() => room.set({ ...room.value, [key]: null })}
    />
  );
  return (
    <>
      <Heading>{msg.onTheStockThrottle}</Heading>
      <FittingsFields fittings={fittings.value} issueAt={fittings.issueAt} years={false} sensor={false} onChange={fittings.set} />
      <Rule />
      <Heading>{msg.roundIt}</Heading>
      {row('year', 'Model year', 'year')}
      {row('harnessSlack_m', 'Harness to spare', 'bore')}
      {row('coupler_m', 'Coupler inside', 'bore')}
      {row('couplerTravel_m', 'Coupler takes up', 'bore')}
      {row('above_m', 'Free over the bore', 'bore')}
    </>
  );
}
