import { z } from 'zod';
import { figure } from './figure';
import { weatherDoc } from './job';
import { CAR_TEMPERATURE_K, KEY_ON_Pa } from './within';
import { CARRIED_CORRECTIONS, MOST_CHANNELS, QUANTITIES, RUN_KINDS, SMOOTHINGS } from './kinds';

export type Quantity = (typeof QUANTITIES)[number];

/** Where a power or torque was measured and which correction it carries, as its column says; null: it does not say. */
export const powerKind = z.object({
  at: z.enum(['wheels', 'hub', 'crank']).nullable(),
  carried: z.enum(CARRIED_CORRECTIONS).nullable(),
});
export type PowerKind = z.infer<typeof powerKind>;

export const channelMap = z.object({
  column: z.number().int().min(0),
  quantity: z.enum(QUANTITIES),
  /** Unit of the file's figures, by its id in the unit table; null: none. */
  unit: z.string().nullable(),
  /** Of power and torque: its kind, where the column's name says one. */
  power: powerKind.optional(),
});
export type ChannelMap = z.infer<typeof channelMap>;

export const runSide = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('stock') }),
  z.object({ kind: z.literal('unit'), unitId: z.string() }),
]);
export type RunSide = z.infer<typeof runSide>;

/** A stretch of a log taken as one pull by hand: milliseconds from the log's beginning, and the gear where that is known. */
export const pullDoc = z
  .object({ from: z.number().int().min(0), to: z.number().int().min(0), gear: z.string().max(20).default(''), name: z.string().max(60) })
  .refine((p) => p.to > p.from, { message: 'A pull ends after it begins.' });
export type PullDoc = z.infer<typeof pullDoc>;

const temperature_K = figure(CAR_TEMPERATURE_K);

/** What a person says about a run; its channels are stored beside it as they stood in the file. */
export const runDoc = z.object({
  schema: z.literal(1),
  kind: z.enum(RUN_KINDS).default('dyno'),
  name: z.string().trim().min(1).max(120),
  side: runSide.nullable(),
  channels: z.array(channelMap).max(MOST_CHANNELS),
  measuredAt: z.enum(['wheels', 'hub', 'crank', 'unknown']),
  /** The correction the file's figures already carry. */
  carried: z.enum(CARRIED_CORRECTIONS),
  /** Smoothing the file's figures already carry, rpm; null: unknown. */
  carriedSmoothing_rpm: z.literal(SMOOTHINGS).nullable(),
  weather: weatherDoc.nullable(),
  /** Of the weather's figures those that nobody gave: the usual ones stand there. */
  weatherGuessed: z
    .array(z.enum(['p_Pa', 'T_K', 'rh']))
    .max(3)
    .default([]),
  takenOn: z
    .string()
    .regex(/^\d{4}-\d{2}-\d{2}$/, 'a date as 2026-04-18')
    .nullable(),
  /** Time of day; orders the runs of a day. */
  takenAt: z
    .string()
    .regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'a time of day as 14:05')
    .nullable()
    .default(null),
  /** Its place among the job's runs, where a person has put them in order. */
  place: z.number().int().min(0).nullable().default(null),
  /** What the file brought along that tells when it was run. */
  came: z
    .object({
      /** The first moment its clock says, where that is a date and a time. */
      stampedAt: z.string().max(40).nullable(),
      /** When the file was last written, as the machine it came from says. */
      modifiedAt: z.string().max(40).nullable(),
      /** Its place among the files that were chosen with it. */
      nth: z.number().int().min(0).nullable(),
    })
    .nullable()
    .default(null),
  /** The day at the dyno it belongs to, where the date alone does not say. */
  visit: z.string().max(60).default(''),
  /** The car was strapped down anew, or the part taken off and on, before this run. */
  restrapped: z.boolean().default(false),
  gear: z.string().max(20),
  pulley: z.string().max(60).default(''),
  tyres: z.string().max(80).default(''),
  fuel: z.string().max(40),
  tune: z.string().max(80),
  otherChanges: z.string().max(400),
  coolantStart_K: temperature_K.nullable(),
  oilStart_K: temperature_K.nullable().default(null),
  /** The manifold sensor's own reading with the key on and the engine off, Pa. */
  keyOn_Pa: figure(KEY_ON_Pa).nullable().default(null),
  /** It was read off a picture of a curve: which, and the standard error of a reading, % of its upper figures. */
  picture: z
    .object({ name: z.string().max(255), error_pct: z.number().min(0).max(100) })
    .nullable()
    .default(null),
  /** Why this run does not count; null: it counts. */
  leftOut: z.string().trim().min(1, 'Say why it is left out.').max(200).nullable(),
  pulls: z.array(pullDoc).max(200).default([]),
});
export type RunDoc = z.infer<typeof runDoc>;

/** A column of a file as it is kept: its name and unit there, how many figures it has, and what was made of it. */
export interface StoredColumn {
  readonly name: string;
  readonly unit: string;
  readonly count: number;
  /** Figures below and above which few lie. Missing in files read by an older release, as is the rest. */
  readonly low?: number;
  readonly high?: number;
  readonly confidence?: number;
  readonly doubt?: string | null;
  /** Nobody knows yet what it is in: it counts for nothing until a person says. */
  readonly ask?: boolean;
  /** Made by the reader out of other columns, as this says. */
  readonly made?: string;
  /** Mapped as a person said for an earlier file with this header. */
  readonly remembered?: boolean;
}

/** What a person said that a column of some header is. */
export interface RememberedChannel {
  readonly name: string;
  readonly quantity: Quantity;
  readonly unit: string | null;
}

export interface StoredRun {
  readonly id: string;
  readonly jobId: string;
  /** The recording its rows are in, and which rows (both included). Files with several pulls give several runs. */
  readonly logId: string;
  readonly firstRow: number;
  readonly lastRow: number;
  readonly version: number;
  readonly fileName: string;
  readonly fileHash: string;
  readonly columns: readonly StoredColumn[];
  readonly doc: RunDoc;
}
