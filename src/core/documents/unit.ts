import { z } from 'zod';
import { throttleDoc } from './throttle';

export const CONTROL_KINDS = ['cable', 'electronic-analogue', 'electronic-digital'] as const;
export const controlKind = z.enum(CONTROL_KINDS);
export type ControlKind = z.infer<typeof controlKind>;

/** A flow-bench figure. m³/s at bench air, Pa; the entry's own loss coefficient. */
export const benchRecord = z.object({
  flow_m3ps: z.number().positive().max(5),
  depression_Pa: z.number().positive().max(50_000),
  entryK: z.number().min(0).max(1),
  bench: z.string().max(80),
});
export type BenchRecord = z.infer<typeof benchRecord>;

/** A throttle body on the shelf. */
export const unitDoc = z.object({
  schema: z.literal(1),
  name: z.string().trim().min(1, 'Give the unit a name.').max(80),
  throttle: throttleDoc,
  controls: controlKind,
  price: z.number().min(0).max(100_000).nullable(),
  /** Largest opening its flange can bolt to, m; null: not measured. */
  largestOpening_m: z.number().min(0.015).max(0.25).nullable(),
  bench: z.array(benchRecord).max(50),
  note: z.string().max(2000),
});
export type UnitDoc = z.infer<typeof unitDoc>;

export interface StoredUnit {
  readonly id: string;
  readonly version: number;
  readonly doc: UnitDoc;
}
