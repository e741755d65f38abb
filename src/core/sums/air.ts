import { airState, densityAltitude, stationPressure } from '../air/state';
import { demandByDisplacement, demandByPower, sweptRate } from '../engine/demand';
import { isFailure, type Failure } from '../failure';
import { BENCH_DENSITY_kgpm3 } from '../flow/constants';
import { correctionFactor } from '../runs/correction';
import { step, term, type Term, type WorkingStep } from '../working/working';
import { choice, number, type Sum, type SumField, type SumValues } from './sum';

/** The weather every sum about air asks for. */
export const WEATHER_FIELDS: readonly SumField[] = [
  number('p', 'Barometer', 'barometer', 101_325, [50_000, 110_000]),
  number('T', 'Air temperature', 'temperature', 293.15, [233.15, 333.15]),
  number('rh', 'Humidity', 'share', 0.4, [0, 1]),
];

export interface DayAir {
  readonly density_kgpm3: number;
  readonly vapour_Pa: number;
  readonly rho: Term;
  readonly steps: readonly WorkingStep[];
}

/** The day's air from typed weather, with its steps. */
function dayAir({ n }: SumValues, p_Pa = n['p']!): DayAir | Failure {
  const air = airState({ p_Pa, T_K: n['T']!, rh: n['rh']! });
  if (isFailure(air)) return air;
  const T = term('T', 'air temperature', n['T']!, 'temperature', 'entered');
  const e = term('e', 'vapour pressure', air.vapour_Pa, 'loss');
  const rho = term(String.raw`\rho`, 'density', air.density_kgpm3, 'density');
  return {
    density_kgpm3: air.density_kgpm3,
    vapour_Pa: air.vapour_Pa,
    rho,
    steps: [
      step('vapour', [term(String.raw`\varphi`, 'relative humidity', n['rh']!, 'share', 'entered'), T], e),
      step('density', [term('p', 'barometer', p_Pa, 'barometer', n['p'] === p_Pa ? 'entered' : 'computed'), e, T], rho),
    ],
  };
}

const byPower = (v: SumValues): boolean => v.pick['by'] === 'power';
const bySize = (v: SumValues): boolean => !byPower(v);

export const DEMAND: Sum = {
  key: 'demand',
  title: 'What an engine needs',
  group: 'air',
  about: 'Air at one engine speed, from displacement and efficiency or from power.',
  fields: [
    choice('by', 'Work from', [
      ['size', 'displacement and rpm'],
      ['power', 'power'],
    ]),
    number('V', 'Displacement', 'displacement', 0.002, [5e-5, 0.03], bySize),
    number('N', 'Engine speed', 'rpm', 7000, [200, 20_000], bySize),
    number('ve', 'Volumetric efficiency', 'fineShare', 0.95, [0.1, 3], bySize),
    number('P', 'Power at the crank', 'power', 120_000, [500, 3e6], byPower),
    number('bsfc', 'BSFC', 'fuelRate', 0.3 / 3.6e6, [0.15 / 3.6e6, 0.8 / 3.6e6], byPower),
    number('afr', 'Air–fuel ratio', 'ratio', 12.8, [3, 25], byPower),
    ...WEATHER_FIELDS,
  ],
  solve(v) {
    const air = dayAir(v);
    if (isFailure(air)) return air;
    const { n } = v;
    const flowTerm = (m: number): Term => term(String.raw`\dot m`, 'needs', m, 'massFlow');
    const solved = byPower(v)
      ? demandByPower({ power_W: n['P']!, bsfc_kgpJ: n['bsfc']!, afr: n['afr']!, density_kgpm3: air.density_kgpm3 })
      : demandByDisplacement(n['V']!, n['N']!, n['ve']!, air.density_kgpm3);
    if (isFailure(solved)) return solved;
    const m = flowTerm(solved.massFlow_kgps);
    const bench = solved.massFlow_kgps / Math.sqrt(air.density_kgpm3 * BENCH_DENSITY_kgpm3);
    const swept = term(String.raw`\dot V`, 'swept volume rate', sweptRate(n['V']!, n['N']!), 'benchFlow');
    const source: WorkingStep[] = byPower(v)
      ? [
          step(
            'powerDemand',
            [
              term('P', 'power', n['P']!, 'power', 'entered'),
              term(String.raw`\mathrm{BSFC}`, 'BSFC', n['bsfc']!, 'fuelRate', 'entered'),
              term(String.raw`\mathrm{AFR}`, 'air–fuel ratio', n['afr']!, 'ratio', 'entered'),
            ],
            m,
          ),
        ]
      : [
          step(
            'swept',
            [term('V_d', 'displacement', n['V']!, 'displacement', 'entered'), term('N', 'engine speed', n['N']!, 'rpm', 'entered')],
            swept,
          ),
          step('demand', [term(String.raw`\eta_a`, 'volumetric efficiency', n['ve']!, 'fineShare', 'entered'), swept, air.rho], m),
        ];
    return {
      answer: (say) =>
        `The engine needs ${say(solved.massFlow_kgps, 'massFlow')} of air, ${say(solved.volumeFlow_m3ps, 'benchFlow')} of today’s.`,
      rows: [
        { label: 'air', value: solved.massFlow_kgps, measure: 'massFlow' },
        { label: 'volume at today’s density', value: solved.volumeFlow_m3ps, measure: 'benchFlow' },
        { label: 'to compare with bench figures', value: bench, measure: 'benchFlow', note: 'same loss in bench air' },
        { label: 'density of the air', value: air.density_kgpm3, measure: 'density' },
      ],
      steps: [
        ...air.steps,
        ...source,
        step('volumeOf', [m, air.rho], term('Q', 'volume', solved.volumeFlow_m3ps, 'benchFlow')),
        step(
          'benchAir',
          [m, air.rho, term(String.raw`\rho_b`, 'bench air', BENCH_DENSITY_kgpm3, 'density', 'constant')],
          term('Q_b', 'on a bench', bench, 'benchFlow'),
        ),
      ],
      notes: byPower(v)
        ? ['Rich mixture needs less air for the same fuel; put in what the engine really runs.']
        : ['The efficiency is referred to the air outside. Boosted engines go well above 100 % here.'],
    };
  },
};

const altimeter = (v: SumValues): boolean => v.pick['from'] === 'setting';

export const DENSITY: Sum = {
  key: 'density-altitude',
  title: 'Density altitude',
  group: 'air',
  about: 'How thin today’s air is, told as the height at which the standard air is as thin.',
  fields: [
    choice('from', 'Pressure is', [
      ['station', 'read at the place'],
      ['setting', 'a sea-level setting, from a weather report'],
    ]),
    ...WEATHER_FIELDS,
    number('z', 'Height of the place', 'altitude', 300, [-400, 5000], altimeter),
  ],
  solve(v) {
    const p = altimeter(v) ? stationPressure(v.n['p']!, v.n['z']!) : v.n['p']!;
    const air = dayAir(v, p);
    if (isFailure(air)) return air;
    const z = densityAltitude(air.density_kgpm3);
    const dry = dayAir({ ...v, n: { ...v.n, rh: 0 } }, p);
    const share = air.density_kgpm3 / 1.225;
    return {
      answer: (say) => `Density altitude ${say(z, 'altitude')}: the air weighs ${say(air.density_kgpm3, 'density')}.`,
      rows: [
        { label: 'density altitude', value: z, measure: 'altitude' },
        { label: 'density', value: air.density_kgpm3, measure: 'density' },
        { label: 'of standard air', value: share, measure: 'fineShare', note: '15 °C at sea level, dry' },
        ...(altimeter(v) ? [{ label: 'pressure at the place', value: p, measure: 'barometer' as const }] : []),
        ...(isFailure(dry)
          ? []
          : [{ label: 'thinner by the damp', value: 1 - air.density_kgpm3 / dry.density_kgpm3, measure: 'fineShare' as const }]),
      ],
      steps: [
        ...(altimeter(v)
          ? [
              step(
                'station',
                [
                  term('p_s', 'sea-level setting', v.n['p']!, 'barometer', 'entered'),
                  term('z', 'height', v.n['z']!, 'altitude', 'entered'),
                ],
                term('p', 'at the place', p, 'barometer'),
              ),
            ]
          : []),
        ...air.steps,
        step('densityAltitude', [air.rho], term('z', 'density altitude', z, 'altitude')),
      ],
      notes: ['A sea-level setting taken for the pressure at the place makes the air look thicker than it is.'],
    };
  },
};

const METHODS = [
  ['SAE J1349', 'sae'],
  ['STD', 'std'],
  ['DIN 70020', 'din'],
  ['ISO 1585', 'iso'],
] as const;

export const CORRECTION: Sum = {
  key: 'correction',
  title: 'Correction factors',
  group: 'air',
  about: 'What each dyno correction makes of the same pull on today’s weather.',
  fields: [...WEATHER_FIELDS, number('P', 'Power as observed', 'power', 100_000, [100, 3e6])],
  solve(v) {
    const { n } = v;
    const weather = { p_Pa: n['p']!, T_K: n['T']!, rh: n['rh']! };
    const air = dayAir(v);
    if (isFailure(air)) return air;
    const p = term('p', 'barometer', weather.p_Pa, 'barometer', 'entered');
    const t = term('t', 'air temperature', weather.T_K, 'temperature', 'entered');
    const dry = term('p_d', 'dry pressure', weather.p_Pa - air.vapour_Pa, 'barometer');
    const solved = METHODS.map(([method, formula]) => ({ method, formula, found: correctionFactor(method, weather) }));
    const factors = solved.flatMap(({ method, formula, found }) => (isFailure(found) ? [] : [{ method, formula, ...found }]));
    const low = factors.reduce((a, b) => (b.factor < a.factor ? b : a));
    const high = factors.reduce((a, b) => (b.factor > a.factor ? b : a));
    const out = factors.filter((f) => !f.inRange);
    return {
      answer: (say) =>
        `The same pull reads ${say(n['P']! * low.factor, 'power')} by ${low.method} and ${say(n['P']! * high.factor, 'power')} by ${high.method}.`,
      warning:
        out.length === 0
          ? undefined
          : () => `${out.map((f) => f.method).join(' and ')} may not be used on such a day: the factor is outside 0.93 to 1.07.`,
      rows: factors.flatMap((f) => [
        {
          label: f.method,
          value: f.factor,
          measure: 'coefficient' as const,
          note: f.inRange ? 'factor' : 'factor, outside what the standard allows',
        },
        { label: `by ${f.method}`, value: n['P']! * f.factor, measure: 'power' as const },
      ]),
      steps: [
        air.steps[0]!,
        step('dryPressure', [p, term('e', 'vapour pressure', air.vapour_Pa, 'loss')], dry),
        ...factors.map((f) => step(f.formula, f.formula === 'din' ? [p, t] : [dry, t], term('f', f.method, f.factor, 'coefficient'))),
      ],
      notes: ['Runs may only be compared with the same correction on both. Boosted engines are not corrected well by any of them.'],
    };
  },
};
