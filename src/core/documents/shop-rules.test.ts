import { measuredJob, measuredUnit, SHOP_RULE } from '../../../test/fitting';
import { fitFacts } from '../fit/facts';
import { judgeFit, measureOfFact } from '../fit/rule';
import { asFitRule } from '../fit/own-rule';
import { shopRuleDoc, shopRulesDoc, type ShopRule } from './shop-rules';
import { OWN_FACTS } from './kinds';

const RULE: ShopRule = { ...SHOP_RULE, cure: 'Spacer' };

it('asks only of facts that are gathered, each with a unit', () => {
  const facts = fitFacts(measuredJob(), measuredUnit());
  for (const fact of Object.keys(OWN_FACTS)) {
    expect([fact, fact in facts]).toEqual([fact, true]);
    expect(measureOfFact(fact)).toBe('bore');
  }
});

it('is judged like a rule of ours: fits, needs its cure, or rules out where there is none', () => {
  const facts = (left: number | null) => ({ 'cover.left_m': left });
  const word = (rule: ShopRule, left: number | null) => judgeFit([asFitRule(rule)], facts(left))[0]!.word;
  expect(word(RULE, 0.03)).toBe('fits');
  expect(word(RULE, 0.029)).toBe('needs something');
  expect(word({ ...RULE, cure: '' }, 0.029)).toBe('does not fit');
  expect(word({ ...RULE, is: '<=' }, 0.029)).toBe('fits');
  expect(word(RULE, null)).toBe('not measured');
});

it('what people write stands as they wrote it, braces and all', () => {
  const { why, cure } = asFitRule({ ...RULE, reason: 'see {bolt.grip_m}', cure: 'the {big} one' });
  expect(why.needs).toContain('see (bolt.grip_m)');
  expect(cure).toBe('the (big) one');
});

it.each<[Partial<Record<keyof ShopRule, unknown>>, string]>([
  [{ title: '  ' }, 'Give the check a name.'],
  [{ reason: '' }, 'Say why: the next person wants to know.'],
  [{ than: 50 }, 'Larger than a metre: look at the unit.'],
])('%j is refused with how to mend it', (more, message) => {
  expect(shopRuleDoc.safeParse({ ...RULE, ...more }).error?.issues[0]!.message).toBe(message);
});

it('takes no rule that could stand for one of ours, nor a fact nobody gathers', () => {
  expect(shopRulesDoc.safeParse([{ ...RULE, id: 'signal' }]).success).toBe(false);
  expect(shopRulesDoc.safeParse([{ ...RULE, fact: 'signal.car' }]).success).toBe(false);
});
