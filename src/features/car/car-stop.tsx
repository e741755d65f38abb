'use client';

import { Input, Select } from 'antd';
import { useMemo } from 'react';
import type { JobPlace } from '@/core/documents/place';
import { airState } from '@/core/air/state';
import { CONTROL_KINDS, FUELS, USES } from '@/core/documents/kinds';
import { reshaped } from '@/core/documents/reshape';
import { isFailure, type Failure } from '@/core/failure';
import { chokingOf, type JobModel } from '@/core/job/model';
import { sweptRate } from '@/core/engine/demand';
import { isBoosted } from '@/core/engine/induction';
import { demandWorking } from '@/core/working/sizing-working';
import { formatAirFlow, formatNumber, formatQuantity, showQuantity } from '@/core/units/quantity';
import { plenumVolume, strokeOf } from '@/core/job/path';
import { coarse, packName, shownUnit, type UnitPack } from '@/core/units/measures';
import { fromSI } from '@/core/units/units';
import { DocField, Mark } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { useModel } from '@/features/job/use-model';
import { Heading, Pair, Rule, StopPage } from '@/ui/answer/stop-page';
import { failureText, rpmText } from '@/ui/answer/words';
import { Chart } from '@/ui/chart/lazy-chart';
import type { ChartSpec } from '@/ui/chart/figure';
import { ChoiceField } from '@/ui/field/choice-field';
import { usePrefs } from '@/ui/theme/prefs';
import { Num } from '@/ui/working/provider';
import { Breathing } from './breathing';
import { StockFace } from './face';
import { Layouts } from './layouts';
import { Measured } from './measured';
import { VeTable } from './ve-table';
import { limitLines, Limits, useLimitMarks } from '@/features/job/limits';
import { LeakFields } from '@/features/job/leak-fields';
import { About } from './about';
import styles from './car.module.css';
import { msg } from './messages';

/** Words of the shop's own to find the job by. */
function Tags() {
  const tags = useJob((s) => s.doc.tags);
  const set = useJob((s) => s.set);
  return (
    <Select
      mode="tags"
      aria-label={msg.tags}
      placeholder={msg.towingHillClimb}
      style={{ width: '100%' }}
      value={tags}
      tokenSeparators={[',']}
      open={false}
      suffix={null}
      onChange={(list: string[]) => set('tags', [...new Set(list.map((t) => t.trim().slice(0, 30)).filter(Boolean))].slice(0, 20))}
    />
  );
}

/** The engine as the solver sees it: power, and beside it the efficiency or the boost, scaled to the same height. */
function EngineChart({ model }: { model: JobModel }) {
  const { pack, palette } = usePrefs();
  const displacement = useJob((s) => s.doc.car.engine.displacement_m3);
  const density = model.reference.kind === 'na' ? model.reference.density_kgpm3 : null;
  const measured = useJob((s) => s.doc.car.measured.power);
  const limits = useLimitMarks(model);
  const spec = useMemo<ChartSpec>(() => {
    const { unit } = shownUnit('power', pack);
    const result = model.reference.result;
    const power = result.power_W.map((w) => fromSI(w, unit));
    const top = Math.max(...power);
    const peak = power.indexOf(top);
    const { unit: pressure, decimals } = shownUnit('plenum', pack);
    const second = isBoosted(result)
      ? {
          label: msg.boost2,
          values: result.boost_Pa.map((p) => fromSI(p, pressure)),
          words: (v: number) => `${formatNumber(v, decimals)} ${pressure.label}`,
        }
      : {
          label: msg.efficiency,
          values: result.massFlow_kgps.map((m, i) => (100 * m) / (sweptRate(displacement, model.rpm[i]!) * density!)),
          words: (v: number) => `${formatNumber(v, 0)} %`,
        };
    const most = Math.max(...second.values, 1e-9);
    const highest = Math.max(top, ...(measured?.value.map((w) => fromSI(w, unit)) ?? [])) * 1.15;
    const limit = limitLines(limits, [0, highest], palette.quiet);
    return {
      lines: [
        ...limit.lines,
        { id: 'power', label: msg.power, x: model.rpm, y: power, color: palette.ink, width: 2.4 },
        {
          id: 'second',
          label: `${second.label}, to ${second.words(most)}`,
          x: model.rpm,
          // On the power's axis: the shape is what matters, its top is named at the line's end.
          y: second.values.map((v) => (v / most) * top * 0.8),
          color: palette.series[3]!,
          width: 1.6,
        },
        ...(measured
          ? [
              {
                id: 'measured',
                label: msg.measured,
                x: measured.rpm,
                y: measured.value.map((w) => fromSI(w, unit)),
                color: palette.series[1]!,
                dash: 'dot' as const,
                width: 1.6,
              },
            ]
          : []),
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
      words: limit.words,
      xRange: [model.rpm[0]!, model.rpm.at(-1)!],
      yRange: [0, highest],
      xTitle: 'rpm',
      yTitle: `power at the crank, ${unit.label}`,
      marginRight: 118,
    };
  }, [model, displacement, density, measured, limits, pack, palette]);
  return <Chart spec={spec} height={214} name="engine" alt={msg.estimatedPowerOverRpmWithVolumetric} />;
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
  path: JobPlace;
  label: string;
  options: readonly { value: T; label: string }[];
  value: T;
}) {
  const set = useJob((s) => s.set);
  return <ChoiceField<T> label={label} mark={<Mark path={path} />} value={value} options={[...options]} onChange={(v) => set(path, v)} />;
}

function StockFields() {
  const shape = useJob((s) => s.doc.car.stock.throttle.shape);
  const throttle = useJob((s) => s.doc.car.stock.throttle);
  const set = useJob((s) => s.set);
  const base = 'car.stock.throttle';
  const individual = shape === 'individual';
  const reshape = (next: typeof shape): void => set(base, reshaped(throttle, next));
  return (
    <>
      <Heading>{msg.stockThrottleByCalipers}</Heading>
      {individual ? (
        <p className="quiet">
          {msg.oneBoreACylinder} {throttle.count} {msg.ofThem}
        </p>
      ) : (
        <ChoiceField
          label={msg.shape}
          value={shape}
          onChange={reshape}
          options={[
            { value: 'single', label: msg.oneRoundBore },
            { value: 'twin', label: msg.twoRoundBores },
            { value: 'oval', label: msg.oval },
          ]}
        />
      )}
      {shape === 'oval' ? (
        <>
          <DocField path={`${base}.width_m`} label={msg.width} measure="bore" />
          <DocField path={`${base}.height_m`} label={msg.height} measure="bore" />
        </>
      ) : (
        <DocField path={`${base}.bore_m`} label={individual ? 'Bore of each' : 'Bore'} measure="bore" />
      )}
      <DocField path={`${base}.shaft_m`} label={msg.shaft} measure="bore" />
      <ChoiceField
        label={msg.shaftIs}
        mark={<Mark path="car.stock.throttle.edge" />}
        value={throttle.edge}
        onChange={(v) => set(`${base}.edge`, v)}
        options={[
          { value: 'round', label: msg.roundScrewHeads },
          { value: 'flattened', label: msg.flattened },
          { value: 'knife', label: msg.knifeEdged },
        ]}
      />
      <DocField path="car.stock.manifoldOpening_m" label={msg.manifoldBore} measure="bore" />
      <DocField path="car.stock.gasketOpening_m" label={msg.gasketBore} measure="bore" />
      <DocField path="car.stock.openingLimit_m" label={msg.largestSafeManifoldBore} measure="bore" nullable placeholder={msg.notKnown} />
      <LeakFields throttle={throttle} onChange={(t) => set(base, t)} />
    </>
  );
}

/** Ways of breathing with nothing shared behind the throttle that would smooth its flow. */
const OWN_THROTTLES: readonly string[] = ['individual', 'drawThrough'];

function EngineFields() {
  const engine = useJob((s) => s.doc.car.engine);
  const kind = useJob((s) => s.doc.car.induction.kind);
  const { pack } = usePrefs();
  return (
    <>
      <Heading>{msg.engine}</Heading>
      <DocField path="car.engine.displacement_m3" label={msg.displacement} measure="displacement" />
      <DocField path="car.engine.cylinders" label={msg.cylinders} measure="count" />
      <DocField path="car.engine.compressionRatio" label={msg.compressionRatio} measure="ratio" />
      <DocField
        path="car.engine.stroke_m"
        label={engine.stroke_m === null ? 'Stroke, as if square' : 'Stroke'}
        measure="bore"
        nullable
        placeholder={showQuantity(strokeOf(engine), 'bore', pack).number}
      />
      {!OWN_THROTTLES.includes(kind) && (
        <DocField
          path="car.engine.plenum_m3"
          label={msg.plenumVolume}
          measure="displacement"
          nullable
          placeholder={showQuantity(plenumVolume(engine), 'displacement', pack, 2).number}
        />
      )}
      <DocField path="car.engine.lowest_rpm" label={msg.lowestRpmShown} measure="rpm" />
      <DocField path="car.engine.redline_rpm" label={msg.redline} measure="rpm" />
      <DocField path="car.engine.idle_rpm" label={msg.idle} measure="rpm" />
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
              {formatQuantity(air.density_kgpm3, 'density', pack)} {msg.densityAltitude}{' '}
              {formatQuantity(air.densityAltitude_m, 'altitude', pack)}
            </span>
          )
        }
      >
        {msg.weather}
      </Heading>
      <DocField path="car.weather.p_Pa" label={msg.barometerStation} measure="barometer" />
      <DocField path="car.weather.T_K" label={msg.airTemperature} measure="temperature" />
      <DocField path="car.weather.rh" label={msg.humidity} measure="share" />
    </>
  );
}

function Answer({ model }: { model: JobModel | Failure }) {
  const { pack } = usePrefs();
  const engine = useJob((s) => s.doc.car.engine);
  const measured = useJob((s) => s.doc.car.from.power === 'measured');
  if (isFailure(model)) return <>{msg.thisEngineCannotBeSolvedAs}</>;
  const top = Math.max(...model.demand_kgps);
  const choking = chokingOf(model, model.stock);
  return (
    <>{`${formatQuantity(engine.displacement_m3, 'displacement', pack, coarse('displacement', pack, 2))} and ${engine.cylinders} cylinders${boostText(model, pack)} need up to ${formatAirFlow(top, pack)} of air and make ${measured ? '' : 'about '}${formatQuantity(Math.max(...model.reference.result.power_W), 'power', pack, 0)}${choking ? `, held there by the ${choking.part}, which chokes from ${rpmText(choking.from_rpm)}` : ''}.`}</>
  );
}

function boostText(model: JobModel, pack: UnitPack): string {
  const { result } = model.reference;
  return isBoosted(result) ? ` at ${formatQuantity(Math.max(...result.boost_Pa), 'plenum', pack)} of boost` : '';
}

function assumedText(marks: Readonly<Record<string, string>>): string {
  const measured = Object.values(marks).filter((m) => m === 'measured').length;
  const entered = Object.values(marks).filter((m) => m === 'entered').length;
  return `${measured} figures measured, ${entered} entered; the rest are assumed and say so. Click a mark to change it.`;
}

/** Fuel as it is sold: by research octane, or in the US by the mean of both that stands on the pump. */
const US_FUEL: Readonly<Partial<Record<(typeof FUELS)[number], string>>> = {
  'petrol 91': 'pump gas 87',
  'petrol 95': 'pump gas 91',
  'petrol 98': 'pump gas 93',
  'petrol 102': 'race gas 98',
  LPG: 'propane',
};
const fuelLabel = (fuel: (typeof FUELS)[number], pack: UnitPack): string => (packName(pack) === 'us' ? US_FUEL[fuel] : undefined) ?? fuel;

function ControlsAndFuel() {
  const car = useJob((s) => s.doc.car);
  const { pack } = usePrefs();
  return (
    <>
      <Heading>{msg.controls}</Heading>
      <ChoiceRow
        path="car.controls.kind"
        label={msg.throttleIs}
        value={car.controls.kind}
        options={CONTROL_KINDS.map((value) => ({ value, label: CONTROL_LABEL[value] }))}
      />
      <DocField
        path="car.controls.closed_V"
        label={msg.throttlePositionSensorTpsClosed}
        measure="voltage"
        nullable
        placeholder={msg.notYet}
      />
      <DocField path="car.controls.full_V" label={msg.throttlePositionSensorTpsFull} measure="voltage" nullable placeholder={msg.notYet} />
      <Heading>{msg.fuelAndUse}</Heading>
      <ChoiceRow
        path="car.fuel"
        label={msg.fuel}
        value={car.fuel}
        options={FUELS.map((value) => ({ value, label: fuelLabel(value, pack) }))}
      />
      <ChoiceRow path="car.use" label={msg.use} value={car.use} options={USES.map((value) => ({ value, label: value }))} />
      <DocField path="car.power.bsfc_kgpJ" label={msg.bsfc} measure="fuelRate" />
      <DocField path="car.power.afr" label={msg.airFuelRatio} measure="ratio" />
    </>
  );
}

/** Car: the engine, its stock throttle, its controls and the day's air; each figure with where it comes from. */
export function CarStop() {
  const model = useModel();
  const doc = useJob((s) => s.doc);
  const set = useJob((s) => s.set);
  const { pack } = usePrefs();
  const { car } = doc;
  const boosted = car.induction.kind !== 'na' && car.induction.kind !== 'individual';
  const top = isFailure(model) ? 0 : model.demand_kgps.indexOf(Math.max(...model.demand_kgps));
  return (
    <StopPage
      wideAside
      answer={<Answer model={model} />}
      tone={isFailure(model) ? 'danger' : undefined}
      reason={isFailure(model) ? failureText(model, pack) : assumedText(doc.marks)}
      aside={
        <>
          <About />
          <EngineFields />
          <StockFields />
        </>
      }
    >
      <Layouts />
      {!isFailure(model) && <Limits model={model} />}
      <div className={styles['pictures']}>
        <div>{!isFailure(model) && <EngineChart model={model} />}</div>
        <StockFace stock={car.stock} />
      </div>
      {!isFailure(model) && (
        <Pair name={`needs most at ${rpmText(model.rpm[top]!)}`}>
          <Num label={msg.engineNeeds} working={() => demandWorking(doc, model, top)}>
            {formatAirFlow(model.demand_kgps[top]!, pack)}
          </Num>
        </Pair>
      )}
      <Rule />
      <div className={styles['groups']}>
        <section>
          <Breathing />
          {!boosted && <ControlsAndFuel />}
        </section>
        <section>
          <VeTable />
          <Measured />
          <WeatherFields />
          {boosted && <ControlsAndFuel />}
          <Heading>{msg.goal}</Heading>
          <Input.TextArea
            aria-label={msg.goal}
            rows={3}
            maxLength={400}
            value={car.goal}
            placeholder={msg.whatIsThisCarForAnd}
            onChange={(e) => set('car.goal', e.target.value)}
          />
          <Heading>{msg.tags}</Heading>
          <Tags />
        </section>
      </div>
    </StopPage>
  );
}
