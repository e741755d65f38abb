import { z } from 'zod';
import { COURSES, slipIssues, type Slip } from './slip';
import { figure } from './figure';
import { runSide } from './run';
import { CAR_MASS_kg, CAR_TEMPERATURE_K, ENTRY_FEE, LAUNCH_rpm, PASS_FEE, TYRE_Pa } from './within';
import { weatherDoc } from './job';
import { LANES, WEATHER_SOURCES } from './kinds';

const timeOfDay = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'a time of day as 14:05');

/** The air at one time of the day. */
export const weatherReadingDoc = weatherDoc.extend({
  at: timeOfDay,
  from: z.enum(WEATHER_SOURCES).default('typed'),
  /** Nobody gave the humidity: the usual one stands there. */
  rhGuessed: z.boolean().default(false),
});
export type WeatherReadingDoc = z.infer<typeof weatherReadingDoc>;

/** One day at a strip. SI throughout. */
export const stripVisitDoc = z.object({
  schema: z.literal(1),
  track: z.string().trim().min(1, 'Which track?').max(80),
  takenOn: z.string().regex(/^\d{4}-\d{2}-\d{2}$/, 'a date as 2026-04-18'),
  course: z.enum(COURSES).default('quarter'),
  /** How the marks are called on this track's slips: 60 ft and a quarter mile, or 18 m and 402 m. */
  marks: z.enum(['feet', 'metres']).default('feet'),
  /** Speeds on its slips. */
  speeds: z.enum(['mph', 'kmh']).default('mph'),
  /** Car with driver and fuel, kg; null: not weighed. */
  mass_kg: figure(CAR_MASS_kg).nullable().default(null),
  entryFee: figure(ENTRY_FEE).default(0),
  perPassFee: figure(PASS_FEE).default(0),
  weather: z.array(weatherReadingDoc).max(600, 'Six hundred readings a day are plenty.').default([]),
  note: z.string().max(2000).default(''),
});
export type StripVisitDoc = z.infer<typeof stripVisitDoc>;

const seconds = z.number().min(-10).max(120).nullable().default(null);
const speed_mps = z.number().min(0).max(200).nullable().default(null);

const slipDoc = z
  .object({
    reaction_s: seconds,
    t18_s: seconds,
    t100_s: seconds,
    t201_s: seconds,
    t305_s: seconds,
    t402_s: seconds,
    v201_mps: speed_mps,
    v402_mps: speed_mps,
  })
  .superRefine((slip: Slip, ctx) => {
    for (const issue of slipIssues(slip))
      if (issue.level === 'refused')
        ctx.addIssue({
          code: 'custom',
          path: [issue.field],
          message: 'This cannot be: times rise with distance, and speeds are possible ones.',
        });
  });

const temperature_K = figure(CAR_TEMPERATURE_K).nullable().default(null);

/** One pass down the strip. */
export const stripPassDoc = z.object({
  schema: z.literal(1),
  at: timeOfDay.nullable().default(null),
  side: runSide.nullable().default(null),
  lane: z.enum(LANES).default(''),
  slip: slipDoc,
  /** Time the driver dialled in before the pass, s. */
  dial_s: z.number().min(3).max(60).nullable().default(null),
  coolant_K: temperature_K,
  inlet_K: temperature_K,
  /** Driven tyres, Pa gauge. */
  tyre_Pa: figure(TYRE_Pa).nullable().default(null),
  launch_rpm: figure(LAUNCH_rpm).nullable().default(null),
  /** What was done to the car since the pass before. */
  between: z.string().max(400).default(''),
  note: z.string().max(1000).default(''),
  /** The log of this pass, where one was taken. */
  runId: z.uuid().nullable().default(null),
  leftOut: z.string().trim().min(1, 'Say why it is left out.').max(200).nullable().default(null),
});
export type StripPassDoc = z.infer<typeof stripPassDoc>;

export interface StoredVisit {
  readonly id: string;
  readonly jobId: string;
  readonly version: number;
  readonly doc: StripVisitDoc;
}

export interface StoredPass {
  readonly id: string;
  readonly visitId: string;
  readonly version: number;
  readonly doc: StripPassDoc;
}

export interface StripBook {
  readonly visits: readonly StoredVisit[];
  readonly passes: readonly StoredPass[];
}
