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
}

export interface CompiledPath {
  readonly rows: readonly Row[];
  /** The rows' figures side by side, FIGURES a row: what the walk reads. */
  readonly figures: Float64Array;
  /** Area whose dynamic head is lost at the end, m²; 0 where nothing is lost. */
  readonly exitArea_m2: number;
  readonly exitPulsation: number;
}

/** Numbers a row, and where each stands. */
export const FIGURES = 8;
export const FIGURE = { kind: 0, inverseArea2: 1, K: 2, factor: 3, lengthOverBore: 4, wall: 5, reynolds: 6, filterC: 7 } as const;
const KIND: Readonly<Record<Row['kind'], number>> = { none: 0, loss: 1, pipe: 2, filter: 3, blocked: 4 };

function figuresOf(rows: readonly Row[]): Float64Array {
  const out = new Float64Array(rows.length * FIGURES);
  rows.forEach((row, i) => {
    const reynoldsPerFlow = 4 / (Math.PI * row.bore_m * row.count);
    const numbers = [KIND[row.kind], row.area_m2 ** -2, row.K, row.pulsation, row.lengthOverBore, row.wall, reynoldsPerFlow, row.filterC];
    out.set(numbers, i * FIGURES);
  });
  return out;
}

/** A path of some of a compiled path's rows. */
export function pathOfRows(rows: readonly Row[], exitArea_m2: number, exitPulsation: number): CompiledPath {
  return { rows, figures: figuresOf(rows), exitArea_m2, exitPulsation };
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

const BLANK = { area_m2: 1, K: 0, lengthOverBore: 0, bore_m: 1, wall: 0, count: 1, pulsation: 1, filterC: 0 } as const;

function partRow(part: PathPart, index: number, f: Faces): Row {
  const base = { ...BLANK, what: part.name ?? part.type, part: index, junction: false, area_m2: f.k_m2, K: f.K };
  if (part.type === 'filter') {
    // Δp = λ·Δp_r·(ρ_b/ρ)·(ṁ/(Q_r·ρ_b))² = λ·Δp_r/(Q_r²·ρ_b) · ṁ²/ρ
    const filterC = ((part.loading ?? 1) * part.ratedLoss_Pa) / (part.ratedFlow_m3ps ** 2 * BENCH_DENSITY_kgpm3);
    return { ...base, kind: 'filter', filterC };
  }
  if (part.type === 'pipe' && part.benchFlow_m3ps === undefined) {
    return {
      ...base,
      kind: 'pipe',
      lengthOverBore: part.length_m / part.bore_m,
      bore_m: part.bore_m,
      wall: haalandRoughness(part.roughness_m ?? SMOOTH_ROUGHNESS_m, part.bore_m),
      count: part.count ?? 1,
    };
  }
  return { ...base, kind: 'loss' };
}

function junctionRows(part: PathPart, index: number, up: number | null, down: number | null, nextName: string): Row[] {
  const name = `${part.name ?? part.type}>${nextName}`;
  const base = { ...BLANK, part: index, junction: true } as const;
  if (up === null || down === null) return [{ ...base, what: name, kind: 'none' }];
  const join = part.join ?? {};
  const step = (what: string, a: number, b: number, halfAngle?: number, radius?: number): Row => ({
    ...base,
    what,
    kind: 'loss',
    area_m2: Math.min(a, b),
    K: junctionK(a, b, halfAngle, radius),
  });
  if (!join.offset_m) return [step(name, up, down, join.halfAngle_rad, join.edgeRadius_m)];
  const lens = lensArea(equalAreaBore(up), equalAreaBore(down), join.offset_m);
  if (lens <= 0) return [{ ...base, what: name, kind: 'blocked' }];
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
  const pulsationOf = (part: PathPart): number => part.pulsationFactor ?? path.pulsationFactor ?? 1;
  path.parts.forEach((part, i) => {
    rows.push({ ...partRow(part, i, all[i]!), pulsation: pulsationOf(part) });
    const next = path.parts[i + 1];
    if (!next) return;
    for (const row of junctionRows(part, i, all[i]!.out_m2, all[i + 1]!.in_m2, next.name ?? next.type))
      rows.push({ ...row, pulsation: pulsationOf(next) });
  });
  const last = all.at(-1);
  const exit_m2 = end === 'dump' && last ? (last.out_m2 ?? 0) : 0;
  return pathOfRows(rows, exit_m2, path.parts.length > 0 ? pulsationOf(path.parts.at(-1)!) : 1);
}
