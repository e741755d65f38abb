import type { FormRule } from 'antd';
import type { z } from 'zod';
import { issuesOf, type Issue } from '@/core/documents/issue';

const ownWords = (issue: Issue): string => issue.message;

/** A field's schema, or a way to it, as a rule of a form: the first thing wrong with it, in the schema's own words unless others are given. */
export const zodRule = (schema: z.ZodType | (() => Promise<z.ZodType>), words: (issue: Issue) => string = ownWords): FormRule => ({
  validator: async (_rule, value: unknown) => {
    const parsed = (typeof schema === 'function' ? await schema() : schema).safeParse(value);
    if (!parsed.success) throw new Error(words(issuesOf(parsed.error)[0] ?? { path: '', message: 'That value is not possible.' }));
  },
});
