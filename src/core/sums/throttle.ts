import { failure, isFailure } from '../failure';
import { R_DRY } from '../flow/constants';
import { CHOKED_FLOW_FUNCTION, dynamicHead } from '../flow/duct';
import { entryK, junctionK, TAPER_LIMIT_rad } from '../flow/losses';
import { equalAreaBore, throttleWideOpen, type ShaftEdge } from '../flow/throttle';
import { fallingRoot } from '../numbers/root';
import { boreByLoss, ownLoss } from '../sizing/own-loss';
import { step, term, type WorkingStep } from '../working/working';
import { WEATHER_FIELDS } from './air';
import { choice, number, type Sum, type SumValues } from './sum';

const wantsBore = (v: SumValues): boolean => v.pick['find'] === 'bore';
const wantsFlow = (v: SumValues): boolean => !wantsBore(v);

export const BORE_FLOW: Sum = {
  key: 'bore-flow',
  title: 'Bore and flow',
  group: 'throttle',
  about: 'How much a throttle passes at a loss you allow it, or how large it must be.',
  fields: [
    choice('find', 'Look for', [
      ['flow', 'the flow a bore passes'],
      ['bore', 'the bore a flow needs'],
    ]),
    number('D', 'Bore', 'bore', 0.062, [0.012, 0.25], wantsFlow),
    number('m', 'Air', 'massFlow', 500 / 3600, [1e-4, 5], wantsBore),
    number('d', 'Shaft', 'bore', 0.008, [0, 0.04]),
    choice('edge', 'Shaft is', [
      ['round', 'round, screw heads'],
      ['flattened', 'flattened'],
      ['knife', 'knife-edged'],
    ]),
    number('dp', 'Loss allowed', 'loss', 1500, [10, 30_000]),
    ...WEATHER_FIELDS.slice(0, 2),
  ],
  solve(v) {
    const { n, pick } = v;
    const edge = pick['edge'] as ShaftEdge;
    const problem = { massFlow_kgps: n['m']!, p0_Pa: n['p']!, T0_K: n['T']!, shaft_m: n['d']!, edge, limit_Pa: n['dp']! };
    const bore = wantsBore(v) ? boreByLoss(problem) : n['D']!;
    if (typeof bore !== 'number') return bore;
    const wide = throttleWideOpen({ shape: 'single', bore_m: bore, shaft_m: n['d']!, edge });
    if (isFailure(wide)) return wide;
    const rootRT = Math.sqrt(R_DRY * n['T']!);
    const capacity = (CHOKED_FLOW_FUNCTION * wide.netArea_m2 * n['p']!) / rootRT;
    const spare = (flow: number): number => {
      const loss = ownLoss({ ...problem, massFlow_kgps: flow }, bore);
      return isFailure(loss) ? -n['dp']! : n['dp']! - loss;
    };
    const flow = wantsBore(v) ? n['m']! : fallingRoot(spare, 0, capacity, 1e-11).x;
    const density = n['p']! / (R_DRY * n['T']!);
    const speed = flow / (density * wide.netArea_m2);
    const D = term('D', 'bore', bore, 'bore', wantsBore(v) ? 'computed' : 'entered');
    const gross = term('A_g', 'bore area', wide.grossArea_m2, 'area');
    const hidden = term('A_b', 'behind the shaft', wide.blockedArea_m2, 'area');
    const net = term('A_n', 'net area', wide.netArea_m2, 'area');
    const K = term('K', 'loss coefficient', wide.K, 'coefficient', 'default');
    const allowed = term(String.raw`\Delta p`, 'allowed', n['dp']!, 'loss', 'entered');
    const m = term(String.raw`\dot m`, 'air', flow, 'massFlow', wantsBore(v) ? 'entered' : 'computed');
    const geometry: WorkingStep[] = [
      step('gross', [D], gross),
      step('blocked', [D, term('d', 'shaft', n['d']!, 'bore', 'entered')], hidden),
      step('net', [gross, hidden], net),
    ];
    return {
      answer: (say) =>
        wantsBore(v)
          ? `${say(flow, 'massFlow')} at a loss of ${say(n['dp']!, 'loss')} needs a bore of ${say(bore, 'bore')}.`
          : `At a loss of ${say(n['dp']!, 'loss')} it passes ${say(flow, 'massFlow')}.`,
      rows: [
        wantsBore(v)
          ? { label: 'bore', value: bore, measure: 'bore' as const }
          : { label: 'passes', value: flow, measure: 'massFlow' as const },
        { label: 'that is, of this air', value: flow / density, measure: 'benchFlow' },
        { label: 'net area', value: wide.netArea_m2, measure: 'area' },
        { label: 'the shaft hides', value: wide.blockedArea_m2 / wide.grossArea_m2, measure: 'fineShare' },
        { label: 'mean gas speed', value: speed, measure: 'gasSpeed' },
        { label: 'passes at most, choked', value: capacity, measure: 'massFlow' },
      ],
      steps: wantsBore(v)
        ? [step('limitLoss', [m, K, allowed], D), ...geometry]
        : [...geometry, step('ownLoss', [K, net, gross, allowed], m)],
      notes: [
        'Dry air, open behind the throttle. What it loses into a smaller manifold bore comes on top: that is counted in a job.',
        'A flow at a loss is no promise of power: what the loss costs depends on the whole intake.',
      ],
    };
  },
};

export const OVAL: Sum = {
  key: 'oval',
  title: 'Oval and round',
  group: 'throttle',
  about: 'The round bore that passes as much as an oval, and the one that leaks as much.',
  fields: [
    number('w', 'Width, along the shaft', 'bore', 0.078, [0.01, 0.4]),
    number('h', 'Height', 'bore', 0.054, [0.01, 0.25]),
    number('d', 'Shaft', 'bore', 0.008, [0, 0.04]),
  ],
  solve({ n }) {
    const wide = throttleWideOpen({ shape: 'oval', width_m: n['w']!, height_m: n['h']!, shaft_m: n['d']! });
    if (isFailure(wide)) return wide;
    const byArea = equalAreaBore(wide.grossArea_m2);
    const byEdge = wide.perimeter_m / Math.PI;
    const round = throttleWideOpen({ shape: 'single', bore_m: byArea, shaft_m: n['d']! });
    const w = term('w', 'width', n['w']!, 'bore', 'entered');
    const h = term('h', 'height', n['h']!, 'bore', 'entered');
    const A = term('A', 'area', wide.grossArea_m2, 'area');
    const U = term('U', 'edge', wide.perimeter_m, 'length');
    return {
      answer: (say) => `Wide open it passes like a round ${say(byArea, 'bore')}; shut it leaks like a ${say(byEdge, 'bore')}.`,
      rows: [
        { label: 'round bore of equal area', value: byArea, measure: 'bore' },
        { label: 'round bore of equal edge', value: byEdge, measure: 'bore' },
        { label: 'area', value: wide.grossArea_m2, measure: 'area' },
        { label: 'left beside the shaft', value: wide.netArea_m2, measure: 'area' },
        ...(isFailure(round)
          ? []
          : [{ label: 'left beside it in the round one', value: round.netArea_m2, measure: 'area' as const, note: 'same shaft' }]),
        { label: 'edge of the blade', value: wide.perimeter_m, measure: 'length' },
      ],
      steps: [
        step('ovalArea', [w, h], A),
        step('equalArea', [A], term('D', 'equal area', byArea, 'bore')),
        step('ovalEdge', [w, h], U),
        step('equalEdge', [U], term('D', 'equal edge', byEdge, 'bore')),
      ],
      notes: [
        'The oval is two half circles with straights between them. The two sizes differ: no one round bore stands for an oval in everything.',
      ],
    };
  },
};

const tapered = (v: SumValues): boolean => v.pick['how'] === 'taper';

export const STEP: Sum = {
  key: 'step',
  title: 'Step or taper',
  group: 'throttle',
  about: 'What a change of bore costs, as a bare step, with a rounded edge or as a taper.',
  fields: [
    number('D1', 'From a bore of', 'bore', 0.066, [0.01, 0.3]),
    number('D2', 'To a bore of', 'bore', 0.062, [0.01, 0.3]),
    choice('how', 'As', [
      ['step', 'a step'],
      ['taper', 'a taper'],
    ]),
    number('a', 'Half-angle', 'angle', (7 * Math.PI) / 180, [Math.PI / 180, TAPER_LIMIT_rad], tapered),
    number('r', 'Edge radius', 'bore', 0, [0, 0.03]),
    number('m', 'Air', 'massFlow', 500 / 3600, [1e-4, 5]),
    ...WEATHER_FIELDS.slice(0, 2),
  ],
  solve(v) {
    const { n } = v;
    const [D1, D2] = [n['D1']!, n['D2']!];
    const area = (d: number): number => (Math.PI / 4) * d * d;
    const angle = tapered(v) ? n['a']! : Math.PI / 2;
    const K = junctionK(area(D1), area(D2), angle, n['r']!);
    const bare = junctionK(area(D1), area(D2));
    const rootRT = Math.sqrt(R_DRY * n['T']!);
    const small = Math.min(D1, D2);
    const q = dynamicHead(n['m']!, area(small), n['p']!, rootRT);
    if (Number.isNaN(q)) return failure('choked');
    const narrows = D2 < D1;
    const length = Math.abs(D2 - D1) / (2 * Math.tan(n['a']!));
    const qTerm = term('q', 'head in the smaller area', q, 'smallLoss');
    const Kterm = term('K', 'loss coefficient', K, 'coefficient');
    const theta = term(String.raw`\theta`, 'half-angle', angle, 'angle', tapered(v) ? 'entered' : 'constant');
    const areas = [term('A_1', 'area before', area(D1), 'area'), term('A_2', 'area after', area(D2), 'area'), theta];
    const edge = term('r_e', 'edge', entryK(D2, n['r']!) / entryK(D2, 0), 'coefficient');
    return {
      answer: (say) =>
        D1 === D2
          ? 'No change of bore, nothing lost.'
          : `The ${narrows ? 'narrowing' : 'widening'} costs ${say(K * q, 'smallLoss')}${tapered(v) ? `; as a bare step it would cost ${say(bare * q, 'smallLoss')}` : ''}.`,
      rows: [
        { label: 'loss', value: K * q, measure: 'smallLoss' },
        { label: 'loss of a bare step', value: bare * q, measure: 'smallLoss' },
        { label: 'loss coefficient', value: K, measure: 'coefficient' },
        { label: 'head in the smaller bore', value: q, measure: 'smallLoss' },
        ...(tapered(v) ? [{ label: 'length of the taper', value: length, measure: 'bore' as const }] : []),
        { label: 'step on each side', value: Math.abs(D1 - D2) / 2, measure: 'fineLength' },
      ],
      steps: [
        step(narrows ? 'narrowing' : 'widening', narrows ? [...areas, edge] : areas, Kterm),
        step(
          'head',
          [term(String.raw`\dot m`, 'air', n['m']!, 'massFlow', 'entered'), term('A', 'smaller area', area(small), 'area')],
          qTerm,
        ),
        step('loss', [Kterm, qTerm], term(String.raw`\Delta p`, 'loss', K * q, 'smallLoss')),
        ...(tapered(v)
          ? [
              step(
                'taperLength',
                [term('D_1', 'from', D1, 'bore', 'entered'), term('D_2', 'to', D2, 'bore', 'entered'), theta],
                term('L', 'length', length, 'bore'),
              ),
            ]
          : []),
      ],
      notes: [
        'Going wider costs more than going narrower: the air tears off behind the edge. A radius helps only where it narrows.',
        'Up to a half-angle of 22.5° it counts as a taper, beyond as a step.',
      ],
    };
  },
};
