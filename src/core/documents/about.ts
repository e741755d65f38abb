import { z } from 'zod';
import { ABOUT_PARTS, MOST_PHOTOS } from './kinds';

export type AboutPart = (typeof ABOUT_PARTS)[number];

const jobPhotoDoc = z.object({
  /** SHA-256 of the stored picture. */
  hash: z.string().regex(/^[0-9a-f]{64}$/),
  caption: z.string().max(120).default(''),
});

/** Whose car it is and which: all of it optional, none of it on the customer's page unless ticked. */
export const aboutDoc = z.object({
  owner: z.string().max(80).default(''),
  contact: z.string().max(120).default(''),
  /** Registration plate or chassis number. */
  plate: z.string().max(40).default(''),
  /** On the clock, m. */
  mileage_m: z
    .number()
    .min(0, 'A clock shows no less than nothing.')
    .max(5e9, 'That is more than any clock shows.')
    .nullable()
    .default(null),
  photos: z.array(jobPhotoDoc).max(MOST_PHOTOS, `${MOST_PHOTOS} pictures at most.`).default([]),
  onCustomersPage: z.array(z.enum(ABOUT_PARTS)).max(ABOUT_PARTS.length).default([]),
});
export type AboutDoc = z.infer<typeof aboutDoc>;
