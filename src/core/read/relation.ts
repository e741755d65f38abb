import { medianOf } from '../numbers/moments';
import { UNITS, type Unit } from '../units/units';

/** Power is torque times angular speed: the one law that tells what two columns are in without a word from the file. */
const RADIANS_PER_RPM = Math.PI / 30;

const POWERS = UNITS.filter((u) => u.dimension === 'power');
const TORQUES = UNITS.filter((u) => u.dimension === 'torque');

/** Rows that say anything: fewer, and a chance agreement cannot be told from the law. */
const LEAST_ROWS = 5;
const LEAST_rpm = 300;
/** Scatter of the ratio (median absolute deviation over the median) beyond which two columns are no power and torque. */
const MOST_SCATTER = 0.02;
/** A pair of units fits when the ratio is this near to its own; the next best pair must be this much further away. */
const FITS = 1.5e-3;
const APART = 2.5e-3;

export interface Relation {
  /** Median of power over torque and engine speed, in the file's figures and rpm. */
  readonly ratio: number;
  readonly rows: number;
}

export interface UnitPair {
  readonly power: Unit;
  readonly torque: Unit;
}

/** The ratio of two columns over engine speed in rpm, where it is steady enough to be a law; null where it is not. */
export function powerOverTorque(rpm: ArrayLike<number>, power: ArrayLike<number>, torque: ArrayLike<number>): Relation | null {
  const ratios: number[] = [];
  for (let i = 0; i < rpm.length; i += 1) {
    const ratio = power[i]! / (torque[i]! * rpm[i]!);
    if (rpm[i]! > LEAST_rpm && torque[i]! > 0 && power[i]! > 0 && Number.isFinite(ratio)) ratios.push(ratio);
  }
  if (ratios.length < LEAST_ROWS) return null;
  const middle = medianOf(ratios);
  const scatter = medianOf(ratios.map((r) => Math.abs(r / middle - 1)));
  return scatter > MOST_SCATTER ? null : { ratio: middle, rows: ratios.length };
}

const expected = ({ power, torque }: UnitPair): number => (torque.factor * RADIANS_PER_RPM) / power.factor;

/**
 * The pair of units under which the two columns obey P = T·ω, among those that `known` leaves open; null where none does, or
 * two do (PS with N·m and kW with lb·ft are 0.3 % apart).
 */
export function unitsByRelation(
  { ratio }: Relation,
  known: { readonly power?: Unit | undefined; readonly torque?: Unit | undefined },
): UnitPair | null {
  const pairs = (known.power ? [known.power] : POWERS).flatMap((power) =>
    (known.torque ? [known.torque] : TORQUES).map((torque): UnitPair => ({ power, torque })),
  );
  const ranked = pairs.map((pair) => ({ pair, off: Math.abs(ratio / expected(pair) - 1) })).sort((a, b) => a.off - b.off);
  const [best, next] = ranked;
  if (!best || best.off > FITS) return null;
  return next && next.off - best.off < APART ? null : best.pair;
}

/** Whether two columns in these units obey the law, to a percent. */
export const obeys = ({ ratio }: Relation, pair: UnitPair): boolean => Math.abs(ratio / expected(pair) - 1) < 0.01;
