import { airState } from '../air/state';
import { isFailure } from '../failure';
import type { MeasuredEffect, ReadPass, StripAnalysis } from '../strip/analyse';
import type { PlannedStrip, Sharpness } from '../strip/design';
import type { RoadRun, RoadWindow } from '../strip/road';
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

/** What the passes say of power, by the speed over the line or by the time. */
export function powerShareWorking(by: 'speed' | 'time', e: MeasuredEffect, share: NonNullable<StripAnalysis['powerBySpeed']>): Working {
  const measure = by === 'speed' ? 'roadSpeed' : 'time';
  return {
    title: `Change of power by the ${by === 'speed' ? 'trap speed' : 'elapsed time'}`,
    steps: [
      step(
        by === 'speed' ? 'powerBySpeed' : 'powerByTime',
        [
          term(String.raw`\Delta`, 'effect of the side', e.effect.effect, measure),
          term(String.raw`\bar A`, 'stock, mean as driven', e.meanA, measure),
        ],
        term(String.raw`\Delta P / P`, 'change of power', share.share, 'fineShare'),
      ),
    ],
    notes: ['Its interval is the effect’s own, three times over.', 'Where speed and time disagree, the difference is launch and traction.'],
  };
}

/** What a set of passes is worth: the interval it ends with, and the chance to tell an effect. */
export function designWorking(
  title: string,
  sharp: Sharpness,
  sd_mps: number,
  half_mps: number,
  told: { readonly effect_mps: number; readonly chance: number } | null,
): Working {
  const s = term('s', 'scatter of single passes', sd_mps, 'roadSpeed');
  const x = term(String.raw`\lVert x_\perp \rVert`, 'side outside the rest', 1 / sharp.perSd, 'ratio');
  const nu = term(String.raw`\nu`, 'degrees of freedom', sharp.df, 'count');
  return {
    title,
    steps: [
      step('designHalf', [s, x, nu], term('h', 'half of the 95 % interval', half_mps, 'roadSpeed')),
      ...(told
        ? [
            step(
              'designChance',
              [term('d', 'effect to tell', told.effect_mps, 'roadSpeed'), s, x, nu],
              term('P', 'chance', told.chance, 'share'),
            ),
          ]
        : []),
    ],
    notes: [
      told
        ? 'A term for the order of the passes is fitted with the side: track and air change through the day.'
        : 'One more pass in the air of the last one, with everything fitted now.',
    ],
  };
}

/** A planned day's interval and chance. */
export const planWorking = (p: PlannedStrip & { readonly sharp: Sharpness }, name: string, sd_mps: number, effect_mps: number): Working =>
  designWorking(`A day driven ${name}`, p.sharp, sd_mps, p.half!, { effect_mps, chance: p.chance! });

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
                term('t', 'as driven', r.time_s, 'time'),
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
        ? 'The ground is not known: it may rise or fall by 1 %, and the time stands as driven.'
        : r.climbFrom === 'altitude'
          ? 'A logged altitude is believed to 1.5 m.'
          : 'An entered grade is believed to a fifth of a per cent.',
    ],
  };
}
