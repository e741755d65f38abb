import { z } from 'zod';
import { ADVICE } from './kinds';
import { figure } from './figure';
import { COST } from './within';

export type AdviceWord = (typeof ADVICE)[number];

/** What people add to a finished job: their words, what the work cost, and where they decide otherwise. */
export const verdictDoc = z.object({
  note: z.string().max(4000),
  /** Fitting, and parts beside the unit; money. */
  fitting: figure(COST).default(0),
  otherParts: figure(COST).default(0),
  override: z
    .object({
      advice: z.enum(ADVICE),
      reason: z.string().trim().min(1, 'Say why you decide otherwise: it is printed beside it.').max(400),
      by: z.string().trim().max(60).default(''),
    })
    .nullable()
    .default(null),
});
export type VerdictDoc = z.infer<typeof verdictDoc>;
