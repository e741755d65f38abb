import type { z } from 'zod';
import { issuesOf } from '@/core/documents/issue';
import { checkedChange } from '@/core/documents/kept';
import { invalid } from './errors';

/** A document that is to take the place of `before`, or the refusal that says what is wrong with it and was not so before. */
export function acceptedChange<D>(schema: z.ZodType<D>, before: unknown, after: unknown): D {
  const checked = checkedChange(schema, before, after);
  if (checked.success) return checked.data;
  throw invalid(
    issuesOf(checked.error, after).map((issue) => ({ ...issue, path: issue.path === '' ? 'doc' : `doc.${issue.path}` })),
    'document',
  );
}
