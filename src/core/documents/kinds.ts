import type { BoltSize } from './flange';

// The closed lists and limits that documents are made of. They stand apart from the documents' schemas: a page that shows
// a choice needs its words, not the library that checks what was chosen.

/** Weather corrections a run's file may carry, or be brought to. */
export const CORRECTION_METHODS = ['none', 'SAE J1349', 'STD', 'DIN 70020', 'ISO 1585'] as const;
export type CorrectionMethod = (typeof CORRECTION_METHODS)[number];

/** What of a job's owner and car may stand on the customer's page; each only where it is ticked. */
export const ABOUT_PARTS = ['owner', 'contact', 'plate', 'mileage', 'photos'] as const;

/** Pictures of a car kept with its job. */
export const MOST_PHOTOS = 12;

/** A curve a person types has this many points at most. */
export const MOST_KNOTS = 40;

/** Limits of a throttle's lengths, m: wider than anything sold, tight enough to catch a wrong unit. */
export const BORE_RANGE_m = [0.015, 0.25] as const;

/** How a blade shuts: a class with its usual gap, or a gap measured by feeler or by a bench reading closed. */
export const LEAK_CLASSES = ['sealed', 'production', 'turned', 'measured'] as const;

export const CONTROL_KINDS = ['cable', 'electronic-analogue', 'electronic-digital'] as const;
export const PATTERN_KINDS = ['pair', 'triangle', 'rectangle', 'circle', 'free'] as const;
export const CLOCKINGS = ['as it is', 'quarter turns', 'free'] as const;
export const SEALS = ['gasket', 'O-ring'] as const;
export const BOLT_SIZES = ['M4', 'M5', 'M6', 'M8', 'M10'] as const;
/** Diameter of a bolt's thread, m. */
export const boltDiameter = (size: BoltSize): number => Number(size.slice(1)) / 1000;
export const IDLE_VALVES = ['on the unit', 'in the manifold', 'none'] as const;
export const COOLANT = ['passage', 'none'] as const;
export const SEAL_STATES = ['not said', 'new', 'reused, allowed and looked at', 'old'] as const;
export const BLOWER_KINDS = ['roots', 'screw'] as const;
export const INDUCTION_KINDS = ['na', 'individual', 'drawThrough', 'centrifugal', 'turbo'] as const;
export const PROVENANCE = ['measured', 'entered', 'assumed'] as const;
export const FUELS = ['petrol 91', 'petrol 95', 'petrol 98', 'petrol 102', 'E85', 'LPG'] as const;
export const USES = ['street', 'race'] as const;
export const SMOOTHINGS = [0, 50, 100, 200, 400] as const;
/** Units compared beside stock. */
export const MOST_SHOWN = 4;

export const STEP_STAGES = ['before', 'off', 'on', 'checks', 'after'] as const;
/** In which order the sides are run, stay by stay; alternating changes the part after every run. */
export const RUN_ORDERS = ['A-B-A-B', 'A-B-B-A', 'alternating', 'A-B-A', 'A-B'] as const;

/** Largest file taken in, bytes: both the page and the server hold to it. */
export const UPLOAD_LIMIT_BYTES = 300 * 1024 * 1024;

/** Most columns a table may have. */
export const MOST_CHANNELS = 2000;

/** What a channel of a run stands for. */
export const QUANTITIES = [
  'time',
  'rpm',
  'power',
  'torque',
  'throttle',
  'manifold pressure',
  'inlet air',
  'coolant',
  'air mass flow',
  'lambda',
  'afr',
  'speed',
  'pedal',
  'boost',
  'barometer',
  'cylinder air',
  'distance',
  'altitude',
  'gear',
  'oil',
  // A power or torque of another kind (engine beside wheels, corrected beside raw) than the one that stands for the run.
  'further power',
  'further torque',
  'other',
] as const;

export const CARRIED_CORRECTIONS = ['unknown', ...CORRECTION_METHODS] as const;
/** Power and torque over engine speed from a bench, or channels over time from a car. */
export const RUN_KINDS = ['dyno', 'log'] as const;

export const LANES = ['left', 'right', ''] as const;
export const WEATHER_SOURCES = ['typed', 'file', 'stand-in'] as const;
/** Where one practises. */
export const PRACTICE_RIGS = ['dyno', 'strip'] as const;

export const PRACTICE_SIDES = ['A', 'B'] as const;
export const PRACTICE_WORDS = ['gain', 'loss', 'no difference that matters', "can't tell yet"] as const;
/** What a verdict can come to. */
export const ADVICE = ['keep', 'fix', 'back', 'more'] as const;

export const SHEETS = ['A4', 'Letter'] as const;
export const TEMPLATE_FORMATS = ['svg', 'dxf', 'pdf'] as const;
/** What a printed 50 mm bar may measure: beyond that it is no printer’s error, m. */
export const BAR_RANGE_m = [0.045, 0.055] as const;

/** Facts a shop's own rule can ask about, and what people call them. */
export const OWN_FACTS = {
  'cover.left_m': 'free over the throttle',
  'cover.height_m': 'height over the bore',
  bore_m: 'bore',
  'opening.over_m': 'bore over the manifold’s',
  'unit.wall_m': 'thinnest wall of the throttle’s flange',
  'bolt.grip_m': 'clamped by the bolts',
  'harness.needs_m': 'plug sits farther by',
  'coupler.spigot_m': 'spigot outside',
  'coupler.longer_m': 'face moved by',
} as const;

/** What the thread is cut in. */
export const THREADED_IN = ['steel', 'aluminium', 'plastic insert'] as const;
export type ThreadedIn = (typeof THREADED_IN)[number];

/** What a check of the fit is about. */
export const RULE_GROUPS = [
  'flange',
  'openings',
  'fasteners',
  'sealing',
  'plugs and signal',
  'sensors',
  'coolant and ports',
  'coupler',
  'clearance',
] as const;
export type RuleGroup = (typeof RULE_GROUPS)[number];

/** Whether both sides were driven over one stretch: not, one way, or both ways so that the ground cancels. */
export const ROAD_STRETCHES = ['no', 'one way', 'both ways'] as const;
export type RoadStretch = (typeof ROAD_STRETCHES)[number];

/** Which stretch of the range decides: agreed on before the runs. */
export const DECIDING = ['whole', 'bottom', 'middle', 'top', 'own'] as const;
export type Deciding = (typeof DECIDING)[number];

/** Default of the smallest difference that matters, % of power: nothing a shop does in a day tells half a percent. */
export const THRESHOLD_pct = 1;
