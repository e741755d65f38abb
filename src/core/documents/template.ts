import { z } from 'zod';
import { TEMPLATE_KINDS, TEMPLATE_LAYERS, type Template } from './template-marks';
import { pointDoc } from './flange';
import { BAR_RANGE_m, SHEETS, TEMPLATE_FORMATS } from './kinds';

const layer = z.enum(TEMPLATE_LAYERS);
const far = z.object({ x_m: z.number().min(-1).max(1), y_m: z.number().min(-1).max(1) });
const radius = z.number().gt(0).max(0.5);
const turn = z.number().min(-20).max(20);

const BAR_WORDS = 'A 50 mm bar comes out between 45 and 55 mm. Is it printed “to fit”? Print at 100 %.';

const templateDoc = z.object({
  kind: z.enum(TEMPLATE_KINDS),
  title: z.string().max(200),
  marks: z
    .array(
      z.discriminatedUnion('kind', [
        z.object({ layer, kind: z.literal('line'), a: far, b: far }),
        z.object({ layer, kind: z.literal('circle'), at: far, r_m: radius }),
        z.object({ layer, kind: z.literal('arc'), at: far, r_m: radius, from_rad: turn, to_rad: turn }),
        z.object({ layer, kind: z.literal('text'), at: far, height_m: z.number().gt(0).max(0.05), text: z.string().max(120) }),
      ]),
    )
    .min(1)
    .max(2000),
  holes: z.array(z.object({ n: z.number().int(), at: pointDoc, diameter_m: radius, what: z.string().max(120) })).max(60),
  notes: z.array(z.string().max(400)).max(12),
}) satisfies z.ZodType<Template>;

/** A template as a file: in which format, and on which sheet and by which printer it will be printed. */
export const templateRequest = z.object({
  template: templateDoc,
  format: z.enum(TEMPLATE_FORMATS),
  sheet: z.enum(SHEETS).default('A4'),
  /** What the last print’s 50 mm bar measured, m. */
  measured_m: z.number().min(BAR_RANGE_m[0], BAR_WORDS).max(BAR_RANGE_m[1], BAR_WORDS).default(0.05),
});
