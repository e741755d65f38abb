import type { JobDoc } from '@/core/documents/job';
import type { PartDoc } from '@/core/documents/part';
import type { Ladder } from '@/core/flow/ladder';
import { grossBore } from '@/core/documents/openings';
import type { Fitted } from '@/core/job/path';

/** One part of the lengthwise section: metres along and across, before it is scaled to the page. */
export interface SectionPiece {
  readonly id: string;
  readonly type: PartDoc['type'] | 'plenum';
  readonly label: string;
  readonly from_m: number;
  readonly to_m: number;
  readonly inBore_m: number;
  readonly outBore_m: number;
  /** Drawn shorter than it is, with a break line; the true length in metres. */
  readonly brokenFrom_m: number | null;
}

/** Drawn lengths, m, of parts whose length is not asked for; they cost nothing by it. */
const USUAL_LENGTH_m = {
  openEnd: 0.045,
  filter: 0.1,
  meter: 0.08,
  throttle: 0.06,
  opening: 0.04,
  section: 0.06,
  restrictor: 0.05,
  airbox: 0.2,
  compressor: 0.16,
} as const;
const PLENUM_LENGTH_m = 0.12;
/** Drawn bore of a compressor's connections: its own size is not asked for. */
const COMPRESSOR_FACE_m = 0.06;
/** Longer pipes are drawn this long and broken. */
const LONGEST_PIPE_m = 0.24;

const LABEL: Readonly<Record<PartDoc['type'], string>> = {
  openEnd: 'inlet mouth',
  filter: 'filter',
  pipe: 'pipe',
  meter: 'meter',
  taper: 'taper',
  section: 'section',
  restrictor: 'restrictor',
  airbox: 'airbox',
  compressor: 'compressor and cooler',
  throttle: 'throttle',
  opening: 'manifold bore',
};

/** Where the drawn path ends. */
const END_LABEL: Readonly<Record<JobDoc['car']['induction']['kind'], string>> = {
  na: 'plenum',
  individual: 'ports',
  drawThrough: 'blower',
  centrifugal: 'plenum',
  turbo: 'plenum',
};

function sizeOf(part: PartDoc, fitted: Fitted): { length_m: number; in_m: number; out_m: number; broken: number | null } {
  switch (part.type) {
    case 'pipe':
      return {
        length_m: Math.min(part.length_m, LONGEST_PIPE_m),
        in_m: part.bore_m,
        out_m: part.bore_m,
        broken: part.length_m > LONGEST_PIPE_m ? part.length_m : null,
      };
    case 'taper': {
      const true_m = Math.abs(part.outBore_m - part.inBore_m) / 2 / Math.tan(part.halfAngle_rad);
      return { length_m: Math.min(0.16, Math.max(0.02, true_m)), in_m: part.inBore_m, out_m: part.outBore_m, broken: null };
    }
    case 'throttle': {
      const bore = grossBore(fitted.throttle);
      return { length_m: USUAL_LENGTH_m.throttle, in_m: bore, out_m: bore, broken: null };
    }
    case 'compressor':
      return { length_m: USUAL_LENGTH_m.compressor, in_m: COMPRESSOR_FACE_m, out_m: COMPRESSOR_FACE_m, broken: null };
    case 'opening':
      return { length_m: USUAL_LENGTH_m.opening, in_m: fitted.opening_m, out_m: fitted.opening_m, broken: null };
    default:
      return { length_m: USUAL_LENGTH_m[part.type], in_m: part.bore_m, out_m: part.bore_m, broken: null };
  }
}

/** " × 6" where a part stands for as many as there are cylinders. */
function sideBySide(part: PartDoc, fitted: Fitted): string {
  const count =
    part.type === 'pipe' ? part.count : fitted.throttle.shape === 'individual' && part.type === 'opening' ? fitted.throttle.count : 1;
  return count > 1 ? ` × ${count}` : '';
}

/** The intake from open air to plenum as pieces laid end to end. */
export function sectionPieces(doc: JobDoc, fitted: Fitted, throttleLabel: string): SectionPiece[] {
  const endLabel = END_LABEL[doc.car.induction.kind];
  const pieces: SectionPiece[] = [];
  let at = 0;
  for (const part of doc.air.parts) {
    const { length_m, in_m, out_m, broken } = sizeOf(part, fitted);
    const label = (part.type === 'throttle' ? throttleLabel : (part.name ?? LABEL[part.type])) + sideBySide(part, fitted);
    const bends =
      part.type === 'pipe' && part.bends.length > 0 ? `, ${part.bends.length} ${part.bends.length === 1 ? 'bend' : 'bends'}` : '';
    pieces.push({
      id: part.id,
      type: part.type,
      label: label + bends,
      from_m: at,
      to_m: at + length_m,
      inBore_m: in_m,
      outBore_m: out_m,
      brokenFrom_m: broken,
    });
    at += length_m;
  }
  const widest = Math.max(...pieces.map((p) => Math.max(p.inBore_m, p.outBore_m)));
  pieces.push({
    id: 'plenum',
    type: 'plenum',
    label: endLabel,
    from_m: at,
    to_m: at + PLENUM_LENGTH_m,
    inBore_m: widest * 1.25,
    outBore_m: widest * 1.25,
    brokenFrom_m: null,
  });
  return pieces;
}

/** The ladders along an intake: one path, or what lies before a compressor and the path behind it. */
export interface IntakeLadder {
  readonly before: Ladder | null;
  readonly path: Ladder;
  /** Parts ahead of the throttle's own path, the compressor included. */
  readonly offset: number;
  /** Pressure at the start of the throttle's own path, Pa. */
  readonly start_Pa: number;
}

/** Loss of each part with the change of area behind it (and, for the last, the head lost at the end), Pa. */
export function lossByPart({ before, path, offset }: IntakeLadder, parts: number): number[] {
  const losses = new Array<number>(parts).fill(0);
  before?.dp_Pa.forEach((dp, i) => (losses[before.part[i]!]! += dp));
  path.dp_Pa.forEach((dp, i) => (losses[path.part[i]! + offset]! += dp));
  losses[parts - 1]! += path.exit_Pa;
  return losses;
}

export interface PressurePoint {
  readonly along_m: number;
  /** Lost since open air, or since the compressor, Pa. */
  readonly below_Pa: number;
}

/** The pressure lost along the section: each part's loss over its length, each step's where it stands; anew after a compressor. */
export function pressureLines(pieces: readonly SectionPiece[], ladder: IntakeLadder): PressurePoint[][] {
  const { before, path, offset } = ladder;
  const lines: PressurePoint[][] = [];
  const line = (l: Ladder, from: number): PressurePoint[] => {
    const points: PressurePoint[] = [{ along_m: pieces[from]?.from_m ?? 0, below_Pa: 0 }];
    let below = 0;
    l.what.forEach((_, i) => {
      below += l.dp_Pa[i]!;
      points.push({ along_m: pieces[l.part[i]! + from]!.to_m, below_Pa: below });
    });
    return points;
  };
  if (before) lines.push(line(before, 0));
  const own = line(path, offset);
  const plenum = pieces.at(-1)!;
  const below = own.at(-1)!.below_Pa + path.exit_Pa;
  own.push({ along_m: plenum.from_m + (plenum.to_m - plenum.from_m) * 0.3, below_Pa: below }, { along_m: plenum.to_m, below_Pa: below });
  return [...lines, own];
}

type Span = readonly [number, number];

/**
 * On which line each label stands: 0 beside its part, 1 further out, null where it would collide on both. The throttle's
 * is placed first; the rest take what is left, from air to engine.
 */
export function labelLines(mids: readonly number[], widths: readonly number[], first: number): (0 | 1 | null)[] {
  const taken: [Span[], Span[]] = [[], []];
  const out = mids.map((): 0 | 1 | null => null);
  const order = [first, ...mids.keys()].filter((k, i, all) => k >= 0 && all.indexOf(k) === i);
  for (const k of order) {
    const span: Span = [mids[k]! - widths[k]! / 2, mids[k]! + widths[k]! / 2];
    const line = ([0, 1] as const).find((n) => taken[n].every(([lo, hi]) => span[1] < lo || span[0] > hi));
    if (line === undefined) continue;
    taken[line].push(span);
    out[k] = line;
  }
  return out;
}
