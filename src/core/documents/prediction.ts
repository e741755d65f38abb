import { z } from 'zod';

/** What a person (or the model) says before a reading. The reading comes later and is never taken back. */
export const predictionDoc = z
  .object({
    /** A flow reading of a part, or what a job's runs will show over its deciding stretch (%). */
    subject: z.enum(['bench', 'dyno']),
    subjectId: z.uuid().nullable(),
    title: z.string().trim().min(1).max(160),
    /** Who says so: a person's name, or "the model". */
    source: z.string().trim().min(1, 'Who is guessing?').max(60),
    predicted: z.number(),
    low: z.number(),
    high: z.number(),
  })
  .superRefine((p, ctx) => {
    if (!(p.low <= p.predicted && p.predicted <= p.high))
      ctx.addIssue({ code: 'custom', path: ['predicted'], message: 'The guess lies outside its own range.' });
  });
export type PredictionDoc = z.infer<typeof predictionDoc>;

export interface StoredPrediction extends PredictionDoc {
  readonly id: string;
  readonly measured: number | null;
  readonly madeAt: string;
}
