import { medianOf } from '../numbers/moments';
import { traceAt, type Trace } from './trace';

/** Engine standing; a reading that the plenum has settled to. */
const STANDING_rpm = 50;
const LEAST_SAMPLES = 3;

/** The manifold sensor's own barometer: what it read while the engine stood, Pa; null where the log never shows that. */
export function keyOnReading(manifold: Trace, rpm: Trace): number | null {
  const standing = Array.from(manifold.time_s).flatMap((t, i) =>
    rpm.time_s.length > 0 && t >= rpm.time_s[0]! && t <= rpm.time_s.at(-1)! && traceAt(rpm, t) < STANDING_rpm ? [manifold.value[i]!] : [],
  );
  return standing.length < LEAST_SAMPLES ? null : medianOf(standing);
}
