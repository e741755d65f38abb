import type { CarPlace } from '../documents/place';
import type { InletTrial, ValveDoc } from '../documents/inlet';
import type { JobDoc } from '../documents/job';
import { isBoosted } from '../engine/induction';
import { failure, isFailure, type Failure } from '../failure';
import { compilePath, type CompiledPath } from '../flow/compile';
import { ladderOf } from '../flow/ladder';
import type { PathPart } from '../flow/path';
import { throttleWideOpen } from '../flow/throttle';
import { R_GAS } from '../waves/gas';
import type { WaveEngine } from '../waves/input';
import type { Segment } from '../waves/shape';
import { throttleArea } from '../waves/throttle-area';
import { seatDuration } from '../waves/valves';
import { sideFlow, sideStart, throttleLoss, throttleRows, type JobModel, type ModelSide } from './model';
import { plenumVolume, strokeOf, type SizedJob } from './path';
import { runnerWith } from './runner-with';
import { pipeOf } from './wave-pipe';

const DEGREE = Math.PI / 180;
const TOP_rad = 2 * Math.PI;

/** Every figure the wave model takes from the inlet, nothing left open. SI; centres from gas-exchange top dead centre. */
export interface InletFigures {
  readonly length_m: number;
  readonly mouthBore_m: number;
  readonly valveBore_m: number;
  readonly edgeRadius_m: number;
  readonly throttleAt_m: number;
  readonly plenum_m3: number;
  readonly inletCount: number;
  readonly inletDiameter_m: number;
  readonly inletLift_m: number;
  /** At the seat. */
  readonly inletDuration_rad: number;
  readonly inletCentre_rad: number;
  readonly exhaustCount: number;
  readonly exhaustDiameter_m: number;
  readonly exhaustLift_m: number;
  readonly exhaustDuration_rad: number;
  readonly exhaustCentre_rad: number;
  readonly rod_m: number;
}
export type FigureKey = keyof InletFigures;

/** Usual figures where none are known. Source: docs/basis/waves.md §5. */
const PLENUM_RUNNER_m = 0.35;
const OWN_RUNNER_m = 0.3;
const ROD_OVER_RADIUS = 1 / 0.3;
const STREET_rad = 250 * DEGREE;
const SHARP_rad = 280 * DEGREE;
const INLET_CENTRE_rad = 108 * DEGREE;
const EXHAUST_CENTRE_rad = 112 * DEGREE;
/** Port area behind the valves' heads, and the exhaust valve beside the inlet's. */
const PORT_SHARE = 0.85;
const EXHAUST_SHARE = 0.85;
const LIFT_SHARE = 0.25;
const HEAD_SHARE = { 1: 0.44, 2: 0.36, 3: 0.3 } as const;
/** A mouth in a plenum is usually a little rounded; a trumpet's is a quarter of its bore. */
const PLENUM_EDGE = 0.1;
const TRUMPET_EDGE = 0.15;
/** What stands open to a plenum without a throttle, in throttle areas. */
const WIDE = 4;
/** An airbox of so many displacements is open air to each cylinder. */
const OPEN_AIR_DISPLACEMENTS = 3;

const circle = (bore_m: number): number => (Math.PI / 4) * bore_m ** 2;

export interface ResolvedInlet {
  readonly figures: InletFigures;
  /** Every figure this inlet has one of. */
  readonly keys: readonly FigureKey[];
  /** Figures nobody has given: the usual ones stand in for them. */
  readonly assumed: readonly FigureKey[];
}

function valveFigures(valve: ValveDoc, usual: { diameter_m: (count: number) => number; duration_rad: number; centre_rad: number }) {
  const count = (valve.count ?? 2) as 1 | 2 | 3;
  const diameter_m = valve.diameter_m ?? usual.diameter_m(count);
  const lift_m = valve.lift_m ?? LIFT_SHARE * diameter_m;
  const told = valve.duration_rad;
  const duration_rad =
    told === null ? usual.duration_rad : valve.toldAt_m > 0 ? seatDuration(told, Math.min(valve.toldAt_m, 0.9 * lift_m), lift_m) : told;
  return { count, diameter_m, lift_m, duration_rad, centre_rad: valve.centre_rad ?? usual.centre_rad };
}

/** The car's inlet with the usual figures where none are given, and which those are. */
export function resolvedInlet(doc: SizedJob): ResolvedInlet {
  const { engine, induction, use, inlet: given, stock } = doc.car;
  const stroke = strokeOf(engine);
  const bore = Math.sqrt((4 * engine.displacement_m3) / engine.cylinders / (Math.PI * stroke));
  const own = induction.kind === 'individual';
  const duration_rad = use === 'race' ? SHARP_rad : STREET_rad;
  const inlet = valveFigures(given.inlet, {
    diameter_m: (count) => HEAD_SHARE[count as 1 | 2 | 3] * bore,
    duration_rad,
    centre_rad: INLET_CENTRE_rad,
  });
  const exhaust = valveFigures(given.exhaust, {
    diameter_m: (count) => (EXHAUST_SHARE * inlet.diameter_m * Math.sqrt(inlet.count)) / Math.sqrt(count),
    duration_rad,
    centre_rad: EXHAUST_CENTRE_rad,
  });
  const port = Math.sqrt((4 * PORT_SHARE * inlet.count * circle(inlet.diameter_m)) / Math.PI);
  const throttle_m = stock.throttle.bore_m;
  const length_m = given.length_m ?? (own ? OWN_RUNNER_m : PLENUM_RUNNER_m);
  const mouthBore_m = given.mouthBore_m ?? (own ? throttle_m * 1.1 : (given.valveBore_m ?? port) * 1.05);
  const figures: InletFigures = {
    length_m,
    mouthBore_m,
    valveBore_m: given.valveBore_m ?? (own ? Math.min(port, throttle_m) : port),
    edgeRadius_m: given.edgeRadius_m ?? (own ? TRUMPET_EDGE : PLENUM_EDGE) * mouthBore_m,
    throttleAt_m: Math.min(given.throttleAt_m ?? length_m / 2, 0.9 * length_m),
    plenum_m3: plenumVolume(engine),
    inletCount: inlet.count,
    inletDiameter_m: inlet.diameter_m,
    inletLift_m: inlet.lift_m,
    inletDuration_rad: inlet.duration_rad,
    inletCentre_rad: inlet.centre_rad,
    exhaustCount: exhaust.count,
    exhaustDiameter_m: exhaust.diameter_m,
    exhaustLift_m: exhaust.lift_m,
    exhaustDuration_rad: exhaust.duration_rad,
    exhaustCentre_rad: exhaust.centre_rad,
    rod_m: given.rod_m ?? (ROD_OVER_RADIUS * stroke) / 2,
  };
  const open: [FigureKey, unknown][] = [
    ['length_m', given.length_m],
    ['mouthBore_m', given.mouthBore_m],
    ['valveBore_m', given.valveBore_m],
    ['edgeRadius_m', given.edgeRadius_m],
    own ? ['throttleAt_m', given.throttleAt_m] : ['plenum_m3', engine.plenum_m3],
    ['inletCount', given.inlet.count],
    ['inletDiameter_m', given.inlet.diameter_m],
    ['inletLift_m', given.inlet.lift_m],
    ['inletDuration_rad', given.inlet.duration_rad],
    ['inletCentre_rad', given.inlet.centre_rad],
    ['exhaustCount', given.exhaust.count],
    ['exhaustDiameter_m', given.exhaust.diameter_m],
    ['exhaustLift_m', given.exhaust.lift_m],
    ['exhaustDuration_rad', given.exhaust.duration_rad],
    ['exhaustCentre_rad', given.exhaust.centre_rad],
    ['rod_m', given.rod_m],
  ];
  return { figures, keys: open.map(([key]) => key), assumed: open.filter(([, value]) => value === null).map(([key]) => key) };
}

/** Where each figure stands among the car's own, and its mark with it. */
export const FIGURE_MARK: Readonly<Record<FigureKey, CarPlace>> = {
  length_m: 'inlet.length_m',
  mouthBore_m: 'inlet.mouthBore_m',
  valveBore_m: 'inlet.valveBore_m',
  edgeRadius_m: 'inlet.edgeRadius_m',
  throttleAt_m: 'inlet.throttleAt_m',
  plenum_m3: 'engine.plenum_m3',
  inletCount: 'inlet.inlet.count',
  inletDiameter_m: 'inlet.inlet.diameter_m',
  inletLift_m: 'inlet.inlet.lift_m',
  inletDuration_rad: 'inlet.inlet.duration_rad',
  inletCentre_rad: 'inlet.inlet.centre_rad',
  exhaustCount: 'inlet.exhaust.count',
  exhaustDiameter_m: 'inlet.exhaust.diameter_m',
  exhaustLift_m: 'inlet.exhaust.lift_m',
  exhaustDuration_rad: 'inlet.exhaust.duration_rad',
  exhaustCentre_rad: 'inlet.exhaust.centre_rad',
  rod_m: 'inlet.rod_m',
};

/** Figures nobody knows: those nobody gave, and those that are given and marked as assumed. */
export const assumedFigures = (inlet: ResolvedInlet, marks: JobDoc['marks']): FigureKey[] =>
  inlet.keys.filter((k) => inlet.assumed.includes(k) || marks[FIGURE_MARK[k]] === 'assumed');

/** What is tried of an inlet, over its figures. */
export function tried(figures: InletFigures, trial: InletTrial): InletFigures {
  const length_m = trial.length_m ?? figures.length_m;
  return {
    ...figures,
    length_m,
    // A trumpet is what grows or shrinks: the blade stays where it is from the valve.
    throttleAt_m: Math.max(0.01, figures.throttleAt_m + length_m - figures.length_m),
    mouthBore_m: trial.mouthBore_m ?? figures.mouthBore_m,
    plenum_m3: trial.plenum_m3 ?? figures.plenum_m3,
  };
}

/**
 * The inlet with a side's throttle in it: individual throttles are part of their runners, and one that is longer than stock makes
 * them so. A length that is not known of both is taken as stock's.
 */
function withSide(inlet: ResolvedInlet, { car }: SizedJob, side: ModelSide): ResolvedInlet {
  const { length_m } = inlet.figures;
  const runner = runnerWith(car, length_m, side.fitted.length_m ?? null);
  return runner ? { ...inlet, figures: tried(inlet.figures, { length_m: runner.length_m, mouthBore_m: null, plenum_m3: null }) } : inlet;
}

/** What of the intake the wave model of a job leaves out or takes otherwise, as keys the interface has words for. */
export type LeftOut =
  'boostHeld' | 'throttleBeforeBlower' | 'airboxAsLoss' | 'airboxAsOpenAir' | 'restrictorAsLoss' | 'sharedPathOfTrumpets' | 'evenFiring';

export interface WaveSetup {
  readonly inlet: ResolvedInlet;
  readonly leftOut: readonly LeftOut[];
  /** The engine with some figures of its inlet at an engine speed. The same for every speed unless something compresses. */
  readonly engineAt: (figures: InletFigures, rpm: number) => WaveEngine;
  /** Whether flow is told at a throttle that all share; else at a runner's mouth. */
  readonly hasThrottle: boolean;
  /** Volumetric efficiency that is known of the car as it stands, over the model's rpm. */
  readonly known: readonly number[];
}

/** A path as it stands in even flow: what the steady ladder adds for gulps is what the waves bring themselves. */
const evenParts = (parts: readonly PathPart[], lossFactor: number): PathPart[] =>
  parts.map((part) => ({ ...part, pulsationFactor: lossFactor, eventShare: undefined }));

/** Loss of throttle and opening on one bore's own area, and that area. */
function bladeLoss(compiled: CompiledPath, net_m2: number): number {
  const { first, last } = throttleRows(compiled);
  return compiled.rows.slice(first, last + 1).reduce((sum, r) => sum + r.K * (net_m2 / r.area_m2) ** 2, 0);
}

/** What of a job's inlet the model leaves out, or takes otherwise than it is. */
function leftOutOf(inlet: {
  readonly own: boolean;
  readonly boosted: boolean;
  readonly behindBlower: boolean;
  readonly box: boolean;
  readonly smallBox: boolean;
  readonly ahead: ModelSide['path']['parts'];
}): LeftOut[] {
  const { own, boosted, behindBlower, box, smallBox, ahead } = inlet;
  const leftOut: LeftOut[] = ['evenFiring'];
  if (boosted) leftOut.push('boostHeld');
  if (behindBlower) leftOut.push('throttleBeforeBlower');
  if (ahead.some((part) => part.type === 'restrictor')) leftOut.push('restrictorAsLoss');
  if (!own && box) leftOut.push('airboxAsLoss');
  if (own && box && !smallBox) leftOut.push('airboxAsOpenAir');
  if (own && !box && ahead.some((part) => part.type === 'filter')) leftOut.push('sharedPathOfTrumpets');
  return leftOut;
}

/**
 * A job's inlet as the wave model takes it: from the runners back to what drives the air, with the throttle that `side` has
 * on. Failure where the steady ladder has none to stand on.
 */
export function waveSetup(doc: SizedJob, model: JobModel, side: ModelSide = model.stock): WaveSetup | Failure {
  const { car, air } = doc;
  const { engine, induction, weather } = car;
  const inlet = withSide(resolvedInlet(doc), doc, side);
  const solved = isFailure(side.solved) ? model.reference.result : side.solved;
  const own = induction.kind === 'individual';
  const boosted = isBoosted(solved);
  // A blower behind the throttle stands between it and the waves: what they draw from is the plenum behind the blower.
  const behindBlower = induction.kind === 'drawThrough';
  const compiled = compilePath({ parts: evenParts(side.path.parts, air.lossFactor) });
  if (isFailure(compiled)) return compiled;
  const top = model.demand_kgps.reduce((best, _, i) => (sideFlow(model, side, i) > sideFlow(model, side, best) ? i : best), 0);
  const { p0_Pa, T0_K } = sideStart(model, side, top);
  let flow = sideFlow(model, side, top);
  let ladder = ladderOf(compiled, flow, p0_Pa, T0_K);
  // A path that chokes below it: its figures are taken where it still passes.
  for (let tries = 0; isFailure(ladder) && tries < 12; tries += 1) {
    flow *= 0.9;
    ladder = ladderOf(compiled, flow, p0_Pa, T0_K);
  }
  if (isFailure(ladder)) return ladder;
  const wide = throttleWideOpen(side.fitted.throttle);
  if (isFailure(wide)) return wide;
  const { first } = throttleRows(compiled);
  const before_Pa = p0_Pa - ladder.dp_Pa.slice(0, first).reduce((a, b) => a + b, 0);
  const loss_Pa = throttleLoss(compiled, ladder);
  const effectiveArea_m2 = loss_Pa > 0 ? throttleArea(flow, before_Pa, T0_K, loss_Pa) : wide.grossArea_m2;
  if (!(effectiveArea_m2 > 0)) return failure('choked', { where: 'throttle' });

  const throttleAt = air.parts.findIndex((p) => p.type === 'throttle');
  const box = air.parts.findIndex((p, i) => p.type === 'airbox' && i < throttleAt);
  const boxPart = air.parts[box];
  const smallBox =
    own && boxPart?.type === 'airbox' && boxPart.volume_m3 < OPEN_AIR_DISPLACEMENTS * engine.displacement_m3 ? boxPart : null;
  const ahead = side.path.parts.slice(0, throttleAt - model.offset);
  const pipe = boosted || (own && !smallBox) ? null : pipeOf(own ? ahead.slice(0, box - model.offset) : ahead, ladder, flow, T0_K);

  const count = own ? side.fitted.throttle.count : 1;
  const net_m2 = wide.netArea_m2 / count;
  const stroke = strokeOf(engine);
  const bore_m = Math.sqrt((4 * engine.displacement_m3) / engine.cylinders / (Math.PI * stroke));
  const leftOut = leftOutOf({ own, boosted, behindBlower, box: boxPart !== undefined, smallBox: smallBox !== null, ahead });

  const engineAt = (f: InletFigures, rpm: number): WaveEngine => {
    const i = model.rpm.reduce((best, n, k) => (Math.abs(n - rpm) < Math.abs(model.rpm[best]! - rpm) ? k : best), 0);
    const ambient = boosted
      ? { p_Pa: solved.plenum_Pa[i]! + (behindBlower ? 0 : loss_Pa * (solved.massFlow_kgps[i]! / flow) ** 2), T_K: solved.manifold_K[i]! }
      : { p_Pa: weather.p_Pa, T_K: weather.T_K };
    const exhaust_Pa =
      weather.p_Pa + ('exhaust_Pa' in induction ? induction.exhaust_Pa : 0) * (boosted ? (rpm / engine.redline_rpm) ** 2 : 1);
    // A turbine holds about as much before it as the compressor gives.
    const back_Pa = !boosted
      ? exhaust_Pa - weather.p_Pa
      : Math.max(induction.kind === 'turbo' ? solved.plenum_Pa[i]! : exhaust_Pa, weather.p_Pa) - ambient.p_Pa;
    const valve = (which: 'inlet' | 'exhaust') => ({
      count: f[`${which}Count`],
      diameter_m: f[`${which}Diameter_m`],
      lift_m: f[`${which}Lift_m`],
      duration_rad: f[`${which}Duration_rad`],
      centre_rad: which === 'inlet' ? TOP_rad + f.inletCentre_rad : TOP_rad - f.exhaustCentre_rad,
    });
    const throttle_m = Math.sqrt((4 * wide.grossArea_m2) / count / Math.PI);
    const segments: Segment[] = own
      ? [
          { length_m: f.throttleAt_m, inBore_m: f.mouthBore_m, outBore_m: throttle_m },
          { length_m: f.length_m - f.throttleAt_m, inBore_m: throttle_m, outBore_m: f.valveBore_m },
        ]
      : [{ length_m: f.length_m, inBore_m: f.mouthBore_m, outBore_m: f.valveBore_m }];
    const plenum = own ? (smallBox ? { volume_m3: smallBox.volume_m3 } : null) : { volume_m3: f.plenum_m3 };
    return {
      ambient,
      inletT_K: boosted ? undefined : (model.problem.input.inletT_K ?? undefined),
      engine: {
        displacement_m3: engine.displacement_m3,
        cylinders: engine.cylinders,
        compressionRatio: engine.compressionRatio,
        bore_m,
        lambda: stroke / 2 / f.rod_m,
        maxRpm_rpm: boosted ? rpm : engine.redline_rpm,
      },
      inletValve: valve('inlet'),
      exhaustValve: valve('exhaust'),
      runner: {
        segments,
        mouth: { edgeRadius_m: f.edgeRadius_m, kind: 'plain' },
        // In a plenum or an airbox the air before the mouth moves with it.
        endCorrection_m: plenum ? 0.41 * f.mouthBore_m : undefined,
        losses: own ? [{ at_m: f.throttleAt_m, K: bladeLoss(compiled, wide.netArea_m2), area_m2: net_m2 }] : [],
      },
      plenum,
      throttle: plenum ? { effectiveArea_m2: own || behindBlower ? WIDE * wide.grossArea_m2 : effectiveArea_m2 } : null,
      pipe,
      exhaust: { back_Pa, primary: car.inlet.primary },
    };
  };
  const density = weather.p_Pa / (R_GAS * weather.T_K);
  const known = model.rpm.map((n, i) => model.demand_kgps[i]! / (density * engine.displacement_m3 * (n / 120)));
  return { inlet, leftOut, engineAt, hasThrottle: !own || smallBox !== null, known };
}
