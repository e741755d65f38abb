import { OWN_FACTS } from '../documents/kinds';
import type { ShopRule } from '../documents/shop-rules';
import type { FitRule } from './rule';

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
