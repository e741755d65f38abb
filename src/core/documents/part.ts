import { z } from 'zod';
import { figure } from './figure';
import { BENCH_DEPRESSION_Pa, BENCH_FLOW_m3ps } from './within';

/** A bore of the intake, m. */
export const bore_m = z.number().min(0.015).max(0.3);
/** A flow-bench figure that stands in for the part's own loss coefficient, and the record it was copied from. */
const partBench = z.object({
  flow_m3ps: figure(BENCH_FLOW_m3ps),
  depression_Pa: figure(BENCH_DEPRESSION_Pa),
  entryK: z.number().min(0).max(1),
  from: z.string().max(160),
});
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
  bench: partBench.optional(),
};
const bend = z.object({
  angle_rad: z.number().min(0).max(Math.PI),
  radiusRatio: z.number().min(0.5, 'a bend cannot be tighter than half its bore').max(20),
});

/**
 * A part of the intake as a person edits it. The throttle and the manifold bore carry no sizes of their own: they are
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
    /** Equal pipes side by side: one a cylinder behind individual throttles. */
    count: z.number().int().min(1).max(16).default(1),
    bends: z.array(bend).max(8),
  }),
  z.object({
    ...partBase,
    type: z.literal('restrictor'),
    bore_m: z.number().min(0.008).max(0.3),
    kind: z.enum(['venturi', 'plate']),
    count: z.number().int().min(1).max(16).default(1),
    /** Null: the usual one of its kind, for a plate by the pipe it stands in. */
    Cd: z.number().min(0.3).max(1, 'above 1 it would pass more than is possible').nullable().default(null),
    recovery: z.number().min(0).max(0.95).nullable().default(null),
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
  z.object({ ...partBase, type: z.literal('airbox'), bore_m, volume_m3: z.number().min(1e-4).max(0.2) }),
  z.object({ ...partBase, type: z.literal('compressor') }),
  z.object({ ...partBase, type: z.literal('throttle') }),
  z.object({ ...partBase, type: z.literal('opening'), edgeRadius_m: z.number().min(0).max(0.05) }),
]);
export type PartDoc = z.infer<typeof partDoc>;
export type PartType = PartDoc['type'];
