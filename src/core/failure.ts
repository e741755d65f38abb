/**
 * Impossible physics and unusable input are results, not exceptions: a function that can fail returns its value or a
 * Failure, and the interface writes the sentence from the code and the facts beside it.
 */
export type FailureCode =
  | 'pressure_out_of_range'
  | 'temperature_out_of_range'
  | 'humidity_out_of_range'
  | 'choked'
  | 'blocked'
  | 'bad_geometry'
  | 'bad_input'
  | 'bench_above_ceiling'
  | 'no_blower_solution'
  | 'no_boost'
  | 'no_pulley'
  | 'no_bore'
  | 'no_opening'
  | 'no_idle'
  | 'no_sweep'
  | 'no_common_range'
  | 'too_few_runs'
  | 'too_few_passes'
  | 'no_spread'
  | 'one_side_only'
  | 'no_return'
  | 'rpm_not_reached'
  | 'speed_not_reached'
  | 'outside_channel';

export interface Failure {
  readonly error: FailureCode;
  /** Which row of a path, or which field, the failure belongs to. */
  readonly where?: string;
  /** Which of the two engines of a comparison failed. */
  readonly side?: 'reference' | 'candidate';
  /** Engine speed at which it failed, rpm. */
  readonly at_rpm?: number;
  /** What was wrong, as a key the interface has a sentence for. */
  readonly reason?: string;
  /** Numbers that belong to the failure, units in their names. */
  readonly facts?: Readonly<Record<string, number>>;
}

export function failure(error: FailureCode, more: Omit<Failure, 'error'> = {}): Failure {
  return { error, ...more };
}

export function isFailure(value: unknown): value is Failure {
  return typeof value === 'object' && value !== null && 'error' in value;
}

/** For callers that have already checked their input: turns a Failure into a programmer's error. */
export function must<T>(value: T | Failure): T {
  if (isFailure(value)) throw new RangeError(`unexpected failure: ${value.error}${value.where ? ` at ${value.where}` : ''}`);
  return value;
}
