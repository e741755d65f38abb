import { z } from 'zod';
import { THREADED_IN } from './kinds';
import type { HolePattern, Point } from '../shape/flange';
import type { PATTERN_KINDS } from './kinds';
import { BOLT_SIZES, CLOCKINGS, COOLANT, IDLE_VALVES, SEALS, SEAL_STATES } from './kinds';

const size = z.number().gt(0, 'A size is more than nothing.').max(0.5);
const at = z.number().min(-0.3).max(0.3);
const angle = z
  .number()
  .min(-2 * Math.PI)
  .max(2 * Math.PI);
export const pointDoc = z.object({ x_m: at, y_m: at }) satisfies z.ZodType<Point>;

export type PatternKind = (typeof PATTERN_KINDS)[number];

/** Where holes sit, about the pattern's own centre. */
export const patternDoc = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('pair'), span_m: size, angle_rad: angle }),
  z.object({ kind: z.literal('triangle'), base_m: size, height_m: size, baseBelow_m: at }),
  z.object({ kind: z.literal('rectangle'), width_m: size, height_m: size }),
  z.object({ kind: z.literal('circle'), diameter_m: size, count: z.number().int().min(2).max(12), start_rad: angle }),
  z.object({ kind: z.literal('free'), holes: z.array(pointDoc).min(2, 'Two holes at the least.').max(12) }),
]) satisfies z.ZodType<HolePattern>;

export type PatternDoc = z.infer<typeof patternDoc>;

/** Metal round an opening and the holes in it: what is the same on either face of a joint. */
const faceDoc = z.object({
  pattern: patternDoc,
  /** The pattern's centre as seen from the opening's, m. */
  offset: pointDoc.default({ x_m: 0, y_m: 0 }),
  /** Outline, a rectangle about the pattern's centre, m; null: not measured. */
  plate: z.object({ width_m: size, height_m: size }).nullable().default(null),
});

export type BoltSize = (typeof BOLT_SIZES)[number];

/** A unit's flange, as it was measured. Metres. */
export const unitFlangeDoc = faceDoc.extend({
  /** Diameter of its through holes. */
  hole_m: size.max(0.03),
  thickness_m: size.max(0.06),
  seal: z.enum(SEALS).default('gasket'),
  /** How its housing may be turned on the car. */
  clocking: z.enum(CLOCKINGS).default('as it is'),
});
export type UnitFlangeDoc = z.infer<typeof unitFlangeDoc>;

/** A manifold's opening that is not round: lying or standing, as its unit's bores do. */
export const openingShapeDoc = z.discriminatedUnion('shape', [
  z
    .object({ shape: z.literal('oval'), width_m: size, height_m: size })
    .refine((o) => o.width_m >= o.height_m, { path: ['width_m'], message: 'The width is the longer way. Turn it with the flange.' }),
  z
    .object({ shape: z.literal('twin'), bore_m: size, spacing_m: size })
    .refine((o) => o.spacing_m > o.bore_m, { path: ['spacing_m'], message: 'Two bores this close run into one: that is an oval.' }),
]);
export type OpeningShape = z.infer<typeof openingShapeDoc>;

/** The manifold's face and what holds a unit to it. */
export const manifoldFlangeDoc = faceDoc.extend({
  /** null: round, of the manifold bore's bore. */
  opening: openingShapeDoc.nullable().default(null),
  bolt: z.enum(BOLT_SIZES).default('M6'),
  fastening: z.enum(['bolt', 'stud']).default('bolt'),
  into: z.enum(THREADED_IN).default('aluminium'),
  /** Full thread from the face to the hole's end. */
  threadDepth_m: size.max(0.1).default(0.016),
  /** Bolts (or studs, as they stand out) that held the stock unit. */
  boltLength_m: size.max(0.2).nullable().default(null),
  /** Flange of the stock unit that those bolts clamped. */
  stockThickness_m: size.max(0.06).nullable().default(null),
});
export type ManifoldFlangeDoc = z.infer<typeof manifoldFlangeDoc>;

/** What a unit is joined to besides its flange. Missing figures: nobody looked yet. */
export const fittingsDoc = z.object({
  /** What its plug is called in the shop: two that are called alike go together. */
  plug: z.string().trim().max(60).nullable().default(null),
  /** Model years whose signals it speaks, first and last; null: any. */
  fromYear: z.number().int().min(1950).max(2100).nullable().default(null),
  toYear: z.number().int().min(1950).max(2100).nullable().default(null),
  closed_V: z.number().min(0).max(5.5).nullable().default(null),
  full_V: z.number().min(0).max(5.5).nullable().default(null),
  idleValve: z.enum(IDLE_VALVES).nullable().default(null),
  coolant: z.enum(COOLANT).nullable().default(null),
  /** Vacuum and breather ports. */
  ports: z.number().int().min(0).max(12).nullable().default(null),
  /** Outside of the spigot that the coupler goes over. */
  spigot_m: size.nullable().default(null),
  /** From the flange to the end of the spigot. */
  length_m: size.nullable().default(null),
  /** Highest point above the bore's centre. */
  height_m: size.nullable().default(null),
  /** How far its plug is from the bore's centre, the way the harness comes. */
  plugReach_m: at.nullable().default(null),
});
export type FittingsDoc = z.infer<typeof fittingsDoc>;

/** What the car leaves room for. */
export const roomDoc = z.object({
  year: z.number().int().min(1950).max(2100).nullable().default(null),
  /** Spare length of the harness where it reaches the stock plug. */
  harnessSlack_m: z.number().min(0).max(1).nullable().default(null),
  /** Inside of the coupler, unstretched. */
  coupler_m: size.nullable().default(null),
  /** How much shorter or longer the coupler can be made. */
  couplerTravel_m: z.number().min(0).max(0.2).nullable().default(null),
  /** From the bore's centre up to the engine cover or bonnet, whichever is lower. */
  above_m: size.nullable().default(null),
});
export type RoomDoc = z.infer<typeof roomDoc>;

/** A plate between unit and manifold: the unit's holes tapped in one face, the manifold's through it. */
export const adapterDoc = z.object({
  thickness_m: size.min(0.003).max(0.1),
  /** Bolts of the throttle into the plate. */
  bolt: z.enum(BOLT_SIZES).default('M6'),
  into: z.enum(THREADED_IN).default('aluminium'),
  unitBolt_m: size.max(0.2).nullable().default(null),
  gasket_m: z.number().min(0).max(0.01).default(0.0008),
});
export type AdapterDoc = z.infer<typeof adapterDoc>;

/** How the chosen unit is put on this car. */
export const mountingDoc = z.object({
  /** How far the unit is turned from how it was measured. */
  clock_rad: angle.default(0),
  adapter: adapterDoc.nullable().default(null),
  /** Bolts into the manifold that are to be used; null: those of the stock unit. */
  bolt_m: size.max(0.2).nullable().default(null),
  /** Spacer and washers under the heads, together. */
  extraGrip_m: z.number().min(0).max(0.05).default(0),
  gasket_m: z.number().min(0, 'A gasket is not thinner than nothing.').max(0.01).default(0.0008),
  seal: z.enum(SEAL_STATES).default('not said'),
  /** A reducer, a plug adapter, a longer harness that stand ready, by the rule they cure. */
  have: z.array(z.string().max(40)).max(40).default([]),
});
export type MountingDoc = z.infer<typeof mountingDoc>;
