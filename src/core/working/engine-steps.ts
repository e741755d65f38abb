import type { CarPlace } from '../documents/place';
import { airState } from '../air/state';
import type { JobDoc, Provenance } from '../documents/job';
import { sweptRate } from '../engine/demand';
import { isBoosted, type SideResult } from '../engine/induction';
import { driveRatio } from '../engine/pulley';
import { must } from '../failure';
import { chokesAt, type JobModel } from '../job/model';
import { jobVe } from '../job/problem';
import { knotCurve } from '../numbers/curve';
import type { SizedJob } from '../job/path';
import { step, term, type WorkingStep } from './working';

/** What workings read: the sized parts and where their figures come from. */
export type Marked = SizedJob & Pick<JobDoc, 'marks'>;

export const markOf = (doc: Marked, path: CarPlace): Provenance => doc.marks[path] ?? 'assumed';

function airStep(doc: Marked): { step: WorkingStep[]; density: number } {
  const { weather } = doc.car;
  const air = must(airState(weather));
  const p = term('p', 'barometer', weather.p_Pa, 'barometer', markOf(doc, 'weather.p_Pa'));
  const T = term('T', 'air temperature', weather.T_K, 'temperature', markOf(doc, 'weather.T_K'));
  const rh = term(String.raw`\varphi`, 'relative humidity', weather.rh, 'share', markOf(doc, 'weather.rh'));
  const e = term('e', 'vapour pressure', air.vapour_Pa, 'loss');
  return {
    density: air.density_kgpm3,
    step: [step('vapour', [rh, T], e), step('density', [p, e, T], term(String.raw`\rho`, 'density', air.density_kgpm3, 'density'))],
  };
}

/** Steps to the flow the engine takes at one rpm, in its stock state. */
export function demandSteps(doc: Marked, model: JobModel, index: number): WorkingStep[] {
  const boosted = boostedSteps(doc, model, model.reference.result, index, 'stock');
  if (boosted) return boosted;
  const rpm = model.rpm[index]!;
  const { step: air, density } = airStep(doc);
  const V = doc.car.engine.displacement_m3;
  const swept = sweptRate(V, rpm);
  const flow = model.demand_kgps[index]!;
  const N = term('N', 'engine speed', rpm, 'rpm', 'entered');
  const worked = doc.car.from.efficiency === 'table' ? markOf(doc, 've') : 'measured';
  const chokes = chokesAt(model, model.stock, index);
  const ve = chokes ? tableVe(doc, rpm) : flow / (swept * density);
  const asked = term(String.raw`\dot m`, 'needs', chokes ? ve * swept * density : flow, 'massFlow');
  return [
    ...air,
    step(
      'swept',
      [term('V_d', 'displacement', V, 'displacement', markOf(doc, 'engine.displacement_m3')), N],
      term(String.raw`\dot V`, 'swept volume rate', swept, 'benchFlow'),
    ),
    step(
      'demand',
      [
        term(String.raw`\eta_a`, 'volumetric efficiency', ve, 'fineShare', worked),
        term(String.raw`\dot V`, 'swept volume rate', swept, 'benchFlow'),
        term(String.raw`\rho`, 'density', density, 'density'),
      ],
      asked,
    ),
    ...(chokes ? [step('chokedFlow', [asked], term(String.raw`\dot m`, 'passes', flow, 'massFlow'))] : []),
  ];
}

/** The efficiency that the engine's table (or what was worked back) asks for at an rpm. */
function tableVe(doc: Marked, rpm: number): number {
  const curve = knotCurve(must(jobVe(doc.car)));
  return must(curve)(rpm);
}

/** Steps through a charger, or null on an engine without one. */
export function boostedSteps(doc: Marked, model: JobModel, solved: SideResult, index: number, who: string): WorkingStep[] | null {
  const { induction, weather } = doc.car;
  if (!isBoosted(solved)) return null;
  const rpm = model.rpm[index]!;
  const flow = term(String.raw`\dot m`, `flow, ${who}`, solved.massFlow_kgps[index]!, 'massFlow');
  const p1 = term('p_1', 'before the compressor', solved.inlet_Pa[index]!, 'plenum');
  const p2 = term('p_2', 'after the compressor', solved.compressorOut_Pa[index]!, 'plenum');
  const PR = term(String.raw`\mathrm{PR}`, 'pressure ratio', solved.pressureRatio[index]!, 'coefficient');
  const T1 = term('T_1', 'inlet air', weather.T_K, 'temperature', markOf(doc, 'weather.T_K'));
  const T2 = term('T_2', 'after the compressor', solved.compressorOut_K[index]!, 'temperature');
  const Tm = term('T_m', 'charge', solved.manifold_K[index]!, 'temperature');
  const pm = term('p_m', 'plenum', solved.plenum_Pa[index]!, 'plenum');
  const swept = sweptRate(doc.car.engine.displacement_m3, rpm);
  const steps: WorkingStep[] = [];
  if (induction.kind === 'drawThrough') {
    const { blower } = induction;
    const speed = term('N_b', 'blower speed', rpm * driveRatio(blower), 'rpm');
    const eta = term(String.raw`\eta_{vb}`, 'blower efficiency by volume', solved.etaBlower[index]!, 'fineShare');
    steps.push(
      step('blowerSpeed', [term('N', 'engine speed', rpm, 'rpm', 'entered'), term('i', 'ratio', driveRatio(blower), 'coefficient')], speed),
      step(
        'blowerSlip',
        [
          term(String.raw`\eta_0`, 'without slip', blower.eta0, 'fineShare', markOf(doc, 'induction.blower.eta0')),
          term('k', 'flow lost per pressure ratio', blower.k, 'coefficient', markOf(doc, 'induction.blower.k')),
          term('N_{b,k}', 'told at a blower speed of', blower.slipAt_rpm, 'rpm', markOf(doc, 'induction.blower.slipAt_rpm')),
          speed,
          PR,
        ],
        eta,
      ),
      step(
        'blowerFlow',
        [
          eta,
          term('V_b', 'per turn', blower.displacement_m3, 'displacement', markOf(doc, 'induction.blower.displacement_m3')),
          speed,
          p1,
          T1,
        ],
        flow,
      ),
    );
  }
  if (induction.kind === 'centrifugal') {
    const { compressor } = induction;
    steps.push(
      step(
        'centrifugal',
        [
          term(
            String.raw`\mathrm{PR}_\mathrm{ref}`,
            `at ${compressor.rpm} rpm`,
            compressor.pressureRatio,
            'coefficient',
            markOf(doc, 'induction.compressor.pressureRatio'),
          ),
        ],
        PR,
      ),
    );
  }
  const etaAd = 'blower' in induction ? induction.blower.etaAd : 'compressor' in induction ? induction.compressor.etaAd : 1;
  const cooler = 'cooler' in induction ? induction.cooler : null;
  steps.push(
    step('ratio', [p1, p2], PR),
    step('compression', [T1, PR, term(String.raw`\eta_\mathrm{ad}`, 'adiabatic efficiency', etaAd, 'fineShare', 'default')], T2),
  );
  if (cooler) {
    steps.push(
      step(
        'cooler',
        [
          T2,
          term(String.raw`\varepsilon`, 'cooler', cooler.effectiveness, 'fineShare', markOf(doc, 'induction.cooler.effectiveness')),
          term('T_c', 'coolant', cooler.coolant_K, 'temperature', markOf(doc, 'induction.cooler.coolant_K')),
        ],
        Tm,
      ),
    );
  }
  steps.push(
    step(
      'balance',
      [
        term(String.raw`\eta_m`, `efficiency, ${who}`, solved.etaManifold[index]!, 'fineShare'),
        term(String.raw`\dot V`, 'swept volume rate', swept, 'benchFlow'),
        pm,
        Tm,
      ],
      flow,
    ),
  );
  if (solved.drive_W[index]! > 0) steps.push(step('drive', [flow, T1, T2], term('P_d', `drive, ${who}`, solved.drive_W[index]!, 'power')));
  return steps;
}
