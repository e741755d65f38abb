import type { JobDoc } from '../documents/job';
import type { OwnStep } from '../documents/install';
import type { ControlKind } from '../documents/unit';
import type { Gate } from './run-sheet';

export type StepStage = OwnStep['stage'];

/** What of a job decides which steps it has. */
export interface StepFacts {
  readonly controls: ControlKind;
  /** The manifold is bored to match. */
  readonly bored: boolean;
  readonly adapter: boolean;
  /** Coolant runs through the stock throttle. */
  readonly coolant: boolean;
  readonly boosted: boolean;
}

/** A step of the fitting, as data: when it applies, what to do with which tools, what can hurt, what to write down. */
export interface InstallStep {
  readonly id: string;
  readonly stage: StepStage;
  readonly text: string;
  readonly caution?: string;
  readonly tools?: string;
  /** What to note beside the tick. */
  readonly note?: string;
  /** Why it stands where it does. */
  readonly why?: string;
  /** When it applies; missing: always. */
  readonly when?: Partial<{ readonly controls: readonly ControlKind[] } & Readonly<Record<Exclude<keyof StepFacts, 'controls'>, boolean>>>;
  /** The engine is not started before this has been passed. */
  readonly gate?: boolean;
  /** Of a check: the steps that are done again when it fails. */
  readonly cures?: readonly string[];
  /** Put in by the shop. */
  readonly own?: boolean;
}

const ELECTRONIC: readonly ControlKind[] = ['electronic-analogue', 'electronic-digital'];
const CABLE: readonly ControlKind[] = ['cable'];

/** The order of work, with the reason each step stands where it does. The maker's instructions come first, always. */
const STEPS: readonly InstallStep[] = [
  { id: 'cold', stage: 'before', text: 'Let the engine go cold.', caution: 'Hot parts burn; coolant under pressure scalds.' },
  {
    id: 'volts-before',
    stage: 'before',
    text: 'Measure the throttle position sensor (TPS) shut and fully open, and write both down before anything comes off.',
    tools: 'voltmeter with back probes',
    caution: 'Key on, engine off. On electronic throttles read it from the diagnosis: never push the blade.',
  },
  {
    id: 'battery',
    stage: 'before',
    text: 'Battery off, then wait for stored charge to go.',
    tools: 'battery spanner, ten minutes',
    caution: 'A powered throttle can snap shut on fingers.',
  },
  {
    id: 'connectors',
    stage: 'off',
    text: 'Connectors: slide the lock, press, pull on the body, never on the wires.',
    note: 'which plug sat where',
  },
  {
    id: 'fasteners',
    stage: 'off',
    text: 'Keep each cover’s fasteners in a bag with it, and count them.',
    tools: 'bags, a pen',
  },
  {
    id: 'coolant-off',
    stage: 'off',
    text: 'Clamp the coolant lines, take them off the stock throttle, and keep what runs out.',
    tools: 'hose clamps, a tray',
    caution: 'Only cold: coolant under pressure scalds. It is poison to animals.',
    when: { coolant: true },
  },
  {
    id: 'unit-off',
    stage: 'off',
    text: 'Coupler loose, then the bolts in a cross a little at a time, and the stock throttle off.',
    note: 'how the motor housing lay, and any bracket in the way',
    caution: 'Bores have sharp edges; a wound return spring bites.',
  },
  {
    id: 'cover-hole',
    stage: 'off',
    text: 'Cover the manifold the moment the throttle is off.',
    tools: 'lid or tape, no rag',
    caution: 'Whatever falls in goes through the engine.',
  },
  {
    id: 'bore',
    stage: 'off',
    text: 'Bore the manifold to match: gasket as template, small cuts, blend, measure the wall left.',
    tools: 'port-match template, cutter, wax for the tool, vacuum',
    note: 'bore and wall as measured',
    caution: 'Every chip must stay out of the engine. Eye protection; sharp edges.',
    when: { bored: true },
  },
  {
    id: 'adapter-on',
    stage: 'on',
    text: 'Adapter plate on with its gasket; run a finger over both faces: no ledge in the air’s way.',
    tools: 'the template’s hole schedule',
    when: { adapter: true },
  },
  {
    id: 'spring',
    stage: 'on',
    text: 'Parts carried over go on without twisting; wind the spring until its tabs seat.',
    caution: 'A wound spring bites.',
    note: 'which parts were carried over',
    when: { controls: CABLE },
  },
  {
    id: 'no-push',
    stage: 'on',
    text: 'Set the throttle on without touching the blade.',
    caution: 'Never push an electronic blade by hand on the car.',
    when: { controls: ELECTRONIC },
  },
  {
    id: 'threads',
    stage: 'on',
    text: 'Start every thread by hand, then tighten in a cross, in stages, to the maker’s torque.',
    caution: 'Aluminium and plastic threads strip at little more.',
    tools: 'torque wrench for small figures',
    note: 'torque used; sealant or thread lock only where called for',
  },
  {
    id: 'closed-stop',
    stage: 'on',
    text: 'Closed stop first: the blade must not be able to wedge in its bore.',
    why: 'The other two are measured from here.',
    tools: 'feeler, lock-nut spanner',
    when: { controls: CABLE },
  },
  {
    id: 'sensor-set',
    stage: 'on',
    text: 'Then the sensor: closed volts as stock’s, full inside the window.',
    why: 'It turns with the closed stop, so it comes after it.',
    tools: 'voltmeter',
    when: { controls: CABLE },
  },
  {
    id: 'open-stop',
    stage: 'on',
    text: 'Then the open stop at true full opening, not past it. Lock nuts tight.',
    why: 'Set before the sensor, a wrong closed stop would carry it past in line.',
    caution: 'Past full opening the flow falls again and the blade can hang.',
    when: { controls: CABLE },
  },
  {
    id: 'plug-in',
    stage: 'on',
    text: 'Connectors on until they click; tug on the body. Nothing stretched, nothing near the linkage.',
  },
  {
    id: 'coolant-on',
    stage: 'on',
    text: 'Coolant lines back on, or joined past the throttle; top up, bleed.',
    when: { coolant: true },
    note: 'through the throttle or past it',
  },
  {
    id: 'coupler',
    stage: 'on',
    text: 'Coupler on square, its clamp behind the bead; breather and vacuum lines on, spare ports capped.',
    tools: 'clamps, caps',
  },
  {
    id: 'boost-clamps',
    stage: 'on',
    text: 'Under boost a coupler walks: bead, clamp and grease-free hose at both ends.',
    when: { boosted: true },
  },
  {
    id: 'clear',
    stage: 'on',
    text: 'Cover off the hole for the last time; look down the intake with a lamp, feel where you cannot look.',
    tools: 'lamp, mirror',
  },
  {
    id: 'battery-on',
    stage: 'on',
    text: 'Battery on.',
    caution: 'An electronic blade moves by itself now: fingers out.',
  },
  {
    id: 'snap',
    stage: 'checks',
    text: 'Engine off: open the blade by hand at the linkage and let go. It snaps shut by itself, ten times of ten.',
    caution: 'A sticking throttle is a runaway car.',
    when: { controls: CABLE },
    gate: true,
    cures: ['spring', 'closed-stop'],
  },
  {
    id: 'travel',
    stage: 'checks',
    text: 'Full travel from the driver’s seat: pedal down gives full open, up gives shut, no bind.',
    when: { controls: CABLE },
    gate: true,
    cures: ['open-stop'],
  },
  {
    id: 'self-test',
    stage: 'checks',
    text: 'Key on, engine off: the self-test runs, and the blade snaps shut by itself when the key goes off.',
    caution: 'Hands clear of the bore. A sticking throttle is a runaway car.',
    when: { controls: ELECTRONIC },
    gate: true,
    cures: ['no-push'],
  },
  {
    id: 'follows',
    stage: 'checks',
    text: 'Key on, engine off: the blade follows the pedal at half and at full, and comes back with it.',
    when: { controls: ELECTRONIC },
    gate: true,
    cures: ['plug-in'],
  },
  {
    id: 'floor',
    stage: 'checks',
    text: 'Floor mat clear, pedal free of it and of the carpet, from full down to full up.',
    gate: true,
    cures: ['coupler'],
  },
  {
    id: 'nothing-left',
    stage: 'checks',
    text: 'Nothing left in the intake: no rag, no chip, no tape.',
    gate: true,
    cures: ['clear'],
  },
  {
    id: 'seated',
    stage: 'checks',
    text: 'Every connector seated and locked.',
    gate: true,
    cures: ['plug-in'],
  },
  {
    id: 'counted',
    stage: 'checks',
    text: 'Fasteners counted: every bag empty or accounted for, every bolt tight.',
    gate: true,
    cures: ['threads'],
  },
  {
    id: 'start',
    stage: 'after',
    text: 'First start, somebody at the key: listen for leaks, idle steady. Off at once if it climbs.',
    caution: 'Run an engine only with ventilation.',
  },
  {
    id: 'fault-light',
    stage: 'after',
    text: 'No fault light, no limp mode.',
    note: 'codes, if there are any',
  },
  { id: 'covers', stage: 'after', text: 'Only now the covers, with their own fasteners.' },
  {
    id: 'relearn',
    stage: 'after',
    text: 'Idle relearn by the maker’s own procedure; where there is none, cycles of running and resting with a light blip.',
    caution: 'Ventilation. Somebody stays at the key.',
  },
  {
    id: 'recalibrate',
    stage: 'after',
    text: 'Recalibration where it is called for: new MAF housing, electronic remap, a fault that comes back.',
    caution: 'Work on electronic throttle and fuel systems belongs with a qualified technician; who does it can decide on a warranty.',
  },
  {
    id: 'drive-gentle',
    stage: 'after',
    text: 'Drive: ten minutes gentle and mixed, all gears, light throttle, so that it learns.',
    caution: 'No full load before it has learnt.',
  },
  { id: 'drive-stops', stage: 'after', text: 'Drive: five stops to idle; it comes back into its band each time.' },
  { id: 'drive-coast', stage: 'after', text: 'Drive: coast down in gear twice from the middle of the range, foot off.' },
  { id: 'drive-again', stage: 'after', text: 'Hot again: fault light off, coupler and ports dry, bolts as tight as they were.' },
  {
    id: 'rules',
    stage: 'after',
    text: 'Check what local rules say of intake parts on the road. Speed only at a track or on a closed course.',
  },
];

/** The checks among the steps, each with the steps that cure it. */
export const gatesOf = (steps: readonly InstallStep[]): Gate[] =>
  steps.flatMap((s) => (s.gate && s.cures !== undefined ? [{ id: s.id, cures: s.cures }] : []));

const applies = (step: InstallStep, facts: StepFacts): boolean => {
  const { controls, ...rest } = step.when ?? {};
  if (controls && !controls.includes(facts.controls)) return false;
  return (Object.keys(rest) as (keyof typeof rest)[]).every((k) => facts[k] === rest[k]);
};

export function stepFacts(doc: Pick<JobDoc, 'car' | 'pick' | 'fit'>): StepFacts {
  return {
    controls: doc.car.controls.kind,
    bored: doc.pick.opening === 'matched' && doc.fit.mounting.adapter === null,
    adapter: doc.fit.mounting.adapter !== null,
    coolant: doc.car.stock.fittings.coolant === 'passage',
    boosted: doc.car.induction.kind !== 'na' && doc.car.induction.kind !== 'individual',
  };
}

/** The procedure for one car, in order, without the shop's own steps. */
export const usualSteps = (facts: StepFacts): InstallStep[] => STEPS.filter((s) => applies(s, facts));

/** Own steps put where they belong: after the step they name, in the order they were put there; a name that is gone: at their stage's end. */
export function withOwn(usual: readonly InstallStep[], own: readonly OwnStep[]): InstallStep[] {
  const out = [...usual];
  const waiting = own.map((o): InstallStep & { after: string | null } => ({
    id: o.id,
    stage: o.stage,
    text: o.text,
    own: true,
    after: o.after,
  }));
  for (const { after, ...step } of waiting) {
    const first = out.findIndex((s) => s.stage === step.stage);
    let at = after === null ? first : out.findIndex((s) => s.id === after && s.stage === step.stage) + 1;
    if (after !== null && at === 0) at = out.findLastIndex((s) => s.stage === step.stage) + 1;
    out.splice(at < 0 ? out.length : at, 0, step);
  }
  return out;
}

/** The run-sheet of a job: the procedure that applies to it, with the shop's own steps in it. */
export const jobSteps = (doc: Pick<JobDoc, 'car' | 'pick' | 'fit' | 'install'>): InstallStep[] =>
  withOwn(usualSteps(stepFacts(doc)), doc.install.own);

/**
 * Own steps with one of them moved a place up or down within its stage. Only a shop's own steps move: the order of the
 * procedure has its reasons.
 */
export function movedOwn(usual: readonly InstallStep[], own: readonly OwnStep[], id: string, by: 1 | -1): OwnStep[] {
  const list = withOwn(usual, own);
  const at = list.findIndex((s) => s.id === id);
  const other = list[at + by];
  if (at < 0 || !other || other.stage !== list[at]!.stage) return [...own];
  [list[at], list[at + by]] = [other, list[at]!];
  // Read back from the new order: each own step stands after the one before it in its stage.
  return list.flatMap((s, i): OwnStep[] => {
    const mine = own.find((o) => o.id === s.id);
    if (!mine) return [];
    const before = list[i - 1];
    return [{ ...mine, after: before && before.stage === s.stage ? before.id : null }];
  });
}

/** What kind of car own steps are offered for again: same controls, same way of breathing, same shape of throttle. */
export const carKind = (doc: Pick<JobDoc, 'car'>): string =>
  [doc.car.controls.kind, doc.car.induction.kind, doc.car.stock.throttle.shape].join(' / ');

export const STAGES: readonly { readonly stage: StepStage; readonly title: string }[] = [
  { stage: 'before', title: 'Before anything comes off' },
  { stage: 'off', title: 'Off' },
  { stage: 'on', title: 'On' },
  { stage: 'checks', title: 'Checks: no start before these' },
  { stage: 'after', title: 'First start and after' },
];
