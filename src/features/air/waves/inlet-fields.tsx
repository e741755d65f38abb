'use client';

import { Button, Checkbox, Slider } from 'antd';
import { shownUnit, type MeasureName, type UnitPack } from '@/core/units/measures';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { fromSI } from '@/core/units/units';
import { NO_TRIAL } from '@/core/documents/blank';
import { strokeOf } from '@/core/job/path';
import { DocField } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { Heading, Rule } from '@/ui/answer/stop-page';
import { usePrefs } from '@/ui/theme/prefs';
import { msg } from './messages';
import type { Waves } from './use-waves';

const BASE = 'car.inlet';

/** What stands in an empty field: the figure that is taken for it. Its unit stands beside it already. */
const taken = (value: number, measure: MeasureName, pack: UnitPack): string => {
  const { unit, decimals } = shownUnit(measure, pack);
  return formatNumber(fromSI(value, unit), decimals);
};

/** How far a handle reaches either way from what is there. */
const REACH = [0.4, 2] as const;

/** A figure that is tried, dragged or typed; where nothing is tried the handle stands at what is there. */
function Handle({
  name,
  label,
  measure,
  now,
  step,
}: {
  name: 'length_m' | 'mouthBore_m' | 'plenum_m3';
  label: string;
  measure: MeasureName;
  now: number;
  step: number;
}) {
  const { pack } = usePrefs();
  const path = `pick.inlet.${name}` as const;
  const tried = useJob((s) => s.doc.pick.inlet[name]);
  const set = useJob((s) => s.set);
  const show = (n: number | undefined): string => formatQuantity((n ?? 0) * step, measure, pack);
  return (
    <>
      <DocField path={path} label={label} measure={measure} nullable placeholder={taken(now, measure, pack)} mark={<></>} />
      <Slider
        ariaLabelForHandle={`${label}, handle`}
        min={Math.round((now * REACH[0]) / step)}
        max={Math.round((now * REACH[1]) / step)}
        value={Math.round((tried ?? now) / step)}
        tooltip={{ formatter: show }}
        ariaValueTextFormatterForHandle={show}
        onChange={(n: number) => set(path, n * step)}
        style={{ margin: '2px 8px 10px' }}
      />
    </>
  );
}

/** What of the inlet is tried against it, beside the picture. */
export function TrialFields({ waves }: { waves: Waves }) {
  const set = useJob((s) => s.set);
  const own = useJob((s) => s.doc.car.induction.kind === 'individual');
  const { now } = waves;
  return (
    <>
      <Heading>{msg.tryIt}</Heading>
      <Handle name="length_m" label={msg.tryLength} measure="length" now={now.length_m} step={0.005} />
      <Handle name="mouthBore_m" label={msg.tryMouth} measure="bore" now={now.mouthBore_m} step={0.0005} />
      {!own && <Handle name="plenum_m3" label={msg.tryPlenum} measure="displacement" now={now.plenum_m3} step={0.0001} />}
      {waves.differs && (
        <Button size="small" style={{ marginTop: 8 }} onClick={() => set('pick.inlet', NO_TRIAL)}>
          {msg.asItIsAgain}
        </Button>
      )}
    </>
  );
}

function ValveFields({ which, waves }: { which: 'inlet' | 'exhaust'; waves: Waves }) {
  const { pack } = usePrefs();
  const { now } = waves;
  const usual = (value: number, measure: MeasureName): string => taken(value, measure, pack);
  const field = (key: 'diameter_m' | 'lift_m' | 'duration_rad' | 'centre_rad', label: string, measure: MeasureName, value: number) => (
    <DocField path={`${BASE}.${which}.${key}`} label={label} measure={measure} nullable placeholder={usual(value, measure)} />
  );
  return (
    <>
      <Heading>{which === 'inlet' ? msg.inletValve : msg.exhaustValve}</Heading>
      <DocField
        path={`${BASE}.${which}.count`}
        label={msg.valvesACylinder}
        measure="count"
        nullable
        placeholder={usual(now[`${which}Count`], 'count')}
      />
      {field('diameter_m', msg.headDiameter, 'bore', now[`${which}Diameter_m`])}
      {field('lift_m', msg.lift, 'fineLength', now[`${which}Lift_m`])}
      {field('duration_rad', msg.duration, 'angle', now[`${which}Duration_rad`])}
      <DocField path={`${BASE}.${which}.toldAt_m`} label={msg.toldAt} measure="fineLength" mark={<></>} />
      {field('centre_rad', which === 'inlet' ? msg.centreAfter : msg.centreBefore, 'angle', now[`${which}Centre_rad`])}
    </>
  );
}

type RunnerKey = 'length_m' | 'mouthBore_m' | 'valveBore_m' | 'edgeRadius_m' | 'throttleAt_m' | 'rod_m';

/** Everything the waves need of the car: runner, cam card, crank train. What is left empty is a usual figure and says so. */
export function InletFields({ waves }: { waves: Waves }) {
  const { pack } = usePrefs();
  const own = useJob((s) => s.doc.car.induction.kind === 'individual');
  const primary = useJob((s) => s.doc.car.inlet.primary);
  const engine = useJob((s) => s.doc.car.engine);
  const set = useJob((s) => s.set);
  const f = waves.setup.inlet.figures;
  const usual = (value: number, measure: MeasureName): string => taken(value, measure, pack);
  const field = (key: RunnerKey, label: string, measure: MeasureName, value: number) => (
    <DocField path={`${BASE}.${key}`} label={label} measure={measure} nullable placeholder={usual(value, measure)} />
  );
  return (
    <>
      <Heading>{msg.theRunner}</Heading>
      {field('length_m', msg.fromMouthToValve, 'length', f.length_m)}
      {field('mouthBore_m', msg.boreAtMouth, 'bore', f.mouthBore_m)}
      {field('valveBore_m', msg.boreAtValve, 'bore', f.valveBore_m)}
      {field('edgeRadius_m', msg.edgeOfMouth, 'bore', f.edgeRadius_m)}
      {own ? (
        field('throttleAt_m', msg.mouthToBlade, 'length', f.throttleAt_m)
      ) : (
        <DocField
          path="car.engine.plenum_m3"
          label={msg.plenumVolume}
          measure="displacement"
          nullable
          placeholder={usual(f.plenum_m3, 'displacement')}
        />
      )}
      <Rule />
      <ValveFields which="inlet" waves={waves} />
      <Rule />
      <ValveFields which="exhaust" waves={waves} />
      <Rule />
      <Heading>{msg.bottomEnd}</Heading>
      <DocField path="car.engine.stroke_m" label={msg.stroke} measure="bore" nullable placeholder={taken(strokeOf(engine), 'bore', pack)} />
      {field('rod_m', msg.rod, 'length', f.rod_m)}
      <Checkbox
        checked={primary !== null}
        onChange={(e) =>
          set(
            `${BASE}.primary`,
            e.target.checked ? { length_m: 0.6, bore_m: Math.max(0.015, Math.round(f.exhaustDiameter_m * 1300) / 1000) } : null,
          )
        }
      >
        {msg.primaryOn}
      </Checkbox>
      {primary && (
        <>
          <DocField path={`${BASE}.primary.length_m`} label={msg.primaryLength} measure="length" />
          <DocField path={`${BASE}.primary.bore_m`} label={msg.primaryBore} measure="bore" />
        </>
      )}
    </>
  );
}
