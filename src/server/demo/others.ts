import type { JobDoc } from '@/core/documents/job';
import type { PartDoc } from '@/core/documents/part';
import { presetJob } from '@/core/job/presets';

const deg = (x: number): number => (x * Math.PI) / 180;

const pipe = (
  id: string,
  name: string,
  bore_mm: number,
  length_mm: number,
  bends: readonly [number, number][] = [],
  count = 1,
): PartDoc => ({
  id,
  type: 'pipe',
  name,
  bore_m: bore_mm / 1000,
  length_m: length_mm / 1000,
  roughness_m: 1e-5,
  count,
  bends: bends.map(([angle, radiusRatio]) => ({ angle_rad: deg(angle), radiusRatio })),
});

const marked = (measured: readonly string[], entered: readonly string[]): JobDoc['marks'] =>
  Object.fromEntries([...measured.map((k) => [k, 'measured'] as const), ...entered.map((k) => [k, 'entered'] as const)]);

const ENTERED = ['engine.cylinders', 'engine.compressionRatio', 'engine.redline_rpm', 'controls.kind', 'fuel', 'use', 'goal', 'induction'];
const MEASURED = ['engine.displacement_m3', 'stock.throttle.bore_m', 'stock.manifoldOpening_m', 'stock.gasketOpening_m'];

/** Heron coupé: a V6 that draws through its throttle into a screw blower; a real restriction, more so with the small pulley. */
export function heronJob(idOf: (name: string) => string): JobDoc {
  const base = presetJob('Heron coupé', 'V6, 3.3 L with a blower behind its throttle');
  const { induction } = base.car;
  if (induction.kind !== 'drawThrough') throw new Error('the preset has no blower');
  return {
    ...base,
    car: {
      ...base.car,
      induction: {
        ...induction,
        blower: {
          ...induction.blower,
          type: 'screw',
          displacement_m3: 0.0013,
          crankPulley_m: 0.168,
          blowerPulley_m: 0.084,
          limit_rpm: 16_000,
          etaAd: 0.7,
        },
        cooler: { effectiveness: 0.7, coolant_K: 318.15, loss_Pa: 4500 },
      },
      manifoldVe: { rpm: [1500, 3000, 4500, 5500, 6600], value: [0.86, 0.92, 0.96, 0.95, 0.91] },
      stock: {
        ...base.car.stock,
        throttle: { ...base.car.stock.throttle, bore_m: 0.074, shaft_m: 0.01 },
        manifoldOpening_m: 0.074,
        gasketOpening_m: 0.076,
        openingLimit_m: 0.083,
      },
      controls: { kind: 'electronic-digital', closed_V: 0.61, full_V: 4.32 },
      fuel: 'petrol 102',
      goal: 'Boost falls off above 5,000. Owner wants the smaller pulley next winter.',
      weather: { p_Pa: 99_800, T_K: 295.15, rh: 0.4 },
    },
    marks: marked(
      [...MEASURED, 'controls.closed_V', 'controls.full_V'],
      [...ENTERED, 'induction.blower.displacement_m3', 'induction.blower.crankPulley_m', 'induction.blower.blowerPulley_m'],
    ),
    air: {
      allowedLoss_Pa: null,
      lossFactor: 1,
      parts: [
        { id: 'inlet', type: 'openEnd', name: 'inlet mouth', bore_m: 0.1, edgeRadius_m: 0.008 },
        { id: 'filter', type: 'filter', name: 'filter', bore_m: 0.13, ratedFlow_m3ps: 0.7, ratedLoss_Pa: 700, loading: 1 },
        { id: 'meter', type: 'meter', name: 'MAF housing', bore_m: 0.074, K: 0.42 },
        { id: 'cone', type: 'taper', name: 'coupler', inBore_m: 0.074, outBore_m: 0.09, halfAngle_rad: deg(6) },
        pipe('pipe', 'pipe', 90, 380, [
          [90, 1.5],
          [30, 2],
        ]),
        { id: 'throttle', type: 'throttle' },
        { id: 'opening', type: 'opening', edgeRadius_m: 0 },
      ],
    },
    pick: { ...base.pick, shown: ['Ridley 78', 'Ridley 82', 'Harrow 90'].map(idOf), chosen: idOf('Ridley 82'), opening: 'matched' },
  };
}

/** Pipit hatch: a turbo four whose throttle sees dense air. Leave it alone. */
export function pipitJob(idOf: (name: string) => string): JobDoc {
  const base = presetJob('Pipit hatch', 'four, 1.8 L turbo');
  const { induction } = base.car;
  if (induction.kind !== 'turbo') throw new Error('the preset has no turbo');
  return {
    ...base,
    car: {
      ...base.car,
      induction: {
        ...induction,
        compressor: {
          ...induction.compressor,
          boost: { rpm: [1500, 2200, 3000, 5000, 6000, 6800], value: [12_000, 70_000, 110_000, 108_000, 98_000, 84_000] },
        },
        cooler: { effectiveness: 0.72, coolant_K: 305.15, loss_Pa: 6000 },
      },
      manifoldVe: { rpm: [1500, 3500, 5000, 6800], value: [0.88, 0.95, 0.94, 0.86] },
      stock: {
        ...base.car.stock,
        throttle: { ...base.car.stock.throttle, bore_m: 0.058 },
        manifoldOpening_m: 0.06,
        gasketOpening_m: 0.061,
      },
      controls: { kind: 'electronic-analogue', closed_V: null, full_V: null },
      goal: 'Owner has read that a larger throttle makes a turbo spool sooner.',
      weather: { p_Pa: 101_100, T_K: 291.15, rh: 0.55 },
    },
    marks: marked(MEASURED, [...ENTERED, 'induction.compressor.boost']),
    air: {
      allowedLoss_Pa: null,
      lossFactor: 1,
      parts: [
        { id: 'inlet', type: 'openEnd', name: 'inlet mouth', bore_m: 0.08, edgeRadius_m: 0.005 },
        { id: 'filter', type: 'filter', name: 'filter', bore_m: 0.1, ratedFlow_m3ps: 0.2, ratedLoss_Pa: 1000, loading: 1 },
        { id: 'meter', type: 'meter', name: 'MAF housing', bore_m: 0.068, K: 0.3 },
        pipe('suction', 'suction hose', 60, 420, [[90, 1]]),
        { id: 'compressor', type: 'compressor', name: 'turbo and cooler' },
        pipe('charge-pipe', 'charge pipe', 57, 900, [
          [90, 1.5],
          [45, 1.5],
        ]),
        { id: 'throttle', type: 'throttle' },
        { id: 'opening', type: 'opening', edgeRadius_m: 0 },
      ],
    },
    pick: { ...base.pick, shown: ['Dunlin 62', 'Dunlin 66', 'Plover 70'].map(idOf), chosen: null, opening: 'matched' },
    // The owner was told before: less than a mile an hour over the line is nothing to him.
    test: { ...base.test, strip: { ...base.test.strip, trap_mps: 0.44704 } },
  };
}

/** A valve as its cam card tells it: head and lift in mm, duration at the seat and lobe centre in degrees. */
const valve = (head_mm: number, lift_mm: number, duration: number, centre: number): JobDoc['car']['inlet']['inlet'] => ({
  count: 2,
  diameter_m: head_mm / 1000,
  lift_m: lift_mm / 1000,
  duration_rad: deg(duration),
  toldAt_m: 0,
  centre_rad: deg(centre),
});
const INLET_MEASURED = ['length_m', 'mouthBore_m', 'valveBore_m', 'edgeRadius_m', 'throttleAt_m'].map((k) => `inlet.${k}`);
const INLET_ENTERED = ['inlet', 'exhaust'].flatMap((v) =>
  ['count', 'diameter_m', 'lift_m', 'duration_rad', 'centre_rad'].map((k) => `inlet.${v}.${k}`),
);

/** Curlew roadster: a straight six on individual throttles in an airbox; the airbox filter is next. */
export function curlewJob(idOf: (name: string) => string): JobDoc {
  const base = presetJob('Curlew roadster', 'straight six, 2.4 L, individual throttles');
  return {
    ...base,
    car: {
      ...base.car,
      engine: { ...base.car.engine, idle_rpm: 1400, lowest_rpm: 2000 },
      ve: { rpm: [2000, 3200, 4400, 5500, 6600, 7300, 7800], value: [0.72, 0.84, 0.95, 1.02, 1.06, 1.04, 0.99] },
      stock: {
        ...base.car.stock,
        throttle: { ...base.car.stock.throttle, bore_m: 0.04, shaft_m: 0.007, count: 6, leak: 'sealed', clearance_m: 3e-5 },
        manifoldOpening_m: 0.0405,
        gasketOpening_m: 0.041,
        fittings: { ...base.car.stock.fittings, length_m: 0.09 },
      },
      inlet: {
        ...base.car.inlet,
        length_m: 0.28,
        mouthBore_m: 0.046,
        valveBore_m: 0.037,
        edgeRadius_m: 0.008,
        throttleAt_m: 0.1,
        inlet: valve(31.5, 10.2, 300, 106),
        exhaust: valve(27, 9.5, 292, 110),
      },
      use: 'race',
      fuel: 'petrol 102',
      goal: 'Sprints and hill climbs. Wants to know which trumpets to keep, and what holds it back at the top.',
      weather: { p_Pa: 100_900, T_K: 289.15, rh: 0.5 },
    },
    marks: marked([...MEASURED, ...INLET_MEASURED], [...ENTERED, ...INLET_ENTERED]),
    air: {
      allowedLoss_Pa: null,
      lossFactor: 1,
      parts: [
        { id: 'filter', type: 'filter', name: 'airbox filter', bore_m: 0.12, ratedFlow_m3ps: 0.15, ratedLoss_Pa: 1000, loading: 1.3 },
        pipe('duct', 'duct', 90, 300, [[45, 1.5]]),
        { id: 'airbox', type: 'airbox', name: 'airbox', bore_m: 0.2, volume_m3: 0.007, join: { edgeRadius_m: 0.009 } },
        pipe('trumpets', 'trumpets', 42, 90, [], 6),
        { id: 'throttle', type: 'throttle', join: {} },
        { id: 'opening', type: 'opening', edgeRadius_m: 0 },
      ],
    },
    sizing: { ...base.sizing, idleShare: 0.8 },
    pick: {
      ...base.pick,
      shown: ['Linnet six 42', 'Linnet six 45'].map(idOf),
      chosen: null,
      opening: 'matched',
      // The shorter trumpets he has lying about.
      inlet: { ...base.pick.inlet, length_m: 0.22 },
    },
    test: { ...base.test, plan: { ...base.test.plan, decidesOn: 'whole', order: 'alternating' } },
  };
}

/** Wren single: a track bike's one cylinder on one throttle, in a large airbox. Here the waves decide, not the bore. */
export function wrenJob(idOf: (name: string) => string): JobDoc {
  const base = presetJob('Wren single', 'straight six, 2.4 L, individual throttles');
  return {
    ...base,
    car: {
      ...base.car,
      engine: {
        ...base.car.engine,
        displacement_m3: 0.00065,
        cylinders: 1,
        compressionRatio: 12.2,
        idle_rpm: 1700,
        lowest_rpm: 3000,
        redline_rpm: 9200,
        stroke_m: 0.0755,
      },
      ve: { rpm: [3000, 4200, 5400, 6600, 7600, 8400, 9200], value: [0.74, 0.82, 0.93, 1.03, 1.07, 1.04, 0.96] },
      stock: {
        ...base.car.stock,
        throttle: {
          ...base.car.stock.throttle,
          shape: 'individual',
          bore_m: 0.042,
          shaft_m: 0.007,
          count: 1,
          leak: 'sealed',
          clearance_m: 3e-5,
        },
        manifoldOpening_m: 0.043,
        gasketOpening_m: 0.044,
      },
      inlet: {
        ...base.car.inlet,
        length_m: 0.24,
        mouthBore_m: 0.05,
        valveBore_m: 0.042,
        edgeRadius_m: 0.009,
        throttleAt_m: 0.09,
        inlet: valve(40, 11.2, 288, 105),
        exhaust: valve(33.5, 10.4, 280, 108),
      },
      use: 'race',
      fuel: 'petrol 102',
      goal: 'Short circuits. Rider wants drive out of slow corners and has a lathe for trumpets.',
      weather: { p_Pa: 101_000, T_K: 292.15, rh: 0.5 },
    },
    marks: marked([...MEASURED, 'engine.stroke_m', ...INLET_MEASURED], [...ENTERED, ...INLET_ENTERED]),
    air: {
      allowedLoss_Pa: null,
      lossFactor: 1,
      parts: [
        { id: 'filter', type: 'filter', name: 'airbox filter', bore_m: 0.12, ratedFlow_m3ps: 0.08, ratedLoss_Pa: 600, loading: 1 },
        { id: 'airbox', type: 'airbox', name: 'airbox', bore_m: 0.2, volume_m3: 0.0085, join: { edgeRadius_m: 0.009 } },
        pipe('trumpet', 'trumpet', 50, 80),
        { id: 'throttle', type: 'throttle', join: {} },
        { id: 'opening', type: 'opening', edgeRadius_m: 0 },
      ],
    },
    sizing: { ...base.sizing, idleShare: 0.8 },
    pick: {
      ...base.pick,
      shown: ['Siskin 45', 'Siskin 48'].map(idOf),
      chosen: null,
      opening: 'matched',
      inlet: { ...base.pick.inlet, length_m: 0.3 },
    },
  };
}
