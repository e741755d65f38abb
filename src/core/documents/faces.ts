import type { Failure } from '../failure';
import type { Flange, Opening } from '../shape/flange';
import type { ManifoldFlangeDoc, UnitFlangeDoc } from './flange';
import { boltDiameter } from './kinds';
import type { ThrottleDoc } from './throttle';

/** Space between the bores of a twin where nobody gave one: its wall is a twentieth of the bore, 3 mm at least, m. */
const twinSpacing = (bore_m: number): number => bore_m + Math.max(0.003, bore_m / 20);

/** A throttle's bore as an opening; of individual throttles, one of them. */
export function openingOf(t: ThrottleDoc): Opening {
  switch (t.shape) {
    case 'oval':
      return { shape: 'oval', width_m: t.width_m ?? t.bore_m, height_m: t.height_m ?? t.bore_m };
    case 'twin':
      return { shape: 'twin', bore_m: t.bore_m, spacing_m: twinSpacing(t.bore_m) };
    default:
      return { shape: 'round', bore_m: t.bore_m };
  }
}

/** A throttle's flange with its bore in it, as it was measured; null: nobody measured it. */
export function unitFace(unit: { readonly throttle: ThrottleDoc; readonly flange: UnitFlangeDoc | null }): Flange | null {
  return unit.flange && { ...unit.flange, opening: openingOf(unit.throttle) };
}

/** The manifold's face with its opening; null: nobody measured it. Its holes are as wide as the thread. */
export function manifoldFace(stock: { readonly flange: ManifoldFlangeDoc | null; readonly manifoldOpening_m: number }): Flange | null {
  const { flange } = stock;
  return flange && { ...flange, hole_m: boltDiameter(flange.bolt), opening: manifoldOpening(stock) };
}

/** The manifold's opening in its own shape. */
export const manifoldOpening = (stock: { readonly flange: ManifoldFlangeDoc | null; readonly manifoldOpening_m: number }): Opening =>
  stock.flange?.opening ?? { shape: 'round', bore_m: stock.manifoldOpening_m };

/** The gasket's: the manifold's shape, as much wider or narrower as its bore is. */
export function gasketOpening(stock: {
  readonly flange: ManifoldFlangeDoc | null;
  readonly manifoldOpening_m: number;
  readonly gasketOpening_m: number;
}): Opening {
  const shape = stock.flange?.opening;
  if (!shape) return { shape: 'round', bore_m: stock.gasketOpening_m };
  const by = stock.gasketOpening_m - stock.manifoldOpening_m;
  return shape.shape === 'oval'
    ? { ...shape, width_m: shape.width_m + by, height_m: shape.height_m + by }
    : { ...shape, bore_m: shape.bore_m + by };
}

/** Bore of the round opening with the same area, m: what the flow model takes. */
export function roundBoreOf(o: Opening): number {
  switch (o.shape) {
    case 'round':
      return o.bore_m;
    case 'twin':
      return o.bore_m * Math.SQRT2;
    case 'oval':
      return Math.sqrt(o.height_m ** 2 + (4 / Math.PI) * (o.width_m - o.height_m) * o.height_m);
  }
}

const mm = (m: number | undefined): string => `${((m ?? 0) * 1000).toFixed(1)} mm`;

/** Why a flange cannot be, and how to mend it. */
export function flangeIssue({ reason, facts }: Failure): string {
  switch (reason) {
    case 'holes_overlap':
      return `Two holes run into one another: their centres are ${mm(facts?.['span_m'])} apart, the holes are ${mm(facts?.['holes_m'])}. Was an edge read as a centre?`;
    case 'hole_in_opening':
      return `A hole runs ${mm(-(facts?.['wall_m'] ?? 0))} into the bore. Check the spacing, the offset and the bore.`;
    case 'opening_over_plate':
      return 'The bore is larger than the plate it is in. Measure the plate across again.';
    case 'off_the_plate':
      return 'A hole runs over the edge of the plate. Check the spacing against the plate’s size.';
    case 'hole_count':
      return 'A flange has two to twelve holes.';
    default:
      return 'Every size is more than nothing.';
  }
}
