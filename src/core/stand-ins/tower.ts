import { gaussian, seededRandom } from '../numbers/random';
import { MARKS_m, TIME_MARKS, type Slip, type SlipField } from '../documents/slip';

export interface TowerCar {
  /** Peak power at the crank on the day, W. */
  readonly power_W: number;
  readonly mass_kg: number;
  /** What the tyres can put down at the start, m/s². */
  readonly launch_mps2: number;
}

export interface TowerSettings {
  readonly car: TowerCar;
  readonly seed: number;
  /** Which pass of the day: each has its own luck. */
  readonly pass: number;
}

/** Something the tower read, s after the light turned. */
export interface TowerReading {
  readonly after_s: number;
  readonly field: SlipField;
  readonly value: number;
}

/** Share of crank power that pushes the car, gear changes counted in, and its drag, W per (m/s)³. */
const TO_THE_ROAD = 0.66;
const DRAG_W_per_mps3 = 0.42;
/** Scatter from pass to pass: start, power, and the driver at the light. */
const LAUNCH_SD = 0.025;
const POWER_SD = 0.004;
const STEP_s = 0.002;

/** Seconds and speeds at the marks of one run without any luck in it. */
export function towerRun({ power_W, mass_kg, launch_mps2 }: TowerCar): Omit<Slip, 'reaction_s'> {
  const times: Partial<Record<string, number>> = {};
  let x = 0;
  let v = 0;
  let t = 0;
  let mark = 0;
  let v201 = 0;
  while (mark < TIME_MARKS.length && t < 60) {
    const driven = (power_W * TO_THE_ROAD) / (mass_kg * (v + 0.01));
    const push = driven < launch_mps2 ? driven : launch_mps2;
    const a = push - (DRAG_W_per_mps3 * v * v) / mass_kg;
    const next = x + v * STEP_s + 0.5 * a * STEP_s ** 2;
    const name = TIME_MARKS[mark]!;
    if (next >= MARKS_m[name]) {
      times[name] = t + (STEP_s * (MARKS_m[name] - x)) / (next - x);
      if (name === 't201_s') v201 = v;
      mark += 1;
    }
    x = next;
    v += a * STEP_s;
    t += STEP_s;
  }
  const at = (name: (typeof TIME_MARKS)[number]): number | null => times[name] ?? null;
  return {
    t18_s: at('t18_s'),
    t100_s: at('t100_s'),
    t201_s: at('t201_s'),
    t305_s: at('t305_s'),
    t402_s: at('t402_s'),
    v201_mps: v201,
    v402_mps: times['t402_s'] === undefined ? null : v,
  };
}

const rounded = (x: number, to: number): number => Math.round(x * to) / to;

/** A pass as the timing tower reads it, in the order it does: seeded, to the thousandth and to a hundredth of a mile an hour. */
export function towerReadings({ car, seed, pass }: TowerSettings): TowerReading[] {
  const random = seededRandom(seed * 7919 + pass);
  const reaction_s = rounded(0.35 + Math.abs(gaussian(random)) * 0.18, 1000);
  const launch_mps2 = car.launch_mps2 * (1 + LAUNCH_SD * gaussian(random));
  const power_W = car.power_W * (1 + POWER_SD * gaussian(random));
  const run = towerRun({ ...car, launch_mps2, power_W });
  const readings: TowerReading[] = [{ after_s: reaction_s, field: 'reaction_s', value: reaction_s }];
  for (const field of ['t18_s', 't100_s', 't201_s', 'v201_mps', 't305_s', 't402_s', 'v402_mps'] as const) {
    const value = run[field];
    if (value === null) continue;
    const time = field === 'v201_mps' ? run.t201_s! : field === 'v402_mps' ? run.t402_s! : value;
    const mph = 0.44704;
    readings.push({
      after_s: reaction_s + time,
      field,
      value: field.startsWith('v') ? rounded(value / mph, 100) * mph : rounded(value, 1000),
    });
  }
  return readings;
}

/** The readings of a pass as one slip. */
export function towerSlip(settings: TowerSettings): Slip {
  const read = new Map(towerReadings(settings).map((r) => [r.field, r.value]));
  const of = (field: SlipField): number | null => read.get(field) ?? null;
  return {
    reaction_s: of('reaction_s'),
    t18_s: of('t18_s'),
    t100_s: of('t100_s'),
    t201_s: of('t201_s'),
    t305_s: of('t305_s'),
    t402_s: of('t402_s'),
    v201_mps: of('v201_mps'),
    v402_mps: of('v402_mps'),
  };
}
