import type { JobDoc } from '@/core/documents/job';
import type { fittingsDoc, unitFlangeDoc } from '@/core/documents/flange';
import { manifoldFlangeDoc, mountingDoc } from '@/core/documents/flange';
import type { z } from 'zod';
import { unitDoc, type UnitDoc } from '@/core/documents/unit';
import { presetJob } from '@/core/job/presets';
import type { ThrottleDoc } from '@/core/documents/throttle';
import { CFM_m3ps, INCH_OF_WATER_Pa } from '@/core/units/units';

const round = (bore_mm: number, shaft_mm: number, edge: ThrottleDoc['edge'], clearance_mm = 0.04): ThrottleDoc => ({
  shape: 'single',
  bore_m: bore_mm / 1000,
  count: 1,
  shaft_m: shaft_mm / 1000,
  edge,
  closedAngle_rad: (7 * Math.PI) / 180,
  clearance_m: clearance_mm / 1000,
  leak: 'production',
});

const mm = (x: number): number => x / 1000;

/** A square flange of four holes for M6, of a cable unit, and what it is joined to. */
const square = (side_mm: number, plate_mm: number): z.input<typeof unitFlangeDoc> => ({
  pattern: { kind: 'rectangle', width_m: mm(side_mm), height_m: mm(side_mm) },
  plate: { width_m: mm(plate_mm), height_m: mm(plate_mm) },
  hole_m: mm(6.6),
  thickness_m: mm(12),
  clocking: 'quarter turns',
});
const joined = (spigot_mm: number, more: z.input<typeof fittingsDoc> = {}): z.input<typeof fittingsDoc> => ({
  closed_V: 0.5,
  full_V: 4.4,
  idleValve: 'none',
  coolant: 'none',
  ports: 2,
  spigot_m: mm(spigot_mm),
  length_m: mm(78),
  height_m: mm(48),
  plugReach_m: mm(40),
  ...more,
});

/** The three units on the demo's shelf. All invented. */
const UNITS: readonly z.input<typeof unitDoc>[] = [
  {
    schema: 1,
    name: 'Hollin 62',
    throttle: round(62, 8, 'round'),
    controls: 'cable',
    price: 140,
    largestOpening_m: 0.066,
    bench: [],
    flange: square(72, 92),
    fittings: joined(72, { coolant: 'passage' }),
    note: 'Used, from a larger engine of the same family. Shaft as it came.',
  },
  {
    schema: 1,
    name: 'Fenwick 66',
    throttle: round(66, 8, 'flattened'),
    controls: 'cable',
    price: 385,
    largestOpening_m: 0.07,
    bench: [{ flow_m3ps: 679 * CFM_m3ps, depression_Pa: 28 * INCH_OF_WATER_Pa, entryK: 0.04, bench: 'Quarry Lane bench' }],
    flange: square(72, 94),
    fittings: joined(73),
    note: 'New casting, shaft flattened where it stands in the flow.',
  },
  {
    schema: 1,
    name: 'Marl 74',
    throttle: round(74, 9, 'knife'),
    controls: 'cable',
    price: 520,
    largestOpening_m: 0.078,
    bench: [],
    flange: { ...square(84, 106), clocking: 'free' },
    fittings: joined(82, { ports: 0 }),
    note: 'Race part. Knife-edged shaft, flush screws.',
  },
];

export const DEMO_UNITS: readonly UnitDoc[] = UNITS.map((u) => unitDoc.parse(u));

/** The Larkspur job as the shop left it: `ids` are the stored units' in the order above. */
export function larkspurJob(ids: readonly string[]): JobDoc {
  const base = presetJob('Larkspur estate', 'straight six, 2.9 L');
  const measured = [
    'engine.displacement_m3',
    'stock.throttle.bore_m',
    'stock.throttle.shaft_m',
    'stock.manifoldOpening_m',
    'stock.gasketOpening_m',
    'controls.closed_V',
    'controls.full_V',
  ];
  const entered = [
    'engine.cylinders',
    'engine.compressionRatio',
    'engine.redline_rpm',
    'engine.idle_rpm',
    'induction',
    'controls.kind',
    'fuel',
    'use',
    'goal',
    'weather.p_Pa',
    'weather.T_K',
    'weather.rh',
    've',
  ];
  return {
    ...base,
    car: {
      ...base.car,
      ve: { rpm: [1500, 2500, 3500, 4500, 5500, 6200, 6800], value: [0.76, 0.83, 0.885, 0.92, 0.9, 0.865, 0.82] },
      stock: {
        ...base.car.stock,
        gasketOpening_m: 0.06,
        flange: manifoldFlangeDoc.parse({
          pattern: { kind: 'rectangle', width_m: mm(72), height_m: mm(72) },
          plate: { width_m: mm(92), height_m: mm(92) },
          threadDepth_m: mm(16),
          boltLength_m: mm(25),
          stockThickness_m: mm(12),
        }),
        fittings: {
          ...base.car.stock.fittings,
          idleValve: 'in the manifold',
          coolant: 'passage',
          ports: 2,
          spigot_m: mm(70),
          length_m: mm(74),
          height_m: mm(46),
          plugReach_m: mm(44),
        },
      },
      room: { year: 2004, harnessSlack_m: mm(60), coupler_m: mm(70), couplerTravel_m: mm(10), above_m: mm(85) },
      gearbox: { ratios: [3.55, 2.06, 1.38, 1, 0.81], final: 3.91, tyre_m: 1.92 },
      controls: { kind: 'cable', closed_V: 0.52, full_V: 4.43 },
      goal: 'Pulls well to 5,000 and then goes flat. Owner tows with it, wants no worse idle.',
      weather: { p_Pa: 100_400, T_K: 293.15, rh: 0.45 },
    },
    marks: Object.fromEntries([...measured.map((k) => [k, 'measured'] as const), ...entered.map((k) => [k, 'entered'] as const)]),
    air: {
      allowedLoss_Pa: null,
      lossFactor: 1,
      parts: [
        { id: 'inlet', type: 'openEnd', name: 'inlet mouth', bore_m: 0.085, edgeRadius_m: 0.006 },
        { id: 'filter', type: 'filter', name: 'filter', bore_m: 0.11, ratedFlow_m3ps: 0.25, ratedLoss_Pa: 900, loading: 1 },
        {
          id: 'pipe',
          type: 'pipe',
          name: 'pipe',
          bore_m: 0.08,
          length_m: 0.45,
          roughness_m: 1e-5,
          count: 1,
          bends: [
            { angle_rad: (70 * Math.PI) / 180, radiusRatio: 1.5 },
            { angle_rad: (45 * Math.PI) / 180, radiusRatio: 1.5 },
          ],
        },
        { id: 'meter', type: 'meter', name: 'MAF housing', bore_m: 0.076, K: 0.3 },
        { id: 'coupler', type: 'taper', name: 'coupler', inBore_m: 0.076, outBore_m: 0.07, halfAngle_rad: (8 * Math.PI) / 180 },
        { id: 'throttle', type: 'throttle' },
        { id: 'opening', type: 'opening', edgeRadius_m: 0 },
      ],
    },
    pick: { ...base.pick, shown: [...ids], chosen: ids[1] ?? null },
    fit: {
      boring: { ...base.fit.boring, wall_m: mm(8) },
      // The opening was bored and the coolant lines joined: both stand ready.
      mounting: mountingDoc.parse({ have: ['opening', 'coolant', 'gasket'], seal: 'new' }),
    },
    install: { ...base.install, closed_V: 0.53, full_V: 4.41, shut_rad: (8.2 * Math.PI) / 180, full_rad: (88.5 * Math.PI) / 180 },
    test: {
      ...base.test,
      fwhm_rpm: 200,
      shift_rpm: 6500,
      // Every log goes through this much speed.
      road: { ...base.test.road, from_mps: 80 / 3.6, to_mps: 120 / 3.6 },
      plan: {
        ...base.test.plan,
        runsPerStay: 3,
        costPerVisit: 140,
        costPerRun: 0,
        written: {
          at: '2026-04-18T07:30:00Z',
          order: 'A-B-A-B',
          runsPerStay: 3,
          visits: 1,
          decidesOn: 'top',
          threshold_pct: base.test.plan.threshold_pct,
          predicted: null,
        },
      },
    },
    tags: ['towing', 'manifold bored'],
    verdict: {
      ...base.verdict,
      fitting: 204,
      otherParts: 38,
      note: 'Manifold bored to 66 and blended. Owner says it pulls on where it used to go flat; idle unchanged at 750. Keep it.',
    },
  };
}
