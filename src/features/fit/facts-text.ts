import { fillText, measureOfFact, type Fact, type Facts } from '@/core/fit/rule';
import type { UnitPack } from '@/core/units/measures';
import { formatQuantity } from '@/core/units/quantity';

const WORDS: Readonly<Record<string, string>> = {
  'electronic-analogue': 'electronic, analogue',
  'electronic-digital': 'electronic, digital',
  // As it is stored.
  'on the unit': 'on the throttle',
};

/** A fact with its unit, as people read it. */
export function factText(value: Fact, name: string, pack: UnitPack): string {
  if (value === null) return 'unknown';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'string') return WORDS[value] ?? value;
  if (name === 'year.from' && value === 0) return 'any';
  if (name === 'year.to' && value === 9999) return 'now';
  const measure = measureOfFact(name);
  return measure ? formatQuantity(value, measure, pack) : String(value);
}

/** A rule's text with the facts in it. */
export const ruleText = (text: string, facts: Facts, pack: UnitPack): string => fillText(text, facts, (v, name) => factText(v, name, pack));
