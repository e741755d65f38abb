import { z } from 'zod';
import type { Within } from './within';

/** A figure within its bounds. */
export function figure({ least, more, most, less, whole }: Within): z.ZodNumber {
  const from = least !== undefined ? z.number().min(least) : more !== undefined ? z.number().gt(more) : z.number();
  const to = most !== undefined ? from.max(most) : less !== undefined ? from.lt(less) : from;
  return whole ? to.int() : to;
}
