import { entryK } from '../flow/losses';

/** Where a duct begins: its edge's radius m, and whether it stands in a wall or flange. */
export interface Mouth {
  readonly edgeRadius_m?: number | undefined;
  readonly kind?: 'plain' | 'flanged' | undefined;
}

/** End correction over the mouth's radius: in a wall, of a plain end, and of a trumpet's edge from this radius over bore on. */
const FLANGED = 0.82;
const PLAIN = 0.61;
const TRUMPET = 0.5;
const TRUMPET_EDGE = 0.15;

export interface OpenEnd {
  /** Loss of the air drawn in, on the mouth's own head. */
  readonly K: number;
  /** What the air before the mouth adds to the duct's length, m. */
  readonly endCorrection_m: number;
  /** Discharge coefficient of the same mouth in a plenum's wall, inwards. */
  readonly inwardCd: number;
}

/** Loss and end correction of a mouth of `bore_m`. Source: docs/basis/waves.md §3. */
export function openEnd(bore_m: number, mouth: Mouth = {}): OpenEnd {
  const edge = mouth.edgeRadius_m ?? 0;
  const K = entryK(bore_m, edge);
  const plain = PLAIN + (TRUMPET - PLAIN) * Math.min(1, edge / bore_m / TRUMPET_EDGE);
  return { K, endCorrection_m: ((mouth.kind === 'flanged' ? FLANGED : plain) * bore_m) / 2, inwardCd: 1 / Math.sqrt(1 + K) };
}
