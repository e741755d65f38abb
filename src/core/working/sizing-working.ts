import { frictionPower } from '../engine/power';
import { sweptRate } from '../engine/demand';
import { CHARGE_HEATING_K, residualFactor } from '../engine/na';
import { isFailure, must } from '../failure';
import { GAMMA, R_DRY } from '../flow/constants';
import { dynamicHead } from '../flow/duct';
import { pulseHead } from '../flow/pulse';
import { ladderOf, type Ladder } from '../flow/ladder';
import { throttleOpenArea, throttleWideOpen, openingAngle } from '../flow/throttle';
import { closedLeak, idleAir, tipInGain } from '../sizing/manners';
import { isBoosted } from '../engine/induction';
import { idleEngine } from '../job/bounds';
import { strokeOf } from '../job/path';
import {
  chokesAt,
  chokingOf,
  sideStart,
  throttleLoss,
  throttleRows,
  type CandidateSide,
  type JobModel,
  type ModelSide,
  type PathStart,
} from '../job/model';
import type { RankedUnit } from '../job/ranking';
import { boostedSteps, demandSteps, markOf, type Marked } from './engine-steps';
import { step, term, type Working, type WorkingStep } from './working';

/** What the engine needs at one rpm. */
export const demandWorking = (doc: Marked, model: JobModel, index: number): Working => ({
  title: 'What the engine needs',
  steps: demandSteps(doc, model, index),
  notes: [
    ...chokedNotes(model, index),
    model.problem.kind === 'na'
      ? doc.car.from.efficiency === 'table'
        ? 'The efficiency is read off the curve on the Car step, with a smooth line between its points.'
        : 'The efficiency is worked back from the measured curve on the Car step.'
      : 'Flow, boost and charge temperature hang on each other: they are found together, by trying, so that compressor and engine agree.',
  ],
});

/** That the engine is held by its path there, and by which part. */
function chokedNotes(model: JobModel, index: number): string[] {
  const choking = chokesAt(model, model.stock, index) ? chokingOf(model, model.stock) : null;
  return choking
    ? [`From ${Math.round(choking.from_rpm)} rpm the ${choking.part} chokes: the engine gets what it passes, and no more.`]
    : [];
}

/** Net area in a throttle. */
function areaSteps(doc: Marked, side: ModelSide): WorkingStep[] {
  const t = side.fitted.throttle;
  const wide = must(throttleWideOpen(t));
  const from = side.id === 'stock' ? markOf(doc, 'stock.throttle.bore_m') : 'entered';
  const gross = term('A_g', 'bore area', wide.grossArea_m2, 'area');
  const blocked = term('A_b', 'hidden by the shaft', wide.blockedArea_m2, 'area');
  return [
    step('gross', [term('D', 'bore', t.bore_m, 'bore', from)], gross),
    step('blocked', [term('d', 'shaft', t.shaft_m, 'bore', from)], blocked),
    step('net', [gross, blocked], term('A_n', 'net area', wide.netArea_m2, 'area')),
  ];
}

/** A difference below this is rounding, Pa. */
const NOTICEABLE_Pa = 0.01;

/** The throttle's own loss at a flow, row by row. */
function lossSteps(side: ModelSide, ladder: Ladder, flow: number, start: PathStart): WorkingStep[] {
  const { compiled } = side;
  const { first, last, exit } = throttleRows(compiled);
  const rootRT = Math.sqrt(R_DRY * start.T0_K);
  const steps: WorkingStep[] = [];
  for (let i = first; i <= last; i += 1) {
    const row = compiled.rows[i]!;
    if (ladder.dp_Pa[i] === 0) continue;
    const p0 = i === 0 ? start.p0_Pa : ladder.running_Pa[i - 1]!;
    const pulses = row.eventShare > 0;
    const X = ((flow * rootRT) / (row.area_m2 * p0)) ** 2 / GAMMA;
    const q = pulses ? p0 * pulseHead(X, row.eventShare) : dynamicHead(flow, row.area_m2, p0, rootRT);
    const name = row.what === 'throttle' ? 'the throttle' : 'the step into the manifold';
    const head = term('q', `head in ${name}`, q, 'loss');
    steps.push(
      step(
        pulses ? 'pulseHead' : 'head',
        [
          term(String.raw`\dot m`, 'flow', flow, 'massFlow'),
          term('A', 'smaller area', row.area_m2, 'area'),
          term('p_0', 'pressure before it', p0, 'plenum'),
        ],
        head,
      ),
    );
    steps.push(
      step(
        'loss',
        [
          term(
            'K',
            `loss coefficient of ${name}`,
            row.K,
            'coefficient',
            row.what === 'throttle' && side.fitted.bench ? 'measured' : 'default',
          ),
          head,
          ...(row.pulsation === 1 ? [] : [term('F', 'pulsation, and what the path was taught', row.pulsation, 'coefficient')]),
        ],
        term(String.raw`\Delta p`, `lost in ${name}`, row.K * q * row.pulsation, 'loss'),
      ),
    );
    const more = ladder.dp_Pa[i]! - row.K * q * row.pulsation;
    if (more > NOTICEABLE_Pa)
      steps.push(step('beyondChoking', [], term(String.raw`\Delta p`, `lost behind ${name}, which chokes`, more, 'loss')));
  }
  if (exit)
    steps.push(
      step(
        'exit',
        [
          term('A', 'opening', compiled.exitArea_m2, 'area'),
          term(String.raw`\dot m`, 'flow', flow, 'massFlow'),
          ...(compiled.exitPulsation === 1
            ? []
            : [term('F', 'pulsation, and what the path was taught', compiled.exitPulsation, 'coefficient')]),
        ],
        term(String.raw`\Delta p`, 'head lost in the plenum', ladder.exit_Pa, 'loss'),
      ),
    );
  steps.push(step('sum', [], term(String.raw`\Delta p`, 'throttle and manifold bore together', throttleLoss(compiled, ladder), 'loss')));
  return steps;
}

const LOSS_NOTE = 'Counted as the throttle’s: its own loss, the step into the manifold, and the head its bore throws away in the plenum.';

/** What throttle and manifold bore lose at one rpm. */
export function throttleLossWorking(doc: Marked, side: ModelSide, ladder: Ladder, flow: number, start: PathStart): Working {
  return {
    title: `What ${side.name} loses`,
    steps: [...areaSteps(doc, side), ...lossSteps(side, ladder, flow, start)],
    notes: [LOSS_NOTE],
  };
}

/** The flow a side passes at the allowed loss, proved by its own loss at that flow. */
export function passesWorking(doc: Marked, model: JobModel, side: ModelSide, index: number = model.rpm.length - 1): Working {
  const flow = side.passes_kgps?.[index];
  if (flow === undefined) return { title: `What ${side.name} passes`, steps: [], notes: ['It passes nothing: two bores miss each other.'] };
  const start = sideStart(model, side, index);
  const ladder = ladderOf(side.compiled, flow, start.p0_Pa, start.T0_K);
  const allowed = term(
    String.raw`\Delta p_\mathrm{allowed}`,
    'allowed loss',
    model.allowedLoss_Pa,
    'loss',
    doc.air.allowedLoss_Pa === null ? 'default' : 'entered',
  );
  return {
    title: `What ${side.name} passes at the allowed loss`,
    steps: [
      ...areaSteps(doc, side),
      ...(isFailure(ladder) ? [] : lossSteps(side, ladder, flow, start)),
      step('limitFlow', [allowed], term(String.raw`\dot m`, 'passes', flow, 'massFlow')),
    ],
    notes: [
      LOSS_NOTE,
      'The flow is found by trying: it is the one at which the sum above equals the allowed loss, the parts ahead costing what they cost at that flow.',
    ],
  };
}

export function givesOutWorking(doc: Marked, model: JobModel, side: ModelSide): Working {
  const gives = side.givesOut_rpm;
  const at =
    gives === null
      ? model.rpm.length - 1
      : Math.max(
          0,
          model.rpm.findIndex((n) => n >= gives),
        );
  const base = passesWorking(doc, model, side, at);
  if (gives === null || side.passes_kgps === null) return base;
  const passes = term(String.raw`\dot m_\mathrm{passes}`, 'passes', side.passes_kgps[at]!, 'massFlow');
  return {
    title: `Where ${side.name} runs short from`,
    steps: [...base.steps, ...demandSteps(doc, model, at), step('givesOut', [passes], term('N', 'runs short from', gives, 'rpm'))],
    notes: base.notes,
  };
}

/** The plenum pressure as the sum of the ladder. */
export function plenumWorking(doc: Marked, model: JobModel, side: ModelSide, ladder: Ladder, index: number): Working {
  const start = sideStart(model, side, index);
  const behind = model.before !== null;
  const rows = ladder.what.flatMap((what, i) =>
    ladder.dp_Pa[i]! > 0 ? [term(String.raw`\Delta p`, what.replace('>', ' → '), ladder.dp_Pa[i]!, 'loss')] : [],
  );
  return {
    title: `Pressure in the plenum with ${side.name}`,
    steps: [
      step(
        'plenum',
        [
          behind
            ? term('p_0', 'after compressor and cooler', start.p0_Pa, 'plenum')
            : term(String.raw`p_\mathrm{amb}`, 'barometer', start.p0_Pa, 'barometer', markOf(doc, 'weather.p_Pa')),
          ...rows,
          term(String.raw`\Delta p`, 'head lost in the plenum', ladder.exit_Pa, 'loss'),
        ],
        term('p_m', 'plenum', ladder.end_Pa, 'plenum'),
      ),
    ],
    notes: ['“a → b” is the change of area between two parts.'],
  };
}

/** Power of a candidate at one point of the model. */
export function powerWorking(doc: Marked, model: JobModel, side: CandidateSide, i: number): Working {
  if (isFailure(side.solved)) return { title: side.name, steps: [], notes: ['It chokes.'] };
  const rpm = model.rpm[i]!;
  const ref = model.reference.result;
  const other = side.solved;
  const swept = term(String.raw`\dot V`, 'swept volume rate', sweptRate(doc.car.engine.displacement_m3, rpm), 'benchFlow');
  const flow = term(String.raw`\dot m`, 'flow, stock', ref.massFlow_kgps[i]!, 'massFlow');
  const flow2 = term(String.raw`\dot m'`, `flow, ${side.name}`, other.massFlow_kgps[i]!, 'massFlow');
  const P = term('P', 'power, stock', ref.power_W[i]!, 'power');
  const P2 = term("P'", `power, ${side.name}`, other.power_W[i]!, 'power');
  const Pf = term('P_f', 'friction', frictionPower(doc.car.engine.displacement_m3, rpm, strokeOf(doc.car.engine)), 'power');
  const measured = doc.car.from.power === 'measured';
  const refPower = step(
    measured ? 'measuredPower' : 'refPower',
    measured
      ? []
      : [
          flow,
          term(String.raw`\mathrm{BSFC}`, 'BSFC', doc.car.power.bsfc_kgpJ, 'fuelRate', markOf(doc, 'power.bsfc_kgpJ')),
          term(String.raw`\mathrm{AFR}`, 'air–fuel ratio', doc.car.power.afr, 'ratio', markOf(doc, 'power.afr')),
        ],
    P,
  );
  const friction = step(
    'friction',
    [
      term('N', 'engine speed', rpm, 'rpm', 'entered'),
      term('s', 'stroke', strokeOf(doc.car.engine), 'bore', markOf(doc, 'engine.stroke_m')),
      swept,
    ],
    Pf,
  );
  const gain = step('gain', [P, P2], term('g', 'gain', P2.value / P.value - 1, 'fineShare'));
  const notes = [
    'What the throttle does not change (the engine’s own efficiency, its friction, its fuel) is taken from the engine as it is and held.',
  ];
  const title = `Power with ${side.name} at this rpm`;
  if (isBoosted(ref) && isBoosted(other)) {
    const drive = [term('P_d', 'drive, stock', ref.drive_W[i]!, 'power'), term("P_d'", `drive, ${side.name}`, other.drive_W[i]!, 'power')];
    const steps = [
      ...(boostedSteps(doc, model, ref, i, 'stock') ?? []),
      refPower,
      ...(boostedSteps(doc, model, other, i, side.name) ?? []),
      friction,
      step('boostedPower', [P, Pf, ...drive, flow, flow2], P2),
      gain,
    ];
    return { title, steps, notes };
  }
  if (isBoosted(ref) || isBoosted(other)) return { title, steps: [], notes };
  const pm = term('p_m', 'plenum, stock', ref.plenum_Pa[i]!, 'plenum');
  const pm2 = term("p_m'", `plenum, ${side.name}`, other.plenum_Pa[i]!, 'plenum');
  const heating = 'heating_K' in doc.car.induction ? doc.car.induction.heating_K : CHARGE_HEATING_K;
  const T = term('T_m', 'charge temperature', doc.car.weather.T_K + heating, 'temperature', 'assumed');
  const phi = (manifold: number, exhaust: number): number => residualFactor(doc.car.engine.compressionRatio, manifold, exhaust);
  const residual = phi(other.plenum_Pa[i]!, other.exhaust_Pa[i]!) / phi(ref.plenum_Pa[i]!, ref.exhaust_Pa[i]!);
  return {
    title,
    steps: [
      ...demandSteps(doc, model, i),
      step('etaManifold', [flow, pm, T], term(String.raw`\eta_m`, 'efficiency, stock', ref.etaManifold[i]!, 'fineShare')),
      step(
        'residual',
        [term('r_c', 'compression ratio', doc.car.engine.compressionRatio, 'ratio', markOf(doc, 'engine.compressionRatio'))],
        term(String.raw`\varphi'/\varphi`, 'change by residual gas', residual, 'coefficient'),
      ),
      step('balance', [term(String.raw`\eta_m'`, `efficiency, ${side.name}`, other.etaManifold[i]!, 'fineShare'), pm2, T], flow2),
      refPower,
      friction,
      step('power', [P, Pf, flow, flow2, pm, pm2], P2),
      gain,
    ],
    notes,
  };
}

/** Why a throttle is or is not good-mannered: tip-in and leak. */
export function mannersWorking(doc: Marked, r: RankedUnit): Working {
  const t = r.unit.doc.throttle;
  const stock = doc.car.stock.throttle;
  const wide = must(throttleWideOpen(t));
  const { p_Pa, T_K } = doc.car.weather;
  const leak = closedLeak(wide.perimeter_m, t.clearance_m, 0.7, p_Pa, T_K);
  const idle = doc.car.engine.idle_rpm;
  const air = idleAir(idleEngine(doc.car), idle);
  return {
    title: `Drivability of ${r.unit.doc.name}`,
    steps: [
      step(
        'tipIn',
        [
          term(String.raw`A_\mathrm{stock}`, 'opened by the first tenth, stock', tipInGain(stock), 'area'),
          term('A', 'opened by the first tenth, this throttle', throttleOpenArea(t, openingAngle(t, 10)), 'area'),
        ],
        term('r', `ratio, limit ${r.tipInLimit}`, r.tipInRatio, 'ratio'),
      ),
      step(
        'leak',
        [term('U', 'edge length', wide.perimeter_m, 'length'), term('s', 'clearance', t.clearance_m, 'fineLength', 'assumed')],
        term(String.raw`\dot m_L`, 'leak, shut', leak, 'smallFlow'),
      ),
      step(
        'idleAir',
        [term('N', 'idle speed', idle, 'rpm', markOf(doc, 'engine.idle_rpm'))],
        term(String.raw`\dot m_i`, 'air the idle needs', air, 'smallFlow'),
      ),
    ],
    notes: [
      'Above the tip-in limit the car leaps off the first touch of the pedal. An electronic throttle can be remapped and is allowed more.',
      'The leak decides how low the engine can idle; it hangs on the blade’s real clearance. Measure it with a feeler.',
    ],
  };
}

/** The lip between a throttle's bore and the opening it bolts to. */
export function lipWorking(
  doc: Marked,
  name: string,
  bore_m: number,
  gross_m2: number,
  opening_m: number,
  loss: { readonly loss_Pa: number; readonly at_rpm: number } | null = null,
): Working {
  const D = term('D', `bore of ${name}, or the round bore of its area`, bore_m, 'bore', 'entered');
  const d = term('d', 'narrower of manifold and gasket bore', opening_m, 'bore', markOf(doc, 'stock.manifoldOpening_m'));
  const A = term('A_g', 'bore area', gross_m2, 'area');
  return {
    title: `${name} on its manifold bore`,
    steps: [
      step('overhang', [D, d], term('s', 'overhang on each side', (bore_m - opening_m) / 2, 'bore')),
      step('lip', [A, d], term(String.raw`A_\ell`, 'lip', Math.abs(gross_m2 - (Math.PI / 4) * opening_m ** 2), 'area')),
      ...(loss
        ? [
            step(
              'loss',
              [term('N', 'at peak power', loss.at_rpm, 'rpm'), A, d],
              term(String.raw`\Delta p`, 'the step into the manifold costs', loss.loss_Pa, 'loss'),
            ),
          ]
        : []),
    ],
    notes: ['A throttle may be fitted off-centre by a millimetre or so: look at the gasket’s print on both faces.'],
  };
}

/** What a gained kilowatt cost: parts only. */
export function priceWorking(name: string, price: number, gain_W: number): Working {
  return {
    title: `Cost of the gain, ${name}`,
    steps: [
      step(
        'price',
        [term(String.raw`\text{price}`, 'price', price, 'money', 'entered'), term("P' - P", 'gain at peak', gain_W, 'power')],
        term('c', 'per kilowatt', (1000 * price) / gain_W, 'money'),
      ),
    ],
    notes: ['Parts only: the fitting, the boring and the test days come on top.'],
  };
}
