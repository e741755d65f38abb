'use client';

import { Button } from 'antd';
import type { CompressorMap, InductionDoc } from '@/core/documents/induction';
import { BLOWER_KINDS } from '@/core/documents/kinds';
import { ADIABATIC_EFFICIENCY } from '@/core/engine/charge';
import { driveRatio } from '@/core/engine/pulley';
import { jobPulsation } from '@/core/job/path';
import { formatNumber } from '@/core/units/quantity';
import { DocField } from '@/features/job/field';
import { useJob } from '@/features/job/provider';
import { useSized } from '@/features/job/use-model';
import { Heading, Pair } from '@/ui/answer/stop-page';
import { ChoiceField } from '@/ui/field/choice-field';
import styles from './car.module.css';
import { KnotTable } from './knot-table';
import { msg } from './messages';

const BASE = 'car.induction';
/** A pulsation below this changes no figure that is shown. */
const NOTICEABLE = 1.02;

function CoolerFields() {
  return (
    <>
      <Heading>{msg.chargeCooler}</Heading>
      <DocField path={`${BASE}.cooler.effectiveness`} label={msg.coolerEffectiveness} measure="share" />
      <DocField path={`${BASE}.cooler.coolant_K`} label={msg.itsCoolantOrAir} measure="temperature" />
      <DocField path={`${BASE}.cooler.loss_Pa`} label={msg.pressureDropAtFullFlow} measure="loss" />
    </>
  );
}

function BlowerFields({ induction }: { induction: Extract<InductionDoc, { kind: 'drawThrough' }> }) {
  const set = useJob((s) => s.set);
  const redline = useJob((s) => s.doc.car.engine.redline_rpm);
  const { blower } = induction;
  const top = driveRatio(blower) * redline;
  return (
    <>
      <ChoiceField
        label={msg.blowerIs}
        value={blower.type}
        options={BLOWER_KINDS.map((value) => ({ value, label: value === 'roots' ? 'roots type' : 'screw type' }))}
        onChange={(type) => set(`${BASE}.blower`, { ...blower, type, etaAd: ADIABATIC_EFFICIENCY[type] })}
      />
      <DocField path={`${BASE}.blower.displacement_m3`} label={msg.displacementPerRev} measure="displacement" />
      <DocField path={`${BASE}.blower.crankPulley_m`} label={msg.crankPulley} measure="bore" />
      <DocField path={`${BASE}.blower.blowerPulley_m`} label={msg.blowerPulley} measure="bore" />
      <DocField path={`${BASE}.blower.step`} label={msg.stepUpRatio} measure="ratio" />
      <DocField path={`${BASE}.blower.overdrive`} label={msg.crankPulleyOverdrive} measure="share" />
      <DocField path={`${BASE}.blower.limit_rpm`} label={msg.blowersSpeedLimit} measure="rpm" nullable placeholder={msg.notKnown} />
      <Pair name="ratio">
        <span>{formatNumber(driveRatio(blower), 3)}</span>
      </Pair>
      <Pair name="blower at the redline">
        <span
          role={blower.limit_rpm !== null && top > blower.limit_rpm ? 'alert' : undefined}
          className={blower.limit_rpm !== null && top > blower.limit_rpm ? styles['over'] : undefined}
        >
          {formatNumber(Math.round(top), 0)} {msg.rpm}
          {blower.limit_rpm !== null && top > blower.limit_rpm ? ', over its limit' : ''}
        </span>
      </Pair>
      <MeasuredWith ratio={driveRatio(blower)} />
      <Heading>{msg.howWellItWorks}</Heading>
      <DocField path={`${BASE}.blower.eta0`} label={msg.veOffBoost} measure="fineShare" />
      <DocField path={`${BASE}.blower.k`} label={msg.flowLostPerPressureRatio} measure="coefficient" />
      <DocField path={`${BASE}.blower.slipAt_rpm`} label={msg.toldAtABlowerSpeedOf} measure="rpm" />
      <DocField path={`${BASE}.blower.etaAd`} label={msg.adiabaticEfficiency} measure="fineShare" />
      <DocField path={`${BASE}.blower.beltEfficiency`} label={msg.belt} measure="fineShare" />
    </>
  );
}

/** A boost measured with other pulleys is not this one's: which it goes with is asked, and until then it is that of the old ones. */
function MeasuredWith({ ratio }: { ratio: number }) {
  const boost = useJob((s) => s.doc.car.measured.boost);
  const used = useJob((s) => s.doc.car.from.efficiency === 'boost');
  const set = useJob((s) => s.set);
  const with_ = boost?.driveRatio ?? null;
  if (!boost || !used || with_ === null || Math.abs(with_ / ratio - 1) < 1e-4) return null;
  return (
    <div role="alert" className={styles['question']}>
      <p>
        {msg.theMeasuredBoostWasThereBefore} {formatNumber(with_, 3)}
        {msg.now} {formatNumber(ratio, 3)}
        {msg.itIsTakenAsThatOf}
      </p>
      <Button size="small" onClick={() => set('car.measured.boost', { ...boost, driveRatio: ratio })}>
        {msg.itWasMeasuredWithThesePulleys}
      </Button>
    </div>
  );
}

const MOST_EDGE = 12;

/** A few points of a compressor's map, as far as its maker gives them. */
function MapFields({ map, path }: { map: CompressorMap; path: 'car.induction.compressor.map' }) {
  const set = useJob((s) => s.set);
  return (
    <>
      <Heading>{msg.compressorMapWhereKnown}</Heading>
      {(['surge', 'choke'] as const).map((edge) => (
        <div key={edge}>
          {map[edge].map((_, i) => (
            <div key={i}>
              <DocField
                path={`${path}.${edge}.${i}.ratio`}
                label={`${edge === 'surge' ? 'Surge' : 'Choke'} ${i + 1}, at a ratio of`}
                measure="ratio"
              />
              <DocField
                path={`${path}.${edge}.${i}.massFlow_kgps`}
                label={edge === 'surge' ? `surge ${i + 1} needs at least` : `choke ${i + 1} passes at most`}
                measure="massFlow"
              />
            </div>
          ))}
          <div className={styles['tools']}>
            <Button
              size="small"
              disabled={map[edge].length >= MOST_EDGE}
              onClick={() =>
                set(`${path}.${edge}`, [...map[edge], map[edge].at(-1) ?? { massFlow_kgps: edge === 'surge' ? 0.05 : 0.2, ratio: 1.8 }])
              }
            >
              {msg.addA} {edge} {msg.point}
            </Button>
            {map[edge].length > 0 && (
              <Button size="small" onClick={() => set(`${path}.${edge}`, map[edge].slice(0, -1))}>
                {msg.takeTheLastOut}
              </Button>
            )}
          </div>
        </div>
      ))}
    </>
  );
}

function Pulsation() {
  const sized = useSized();
  const p = jobPulsation(sized);
  if (!p) return null;
  if (p.eventShare === null)
    return p.own < NOTICEABLE ? null : (
      <Pair name="pulsation at the throttle">
        <span>
          {p.atLeast ? 'at least ' : ''}
          {formatNumber(p.own, 2)} {msg.theSteadyLoss}
        </span>
      </Pair>
    );
  return (
    <>
      <Pair name="pulsation at a throttle">
        <span>
          {msg.atLeast} {formatNumber(p.own, 2)} {msg.theSteadyLoss}
        </span>
      </Pair>
      <Pair name="peak over mean flow">
        <span>{formatNumber(p.ownPeakToMean, 2)}</span>
      </Pair>
      <Pair name="ahead of the airbox">
        <span>{formatNumber(p.shared, 3)} ×</span>
      </Pair>
    </>
  );
}

/** What matters about how this engine is filled, and nothing else. */
export function Breathing() {
  const induction = useJob((s) => s.doc.car.induction);
  const set = useJob((s) => s.set);
  return (
    <>
      <Heading>{msg.breathing}</Heading>
      {(induction.kind === 'na' || induction.kind === 'individual') && (
        <DocField path={`${BASE}.heating_K`} label={msg.chargeHeatPickUp} measure="temperatureRise" />
      )}
      {induction.kind === 'individual' && (
        <>
          <DocField path={`${BASE}.event_rad`} label={msg.inductionEvent} measure="angle" />
          <Pulsation />
        </>
      )}
      {induction.kind === 'drawThrough' && <BlowerFields induction={induction} />}
      {induction.kind === 'centrifugal' && (
        <>
          <DocField path={`${BASE}.compressor.pressureRatio`} label={msg.pressureRatio} measure="ratio" />
          <DocField path={`${BASE}.compressor.rpm`} label={msg.madeAt} measure="rpm" />
          <DocField path={`${BASE}.compressor.etaAd`} label={msg.adiabaticEfficiency} measure="fineShare" />
          <DocField path={`${BASE}.compressor.beltEfficiency`} label={msg.belt} measure="fineShare" />
          <Pulsation />
          <MapFields map={induction.compressor.map} path={`${BASE}.compressor.map`} />
        </>
      )}
      {induction.kind === 'turbo' && (
        <>
          <KnotTable path={`${BASE}.compressor.boost`} label={msg.boost} measure="plenum" fewest={1} head="boost held, gauge" />
          <ChoiceField
            label={msg.boostIsReadAt}
            value={induction.compressor.targetAt}
            options={[
              { value: 'plenum', label: msg.thePlenum },
              { value: 'compressor', label: msg.theCompressorOutlet },
            ]}
            onChange={(v) => set(`${BASE}.compressor.targetAt`, v)}
          />
          <DocField path={`${BASE}.compressor.etaAd`} label={msg.adiabaticEfficiency} measure="fineShare" />
          <Pulsation />
          <MapFields map={induction.compressor.map} path={`${BASE}.compressor.map`} />
        </>
      )}
      {induction.kind === 'na' && <Pulsation />}
      <DocField path={`${BASE}.exhaust_Pa`} label={msg.exhaustBackPressure} measure="loss" />
      {'cooler' in induction && <CoolerFields />}
    </>
  );
}
