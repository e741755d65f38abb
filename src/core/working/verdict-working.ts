import type { GainCost } from '../verdict/cost';
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
