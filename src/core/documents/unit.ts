import { z } from 'zod';
import { flangeFailure } from '../shape/flange';
import { fittingsDoc, unitFlangeDoc } from './flange';
import { flangeIssue, unitFace } from './faces';
import { throttleDoc } from './throttle';
import { NO_FITTINGS } from './blank';
import { CONTROL_KINDS } from './kinds';
import { figure } from './figure';
import { BENCH_DEPRESSION_Pa, BENCH_FLOW_m3ps } from './within';

export const controlKind = z.enum(CONTROL_KINDS);
export type ControlKind = z.infer<typeof controlKind>;

/** A flow-bench figure. m³/s at bench air, Pa; the entry's own loss coefficient. */
export const benchRecord = z.object({
  flow_m3ps: figure(BENCH_FLOW_m3ps),
  depression_Pa: figure(BENCH_DEPRESSION_Pa),
  entryK: z.number().min(0).max(1),
  bench: z.string().max(80),
  /** Read on a bench, or only claimed by whoever sells it. */
  kind: z.enum(['reading', 'claim']).default('reading'),
  /** How many of its bores the figure is for; null: all of them. */
  bores: z.number().int().min(1).max(16).nullable().default(null),
  takenOn: z
    .string()
    .regex(/^\d{4}-\d{2}-\d{2}$/, 'a date as 2026-04-18')
    .nullable()
    .default(null),
  note: z.string().max(400).default(''),
});
export type BenchRecord = z.infer<typeof benchRecord>;

/** A throttle body on the shelf. */
export const unitDoc = z
  .object({
    schema: z.literal(1),
    name: z.string().trim().min(1, 'Give the throttle a name.').max(80),
    throttle: throttleDoc,
    controls: controlKind,
    price: z.number().min(0).max(100_000).nullable(),
    /** Largest opening its flange can bolt to, m; null: not measured. */
    largestOpening_m: z.number().min(0.015).max(0.25).nullable(),
    bench: z.array(benchRecord).max(50),
    note: z.string().max(2000),
    /** Hash of a stored picture. */
    photo: z
      .string()
      .regex(/^[0-9a-f]{64}$/)
      .nullable()
      .default(null),
    flange: unitFlangeDoc.nullable().default(null),
    fittings: fittingsDoc.default(NO_FITTINGS),
  })
  .superRefine((unit, ctx) => {
    const face = unitFace(unit);
    const refused = face && flangeFailure(face);
    if (refused) ctx.addIssue({ code: 'custom', path: ['flange', 'pattern'], message: flangeIssue(refused) });
  });
export type UnitDoc = z.infer<typeof unitDoc>;

/** A part that was flow-tested but is no throttle body: a meter housing, a filter, a pipe. */
export const testedPartDoc = z.object({
  schema: z.literal(1),
  name: z.string().trim().min(1, 'Give the part a name.').max(80),
  kind: z.enum(['air meter', 'filter', 'pipe', 'airbox', 'manifold', 'other']),
  bore_m: z.number().min(0.015).max(0.3),
  bench: z.array(benchRecord).max(50),
  note: z.string().max(2000),
});
export type TestedPartDoc = z.infer<typeof testedPartDoc>;
export interface StoredPart {
  readonly id: string;
  readonly version: number;
  readonly doc: TestedPartDoc;
}

export interface StoredUnit {
  readonly id: string;
  readonly version: number;
  readonly doc: UnitDoc;
}
