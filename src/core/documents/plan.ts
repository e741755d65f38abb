import { z } from 'zod';
import { ROAD_STRETCHES } from './kinds';
import { DECIDING, THRESHOLD_pct } from './kinds';
import { RUN_ORDERS } from './kinds';

export type RunOrder = (typeof RUN_ORDERS)[number];

/** A plan as it was written down before the first run: changed afterwards it no longer counts as one. */
export const writtenPlanDoc = z.object({
  at: z.iso.datetime(),
  order: z.enum(RUN_ORDERS),
  runsPerStay: z.number().int().min(1).max(50),
  visits: z.number().int().min(1).max(5),
  decidesOn: z.enum(DECIDING),
  threshold_pct: z.number(),
  /** What the model said then of the unit that was to be tested: later changes of the car stand beside it, never in its place. */
  predicted: z
    .object({ unitId: z.string().max(60), peak_pct: z.number(), thirds_pct: z.tuple([z.number(), z.number(), z.number()]) })
    .nullable()
    .default(null),
});
export type WrittenPlanDoc = z.infer<typeof writtenPlanDoc>;

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
  order: z.enum(RUN_ORDERS).default('A-B-A-B'),
  /** Runs a stay, of an alternating day pairs of single runs; null: as advised. */
  runsPerStay: z.number().int().min(1).max(50).nullable().default(null),
  /** Days on which the order is run. */
  visits: z.number().int().min(1).max(5).default(1),
  written: writtenPlanDoc.nullable().default(null),
  /** The model's prediction is shifted and widened by how it has gone in this shop. */
  learn: z.boolean().default(true),
  holds: holdsDoc.default(holdsDoc.parse({})),
  costPerRun: z.number().min(0).max(10_000).default(0),
  costPerVisit: z.number().min(0).max(100_000).default(0),
  minutesPerRun: z.number().min(0.5).max(240).default(6),
  minutesPerSwap: z.number().min(0).max(2880).default(30),
  minutesPerVisit: z.number().min(0).max(2880).default(45),
  costPerHour: z.number().min(0).max(10_000).default(0),
});
export type PlanDoc = z.infer<typeof planDoc>;

/** A day at the strip: what would count there, and what the day allows. */
export const stripPlanDoc = z.object({
  et_s: z.number().min(0.001).max(2).default(0.05),
  trap_mps: z
    .number()
    .min(0.01)
    .max(10)
    .default(0.5 * 0.44704),
  sixty_s: z.number().min(0.001).max(1).default(0.02),
  hours_min: z.number().min(10).max(1440).default(300),
  perPass_min: z.number().min(1).max(120).default(10),
  coolDown_min: z.number().min(0).max(240).default(20),
  swap_min: z.number().min(0).max(600).default(40),
});
export type StripPlanDoc = z.infer<typeof stripPlanDoc>;

/** The window of speed that road runs are timed through, and what is known of the road. */
export const roadDoc = z
  .object({
    from_mps: z
      .number()
      .min(0)
      .max(150)
      .default(100 / 3.6),
    to_mps: z
      .number()
      .min(1)
      .max(150)
      .default(200 / 3.6),
    rollout_m: z.number().min(0).max(5).default(0.3048),
    grade: z.number().min(-0.2, 'steeper than 20 %').max(0.2, 'steeper than 20 %').nullable().default(null),
    wind_mps: z.number().min(0).max(30).default(2),
    /** Whether both sides were driven over one stretch, and both ways. */
    stretch: z.enum(ROAD_STRETCHES).default('no'),
  })
  .refine((r) => r.to_mps > r.from_mps, { path: ['to_mps'], message: 'The window ends faster than it begins.' });
export type RoadDoc = z.infer<typeof roadDoc>;
