import { z } from 'zod';
import { CORRECTION_METHODS } from '../runs/correction';
import { throttleDoc } from './throttle';
import { controlKind } from './unit';

export const PROVENANCE = ['measured', 'entered', 'assumed'] as const;
export type Provenance = (typeof PROVENANCE)[number];

const partBase = {
  id: z.string().min(1).max(40),
  name: z.string().max(40).optional(),
  join: z
    .object({
      halfAngle_rad: z
        .number()
        .min(0.005)
        .max(Math.PI / 2)
        .optional(),
      edgeRadius_m: z.number().min(0).max(0.05).optional(),
      offset_m: z.number().min(0).max(0.2).optional(),
    })
    .optional(),
};
const bore_m = z.number().min(0.015).max(0.3);
const bend = z.object({
  angle_rad: z.number().min(0).max(Math.PI),
  radiusRatio: z.number().min(0.5, 'a bend cannot be tighter than half its bore').max(20),
});

/**
 * A part of the intake as a person edits it. The throttle and the manifold opening carry no sizes of their own: they are
 * the car's, so that a bore is typed in one place only.
 */
export const partDoc = z.discriminatedUnion('type', [
  z.object({ ...partBase, type: z.literal('openEnd'), bore_m, edgeRadius_m: z.number().min(0).max(0.1) }),
  z.object({
    ...partBase,
    type: z.literal('filter'),
    bore_m,
    ratedFlow_m3ps: z.number().min(0.005).max(5),
    ratedLoss_Pa: z.number().min(10).max(20_000),
    loading: z.number().min(1).max(5),
  }),
  z.object({
    ...partBase,
    type: z.literal('pipe'),
    bore_m,
    length_m: z.number().min(0).max(5),
    roughness_m: z.number().min(0).max(0.01),
    bends: z.array(bend).max(8),
  }),
  z.object({ ...partBase, type: z.literal('meter'), bore_m, K: z.number().min(0).max(20) }),
  z.object({
    ...partBase,
    type: z.literal('taper'),
    inBore_m: bore_m,
    outBore_m: bore_m,
    halfAngle_rad: z
      .number()
      .min(0.005)
      .max(Math.PI / 2),
  }),
  z.object({ ...partBase, type: z.literal('section'), bore_m, K: z.number().min(0).max(20) }),
  z.object({ ...partBase, type: z.literal('throttle') }),
  z.object({ ...partBase, type: z.literal('opening'), edgeRadius_m: z.number().min(0).max(0.05) }),
]);
export type PartDoc = z.infer<typeof partDoc>;
export type PartType = PartDoc['type'];

const knots = z
  .object({
    rpm: z.array(z.number().min(200).max(20_000)).min(1).max(40),
    value: z
      .array(z.number().min(0.05, 'below 5 % the engine would not run').max(1.6, 'above 160 % is not a volumetric efficiency'))
      .min(1)
      .max(40),
  })
  .superRefine((k, ctx) => {
    if (k.rpm.length !== k.value.length) ctx.addIssue({ code: 'custom', message: 'Every rpm needs its value.' });
    k.rpm.forEach((n, i) => {
      if (i > 0 && n <= k.rpm[i - 1]!) ctx.addIssue({ code: 'custom', path: ['rpm', i], message: 'The rpm must rise from row to row.' });
    });
  });

const engineDoc = z
  .object({
    displacement_m3: z.number().min(5e-5, 'smaller than 50 cm³').max(0.03, 'larger than 30 litres'),
    cylinders: z.number().int().min(1).max(16),
    compressionRatio: z.number().min(4, 'below 4 : 1').max(25, 'above 25 : 1'),
    idle_rpm: z.number().min(300).max(3000),
    lowest_rpm: z.number().min(500).max(19_000),
    redline_rpm: z.number().min(1500).max(20_000),
  })
  .superRefine((e, ctx) => {
    if (e.redline_rpm <= e.lowest_rpm) {
      ctx.addIssue({
        code: 'custom',
        path: ['redline_rpm'],
        message: `The highest rpm (${e.redline_rpm}) is not above the lowest (${e.lowest_rpm}). Swap them.`,
      });
    }
  });

/** How the engine breathes. Only naturally aspirated engines for now; the other kinds join this union. */
const inductionDoc = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('na'), heating_K: z.number().min(0).max(60), exhaust_Pa: z.number().min(0).max(100_000) }),
]);

export const FUELS = ['petrol 95', 'petrol 98', 'petrol 102', 'E85', 'LPG'] as const;
export const USES = ['street', 'race'] as const;

export const weatherDoc = z.object({
  p_Pa: z.number().min(50_000, 'below 50 kPa').max(110_000, 'above 110 kPa'),
  T_K: z.number().min(233.149, 'below −40 °C').max(333.151, 'above 60 °C'),
  rh: z.number().min(0).max(1, 'above 100 %'),
});
export type WeatherDoc = z.infer<typeof weatherDoc>;

export const carDoc = z.object({
  engine: engineDoc,
  induction: inductionDoc,
  ve: knots,
  power: z.object({ bsfc_kgpJ: z.number().min(4e-8).max(2.5e-7), afr: z.number().min(6).max(25) }),
  stock: z.object({ throttle: throttleDoc, manifoldOpening_m: bore_m, gasketOpening_m: bore_m }),
  controls: z.object({ kind: controlKind, closed_V: z.number().min(0).max(12).nullable(), full_V: z.number().min(0).max(12).nullable() }),
  fuel: z.enum(FUELS),
  use: z.enum(USES),
  goal: z.string().max(400),
  weather: weatherDoc,
});
export type CarDoc = z.infer<typeof carDoc>;

export const SMOOTHINGS = [0, 50, 100, 200, 400] as const;

/** A job: one car in the shop and everything decided about it. SI throughout; names carry their units. */
export const jobDoc = z.object({
  schema: z.literal(1),
  name: z.string().trim().min(1, 'Give the job a name.').max(80),
  car: carDoc,
  /** Where each of the car's figures comes from, by its path ("engine.displacement_m3"); missing: assumed. */
  marks: z.record(z.string().max(80), z.enum(PROVENANCE)),
  air: z.object({
    /** Loss the throttle is allowed, Pa; null: the usual one for the use. */
    allowedLoss_Pa: z.number().min(50).max(20_000).nullable(),
    parts: z
      .array(partDoc)
      .min(1)
      .max(40)
      .superRefine((parts, ctx) => {
        for (const type of ['throttle', 'opening'] as const) {
          if (parts.filter((p) => p.type === type).length !== 1)
            ctx.addIssue({ code: 'custom', message: `The path needs exactly one ${type}.` });
        }
        const t = parts.findIndex((p) => p.type === 'throttle');
        const o = parts.findIndex((p) => p.type === 'opening');
        if (o !== t + 1) ctx.addIssue({ code: 'custom', message: 'The manifold opening follows the throttle.' });
      }),
  }),
  pick: z.object({ shown: z.array(z.string()).max(3), chosen: z.string().nullable(), opening: z.enum(['as it is', 'matched']) }),
  test: z.object({
    fwhm_rpm: z.literal(SMOOTHINGS),
    correction: z.enum(CORRECTION_METHODS),
    assumedSd_pct: z.number().min(0.05).max(10),
  }),
  verdict: z.object({ note: z.string().max(4000) }),
});
export type JobDoc = z.infer<typeof jobDoc>;

export interface StoredJob {
  readonly id: string;
  readonly number: number;
  readonly version: number;
  readonly savedAt: string;
  readonly archived: boolean;
  readonly doc: JobDoc;
}
