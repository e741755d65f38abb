import { step, term, type Term } from '../working/working';
import { choice, number, type Sum, type SumValues } from './sum';

const byAir = (v: SumValues): boolean => v.pick['by'] === 'air';
const byPower = (v: SumValues): boolean => !byAir(v);

export const INJECTORS: Sum = {
  key: 'injectors',
  title: 'Injectors',
  group: 'fuel',
  about: 'Whether the injectors feed what a larger throttle lets in.',
  fields: [
    choice('by', 'Work from', [
      ['power', 'power'],
      ['air', 'air'],
    ]),
    number('P', 'Power at the crank', 'power', 120_000, [500, 3e6], byPower),
    number('bsfc', 'BSFC', 'fuelRate', 0.3 / 3.6e6, [0.15 / 3.6e6, 0.8 / 3.6e6], byPower),
    number('m', 'Air', 'massFlow', 500 / 3600, [1e-4, 5], byAir),
    number('afr', 'Air–fuel ratio', 'ratio', 12.8, [3, 25], byAir),
    number('n', 'Injectors', 'count', 4, [1, 24]),
    number('Q', 'Size of each, as rated', 'injector', 300e-6 / 60, [1e-8, 1e-4]),
    number('rated', 'Rated at', 'barometer', 300_000, [50_000, 2e7]),
    number('rail', 'Runs at', 'barometer', 300_000, [50_000, 2e7]),
    number('most', 'Duty at most', 'share', 0.85, [0.3, 1]),
    number('rho', 'Fuel density', 'density', 740, [600, 1000]),
  ],
  solve(v) {
    const { n } = v;
    const count = Math.round(n['n']!);
    const fuel = byAir(v) ? n['m']! / n['afr']! : n['P']! * n['bsfc']!;
    const each = fuel / (count * n['rho']!);
    const atRail = n['Q']! * Math.sqrt(n['rail']! / n['rated']!);
    const duty = each / atRail;
    const needed = (each / n['most']!) * Math.sqrt(n['rated']! / n['rail']!);
    const enough = duty <= n['most']!;
    const mf = term(String.raw`\dot m_f`, 'fuel', fuel, 'fuelFlow');
    const Q = term('Q', 'flow at the rail', atRail, 'injector');
    const common: readonly Term[] = [
      mf,
      term('n', 'injectors', count, 'count', 'entered'),
      term(String.raw`\rho_f`, 'fuel density', n['rho']!, 'density', 'entered'),
    ];
    const dpr = term(String.raw`\Delta p_r`, 'rated at', n['rated']!, 'barometer', 'entered');
    const dp = term(String.raw`\Delta p`, 'runs at', n['rail']!, 'barometer', 'entered');
    return {
      answer: (say) =>
        enough
          ? `They are large enough: ${say(duty, 'share')} duty.`
          : duty > 1
            ? `Too small: even held open they fall ${say(1 - 1 / duty, 'share')} short. Each needs ${say(needed, 'injector')}.`
            : `Too small for comfort: ${say(duty, 'share')} duty. Each needs ${say(needed, 'injector')}.`,
      warning: enough
        ? undefined
        : () => 'An engine that runs out of fuel at full throttle runs lean and can be destroyed. Do not pull it until this is put right.',
      rows: [
        { label: 'duty', value: duty, measure: 'fineShare' },
        { label: 'fuel in all', value: fuel, measure: 'fuelFlow' },
        { label: 'each gives, held open', value: atRail, measure: 'injector' },
        { label: 'each must be rated for', value: needed, measure: 'injector', note: 'at the rated pressure, at the most duty' },
      ],
      steps: [
        byAir(v)
          ? step(
              'fuelOfAir',
              [
                term(String.raw`\dot m`, 'air', n['m']!, 'massFlow', 'entered'),
                term(String.raw`\mathrm{AFR}`, 'air–fuel ratio', n['afr']!, 'ratio', 'entered'),
              ],
              mf,
            )
          : step(
              'fuelOfPower',
              [term('P', 'power', n['P']!, 'power', 'entered'), term(String.raw`\mathrm{BSFC}`, 'BSFC', n['bsfc']!, 'fuelRate', 'entered')],
              mf,
            ),
        step('railPressure', [term('Q_r', 'as rated', n['Q']!, 'injector', 'entered'), dpr, dp], Q),
        step('duty', [...common, Q], term('d', 'duty', duty, 'fineShare')),
        step(
          'injectorSize',
          [...common, term(String.raw`d_{\max}`, 'most', n['most']!, 'share', 'entered'), dpr, dp],
          term('Q_r', 'needed', needed, 'injector'),
        ),
      ],
      notes: [
        'Pressures are across the injector: with boost the rail must rise with the manifold or they give less.',
        'Pump, regulator and lines must pass the fuel too.',
      ],
    };
  },
};

/** Share of its diameter by which a reinforced coupler may be stretched before it is likely to slip or split: ours, cautious. */
const COUPLER_STRETCH = 0.05;

export const COUPLER: Sum = {
  key: 'coupler',
  title: 'Coupler stretch',
  group: 'fit',
  about: 'Whether the hose goes over the new throttle’s mouth, or a reducer is needed.',
  fields: [
    number('dc', 'Coupler, inside', 'bore', 0.07, [0.01, 0.3]),
    number('Dt', 'Throttle’s mouth, outside', 'bore', 0.072, [0.01, 0.3]),
    number('lim', 'Stretch allowed', 'fineShare', COUPLER_STRETCH, [0, 0.3]),
  ],
  solve({ n }) {
    const stretch = n['Dt']! / n['dc']! - 1;
    const smallest = n['Dt']! / (1 + n['lim']!);
    const fits = stretch >= 0 && stretch <= n['lim']!;
    const dc = term('d_c', 'coupler, inside', n['dc']!, 'bore', 'entered');
    const Dt = term('D_t', 'mouth, outside', n['Dt']!, 'bore', 'entered');
    return {
      answer: (say) =>
        fits
          ? `It pushes on: ${say(stretch, 'fineShare')} of stretch.`
          : stretch < 0
            ? `It is loose by ${say(n['dc']! - n['Dt']!, 'bore')}: no clamp should have to gather a hose.`
            : `Too tight: ${say(stretch, 'fineShare')} of stretch. Take a coupler of ${say(smallest, 'bore')} or more, or a reducer.`,
      rows: [
        { label: 'stretch', value: stretch, measure: 'fineShare' },
        { label: 'smallest coupler for this mouth', value: smallest, measure: 'bore' },
        { label: 'largest mouth for this coupler', value: n['dc']! * (1 + n['lim']!), measure: 'bore' },
      ],
      steps: [step('stretch', [Dt, dc], term(String.raw`\varepsilon`, 'stretch', stretch, 'fineShare'))],
      notes: [
        '5 % is ours, for reinforced silicone. The hose maker’s figure holds where there is one. Under boost a stretched hose works off its bead.',
      ],
    };
  },
};
