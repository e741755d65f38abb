import type { IdleAlarm, IdleVerdict, RelearnFault, RelearnPlan, RelearnState } from '@/core/install/relearn';

/** Minutes and seconds. */
export const clock = (s: number): string => `${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, '0')}`;

/** What to do at an alarm. */
export const ALARMS: Readonly<Record<IdleAlarm, string>> = {
  climbing: 'The idle climbs. Key off now: more air gets in than the stops allow.',
  hunting: 'The idle hunts up and down. Key off, look for a leak behind the throttle, then set the stop again.',
  'not back':
    'It did not come back from the blip. Key off now: the blade may stick. The first start is locked again once you fail the snap-shut check.',
};
export const IDLES: Readonly<Record<IdleVerdict, string>> = {
  steady: 'steady in its band',
  climbing: 'climbing',
  hunting: 'hunting',
  high: 'steady, above its band',
  low: 'steady, below its band',
  'too few readings': 'too few readings to say',
};

const FAULTS: Readonly<Record<RelearnFault['why'], string>> = {
  'not back': 'it did not come back from a blip',
  climbing: 'the idle climbed',
  hunting: 'the idle hunted',
  high: 'the idle was above its band',
  low: 'the idle was below its band',
  'too few readings': 'the idle has too few readings to say',
  'runs missing': 'not as many runs as planned',
};

/** What to do now: how far the runs are, or why they are not done though they were long enough. */
export function relearnText(plan: RelearnPlan, state: RelearnState, faults: readonly RelearnFault[], runs: number): string {
  const left = clock(Math.max(0, state.wanted_s - state.elapsed_s));
  switch (state.phase) {
    case 'not begun':
      return `${plan.cycles} runs of ${clock(plan.run_s)}, ${clock(plan.rest_s)} off between them; a light blip or two in each.`;
    case 'running':
      return `Run ${runs}: ${left} to go. Blip it lightly and let go.`;
    case 'run long enough':
      return `Run ${runs} was long enough: key off.`;
    case 'resting':
      return `Off for another ${left}; ${state.cyclesDone} of ${plan.cycles} runs done.`;
    case 'rested':
      return `Rested: start run ${state.cyclesDone + 1} of ${plan.cycles}.`;
    case 'done':
      return faults.length === 0
        ? `All ${plan.cycles} runs are done and clean. Drive it gently now, so that it learns.`
        : `${state.cyclesDone} runs were long enough, but it is not done: ${faults.map((f) => `${f.run === null ? '' : `run ${f.run}, `}${FAULTS[f.why]}`).join('; ')}. Run it again, or say at the tick why it is done.`;
  }
}
