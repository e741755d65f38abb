import { isFailure } from '../failure';
import { benchCeiling, benchMoveToDepression } from '../flow/bench';
import { BENCH_PRESSURE_Pa } from '../flow/constants';
import { nozzlePsi } from '../flow/nozzle';
import { step, term } from '../working/working';
import { number, type Sum } from './sum';
import { INCH_OF_WATER_Pa } from '../units/units';

const DEPRESSION_RANGE = [50, 40_000] as const;

export const DEPRESSION: Sum = {
  key: 'depression',
  title: 'Another depression',
  group: 'bench',
  about: 'A bench figure carried to the depression of another bench.',
  fields: [
    number('Q', 'Flow as read', 'benchFlow', 0.32, [1e-4, 5]),
    number('from', 'Read at', 'depression', 25 * INCH_OF_WATER_Pa, DEPRESSION_RANGE),
    number('to', 'Wanted at', 'depression', 28 * INCH_OF_WATER_Pa, DEPRESSION_RANGE),
  ],
  solve({ n }) {
    const moved = benchMoveToDepression(n['Q']!, n['from']!, n['to']!);
    if (isFailure(moved)) return moved;
    const Q = term('Q_1', 'as read', n['Q']!, 'benchFlow', 'entered');
    const dp1 = term(String.raw`\Delta p_1`, 'read at', n['from']!, 'depression', 'entered');
    const dp2 = term(String.raw`\Delta p_2`, 'wanted at', n['to']!, 'depression', 'entered');
    const p0 = term('p_0', 'bench air', BENCH_PRESSURE_Pa, 'barometer', 'constant');
    return {
      answer: (say) => `At ${say(n['to']!, 'depression')} it would read ${say(moved.flow_m3ps, 'benchFlow')}.`,
      rows: [
        { label: 'moved through the ideal nozzle', value: moved.flow_m3ps, measure: 'benchFlow' },
        { label: 'by the hand rule', value: moved.handRule_m3ps, measure: 'benchFlow', note: 'square root of the depressions' },
        { label: 'the hand rule is out by', value: moved.handRule_m3ps / moved.flow_m3ps - 1, measure: 'fineShare' },
      ],
      steps: [
        step('moveDepression', [Q, dp1, dp2, p0], term('Q_2', 'moved', moved.flow_m3ps, 'benchFlow')),
        step('handRule', [Q, dp1, dp2], term('Q_2', 'by the hand rule', moved.handRule_m3ps, 'benchFlow')),
      ],
      notes: ['Moved figures of two benches still differ by more than two good parts do: compare parts on one bench.'],
    };
  },
};

export const CEILING: Sum = {
  key: 'ceiling',
  title: 'Can the figure be true?',
  group: 'bench',
  about: 'A bench figure against what a perfect nozzle of the bore could pass.',
  fields: [
    number('Q', 'Flow claimed', 'benchFlow', 0.32, [1e-4, 10]),
    number('dp', 'At', 'depression', 28 * INCH_OF_WATER_Pa, DEPRESSION_RANGE),
    number('D', 'Bore', 'bore', 0.066, [0.01, 0.3]),
    number('n', 'Bores', 'count', 1, [1, 12]),
  ],
  solve({ n }) {
    const count = Math.round(n['n']!);
    const found = benchCeiling(n['Q']!, n['dp']!, n['D']!, count);
    if (isFailure(found) && found.error !== 'bench_above_ceiling') return found;
    const ratio = found.ratio!;
    const ceiling = found.ceiling_m3ps!;
    const tooMuch = isFailure(found);
    const trueBore = n['D']! * Math.sqrt(ratio);
    const area = count * (Math.PI / 4) * n['D']! ** 2;
    const doubtful = !tooMuch && found.rating === 'doubtful';
    const share = term('c', 'share of the ideal nozzle', ratio, 'fineShare');
    return {
      answer: (say) =>
        tooMuch
          ? `It cannot: a perfect nozzle of this bore passes ${say(ceiling, 'benchFlow')}. It would take ${say(trueBore, 'bore')}.`
          : doubtful
            ? `Hardly: ${say(ratio, 'share')} of what a perfect nozzle of this bore passes.`
            : `It can: ${say(ratio, 'share')} of what a perfect nozzle of this bore passes.`,
      warning: tooMuch ? () => 'Ask for the depression, the bore and the entry it was taken with.' : undefined,
      rows: [
        { label: 'a perfect nozzle passes', value: ceiling, measure: 'benchFlow' },
        { label: 'share of it', value: ratio, measure: 'fineShare' },
        { label: 'true bore', value: trueBore, measure: 'bore', note: 'perfect nozzle that passes as much' },
      ],
      steps: [
        step(
          'ceiling',
          [
            term('Q', 'claimed', n['Q']!, 'benchFlow', 'entered'),
            term('A', count === 1 ? 'bore area' : `area of ${count} bores`, area, 'area'),
            term(String.raw`\Delta p`, 'depression', n['dp']!, 'depression', 'entered'),
            term(String.raw`\Psi`, 'nozzle function', nozzlePsi(1 - n['dp']! / BENCH_PRESSURE_Pa), 'coefficient'),
          ],
          share,
        ),
        step('trueBore', [term('D', 'bore', n['D']!, 'bore', 'entered'), share], term('D_t', 'true bore', trueBore, 'bore')),
      ],
      notes: ['Usual: 80 to 97 % with a radius plate, 55 to 82 % bare.'],
    };
  },
};
