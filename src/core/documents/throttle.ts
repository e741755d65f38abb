import { z } from 'zod';

const metres = (what: string, min: number, max: number): z.ZodNumber =>
  z.number().min(min, `${what} is too small`).max(max, `${what} is too large`);

/** Limits of a throttle's lengths, m: wider than anything sold, tight enough to catch a wrong unit. */
export const BORE_RANGE_m = [0.015, 0.25] as const;

/** Geometry of a throttle as a person enters it. Metres and radians. */
export const throttleDoc = z
  .object({
    shape: z.enum(['single', 'twin', 'oval']),
    bore_m: metres('the bore', ...BORE_RANGE_m),
    count: z.number().int().min(1).max(4),
    width_m: metres('the width', ...BORE_RANGE_m).optional(),
    height_m: metres('the height', ...BORE_RANGE_m).optional(),
    shaft_m: metres('the shaft', 0, 0.05),
    edge: z.enum(['round', 'flattened', 'knife']),
    closedAngle_rad: z.number().min(0).max(0.6),
    clearance_m: z.number().min(0).max(0.001),
  })
  .superRefine((t, ctx) => {
    const across = t.shape === 'oval' ? (t.height_m ?? 0) : t.bore_m;
    if (t.shaft_m >= across) {
      ctx.addIssue({
        code: 'custom',
        path: ['shaft_m'],
        message: 'The shaft is as thick as the bore: no air would pass. Measure the shaft across its thickest part in the bore.',
      });
    }
    if (t.shape === 'oval' && (t.width_m ?? 0) < (t.height_m ?? 0)) {
      ctx.addIssue({
        code: 'custom',
        path: ['width_m'],
        message: 'An oval is entered lying down: its width is the longer way, along the shaft.',
      });
    }
  });

export type ThrottleDoc = z.infer<typeof throttleDoc>;
