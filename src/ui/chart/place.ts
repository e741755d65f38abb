/** A label that wants to stand by a point, in pixels of the picture. */
export interface Wanted {
  readonly x: number;
  readonly y: number;
  readonly text: string;
  /** The side it would rather be on. */
  readonly side: 'left' | 'right' | 'centre';
}

export interface Box {
  readonly x0: number;
  readonly x1: number;
  readonly y0: number;
  readonly y1: number;
}

/** Offset of a label's own middle from its point, px. */
export interface Placed {
  readonly dx: number;
  readonly dy: number;
  readonly box: Box;
}

/** A condensed letter of this size is about this wide, px. */
const LETTER_px = 6;
const LINE_px = 15;
const GAP_px = 8;

const overlap = (a: Box, b: Box): number =>
  Math.max(0, Math.min(a.x1, b.x1) - Math.max(a.x0, b.x0)) * Math.max(0, Math.min(a.y1, b.y1) - Math.max(a.y0, b.y0));

const boxAt = (w: Wanted, dx: number, dy: number, width: number): Box => ({
  x0: w.x + dx - width / 2,
  x1: w.x + dx + width / 2,
  y0: w.y + dy - LINE_px / 2,
  y1: w.y + dy + LINE_px / 2,
});

/** Where a label could go: beside, above and below its point, near before far, its own side first. */
function candidates(w: Wanted, width: number): readonly (readonly [number, number])[] {
  const beside = width / 2 + GAP_px;
  const sides = w.side === 'left' ? [-beside, beside, 0] : w.side === 'right' ? [beside, -beside, 0] : [0, beside, -beside];
  const lifts = [-13, 13, -28, 28, -43, 43, -58, 58];
  return lifts.flatMap((dy) => sides.map((dx) => [dx, dy] as const));
}

/**
 * Places labels where they cover neither one another nor what is drawn: for each the first place with the least covered, those
 * with the fewest ways out first. `drawn` are points along the curves, `taken` boxes that are taken already.
 */
export function placeLabels(
  wanted: readonly Wanted[],
  frame: Box,
  drawn: readonly (readonly [number, number])[],
  taken: readonly Box[] = [],
): Placed[] {
  const boxes: Box[] = [...taken];
  const out = new Map<Wanted, Placed>();
  for (const w of [...wanted].sort((a, b) => b.x - a.x)) {
    const width = LETTER_px * w.text.length + 6;
    let best: { placed: Placed; cost: number } | null = null;
    for (const [k, [dx, dy]] of candidates(w, width).entries()) {
      const box = boxAt(w, dx, dy, width);
      const outside =
        Math.max(0, frame.x0 - box.x0) + Math.max(0, box.x1 - frame.x1) + Math.max(0, frame.y0 - box.y0) + Math.max(0, box.y1 - frame.y1);
      const crossed = drawn.filter(([x, y]) => x > box.x0 && x < box.x1 && y > box.y0 && y < box.y1).length;
      const covered = boxes.reduce((s, b) => s + overlap(box, b), 0);
      const cost = 40 * outside + 4 * crossed + 3 * covered + 2 * k;
      if (best === null || cost < best.cost) best = { placed: { dx, dy, box }, cost };
    }
    boxes.push(best!.placed.box);
    out.set(w, best!.placed);
  }
  return wanted.map((w) => out.get(w)!);
}
