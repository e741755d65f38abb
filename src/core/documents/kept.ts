import { z } from 'zod';
import { sameDocument } from './merge';

const made = new WeakMap<z.ZodType, z.ZodType>();

/**
 * A schema's form without its bounds: what has to be a figure, a text, one of these words or a list of those still has to be, and
 * what is left out is filled in; how large, how long and what goes with what is not asked. For documents as they are kept: a bound
 * that was drawn closer since must not lock what was taken in before it.
 */
export function withoutBounds<S extends z.ZodType>(schema: S): S {
  const before = made.get(schema);
  if (before) return before as S;
  const form = formOf(schema);
  made.set(schema, form);
  return form as S;
}

const map = (record: object, of: (s: z.ZodType) => z.ZodType): Record<string, z.ZodType> =>
  Object.fromEntries(Object.entries(record as Record<string, z.ZodType>).map(([key, s]) => [key, of(s)]));

function formOf(schema: z.ZodType): z.ZodType {
  const def = (schema as unknown as { _zod: { def: Record<string, unknown> & { type: string } } })._zod.def;
  const again = (change: object): z.ZodType => schema.clone({ ...def, checks: [], ...change } as never);
  const inner = (key: string): z.ZodType => withoutBounds(def[key] as z.ZodType);
  switch (def.type) {
    case 'number':
      return z.number();
    case 'string':
      return z.string();
    case 'object':
      return again({ shape: map(def['shape'] as object, withoutBounds), ...(def['catchall'] ? { catchall: inner('catchall') } : {}) });
    case 'array':
      return again({ element: inner('element') });
    case 'tuple':
      return again({ items: (def['items'] as z.ZodType[]).map(withoutBounds) });
    case 'record':
      return again({ keyType: inner('keyType'), valueType: inner('valueType') });
    case 'union':
      return again({ options: (def['options'] as z.ZodType[]).map(withoutBounds) });
    case 'nullable':
    case 'optional':
    case 'default':
    case 'prefault':
    case 'readonly':
    case 'nonoptional':
      return again({ innerType: inner('innerType') });
    case 'pipe':
      return again({ in: inner('in'), out: inner('out') });
    case 'intersection':
      return again({ left: inner('left'), right: inner('right') });
    case 'lazy': {
      const get = def['getter'] as () => z.ZodType;
      return again({ getter: () => withoutBounds(get()) });
    }
    default:
      return schema;
  }
}

/**
 * A document as it was kept. One that keeps to today's bounds is read as it would be taken in; one of an older day stands as it is,
 * filled in where it lacks something. Throws the schema's error where it is no such document at all.
 *
 * @returns the document, and what of it would not be taken in today; null: nothing.
 */
export function keptDocument<D>(schema: z.ZodType<D>, raw: unknown): { readonly doc: D; readonly amiss: z.ZodError | null } {
  const today = schema.safeParse(raw);
  return today.success ? { doc: today.data, amiss: null } : { doc: withoutBounds(schema).parse(raw), amiss: today.error };
}

/** The document alone, as `keptDocument` reads it. */
export const readKept = <D>(schema: z.ZodType<D>, raw: unknown): D => keptDocument(schema, raw).doc;

const at = (doc: unknown, path: readonly PropertyKey[]): unknown =>
  path.reduce<unknown>((v, key) => (typeof v === 'object' && v !== null ? (v as Record<PropertyKey, unknown>)[key] : undefined), doc);

/**
 * A document that is to take the place of `before`. What was amiss with that one already, and is as it was, does not keep the rest
 * from being changed; everything else has to be right.
 *
 * @returns the document, or the schema's error with what is newly wrong.
 */
export function checkedChange<D>(schema: z.ZodType<D>, before: unknown, after: unknown): z.ZodSafeParseResult<D> {
  const today = schema.safeParse(after);
  if (today.success) return today;
  const old = schema.safeParse(before).error?.issues ?? [];
  const key = (i: z.core.$ZodIssue): string => `${i.code} ${i.path.map(String).join('.')} ${i.message}`;
  const known = new Set(old.map(key));
  const fresh = today.error.issues.filter((i) => !known.has(key(i)) || !sameDocument(at(before, i.path), at(after, i.path)));
  if (fresh.length > 0) return { success: false, error: new z.ZodError(fresh) as z.ZodError<D> };
  return withoutBounds(schema).safeParse(after);
}
