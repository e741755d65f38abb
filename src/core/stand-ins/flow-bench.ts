import { isFailure, type Failure } from '../failure';
import { benchFlow } from '../flow/bench';
import { throttleWideOpen, type Throttle } from '../flow/throttle';
import { gaussian, seededRandom } from '../numbers/random';

export interface FlowBenchSettings {
  readonly throttle: Throttle;
  /** Depression the operator asks for, Pa. */
  readonly depression_Pa: number;
  readonly entryK: number;
  /** Makes this piece and this bench: the same seed is the same piece on the same day. */
  readonly seed: number;
}

export interface FlowBenchReading {
  readonly t_s: number;
  readonly depression_Pa: number;
  readonly flow_m3ps: number;
  /** The last second and a half has stood still. */
  readonly settled: boolean;
}

/** Readings a second, and how long a run lasts at most. */
export const FLOW_BENCH_RATE_Hz = 10;
export const FLOW_BENCH_LONGEST_s = 30;
/** Spread of pieces of one make in their loss, of one day's calibration, and of single readings. */
const PIECE_SD = 0.08;
const CALIBRATION_SD = 0.01;
const READING_SD = 0.0035;
/** The fan's run-up, and the slow creep of air and motor warming. */
const RUN_UP_s = 1.6;
const CREEP = 0.0012;
const STILL_READINGS = 15;
const STILL_SPREAD = 0.006;

/**
 * A flow bench in place of a real one: what it would read of this throttle, ten times a second. The piece's own loss
 * strays from its shape's, the bench from the truth, the fan runs up, readings jitter and creep. Pure: a seed decides.
 */
export function flowBenchReadings(s: FlowBenchSettings): FlowBenchReading[] | Failure {
  const wide = throttleWideOpen(s.throttle);
  if (isFailure(wide)) return wide;
  const random = seededRandom(s.seed);
  const pieceK = wide.K * Math.max(0.3, 1 + PIECE_SD * gaussian(random));
  const calibration = 1 + CALIBRATION_SD * gaussian(random);
  const truth = benchFlow(pieceK, s.entryK, wide.netArea_m2, wide.grossArea_m2, s.depression_Pa);
  if (isFailure(truth)) return truth;
  const out: FlowBenchReading[] = [];
  const recent: number[] = [];
  for (let i = 0; i <= FLOW_BENCH_RATE_Hz * FLOW_BENCH_LONGEST_s; i += 1) {
    const t_s = i / FLOW_BENCH_RATE_Hz;
    const up = 1 - Math.exp(-t_s / RUN_UP_s);
    const depression_Pa = s.depression_Pa * up * (1 + 0.004 * gaussian(random));
    const flow_m3ps = Math.max(0, truth.flow_m3ps * calibration * Math.sqrt(up) * (1 + READING_SD * gaussian(random) + CREEP * (t_s / 10)));
    recent.push(flow_m3ps);
    if (recent.length > STILL_READINGS) recent.shift();
    const high = recent.reduce((a, b) => Math.max(a, b), 0);
    const low = recent.reduce((a, b) => Math.min(a, b), Infinity);
    const half = recent.length / 2;
    const mean = (list: readonly number[]): number => list.reduce((a, b) => a + b, 0) / list.length;
    const drift = Math.abs(mean(recent.slice(Math.ceil(half))) / mean(recent.slice(0, Math.ceil(half))) - 1);
    const settled = recent.length === STILL_READINGS && drift < STILL_SPREAD && high / low - 1 < 5 * STILL_SPREAD && t_s > 3 * RUN_UP_s;
    out.push({ t_s, depression_Pa, flow_m3ps, settled });
  }
  return out;
}
