export const DRAWINGS = ['bore', 'step', 'loss', 'tipin', 'stays', 'interval', 'stops'] as const;
export type DrawingName = (typeof DRAWINGS)[number];

export interface GlossaryEntry {
  readonly term: string;
  readonly meaning: string;
  /** Units it is told in; null: it has none. */
  readonly units: string | null;
  /** Steps and rooms it is met in. */
  readonly where: string;
  readonly drawing: DrawingName | null;
}

/** Every word of the trade that the app uses, as it uses it. */
const ENTRIES = [
  { term: 'throttle body', meaning: 'housing with bore and blade', units: null, where: 'all', drawing: null },
  { term: 'stock', meaning: 'the reference throttle, or the side that has it on', units: null, where: 'all', drawing: null },
  { term: 'bore', meaning: 'inside diameter at the blade', units: 'mm', where: 'Shelf, Pick', drawing: 'bore' },
  { term: 'equivalent bore', meaning: 'round bore of the same net area', units: 'mm', where: 'Shelf, Bench', drawing: null },
  { term: 'net area', meaning: 'bore less shaft and blade', units: 'mm²', where: 'Shelf', drawing: 'bore' },
  { term: 'manifold bore', meaning: 'the hole the throttle bolts over', units: 'mm', where: 'Car, Fit', drawing: 'step' },
  { term: 'step', meaning: 'edge left facing the flow where one bore is wider than the next', units: 'mm²', where: 'Fit', drawing: 'step' },
  { term: 'bored to match', meaning: 'manifold cut to the new bore', units: null, where: 'Pick, Fit', drawing: 'step' },
  { term: 'wall left', meaning: 'metal remaining after a cut', units: 'mm', where: 'Fit', drawing: null },
  { term: 'clocking', meaning: 'turn of the throttle on its flange', units: '°', where: 'Fit', drawing: null },
  { term: 'air demand', meaning: 'air the engine takes at one speed', units: 'CFM, kg/h, lb/min', where: 'Air', drawing: null },
  {
    term: 'VE',
    meaning: 'volumetric efficiency: how full a cylinder gets, against the air it is stated in',
    units: '%',
    where: 'Car',
    drawing: null,
  },
  {
    term: 'waves',
    meaning:
      'pressure that runs to and fro in a runner after each gulp; what returns as the valve closes fills the cylinder beyond what it draws',
    units: 'kPa',
    where: 'Air, Pick',
    drawing: null,
  },
  {
    term: 'even flow',
    meaning: 'the air as if it came at one steady rate: what the ladder of losses is computed with',
    units: null,
    where: 'Air, Pick',
    drawing: null,
  },
  {
    term: 'lobe centre',
    meaning: 'crank angle from top dead centre at which a valve is open widest, as a cam card tells it',
    units: '°',
    where: 'Air',
    drawing: null,
  },
  { term: 'pressure loss', meaning: 'drop across a part of the inlet', units: 'kPa, inH₂O', where: 'Air', drawing: 'loss' },
  { term: 'allowed loss', meaning: 'the drop this job accepts across the throttle', units: 'kPa, inH₂O', where: 'Air', drawing: 'loss' },
  { term: 'runs short from', meaning: 'speed from which the loss passes the allowed loss', units: 'rpm', where: 'Air', drawing: 'loss' },
  { term: 'peak cost', meaning: 'peak power lost to a part', units: '%', where: 'Air', drawing: null },
  { term: 'next restriction', meaning: 'the part worth most when it is removed', units: '%', where: 'Air, Verdict', drawing: null },
  {
    term: 'bores that suit',
    meaning: 'the range that meets every limit: enough air, and drivable',
    units: 'mm',
    where: 'Pick',
    drawing: null,
  },
  { term: 'tip-in', meaning: 'area opened by the first tenth of the pedal, against stock', units: '×', where: 'Pick', drawing: 'tipin' },
  { term: 'idle floor', meaning: 'lowest idle that the closed leak allows', units: 'rpm', where: 'Pick', drawing: null },
  { term: 'closed leak', meaning: 'air past the shut blade', units: 'kg/h', where: 'Shelf', drawing: null },
  { term: 'drivability', meaning: 'tip-in, idle and response together', units: null, where: 'Pick, Verdict', drawing: 'tipin' },
  { term: 'depression', meaning: 'test pressure of a flow bench', units: 'kPa, inH₂O', where: 'Bench', drawing: null },
  {
    term: 'entry',
    meaning: 'how air comes into a part on the bench: over a radius plate or a bare edge',
    units: null,
    where: 'Bench',
    drawing: null,
  },
  { term: 'of ideal', meaning: 'flow against a perfect nozzle of the same area', units: '%', where: 'Bench', drawing: null },
  { term: 'K', meaning: 'loss coefficient: pressure lost over the flow’s own pressure', units: '–', where: 'Bench', drawing: null },
  { term: 'gas speed', meaning: 'mean speed through the net area', units: 'm/s, ft/s', where: 'Air', drawing: null },
  { term: 'pressure ratio', meaning: 'pressure after over pressure before the compressor', units: '–', where: 'Car, Pick', drawing: null },
  { term: 'boost', meaning: 'manifold pressure above the air outside', units: 'kPa, psi', where: 'Car, Pick', drawing: null },
  { term: 'cooler effectiveness', meaning: 'share of the heat that the cooler takes out', units: '%', where: 'Car', drawing: null },
  {
    term: 'density altitude',
    meaning: 'height at which standard air is as thin as today’s',
    units: 'm, ft',
    where: 'Car, Strip',
    drawing: null,
  },
  { term: 'correction', meaning: 'weather rule by which power is stated', units: '–', where: 'Test', drawing: null },
  { term: 'smoothing', meaning: 'width over which a curve is averaged', units: 'rpm', where: 'Test', drawing: null },
  { term: 'run', meaning: 'one full-throttle pull', units: null, where: 'Test', drawing: 'stays' },
  { term: 'side', meaning: 'stock or new', units: null, where: 'Test', drawing: 'stays' },
  { term: 'stay', meaning: 'the time one part stays on the car', units: null, where: 'Test', drawing: 'stays' },
  { term: 'visit', meaning: 'one day at one place', units: null, where: 'Test', drawing: 'stays' },
  {
    term: 'refit scatter',
    meaning: 'change that comes from taking a part off and putting it back',
    units: '%',
    where: 'Test',
    drawing: 'stays',
  },
  { term: 'run-to-run scatter', meaning: 'spread of repeats without touching the car', units: '%', where: 'Test', drawing: 'stays' },
  { term: 'drift', meaning: 'slow change over the day', units: '%', where: 'Test', drawing: null },
  { term: 'thirds', meaning: 'bottom, middle and top of the rev range', units: '%', where: 'Test, Verdict', drawing: null },
  { term: '95 % interval', meaning: 'range that holds the effect in 95 of 100 such tests', units: '%', where: 'Test', drawing: 'interval' },
  {
    term: 'smallest change that matters',
    meaning: 'threshold below which a difference is not worth having',
    units: '%',
    where: 'Plan',
    drawing: 'interval',
  },
  { term: 'ET', meaning: 'elapsed time of a pass, from the start to the finish', units: 's', where: 'Strip', drawing: null },
  { term: 'trap speed', meaning: 'speed at the end of the strip', units: 'mph, km/h', where: 'Strip', drawing: null },
  { term: '60 ft', meaning: 'time to the first mark: it tells the start, not the power', units: 's', where: 'Strip', drawing: null },
  { term: 'drivetrain loss', meaning: 'power lost from crank to wheels', units: '%', where: 'Test', drawing: null },
  {
    term: 'TPS window',
    meaning: 'volts of the throttle position sensor (TPS), closed to full',
    units: 'V',
    where: 'Install',
    drawing: null,
  },
  { term: 'closed stop', meaning: 'screw that limits the blade’s travel when it shuts', units: '°', where: 'Install', drawing: 'stops' },
  { term: 'open stop', meaning: 'screw that limits the blade’s travel when it opens', units: '°', where: 'Install', drawing: 'stops' },
  {
    term: 'must-pass check',
    meaning: 'a check that locks the first start until it is passed',
    units: null,
    where: 'Install',
    drawing: null,
  },
  { term: 'relearn', meaning: 'idle learning after fitting', units: 'cycles', where: 'Install', drawing: null },
  { term: 'trumpet', meaning: 'inlet mouth of one cylinder', units: 'mm', where: 'Air', drawing: null },
  {
    term: 'runner',
    meaning: 'the pipe of one cylinder, from plenum or trumpet to its inlet valve',
    units: 'mm',
    where: 'Air',
    drawing: null,
  },
  { term: 'plenum', meaning: 'volume the cylinders share behind the throttle', units: 'L', where: 'Air', drawing: null },
] as const satisfies readonly GlossaryEntry[];

export const GLOSSARY: readonly GlossaryEntry[] = ENTRIES;
/** A term of the glossary. */
export type TermName = (typeof ENTRIES)[number]['term'];

/** What stands behind `#` in the address of a term. */
export const anchorOf = (term: string): string =>
  term
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');

export const entryOf = (term: TermName): GlossaryEntry => GLOSSARY.find((e) => e.term === term)!;
