import { z } from 'zod';
import { planDoc } from './plan';

/** What a person sets before a practice session at the stand-in dyno. */
export const practiceSetup = z.object({
  unitId: z.string(),
  plan: planDoc,
  /** What the person expects, % over the deciding stretch, before the first pull. */
  guess_pct: z.number().min(-50).max(100).nullable(),
});
export type PracticeSetup = z.infer<typeof practiceSetup>;

/** What is really so, kept from the person until they decide. Percent. */
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

export const PRACTICE_SIDES = ['A', 'B'] as const;

export const practiceRun = z.object({
  side: z.enum(PRACTICE_SIDES),
  /** Minutes waited before the pull. */
  rest_min: z.number().min(0).max(600),
  /** Minutes into the session at which it began, and what the session had cost by its end. */
  at_min: z.number().min(0),
  rpm: z.array(z.number()).min(2).max(5000),
  power_W: z.array(z.number()).min(2).max(5000),
  inletStart_K: z.number(),
  inletPeak_K: z.number(),
  coolantStart_K: z.number(),
  leftOut: z.string().max(200).nullable(),
});
export type PracticeRun = z.infer<typeof practiceRun>;

export const PRACTICE_WORDS = ['gain', 'loss', 'no difference that matters', "can't tell yet"] as const;
export const practiceDecision = z.object({ word: z.enum(PRACTICE_WORDS), estimate_pct: z.number().min(-100).max(100) });
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
