import { gaussian, seededRandom } from '../numbers/random';

export const TACHOMETER_CASES = ['sound', 'sticking throttle', 'hunting idle'] as const;
export type TachometerCase = (typeof TACHOMETER_CASES)[number];

export interface TachometerSettings {
  readonly band_rpm: readonly [low: number, high: number];
  readonly case: TachometerCase;
  readonly seed: number;
}

export interface TachometerReading {
  readonly t_s: number;
  readonly rpm: number;
}

export const TACHOMETER_RATE_Hz = 5;
/** Cold, an engine idles this much faster, and loses it with this time constant. */
const COLD_rpm = 320;
const WARMING_s = 18;
const JITTER_rpm = 9;
/** Somebody blips the throttle this often: up for so long, then down with the engine’s own time constant. */
const BLIP_EVERY_s = 40;
const BLIP_FOR_s = 0.9;
const BLIP_rpm = 1500;
const FALL_s = 0.8;
/** A blade that sticks holds the engine this much up after a blip, and lets more air in as it warms. */
const HANG_rpm = 420;
const CLIMB_rpm_per_s = 3;
const HUNT_rpm = 110;
const HUNT_s = 4;

/** An engine’s idle in place of a tachometer’s: without end, five a second. Pure: a seed decides. */
export function* tachometerReadings(s: TachometerSettings): Generator<TachometerReading, never> {
  const random = seededRandom(s.seed);
  const middle = (s.band_rpm[0] + s.band_rpm[1]) / 2 + 12 * gaussian(random);
  const phase = 2 * Math.PI * random();
  let wander = 0;
  for (let i = 0; ; i += 1) {
    const t_s = i / TACHOMETER_RATE_Hz;
    wander = 0.97 * wander + 2.2 * gaussian(random);
    const cold = COLD_rpm * Math.exp(-t_s / WARMING_s);
    const since = t_s < BLIP_EVERY_s ? null : (t_s % BLIP_EVERY_s) - BLIP_FOR_s;
    const sticks = s.case === 'sticking throttle' && since !== null;
    const lift =
      since === null
        ? 0
        : since <= 0
          ? BLIP_rpm * Math.sin((Math.PI / 2) * ((since + BLIP_FOR_s) / BLIP_FOR_s))
          : BLIP_rpm * Math.exp(-since / FALL_s);
    const hang = sticks ? HANG_rpm + CLIMB_rpm_per_s * (t_s - BLIP_EVERY_s) : 0;
    const hunt = s.case === 'hunting idle' ? HUNT_rpm * Math.sin((2 * Math.PI * t_s) / HUNT_s + phase) : 0;
    yield { t_s, rpm: Math.max(0, middle + cold + lift + hang + hunt + wander + JITTER_rpm * gaussian(random)) };
  }
}
