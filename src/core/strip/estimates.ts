import { GRAVITY_mps2 } from '../flow/constants';

const POUND_kg = 0.45359237;
const MPH_mps = 0.44704;
const HORSEPOWER_W = 745.69987158;

export interface PassPower {
  readonly fromSpeed_W: number;
  readonly fromTime_W: number;
  /** Time's estimate over speed's, less one: what launch and traction took. */
  readonly disagreement: number;
}

/** Power from a quarter-mile pass in two independent ways (Hale's relations), mass with driver. Testing basis §3. */
export function passPower(input: { readonly mass_kg: number; readonly trapSpeed_mps: number; readonly et_s: number }): PassPower {
  const weight_lb = input.mass_kg / POUND_kg;
  const fromSpeed_W = weight_lb * (input.trapSpeed_mps / MPH_mps / 234) ** 3 * HORSEPOWER_W;
  const fromTime_W = (weight_lb / (input.et_s / 5.825) ** 3) * HORSEPOWER_W;
  return { fromSpeed_W, fromTime_W, disagreement: fromTime_W / fromSpeed_W - 1 };
}

export interface RoadEnergy {
  readonly specificEnergy_Jpkg: number;
  readonly specificPower_Wpkg: number;
  /** Time the same run would have taken on the flat, by energy. */
  readonly flatTime_s: number;
}

/** A road run through its energy, so that the grade is taken out: Δ(½v²) + g·Δh. Testing basis §3. */
export function roadEnergy(input: {
  readonly fromSpeed_mps: number;
  readonly toSpeed_mps: number;
  readonly climb_m: number;
  readonly time_s: number;
}): RoadEnergy {
  const kinetic = 0.5 * (input.toSpeed_mps ** 2 - input.fromSpeed_mps ** 2);
  const specificEnergy_Jpkg = kinetic + GRAVITY_mps2 * input.climb_m;
  return {
    specificEnergy_Jpkg,
    specificPower_Wpkg: specificEnergy_Jpkg / input.time_s,
    flatTime_s: (input.time_s * kinetic) / specificEnergy_Jpkg,
  };
}
