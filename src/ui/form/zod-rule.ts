import type { FormRule } from 'antd';
import type { z } from 'zod';

/** A field's schema, or a way to it, as a rule of a form: the first thing wrong with it, in the schema's own words. */
export const zodRule = (schema: z.ZodType | (() => Promise<z.ZodType>)): FormRule => ({
  validator: async (_rule, value: unknown) => {
    const parsed = (typeof schema === 'function' ? await schema() : schema).safeParse(value);
    if (!parsed.success) throw new Error(parsed.error.issues[0]?.message ?? 'That value is not possible.');
  },
});
