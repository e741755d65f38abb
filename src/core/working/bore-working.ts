import type { JobDoc } from '../documents/job';
import type { ThrottleDoc } from '../documents/throttle';
import { isFailure, must } from '../failure';
import type { BoringStep } from '../fit/boring';
import { BENCH_PRESSURE_Pa, BENCH_TEMPERATURE_K } from '../flow/constants';
import { throttleWideOpen, THROTTLE_Cd } from '../flow/throttle';
import { idleEngine, type JobBounds } from '../job/bounds';
import type { SizedJob } from '../job/path';
import { CHAIN_DEPRESSION_Pa, type ChainLink, type Restriction } from '../job/restriction';
import type { SchoolKey } from '../job/schools';
import { closedLeak, idleAir, tipInGain } from '../sizing/manners';
import { schoolWorking } from './school-working';
import { step, term, type Working } from './working';

export type BoundKey = 'loss' | 'gasSpeed' | 'bench' | 'power' | 'idle' | 'tipIn' | 'fit';

/** The bounds that are a school's smallest bore, and whose. */
const SCHOOL_OF: Readonly<Partial<Record<BoundKey, SchoolKey>>> = {
  loss: 'loss',
  gasSpeed: 'gas speed',
  bench: 'displacement',
  power: 'power left',
};

const chosen = (own: number | null): 'default' | 'entered' => (own === null ? 'default' : 'entered');

/** How one of the seven bounds on the bore comes about. */
export function boundWorking(doc: SizedJob & Pick<JobDoc, 'marks'>, bounds: JobBounds, key: BoundKey): Working {
  const bore_m = bounds[`${key}_m`] ?? NaN;
  const school = SCHOOL_OF[key];
  if (school)
    return schoolWorking(doc, bounds, { key: school, massFlow_kgps: school === 'power left' ? null : bounds.worst.massFlow_kgps, bore_m });
  const D = term('D', 'largest bore', bore_m, 'bore', key === 'fit' ? 'entered' : 'computed');
  const { stock, engine } = doc.car;
  if (key === 'tipIn')
    return {
      title: 'Largest bore by the pedal',
      steps: [
        step(
          'tipInBore',
          [
            term(String.raw`A_\mathrm{stock}`, 'opened by the first tenth, stock', tipInGain(stock.throttle), 'area'),
            term('r', 'times stock, at most', bounds.limits.tipIn, 'ratio', chosen(doc.sizing.tipIn)),
          ],
          D,
        ),
      ],
      notes: ['A blade of the stock’s make in another size. An electronic throttle can be remapped and is allowed more.'],
    };
  if (key === 'fit') return { title: 'Largest bore that fits', steps: [], notes: ['Entered with the limits on the Air step.'] };
  const air = idleAir(idleEngine(doc.car), engine.idle_rpm);
  return {
    title: 'Largest bore by its leak',
    steps: [
      step(
        'idleAir',
        [term('N', 'idle speed', engine.idle_rpm, 'rpm', doc.marks['engine.idle_rpm'] ?? 'assumed')],
        term(String.raw`\dot m_i`, 'air the idle needs', air, 'smallFlow'),
      ),
      step(
        'idleBore',
        [
          term('s', 'blade clearance', stock.throttle.clearance_m, 'fineLength', 'assumed'),
          term('a', 'share the leak may feed', bounds.limits.idleShare, 'share', chosen(doc.sizing.idleShare)),
          term('n', 'bores', stock.throttle.count, 'count'),
        ],
        D,
      ),
    ],
    notes: ['It hangs on the blade’s real gap: measure it with a feeler, or read the throttle shut on a bench.'],
  };
}

/** A gain between two peaks, wherever in the range each has it. */
export function peakGainWorking(title: string, stock_W: number, other_W: number, notes: readonly string[] = []): Working {
  const P = term('P', 'peak, stock', stock_W, 'power');
  const P2 = term("P'", 'peak then', other_W, 'power');
  return { title, steps: [step('gain', [P, P2], term('g', 'gain', other_W / stock_W - 1, 'fineShare'))], notes };
}

/** What taking one part's loss away would bring. */
export function restrictionWorking(r: Restriction, name: string): Working {
  const without = term(String.raw`P_\mathrm{without}`, 'peak without its loss', r.freedPeak_W, 'power');
  const P = term('P', 'peak as it is', r.freedPeak_W / (1 + r.gain_pct / 100), 'power');
  return {
    title: `Worth of the ${name}`,
    steps: [step('freed', [P, without], term('g', 'worth', r.gain_pct / 100, 'fineShare'))],
    notes: ['Each part is tried alone, so what several bring does not add up exactly.'],
  };
}

/** What one bite out of the manifold brings, and the wall it leaves. */
export function biteWorking(
  s: BoringStep,
  before: { readonly opening_m: number; readonly gain_pct: number | null },
  from_m: number,
  wall_m: number | null,
): Working {
  const d = term('d', 'opening', s.opening_m, 'bore');
  const steps = [];
  if (s.gain_pct !== null && before.gain_pct !== null && s.perMillimetre_pct !== null)
    steps.push(
      step(
        'perMillimetre',
        [
          term('g', 'gain at peak', s.gain_pct / 100, 'fineShare'),
          term('g_0', 'a cut before', before.gain_pct / 100, 'fineShare'),
          d,
          term('d_0', 'bore before', before.opening_m, 'bore'),
        ],
        term('g_1', 'a millimetre brings', s.perMillimetre_pct / 100, 'fineShare'),
      ),
    );
  if (s.wall_m !== null && wall_m !== null)
    steps.push(
      step(
        'wallLeft',
        [term('w_0', 'wall there was', wall_m, 'bore', 'entered'), d, term('d_0', 'bore as it was', from_m, 'bore', 'entered')],
        term('w', 'wall left', s.wall_m, 'bore'),
      ),
    );
  return {
    title: 'A cut out of the manifold',
    steps,
    notes: ['Gains are over the stock throttle on the manifold as it is, solved for each bore.'],
  };
}

/** A link of the chain: what the part would show alone at the chain's depression. */
export function linkWorking(link: ChainLink): Working {
  const Q = term('Q', 'alone', link.flow_m3ps ?? NaN, 'benchFlow');
  const dp = term(String.raw`\Delta p`, 'at', CHAIN_DEPRESSION_Pa, 'depression', 'constant');
  const { basis } = link;
  if (basis === null || link.flow_m3ps === null) return { title: link.name, steps: [], notes: ['Nothing is known of it.'] };
  const read = (formula: 'handRule' | 'moveDepression') =>
    step(
      formula,
      [
        term('Q_1', 'as read', basis.from === 'reading' ? basis.flow_m3ps : NaN, 'benchFlow', 'measured'),
        term(String.raw`\Delta p_1`, 'read at', basis.from === 'reading' ? basis.depression_Pa : NaN, 'depression', 'measured'),
        dp,
      ],
      Q,
    );
  if (basis.from === 'reading')
    return { title: link.name, steps: [read(link.type === 'filter' ? 'handRule' : 'moveDepression')], notes: [] };
  return {
    title: link.name,
    steps: [
      step(
        'aloneFlow',
        [
          term('K', 'own loss coefficient', basis.K, 'coefficient'),
          term('K_e', 'entry', basis.entryK, 'coefficient', 'constant'),
          term('A_n', 'net area', basis.net_m2, 'area'),
          term('A_g', 'gross area', basis.gross_m2, 'area'),
          dp,
        ],
        Q,
      ),
    ],
    notes: ['From its shape: a reading of its own would be worth more.'],
  };
}

/** What follows from a throttle's shape: area, the round bore of equal area, and the leak when shut. */
export function shapeWorking(name: string, t: ThrottleDoc): Working {
  const wide = throttleWideOpen(t);
  if (isFailure(wide)) return { title: name, steps: [], notes: ['It cannot be built as it is described.'] };
  const gross = term('A_g', t.count > 1 ? `area of ${t.count} bores` : 'bore area', wide.grossArea_m2, 'area');
  const hidden = term('A_b', 'behind the shaft', wide.blockedArea_m2, 'area');
  const d = term('d', 'shaft', t.shaft_m, 'bore', 'entered');
  const size =
    t.shape === 'oval'
      ? step(
          'ovalArea',
          [term('w', 'width', t.width_m ?? NaN, 'bore', 'entered'), term('h', 'height', t.height_m ?? NaN, 'bore', 'entered')],
          gross,
        )
      : step('gross', [term('D', t.count > 1 ? 'bore of each' : 'bore', t.bore_m, 'bore', 'entered')], gross);
  const leak = must(closedLeak(wide.perimeter_m, t.clearance_m, THROTTLE_Cd, BENCH_PRESSURE_Pa, BENCH_TEMPERATURE_K));
  return {
    title: name,
    steps: [
      size,
      step('blocked', [d], hidden),
      step('net', [gross, hidden], term('A_n', 'net area', wide.netArea_m2, 'area')),
      step('equalArea', [gross], term('D', 'as one round bore', Math.sqrt((4 * wide.grossArea_m2) / Math.PI), 'bore')),
      step(
        'leak',
        [
          term('U', 'edge of the blade', wide.perimeter_m, 'length'),
          term('s', 'blade clearance', t.clearance_m, 'fineLength', t.leak === 'measured' ? 'measured' : 'assumed'),
        ],
        term(String.raw`\dot m_L`, 'leaks, shut', leak, 'smallFlow'),
      ),
    ],
    notes: ['The leak is that of bench air, 101.325 kPa and 20 °C, at an idle’s depression.'],
  };
}
