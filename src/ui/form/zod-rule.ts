import type { FormRule } from 'antd';
import type { z } from 'zod';

/** A field's schema as a rule of a form: the first thing wrong with it, in the schema's own words. */
export const zodRule = (schema: z.ZodType): FormRule => ({
  validator: (_rule, value: unknown) => {
    const parsed = schema.safeParse(value);
    return parsed.success ? Promise.resolve() : Promise.reject(new Error(parsed.error.issues[0]?.message ?? 'That value is not possible.'));
  },
});
