import { z } from 'zod';
import { CORRECTION_METHODS } from '../runs/correction';
import { SMOOTHINGS, weatherDoc } from './job';

/** Largest file taken in, bytes: both the page and the server hold to it. */
export const UPLOAD_LIMIT_BYTES = 150 * 1024 * 1024;

/** What a channel of a run stands for. */
export const QUANTITIES = [
  'time',
  'rpm',
  'power',
  'torque',
  'throttle',
  'manifold pressure',
  'inlet air',
  'coolant',
  'air mass flow',
  'lambda',
  'afr',
  'speed',
  'other',
] as const;
export type Quantity = (typeof QUANTITIES)[number];

export const channelMap = z.object({
  column: z.number().int().min(0),
  quantity: z.enum(QUANTITIES),
  /** Unit of the file's figures, by its id in the unit table; null: none. */
  unit: z.string().nullable(),
});
export type ChannelMap = z.infer<typeof channelMap>;

export const runSide = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('stock') }),
  z.object({ kind: z.literal('unit'), unitId: z.string() }),
]);
export type RunSide = z.infer<typeof runSide>;

export const CARRIED_CORRECTIONS = ['unknown', ...CORRECTION_METHODS] as const;

/** What a person says about a run; its channels are stored beside it as they stood in the file. */
export const runDoc = z.object({
  schema: z.literal(1),
  name: z.string().trim().min(1).max(120),
  side: runSide.nullable(),
  channels: z.array(channelMap).max(600),
  measuredAt: z.enum(['wheels', 'hub', 'crank', 'unknown']),
  /** The correction the file's figures already carry. */
  carried: z.enum(CARRIED_CORRECTIONS),
  /** Smoothing the file's figures already carry, rpm; null: unknown. */
  carriedSmoothing_rpm: z.literal(SMOOTHINGS).nullable(),
  weather: weatherDoc.nullable(),
  takenOn: z
    .string()
    .regex(/^\d{4}-\d{2}-\d{2}$/, 'a date as 2026-04-18')
    .nullable(),
  gear: z.string().max(20),
  fuel: z.string().max(40),
  tune: z.string().max(80),
  otherChanges: z.string().max(400),
  coolantStart_K: z.number().min(233).max(450).nullable(),
  leftOut: z.string().max(200).nullable(),
});
export type RunDoc = z.infer<typeof runDoc>;

export interface StoredRun {
  readonly id: string;
  readonly jobId: string;
  readonly version: number;
  readonly fileName: string;
  readonly fileHash: string;
  readonly columns: readonly { readonly name: string; readonly unit: string; readonly count: number }[];
  readonly doc: RunDoc;
}
