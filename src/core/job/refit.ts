import type { JobDoc, MeasuredCurve, WeatherDoc } from '../documents/job';
import { failure, isFailure, type Failure } from '../failure';
import { correctionFactor } from '../runs/correction';
import type { JobModel } from './model';

/** Points the measured reference keeps: every so many rpm of the baseline's mean. */
const REFIT_STEP_rpm = 100;
/** Share of crank power lost on the way to the rollers where nobody has measured it. */
export const DRIVELINE_LOSS = 0.15;

export interface Baseline {
  readonly rpm: readonly number[];
  /** Mean of the baseline's runs as measured, uncorrected, W. */
  readonly power_W: readonly number[];
  readonly runs: number;
  readonly day: string | null;
  readonly weather: WeatherDoc;
}

/**
 * The baseline's mean curve as the car's own crank power in the car's own weather: wheels brought to the crank, the day's
 * air brought to the job's. Taken as the measured reference it fits the volumetric efficiency to these runs.
 */
export function baselineCurve(baseline: Baseline, car: Pick<JobDoc['car'], 'weather'>, drivelineLoss: number): MeasuredCurve | Failure {
  const then = correctionFactor('SAE J1349', baseline.weather);
  const here = correctionFactor('SAE J1349', car.weather);
  if (isFailure(then)) return then;
  if (isFailure(here)) return here;
  const at = baseline.rpm.flatMap((n, i) => (n % REFIT_STEP_rpm === 0 ? [i] : []));
  if (at.length < 2) return failure('no_common_range');
  const scale = then.factor / here.factor / (1 - drivelineLoss);
  return {
    rpm: at.map((i) => baseline.rpm[i]!),
    value: at.map((i) => baseline.power_W[i]! * scale),
    source: `mean of ${baseline.runs} baseline ${baseline.runs === 1 ? 'run' : 'runs'}${baseline.day ? ` of ${baseline.day}` : ''}, ${Math.round(1000 * drivelineLoss) / 10} % driveline loss added`,
    driveRatio: null,
  };
}

/** The job with the baseline as its measured reference. What moves a blown engine's air stays what it was: a measured boost above all. */
export function refitted(doc: JobDoc, curve: MeasuredCurve): JobDoc {
  const blown = 'cooler' in doc.car.induction;
  return {
    ...doc,
    car: {
      ...doc.car,
      measured: { ...doc.car.measured, power: curve },
      from: { efficiency: blown ? doc.car.from.efficiency : 'power', power: 'measured' },
    },
    marks: { ...doc.marks, 'measured.power': 'measured' },
  };
}

export interface LossRefit {
  readonly rpm: number;
  readonly measured_Pa: number;
  readonly modelled_Pa: number;
  /** What the path's losses have to be multiplied by for the model to lose what was measured. */
  readonly factor: number;
}

/** Wide-open depression measured against the same sensor's key-on reading, beside what the model's path loses at that rpm. */
export function lossRefit(model: JobModel, lossFactor: number, rpm: readonly number[], depression_Pa: readonly number[]): LossRefit | null {
  const boosted = model.problem.kind !== 'na';
  if (boosted || rpm.length === 0) return null;
  const i = rpm.length - 1;
  const at = model.rpm.reduce((k, n, j) => (Math.abs(n - rpm[i]!) < Math.abs(model.rpm[k]! - rpm[i]!) ? j : k), 0);
  const modelled_Pa = model.problem.input.ambient.p_Pa - model.reference.result.plenum_Pa[at]!;
  const measured_Pa = depression_Pa[i]!;
  if (!(modelled_Pa > 0) || !(measured_Pa > 0)) return null;
  return { rpm: rpm[i]!, measured_Pa, modelled_Pa, factor: (lossFactor * measured_Pa) / modelled_Pa };
}
