import type { InductionDoc, InductionKind } from '../documents/induction';
import type { CarDoc, JobDoc } from '../documents/job';
import type { PartDoc } from '../documents/part';
import { ADIABATIC_EFFICIENCY, BELT_EFFICIENCY, COOLER_DEFAULTS } from '../engine/charge';
import { FUELLING } from '../engine/demand';
import { BLOWER_DEFAULTS, SLIP_AT_rpm } from '../engine/draw-through';
import { EXHAUST_BACK_PRESSURE_Pa } from '../engine/input';
import { CHARGE_HEATING_K } from '../engine/na';
import { INDUCTION_EVENT_rad } from '../engine/pulsation';

const kPa = (x: number): number => x * 1000;

/** The smallest blower that is taken for one, m³ a turn. */
const SMALLEST_BLOWER_m3 = 0.0002;

/** A sensible start for each way of filling an engine. All of it is assumed until someone measures it. */
function usualInduction(kind: InductionKind, engine: CarDoc['engine']): InductionDoc {
  const exhaust_Pa = EXHAUST_BACK_PRESSURE_Pa;
  // Whole degrees in the field: it shows what is reckoned with.
  const cooler = { ...COOLER_DEFAULTS, coolant_K: 315.15 };
  switch (kind) {
    case 'na':
      return { kind, heating_K: CHARGE_HEATING_K, exhaust_Pa };
    case 'individual':
      return { kind, heating_K: CHARGE_HEATING_K, exhaust_Pa, event_rad: INDUCTION_EVENT_rad };
    case 'drawThrough':
      return {
        kind,
        exhaust_Pa,
        blower: {
          type: 'roots',
          // About half a bar: the blower moves some 1.9 times what the engine alone would swallow.
          displacement_m3: Math.max(SMALLEST_BLOWER_m3, Math.round(engine.displacement_m3 * 0.44 * 1e5) / 1e5),
          crankPulley_m: 0.18,
          blowerPulley_m: 0.086,
          step: 1,
          overdrive: 0,
          limit_rpm: 15_000,
          eta0: BLOWER_DEFAULTS.eta0,
          k: BLOWER_DEFAULTS.k,
          slipAt_rpm: SLIP_AT_rpm,
          etaAd: ADIABATIC_EFFICIENCY.roots,
          beltEfficiency: BELT_EFFICIENCY,
        },
        cooler,
      };
    case 'centrifugal':
      return {
        kind,
        exhaust_Pa,
        compressor: {
          pressureRatio: 1.55,
          rpm: engine.redline_rpm,
          etaAd: ADIABATIC_EFFICIENCY.centrifugal,
          beltEfficiency: BELT_EFFICIENCY,
          map: { surge: [], choke: [] },
        },
        cooler,
      };
    case 'turbo':
      return {
        kind,
        exhaust_Pa,
        compressor: {
          boost: {
            rpm: [1500, 2200, 3000, Math.round((engine.redline_rpm * 0.8) / 50) * 50, engine.redline_rpm],
            value: [kPa(15), kPa(60), kPa(90), kPa(90), kPa(80)],
          },
          targetAt: 'plenum',
          etaAd: ADIABATIC_EFFICIENCY.turbo,
          map: { surge: [], choke: [] },
        },
        cooler,
      };
  }
}

const isBlowThrough = (kind: InductionKind): boolean => kind === 'turbo' || kind === 'centrifugal';

/** Ids of the parts that a way of breathing brings along, and takes away again. */
const OWN_PARTS = ['compressor', 'charge-pipe', 'airbox', 'trumpets'];
/** Six forty-millimetre throttles stand where one of fifty-eight would: individual bores have some 2.85 times the area. */
const INDIVIDUAL_AREA = 2.85;

const round = (x_m: number): number => Math.round(x_m * 1000) / 1000;

function ownParts(kind: InductionKind, bore_m: number, cylinders: number, displacement_m3: number): PartDoc[] {
  if (isBlowThrough(kind)) {
    return [
      { id: 'compressor', type: 'compressor', name: 'compressor and cooler' },
      {
        id: 'charge-pipe',
        type: 'pipe',
        name: 'charge pipe',
        bore_m: round(bore_m * 1.08),
        length_m: 0.7,
        roughness_m: 1e-5,
        count: 1,
        bends: [{ angle_rad: Math.PI / 2, radiusRatio: 1.5 }],
      },
    ];
  }
  if (kind !== 'individual') return [];
  return [
    {
      id: 'airbox',
      type: 'airbox',
      name: 'airbox',
      bore_m: 0.2,
      volume_m3: Math.round(displacement_m3 * 2.5 * 1e4) / 1e4,
      join: { edgeRadius_m: 0.008 },
    },
    {
      id: 'trumpets',
      type: 'pipe',
      name: 'trumpets',
      bore_m: round(bore_m * 1.02),
      length_m: 0.08,
      roughness_m: 1.5e-6,
      count: cylinders,
      bends: [],
    },
  ];
}

const roundBore = (t: CarDoc['stock']['throttle']): number =>
  t.shape === 'oval' ? Math.sqrt((t.width_m ?? 0.06) * (t.height_m ?? 0.06)) : t.bore_m;

/** The stock throttle where this way of breathing needs another kind of one. */
function stockFor(kind: InductionKind, car: CarDoc): CarDoc['stock'] {
  const { throttle } = car.stock;
  const n = car.engine.cylinders;
  if (kind === 'individual' && throttle.shape !== 'individual') {
    const bore_m = round(roundBore(throttle) * Math.sqrt(INDIVIDUAL_AREA / n));
    return {
      throttle: { ...throttle, shape: 'individual', count: n, bore_m },
      manifoldOpening_m: bore_m,
      gasketOpening_m: round(bore_m + 0.001),
      openingLimit_m: null,
      bench: null,
      flange: null,
      fittings: car.stock.fittings,
    };
  }
  if (kind !== 'individual' && throttle.shape === 'individual') {
    const bore_m = round(throttle.bore_m * Math.sqrt(throttle.count / INDIVIDUAL_AREA));
    return {
      throttle: { ...throttle, shape: 'single', count: 1, bore_m },
      manifoldOpening_m: bore_m,
      gasketOpening_m: round(bore_m + 0.002),
      openingLimit_m: null,
      bench: null,
      flange: null,
      fittings: car.stock.fittings,
    };
  }
  return car.stock;
}

const FUEL_KIND = {
  na: 'na',
  individual: 'na',
  drawThrough: 'boosted-belt',
  centrifugal: 'boosted-intercooled',
  turbo: 'boosted-intercooled',
} as const;

/**
 * The same job breathing another way: its induction's usual figures, the parts that belong to it put in (and those of the
 * way before taken out), fuel as such engines burn it where nobody has entered it.
 */
export function withInduction(doc: JobDoc, kind: InductionKind): JobDoc {
  const { car, air } = doc;
  const stock = stockFor(kind, car);
  const without = air.parts.filter(
    (p) => !OWN_PARTS.includes(p.id) && p.type !== 'compressor' && (kind === 'individual' || p.type !== 'airbox'),
  );
  const at = without.findIndex((p) => p.type === 'throttle');
  const own = ownParts(kind, roundBore(stock.throttle), car.engine.cylinders, car.engine.displacement_m3);
  // Into an airbox no coupler is needed: the parts ahead of the throttle end there.
  const ahead = kind === 'individual' ? without.slice(0, at).filter((p) => p.type !== 'taper') : without.slice(0, at);
  const entered = (doc.marks['power.bsfc_kgpJ'] ?? 'assumed') !== 'assumed';
  return {
    ...doc,
    car: {
      ...car,
      stock,
      induction: usualInduction(kind, car.engine),
      power: entered ? car.power : FUELLING[FUEL_KIND[kind]],
      from: { efficiency: 'table', power: car.from.power },
    },
    air: { ...air, parts: [...ahead, ...own, ...without.slice(at)] },
  };
}
