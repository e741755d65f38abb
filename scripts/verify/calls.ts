/**
 * The reference cases' call names mapped onto the core. Input keys carry the same unit suffixes as the core's own names,
 * so most calls hand the input straight over.
 */
import { airState, densityAltitude, stationPressure } from '@/core/air/state';
import { compareRuns } from '@/core/compare/compare';
import { ledgerScore } from '@/core/compare/ledger';
import { permutationTest } from '@/core/compare/permutation';
import { welch } from '@/core/compare/welch';
import { demandByCylinderAir, demandByDisplacement, demandByPower, veFromMassFlow } from '@/core/engine/demand';
import { referenceOf, solveCentrifugal, solveDrawThrough, solveNa, solveTurbo } from '@/core/engine/induction';
import { equivalentPulley, pulleyForBoost, pulleyRatio, smallestPulleyForLimit } from '@/core/engine/pulley';
import { pulsationFactor } from '@/core/engine/pulsation';
import { candidatePower, frictionMep, frictionPower } from '@/core/engine/power';
import { isFailure, type Failure } from '@/core/failure';
import { benchCeiling, benchFlow, benchLossCoefficient, benchMoveToDepression } from '@/core/flow/bench';
import { ductCapacity, ductState } from '@/core/flow/duct';
import { pathCapacity, pathLadder } from '@/core/flow/ladder';
import { entryK, junctionK, lensArea, pipeLoss } from '@/core/flow/losses';
import { nozzleMassFlow } from '@/core/flow/nozzle';
import { throttleRemap, throttleTable } from '@/core/flow/remap';
import { fullAngle, throttleFailure, throttleOpenArea, throttleWideOpen } from '@/core/flow/throttle';
import { inferRoad, inferSides, inferStrip } from '@/core/inference/answer';
import { inferCurve } from '@/core/inference/curve';
import { designStudy } from '@/core/inference/design';
import { historyOf } from '@/core/inference/history';
import { nextStay } from '@/core/inference/next';
import { airCrossCheck } from '@/core/logs/air-check';
import { valueAtRpm } from '@/core/logs/value-at';
import { knotCurve } from '@/core/numbers/curve';
import { convertCorrection, correctionFactor } from '@/core/runs/correction';
import { gridRun } from '@/core/runs/grid';
import { smoothOverRpm } from '@/core/runs/smooth';
import { runSweep } from '@/core/runs/sweep';
import { boreByIdle, boreByTipIn, idleFloor, TIP_IN_LIMIT } from '@/core/sizing/manners';
import { boreByBench, boreByGasSpeed, boreByLoss, ownLoss } from '@/core/sizing/own-loss';
import { boreByPower, kneeCurve } from '@/core/sizing/power-left';
import { uncertaintyGain } from '@/core/sizing/uncertainty';
import { sizingVerdict, sizingWindow } from '@/core/sizing/window';
import { passPower, roadEnergy } from '@/core/strip/estimates';
import { correctPass, matchedPairs } from '@/core/strip/passes';
import { WAVE_CALLS } from './waves';

/** Case files are data from outside: their inputs are only known to be JSON objects. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any
type Input = any;
export type Call = (input: Input) => unknown;

const wrap = <T>(value: T | Failure, key: string): unknown => (isFailure(value) ? value : { [key]: value });

export const CALLS: Readonly<Record<string, Call>> = {
  'air.state': airState,
  'air.stationPressure': (i) => ({ p_Pa: stationPressure(i.setting_Pa, i.elevation_m) }),
  'air.densityAltitude': (i) => ({ densityAltitude_m: densityAltitude(i.density_kgpm3) }),

  'duct.state': (i) => ductState(i.massFlow_kgps, i.area_m2, i.p0_Pa, i.T0_K),
  'duct.capacity': (i) => ({ massFlow_kgps: ductCapacity(i.area_m2, i.p0_Pa, i.T0_K) }),
  'nozzle.massFlow': (i) => nozzleMassFlow(i.area_m2, i.p0_Pa, i.T0_K, i.p_Pa),

  'bench.moveToDepression': (i) => benchMoveToDepression(i.flow_m3ps, i.from_Pa, i.to_Pa, i),
  'bench.ceiling': (i) => benchCeiling(i.flow_m3ps, i.depression_Pa, i.bore_m, i.count, i),
  'bench.lossCoefficient': (i) => benchLossCoefficient(i, i),
  'bench.flow': (i) => benchFlow(i.K, i.entryK, i.netArea_m2, i.grossArea_m2, i.depression_Pa, i),

  'throttle.wideOpen': (i) => throttleWideOpen(i.throttle),
  'throttle.openArea': (i) =>
    throttleFailure(i.throttle) ?? {
      area_m2: i.angle_rad.map((a: number) => throttleOpenArea(i.throttle, a)),
      fullAngle_rad: fullAngle(i.throttle),
    },
  'throttle.table': (i) => throttleTable(i.throttle, i.opening_pct),
  'throttle.remap': (i) => throttleRemap(i.stock, i.candidate, i.opening_pct),

  'path.ladder': (i) => pathLadder(i, i.massFlow_kgps, i.p0_Pa, i.T0_K, i.end),
  'path.capacity': (i) => wrap(pathCapacity(i, i.p0_Pa, i.T0_K, i.end), 'massFlow_kgps'),
  'path.junction': (i) => ({ K: junctionK(i.upArea_m2, i.downArea_m2, i.halfAngle_rad, i.edgeRadius_m) }),
  'path.lens': (i) => ({ area_m2: lensArea(i.boreA_m, i.boreB_m, i.offset_m) }),
  'path.entry': (i) => ({ K: entryK(i.bore_m, i.edgeRadius_m) }),
  'path.pipe': (i) => pipeLoss(i, i.massFlow_kgps, i.T0_K),

  'demand.displacement': (i) => demandByDisplacement(i.displacement_m3, i.rpm, i.ve, i.density_kgpm3),
  'demand.power': demandByPower,
  'demand.cylinderAir': (i) => ({ massFlow_kgps: demandByCylinderAir(i.cylinderAir_kg, i.cylinders, i.rpm) }),
  'demand.veFromMassFlow': (i) => wrap(veFromMassFlow(i.massFlow_kgps, i.displacement_m3, i.rpm, i.density_kgpm3), 've'),
  'demand.veCurve': (i) => {
    const curve = knotCurve(i.knots);
    return isFailure(curve) ? curve : { ve: i.rpm.map(curve) };
  },

  'solve.na': solveNa,
  'solve.drawThrough': solveDrawThrough,
  'solve.centrifugal': solveCentrifugal,
  'solve.turbo': solveTurbo,
  'pulsation.factor': pulsationFactor,
  'pulley.ratio': pulleyRatio,
  'pulley.equivalent': (i) => ({ blowerPulley_m: equivalentPulley(i.blowerPulley_m, i.overdrive) }),
  'pulley.smallestForLimit': (i) => ({ blowerPulley_m: smallestPulleyForLimit(i) }),
  'pulley.forBoost': pulleyForBoost,
  'power.friction': (i) => ({
    fmep_Pa: i.rpm.map((n: number) => frictionMep(n, i.stroke_m)),
    power_W: i.rpm.map((n: number) => frictionPower(i.displacement_m3, n, i.stroke_m)),
  }),
  'power.candidate': candidatePower,

  'window.ownLoss': (i) => wrap(ownLoss(i, i.bore_m), 'loss_Pa'),
  'window.loss': (i) => wrap(boreByLoss(i), 'bore_m'),
  'window.gasSpeed': (i) => wrap(boreByGasSpeed(i), 'bore_m'),
  'window.bench': (i) => wrap(boreByBench(i), 'bore_m'),
  'window.power': (i) => boreByPower(i.kind, i.solve, i.share),
  'window.kneeCurve': (i) => {
    const ref = referenceOf(i.kind, i.solve);
    return isFailure(ref) ? ref : kneeCurve(ref, i.solve.candidate, i.bores_m, i.share);
  },
  'window.idle': boreByIdle,
  'window.idleFloor': idleFloor,
  'window.tipIn': (i) => boreByTipIn(i.stock, i.candidate, i.limit ?? TIP_IN_LIMIT[i.actuation as keyof typeof TIP_IN_LIMIT]),
  'window.combine': (i) => sizingWindow(i.air_m, i.manners_m),
  'window.verdict': (i) => ({ verdict: sizingVerdict(i) }),

  'uncertainty.gain': uncertaintyGain,

  'dyno.correction': (i) => correctionFactor(i.method, i),
  'dyno.convert': convertCorrection,
  'run.sweep': (i) => runSweep(i.rpm, i.throttle_pct),
  'run.smooth': (i) => ({ value: Array.from(smoothOverRpm(i.rpm, i.value, i.fwhm_rpm)) }),
  'run.grid': (i) => gridRun(i.rpm, i.value, i.step_rpm),
  'run.compare': (i) => compareRuns(i.a, i.b, i),
  'log.airCrossCheck': airCrossCheck,
  'log.valueAtRpm': valueAtRpm,
  'strip.correct': correctPass,
  'strip.hale': passPower,
  'strip.pairs': (i) => ({ pairs: matchedPairs(i.passes) }),
  'road.energy': roadEnergy,
  'stats.welch': (i) => welch(i.a, i.b, i.level),
  'stats.permutation': permutationTest,
  'statistics.sides': inferSides,
  'statistics.stripSides': (i) => inferStrip({ ...i, runs: i.passes }),
  'statistics.roadSides': inferRoad,
  'statistics.history': historyOf,
  'statistics.design': designStudy,
  'statistics.nextStay': nextStay,
  'statistics.curve': inferCurve,
  ...(WAVE_CALLS as unknown as Record<string, Call>),
  'ledger.score': (i) => Object.fromEntries(ledgerScore(i.entries).map((s) => [s.source, s])),
};
