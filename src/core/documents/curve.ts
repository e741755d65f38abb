import { z } from 'zod';

/** A curve over engine speed, its rpm rising from row to row. */
export const curveOf = (value: z.ZodNumber, fewest: number, most: number) =>
  z
    .object({
      rpm: z.array(z.number().min(200).max(20_000)).min(fewest, `at least ${fewest} points`).max(most),
      value: z.array(value).min(fewest).max(most),
    })
    .superRefine((k, ctx) => {
      if (k.rpm.length !== k.value.length) ctx.addIssue({ code: 'custom', message: 'Every rpm needs its value.' });
      k.rpm.forEach((n, i) => {
        if (i > 0 && n <= k.rpm[i - 1]!) ctx.addIssue({ code: 'custom', path: ['rpm', i], message: 'The rpm must rise from row to row.' });
      });
    });
