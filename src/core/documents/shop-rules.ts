import { z } from 'zod';
import { RULE_GROUPS } from './kinds';
import { OWN_FACTS } from './kinds';

export type OwnFact = keyof typeof OWN_FACTS;

/** A rule of the shop's own: one fact against one figure, the reason, and what cures it. */
export const shopRuleDoc = z.object({
  id: z.string().regex(/^own-[a-z0-9-]{1,40}$/),
  group: z.enum(RULE_GROUPS),
  title: z.string().trim().min(1, 'Give the check a name.').max(60),
  fact: z.enum(Object.keys(OWN_FACTS) as [OwnFact, ...OwnFact[]]),
  is: z.enum(['<=', '>=']),
  than: z.number().min(0).max(1, 'Larger than a metre: look at the unit.'),
  reason: z.string().trim().min(1, 'Say why: the next person wants to know.').max(300),
  /** What cures it; empty: nothing does. */
  cure: z.string().trim().max(200),
});
export type ShopRule = z.infer<typeof shopRuleDoc>;
export const shopRulesDoc = z.array(shopRuleDoc).max(60);
