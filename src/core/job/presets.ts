import {
  NO_ABOUT,
  NO_DEFAULTS,
  NO_FIT,
  NO_FITTINGS,
  NO_GEARBOX,
  NO_INLET,
  NO_INSTALL,
  NO_PLAN,
  NO_ROAD as NO_ROAD_RUNS,
  NO_ROOM,
  NO_SIZING,
  NO_STRIP_PLAN,
  NO_TRIAL,
  NO_VERDICT,
} from '../documents/blank';
import type { InductionKind } from '../documents/induction';
import type { CarDoc, JobDoc, ShopDefaults } from '../documents/job';
import type { PartDoc } from '../documents/part';
import { MANIFOLD_VE } from '../engine/charge';
import { FUELLING } from '../engine/demand';
import { EXHAUST_BACK_PRESSURE_Pa } from '../engine/input';
import { CHARGE_HEATING_K } from '../engine/na';
import type { StoredUnit } from '../documents/unit';
import { grossBore } from '../documents/openings';
import { withInduction } from './induction';
import { BLADE_CLEARANCE_m, CLOSED_ANGLE_rad } from '../flow/throttle';

/** Volumetric efficiency by share of the redline: shapes that most engines fall near until theirs is measured. */
export const VE_SHAPES = {
  'mild street cam': { share: [0.2, 0.36, 0.52, 0.66, 0.8, 0.91, 1], value: [0.75, 0.82, 0.88, 0.91, 0.89, 0.85, 0.8] },
  'two valves, long runners': { share: [0.2, 0.35, 0.5, 0.62, 0.76, 0.9, 1], value: [0.78, 0.86, 0.88, 0.86, 0.81, 0.74, 0.67] },
  'four valves, modern': { share: [0.2, 0.36, 0.52, 0.68, 0.82, 0.92, 1], value: [0.8, 0.87, 0.93, 0.98, 0.98, 0.95, 0.9] },
  'sharp cam': { share: [0.25, 0.4, 0.55, 0.7, 0.85, 0.95, 1], value: [0.62, 0.74, 0.86, 0.97, 1.03, 1.01, 0.97] },
} as const;
export type VeShape = keyof typeof VE_SHAPES;

export function veOfShape(shape: VeShape, redline_rpm: number): CarDoc['ve'] {
  const { share, value } = VE_SHAPES[shape];
  return { rpm: share.map((s) => Math.round((s * redline_rpm) / 50) * 50), value: [...value] };
}

interface EnginePreset {
  readonly displacement_m3: number;
  readonly cylinders: number;
  readonly compressionRatio: number;
  readonly redline_rpm: number;
  readonly bore_m: number;
  readonly ve: VeShape;
  readonly induction?: InductionKind;
}

/** Sensible starts for a new job. Every figure that comes from one is marked assumed. */
export const ENGINE_PRESETS: Readonly<Record<string, EnginePreset>> = {
  'small four, 1.4 L': {
    displacement_m3: 0.0014,
    cylinders: 4,
    compressionRatio: 10,
    redline_rpm: 6300,
    bore_m: 0.046,
    ve: 'mild street cam',
  },
  'four, 2.0 L four-valve': {
    displacement_m3: 0.002,
    cylinders: 4,
    compressionRatio: 10.8,
    redline_rpm: 7200,
    bore_m: 0.058,
    ve: 'four valves, modern',
  },
  'straight six, 2.9 L': {
    displacement_m3: 0.0029,
    cylinders: 6,
    compressionRatio: 10.2,
    redline_rpm: 6800,
    bore_m: 0.058,
    ve: 'mild street cam',
  },
  'V6, 3.5 L four-valve': {
    displacement_m3: 0.0035,
    cylinders: 6,
    compressionRatio: 10.8,
    redline_rpm: 6800,
    bore_m: 0.07,
    ve: 'four valves, modern',
  },
  'V8, 5.0 L two-valve': {
    displacement_m3: 0.005,
    cylinders: 8,
    compressionRatio: 9.5,
    redline_rpm: 5800,
    bore_m: 0.065,
    ve: 'two valves, long runners',
  },
  'V6, 3.3 L with a blower behind its throttle': {
    displacement_m3: 0.0033,
    cylinders: 6,
    compressionRatio: 9.2,
    redline_rpm: 6600,
    bore_m: 0.074,
    ve: 'four valves, modern',
    induction: 'drawThrough',
  },
  'V8, 4.8 L with a centrifugal': {
    displacement_m3: 0.0048,
    cylinders: 8,
    compressionRatio: 9.5,
    redline_rpm: 6500,
    bore_m: 0.075,
    ve: 'two valves, long runners',
    induction: 'centrifugal',
  },
  'four, 1.8 L turbo': {
    displacement_m3: 0.0018,
    cylinders: 4,
    compressionRatio: 9.6,
    redline_rpm: 6800,
    bore_m: 0.058,
    ve: 'four valves, modern',
    induction: 'turbo',
  },
  'straight six, 2.4 L, individual throttles': {
    displacement_m3: 0.0024,
    cylinders: 6,
    compressionRatio: 11,
    redline_rpm: 7800,
    bore_m: 0.058,
    ve: 'sharp cam',
    induction: 'individual',
  },
};

/** The preset an engine is closest to, by its cylinders and then its displacement: its compression and cam stand in for unknown ones. */
export function nearestPreset({ cylinders, displacement_m3 }: { cylinders: number; displacement_m3: number }): string {
  const far = (p: EnginePreset): number => 10 * Math.abs(p.cylinders - cylinders) + Math.abs(Math.log(p.displacement_m3 / displacement_m3));
  const plain = Object.entries(ENGINE_PRESETS).filter(([, p]) => p.induction === undefined);
  return plain.reduce((best, next) => (far(next[1]) < far(best[1]) ? next : best))[0];
}

const round = (x_m: number): number => Math.round(x_m * 1000) / 1000;

/** A usual intake for a bore: filter box, pipe with two bends, meter, taper, throttle, opening. */
function usualPath(bore_m: number): PartDoc[] {
  const pipe = round(bore_m * 1.35);
  const meter = round(bore_m * 1.3);
  return [
    { id: 'inlet', type: 'openEnd', name: 'inlet mouth', bore_m: round(bore_m * 1.45), edgeRadius_m: 0.006 },
    {
      id: 'filter',
      type: 'filter',
      name: 'filter',
      bore_m: round(bore_m * 1.85),
      ratedFlow_m3ps: Math.round(bore_m * bore_m * 74.3 * 1000) / 1000,
      ratedLoss_Pa: 900,
      loading: 1,
    },
    {
      id: 'pipe',
      type: 'pipe',
      name: 'pipe',
      bore_m: pipe,
      length_m: 0.45,
      roughness_m: 1e-5,
      count: 1,
      bends: [
        { angle_rad: (70 * Math.PI) / 180, radiusRatio: 1.5 },
        { angle_rad: (45 * Math.PI) / 180, radiusRatio: 1.5 },
      ],
    },
    { id: 'meter', type: 'meter', name: 'MAF housing', bore_m: meter, K: 0.3 },
    { id: 'coupler', type: 'taper', name: 'coupler', inBore_m: meter, outBore_m: round(bore_m * 1.2), halfAngle_rad: (8 * Math.PI) / 180 },
    { id: 'throttle', type: 'throttle' },
    { id: 'opening', type: 'opening', edgeRadius_m: 0 },
  ];
}

/** A new job from a preset and the shop's own limits. Nothing in it is measured yet, and nothing claims to be. */
export function presetJob(name: string, preset: string, defaults: ShopDefaults = NO_DEFAULTS): JobDoc {
  const p = ENGINE_PRESETS[preset];
  if (!p) throw new RangeError(`no preset ${preset}`);
  const job = naturallyAspirated(name, p, defaults);
  return p.induction ? withInduction(job, p.induction) : job;
}

function naturallyAspirated(name: string, p: EnginePreset, { allowedLoss_Pa, ...sizing }: ShopDefaults): JobDoc {
  return {
    schema: 1,
    name,
    car: {
      engine: {
        displacement_m3: p.displacement_m3,
        cylinders: p.cylinders,
        compressionRatio: p.compressionRatio,
        idle_rpm: 750,
        lowest_rpm: 1500,
        redline_rpm: p.redline_rpm,
        stroke_m: null,
        plenum_m3: null,
      },
      induction: { kind: 'na', heating_K: CHARGE_HEATING_K, exhaust_Pa: EXHAUST_BACK_PRESSURE_Pa },
      ve: veOfShape(p.ve, p.redline_rpm),
      manifoldVe: { rpm: [1500, p.redline_rpm], value: [MANIFOLD_VE, MANIFOLD_VE] },
      measured: { power: null, boost: null, air: null },
      from: { efficiency: 'table', power: 'estimate' },
      power: FUELLING.na,
      stock: {
        throttle: {
          shape: 'single',
          bore_m: p.bore_m,
          count: 1,
          shaft_m: 0.008,
          edge: 'round',
          closedAngle_rad: CLOSED_ANGLE_rad,
          clearance_m: BLADE_CLEARANCE_m,
          leak: 'production',
        },
        manifoldOpening_m: p.bore_m,
        gasketOpening_m: round(p.bore_m + 0.002),
        openingLimit_m: null,
        bench: null,
        flange: null,
        fittings: NO_FITTINGS,
      },
      room: NO_ROOM,
      gearbox: NO_GEARBOX,
      inlet: NO_INLET,
      controls: { kind: 'cable', closed_V: null, full_V: null },
      fuel: 'petrol 98',
      use: 'street',
      goal: '',
      weather: { p_Pa: 101_325, T_K: 288.15, rh: 0.5 },
    },
    marks: {},
    air: { allowedLoss_Pa, lossFactor: 1, parts: usualPath(p.bore_m) },
    sizing: { ...NO_SIZING, ...sizing },
    pick: { shown: [], chosen: null, opening: 'matched', whatIf: { pulley_m: null, pressureRatio: null, boost_Pa: null }, inlet: NO_TRIAL },
    fit: NO_FIT,
    install: NO_INSTALL,
    test: {
      fwhm_rpm: 100,
      correction: 'SAE J1349',
      plan: NO_PLAN,
      bands_rpm: [],
      range_rpm: null,
      shift_rpm: null,
      strip: NO_STRIP_PLAN,
      road: NO_ROAD_RUNS,
    },
    verdict: NO_VERDICT,
    about: NO_ABOUT,
    tags: [],
  };
}

/** Units put beside stock at the start. */
const FIRST_SHOWN = 3;

/** The first few larger throttles of the shelf that could go on this car, so that Pick has something to say at once. */
export function unitsToShow(doc: JobDoc, shelf: readonly StoredUnit[]): StoredUnit[] {
  const { stock, controls } = doc.car;
  const individual = stock.throttle.shape === 'individual';
  const gross = grossBore(stock.throttle);
  return shelf
    .filter(
      (u) =>
        u.doc.controls === controls.kind && (u.doc.throttle.shape === 'individual') === individual && grossBore(u.doc.throttle) > gross,
    )
    .slice(0, FIRST_SHOWN);
}
