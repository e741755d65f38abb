/** The calls of the unsteady inlet's reference cases; verification/waves-CALLS.md tells their input. */
import { waveModel } from '@/core/waves/engine';
import type { WaveEngine } from '@/core/waves/input';
import { openEnd } from '@/core/waves/mouth';
import type { WaveResult } from '@/core/waves/result';
import { helmholtzBest_rpm, runnerRules, wavesPerPull } from '@/core/waves/rules';
import { throttleArea } from '@/core/waves/throttle-area';
import { cylinderVolume, liftAt, seatDuration, valveArea } from '@/core/waves/valves';
import { CELL_m, EXACT_WAVE_CALLS } from './waves-exact';

type EngineCase = WaveEngine & { rpm?: number[]; cell_m?: number; maxCycles?: number };
/** Results by input: the same engine stands in several cases. */
const remembered = new Map<string, WaveResult>();

function engineAt(engine: EngineCase, rpm: number): WaveResult {
  const { rpm: _, cell_m, maxCycles, ...input } = engine;
  const key = JSON.stringify([input, rpm, cell_m, maxCycles]);
  let result = remembered.get(key);
  if (!result) {
    result = waveModel(input, { cell_m: cell_m ?? CELL_m, maxCycles }).run(rpm);
    remembered.set(key, result);
  }
  return result;
}

function engine(i: EngineCase) {
  const all = i.rpm!.map((rpm) => engineAt(i, rpm));
  return {
    W: all.map((r) => r.W),
    residual: all.map((r) => r.residual),
    pumpingWork_J: all.map((r) => r.pumpingWork_J),
    plenum_Pa: all.map((r) => r.plenum_Pa),
    peakToMean: all.map((r) => r.peakToMean),
    Wcylinder: all.map((r) => r.Wcylinder),
    settled: all.map((r) => r.settled),
  };
}

function ratio(i: { a: EngineCase; b: EngineCase; rpm: number[] }) {
  return { ratio: i.rpm.map((rpm) => engineAt(i.b, rpm).W / engineAt(i.a, rpm).W) };
}

function trace(i: { engine: EngineCase; rpm: number; angle_rad: number[] }) {
  const { valve_Pa } = engineAt(i.engine, i.rpm).curves;
  const rows = valve_Pa.length - 1;
  return {
    valvePressure_Pa: i.angle_rad.map((angle) => {
      const at = (angle / (4 * Math.PI) - Math.floor(angle / (4 * Math.PI))) * rows;
      const k = Math.floor(at);
      return valve_Pa[k]! + (valve_Pa[k + 1]! - valve_Pa[k]!) * (at - k);
    }),
  };
}

function lift(i: {
  duration_rad?: number;
  durationAt_rad?: number;
  durationLift_m?: number;
  lift_m: number;
  centre_rad: number;
  angle_rad: number[];
}) {
  const duration_rad = i.duration_rad ?? seatDuration(i.durationAt_rad!, i.durationLift_m!, i.lift_m);
  return { lift_m: i.angle_rad.map((a) => liftAt({ duration_rad, lift_m: i.lift_m, centre_rad: i.centre_rad }, a)), duration_rad };
}

function rules(i: {
  length_m: number;
  bore_m: number;
  edgeRadius_m?: number;
  mouth?: 'plain' | 'flanged';
  sweptVolume_m3: number;
  compressionRatio: number;
  T_K: number;
  rpm: number[];
  factor: number;
}) {
  const r = runnerRules({
    length_m: i.length_m,
    bore_m: i.bore_m,
    mouth: { edgeRadius_m: i.edgeRadius_m, kind: i.mouth },
    swept_m3: i.sweptVolume_m3,
    compressionRatio: i.compressionRatio,
    T_K: i.T_K,
  });
  return { ...r, q: i.rpm.map((n) => wavesPerPull(r.quarterWave_Hz, n)), helmholtzBest_rpm: helmholtzBest_rpm(r.helmholtz_Hz, i.factor) };
}

/** The reference tells these to nine digits; beside a tolerance of 1e-9 what lies beyond them is its rounding, not ours. */
const nine = (x: number): number => Number(x.toPrecision(9));

export const WAVE_CALLS = {
  ...EXACT_WAVE_CALLS,
  'waves.lift': lift,
  'waves.valveArea': (i: { count?: number; diameter_m: number; lift_m: number[]; portArea_m2?: number }) => ({
    effectiveArea_m2: i.lift_m.map((l) => nine(valveArea(i.count ?? 1, i.diameter_m, l, i.portArea_m2))),
  }),
  'waves.cylinderVolume': (i: { sweptVolume_m3: number; compressionRatio: number; lambda?: number; angle_rad: number[] }) => ({
    volume_m3: i.angle_rad.map((a) =>
      nine(cylinderVolume({ swept_m3: i.sweptVolume_m3, compressionRatio: i.compressionRatio, lambda: i.lambda ?? 0.3 }, a)),
    ),
  }),
  'waves.openEnd': (i: { bore_m: number; edgeRadius_m?: number; mouth: 'plain' | 'flanged' }) =>
    openEnd(i.bore_m, { edgeRadius_m: i.edgeRadius_m, kind: i.mouth }),
  'waves.throttleArea': (i: { massFlow_kgps: number; p0_Pa: number; T0_K: number; loss_Pa: number }) => ({
    effectiveArea_m2: throttleArea(i.massFlow_kgps, i.p0_Pa, i.T0_K, i.loss_Pa),
  }),
  'waves.rules': rules,
  'waves.engine': engine,
  'waves.ratio': ratio,
  'waves.trace': trace,
} as const;
