import { knotCurve } from '../numbers/curve';
import { gaussian, seededRandom } from '../numbers/random';
import { isFailure } from '../failure';

/** The car a drive is made up for. */
export interface LoggerCar {
  /** Wheel power at wide open throttle over engine speed, W. */
  readonly rpm: readonly number[];
  readonly power_W: readonly number[];
  /** Air mass flow at wide open throttle over the same engine speeds, kg/s. */
  readonly massFlow_kgps: readonly number[];
  readonly plenum_Pa: readonly number[];
  readonly cylinders: number;
  readonly idle_rpm: number;
  readonly redline_rpm: number;
  readonly air_K: number;
  readonly air_Pa: number;
  /** Metres of road to a turn of the engine, in the gear the drive is made in. */
  readonly metresPerTurn: number;
}

export interface LoggerSettings {
  readonly car: LoggerCar;
  readonly seed: number;
  /** How fast the plenum follows the throttle, s: a large plenum behind a small bore is slow. */
  readonly filling_s?: number | undefined;
  /** Half of peak to peak of an idle that hunts, rpm; 0: it only jitters. */
  readonly hunting_rpm?: number | undefined;
}

export interface LoggerColumn {
  readonly name: string;
  readonly unit: string;
  /** Rows between its samples: the others are empty. */
  readonly every: number;
  readonly decimals: number;
}

export const LOGGER_RATE_Hz = 100;
export const LOGGER_COLUMNS: readonly LoggerColumn[] = [
  { name: 'Time', unit: 's', every: 1, decimals: 2 },
  { name: 'Engine speed', unit: 'rpm', every: 1, decimals: 0 },
  { name: 'Throttle', unit: '%', every: 1, decimals: 1 },
  { name: 'Pedal', unit: '%', every: 2, decimals: 1 },
  { name: 'MAP', unit: 'kPa', every: 2, decimals: 2 },
  { name: 'MAF', unit: 'g/s', every: 5, decimals: 2 },
  { name: 'Cylinder air', unit: 'mg', every: 5, decimals: 1 },
  { name: 'Speed', unit: 'km/h', every: 10, decimals: 2 },
  { name: 'Lambda', unit: '', every: 10, decimals: 3 },
  { name: 'IAT', unit: 'C', every: 100, decimals: 1 },
  { name: 'Coolant', unit: 'C', every: 100, decimals: 1 },
];

/** A row of a log: a figure or nothing for each column. */
export type LoggerRow = readonly (number | null)[];

/** The drive, in seconds: key on, idle, three stabs at the throttle, a full pull, a coast, and idle again. */
const DRIVE = { keyOn: 3, idle: 18, stab: 4, stabs: 3, pull: 12, coast: 5 } as const;
const MASS_kg = 1300;
const DRAG_W_per_mps3 = 0.42;
const CRUISE_rpm = 2400;
/** Metres of road to a turn of the engine where the gearbox is not known. */
export const METRES_PER_TURN = 0.42;
const HUNT_s = 1.9;
const THROTTLE_s = 0.05;
const IDLE_throttle_pct = 1.5;
const AIR_SD = 0.0015;

interface State {
  rpm: number;
  throttle: number;
  plenum: number;
  speed: number;
  inlet: number;
}

/** What the foot does, %. */
function pedalAt(t: number): number {
  const begin = DRIVE.keyOn + DRIVE.idle;
  const stabs = begin + DRIVE.stab * DRIVE.stabs;
  if (t < begin) return 0;
  if (t < stabs) return (t - begin) % DRIVE.stab > DRIVE.stab - 1.6 ? 62 : 12;
  if (t < stabs + 1) return 12;
  return t < stabs + 1 + DRIVE.pull ? 100 : 0;
}

/**
 * A data logger in a car that is not there: a drive of about a minute, a hundred rows a second, each column at its own
 * rate. The plenum fills with its own delay, the idle jitters or hunts, the speed sensor is slow. Pure: the seed decides.
 */
export function* loggerRows(s: LoggerSettings): Generator<LoggerRow, void> {
  const { car } = s;
  const random = seededRandom(s.seed);
  const full = knotCurve({ rpm: car.rpm, value: car.power_W });
  const flow = knotCurve({ rpm: car.rpm, value: car.massFlow_kgps });
  const wide = knotCurve({ rpm: car.rpm, value: car.plenum_Pa });
  if (isFailure(full) || isFailure(flow) || isFailure(wide)) return;
  const filling = s.filling_s ?? 0.09;
  const hunting = s.hunting_rpm ?? 0;
  const dt = 1 / LOGGER_RATE_Hz;
  const state: State = { rpm: 0, throttle: IDLE_throttle_pct, plenum: car.air_Pa, speed: 0, inlet: car.air_K + 12 };
  const begin = DRIVE.keyOn + DRIVE.idle;
  const end = begin + DRIVE.stab * DRIVE.stabs + 1 + DRIVE.pull + DRIVE.coast + DRIVE.idle;
  let wander = 0;
  for (let i = 0; i * dt < end; i += 1) {
    const t = i * dt;
    const pedal = pedalAt(t);
    const target = Math.max(IDLE_throttle_pct, pedal);
    state.throttle += (target - state.throttle) * (1 - Math.exp(-dt / THROTTLE_s));
    const driving = t >= begin && t < end - DRIVE.idle;
    wander = 0.98 * wander + 2.2 * gaussian(random);
    if (t < DRIVE.keyOn) state.rpm = 0;
    else if (!driving) {
      state.speed = 0;
      const idle = car.idle_rpm + wander + hunting * Math.sin((2 * Math.PI * t) / HUNT_s);
      state.rpm += (idle - state.rpm) * Math.min(1, 3 * dt + (state.rpm === 0 ? 0.2 : 0.05));
    } else drive(state, t, begin, dt, full, car);
    const share = Math.min(1, (state.throttle / 100) ** 0.8);
    const open = state.rpm > 50 ? wide(state.rpm) : car.air_Pa;
    const settled = state.rpm < 50 ? car.air_Pa : 0.3 * car.air_Pa + (open - 0.3 * car.air_Pa) * Math.min(1, 1.35 * share);
    state.plenum += (Math.min(settled, open) - state.plenum) * (1 - Math.exp(-dt / filling));
    const air = state.rpm < 50 ? 0 : (flow(state.rpm) * Math.min(1, state.rpm / car.rpm[0]!) * state.plenum) / open;
    state.inlet += driving && pedal > 90 ? 0.5 * dt : (car.air_K + 12 - state.inlet) * 0.01 * dt;
    const values: number[] = [
      t,
      state.rpm + (state.rpm > 0 ? 2.5 * gaussian(random) : 0),
      Math.min(100, Math.max(0, state.throttle + 0.1 * gaussian(random))),
      pedal,
      (state.plenum + 60 * gaussian(random)) / 1000,
      1000 * air * (1 + AIR_SD * gaussian(random)),
      state.rpm < 50 ? 0 : ((1e6 * air * 120) / (car.cylinders * state.rpm)) * (1 + AIR_SD * gaussian(random)),
      3.6 * state.speed,
      pedal > 90 ? 0.87 + 0.01 * gaussian(random) : 1 + 0.02 * gaussian(random),
      state.inlet - 273.15,
      86 + 0.4 * gaussian(random),
    ];
    yield LOGGER_COLUMNS.map((c, k) => (i % c.every === 0 ? Number(values[k]!.toFixed(c.decimals)) : null));
  }
}

/** In gear: engine and road tied together, pushed by what the throttle lets through. */
function drive(state: State, t: number, begin: number, dt: number, full: (rpm: number) => number, car: LoggerCar): void {
  if (state.speed === 0) state.speed = (CRUISE_rpm / 60) * car.metresPerTurn;
  const pulling = state.throttle > 90;
  const share = Math.min(1, (state.plenum / car.air_Pa - 0.3) / 0.7);
  const power = full(Math.max(car.rpm[0]!, state.rpm)) * Math.max(0, share);
  const force = power / Math.max(4, state.speed) - DRAG_W_per_mps3 * state.speed ** 2 - (pulling ? 0 : 500);
  const cruise = t < begin + DRIVE.stab * DRIVE.stabs + 1;
  state.speed += (force / MASS_kg) * dt;
  // Between the stabs the driver brings it back to the same speed.
  const steady = (CRUISE_rpm / 60) * car.metresPerTurn;
  if (cruise && state.throttle < 30) state.speed += (steady - state.speed) * 0.9 * dt;
  state.speed = Math.min(state.speed, (car.redline_rpm / 60) * car.metresPerTurn);
  state.speed = Math.max(state.speed, 6);
  state.rpm = (state.speed / car.metresPerTurn) * 60;
}
