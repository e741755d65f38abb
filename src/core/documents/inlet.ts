import { z } from 'zod';
import { bore_m } from './part';

const DEGREE = Math.PI / 180;
const angle = (least: number, most: number, words: string) =>
  z
    .number()
    .min(least * DEGREE - 1e-9, words)
    .max(most * DEGREE + 1e-9, words);

/** A valve as its card tells it. Null: the usual figure for the engine. */
export const valveDoc = z
  .object({
    count: z.number().int().min(1).max(3).nullable().default(null),
    diameter_m: z.number().min(0.01).max(0.09).nullable().default(null),
    lift_m: z.number().min(0.002).max(0.03).nullable().default(null),
    duration_rad: angle(120, 400, 'between 120° and 400° of the crank').nullable().default(null),
    /** Lift at which the duration is told, m; 0: at the seat. */
    toldAt_m: z.number().min(0).max(0.003).default(0),
    /** Lobe centre: after top dead centre for an inlet, before it for an exhaust. */
    centre_rad: angle(80, 140, 'between 80° and 140° from top dead centre').nullable().default(null),
  })
  .superRefine((v, ctx) => {
    if (v.lift_m !== null && v.toldAt_m >= v.lift_m)
      ctx.addIssue({ code: 'custom', path: ['toldAt_m'], message: 'The lift the duration is told at is not below the valve’s lift.' });
  });
export type ValveDoc = z.infer<typeof valveDoc>;

const runnerLength_m = z.number().min(0.04).max(1.5);

/** The inlet between plenum or open air and the valves. Null: the usual figure for the engine. */
export const inletDoc = z
  .object({
    /** From the runner's mouth to the valve's seat, m. */
    length_m: runnerLength_m.nullable().default(null),
    mouthBore_m: bore_m.nullable().default(null),
    /** Bore at the valve; between mouth and valve it runs straight. */
    valveBore_m: bore_m.nullable().default(null),
    edgeRadius_m: z.number().min(0).max(0.05).nullable().default(null),
    /** Individual throttles: from the mouth to the blade's shaft, m. */
    throttleAt_m: z.number().min(0).max(1.5).nullable().default(null),
    inlet: valveDoc.default(valveDoc.parse({})),
    exhaust: valveDoc.default(valveDoc.parse({})),
    /** Connecting rod between its centres, m. */
    rod_m: z.number().min(0.03).max(0.6).nullable().default(null),
    /** Exhaust primary of each cylinder; null: the valve opens into the back pressure. */
    primary: z
      .object({ length_m: z.number().min(0.1).max(2), bore_m })
      .nullable()
      .default(null),
  })
  .superRefine((i, ctx) => {
    if (i.length_m !== null && i.throttleAt_m !== null && i.throttleAt_m >= i.length_m)
      ctx.addIssue({
        code: 'custom',
        path: ['throttleAt_m'],
        message: 'The throttle’s shaft lies between mouth and valve: nearer than the runner is long.',
      });
  });
export type InletDoc = z.infer<typeof inletDoc>;

/** What of an inlet is tried against the one there is. Null: as it is. */
export const inletTrialDoc = z.object({
  length_m: runnerLength_m.nullable().default(null),
  mouthBore_m: bore_m.nullable().default(null),
  plenum_m3: z.number().min(1e-4).max(0.2).nullable().default(null),
});
export type InletTrial = z.infer<typeof inletTrialDoc>;
