import { failure, isFailure, type Failure } from '../failure';
import { benchLossCoefficient } from './bench';
import { BENCH_DENSITY_kgpm3 } from './constants';
import { bendK, entryK, haalandRoughness, junctionK, lensArea, SMOOTH_ROUGHNESS_m } from './losses';
import type { Path, PathEnd, PathPart } from './path';
import { equalAreaBore, throttleWideOpen } from './throttle';

/**
 * A row of the ladder made ready for walking: everything that does not depend on the flow is worked out once, because
 * a solve walks the same path hundreds of times.
 */
export interface Row {
  readonly what: string;
  /** The part (index in the path) or, for a junction, the part it follows. */
  readonly part: number;
  readonly junction: boolean;
  readonly kind: 'loss' | 'pipe' | 'filter' | 'none' | 'blocked';
  /** Area whose dynamic head K counts on, m². */
  readonly area_m2: number;
  readonly K: number;
  /** pipe: friction length over bore, bore, Haaland's wall share and how many side by side. */
  readonly lengthOverBore: number;
  readonly bore_m: number;
  readonly wall: number;
  readonly count: number;
  /** Pulsation factor on this row. */
  readonly pulsation: number;
  /** filter: Δp = c·ṁ²/ρ, c in Pa·kg/m³/(kg/s)². */
  readonly filterC: number;
  /** Share of the cycle over which the flow comes as one half-sine; 0: it flows evenly. */
  readonly eventShare: number;
}

export interface CompiledPath {
  readonly rows: readonly Row[];
  /** The rows' figures side by side, FIGURES a row: what the walk reads. */
  readonly figures: Float64Array;
  /** Area whose dynamic head is lost at the end, m²; 0 where nothing is lost. */
  readonly exitArea_m2: number;
  readonly exitPulsation: number;
  readonly exitEventShare: number;
}

/** Numbers a row, and where each stands. */
export const FIGURES = 9;
export const FIGURE = {
  kind: 0,
  inverseArea2: 1,
  K: 2,
  factor: 3,
  lengthOverBore: 4,
  wall: 5,
  reynolds: 6,
  filterC: 7,
  eventShare: 8,
} as const;
export const ROW_KIND: Readonly<Record<Row['kind'], number>> = { none: 0, loss: 1, pipe: 2, filter: 3, blocked: 4 };

function figuresOf(rows: readonly Row[]): Float64Array {
  const out = new Float64Array(rows.length * FIGURES);
  rows.forEach((row, i) => {
    const reynoldsPerFlow = 4 / (Math.PI * row.bore_m * row.count);
    const at = i * FIGURES;
    out[at + FIGURE.kind] = ROW_KIND[row.kind];
    out[at + FIGURE.inverseArea2] = 1 / (row.area_m2 * row.area_m2);
    out[at + FIGURE.K] = row.K;
    out[at + FIGURE.factor] = row.pulsation;
    out[at + FIGURE.lengthOverBore] = row.lengthOverBore;
    out[at + FIGURE.wall] = row.wall;
    out[at + FIGURE.reynolds] = reynoldsPerFlow;
    out[at + FIGURE.filterC] = row.filterC;
    out[at + FIGURE.eventShare] = row.eventShare;
  });
  return out;
}

/** A path of some of a compiled path's rows. */
export function pathOfRows(rows: readonly Row[], exitArea_m2: number, exitPulsation: number, exitEventShare = 0): CompiledPath {
  return { rows, figures: figuresOf(rows), exitArea_m2, exitPulsation, exitEventShare };
}

/** No path at all: what goes in comes out. */
export const EMPTY_PATH: CompiledPath = pathOfRows([], 0, 1);

interface Faces {
  readonly in_m2: number | null;
  readonly out_m2: number | null;
  /** Area the part's own loss counts on. */
  readonly k_m2: number;
  readonly K: number;
}

/** Discharge coefficient of a restrictor, and the share of its throat's head won back behind it. Airflow basis §5; ISO 5167. */
export const RESTRICTORS = { venturi: { Cd: 0.98, recovery: 0.8 }, plate: { Cd: 0.62, recovery: 0 } } as const;

const given = (part: { Cd?: number | undefined; recovery?: number | undefined }): { Cd?: number; recovery?: number } => ({
  ...(part.Cd !== undefined && { Cd: part.Cd }),
  ...(part.recovery !== undefined && { recovery: part.recovery }),
});

const circle = (bore_m: number): number => (Math.PI / 4) * bore_m * bore_m;

function sizedArea(part: { bore_m?: number | undefined; area_m2?: number | undefined }): number {
  return part.area_m2 ?? (part.bore_m === undefined ? NaN : circle(part.bore_m));
}

function bendsK(part: Extract<PathPart, { type: 'pipe' }>): number | Failure {
  let sum = 0;
  for (const bend of part.bends ?? []) {
    const K = bendK(bend);
    if (isFailure(K)) return K;
    sum += K;
  }
  return sum;
}

function ownFaces(part: PathPart): Faces | Failure {
  switch (part.type) {
    case 'openEnd': {
      const a = sizedArea(part);
      return { in_m2: a, out_m2: a, k_m2: a, K: entryK(part.bore_m ?? equalAreaBore(a), part.edgeRadius_m ?? 0) };
    }
    case 'filter': {
      const a = part.area_m2 === undefined && part.bore_m === undefined ? null : sizedArea(part);
      return { in_m2: a, out_m2: a, k_m2: a ?? 1, K: 0 };
    }
    case 'pipe': {
      const a = circle(part.bore_m) * (part.count ?? 1);
      const K = bendsK(part);
      return isFailure(K) ? K : { in_m2: a, out_m2: a, k_m2: a, K };
    }
    case 'meter':
    case 'section': {
      const a = sizedArea(part);
      return { in_m2: a, out_m2: a, k_m2: a, K: part.K ?? (part.type === 'meter' ? 0.3 : 0) };
    }
    case 'bench': {
      const a = sizedArea(part);
      return { in_m2: a, out_m2: a, k_m2: a, K: 0 };
    }
    case 'restrictor': {
      const { Cd, recovery } = { ...RESTRICTORS[part.kind ?? 'venturi'], ...given(part) };
      if (!(Cd > 0) || !(recovery >= 0 && recovery <= 1)) return failure('bad_input', { reason: 'restrictor' });
      return { in_m2: null, out_m2: null, k_m2: Cd * circle(part.bore_m) * (part.count ?? 1), K: 1 - recovery };
    }
    case 'throttle': {
      const wide = throttleWideOpen(part.throttle);
      if (isFailure(wide)) return wide;
      return { in_m2: wide.grossArea_m2, out_m2: wide.grossArea_m2, k_m2: wide.netArea_m2, K: wide.K };
    }
    case 'taper': {
      const a = circle(part.inBore_m);
      const b = circle(part.outBore_m);
      return { in_m2: a, out_m2: b, k_m2: Math.min(a, b), K: junctionK(a, b, part.halfAngle_rad, part.edgeRadius_m ?? 0) };
    }
  }
}

/** A bench figure, where one is given, takes the place of the part's own coefficient. */
function faces(part: PathPart): Faces | Failure {
  const own = ownFaces(part);
  if (isFailure(own)) return own;
  if (![own.in_m2 ?? 1, own.out_m2 ?? 1, own.k_m2].every((a) => a > 0 && Number.isFinite(a))) {
    return failure('bad_geometry', { reason: 'size_not_positive' });
  }
  if (part.benchFlow_m3ps === undefined || part.type === 'filter') return own;
  if (part.benchDepression_Pa === undefined || part.benchEntryK === undefined) return failure('bad_input', { reason: 'bench_record' });
  const bench = benchLossCoefficient({
    flow_m3ps: part.benchFlow_m3ps,
    depression_Pa: part.benchDepression_Pa,
    netArea_m2: own.k_m2,
    grossArea_m2: own.in_m2 ?? own.k_m2,
    entryK: part.benchEntryK,
  });
  return isFailure(bench) ? bench : { ...own, K: bench.K };
}

/** Net and gross area, m², that a part's bench figure is read against; null for a geometry that cannot be. */
export function facingAreas(part: PathPart): { readonly net_m2: number; readonly gross_m2: number } | null {
  const own = ownFaces(part);
  return isFailure(own) ? null : { net_m2: own.k_m2, gross_m2: own.in_m2 ?? own.k_m2 };
}

/** How the flow pulsates at a row. */
type Pulse = Pick<Row, 'pulsation' | 'eventShare'>;

/** A row in one piece: a path is compiled at every bore that is tried, and objects put together bit by bit are slow. */
const rowOf = (
  what: string,
  part: number,
  junction: boolean,
  kind: Row['kind'],
  area_m2: number,
  K: number,
  { pulsation, eventShare }: Pulse,
  filterC = 0,
  lengthOverBore = 0,
  bore_m = 1,
  wall = 0,
  count = 1,
): Row => ({ what, part, junction, kind, area_m2, K, lengthOverBore, bore_m, wall, count, pulsation, filterC, eventShare });

function partRow(part: PathPart, index: number, f: Faces, pulse: Pulse): Row {
  const what = part.name ?? part.type;
  if (part.type === 'filter') {
    // Δp = λ·Δp_r·(ρ_b/ρ)·(ṁ/(Q_r·ρ_b))² = λ·Δp_r/(Q_r²·ρ_b) · ṁ²/ρ
    const filterC = ((part.loading ?? 1) * part.ratedLoss_Pa) / (part.ratedFlow_m3ps ** 2 * BENCH_DENSITY_kgpm3);
    return rowOf(what, index, false, 'filter', f.k_m2, f.K, pulse, filterC);
  }
  if (part.type === 'pipe' && part.benchFlow_m3ps === undefined) {
    const wall = haalandRoughness(part.roughness_m ?? SMOOTH_ROUGHNESS_m, part.bore_m);
    return rowOf(what, index, false, 'pipe', f.k_m2, f.K, pulse, 0, part.length_m / part.bore_m, part.bore_m, wall, part.count ?? 1);
  }
  return rowOf(what, index, false, 'loss', f.k_m2, f.K, pulse);
}

function junctionRows(part: PathPart, index: number, up: number | null, down: number | null, nextName: string, pulse: Pulse): Row[] {
  const name = `${part.name ?? part.type}>${nextName}`;
  if (up === null || down === null) return [rowOf(name, index, true, 'none', 1, 0, pulse)];
  const join = part.join ?? {};
  const step = (what: string, a: number, b: number, halfAngle?: number, radius?: number): Row =>
    rowOf(what, index, true, 'loss', Math.min(a, b), junctionK(a, b, halfAngle, radius), pulse);
  if (!join.offset_m) return [step(name, up, down, join.halfAngle_rad, join.edgeRadius_m)];
  const lens = lensArea(equalAreaBore(up), equalAreaBore(down), join.offset_m);
  if (lens <= 0) return [rowOf(name, index, true, 'blocked', 1, 0, pulse)];
  return [step(`${name}:in`, up, lens), step(`${name}:out`, lens, down)];
}

/** Makes a path ready for walking, or says which part cannot be (`bad_geometry`, `bad_input`; `where` its name). */
export function compilePath(path: Path, end: PathEnd = 'dump'): CompiledPath | Failure {
  const rows: Row[] = [];
  const all: Faces[] = [];
  for (const part of path.parts) {
    const f = faces(part);
    if (isFailure(f)) return { ...f, where: part.name ?? part.type };
    all.push(f);
  }
  const pulsationOf = (part: PathPart): Pulse => ({
    pulsation: part.pulsationFactor ?? path.pulsationFactor ?? 1,
    eventShare: part.type === 'filter' ? 0 : (part.eventShare ?? 0),
  });
  path.parts.forEach((part, i) => {
    rows.push(partRow(part, i, all[i]!, pulsationOf(part)));
    const next = path.parts[i + 1];
    if (!next) return;
    rows.push(...junctionRows(part, i, all[i]!.out_m2, all[i + 1]!.in_m2, next.name ?? next.type, pulsationOf(next)));
  });
  const last = all.at(-1);
  const exit_m2 = end === 'dump' && last ? (last.out_m2 ?? 0) : 0;
  const ending = path.parts.at(-1);
  const { pulsation, eventShare } = ending ? pulsationOf(ending) : { pulsation: 1, eventShare: 0 };
  return pathOfRows(rows, exit_m2, pulsation, eventShare);
}
