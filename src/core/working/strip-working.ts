import type { MeasuredEffect, ReadPass } from '../strip/analyse';
import { step, term, type Working } from './working';

/** How a pass was brought to the reference air. */
export function stripCorrectionWorking(p: ReadPass): Working {
  const w = p.weather!.reading;
  const c = p.corrected!;
  return {
    title: 'The pass in the reference air',
    steps: [
      step(
        'stripFactor',
        [
          term('p', 'barometer', w.p_Pa, 'barometer', 'entered'),
          term('T', 'air', w.T_K, 'temperature', 'entered'),
          term(String.raw`\varphi`, 'humidity', w.rh, 'share', 'entered'),
        ],
        term('f', 'factor for power', c.factor, 'coefficient'),
      ),
      step(
        'stripTime',
        [term('t', 'elapsed time', p.et_s!, 'time', 'entered'), term('f', 'factor', c.factor, 'coefficient')],
        term("t'", 'corrected', c.et_s, 'time'),
      ),
      step(
        'stripSpeed',
        [term('v', 'trap speed', p.trap_mps!, 'roadSpeed', 'entered'), term('f', 'factor', c.factor, 'coefficient')],
        term("v'", 'corrected', c.trap_mps, 'roadSpeed'),
      ),
    ],
    notes: [
      p.weather!.gap_min === null ? 'The one reading of the day.' : `The reading nearest in time, ${p.weather!.gap_min} minutes away.`,
      'The side’s effect is found from the passes as driven, with the density altitude fitted beside it: this correction only makes them easier to look at.',
    ],
  };
}

/** Power from a pass in two independent ways. */
export function passPowerWorking(p: ReadPass, mass_kg: number): Working {
  const power = p.power!;
  return {
    title: 'Power from the pass',
    steps: [
      step(
        'passSpeedPower',
        [term('m', 'car with driver', mass_kg, 'mass', 'entered'), term('v', 'trap speed', p.trap_mps!, 'roadSpeed', 'entered')],
        term('P_v', 'power by speed', power.fromSpeed_W, 'power'),
      ),
      step(
        'passTimePower',
        [term('m', 'car with driver', mass_kg, 'mass', 'entered'), term('t', 'elapsed time', p.et_s!, 'time', 'entered')],
        term('P_t', 'power by time', power.fromTime_W, 'power'),
      ),
    ],
    notes: [
      'Where the time says less than the speed, the difference is launch and traction. Hale’s relations hold for a quarter of a mile, in lb, mph and hp.',
    ],
  };
}

/** The effect of the side at the strip, and what its interval rests on. */
export function stripEffectWorking(e: MeasuredEffect, title: string, measure: 'time' | 'roadSpeed', notes: readonly string[]): Working {
  return {
    title,
    steps: [
      step(
        'stripEffect',
        [
          term(String.raw`\bar A`, 'stock, mean as driven', e.meanA, measure),
          term(String.raw`\bar B`, 'new, mean as driven', e.meanB, measure),
          term('s', 'scatter of single passes about the fit', e.effect.residualSd, measure),
          term(String.raw`\nu`, 'degrees of freedom', e.effect.df, 'count'),
        ],
        term('d', 'effect of the side', e.effect.effect, measure),
      ),
    ],
    notes: [
      ...notes,
      `Permutation within each day: of ${e.permutation.splits.toLocaleString('en-US')} ways to deal the passes to the sides a share of ${e.permutation.p.toFixed(3)} shows at least as much${e.permutation.exact ? '' : ' (drawn, not counted)'}.`,
    ],
  };
}
