import type { Point } from '../shape/flange';

/** What a template is cut or drilled by. */
export const TEMPLATE_KINDS = ['gasket', 'adapter', 'port-match', 'drill-guide'] as const;
export type TemplateKind = (typeof TEMPLATE_KINDS)[number];

/** What of a template a cutter may switch off. */
export const TEMPLATE_LAYERS = ['outline', 'opening', 'holes', 'scribe', 'check'] as const;
export type TemplateLayer = (typeof TEMPLATE_LAYERS)[number];

/** A line of a template. Metres and radians, x right, y up, looking at the face. */
export type TemplateMark = { readonly layer: TemplateLayer } & (
  | { readonly kind: 'line'; readonly a: Point; readonly b: Point }
  | { readonly kind: 'circle'; readonly at: Point; readonly r_m: number }
  | { readonly kind: 'arc'; readonly at: Point; readonly r_m: number; readonly from_rad: number; readonly to_rad: number }
  | { readonly kind: 'text'; readonly at: Point; readonly height_m: number; readonly text: string }
);

/** A hole to drill or punch. */
export interface TemplateHole {
  readonly n: number;
  readonly at: Point;
  readonly diameter_m: number;
  readonly what: string;
}

/** A paper or metal pattern as lines, before any file format. */
export interface Template {
  readonly kind: TemplateKind;
  readonly title: string;
  readonly marks: readonly TemplateMark[];
  readonly holes: readonly TemplateHole[];
  readonly notes: readonly string[];
}
