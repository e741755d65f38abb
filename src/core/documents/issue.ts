import type { z } from 'zod';

/** What a figure would have to be, in SI. */
export type Wanted =
  { readonly kind: 'least' | 'more' | 'most' | 'less'; readonly bound: number } | { readonly kind: 'whole number' | 'figure' };

/** Something wrong in a document: where, in words, and of a figure outside its range what it may be. */
export interface Issue {
  readonly path: string;
  readonly message: string;
  readonly wanted?: Wanted | undefined;
  /** It is not there at all: known only where what was sent is. */
  readonly missing?: true;
}

type Found = z.core.$ZodIssue;

/** The library's own words, which a schema without words of its own is left with: they speak of types, not of figures. */
const LIBRARY_WORDS = /^(Invalid|Too small|Too big|Unrecognized key)/;

/** What the schema wants of a figure, where the schema has no words of its own for it. */
function wantedOf(issue: Found): Wanted | undefined {
  if (!LIBRARY_WORDS.test(issue.message)) return undefined;
  if (issue.code === 'too_small' && issue.origin !== 'string' && issue.origin !== 'array')
    return { kind: issue.inclusive === false ? 'more' : 'least', bound: Number(issue.minimum) };
  if (issue.code === 'too_big' && issue.origin !== 'string' && issue.origin !== 'array')
    return { kind: issue.inclusive === false ? 'less' : 'most', bound: Number(issue.maximum) };
  if (issue.code === 'invalid_type' && ['number', 'int', 'nan'].includes(issue.expected))
    return { kind: issue.expected === 'int' ? 'whole number' : 'figure' };
  return undefined;
}

const KINDS: Readonly<Record<string, string>> = {
  string: 'a text',
  number: 'a figure',
  int: 'a whole number',
  boolean: 'true or false',
  object: 'an object',
  record: 'an object',
  array: 'a list',
  tuple: 'a list',
  null: 'null',
};
const FORMATS: Readonly<Record<string, string>> = {
  uuid: 'a UUID',
  guid: 'a UUID',
  date: 'a day written 2026-05-31',
  time: 'a time of day written 14:05',
  datetime: 'a moment written 2026-05-31T14:05:00Z',
  url: 'an address',
  email: 'an e-mail address',
};
/** How a bound is told. */
export const BOUND = { least: 'at least', more: 'more than', most: 'at most', less: 'less than' } as const;
/** The longest piece of what was sent that is told back, characters. */
const TOLD = 40;

const quoted = (text: string): string => `“${text.length > TOLD ? `${text.slice(0, TOLD)}…` : text}”`;

/** What was sent, short. */
function told(value: unknown): string {
  if (value === null) return 'null';
  if (Array.isArray(value)) return 'a list';
  if (typeof value === 'object') return 'an object';
  return typeof value === 'string' ? quoted(value) : String(value);
}

const at = (sent: unknown, path: readonly PropertyKey[]): unknown =>
  path.reduce<unknown>(
    (v, key) => (typeof v === 'object' && v !== null ? (v as Readonly<Record<PropertyKey, unknown>>)[key] : undefined),
    sent,
  );

/** One wrong thing in plain words; the schema's own where it has some. */
function words(issue: Found, sent: unknown): string {
  if (!LIBRARY_WORDS.test(issue.message)) return issue.message;
  const value = at(sent, issue.path);
  const missing = sent !== undefined && value === undefined;
  const not = value === undefined ? '' : `, not ${told(value)}`;
  const needs = (what: string): string => (missing ? `It is missing: it has to be ${what}.` : `It has to be ${what}${not}.`);
  switch (issue.code) {
    case 'invalid_type':
      return needs(KINDS[issue.expected] ?? issue.expected);
    case 'invalid_value': {
      const all = issue.values.map((v) => (typeof v === 'string' ? quoted(v) : String(v)));
      return needs(all.length === 1 ? all[0]! : `one of ${all.join(', ')}`);
    }
    case 'unrecognized_keys':
      return `There is no ${issue.keys.map(quoted).join(', ')} here.`;
    case 'too_small':
    case 'too_big': {
      const wanted = wantedOf(issue);
      if (wanted && 'bound' in wanted) return `It has to be ${BOUND[wanted.kind]} ${wanted.bound}${not}.`;
      const n = Number(issue.code === 'too_small' ? issue.minimum : issue.maximum);
      const what = issue.origin === 'string' ? (n === 1 ? 'character' : 'characters') : n === 1 ? 'entry' : 'entries';
      return `It has to have ${issue.code === 'too_small' ? 'at least' : 'at most'} ${n} ${what}.`;
    }
    case 'invalid_format':
      return needs(FORMATS[issue.format] ?? 'written in its own form');
    case 'invalid_union':
      return missing ? 'It is missing.' : `It is none of the kinds there are${not}.`;
    default:
      return 'It is not possible.';
  }
}

/**
 * Of what may be one of several forms, what is wrong with the one that was meant: the one whose own fields are there, then the one
 * with the fewest faults. Where fields of each are missing nobody knows which was, and what each lacks is told.
 */
function spread(issue: Found, sent: unknown): Found[] {
  if (issue.code !== 'invalid_union' || issue.errors.length === 0) return [issue];
  const forms = issue.errors.map((form) => {
    const found = form.flatMap((i) => spread({ ...i, path: [...issue.path, ...i.path] } as Found, sent));
    const lacks = found.filter((i) => sent !== undefined && i.path.length === issue.path.length + 1 && at(sent, i.path) === undefined);
    const strange = found.reduce((n, i) => n + (i.code === 'unrecognized_keys' ? i.keys.length : 0), 0);
    return { found, lacks: lacks.map((i) => String(i.path.at(-1))), off: lacks.length + strange };
  });
  const least = Math.min(...forms.map((f) => f.off));
  const meant = forms.filter((f) => f.off === least);
  if (meant.length > 1 && meant.every((f) => f.lacks.length > 0)) {
    const each = forms.flatMap((f) => (f.lacks.length > 0 ? [f.lacks.map(quoted).join(' and ')] : []));
    return [{ code: 'custom', path: issue.path, message: `It needs ${each.join(', or ')}.`, input: undefined } as Found];
  }
  return meant.reduce((best, f) => (f.found.length < best.found.length ? f : best)).found;
}

/**
 * Everything a schema found wrong with what was `sent`, in its order and in plain words. Figures are in SI here;
 * `issueText` says them in the unit of their field.
 */
export const issuesOf = (error: z.ZodError, sent?: unknown): Issue[] =>
  error.issues
    .flatMap((i) => spread(i, sent))
    .map((i) => {
      const wanted = wantedOf(i);
      const missing = sent !== undefined && i.code !== 'custom' && i.code !== 'unrecognized_keys' && at(sent, i.path) === undefined;
      return { path: i.path.join('.'), message: words(i, sent), ...(wanted && { wanted }), ...(missing && { missing }) };
    });
