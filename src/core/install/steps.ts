import type { ControlKind } from '../documents/unit';
import type { Gate } from './run-sheet';

export type StepStage = 'before' | 'off' | 'on' | 'checks' | 'after';

/** A step of the fitting, as data: when it applies, what to do, and what can hurt. */
export interface InstallStep {
  readonly id: string;
  readonly stage: StepStage;
  readonly text: string;
  readonly caution?: string;
  /** Controls it is for; missing: all. */
  readonly controls?: readonly ControlKind[];
  /** Only where the manifold is opened to match. */
  readonly whenBored?: boolean;
  /** The engine is not started before this has been passed. */
  readonly gate?: boolean;
  /** Of a check: the step that is done again when it fails. */
  readonly cure?: string;
}

const ELECTRONIC: readonly ControlKind[] = ['electronic-analogue', 'electronic-digital'];
const CABLE: readonly ControlKind[] = ['cable'];

/** The order of work, with the reason each step stands where it does. The maker's instructions come first, always. */
const STEPS: readonly InstallStep[] = [
  { id: 'cold', stage: 'before', text: 'Let the engine go cold.', caution: 'Hot parts burn; coolant under pressure scalds.' },
  {
    id: 'battery',
    stage: 'before',
    text: 'Battery off, then wait for stored charge to go.',
    caution: 'A powered throttle can snap shut on fingers.',
  },
  {
    id: 'volts-before',
    stage: 'before',
    text: 'Measure the position sensor shut and fully open, and write both down before anything comes off.',
  },
  { id: 'connectors', stage: 'off', text: 'Connectors: slide the lock, press, pull on the body, never on the wires.' },
  { id: 'fasteners', stage: 'off', text: 'Keep each cover’s fasteners in a bag with it, and count them.' },
  {
    id: 'cover-hole',
    stage: 'off',
    text: 'Cover the manifold the moment the unit is off.',
    caution: 'Whatever falls in goes through the engine.',
  },
  {
    id: 'bore',
    stage: 'off',
    text: 'Open the manifold to match: gasket as template, small bites, blend, measure the wall left.',
    caution: 'Every chip must stay out of the engine. Eye protection; sharp edges.',
    whenBored: true,
  },
  {
    id: 'spring',
    stage: 'on',
    text: 'Parts carried over go on without twisting; wind the spring until its tabs seat.',
    caution: 'A wound spring bites.',
    controls: CABLE,
  },
  {
    id: 'no-push',
    stage: 'on',
    text: 'Set the unit on without touching the blade.',
    caution: 'Never push an electronic blade by hand on the car.',
    controls: ELECTRONIC,
  },
  {
    id: 'threads',
    stage: 'on',
    text: 'Start every thread by hand, then tighten in a cross, in stages, to the maker’s torque.',
    caution: 'Aluminium and plastic threads strip at little more.',
  },
  {
    id: 'closed-stop',
    stage: 'on',
    text: 'Closed stop first: the blade must not be able to wedge in its bore. Then the sensor’s closed volts. Then the open stop at true full opening, not past it.',
    caution: 'Past full opening the flow falls again and the blade can hang.',
    controls: CABLE,
  },
  {
    id: 'snap',
    stage: 'checks',
    text: 'Engine off: open the blade by hand at the linkage and let go. It snaps shut by itself, ten times of ten.',
    caution: 'A sticking throttle is a runaway car.',
    controls: CABLE,
    gate: true,
    cure: 'closed-stop',
  },
  {
    id: 'travel',
    stage: 'checks',
    text: 'Full travel from the driver’s seat: pedal down gives full open, up gives shut, no bind, mat clear.',
    controls: CABLE,
    gate: true,
    cure: 'closed-stop',
  },
  {
    id: 'self-test',
    stage: 'checks',
    text: 'Key on, engine off: the self-test runs, the blade follows the pedal at half and at full, and shuts.',
    caution: 'Hands clear of the bore.',
    controls: ELECTRONIC,
    gate: true,
    cure: 'no-push',
  },
  {
    id: 'nothing-left',
    stage: 'checks',
    text: 'Nothing left in the intake, connectors seated, fasteners counted back.',
    gate: true,
    cure: 'threads',
  },
  {
    id: 'start',
    stage: 'after',
    text: 'First start, somebody at the key: no fault light, idle steady, listen for leaks. Only then the covers.',
    caution: 'Run an engine only with ventilation.',
  },
  {
    id: 'relearn',
    stage: 'after',
    text: 'Idle relearn by the maker’s own procedure; then gentle mixed driving, no full load before it has learnt.',
  },
  {
    id: 'rules',
    stage: 'after',
    text: 'Check what local rules say of intake parts on the road. Speed only at a track or on a closed course.',
  },
];

/** The checks among the steps, each with the step that cures it. */
export const gatesOf = (steps: readonly InstallStep[]): Gate[] =>
  steps.flatMap((s) => (s.gate && s.cure !== undefined ? [{ id: s.id, cure: s.cure }] : []));

/** The steps that apply to one car, in order. */
export function installSteps(control: ControlKind, bored: boolean): InstallStep[] {
  return STEPS.filter((s) => (!s.controls || s.controls.includes(control)) && (!s.whenBored || bored));
}

export const STAGES: readonly { readonly stage: StepStage; readonly title: string }[] = [
  { stage: 'before', title: 'Before anything comes off' },
  { stage: 'off', title: 'Off' },
  { stage: 'on', title: 'On' },
  { stage: 'checks', title: 'Checks: no start before these' },
  { stage: 'after', title: 'First start and after' },
];
