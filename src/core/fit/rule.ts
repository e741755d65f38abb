import type { RuleGroup } from '../documents/kinds';
import type { MeasureName } from '../units/measures';

/** What is known of a fitting, by name; null: nobody measured it. Figures in SI. */
export type Fact = number | string | boolean | null;
export type Facts = Readonly<Record<string, Fact>>;

/** Something that holds of the facts or not. A fact that is not known leaves it open. */
export type Condition =
  | {
      readonly fact: string;
      readonly is: '<' | '<=' | '>=' | '>' | '=' | '≠';
      readonly than:
        number | string | boolean | { readonly fact: string; readonly times?: number | undefined; readonly plus?: number | undefined };
    }
  | { readonly known: string }
  | { readonly all: readonly Condition[] }
  | { readonly any: readonly Condition[] };

/** A check of whether a throttle fits, as data. Texts may hold facts by name: "{pattern.off_m} off". */
export interface FitRule {
  readonly id: string;
  readonly group: RuleGroup;
  readonly title: string;
  /** Missing: it always counts. */
  readonly when?: Condition | undefined;
  readonly fits: Condition;
  /** Of one that does not fit: that something can be done. Missing: always, where there is a cure. */
  readonly curable?: Condition | undefined;
  /** Line of the parts list. */
  readonly cure?: string | undefined;
  readonly why: { readonly fits: string; readonly needs?: string | undefined; readonly not?: string | undefined; readonly ask: string };
  /** Figure that is shown beside the verdict. */
  readonly number?: string | undefined;
  /** Where the rule comes from. */
  readonly source: string;
}

export type FitWord = 'fits' | 'needs something' | 'does not fit' | 'not measured';

export interface FitCheck {
  readonly rule: FitRule;
  readonly word: FitWord;
  /** The rule's own text, facts not yet put in. */
  readonly why: string;
  /** Line of the parts list, facts not yet put in; null: nothing is needed, or it stands ready. */
  readonly cure: string | null;
}

/** Rounding of one figure into another must not decide a verdict. */
const SLACK = 1e-9;

/** Whether a condition holds; null: a fact it hangs on is not known. */
export function holds(c: Condition, facts: Facts): boolean | null {
  if ('known' in c) return (facts[c.known] ?? null) !== null;
  if ('all' in c) {
    const each = c.all.map((x) => holds(x, facts));
    return each.includes(false) ? false : each.includes(null) ? null : true;
  }
  if ('any' in c) {
    const each = c.any.map((x) => holds(x, facts));
    return each.includes(true) ? true : each.includes(null) ? null : false;
  }
  const mine = facts[c.fact] ?? null;
  let other: Fact;
  if (typeof c.than === 'object') {
    const at = facts[c.than.fact] ?? null;
    other = typeof at === 'number' ? at * (c.than.times ?? 1) + (c.than.plus ?? 0) : at;
  } else other = c.than;
  if (mine === null || other === null) return null;
  if (typeof mine !== 'number' || typeof other !== 'number') return c.is === '=' ? mine === other : c.is === '≠' ? mine !== other : null;
  switch (c.is) {
    case '<':
      return mine < other - SLACK;
    case '<=':
      return mine <= other + SLACK;
    case '>':
      return mine > other + SLACK;
    case '>=':
      return mine >= other - SLACK;
    case '=':
      return Math.abs(mine - other) <= SLACK;
    case '≠':
      return Math.abs(mine - other) > SLACK;
  }
}

/** Every rule that counts for these facts, with its verdict. `have`: rules whose cure stands ready. */
export function judgeFit(rules: readonly FitRule[], facts: Facts, have: readonly string[] = []): FitCheck[] {
  return rules.flatMap((rule): FitCheck[] => {
    const counts = rule.when ? holds(rule.when, facts) : true;
    if (counts === false) return [];
    const fits = counts === null ? null : holds(rule.fits, facts);
    if (fits === null) return [{ rule, word: 'not measured', why: rule.why.ask, cure: null }];
    if (fits) return [{ rule, word: 'fits', why: rule.why.fits, cure: null }];
    const curable = rule.cure !== undefined && (rule.curable ? holds(rule.curable, facts) === true : true);
    if (!curable) return [{ rule, word: 'does not fit', why: rule.why.not ?? rule.why.needs ?? rule.why.ask, cure: null }];
    if (have.includes(rule.id)) return [{ rule, word: 'fits', why: `${rule.cure} (stands ready)`, cure: null }];
    return [{ rule, word: 'needs something', why: rule.why.needs ?? rule.why.ask, cure: rule.cure! }];
  });
}

/** The word for the whole: the worst of its checks. What is not measured counts less than what needs something. */
export function worstWord(checks: readonly FitCheck[]): FitWord {
  for (const word of ['does not fit', 'needs something', 'not measured'] as const) if (checks.some((c) => c.word === word)) return word;
  return 'fits';
}

/** Facts of a text, in order. */
export const factsIn = (text: string): string[] => [...text.matchAll(/\{([a-zA-Z_.]+)\}/g)].map((m) => m[1]!);

/** Puts facts into a rule's text; `show` writes one with its unit. */
export const fillText = (text: string, facts: Facts, show: (value: Fact, name: string) => string): string =>
  text.replace(/\{([a-zA-Z_.]+)\}/g, (_, name: string) => show(facts[name] ?? null, name));

/** In what unit a fact is shown; by its name's ending. */
export function measureOfFact(name: string): MeasureName | null {
  if (name.endsWith('_m')) return 'bore';
  if (name.endsWith('_m2')) return 'area';
  if (name.endsWith('_rad')) return 'angle';
  if (name.endsWith('_V')) return 'voltage';
  if (name.endsWith('_Pa')) return 'loss';
  if (name.endsWith('_share')) return 'fineShare';
  return null;
}
