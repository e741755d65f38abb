import type { FormRule } from 'antd';
import type { z } from 'zod';
import { issuesOf, type Issue } from '@/core/documents/issue';
import { checksSoon, type Checks } from '@/ui/checks';

const ownWords = (issue: Issue): string => issue.message;

/**
 * A field's schema, or where it stands among the checks, as a rule of a form: the first thing wrong with the field, in the
 * schema's own words unless others are given. Where the checks cannot be had the field passes: the server says what is wrong.
 */
export const zodRule = (schema: z.ZodType | ((checks: Checks) => z.ZodType), words: (issue: Issue) => string = ownWords): FormRule => ({
  validator: async (_rule, value: unknown) => {
    const checks = typeof schema === 'function' ? await checksSoon() : null;
    const error = (typeof schema === 'function' ? checks && schema(checks) : schema)?.safeParse(value).error;
    if (error) throw new Error(words(issuesOf(error)[0] ?? { path: '', message: 'That value is not possible.' }));
  },
});
