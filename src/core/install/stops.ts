import { failure, isFailure, type Failure } from '../failure';
import { fullAngle, throttleFailure, throttleOpenArea, type Throttle } from '../flow/throttle';

/** True full opening: the blade in line with the air. */
export const IN_LINE_rad = Math.PI / 2;
/** A full-open stop this far off true costs next to nothing and is hard to see, rad. */
const FULL_SLACK_rad = (1.5 * Math.PI) / 180;
/** Within this of the angle it was cut for a blade is so flat in its bore that it can wedge, rad. */
const WEDGE_rad = (0.4 * Math.PI) / 180;

export interface StopsCheck {
  /** Area at the full-open stop as a share of the net area: past true full opening it falls again. */
  readonly fullShare: number;
  readonly full: 'true' | 'short' | 'past';
  /** The shut blade: held off its bore by the stop, wedged into it, or standing open. */
  readonly shut: 'held' | 'wedges' | 'open';
  readonly safe: boolean;
}

/** Open area, m², at any angle: past in line with the air the blade closes again from the other side. */
export function areaPast(t: Throttle, angle_rad: number): number {
  return throttleOpenArea(t, angle_rad <= IN_LINE_rad ? angle_rad : 2 * IN_LINE_rad - angle_rad);
}

/**
 * The two stops of a mechanical unit. `bladeCut_rad` is the angle its blade was cut to sit at (its closed angle); the shut
 * stop must keep it a hair above that, and the full stop must bring it in line with the air and not beyond: there the flow
 * falls again and the blade can hang. Radians from square to the bore.
 */
export function stopsCheck(t: Throttle, shut_rad: number, full_rad: number, idle_rad: number): StopsCheck | Failure {
  const refused = throttleFailure(t);
  if (refused) return refused;
  if (!(shut_rad >= 0) || !(full_rad > shut_rad) || full_rad >= Math.PI) return failure('bad_geometry', { reason: 'stop_angles' });
  const net = throttleOpenArea(t, IN_LINE_rad);
  if (isFailure(net) || !(net > 0)) return failure('bad_geometry', { reason: 'stop_angles' });
  const cut = t.closedAngle_rad ?? 0;
  const fullShare = areaPast(t, full_rad) / net;
  const full =
    full_rad > IN_LINE_rad + FULL_SLACK_rad ? 'past' : full_rad < Math.min(fullAngle(t), IN_LINE_rad - FULL_SLACK_rad) ? 'short' : 'true';
  const shut = shut_rad <= cut + WEDGE_rad ? 'wedges' : shut_rad > idle_rad ? 'open' : 'held';
  return { fullShare, full, shut, safe: full !== 'past' && shut === 'held' };
}
