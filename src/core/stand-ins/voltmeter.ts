import { gaussian, seededRandom } from '../numbers/random';

export const VOLTMETER_CASES = ['sound', 'sticking throttle', 'wrong sensor'] as const;
export type VoltmeterCase = (typeof VOLTMETER_CASES)[number];
/** How the blade is held while it is read. */
export const BLADE_POSITIONS = ['shut', 'full', 'let go'] as const;
export type BladePosition = (typeof BLADE_POSITIONS)[number];

export interface VoltmeterSettings {
  /** What the unit’s sensor is said to give, V. */
  readonly closed_V: number;
  readonly full_V: number;
  readonly position: BladePosition;
  readonly case: VoltmeterCase;
  readonly seed: number;
}

export interface VoltmeterReading {
  readonly t_s: number;
  /** The track, and of an electronic unit its second one. */
  readonly a_V: number;
  readonly b_V: number;
}

export const VOLTMETER_RATE_Hz = 5;
const SUPPLY_V = 5;
const JITTER_V = 0.003;
/** A sensor sits this far off where it should on a unit just put together. */
const SEAT_V = 0.07;
/** Opened and let go, once in so many seconds; it falls shut within one reading. */
const LET_GO_s = 3;
/** A sticking blade stays this much open, V of the sensor, a little elsewhere each time. */
const STUCK_V = 0.14;

/** A position sensor in place of a voltmeter on one: without end, five a second. Pure: a seed decides. */
export function* voltmeterReadings(s: VoltmeterSettings): Generator<VoltmeterReading, never> {
  const random = seededRandom(s.seed);
  const seat = SEAT_V * Math.max(-2, Math.min(2, gaussian(random)));
  const wrong = s.case === 'wrong sensor';
  const at = (share: number): number => {
    const v = s.closed_V + seat + share * (s.full_V - s.closed_V);
    // It falls where it should rise: another car's sensor, or one on the wrong way round.
    return wrong ? SUPPLY_V - v : v;
  };
  let stuck = 0;
  for (let i = 0; ; i += 1) {
    const t_s = i / VOLTMETER_RATE_Hz;
    const open = s.position === 'full' || (s.position === 'let go' && t_s % LET_GO_s < 1);
    const travel = s.full_V - s.closed_V;
    if (open && s.case === 'sticking throttle') stuck = (STUCK_V * (0.4 + 0.6 * random())) / travel;
    const share = open ? 1 : s.case === 'sticking throttle' ? Math.max(stuck, s.position === 'shut' ? STUCK_V / travel / 2 : 0) : 0;
    const a_V = at(share) + JITTER_V * gaussian(random);
    const b_V = (wrong ? a_V * 0.5 : SUPPLY_V - at(share)) + JITTER_V * gaussian(random);
    yield { t_s, a_V, b_V };
  }
}
