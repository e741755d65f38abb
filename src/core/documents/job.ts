import type { Issue } from './issue';
import { z } from 'zod';
import { aboutDoc } from './about';
import { CORRECTION_METHODS } from './kinds';
import { squareStroke } from '../engine/power';
import { flangeFailure } from '../shape/flange';
import { curveOf } from './curve';
import { flangeIssue, manifoldFace } from './faces';
import { figure } from './figure';
import { fittingsDoc, manifoldFlangeDoc, mountingDoc, roomDoc } from './flange';
import { inductionDoc, pulley_m } from './induction';
import { inletDoc, inletTrialDoc } from './inlet';
import { installDoc } from './install';
import { bore_m, partDoc } from './part';
import { planDoc, roadDoc, stripPlanDoc } from './plan';
import { verdictDoc } from './verdict';
import { throttleDoc } from './throttle';
import { TOLERANCE, WEATHER } from './within';
import { benchRecord, controlKind } from './unit';
import {
  NO_ABOUT,
  NO_FIT,
  NO_FITTINGS,
  NO_GEARBOX,
  NO_INLET,
  NO_INSTALL,
  NO_PLAN,
  NO_ROAD,
  NO_ROOM,
  NO_SIZING,
  NO_STRIP_PLAN,
  NO_TRIAL,
} from './blank';
import { FUELS, MOST_KNOTS, MOST_SHOWN, PROVENANCE, SMOOTHINGS, USES } from './kinds';

export type Provenance = (typeof PROVENANCE)[number];

const knots = curveOf(
  z.number().min(0.05, 'below 5 % the engine would not run').max(1.6, 'above 160 % is not a volumetric efficiency'),
  1,
  MOST_KNOTS,
);

export const engineDoc = z
  .object({
    displacement_m3: z.number().min(5e-5).max(0.03),
    cylinders: z.number().int().min(1).max(16),
    compressionRatio: z.number().min(4, 'below 4 : 1').max(25, 'above 25 : 1'),
    idle_rpm: z.number().min(300).max(3000),
    lowest_rpm: z.number().min(500).max(19_000),
    redline_rpm: z.number().min(1500).max(20_000),
    /** Null: that of a square cylinder. */
    stroke_m: z.number().min(0.02).max(0.3).nullable().default(null),
    /** Volume the cylinders share behind the throttle; null: 0.8 of the displacement. */
    plenum_m3: z.number().min(0).max(0.2).nullable().default(null),
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

/** A measured curve over engine speed, in the SI unit of what it measures. */
export const measuredCurve = curveOf(z.number(), 1, 2000).and(
  z.object({
    source: z.string().max(160),
    /** Blower revolutions per crank revolution it was measured with; null: those of now. */
    driveRatio: z.number().min(0.1).max(20).nullable().default(null),
  }),
);
export type MeasuredCurve = z.infer<typeof measuredCurve>;

/** How each input may be off, as shares. */
const tolerancesDoc = z.object({
  ve: figure(TOLERANCE.ve),
  K: figure(TOLERANCE.K),
  eta0: figure(TOLERANCE.eta0),
  bench: figure(TOLERANCE.bench),
  fmep: figure(TOLERANCE.fmep),
});

const allowedLossDoc = z.number().min(50).max(20_000).nullable();

/** Limits the sizing holds to; null: the usual one for the engine and its use. */
export const sizingDoc = z.object({
  speed_mps: z.number().min(10).max(250).nullable().default(null),
  benchRatio: z.number().min(0.3).max(0.99).nullable().default(null),
  powerShare: z.number().min(0.0005).max(0.1).nullable().default(null),
  idleShare: z.number().min(0.05).max(1).nullable().default(null),
  tipIn: z.number().min(1).max(6).nullable().default(null),
  /** Largest bore that the flange and the room there take, m; null: not known. */
  fit_m: z.number().min(0.015).max(0.25).nullable().default(null),
  tolerances: tolerancesDoc.nullable().default(null),
});
export type SizingDoc = z.infer<typeof sizingDoc>;

/** What a shop starts every new job with. The largest bore that fits belongs to a car and is not among it. */
export const shopDefaultsDoc = sizingDoc.omit({ fit_m: true }).extend({ allowedLoss_Pa: allowedLossDoc.default(null) });
export type ShopDefaults = z.infer<typeof shopDefaultsDoc>;

export const weatherDoc = z.object({
  p_Pa: figure(WEATHER.p_Pa),
  T_K: figure(WEATHER.T_K),
  rh: figure(WEATHER.rh),
});
export type WeatherDoc = z.infer<typeof weatherDoc>;

/** The gearbox as ratios from first gear up: what an engine falls back to after a change, and which gear a log is in. */
export const gearboxDoc = z.object({
  ratios: z
    .array(z.number().min(0.3, 'below 0.3 : 1').max(8, 'above 8 : 1'))
    .max(12)
    .superRefine((ratios, ctx) => {
      ratios.forEach((r, i) => {
        if (i > 0 && r >= ratios[i - 1]!)
          ctx.addIssue({ code: 'custom', path: [i], message: 'From first gear up each ratio is lower than the one before.' });
      });
    }),
  final: z.number().min(1).max(10).nullable(),
  /** Rolling circumference of a driven tyre, m. */
  tyre_m: z.number().min(0.8).max(4).nullable(),
});
export type GearboxDoc = z.infer<typeof gearboxDoc>;

export const carDoc = z.object({
  engine: engineDoc,
  induction: inductionDoc,
  /** Of ambient air, as a naturally aspirated engine is spoken of. */
  ve: knots,
  /** Of the manifold's air, as a boosted one is. */
  manifoldVe: knots.default({ rpm: [1500, 6500], value: [0.92, 0.92] }),
  measured: z
    .object({ power: measuredCurve.nullable(), boost: measuredCurve.nullable(), air: measuredCurve.nullable() })
    .default({ power: null, boost: null, air: null }),
  /** Which of the above the reference stands on. */
  from: z
    .object({ efficiency: z.enum(['table', 'power', 'air', 'boost']), power: z.enum(['estimate', 'measured']) })
    .default({ efficiency: 'table', power: 'estimate' }),
  power: z.object({ bsfc_kgpJ: z.number().min(4e-8).max(2.5e-7), afr: z.number().min(6).max(25) }),
  stock: z.object({
    throttle: throttleDoc,
    manifoldOpening_m: bore_m,
    gasketOpening_m: bore_m,
    /** How far the manifold's metal lets the opening be taken, m; null: not known, as far as any unit needs. */
    openingLimit_m: bore_m.nullable().default(null),
    /** What the stock throttle was read to flow, or is said to. */
    bench: benchRecord.nullable().default(null),
    flange: manifoldFlangeDoc.nullable().default(null),
    fittings: fittingsDoc.default(NO_FITTINGS),
  }),
  room: roomDoc.default(NO_ROOM),
  gearbox: gearboxDoc.default(NO_GEARBOX),
  /** Runners and valves, for the waves in the inlet. */
  inlet: inletDoc.default(NO_INLET),
  controls: z.object({ kind: controlKind, closed_V: z.number().min(0).max(12).nullable(), full_V: z.number().min(0).max(12).nullable() }),
  fuel: z.enum(FUELS),
  use: z.enum(USES),
  goal: z.string().max(400),
  weather: weatherDoc,
});
export type CarDoc = z.infer<typeof carDoc>;

/** How a manifold is opened: bite by bite, m of diameter, with the metal there is and the least to be left. */
const boringDoc = z.object({
  bite_m: z.number().min(0.0002).max(0.01).default(0.001),
  wall_m: z.number().gt(0, 'A wall has some thickness.').max(0.05).nullable().default(null),
  leastWall_m: z.number().min(0.001).max(0.02).default(0.003),
});

export const fitDoc = z.object({ boring: boringDoc.default(boringDoc.parse({})), mounting: mountingDoc.default(mountingDoc.parse({})) });
export type FitDoc = z.infer<typeof fitDoc>;

/** A job: one car in the shop and everything decided about it. SI throughout; names carry their units. */
export const jobDoc = z
  .object({
    schema: z.literal(1),
    name: z.string().trim().min(1, 'Give the job a name.').max(80),
    car: carDoc,
    /** Where each of the car's figures comes from, by its path ("engine.displacement_m3"); missing: assumed. */
    marks: z.record(z.string().max(80), z.enum(PROVENANCE)),
    air: z.object({
      /** Loss the throttle is allowed, Pa; null: the usual one for the use. */
      allowedLoss_Pa: allowedLossDoc,
      /** What the whole path loses over what its parts add up to, as measured on the car; 1: as they add up. */
      lossFactor: z.number().min(0.3, 'A path does not lose less than a third of what its parts add up to.').max(4).default(1),
      parts: z
        .array(partDoc)
        .min(1)
        .max(40)
        .superRefine((parts, ctx) => {
          for (const type of ['throttle', 'opening'] as const) {
            if (parts.filter((p) => p.type === type).length !== 1)
              ctx.addIssue({ code: 'custom', message: `The path needs exactly one ${type}.` });
          }
          if (parts.filter((p) => p.type === 'compressor').length > 1)
            ctx.addIssue({ code: 'custom', message: 'The path has more than one compressor.' });
          if (parts.findIndex((p) => p.type === 'compressor') > parts.findIndex((p) => p.type === 'throttle'))
            ctx.addIssue({ code: 'custom', message: 'The compressor stands before the throttle here; a blower behind it is not drawn.' });
          const t = parts.findIndex((p) => p.type === 'throttle');
          const o = parts.findIndex((p) => p.type === 'opening');
          if (o !== t + 1) ctx.addIssue({ code: 'custom', message: 'The manifold bore follows the throttle.' });
        }),
    }),
    sizing: sizingDoc.default(NO_SIZING),
    pick: z.object({
      shown: z.array(z.string()).max(MOST_SHOWN),
      chosen: z.string().nullable(),
      opening: z.enum(['as it is', 'matched']),
      /** More boost than now, to see what it would make of the throttle: by the kind of compressor. */
      whatIf: z
        .object({
          pulley_m: pulley_m.nullable(),
          pressureRatio: z.number().min(1).max(5).nullable(),
          boost_Pa: z.number().min(0).max(500_000).nullable(),
        })
        .default({ pulley_m: null, pressureRatio: null, boost_Pa: null }),
      /** Another inlet than there is, to see what its waves would do. */
      inlet: inletTrialDoc.default(NO_TRIAL),
    }),
    fit: fitDoc.default(NO_FIT),
    install: installDoc.default(NO_INSTALL),
    test: z.object({
      fwhm_rpm: z.literal(SMOOTHINGS),
      correction: z.enum(CORRECTION_METHODS),
      plan: planDoc.default(NO_PLAN),
      /** Stretches of a person's own, rpm. */
      bands_rpm: z
        .array(
          z
            .tuple([z.number().min(0).max(20_000), z.number().min(0).max(20_000)])
            .refine(([lo, hi]) => hi > lo, 'A band ends above where it begins.'),
        )
        .max(6, 'Six bands are plenty.')
        .default([]),
      /** Engine speeds compared at most: a roll-on at the bottom says nothing of a throttle. */
      range_rpm: z
        .tuple([z.number().min(0).max(20_000), z.number().min(0).max(20_000)])
        .refine(([lo, hi]) => hi > lo, 'The range ends above where it begins.')
        .nullable()
        .default(null),
      /** Where the driver changes up; null: at the redline. */
      shift_rpm: z.number().min(500).max(20_000).nullable().default(null),
      strip: stripPlanDoc.default(NO_STRIP_PLAN),
      road: roadDoc.default(NO_ROAD),
    }),
    verdict: verdictDoc,
    /** Whose car it is, and which. */
    about: aboutDoc.default(NO_ABOUT),
    /** Words of the shop's own to find it by. */
    tags: z.array(z.string().trim().min(1).max(30)).max(20).default([]),
  })
  .superRefine((job, ctx) => {
    const compressor = job.air.parts.some((p) => p.type === 'compressor');
    const { kind } = job.car.induction;
    const wanted = kind === 'centrifugal' || kind === 'turbo';
    if (compressor !== wanted)
      ctx.addIssue({
        code: 'custom',
        path: ['air', 'parts'],
        message: wanted ? 'The path needs its compressor.' : 'There is no compressor before this throttle.',
      });
    const face = manifoldFace(job.car.stock);
    const { rod_m } = job.car.inlet;
    if (rod_m !== null && rod_m < (job.car.engine.stroke_m ?? squareStroke(job.car.engine.displacement_m3, job.car.engine.cylinders)))
      ctx.addIssue({
        code: 'custom',
        path: ['car', 'inlet', 'rod_m'],
        message: 'A rod is longer than the stroke: one and a half to twice it as a rule.',
      });
    const refused = face && flangeFailure(face);
    if (refused) ctx.addIssue({ code: 'custom', path: ['car', 'stock', 'flange', 'pattern'], message: flangeIssue(refused) });
    if (kind === 'individual' && job.car.stock.throttle.shape !== 'individual')
      ctx.addIssue({ code: 'custom', path: ['car', 'stock', 'throttle', 'shape'], message: 'This engine has one throttle a cylinder.' });
  });
export type JobDoc = z.infer<typeof jobDoc>;

export interface StoredJob {
  readonly id: string;
  readonly number: number;
  readonly version: number;
  readonly savedAt: string;
  readonly archived: boolean;
  readonly doc: JobDoc;
  /** What of it would not be taken in today: bounds were drawn closer since. Told where a job is opened. */
  readonly amiss?: readonly Issue[];
}
