import { SENSOR_WINDOW_V } from '../fit/sensor-window';

/** Usual figures shut and fully open, V. */
const SENSOR_USUAL_V = { closed: 0.5, full: 4.5 } as const;
/** Closed volts this close to stock's count as matched, V. */
const MATCHED_V = 0.02;
/** A supply sags and a meter strays: no reading goes beyond these, V. */
const READABLE_V = [0, 5.5] as const;

export interface SensorPair {
  readonly closed_V: number;
  readonly full_V: number;
}

export interface SensorCheck {
  readonly verdict: 'matched' | 'turn it' | 'fault' | 'no figure of stock' | 'cannot be';
  /** Closed volts less the target's, V. */
  readonly off_V: number | null;
  /** Which way the closed volts must go. */
  readonly way: 'up' | 'down' | null;
  readonly target_V: number;
  /** Which reading lies outside the control unit's window. */
  readonly outside: readonly ('closed' | 'full')[];
}

const readable = (v: number): boolean => v >= READABLE_V[0] && v <= READABLE_V[1];
const outsideOf = (p: SensorPair): ('closed' | 'full')[] =>
  (['closed', 'full'] as const).filter((k) => p[`${k}_V`] < SENSOR_WINDOW_V[0] || p[`${k}_V`] > SENSOR_WINDOW_V[1]);

/** The position sensor on the new unit against what stock showed: closed volts matched, both inside the control unit's window. */
export function sensorCheck(now: SensorPair, stock: SensorPair | null): SensorCheck {
  const target_V = stock?.closed_V ?? SENSOR_USUAL_V.closed;
  const nothing = { off_V: null, way: null, target_V, outside: [] };
  if (!readable(now.closed_V) || !readable(now.full_V)) return { ...nothing, verdict: 'cannot be' };
  const off_V = now.closed_V - target_V;
  const way = Math.abs(off_V) <= MATCHED_V + 1e-9 ? null : off_V > 0 ? 'down' : 'up';
  const outside = outsideOf(now);
  // A sensor that reads less open than shut is on the wrong way round, or is another one.
  if (outside.length > 0 || now.full_V <= now.closed_V) return { verdict: 'fault', off_V, way, target_V, outside };
  if (way !== null) return { verdict: 'turn it', off_V, way, target_V, outside };
  return { verdict: stock ? 'matched' : 'no figure of stock', off_V, way, target_V, outside };
}

/** The two tracks of an electronic throttle, V. One rises while the other falls, and together they make the supply. */
export interface TrackPair {
  readonly a_V: number;
  readonly b_V: number;
}
/** How far the tracks' sum may stray from the supply, V. */
const TRACK_SLACK_V = 0.15;

/** Whether two tracks can be those of one whole sensor at a supply, V. */
export function tracksPlausible({ a_V, b_V }: TrackPair, supply_V = 5): 'plausible' | 'disagree' | 'cannot be' {
  if (!readable(a_V) || !readable(b_V)) return 'cannot be';
  return Math.abs(a_V + b_V - supply_V) <= TRACK_SLACK_V ? 'plausible' : 'disagree';
}
