import type { JobDoc } from '../documents/job';
import { throttleWideOpen } from '../flow/throttle';
import { isFailure } from '../failure';
import { BENCH_DENSITY_kgpm3, R_DRY } from '../flow/constants';
import type { JobBounds } from '../job/bounds';
import { jobPulsation, type SizedJob } from '../job/path';
import { demandOnBench, type School } from '../job/schools';
import { CHAIN_DEPRESSION_Pa } from '../job/restriction';
import { step, term, type Working, type WorkingStep } from './working';

/** How one school comes to its smallest bore. */
export function schoolWorking(doc: SizedJob & Pick<JobDoc, 'marks'>, bounds: JobBounds, school: School): Working {
  const { worst, limits } = bounds;
  const flow = school.massFlow_kgps ?? worst.massFlow_kgps;
  const density = worst.p0_Pa / (R_DRY * worst.T0_K);
  const bore = term('D', 'smallest bore', school.bore_m ?? NaN, 'bore');
  const m = term(String.raw`\dot m`, 'flow it goes by', flow, 'massFlow');
  const rho = term(String.raw`\rho`, 'density at the throttle', density, 'density');
  const pulsation = jobPulsation(doc);
  const notes = [`At ${Math.round(worst.rpm)} rpm, where a throttle of any size would lose most.`];
  if (pulsation?.eventShare != null)
    notes.push('Each cylinder draws through its own bore: its flow pulsates, losses are those of the pulse and speed is its peak.');
  const steps: WorkingStep[] = [];
  switch (school.key) {
    case 'gas speed': {
      const wide = throttleWideOpen({
        shape: 'single',
        bore_m: school.bore_m ?? NaN,
        count: doc.car.stock.throttle.count,
        shaft_m: doc.car.stock.throttle.shaft_m,
      });
      const area = isFailure(wide) ? NaN : wide.netArea_m2;
      steps.push(
        step(
          'gasSpeed',
          [m, rho, term('v', 'speed limit', limits.speed_mps ?? NaN, 'gasSpeed', doc.sizing.speed_mps === null ? 'default' : 'entered')],
          term('A_n', 'net area', area, 'area'),
        ),
        step('boreOfArea', [], bore),
      );
      break;
    }
    case 'loss':
      steps.push(
        step(
          'limitLoss',
          [
            m,
            term(
              String.raw`\Delta p_\mathrm{allowed}`,
              'allowed loss',
              limits.loss_Pa,
              'loss',
              doc.air.allowedLoss_Pa === null ? 'default' : 'entered',
            ),
          ],
          bore,
        ),
      );
      notes.push('The throttle’s own loss and the head its bore throws away, on a manifold bored to match.');
      break;
    case 'power left':
      steps.push(
        step(
          'powerLeft',
          [term('s', 'share that may be left', limits.powerShare, 'fineShare', doc.sizing.powerShare === null ? 'default' : 'entered')],
          bore,
        ),
      );
      notes.push('Each size is solved with the whole path and engine, against no throttle and a manifold bore as wide as the part ahead.');
      break;
    default: {
      const at = school.key === 'bench rating' ? CHAIN_DEPRESSION_Pa : limits.loss_Pa / (pulsation?.own ?? 1);
      const Q = term('Q_b', 'demand in bench air', demandOnBench(flow, worst.p0_Pa, worst.T0_K), 'benchFlow');
      steps.push(
        step('benchDemand', [m, rho, term(String.raw`\rho_b`, 'bench air', BENCH_DENSITY_kgpm3, 'density', 'constant')], Q),
        step(
          'benchBore',
          [
            Q,
            term('c', 'passes of the ideal nozzle', limits.benchRatio, 'fineShare', doc.sizing.benchRatio === null ? 'default' : 'entered'),
            term(String.raw`\Delta p`, 'at a depression of', at, 'depression'),
          ],
          bore,
        ),
      );
      if (school.key === 'bench rating')
        notes.push(
          'A rating at 28 inH₂O equal to the demand does not mean no loss: the engine loses about that depression, some 7 % of its air.',
        );
    }
  }
  return { title: 'A school’s smallest bore', steps, notes };
}
