import { z } from 'zod';
import { INDUCTION_KINDS } from './kinds';
import { engineDoc } from './job';
import { BORE_RANGE_m } from './kinds';
import { figure } from './figure';
import { BENCH_FLOW_m3ps } from './within';

const bore = z.number().min(BORE_RANGE_m[0]).max(BORE_RANGE_m[1]);

/** What a first answer needs: an engine, its throttle, the pipe to it, and a throttle one thinks of. SI. */
export const guidedFacts = z
  .object({
    displacement_m3: engineDoc.shape.displacement_m3,
    redline_rpm: engineDoc.shape.redline_rpm,
    cylinders: engineDoc.shape.cylinders,
    kind: z.enum(INDUCTION_KINDS),
    bore_m: bore,
    shaft_m: z.number().min(0).max(0.05),
    pipe_m: bore,
    /** What the stock throttle is said or was read to flow at 28 inH₂O; null: nobody knows. */
    flow_m3ps: figure(BENCH_FLOW_m3ps).nullable(),
    flowIs: z.enum(['claim', 'reading']),
    candidate_m: bore,
  })
  .refine((f) => f.shaft_m < Math.min(f.bore_m, f.candidate_m), {
    path: ['shaft_m'],
    message: 'The shaft is as thick as the bore: no air would pass.',
  });
export type GuidedFacts = z.infer<typeof guidedFacts>;
