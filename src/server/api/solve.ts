import type { z } from 'zod';
import { isFailure } from '@/core/failure';
import { jobModel } from '@/core/job/model';
import type { Db } from '../db/client';
import { notFound, ServerProblem } from '../errors';
import { readJob } from '../jobs';
import { listUnits } from '../units';
import type { solveAnswer, solveRequest } from './shapes';

interface Solved {
  readonly massFlow_kgps: readonly number[];
  readonly plenum_Pa: readonly number[];
  readonly power_W: readonly number[];
  readonly torque_Nm: readonly number[];
}

const side = ({ massFlow_kgps, plenum_Pa, power_W, torque_Nm }: Solved) => ({
  massFlow_kgps: [...massFlow_kgps],
  plenum_Pa: [...plenum_Pa],
  power_W: [...power_W],
  torque_Nm: [...torque_Nm],
});

/** Stock and the asked-for units over engine speed, of a stored job or of one that came with the request. */
export async function solveJob(db: Db, wanted: z.infer<typeof solveRequest>): Promise<z.infer<typeof solveAnswer>> {
  if (!wanted.job && !wanted.jobId) throw new ServerProblem(422, 'invalid', 'job: give a job, or a jobId of a stored one.');
  const doc = wanted.job ?? (await readJob(db, wanted.jobId!)).doc;
  const shelf = await listUnits(db, wanted.unitIds);
  const units = wanted.unitIds.map((id) => {
    const unit = shelf.find((u) => u.id === id);
    if (!unit) throw notFound('throttle');
    return unit;
  });
  const model = jobModel(
    doc,
    units.map((unit) => ({ unit, opening: doc.pick.opening })),
  );
  if (isFailure(model))
    throw new ServerProblem(422, model.error, `This job cannot be solved: ${model.error}${model.where ? ` at ${model.where}` : ''}.`);
  return {
    rpm: [...model.rpm],
    stock: side(model.reference.result),
    candidates: model.candidates.map((c) => ({
      unitId: c.id,
      name: c.name,
      failure: isFailure(c.solved) ? c.solved.error : null,
      solved: isFailure(c.solved) ? null : side(c.solved),
      gain_pct: c.gain_pct ? [...c.gain_pct] : null,
    })),
  };
}
