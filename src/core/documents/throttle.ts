import { z } from 'zod';
import { BORE_RANGE_m, LEAK_CLASSES } from './kinds';
import { figure } from './figure';
import { CLEARANCE_m } from './within';

const metres = (least: number, most: number): z.ZodNumber => z.number().min(least).max(most);

export type LeakClass = (typeof LEAK_CLASSES)[number];

/** Geometry of a throttle as a person enters it. Metres and radians. */
export const throttleDoc = z
  .object({
    shape: z.enum(['single', 'twin', 'oval', 'individual']),
    bore_m: metres(...BORE_RANGE_m),
    count: z.number().int().min(1).max(16),
    width_m: metres(...BORE_RANGE_m).optional(),
    height_m: metres(...BORE_RANGE_m).optional(),
    shaft_m: metres(0, 0.05),
    edge: z.enum(['round', 'flattened', 'knife']),
    closedAngle_rad: z.number().min(0).max(0.6),
    /** Gap between the shut blade and its bore, m, and where that figure comes from. */
    clearance_m: figure(CLEARANCE_m),
    leak: z.enum(LEAK_CLASSES).default('production'),
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
