import type { UnitDoc } from '@/core/documents/unit';
import { flangeHoles, fromOpening, thinnestWall, type Opening } from '@/core/shape/flange';
import type { UnitPack } from '@/core/units/measures';
import { formatQuantity } from '@/core/units/quantity';
import type { Palette } from '@/ui/theme/tokens';
import { H, MID_X, MID_Y, reachOf, type FaceScene } from './face-geometry';
import type { Layer } from './face-layers';

/** A name that leaves room for the size behind it, beside the drawing. */
const LONGEST_NAME = 18;
const shortly = (name: string): string => (name.length > LONGEST_NAME ? `${name.slice(0, LONGEST_NAME - 1).trimEnd()}…` : name);

const openingSize = (o: Opening, size: (m: number) => string): string =>
  o.shape === 'oval' ? `${size(o.width_m)} × ${size(o.height_m)}` : o.shape === 'twin' ? `2 × ${size(o.bore_m)}` : size(o.bore_m);

/** A name or figure with a line to the point it is of. */
export interface Leader {
  readonly text: string;
  readonly color: string;
  /** Point on the drawing, px. */
  readonly x: number;
  readonly y: number;
}

const ROW_px = 26;

/** Labels down the right side in the order of their points, never closer than a line. */
export function leaderRows<T extends Leader>(list: readonly T[]): (T & { row: number })[] {
  let last = -Infinity;
  return [...list]
    .sort((a, b) => a.y - b.y)
    .map((l) => {
      last = Math.max(last + ROW_px, Math.min(H - 60, Math.max(30, l.y)));
      return { ...l, row: last };
    });
}

/** What of the drawing is shown, and in whose words and colours. */
interface Shown {
  readonly unit: UnitDoc;
  /** The unit's colour. */
  readonly color: string;
  readonly pack: UnitPack;
  readonly palette: Palette;
  readonly on: (layer: Layer) => boolean;
  /** Where in the drawing a height of the sheet lies: what is drawn nearer is written beside what is seen. */
  readonly height: (y: number) => number;
}

/** A point of an opening's edge at a height of the drawing. */
function onEdge(o: Opening, y: number, k: number): { x: number; y: number } {
  const r = reachOf(o) * k;
  const a = Math.asin(Math.max(-0.97, Math.min(0.97, (y - MID_Y) / r)));
  return { x: MID_X + Math.cos(a) * r, y: MID_Y + Math.sin(a) * r };
}

function openingLabels(scene: FaceScene, { unit, color, pack, palette, on, height }: Shown): Leader[] {
  const { opening, hole, seal, k } = scene;
  const size = (m: number): string => formatQuantity(m, 'bore', pack);
  return [
    ...(on('unit') ? [{ text: `${shortly(unit.name)} bore ${openingSize(opening, size)}`, color, ...onEdge(opening, height(70), k) }] : []),
    ...(on('manifold') ? [{ text: `manifold bore ${openingSize(hole, size)}`, color: palette.ink, ...onEdge(hole, height(104), k) }] : []),
    ...(on('gasket') ? [{ text: `gasket bore ${openingSize(seal, size)}`, color: palette.quiet, ...onEdge(seal, height(138), k) }] : []),
  ];
}

/** How far the bolts' holes lie apart, at the worst of them. */
function patternLabel({ match, top, play, X, Y }: FaceScene, { pack, palette, on }: Shown): Leader[] {
  if (!match || !top || !on('unit') || !on('manifold')) return [];
  const off = match.worst_m > play;
  const at = flangeHoles(top)[match.off_m.indexOf(match.worst_m)]!;
  const text = off
    ? `holes ${formatQuantity(match.worst_m, 'bore', pack)} off`
    : `holes within ${formatQuantity(Math.max(play, 0), 'fineLength', pack)}`;
  return [{ text, color: off ? palette.danger : palette.quiet, x: X(at), y: Y(at) }];
}

/** Where the flange's metal is thinnest between a hole and the opening. */
function wallLabel({ top, X, Y }: FaceScene, { color, pack, on }: Shown): Leader[] {
  const wall = top ? thinnestWall(top) : null;
  if (!top || wall === null || !on('unit')) return [];
  const nearest = flangeHoles(top).reduce((a, h) => (fromOpening(top, h) < fromOpening(top, a) ? h : a));
  const inward = (v: number, middle: number): number => v * 0.92 + middle * 0.08;
  return [
    { text: `thinnest wall ${formatQuantity(wall, 'bore', pack)}`, color, x: inward(X(nearest), MID_X), y: inward(Y(nearest), MID_Y) },
  ];
}

/** Names and figures beside the drawing, of what is shown. */
export function faceLabels(scene: FaceScene, shown: Shown): Leader[] {
  const { lip, narrow, opening, k } = scene;
  const step: Leader[] =
    lip && lip.lip_m2 > 1e-6 && shown.on('lip')
      ? [
          {
            text: `step ${formatQuantity(lip.lip_m2, 'area', shown.pack)} facing the flow`,
            color: shown.palette.stock,
            ...onEdge({ shape: 'round', bore_m: reachOf(narrow) + reachOf(opening) }, shown.height(330), k),
          },
        ]
      : [];
  return [...openingLabels(scene, shown), ...step, ...patternLabel(scene, shown), ...wallLabel(scene, shown)];
}
