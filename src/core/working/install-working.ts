import type { TorquePlan } from '../install/torque';
import { step, term, type Working } from './working';

/** How the rounds of a tightening come about. */
export function torqueWorking(plan: TorquePlan, bolt: string, into: string): Working {
  const final = plan.rounds_Nm.at(-1) ?? NaN;
  const T = term(
    'T',
    plan.from === 'maker' ? 'maker’s figure' : `cautious figure for ${bolt} in ${into}`,
    final,
    'smallTorque',
    plan.from === 'maker' ? 'entered' : 'default',
  );
  return {
    title: 'Tightening, round by round',
    steps: plan.rounds_Nm.map((Nm, i) => step('torqueRound', [T], term(`T_${i + 1}`, `round ${i + 1}`, Nm, 'smallTorque'))),
    notes: ['The maker’s figure and order beat these, always.'],
  };
}

/** How much of its area a blade opens at its full stop. */
export function stopWorking(full_rad: number, area_m2: number, net_m2: number): Working {
  return {
    title: 'Open at the full stop',
    steps: [
      step(
        'stopShare',
        [
          term(String.raw`\theta`, 'angle at the full stop', full_rad, 'angle', 'entered'),
          term('A', 'open area there', area_m2, 'area'),
          term('A_n', 'area in line with the air', net_m2, 'area'),
        ],
        term('s', 'share', area_m2 / net_m2, 'fineShare'),
      ),
    ],
    notes: [],
  };
}
