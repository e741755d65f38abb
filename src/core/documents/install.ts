import { z } from 'zod';
import { STEP_STAGES } from './kinds';

const SENSOR_RANGE = 'A position sensor gives 0 to 5.5 V.';
const sensorVolts = z.number().min(0, SENSOR_RANGE).max(5.5, SENSOR_RANGE).nullable();

/** A step that the shop added: it stands after another one of its stage, or first in it. */
export const ownStepDoc = z.object({
  id: z.string().regex(/^own-[a-z0-9-]{1,32}$/),
  stage: z.enum(STEP_STAGES),
  after: z.string().max(40).nullable(),
  text: z.string().trim().min(1, 'Say what is to be done.').max(400),
});
export type OwnStep = z.infer<typeof ownStepDoc>;

const stopAngle = z.number().min(0, 'Square to the bore is 0°.').max(2.6, 'That is past 149°: no blade goes there.');

/** What is measured and added while a throttle is put on. */
export const installDoc = z.object({
  /** The position sensor on the new unit, V; of electronic units the first track. */
  closed_V: sensorVolts.default(null),
  full_V: sensorVolts.default(null),
  /** Second track of an electronic throttle. */
  closedB_V: sensorVolts.default(null),
  fullB_V: sensorVolts.default(null),
  /** Maker’s tightening torque, N·m; null: not at hand. */
  torque_Nm: z.number().gt(0).max(120, 'More than 120 N·m strips any of these.').nullable().default(null),
  /** Angles of a mechanical unit’s stops, rad from square to the bore; null: as the unit has them. */
  shut_rad: stopAngle.nullable().default(null),
  full_rad: stopAngle.nullable().default(null),
  own: z.array(ownStepDoc).max(60).default([]),
  relearn: z
    .object({
      cycles: z.number().int().min(1).max(10),
      run_s: z.number().min(10, 'Ten seconds at the least.').max(1800),
      rest_s: z.number().min(0).max(3600),
      low_rpm: z.number().min(200).max(3000),
      high_rpm: z.number().min(250).max(4000),
    })
    .refine((r) => r.high_rpm > r.low_rpm, { path: ['high_rpm'], message: 'The band’s upper end is above its lower one.' })
    .default({ cycles: 3, run_s: 180, rest_s: 120, low_rpm: 650, high_rpm: 850 }),
});
export type InstallDoc = z.infer<typeof installDoc>;
