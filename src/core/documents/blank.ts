import { NO_SLIP } from './slip';
import { EURO } from '../units/quantity';
import type { AboutDoc } from './about';
import type { AdapterDoc, FittingsDoc, ManifoldFlangeDoc, RoomDoc, UnitFlangeDoc } from './flange';
import type { InletDoc, InletTrial, ValveDoc } from './inlet';
import type { InstallDoc } from './install';
import type { FitDoc, GearboxDoc, ShopDefaults, SizingDoc } from './job';
import type { PlanDoc, RoadDoc, StripPlanDoc } from './plan';
import type { ShopSettings } from './shop';
import type { StripPassDoc, StripVisitDoc } from './strip';
import type { UnitDoc } from './unit';
import type { VerdictDoc } from './verdict';

// Documents and their parts as they are before anybody has entered anything: what the schemas fill in where a field is
// missing. They stand apart from the schemas so that a page can begin one without the library that checks them.

export const NO_ABOUT: AboutDoc = { owner: '', contact: '', plate: '', mileage_m: null, photos: [], onCustomersPage: [] };

export const NO_FITTINGS: FittingsDoc = {
  plug: null,
  fromYear: null,
  toYear: null,
  closed_V: null,
  full_V: null,
  idleValve: null,
  coolant: null,
  ports: null,
  spigot_m: null,
  length_m: null,
  height_m: null,
  plugReach_m: null,
};

export const NO_ROOM: RoomDoc = { year: null, harnessSlack_m: null, coupler_m: null, couplerTravel_m: null, above_m: null };

const M6_IN_ALUMINIUM = { bolt: 'M6', into: 'aluminium' } as const;

/** A manifold's face with four holes on a square of the given side, m, and usual bolts. */
export const squareManifoldFlange = (side_m: number): ManifoldFlangeDoc => ({
  pattern: { kind: 'rectangle', width_m: side_m, height_m: side_m },
  offset: { x_m: 0, y_m: 0 },
  plate: null,
  opening: null,
  ...M6_IN_ALUMINIUM,
  fastening: 'bolt',
  threadDepth_m: 0.016,
  boltLength_m: 0.025,
  stockThickness_m: null,
});

/** A throttle's flange with four holes on a square of the given side, m. */
export const squareUnitFlange = (side_m: number): UnitFlangeDoc => ({
  pattern: { kind: 'rectangle', width_m: side_m, height_m: side_m },
  offset: { x_m: 0, y_m: 0 },
  plate: null,
  hole_m: 0.0066,
  thickness_m: 0.012,
  seal: 'gasket',
  clocking: 'as it is',
});

/** An adapter plate of the given thickness, m. */
export const plainAdapter = (thickness_m: number): AdapterDoc => ({ thickness_m, ...M6_IN_ALUMINIUM, unitBolt_m: null, gasket_m: 0.0008 });

const NO_VALVE: ValveDoc = { count: null, diameter_m: null, lift_m: null, duration_rad: null, toldAt_m: 0, centre_rad: null };

export const NO_INLET: InletDoc = {
  length_m: null,
  mouthBore_m: null,
  valveBore_m: null,
  edgeRadius_m: null,
  throttleAt_m: null,
  inlet: NO_VALVE,
  exhaust: NO_VALVE,
  rod_m: null,
  primary: null,
};

export const NO_TRIAL: InletTrial = { length_m: null, mouthBore_m: null, plenum_m3: null };

export const NO_GEARBOX: GearboxDoc = { ratios: [], final: null, tyre_m: null };

/** What a shop starts every new job with: the usual limits. */
export const NO_DEFAULTS: ShopDefaults = {
  speed_mps: null,
  benchRatio: null,
  powerShare: null,
  idleShare: null,
  tipIn: null,
  tolerances: null,
  allowedLoss_Pa: null,
};

export const NO_SIZING: SizingDoc = {
  speed_mps: null,
  benchRatio: null,
  powerShare: null,
  idleShare: null,
  tipIn: null,
  fit_m: null,
  tolerances: null,
};

export const NO_FIT: FitDoc = {
  boring: { bite_m: 0.001, wall_m: null, leastWall_m: 0.003 },
  mounting: { clock_rad: 0, adapter: null, bolt_m: null, extraGrip_m: 0, gasket_m: 0.0008, seal: 'not said', have: [] },
};

export const NO_INSTALL: InstallDoc = {
  closed_V: null,
  full_V: null,
  closedB_V: null,
  fullB_V: null,
  torque_Nm: null,
  shut_rad: null,
  full_rad: null,
  own: [],
  relearn: { cycles: 3, run_s: 180, rest_s: 120, low_rpm: 650, high_rpm: 850 },
};

export const NO_PLAN: PlanDoc = {
  threshold_pct: 1,
  decidesOn: 'top',
  order: 'A-B-A-B',
  runsPerStay: null,
  visits: 1,
  written: null,
  learn: true,
  holds: { inletAir_K: 3, coolant_K: 5, density: 0.01, gear: true, tune: true, fuel: true, pulley: true, sameDay: true },
  costPerRun: 0,
  costPerVisit: 0,
  minutesPerRun: 6,
  minutesPerSwap: 30,
  minutesPerVisit: 45,
  costPerHour: 0,
};

export const NO_STRIP_PLAN: StripPlanDoc = {
  et_s: 0.05,
  trap_mps: 0.5 * 0.44704,
  sixty_s: 0.02,
  hours_min: 300,
  perPass_min: 10,
  coolDown_min: 20,
  swap_min: 40,
};

export const NO_ROAD: RoadDoc = { from_mps: 100 / 3.6, to_mps: 200 / 3.6, rollout_m: 0.3048, grade: null, wind_mps: 2, stretch: 'no' };

export const NO_VERDICT: VerdictDoc = { note: '', fitting: 0, otherParts: 0, override: null };

export const NO_SETTINGS: ShopSettings = {
  name: '',
  people: [],
  pack: 'metric',
  units: {},
  paper: 'A4',
  rigChanged: { dyno: null, strip: null },
  currency: EURO,
  hourly: 0,
};

/** A day at a strip of which only track and date are to be told. */
export const NO_VISIT: Omit<StripVisitDoc, 'track' | 'takenOn'> = {
  schema: 1,
  course: 'quarter',
  marks: 'feet',
  speeds: 'mph',
  mass_kg: null,
  entryFee: 0,
  perPassFee: 0,
  weather: [],
  note: '',
};

export const NO_PASS: StripPassDoc = {
  schema: 1,
  at: null,
  side: null,
  lane: '',
  slip: NO_SLIP,
  dial_s: null,
  coolant_K: null,
  inlet_K: null,
  tyre_Pa: null,
  launch_rpm: null,
  between: '',
  note: '',
  runId: null,
  leftOut: null,
};

/** A throttle of which only its name, its bore and how it is moved are known. */
export const blankUnit = (known: Pick<UnitDoc, 'name' | 'throttle' | 'controls'>): UnitDoc => ({
  schema: 1,
  ...known,
  price: null,
  largestOpening_m: null,
  bench: [],
  note: '',
  photo: null,
  flange: null,
  fittings: NO_FITTINGS,
});
