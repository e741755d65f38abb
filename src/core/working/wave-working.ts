import { capital } from '../cut-text';
import type { runnerWith } from '../job/runner-with';
import { helmholtzBest_rpm, helmholtzFactor, plenumBest_rpm, runnerRules, type PlenumForRules, type RunnerForRules } from '../waves/rules';
import type { MeasureName } from '../units/measures';
import { step, term, type Working, type WorkingStep } from './working';

/** A straight runner with its inlet's duration at the seat, rad. */
export type TunedRunner = RunnerForRules & { readonly duration_rad: number };

/** Where crests of the quarter wave's ripple lie, past a whole number of waves to a pull. Source: docs/basis/waves.md §7. */
export const CREST_PAST = 0.35;

/** Helmholtz' speed, rpm, by the duration. */
export const bottleSpeed = (runner: TunedRunner): number =>
  helmholtzBest_rpm(runnerRules(runner).helmholtz_Hz, helmholtzFactor(runner.duration_rad));

/** Engine speed of the ripple's crest after so many whole waves, rpm. */
export const crestSpeed = (quarterWave_Hz: number, whole: number): number => (120 * quarterWave_Hz) / (whole + CREST_PAST);

/** Both rules of thumb for a runner, step by step. */
export function runnerSteps(runner: TunedRunner, crest_rpm: number): WorkingStep[] {
  const { endCorrection_m } = runnerRules(runner);
  const L = term('L', 'runner', runner.length_m, 'length', 'entered');
  const delta = term(String.raw`\delta`, 'end correction', endCorrection_m, 'bore');
  const T = term('T', 'air in the runner', runner.T_K, 'temperature', 'entered');
  return [
    step(
      'helmholtz',
      [
        L,
        delta,
        term('d', 'runner bore', runner.bore_m, 'bore', 'entered'),
        term('V_h', 'one cylinder', runner.swept_m3, 'displacement', 'entered'),
        term(String.raw`\varepsilon`, 'compression ratio', runner.compressionRatio, 'ratio', 'entered'),
        term(String.raw`\Delta`, 'inlet duration at the seat', runner.duration_rad, 'angle', 'entered'),
        T,
      ],
      term('N_H', 'Helmholtz’ speed', bottleSpeed(runner), 'rpm'),
    ),
    step('quarterWave', [L, delta, T], term('N_q', 'crest of the ripple', crest_rpm, 'rpm')),
  ];
}

export const runnerWorking = (runner: TunedRunner, crest_rpm: number): Working => ({
  title: 'Both rules of thumb',
  steps: runnerSteps(runner, crest_rpm),
  notes: ['The runner’s mean bore stands for its taper; the valve’s timing, steps and the plenum are not in these rules.'],
});

export const plenumWorking = (plenum: PlenumForRules): Working => ({
  title: 'Plenum and its pipe as a bottle',
  steps: [
    step(
      'plenumTone',
      [
        term('d_p', 'pipe bore', plenum.bore_m, 'bore', 'entered'),
        term('L_p', 'pipe with its end correction', plenum.length_m, 'length', 'entered'),
        term('V', 'plenum and runners', plenum.volume_m3, 'displacement'),
        term('V_h', 'one cylinder', plenum.swept_m3, 'displacement', 'entered'),
        term('n', 'cylinders', plenum.cylinders, 'count', 'entered'),
        term('T', 'air in it', plenum.T_K, 'temperature', 'entered'),
      ],
      term('N_P', 'speed at which pulls meet the tone', plenumBest_rpm(plenum), 'rpm'),
    ),
  ],
  notes: ['Near it the filling gains some 4 to 6 % and the throttle sees two to four times the mean flow.'],
});

/** How the filling of an inlet that is tried comes about: the car's own, times what the model makes of the change. */
export function triedFillingWorking(rpm: number, known: number, W_now: number, W_trial: number): Working {
  return {
    title: `Filling of the inlet tried, at ${Math.round(rpm)} rpm`,
    steps: [
      step(
        'waveRatio',
        [
          term(String.raw`\eta`, 'filling of the car as it is', known, 'fineShare'),
          term('W', 'by the model, as it is', W_now, 'fineShare'),
          term("W'", 'by the model, tried', W_trial, 'fineShare'),
        ],
        term(String.raw`\eta'`, 'filling tried', (known * W_trial) / W_now, 'fineShare'),
      ),
    ],
    notes: [
      'The model carries the gas of runners, pipe and cylinders through the cycle until cycles repeat (How it computes, Waves in the inlet). It gives ratios; the level is the car’s own.',
    ],
  };
}

/** How a figure of the inlet fitted to the measured curve comes about, and how well the curve tells it. */
export function calibrationWorking(
  name: string,
  measure: MeasureName,
  figure: { readonly taken: number; readonly value: number; readonly error: number; readonly known: number },
  fit: { readonly speeds: number; readonly off_before: number; readonly off: number },
): Working {
  return {
    title: `${capital(name)}, fitted`,
    steps: [
      step(
        'calibration',
        [
          term('i', 'speeds compared', fit.speeds, 'count'),
          term(String.raw`\theta_0`, 'the figure that was taken', figure.taken, measure, 'assumed'),
          term('r_0', 'model off the measured curve before', fit.off_before, 'fineShare'),
          term('r', 'and with what fits best', fit.off, 'fineShare'),
          term('s', 'standard error of the fit', figure.error, measure),
          term('s_0', 'how well the usual figure is known', figure.known, measure, 'default'),
        ],
        term(String.raw`\hat\theta`, name, figure.value, measure),
      ),
    ],
    notes: [
      'The range is two standard errors either way. Noise is what is left of the curve, at least 0.4 %; speeds that lie off together count as fewer.',
      'A figure whose error is no smaller than what is known of it beforehand is not told.',
    ],
  };
}

/** How long a runner is with another throttle in it. */
export const runnerWithWorking = (name: string, runner_m: number, r: NonNullable<ReturnType<typeof runnerWith>>): Working => ({
  title: `Runner with ${name}`,
  steps: [
    step(
      'runnerWith',
      [
        term('L', 'runner as it is', runner_m, 'length'),
        term(String.raw`\ell`, 'the throttle’s length, with what goes under it', r.unit_m, 'length'),
        term(String.raw`\ell_s`, 'stock’s length', r.stock_m, 'length'),
      ],
      term("L'", 'runner then', r.length_m, 'length'),
    ),
  ],
  notes: [
    'Where the trumpet is cut to make up for it, the runner stays as it is.',
    'Pick, Plan and Verdict take the throttle’s own length, without a plate under it.',
  ],
});
