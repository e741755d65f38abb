import { airState } from '../air/state';
import { isFailure } from '../failure';
import type { MeasuredEffect, ReadPass, StripAnalysis } from '../strip/analysis';
import type { RoadRun, RoadWindow } from '../strip/road';
import { step, term, type Working } from './working';

/** How a pass was brought to the reference air. */
export function stripCorrectionWorking(p: ReadPass): Working {
  const w = p.weather!.reading;
  const c = p.corrected!;
  return {
    title: 'The pass corrected to standard air',
    steps: [
      step(
        'stripFactor',
        [
          term('p', 'barometer', w.p_Pa, 'barometer', 'entered'),
          term('T', 'air', w.T_K, 'temperature', 'entered'),
          term(String.raw`\varphi`, 'humidity', w.rh, 'share', w.rhGuessed ? 'assumed' : 'entered'),
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
      p.weather!.between
        ? `Between two readings, in proportion to the time; the nearer is ${p.weather!.gap_min} minutes away.`
        : `The reading nearest in time, ${p.weather!.gap_min} minutes away.`,
      'The side’s effect is found from the passes as run, with the density altitude beside it: this correction only makes them easier to look at.',
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
  const { answer } = e;
  const size = (s: 'run' | 'refit' | 'day') => (answer.sizes[s].measured ? 'computed' : 'assumed');
  return {
    title,
    steps: [
      step(
        'mixtureInterval',
        [
          term(String.raw`\bar A`, 'stock, mean as run', e.meanA, measure),
          term(String.raw`\bar B`, 'new, mean as run', e.meanB, measure),
          term('d', 'estimate: pass weights times passes', answer.estimate, measure),
          term(String.raw`\sigma_r`, 'pass-to-pass scatter', answer.sizes.run.sd, measure, size('run')),
          term(String.raw`\sigma_f`, 'a swap moves it by', answer.sizes.refit.sd, measure, size('refit')),
          term(String.raw`\sigma_d`, 'a day moves it by', answer.sizes.day.sd, measure, size('day')),
        ],
        term(String.raw`\pm`, 'half of the 95 % interval', (answer.high - answer.low) / 2, measure),
      ),
    ],
    notes: [
      ...notes,
      'Passes of a stay repeat the pass scatter only, stays repeat the swap, days the day. What side and air, or side and day, did together is not told apart: it stays in the interval.',
    ],
  };
}

/** Density altitude of a weather reading. */
export function densityAltitudeWorking(w: { readonly p_Pa: number; readonly T_K: number; readonly rh: number }): Working {
  const air = airState(w);
  if (isFailure(air)) return { title: 'Density altitude', steps: [], notes: ['This air cannot be.'] };
  const T = term('T', 'air temperature', w.T_K, 'temperature', 'entered');
  const e = term('e', 'vapour pressure', air.vapour_Pa, 'loss');
  const rho = term(String.raw`\rho`, 'density', air.density_kgpm3, 'density');
  return {
    title: 'Density altitude',
    steps: [
      step('vapour', [term(String.raw`\varphi`, 'relative humidity', w.rh, 'share', 'entered'), T], e),
      step('density', [term('p', 'barometer', w.p_Pa, 'barometer', 'entered'), e, T], rho),
      step('densityAltitude', [rho], term('z', 'density altitude', air.densityAltitude_m, 'altitude')),
    ],
    notes: [],
  };
}

/** What the passes say of power, by the trap speed or by the time. */
export function powerShareWorking(by: 'speed' | 'time', e: MeasuredEffect, share: NonNullable<StripAnalysis['powerBySpeed']>): Working {
  const measure = by === 'speed' ? 'roadSpeed' : 'time';
  return {
    title: `Change of power by the ${by === 'speed' ? 'trap speed' : 'elapsed time'}`,
    steps: [
      step(
        by === 'speed' ? 'powerBySpeed' : 'powerByTime',
        [
          term(String.raw`\Delta`, 'effect of the side', e.answer.estimate, measure),
          term(String.raw`\bar A`, 'stock, mean as run', e.meanA, measure),
        ],
        term(String.raw`\Delta P / P`, 'change of power', share.share, 'fineShare'),
      ),
    ],
    notes: ['Its interval is the effect’s own, three times over.', 'Where speed and time disagree, the difference is launch and traction.'],
  };
}

/** A run on the road: its time on the flat, and what is not known of it. */
export function roadWorking(r: RoadRun, w: RoadWindow): Working {
  const { errors } = r;
  return {
    title: 'A run on the road',
    steps: [
      ...(r.climb_m === null
        ? []
        : [
            step(
              'roadFlat',
              [
                term('v_1', 'from', w.from_mps, 'roadSpeed', 'entered'),
                term('v_2', 'to', w.to_mps, 'roadSpeed', 'entered'),
                term(
                  String.raw`\Delta h`,
                  `climb, ${r.climbFrom === 'altitude' ? 'logged' : 'by the entered grade'}`,
                  r.climb_m,
                  'altitude',
                ),
                term('t', 'as run', r.time_s, 'time'),
              ],
              term('t_0', 'on the flat', r.flat_s, 'time'),
            ),
          ]),
      step(
        'roadError',
        [
          term('e_h', 'ground', errors.grade_s, 'time'),
          term('e_w', 'wind', errors.wind_s, 'time'),
          term('e_r', 'rollout', errors.rollout_s, 'time'),
          term('e_s', 'between two samples', errors.sampling_s, 'time'),
        ],
        term('e', 'together', errors.all_s, 'time'),
      ),
    ],
    notes: [
      r.climb_m === null
        ? 'The ground is not known: it may rise or fall by 1 %, and the time stands as run.'
        : r.climbFrom === 'altitude'
          ? 'A logged altitude is believed to 1.5 m.'
          : 'An entered grade is believed to a fifth of a per cent.',
    ],
  };
}
