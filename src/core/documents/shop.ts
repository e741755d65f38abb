import { z } from 'zod';
import { isUnitChoice, UNIT_PACKS } from '../units/measures';
import { EURO } from '../units/quantity';
import { SHEETS } from './kinds';
import { figure } from './figure';
import { HOURLY } from './within';

const day = z.iso.date('a date as 2026-04-18').nullable().default(null);
const person = z.string().trim().min(1, 'A name says who it is.').max(60);

/** What a shop has settled for itself. */
export const shopSettingsDoc = z.object({
  name: z.string().trim().max(80).default(''),
  /** Who works here: names for sign-offs and for the record of who changed what. */
  people: z
    .array(person)
    .max(60)
    .refine((list) => new Set(list.map((n) => n.toLowerCase())).size === list.length, 'Two people have the same name.')
    .default([]),
  /** Units of a screen where nobody has chosen yet. */
  pack: z.enum(UNIT_PACKS).default('metric'),
  /** Units of single measures that this shop speaks in whatever the pack, by the measure. */
  units: z
    .record(z.string(), z.string())
    .default({})
    .transform((own) => Object.fromEntries(Object.entries(own).filter(([measure, unit]) => isUnitChoice(measure, unit)))),
  paper: z.enum(SHEETS).default('A4'),
  /** Days on which a rig became another one (a new dyno, other straps, other tyres): studies before it are left out. */
  rigChanged: z.object({ dyno: day, strip: day }).default({ dyno: null, strip: null }),
  /** Sign before amounts of money; they are never converted. */
  currency: z
    .string()
    .trim()
    .min(1, 'A sign is needed, such as €, £, $ or kr.')
    .max(4, 'Four letters at most.')
    .regex(/^[^\d<>]+$/, 'A currency’s sign holds no figures.')
    .default(EURO),
  /** An hour's work, money: fitting is counted with it. */
  hourly: figure(HOURLY).default(0),
});
export type ShopSettings = z.infer<typeof shopSettingsDoc>;
