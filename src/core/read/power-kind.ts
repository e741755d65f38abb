import type { PowerKind } from '../documents/run';
import { standardIn } from './standards';

/** Columns of a power's name that speak of something else than what the engine gave: a loss, a wish, a factor. */
const LOSS = /loss|verlust|schlepp|parasit|friction|drag\b|coast|потер|perte|perdita|p[ée]rdida|perda|verlies|förlust|\bstrat|ztrát/i;
const WISH =
  /target|desired|demand|request|limit|set ?point|command|\bcmd\b|\bsoll|wunsch|vorgabe|driver wish|max(imum)? allowed|\bcible|consigne|objetivo|obiettivo|richiest[ao]|\bdoel|zadan|задан/i;
/** What a sensor gives before anybody made a reading of it. */
const VOLTAGE = /voltage|\bvolts?\b|spannung|voltaje|tensione|напряж/i;
const FACTOR = /factor|faktor|coeff|correction\s*$/i;

export type NotAReading = 'a loss' | 'a target' | 'a voltage' | 'a factor';

/** Whether a name speaks of a loss, a target, a sensor's voltage or a factor instead of a reading. */
export function notAReading(name: string): NotAReading | null {
  if (LOSS.test(name)) return 'a loss';
  if (WISH.test(name)) return 'a target';
  if (VOLTAGE.test(name)) return 'a voltage';
  return FACTOR.test(name) ? 'a factor' : null;
}

const WHEELS =
  /wheel|\b[rfa]?wd?hp\b|\b[rfa]?w?whp\b|\b[rfa]?wtq\b|\brad(?=leist|dreh|moment|kraft)|\brad\b|\broue|\brueda|\bruota|\bwiel|\bhjul|\bko[łl]|колес|roller|chassis/i;
const HUB = /\bhub|\bnabe/i;
const CRANK = /engine|crank|flywheel|\bmotor(?!sport)|\bbhp\b|brake|\bchp\b|kurbel|schwung|moteur|двигат/i;

const RAW = /uncorr|un-corr|not corr|non corr|\braw\b|observed|\bobs\b|as measured|unkorr|\broh|gemessen|brut/i;
const CORRECTED = /corr|korr|norm(ed|iert|alis)|\bcf\b/i;

/** What a power or torque column says of itself in its name: where it was measured, and which correction it carries. */
export function powerKindOf(name: string): PowerKind {
  const at = HUB.test(name) ? 'hub' : WHEELS.test(name) ? 'wheels' : CRANK.test(name) ? 'crank' : null;
  const raw = RAW.test(name);
  const standard = raw ? 'none' : (standardIn(name) ?? (CORRECTED.test(name) ? 'unknown' : null));
  return { at, carried: standard };
}

/** How near to what was measured a kind is: at the wheels before the engine, as measured before corrected. Smaller is nearer. */
export function kindRank({ at, carried }: PowerKind): number {
  const place = at === 'wheels' || at === 'hub' ? 0 : at === null ? 1 : 2;
  const corrected = carried === 'none' ? 0 : carried === null ? 1 : carried === 'unknown' ? 3 : 2;
  return 10 * place + corrected;
}

export const sameKind = (a: PowerKind, b: PowerKind): boolean => a.at === b.at && a.carried === b.carried;
