import { knotCurve } from '../numbers/curve';
import { gaussian, seededRandom } from '../numbers/random';
import { torqueOf } from '../engine/power';
import { isFailure } from '../failure';

/** A side's true power at the wheels over engine speed, W, in the day's air with the engine cool. */
export interface DynoCurve {
  readonly rpm: readonly number[];
  readonly power_W: readonly number[];
}

export interface DynoSettings {
  readonly curve: DynoCurve;
  /** Makes the day: its scatter, its drift, its weather inside the cell. */
  readonly seed: number;
  /** Minutes rested before each pull of the session so far, this one last: heat soak is what they leave. */
  readonly rests_min: readonly number[];
  readonly air_K: number;
  /** Manifold pressure at wide open throttle over the same engine speeds, Pa; left out where nobody asks. */
  readonly plenum_Pa?: readonly number[] | undefined;
  /** How fast the rollers let the engine rise. */
  readonly rate_rpmps?: number | undefined;
  readonly driftPerPull_pct?: number | undefined;
  /** Scatter of whole pulls, and what a refit, the day and bad luck do to this one, %. */
  readonly runSd_pct?: number | undefined;
  readonly offset_pct?: number | undefined;
}

export interface DynoReading {
  readonly t_s: number;
  readonly rpm: number;
  readonly power_W: number;
  readonly torque_Nm: number;
  readonly throttle_pct: number;
  readonly plenum_Pa: number | null;
  readonly inlet_K: number;
  readonly coolant_K: number;
}

export const DYNO_RATE_Hz = 50;
const DYNO_SWEEP_rpmps = 420;
/** Scatter of whole pulls and of single samples, and the drift of a day per pull where nobody sets it, %. */
const RUN_SD_pct = 0.3;
const SAMPLE_SD = 0.007;
const DRIFT_SD_pct = 0.06;
/** Every pull leaves this much heat in the intake, and rest takes it out again with this time constant. */
const SOAK_K = 6.5;
const SOAK_MIN = 9;
const COOLANT_K = 358;
const COOLANT_SOAK_K = 5;
/** Air in the cell is this much warmer than outside, and a pull warms the inlet by this much a second. */
const CELL_K = 4;
const RISE_Kps = 0.55;
/** Power goes down by half the relative rise of the inlet's temperature. */
const INLET_SHARE = 0.5;
const LIFT_SAMPLES = 30;

/** Heat left in the intake at the start of the last of these pulls, K. */
export function heatSoak(rests_min: readonly number[]): number {
  return rests_min.reduce((heat, rest, i) => (i === 0 ? 0 : (heat + SOAK_K) * Math.exp(-rest / SOAK_MIN)), 0);
}

/**
 * A chassis dyno in place of a real one: one pull, fifty readings a second, driven by an engine's true curve, with the
 * scatter, the drift and the heat soak of a day. Pure: the seed and the rests before each pull decide.
 */
export function* dynoReadings(s: DynoSettings): Generator<DynoReading, void> {
  const pull = s.rests_min.length;
  const day = seededRandom(s.seed);
  const drift = (s.driftPerPull_pct ?? DRIFT_SD_pct * gaussian(day)) / 100;
  const random = seededRandom(s.seed * 1009 + pull);
  const whole = 1 + ((s.runSd_pct ?? RUN_SD_pct) / 100) * gaussian(random) + drift * (pull - 1) + (s.offset_pct ?? 0) / 100;
  const power = knotCurve({ rpm: s.curve.rpm, value: s.curve.power_W });
  const plenum = s.plenum_Pa ? knotCurve({ rpm: s.curve.rpm, value: s.plenum_Pa }) : null;
  if (isFailure(power)) return;
  const soak = heatSoak(s.rests_min);
  const inletStart = s.air_K + CELL_K + soak + 0.4 * gaussian(random);
  const coolant = COOLANT_K + COOLANT_SOAK_K * (soak / SOAK_K) + 0.5 * gaussian(random);
  const rate = s.rate_rpmps ?? DYNO_SWEEP_rpmps;
  const from = s.curve.rpm[0]!;
  const to = s.curve.rpm.at(-1)!;
  const samples = Math.ceil(((to - from) / rate) * DYNO_RATE_Hz);
  let last: DynoReading | null = null;
  for (let i = 0; i <= samples; i += 1) {
    const t_s = i / DYNO_RATE_Hz;
    const rpm = Math.min(to, from + rate * t_s) + 3 * gaussian(random);
    const inlet_K = inletStart + RISE_Kps * t_s + 0.12 * gaussian(random);
    const heat = 1 - (INLET_SHARE * (inlet_K - s.air_K - CELL_K)) / s.air_K;
    const rollOn = Math.min(1, 0.97 + 0.01 * i);
    const power_W = power(rpm) * whole * heat * rollOn * (1 + SAMPLE_SD * gaussian(random));
    last = {
      t_s,
      rpm,
      power_W,
      torque_Nm: torqueOf(power_W, rpm),
      throttle_pct: Math.min(100, 98.8 + random()),
      plenum_Pa: plenum && !isFailure(plenum) ? plenum(rpm) + 130 * gaussian(random) : null,
      inlet_K,
      coolant_K: coolant + 0.15 * t_s + 0.1 * gaussian(random),
    };
    yield last;
  }
  // Off the throttle: the rollers go on reading while the engine falls back.
  for (let k = 1; k <= LIFT_SAMPLES && last; k += 1) {
    const power_W = -0.1 * last.power_W * (1 + 0.05 * gaussian(random));
    const rpm = last.rpm - 24 * k;
    yield {
      ...last,
      t_s: last.t_s + k / DYNO_RATE_Hz,
      rpm,
      power_W,
      torque_Nm: torqueOf(power_W, rpm),
      throttle_pct: 0,
      plenum_Pa: s.plenum_Pa ? 33_000 : null,
    };
  }
}

export interface PullWeather {
  readonly p_Pa: number;
  readonly T_K: number;
  readonly rh: number;
}

/** A pull's readings as the file a bench would write, so that a live pull goes the way every other file goes. */
export function dynoFileText(
  readings: readonly DynoReading[],
  title: string,
  weather: PullWeather,
  stamp: { readonly date: string; readonly time: string },
): string {
  const map = readings.some((r) => r.plenum_Pa !== null);
  const head = [
    `# Practice dyno, ${title}`,
    `# Date: ${stamp.date}`,
    `# Time: ${stamp.time}`,
    '# Measured at: wheels',
    '# Correction: none',
    `# Barometer: ${(weather.p_Pa / 100).toFixed(1)} hPa`,
    `# Air temperature: ${(weather.T_K - 273.15).toFixed(1)} C`,
    `# Humidity: ${Math.round(weather.rh * 100)} %`,
    ...(map ? [`# Key on: ${(weather.p_Pa / 1000).toFixed(2)} kPa`] : []),
    `Time (s),Engine speed (rpm),Power (W),Torque (Nm),Throttle (%),${map ? 'MAP (kPa),' : ''}Inlet air (C),Coolant (C)`,
  ];
  const rows = readings.map((r) =>
    [
      r.t_s.toFixed(2),
      r.rpm.toFixed(1),
      r.power_W.toFixed(1),
      r.torque_Nm.toFixed(2),
      r.throttle_pct.toFixed(1),
      ...(map ? [((r.plenum_Pa ?? NaN) / 1000).toFixed(2)] : []),
      (r.inlet_K - 273.15).toFixed(2),
      (r.coolant_K - 273.15).toFixed(2),
    ].join(','),
  );
  return [...head, ...rows, ''].join('\n');
}
