import { z } from 'zod';
import { DECIDING, THRESHOLD_pct } from '../compare/sides';

/** In which order the sides are run. */
export const RUN_ORDERS = ['A-B-A', 'alternating', 'A-B'] as const;
export type RunOrder = (typeof RUN_ORDERS)[number];

/** What is to be the same on both sides, and within what where it is a figure. */
export const holdsDoc = z.object({
  inletAir_K: z.number().min(0.5).max(30).nullable().default(3),
  coolant_K: z.number().min(0.5).max(30).nullable().default(5),
  /** Air density, as a share. */
  density: z.number().min(0.001).max(0.2).nullable().default(0.01),
  gear: z.boolean().default(true),
  tune: z.boolean().default(true),
  fuel: z.boolean().default(true),
  pulley: z.boolean().default(true),
  sameDay: z.boolean().default(true),
});
export type HoldsDoc = z.infer<typeof holdsDoc>;

/** What is agreed on before the first run, so that nobody can choose afterwards what would have counted. */
export const planDoc = z.object({
  threshold_pct: z.number().min(0.05, 'below 0.05 % no dyno can tell').max(20).default(THRESHOLD_pct),
  decidesOn: z.enum(DECIDING).default('top'),
  order: z.enum(RUN_ORDERS).default('A-B-A'),
  /** Runs a side; null: what the scatter asks for. */
  runsPerSide: z.number().int().min(1).max(200).nullable().default(null),
  holds: holdsDoc.default(holdsDoc.parse({})),
  costPerRun: z.number().min(0).max(10_000).default(0),
  costPerVisit: z.number().min(0).max(100_000).default(0),
  minutesPerRun: z.number().min(0.5).max(240).default(6),
  minutesPerSwap: z.number().min(0).max(2880).default(45),
});
export type PlanDoc = z.infer<typeof planDoc>;
export const NO_PLAN: PlanDoc = planDoc.parse({});
