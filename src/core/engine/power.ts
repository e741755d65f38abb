import { sweptRate } from './demand';

/** Stroke, m, of the engines that the friction formula was fitted to: at another stroke the same mean piston speed counts. */
const FRICTION_STROKE_m = 0.086;

/**
 * Friction mean effective pressure, Pa, of a four-stroke at an engine speed and stroke (m): the formula's own speed is the
 * one at which an 86 mm stroke has the same mean piston speed. Heywood eq. 13.6; airflow basis §8.
 */
export function frictionMep(rpm: number, stroke_m: number = FRICTION_STROKE_m): number {
  const k = (rpm * stroke_m) / FRICTION_STROKE_m / 1000;
  return 1e5 * (0.97 + 0.15 * k + 0.05 * k * k);
}

/** Friction power, W: FMEP × swept rate. */
export function frictionPower(displacement_m3: number, rpm: number, stroke_m?: number): number {
  return frictionMep(rpm, stroke_m) * sweptRate(displacement_m3, rpm);
}

/** Stroke, m, of an engine of so many cylinders whose bore is as wide as its stroke is long. */
export const squareStroke = (displacement_m3: number, cylinders: number): number =>
  Math.cbrt((4 * displacement_m3) / (Math.PI * cylinders));

/** Torque, N·m, at the crank for a power, W. */
export function torqueOf(power_W: number, rpm: number): number {
  return power_W / (2 * Math.PI * (rpm / 60));
}

/** Power, W, of a torque, N·m. */
export function powerOf(torque_Nm: number, rpm: number): number {
  return torque_Nm * 2 * Math.PI * (rpm / 60);
}

export interface PowerShift {
  /** The plenum term counts for a naturally aspirated engine only. */
  readonly aspiration: 'na' | 'boosted';
  readonly displacement_m3: number;
  readonly rpm: number;
  readonly referencePower_W: number;
  readonly referenceMassFlow_kgps: number;
  readonly referencePlenum_Pa: number;
  readonly referenceDrive_W?: number;
  readonly massFlow_kgps: number;
  readonly plenum_Pa: number;
  readonly drive_W?: number;
  /** Stretch on FMEP (1); an uncertainty run varies it. */
  readonly frictionFactor?: number | undefined;
  readonly stroke_m?: number | undefined;
}

export interface CandidatePower {
  readonly frictionPower_W: number;
  readonly indicated_W: number;
  readonly power_W: number;
  readonly torque_Nm: number;
}

/**
 * Crank power of the candidate from the reference's: indicated power goes with the air, friction stays, a blower's drive
 * is paid anew, and on a naturally aspirated engine the plenum's gain in pressure does less pumping. Airflow basis §8.
 */
export function candidatePower(s: PowerShift): CandidatePower {
  const swept = sweptRate(s.displacement_m3, s.rpm);
  const frictionPower_W = frictionMep(s.rpm, s.stroke_m) * (s.frictionFactor ?? 1) * swept;
  const indicated_W = s.referencePower_W + frictionPower_W + (s.referenceDrive_W ?? 0);
  const pumping = s.aspiration === 'na' ? (s.plenum_Pa - s.referencePlenum_Pa) * swept : 0;
  const power_W = (indicated_W * s.massFlow_kgps) / s.referenceMassFlow_kgps - frictionPower_W - (s.drive_W ?? 0) + pumping;
  return { frictionPower_W, indicated_W, power_W, torque_Nm: torqueOf(power_W, s.rpm) };
}
