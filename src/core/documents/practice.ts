import { z } from 'zod';
import { planDoc } from './plan';
import { PRACTICE_RIGS, PRACTICE_SIDES, PRACTICE_WORDS } from './kinds';
import { figure } from './figure';
import { ANSWER_pct, REST_min } from './within';

/** What a person sets before a practice session at the stand-in dyno. */
export type PracticeRig = (typeof PRACTICE_RIGS)[number];

export const practiceSetup = z.object({
  rig: z.enum(PRACTICE_RIGS).default('dyno'),
  unitId: z.string(),
  plan: planDoc,
  /** What the person expects, % over the deciding stretch, before the first pull. */
  guess_pct: z.number().min(-50).max(100).nullable(),
});
export type PracticeSetup = z.infer<typeof practiceSetup>;

/** What is really so, kept from the person until they decide. Percent; beside it the seed hides refits, days and a run gone wrong. */
export interface PracticeTruth {
  /** The side's true effect at the bottom and at the top of the range; linear between. */
  readonly bottom_pct: number;
  readonly top_pct: number;
  readonly driftPerPull_pct: number;
}

/** The stock engine at the wheels, as the session's dyno turns it: fixed when the session begins. */
export interface PracticeCurve {
  readonly rpm: readonly number[];
  readonly power_W: readonly number[];
}

export const practiceRun = z.object({
  side: z.enum(PRACTICE_SIDES),
  /** Minutes waited before the pull. */
  rest_min: figure(REST_min),
  /** The car was strapped down anew before it; which day of the session it is. */
  newStay: z.boolean().default(false),
  day: z.number().int().min(1).max(5).default(1),
  /** At the strip: what the slip says, and the air. */
  pass: z.object({ et_s: z.number(), trap_mps: z.number(), densityAltitude_m: z.number() }).nullable().default(null),
  /** Minutes into the session at which it began, and what the session had cost by its end. */
  at_min: z.number().min(0),
  rpm: z.array(z.number()).max(5000),
  power_W: z.array(z.number()).max(5000),
  inletStart_K: z.number(),
  inletPeak_K: z.number(),
  coolantStart_K: z.number(),
  leftOut: z.string().max(200).nullable(),
});
export type PracticeRun = z.infer<typeof practiceRun>;

export const practiceDecision = z.object({ word: z.enum(PRACTICE_WORDS), estimate_pct: figure(ANSWER_pct) });
export type PracticeDecision = z.infer<typeof practiceDecision>;

export interface StoredPractice {
  readonly id: string;
  readonly setup: PracticeSetup;
  readonly runs: readonly PracticeRun[];
  readonly decision: PracticeDecision | null;
  /** Only after the decision. */
  readonly truth: PracticeTruth | null;
  readonly startedAt: string;
}
