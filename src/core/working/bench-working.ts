import type { BenchRanked } from '../flow/bench-rank';
import { CHAIN_DEPRESSION_Pa } from '../job/restriction';
import { step, term, type Working } from './working';

/** How a flow record is moved to another depression and judged against its bore. */
export function benchWorking(r: BenchRanked): Working {
  const Q1 = term('Q_1', 'as read', r.flow_m3ps, 'benchFlow', 'measured');
  const dp1 = term(String.raw`\Delta p_1`, 'at', r.depression_Pa, 'depression', 'measured');
  const Q2 = term('Q_2', 'moved', r.moved_m3ps, 'benchFlow');
  return {
    title: `${r.name} on ${r.bench}`,
    steps: [
      step('moveDepression', [Q1, dp1], Q2),
      step('handRule', [Q1, dp1], term('Q_2', 'by the hand rule', r.handRule_m3ps, 'benchFlow')),
      step('ceiling', [Q1, term('D', 'bore', r.bore_m, 'bore', 'entered')], term('c', 'share of the ideal nozzle', r.ratio, 'fineShare')),
      ...(r.K === null
        ? []
        : [
            step(
              'benchK',
              [Q1, dp1, term('K_e', 'entry', r.entryK, 'coefficient', 'entered'), term('A_n', 'net area', r.netArea_m2, 'area')],
              term('K', 'loss coefficient', r.K, 'coefficient'),
            ),
          ]),
      step(
        'trueBore',
        [term('D', 'bore', r.bore_m, 'bore', 'entered'), term('c', 'share of the ideal nozzle', r.ratio, 'fineShare')],
        term('D_t', 'true bore', r.trueBore_m, 'bore'),
      ),
    ],
    notes: [
      'Typical with a radius plate: 80 to 97 % of the ideal nozzle; without, 55 to 82 %.',
      `A rating at ${Math.round(CHAIN_DEPRESSION_Pa)} Pa (28 inH₂O) equal to the demand does not mean no loss.`,
    ],
  };
}
