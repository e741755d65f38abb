import { BLOWER_DEFAULTS } from '../engine/draw-through';
import { equivalentPulley, pulleyForBoost, pulleyRatio, smallestPulleyForLimit } from '../engine/pulley';
import { failure, isFailure } from '../failure';
import { step, term, type Term } from '../working/working';
import { WEATHER_FIELDS } from './air';
import { number, type Sum, type SumField, type SumValues } from './sum';

const PULLEY_RANGE = [0.02, 0.6] as const;

const DRIVE_FIELDS: readonly SumField[] = [
  number('Dc', 'Lower pulley, stock', 'bore', 0.18, PULLEY_RANGE),
  number('x', 'Crank pulley overdrive', 'fineShare', 0, [-0.5, 1]),
  number('db', 'Upper pulley', 'bore', 0.08, PULLEY_RANGE),
  number('s', 'Step-up inside', 'ratio', 1, [0.2, 6]),
];

interface DriveTerms {
  readonly Dc: Term;
  readonly x: Term;
  readonly s: Term;
}

const driveTerms = ({ n }: SumValues): DriveTerms => ({
  Dc: term('D_c', 'lower, stock', n['Dc']!, 'bore', 'entered'),
  x: term('x', 'crank pulley overdrive', n['x']!, 'fineShare', 'entered'),
  s: term('s', 'step-up', n['s']!, 'ratio', 'entered'),
});

export const PULLEY: Sum = {
  key: 'pulley',
  title: 'Pulleys and blower speed',
  group: 'boost',
  about: 'Ratio, blower speed and its limit; an overdriven lower against a smaller upper.',
  fields: [
    ...DRIVE_FIELDS,
    number('N', 'Engine speed', 'rpm', 6500, [200, 20_000]),
    number('lim', 'Blower’s limit', 'rpm', 16_000, [1000, 200_000]),
    number('Vb', 'Blower displacement', 'displacement', 0.0009, [1e-5, 0.02]),
  ],
  solve(v) {
    const { n } = v;
    const found = pulleyRatio({
      crankPulley_m: n['Dc']!,
      blowerPulley_m: n['db']!,
      step: n['s']!,
      overdrive: n['x']!,
      rpm: n['N']!,
      blowerDisplacement_m3: n['Vb']!,
      limit_rpm: n['lim']!,
    });
    if (isFailure(found)) return found;
    const { Dc, x, s } = driveTerms(v);
    const speed = found.blower_rpm!;
    const flow = found.idealFlow_m3ps!;
    const same = equivalentPulley(n['db']!, n['x']!);
    const smallest = smallestPulleyForLimit({
      crankPulley_m: n['Dc']!,
      step: n['s']!,
      overdrive: n['x']!,
      redline_rpm: n['N']!,
      limit_rpm: n['lim']!,
    });
    const db = term('d_b', 'upper', n['db']!, 'bore', 'entered');
    const i = term('i', 'ratio', found.ratio, 'coefficient');
    const N = term('N', 'engine speed', n['N']!, 'rpm', 'entered');
    const Nb = term('N_b', 'blower speed', speed, 'rpm');
    return {
      answer: (say) =>
        `The blower turns ${say(speed, 'rpm')} at ${say(n['N']!, 'rpm')}${found.withinLimit ? ', within its limit' : `: ${say(speed - n['lim']!, 'rpm')} beyond its limit`}.`,
      warning: found.withinLimit ? undefined : (say) => `Go no smaller than ${say(smallest, 'bore')} on top, or turn the engine less.`,
      rows: [
        { label: 'blower speed', value: speed, measure: 'rpm' },
        { label: 'blower turns for one of the crank', value: found.ratio, measure: 'coefficient' },
        { label: 'swept by the blower', value: flow, measure: 'benchFlow', note: 'before slip' },
        { label: 'smallest upper pulley at this speed', value: smallest, measure: 'bore' },
        ...(n['x'] === 0 ? [] : [{ label: 'same as this upper on the stock lower', value: same, measure: 'bore' as const }]),
      ],
      steps: [
        step('beltRatio', [Dc, x, db, s], i),
        step('blowerSpeed', [N, i], Nb),
        step(
          'blowerSwept',
          [term('V_b', 'displacement', n['Vb']!, 'displacement', 'entered'), Nb],
          term(String.raw`\dot V_b`, 'swept', flow, 'benchFlow'),
        ),
        step(
          'smallestUpper',
          [Dc, x, s, N, term(String.raw`N_{b,\max}`, 'limit', n['lim']!, 'rpm', 'entered')],
          term(String.raw`d_{\min}`, 'smallest', smallest, 'bore'),
        ),
        ...(n['x'] === 0 ? [] : [step('sameUpper', [db, x], term("d'", 'on the stock lower', same, 'bore'))]),
      ],
      notes: ['The blower maker’s speed limit holds, not this one. Belt wrap and slip get worse as the upper shrinks.'],
    };
  },
};

export const WANTED_BOOST: Sum = {
  key: 'wanted-boost',
  title: 'Pulley for a boost',
  group: 'boost',
  about: 'The upper pulley that makes the boost you want, with the throttle’s own loss and the blower’s slip in it.',
  fields: [
    number('boost', 'Boost wanted', 'plenum', 60_000, [1000, 300_000]),
    number('N', 'At an engine speed of', 'rpm', 6000, [500, 20_000]),
    number('V', 'Displacement', 'displacement', 0.003, [5e-5, 0.03]),
    number('ve', 'Efficiency, manifold', 'fineShare', 0.92, [0.3, 1.3]),
    number('Vb', 'Blower displacement', 'displacement', 0.0014, [1e-5, 0.02]),
    number('D', 'Throttle bore', 'bore', 0.07, [0.012, 0.25]),
    ...DRIVE_FIELDS.filter((f) => f.key !== 'db'),
    ...WEATHER_FIELDS.slice(0, 2),
  ],
  solve(v) {
    const { n } = v;
    const N = n['N']!;
    // The search runs from 0.4 to 3 times a ratio at which the blower moves half as much again as the engine swallows.
    const near = (1.5 * n['ve']! * n['V']!) / 2 / n['Vb']!;
    if (n['D']! <= 0.008) return failure('bad_geometry', { reason: 'shaft_thicker_than_bore' });
    const found = pulleyForBoost({
      solve: {
        ambient: { p_Pa: n['p']!, T_K: n['T']!, rh: 0 },
        engine: { displacement_m3: n['V']!, compressionRatio: 9 },
        rpm: [N],
        power: { bsfc_kgpJ: 0.37 / 3.6e6, afr: 11.8 },
        manifoldVe: n['ve']!,
        blower: { displacement_m3: n['Vb']!, ratio: near },
        cooler: { effectiveness: 0, loss_Pa: 0 },
        reference: { parts: [{ type: 'throttle', throttle: { shape: 'single', bore_m: n['D']!, shaft_m: 0.008 } }] },
      },
      at_rpm: N,
      boost_Pa: n['boost']!,
      crankPulley_m: n['Dc']!,
      step: n['s']!,
      overdrive: n['x']!,
    });
    if (isFailure(found)) return found;
    const { Dc, x, s } = driveTerms(v);
    const i = term('i', 'ratio', found.ratio, 'coefficient');
    return {
      answer: (say) => `${say(n['boost']!, 'plenum')} at ${say(N, 'rpm')} takes an upper pulley of ${say(found.blowerPulley_m, 'bore')}.`,
      rows: [
        { label: 'upper pulley', value: found.blowerPulley_m, measure: 'bore' },
        { label: 'blower turns for one of the crank', value: found.ratio, measure: 'coefficient' },
        { label: 'blower speed there', value: found.blower_rpm, measure: 'rpm', note: 'hold it against the maker’s limit' },
      ],
      steps: [
        step(
          'boostRatio',
          [
            term(String.raw`\Delta p_b`, 'boost wanted', n['boost']!, 'plenum', 'entered'),
            term('V_d', 'engine', n['V']!, 'displacement', 'entered'),
            term('V_b', 'blower', n['Vb']!, 'displacement', 'entered'),
            term(String.raw`\eta_m`, 'efficiency, manifold', n['ve']!, 'fineShare', 'entered'),
            term('D', 'throttle', n['D']!, 'bore', 'entered'),
            term(String.raw`\eta_0`, 'blower at no pressure', BLOWER_DEFAULTS.eta0, 'fineShare', 'default'),
            term('k', 'slip', BLOWER_DEFAULTS.k, 'coefficient', 'default'),
          ],
          i,
        ),
        step('upperOf', [Dc, x, s, i], term('d_b', 'upper', found.blowerPulley_m, 'bore')),
      ],
      notes: [
        'Throttle alone before the blower, 8 mm shaft, no cooler after it. In a job the whole intake counts and the blower is set by its measured boost.',
        'More boost needs fuel, spark and a head that stand it; the blower’s and engine’s makers set the limits.',
      ],
    };
  },
};
