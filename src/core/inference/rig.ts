/** Which way is better, for the sign of a gain. */
export type Better = 'higher' | 'lower';

export const RIGS = ['dyno', 'stripTime', 'stripSpeed', 'road'] as const;
export type Rig = (typeof RIGS)[number];

/** Scatters a difference can be made of without the part, sd each, in the rig's unit; 0 (but for run and refit): not there. */
export interface Components {
  /** One run about its stay. */
  readonly run: number;
  /** A stay about its day: taking the part off and on, strapping down. */
  readonly refit: number;
  /** A day on the dyno, the strip or the road about the next one. */
  readonly day: number;
  /** The part's own effect from one day to another. */
  readonly sideByVisit: number;
  /** Change from run to run of a day. */
  readonly drift: number;
  /** How far the first run is off while the car is warming; gone after a few. */
  readonly warmup: number;
  /** A kelvin of the temperature at the start. */
  readonly start: number;
  /** A stretch of road and its direction. */
  readonly place: number;
  /** What the wind did on an outing. */
  readonly wind: number;
}

export interface RigRow extends Components {
  /** Smallest difference that matters. */
  readonly threshold: number;
  readonly better: Better;
}

/** What is assumed of each rig until the shop's history says otherwise: %, s, m/s, %. Testing basis §4.3. */
export const RIG_ROWS: Readonly<Record<Rig, RigRow>> = {
  dyno: {
    run: 0.45,
    refit: 0.36,
    day: 0.9,
    sideByVisit: 0.2,
    drift: 0.08,
    warmup: 1,
    start: 0.1,
    place: 0,
    wind: 0,
    threshold: 0.5,
    better: 'higher',
  },
  stripTime: {
    run: 0.08,
    refit: 0.03,
    day: 0.08,
    sideByVisit: 0.02,
    drift: 0.005,
    warmup: 0.05,
    start: 0.004,
    place: 0,
    wind: 0,
    threshold: 0.05,
    better: 'lower',
  },
  stripSpeed: {
    run: 0.25,
    refit: 0.1,
    day: 0.4,
    sideByVisit: 0.06,
    drift: 0.02,
    warmup: 0.15,
    start: 0.01,
    place: 0,
    wind: 0,
    threshold: 0.22352,
    better: 'higher',
  },
  road: {
    run: 1,
    refit: 0.3,
    day: 0.8,
    sideByVisit: 0.3,
    drift: 0.05,
    warmup: 0.5,
    start: 0.1,
    place: 1,
    wind: 0.8,
    threshold: 1,
    better: 'lower',
  },
};

/** What is known of the ground of a road run, and the sd of a place that goes with it, %. Testing basis §4.3. */
export const ROAD_GRADES = { unknown: 1, logged: 0.4, bothWays: 0.15 } as const;
export type RoadGrade = keyof typeof ROAD_GRADES;

export interface RigOptions {
  readonly rig?: Rig | undefined;
  readonly components?: Partial<Components> | undefined;
  readonly threshold?: number | undefined;
  readonly better?: Better | undefined;
}

/** The rig's row with what a caller knows better. */
export function rigRow({ rig = 'dyno', components, threshold, better }: RigOptions): RigRow {
  const row = RIG_ROWS[rig];
  const given = Object.fromEntries(Object.entries(components ?? {}).filter(([, v]) => v !== undefined));
  return { ...row, ...given, threshold: threshold ?? row.threshold, better: better ?? row.better };
}
