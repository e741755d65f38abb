import { z } from 'zod';
import { SLIP_AT_rpm } from '../engine/draw-through';
import { curveOf } from './curve';
import type { INDUCTION_KINDS } from './kinds';
import { BLOWER_KINDS, MOST_KNOTS } from './kinds';

const exhaust_Pa = z.number().min(0).max(100_000);
/** Edge of a compressor's map: pressure ratio over the flow it is told in, kg/s of the day's air. */
const mapEdge = z
  .array(z.object({ massFlow_kgps: z.number().positive().max(5), ratio: z.number().min(1, 'a compressor raises the pressure').max(6) }))
  .max(12, 'A dozen points are plenty.');
/** The few points of a compressor's map that bound what it can do; empty: not known. */
const compressorMap = z.object({ surge: mapEdge, choke: mapEdge }).default({ surge: [], choke: [] });
export type CompressorMap = z.infer<typeof compressorMap>;

const share = z.number().min(0, 'below 0').max(1, 'above 100 %');
const coolerDoc = z.object({
  effectiveness: share,
  coolant_K: z.number().min(253).max(400),
  loss_Pa: z.number().min(0).max(60_000),
});
const etaAd = z.number().min(0.2, 'below 20 % it would only heat the air').max(1, 'above 100 %');
const beltEfficiency = z.number().min(0.5).max(1, 'above 100 %');
export const pulley_m = z.number().min(0.02).max(0.5);

export type InductionKind = (typeof INDUCTION_KINDS)[number];

/** How the engine breathes, with only the figures that matter for each way. */
export const inductionDoc = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('na'), heating_K: z.number().min(0).max(60), exhaust_Pa }),
  z.object({
    kind: z.literal('individual'),
    heating_K: z.number().min(0).max(60),
    exhaust_Pa,
    /** Crank angle of one induction event, rad. */
    event_rad: z
      .number()
      .min(Math.PI / 3)
      .max(2 * Math.PI),
  }),
  z.object({
    kind: z.literal('drawThrough'),
    exhaust_Pa,
    blower: z.object({
      type: z.enum(BLOWER_KINDS),
      displacement_m3: z.number().min(2e-4).max(0.02),
      crankPulley_m: pulley_m,
      blowerPulley_m: pulley_m,
      step: z.number().min(0.3).max(5),
      overdrive: z.number().min(-0.5).max(1),
      limit_rpm: z.number().min(3000).max(60_000).nullable(),
      eta0: z.number().min(0.3).max(1, 'above 100 %'),
      k: z.number().min(0).max(0.5),
      /** Blower speed that the slip is told at. */
      slipAt_rpm: z.number().min(1000).max(60_000).default(SLIP_AT_rpm),
      etaAd,
      beltEfficiency,
    }),
    cooler: coolerDoc,
  }),
  z.object({
    kind: z.literal('centrifugal'),
    exhaust_Pa,
    compressor: z.object({
      pressureRatio: z.number().min(1, 'below 1 it would hold the engine back').max(5),
      rpm: z.number().min(1000).max(20_000),
      etaAd,
      beltEfficiency,
      map: compressorMap,
    }),
    cooler: coolerDoc,
  }),
  z.object({
    kind: z.literal('turbo'),
    exhaust_Pa,
    compressor: z.object({
      /** Gauge, Pa, over rpm. */
      boost: curveOf(z.number().min(0).max(500_000), 1, MOST_KNOTS),
      targetAt: z.enum(['plenum', 'compressor']),
      etaAd,
      map: compressorMap,
    }),
    cooler: coolerDoc,
  }),
]);
export type InductionDoc = z.infer<typeof inductionDoc>;
