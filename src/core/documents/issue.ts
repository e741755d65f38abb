import type { z } from 'zod';

/** What a figure would have to be, in SI. */
export type Wanted =
  { readonly kind: 'least' | 'more' | 'most' | 'less'; readonly bound: number } | { readonly kind: 'whole number' | 'figure' };

/** Something wrong in a document: where, in words, and of a figure outside its range what it may be. */
export interface Issue {
  readonly path: string;
  readonly message: string;
  readonly wanted?: Wanted | undefined;
}

/** What the schema wants of a figure, where the schema has no words of its own for it. */
function wantedOf(issue: z.core.$ZodIssue): Wanted | undefined {
  if (issue.code === 'too_small' && issue.origin !== 'string' && issue.origin !== 'array' && /^Too small/.test(issue.message))
    return { kind: issue.inclusive === false ? 'more' : 'least', bound: Number(issue.minimum) };
  if (issue.code === 'too_big' && issue.origin !== 'string' && issue.origin !== 'array' && /^Too big/.test(issue.message))
    return { kind: issue.inclusive === false ? 'less' : 'most', bound: Number(issue.maximum) };
  if (issue.code === 'invalid_type' && /^Invalid input/.test(issue.message))
    return { kind: issue.expected === 'int' ? 'whole number' : 'figure' };
  return undefined;
}

/** Everything a schema found wrong, in its order. */
export const issuesOf = (error: z.ZodError): Issue[] =>
  error.issues.map((i) => {
    const wanted = wantedOf(i);
    return { path: i.path.join('.'), message: i.message, ...(wanted && { wanted }) };
  });
