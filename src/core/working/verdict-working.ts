import type { GainCost } from '../verdict/cost';
import type { PredictedGain } from '../verdict/report';
import type { SimilarEngines } from '../verdict/similar';
import type { MeasureName } from '../units/measures';
import { step, term, type Working } from './working';

/** What a unit of power cost. */
export function costWorking(c: GainCost): Working {
  return {
    title: 'Cost of the gain',
    steps: [
      step(
        'costTogether',
        [
          term('p', 'parts', c.parts, 'money', 'entered'),
          term('f', 'fitting', c.fitting, 'money', 'entered'),
          term('t', 'testing', c.testing, 'money', 'entered'),
        ],
        term('C', 'together', c.total, 'money'),
      ),
      step(
        'costPerPower',
        [term('C', 'together', c.total, 'money'), term(String.raw`\Delta P`, 'measured gain', c.gain_W, 'power')],
        // Per kilowatt: money per watt is no figure anybody says.
        term('c', 'per kilowatt', (c.perW ?? 0) * 1000, 'money'),
      ),
    ],
    notes: ['The gain is the mean over the stretch that decides; its interval gives the range of the cost.'],
  };
}

/** Power by one throttle and the other over engine speed, as the even-flow model or the waves have it. */
type TwoPowers = Pick<PredictedGain, 'rpm' | 'stock_W' | 'other_W'>;

/** What the model said of a stretch of engine speed: mean power with the throttle over mean power on stock. */
export function predictedWorking(p: TwoPowers, from_rpm: number, to_rpm: number, name: string, waves = false): Working {
  const at = p.rpm.flatMap((n, i) => (n >= from_rpm && n <= to_rpm ? [i] : []));
  const mean = (list: readonly number[]): number => at.reduce((s, i) => s + list[i]!, 0) / Math.max(1, at.length);
  const [a, b] = [mean(p.stock_W), mean(p.other_W)];
  return {
    title: `Predicted${waves ? ' with waves' : ''}, ${name}`,
    steps: [
      step(
        'gain',
        [
          term('P', 'stock, mean by the model', a, 'power'),
          term("P'", `with the throttle, mean by the ${waves ? 'waves' : 'model'}`, b, 'power'),
        ],
        term('g', 'gain', b / a - 1, 'fineShare'),
      ),
    ],
    notes: [
      `Over the ${at.length} engine speeds the model has from ${from_rpm.toFixed(0)} to ${to_rpm.toFixed(0)} rpm; ${
        waves
          ? 'the car’s own power times the ratio of the air that the wave model lets in with the one throttle and the other.'
          : 'how each comes about is told on the Pick step.'
      }`,
    ],
  };
}

/** A predicted gain as it would show at the strip. */
export const predictedStripWorking = (measure: MeasureName, mean: number, gain: number, change: number): Working => ({
  title: 'Predicted at the strip',
  steps: [
    step(
      'predictedAtStrip',
      [term('g', 'predicted gain of power', gain, 'fineShare'), term('y', 'stock, mean as run', mean, measure)],
      term(String.raw`\Delta y`, 'predicted change', change, measure),
    ),
  ],
  notes: [],
});

/** What a shop's jobs on such engines say together. */
export function pooledWorking({ jobs, pooled }: SimilarEngines): Working {
  return {
    title: 'Engines like this one',
    steps: [
      step(
        'pooled',
        [
          term('n', 'jobs', jobs.length, 'count'),
          term(String.raw`\tau`, 'how much the jobs differ, one standard deviation', pooled!.between_pct / 100, 'fineShare'),
        ],
        term(String.raw`\bar d`, 'together', pooled!.mean_pct / 100, 'fineShare'),
      ),
    ],
    notes: [
      `Interval ${pooled!.low_pct.toFixed(1)} to ${pooled!.high_pct.toFixed(1)} %: it counts each job’s own uncertainty and how much they differ.`,
      'Jobs with the same kind of induction and a displacement within 35 %, whose throttle was larger than stock.',
    ],
  };
}
