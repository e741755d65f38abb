'use client';

import { Input, Select } from 'antd';
import { useMemo } from 'react';
import { airState } from '@/core/air/state';
import { FUELS, USES } from '@/core/documents/job';
import { CONTROL_KINDS } from '@/core/documents/unit';
import { isFailure, type Failure } from '@/core/failure';
import type { JobModel } from '@/core/job/model';
import { knotCurve } from '@/core/numbers/curve';
import { demandWorking } from '@/core/working/sizing-working';
import { formatNumber, formatQuantity } from '@/core/units/quantity';
import { shownUnit } from '@/core/units/measures';
import { fromSI } from '@/core/units/units';
import { DocField, Mark } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { useModel } from '@/features/job/use-model';
import { Heading, Pair, Rule, StopPage } from '@/ui/answer/stop';
import { failureText, rpmText } from '@/ui/answer/words';
import { Chart } from '@/ui/chart/lazy-chart';
import type { ChartSpec } from '@/ui/chart/figure';
import { ControlRow } from '@/ui/field/field-row';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { StockFace } from './face';
import { VeTable } from './ve-table';
import styles from './car.module.css';

function EngineChart({ model }: { model: JobModel }) {
  const { pack, palette } = usePrefs();
  const ve = useJob((s) => s.doc.car.ve);
  const spec = useMemo<ChartSpec>(() => {
    const { unit } = shownUnit('power', pack);
    const power = model.reference.result.power_W.map((w) => fromSI(w, unit));
    const curve = knotCurve(ve);
    const top = Math.max(...power);
    // Efficiency is drawn on the power's axis, its 100 % at the top of the power scale: the shape is what matters here.
    const eta = isFailure(curve) ? [] : model.rpm.map((n) => curve(n) * top);
    const peak = power.indexOf(top);
    return {
      lines: [
        { id: 'power', label: 'power', x: model.rpm, y: power, color: palette.ink, width: 2.4 },
        {
          id: 've',
          label: isFailure(curve) ? 'efficiency' : `efficiency, to ${formatNumber(100 * Math.max(...model.rpm.map(curve)), 0)} %`,
          x: model.rpm,
          y: eta,
          color: palette.series[3]!,
          width: 1.6,
        },
      ],
      marks: [
        {
          x: model.rpm[peak]!,
          y: top,
          text: `${formatNumber(top, 0)} at ${formatNumber(Math.round(model.rpm[peak]! / 10) * 10, 0)}`,
          color: palette.ink,
          side: 'left',
        },
      ],
      xRange: [model.rpm[0]!, model.rpm.at(-1)!],
      yRange: [0, top * 1.15],
      xTitle: 'rpm',
      yTitle: `power at the crank, ${unit.label}`,
      marginRight: 118,
    };
  }, [model, ve, pack, palette]);
  return <Chart spec={spec} height={250} name="engine" alt="Estimated power and volumetric efficiency over rpm" />;
}

const CONTROL_LABEL = {
  cable: 'cable',
  'electronic-analogue': 'electronic, analogue signals',
  'electronic-digital': 'electronic, digital signals',
} as const;

function ChoiceRow<T extends string>({
  path,
  label,
  options,
  value,
}: {
  path: string;
  label: string;
  options: readonly { value: T; label: string }[];
  value: T;
}) {
  const set = useJob((s) => s.set);
  return (
    <ControlRow label={label} mark={<Mark path={path} />}>
      <Select<T> aria-label={label} style={{ width: '100%' }} value={value} options={[...options]} onChange={(v) => set(path, v)} />
    </ControlRow>
  );
}

function StockFields() {
  const shape = useJob((s) => s.doc.car.stock.throttle.shape);
  const throttle = useJob((s) => s.doc.car.stock.throttle);
  const set = useJob((s) => s.set);
  const base = 'car.stock.throttle';
  const reshape = (next: typeof shape): void =>
    set(base, {
      ...throttle,
      shape: next,
      count: next === 'twin' ? 2 : 1,
      ...(next === 'oval' && { width_m: throttle.width_m ?? throttle.bore_m * 1.3, height_m: throttle.height_m ?? throttle.bore_m * 0.8 }),
    });
  return (
    <>
      <Heading>Stock unit, by calipers</Heading>
      <ControlRow label="Shape">
        <Select
          aria-label="Shape"
          style={{ width: '100%' }}
          value={shape}
          onChange={reshape}
          options={[
            { value: 'single', label: 'one round bore' },
            { value: 'twin', label: 'two round bores' },
            { value: 'oval', label: 'oval' },
          ]}
        />
      </ControlRow>
      {shape === 'oval' ? (
        <>
          <DocField path={`${base}.width_m`} label="Width" measure="bore" />
          <DocField path={`${base}.height_m`} label="Height" measure="bore" />
        </>
      ) : (
        <DocField path={`${base}.bore_m`} label="Bore" measure="bore" />
      )}
      <DocField path={`${base}.shaft_m`} label="Shaft" measure="bore" />
      <ControlRow label="Shaft is" mark={<Mark path="car.stock.throttle.edge" />}>
        <Select
          aria-label="Shaft is"
          style={{ width: '100%' }}
          value={throttle.edge}
          onChange={(v) => set(`${base}.edge`, v)}
          options={[
            { value: 'round', label: 'round, screw heads' },
            { value: 'flattened', label: 'flattened' },
            { value: 'knife', label: 'knife-edged' },
          ]}
        />
      </ControlRow>
      <DocField path="car.stock.manifoldOpening_m" label="Manifold opening" measure="bore" />
      <DocField path="car.stock.gasketOpening_m" label="Gasket opening" measure="bore" />
      <DocField path={`${base}.clearance_m`} label="Blade clearance, shut" measure="fineLength" />
    </>
  );
}

function EngineFields() {
  return (
    <>
      <Heading>Engine</Heading>
      <DocField path="car.engine.displacement_m3" label="Displacement" measure="displacement" />
      <DocField path="car.engine.cylinders" label="Cylinders" measure="count" />
      <DocField path="car.engine.compressionRatio" label="Compression ratio" measure="ratio" />
      <DocField path="car.engine.lowest_rpm" label="Looked at from" measure="rpm" />
      <DocField path="car.engine.redline_rpm" label="Redline" measure="rpm" />
      <DocField path="car.engine.idle_rpm" label="Idle" measure="rpm" />
    </>
  );
}

function WeatherFields() {
  const weather = useJob((s) => s.doc.car.weather);
  const { pack } = usePrefs();
  const air = airState(weather);
  return (
    <>
      <Heading
        more={
          isFailure(air) ? null : (
            <span className="quiet">
              {formatNumber(air.density_kgpm3, 3)} kg/m³ · density altitude {formatQuantity(air.densityAltitude_m, 'altitude', pack)}
            </span>
          )
        }
      >
        Weather
      </Heading>
      <DocField path="car.weather.p_Pa" label="Barometer, station" measure="barometer" />
      <DocField path="car.weather.T_K" label="Air temperature" measure="temperature" />
      <DocField path="car.weather.rh" label="Humidity" measure="share" />
    </>
  );
}

function Answer({ model }: { model: JobModel | Failure }) {
  const { pack } = usePrefs();
  const engine = useJob((s) => s.doc.car.engine);
  if (isFailure(model)) return <>This engine cannot be solved as it stands.</>;
  const top = Math.max(...model.demand_kgps);
  return (
    <>{`${formatQuantity(engine.displacement_m3, 'displacement', pack, pack === 'us' ? 0 : 1)} and ${engine.cylinders} cylinders ask for up to ${formatQuantity(top, 'massFlow', pack)} of air and make about ${formatQuantity(Math.max(...model.reference.result.power_W), 'power', pack, 0)}.`}</>
  );
}

function assumedText(marks: Readonly<Record<string, string>>): string {
  const measured = Object.values(marks).filter((m) => m === 'measured').length;
  const entered = Object.values(marks).filter((m) => m === 'entered').length;
  return `${measured} figures measured, ${entered} entered; the rest are assumed and say so. Click a mark to change it.`;
}

/** Car: the engine, its stock unit, its controls and the day's air; each figure with where it comes from. */
export function CarStop() {
  const model = useModel();
  const doc = useJob((s) => s.doc);
  const set = useJob((s) => s.set);
  const { pack } = usePrefs();
  const { car } = doc;
  const top = isFailure(model) ? 0 : model.demand_kgps.indexOf(Math.max(...model.demand_kgps));
  return (
    <StopPage
      wideAside
      answer={<Answer model={model} />}
      tone={isFailure(model) ? 'danger' : undefined}
      reason={isFailure(model) ? failureText(model, pack) : assumedText(doc.marks)}
      aside={
        <>
          <EngineFields />
          <StockFields />
        </>
      }
    >
      <div className={styles['pictures']}>
        <div>{!isFailure(model) && <EngineChart model={model} />}</div>
        <StockFace stock={car.stock} />
      </div>
      {!isFailure(model) && (
        <Pair name={`asks for most at ${rpmText(model.rpm[top]!)}`}>
          <Num label="engine asks for" working={() => demandWorking(doc, model.rpm[top]!)}>
            {formatQuantity(model.demand_kgps[top]!, 'massFlow', pack)}
          </Num>
        </Pair>
      )}
      <Rule />
      <div className={styles['groups']}>
        <section>
          <WeatherFields />
          <Heading>Controls</Heading>
          <ChoiceRow
            path="car.controls.kind"
            label="Throttle is"
            value={car.controls.kind}
            options={CONTROL_KINDS.map((value) => ({ value, label: CONTROL_LABEL[value] }))}
          />
          <DocField path="car.controls.closed_V" label="Position sensor, closed" measure="voltage" nullable placeholder="not yet" />
          <DocField path="car.controls.full_V" label="Position sensor, full" measure="voltage" nullable placeholder="not yet" />
          <Heading>Fuel and use</Heading>
          <ChoiceRow path="car.fuel" label="Fuel" value={car.fuel} options={FUELS.map((value) => ({ value, label: value }))} />
          <ChoiceRow path="car.use" label="Used on the" value={car.use} options={USES.map((value) => ({ value, label: value }))} />
          <DocField path="car.power.bsfc_kgpJ" label="Fuel per power" measure="fuelRate" />
          <DocField path="car.power.afr" label="Air to fuel" measure="ratio" />
        </section>
        <section>
          <VeTable />
          <Heading>Breathing</Heading>
          <ControlRow label="Induction">
            <Select
              aria-label="Induction"
              style={{ width: '100%' }}
              value={car.induction.kind}
              options={[{ value: 'na', label: 'naturally aspirated' }]}
            />
          </ControlRow>
          <DocField path="car.induction.heating_K" label="Charge warms by" measure="temperatureRise" />
          <DocField path="car.induction.exhaust_Pa" label="Exhaust back pressure" measure="loss" />
          <Heading>Goal</Heading>
          <Input.TextArea
            aria-label="Goal"
            rows={3}
            maxLength={400}
            value={car.goal}
            placeholder="What is this car for, and what is wanted of it?"
            onChange={(e) => set('car.goal', e.target.value)}
          />
        </section>
      </div>
    </StopPage>
  );
}
