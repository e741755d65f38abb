import type { ThrottleDoc } from './throttle';

/** Width of an oval over its height until it is measured. */
const WIDTH_OVER_HEIGHT = 1.5;

/** The oval, half circles with straight sides between them, that lies down and has a round bore's area, m. */
export function ovalOf(bore_m: number): { readonly width_m: number; readonly height_m: number } {
  const circle = Math.PI / 4;
  const height_m = bore_m * Math.sqrt(circle / (circle + WIDTH_OVER_HEIGHT - 1));
  return { width_m: WIDTH_OVER_HEIGHT * height_m, height_m };
}

/** Whether an oval still is the one that was put in a round bore's place: nobody has measured it. */
export function isUnmeasuredOval(
  bore_m: number,
  oval: { readonly width_m?: number | undefined; readonly height_m?: number | undefined },
): boolean {
  const { width_m, height_m } = ovalOf(bore_m);
  return oval.width_m === width_m && oval.height_m === height_m;
}

/**
 * A throttle in another shape, each figure kept that the new one has too. Two bores stand side by side, one a cylinder are four
 * at least, and an oval nobody has measured takes the area of the round bore.
 */
export function reshaped(t: ThrottleDoc, shape: ThrottleDoc['shape']): ThrottleDoc {
  const { width_m, height_m, ...rest } = t;
  const round = ovalOf(t.bore_m);
  return {
    ...rest,
    shape,
    count: shape === 'twin' ? 2 : shape === 'individual' ? Math.max(4, t.count) : 1,
    ...(shape === 'oval' && { width_m: width_m ?? round.width_m, height_m: height_m ?? round.height_m }),
  };
}
