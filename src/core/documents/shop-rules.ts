import { z } from 'zod';
import { RULE_GROUPS, type FitRule } from '../fit/rule';

/** Facts a shop's own rule can ask about, and what people call them. */
export const OWN_FACTS = {
  'cover.left_m': 'free over the throttle',
  'cover.height_m': 'height over the bore',
  bore_m: 'bore',
  'opening.over_m': 'bore over the manifold’s',
  'unit.wall_m': 'thinnest wall of the throttle’s flange',
  'bolt.grip_m': 'clamped by the bolts',
  'harness.needs_m': 'plug sits farther by',
  'coupler.spigot_m': 'spigot outside',
  'coupler.longer_m': 'face moved by',
} as const;
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

/** A shop's rule in the form of all others. What people wrote stands as they wrote it. */
export function asFitRule(r: ShopRule): FitRule {
  const plain = (text: string): string => text.replaceAll('{', '(').replaceAll('}', ')');
  return {
    id: r.id,
    group: r.group,
    title: r.title,
    fits: { fact: r.fact, is: r.is, than: r.than },
    cure: r.cure === '' ? undefined : plain(r.cure),
    number: r.fact,
    why: {
      fits: `${OWN_FACTS[r.fact]}: {${r.fact}}.`,
      needs: `${plain(r.reason)} (${OWN_FACTS[r.fact]}: {${r.fact}})`,
      ask: `Measure: ${OWN_FACTS[r.fact]}.`,
    },
    source: 'this shop',
  };
}
