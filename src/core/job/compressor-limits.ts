import type { CompressorMap } from '../documents/induction';
import { isBoosted, type SideResult } from '../engine/induction';
import { driveRatio } from '../engine/pulley';
import type { SizedJob } from './path';

/** A limit of the compressor that the engine runs into, and from which to which of its speeds. */
export type CompressorLimit =
  | { readonly kind: 'blower speed'; readonly from_rpm: number; readonly top_rpm: number; readonly limit_rpm: number }
  | {
      readonly kind: 'surge' | 'choke';
      readonly from_rpm: number;
      readonly to_rpm: number;
      /** Where it is worst: the flow there and the map's edge at that ratio, kg/s. */
      readonly massFlow_kgps: number;
      readonly edge_kgps: number;
      readonly ratio: number;
    };

/** Flow, kg/s, of a map's edge at a pressure ratio: straight between its points, the nearest one beyond them; null: not known. */
export function edgeAt(edge: CompressorMap['surge'], ratio: number): number | null {
  const points = [...edge].sort((a, b) => a.ratio - b.ratio);
  const above = points.findIndex((p) => p.ratio >= ratio);
  if (points.length === 0) return null;
  if (above <= 0) return points[above < 0 ? points.length - 1 : 0]!.massFlow_kgps;
  const a = points[above - 1]!;
  const b = points[above]!;
  return a.massFlow_kgps + ((b.massFlow_kgps - a.massFlow_kgps) * (ratio - a.ratio)) / (b.ratio - a.ratio);
}

/** Boost below which a compressor is idling along: no surge is told there. */
const IDLING_RATIO = 1.05;

function mapLimits(map: CompressorMap, rpm: readonly number[], solved: SideResult): CompressorLimit[] {
  if (!isBoosted(solved)) return [];
  return (['surge', 'choke'] as const).flatMap((kind): CompressorLimit[] => {
    const over = rpm.flatMap((n, i) => {
      const ratio = solved.pressureRatio[i]!;
      const massFlow_kgps = solved.massFlow_kgps[i]!;
      const edge_kgps = edgeAt(map[kind], ratio);
      if (edge_kgps === null || ratio < IDLING_RATIO) return [];
      const beyond = kind === 'surge' ? edge_kgps / massFlow_kgps - 1 : massFlow_kgps / edge_kgps - 1;
      return beyond > 0 ? [{ n, beyond, ratio, massFlow_kgps, edge_kgps }] : [];
    });
    if (over.length === 0) return [];
    const { beyond: _by, n: _n, ...worst } = over.reduce((a, b) => (b.beyond > a.beyond ? b : a));
    return [{ kind, from_rpm: over[0]!.n, to_rpm: over.at(-1)!.n, ...worst }];
  });
}

/**
 * Limits of a job's blower or compressor that the engine runs into with one side solved: a blower's own speed, a map's surge
 * and choke edges. `pulley_m` with another upper pulley than the car's. Empty: none that is known.
 */
export function compressorLimits(
  doc: Pick<SizedJob, 'car'>,
  rpm: readonly number[],
  solved: SideResult | null,
  pulley_m?: number | null,
): CompressorLimit[] {
  const { induction, engine } = doc.car;
  if (induction.kind === 'drawThrough') {
    const { blower } = induction;
    const ratio = driveRatio(pulley_m ? { ...blower, blowerPulley_m: pulley_m } : blower);
    const top_rpm = ratio * engine.redline_rpm;
    if (blower.limit_rpm === null || top_rpm <= blower.limit_rpm) return [];
    return [{ kind: 'blower speed', from_rpm: blower.limit_rpm / ratio, top_rpm, limit_rpm: blower.limit_rpm }];
  }
  if (induction.kind !== 'centrifugal' && induction.kind !== 'turbo') return [];
  return solved === null ? [] : mapLimits(induction.compressor.map, rpm, solved);
}
