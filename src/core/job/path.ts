import { effectiveOpening, grossBore, openingFor, type OpeningChoice } from '../documents/openings';
import type { JobDoc } from '../documents/job';
import type { PartDoc } from '../documents/part';
import type { ThrottleDoc } from '../documents/throttle';
import type { BenchRecord, UnitDoc } from '../documents/unit';
import { squareStroke } from '../engine/power';
import { CYCLE_rad, evenStarts, pulsationFactor } from '../engine/pulsation';
import { plateDischarge } from '../flow/orifice';
import { isFailure } from '../failure';
import type { Path, PathPart } from '../flow/path';

/** What is on the car: the stock throttle, or another on the manifold as it is or bored to match. */
export interface Fitted {
  readonly throttle: ThrottleDoc;
  /** Of one opening: behind individual throttles there are as many as bores. */
  readonly opening_m: number;
  readonly bench?: FittedBench | undefined;
  /** From its flange to the end of its spigot; null: nobody measured it. */
  readonly length_m?: number | null | undefined;
}

/** The bench figure a throttle is taken by: what it flowed, on whose bench, and whether that was read or is claimed. */
export interface FittedBench {
  readonly flow_m3ps: number;
  readonly depression_Pa: number;
  readonly entryK: number;
  readonly bench: string;
  readonly kind: BenchRecord['kind'];
}

/** How far a flow that is only claimed may be off, as a share. Airflow basis §9. */
const CLAIM_TOLERANCE = 0.1;

/** The parts of a job that decide what air does; notes, runs and choices do not. */
export type SizedJob = Pick<JobDoc, 'car' | 'air' | 'sizing'>;

export function stockFitted(doc: SizedJob): Fitted {
  const { throttle, bench, fittings } = doc.car.stock;
  return { throttle, opening_m: effectiveOpening(doc), bench: bench ? benchOf(throttle, bench) : undefined, length_m: fittings.length_m };
}

/** A bench figure brought to all bores of its unit: sets are often tested one bore at a time. */
export const wholeFlow = (unit: Pick<UnitDoc, 'throttle'>, record: BenchRecord): number =>
  (record.flow_m3ps * unit.throttle.count) / (record.bores ?? unit.throttle.count);

const benchOf = (throttle: ThrottleDoc, record: BenchRecord): FittedBench => ({
  flow_m3ps: wholeFlow({ throttle }, record),
  depression_Pa: record.depression_Pa,
  entryK: record.entryK,
  bench: record.bench,
  kind: record.kind,
});

/** The record a throttle is taken by: the first that was read, else the first that is claimed. */
export const recordOf = (records: readonly BenchRecord[]): BenchRecord | undefined =>
  records.find((r) => r.kind === 'reading') ?? records[0];

/** Whether both throttles' coefficients rest on readings of one bench: then its error is the same for both. */
export const oneBench = (a: Fitted, b: Fitted): boolean =>
  a.bench !== undefined &&
  b.bench !== undefined &&
  a.bench.kind === 'reading' &&
  b.bench.kind === 'reading' &&
  a.bench.bench.trim() !== '' &&
  a.bench.bench.trim().toLowerCase() === b.bench.bench.trim().toLowerCase();

export function unitFitted(doc: SizedJob, unit: UnitDoc, opening: OpeningChoice): Fitted {
  const opening_m = openingFor(doc, grossBore(unit.throttle), opening);
  const record = recordOf(unit.bench);
  return { throttle: unit.throttle, opening_m, bench: record && benchOf(unit.throttle, record), length_m: unit.fittings.length_m };
}

/** Volume of the plenum as a share of the displacement until it is known. Airflow basis §11. */
const PLENUM_SHARE = 0.8;
/** With so few cylinders the plenum is not refilled in time: the factor says the least it can be. Airflow basis §11. */
const FEW_CYLINDERS = 3;

/** Volume behind the throttle, m³: the car's own, or the usual one. */
export const plenumVolume = (engine: JobDoc['car']['engine']): number => engine.plenum_m3 ?? PLENUM_SHARE * engine.displacement_m3;

/** Stroke, m: the engine's own, or that of a square cylinder. */
export const strokeOf = (engine: JobDoc['car']['engine']): number =>
  engine.stroke_m ?? squareStroke(engine.displacement_m3, engine.cylinders);

/** How far the flow of a job's throttle is from even. Airflow basis §11. */
export interface JobPulsation {
  /** Factor on every loss ahead of an airbox, which all cylinders share: behind its volume the flow is nearly steady. */
  readonly shared: number;
  /** Factor on the throttle's own losses. */
  readonly own: number;
  readonly ownPeakToMean: number;
  /** Share of the cycle over which one cylinder draws through its own throttle; null: they share one. */
  readonly eventShare: number | null;
  /** So few cylinders on one throttle, or one each: the steady model says at least this. */
  readonly atLeast: boolean;
}

/**
 * Pulsation of a job's throttle: of one cylinder's own, or of the cylinders that share it through the plenum's volume. Null
 * ahead of a displacement blower, which draws evenly.
 */
export function jobPulsation(doc: SizedJob): JobPulsation | null {
  const { induction, engine } = doc.car;
  if (induction.kind === 'drawThrough') return null;
  const displacement_m3 = engine.displacement_m3;
  const startAngles_rad = evenStarts(engine.cylinders);
  if (induction.kind !== 'individual') {
    const all = pulsationFactor({ startAngles_rad, plenum_m3: plenumVolume(engine), displacement_m3 });
    if (isFailure(all)) return null;
    const factor = all.blendedFactor ?? all.factor;
    return { shared: factor, own: factor, ownPeakToMean: 1, eventShare: null, atLeast: engine.cylinders <= FEW_CYLINDERS };
  }
  const box = doc.air.parts.find((p) => p.type === 'airbox');
  const one = pulsationFactor({ startAngles_rad: [0], eventLength_rad: induction.event_rad });
  const all = pulsationFactor({
    startAngles_rad,
    eventLength_rad: induction.event_rad,
    ...(box?.type === 'airbox' && { plenum_m3: box.volume_m3, displacement_m3 }),
  });
  if (isFailure(one) || isFailure(all)) return null;
  const eventShare = induction.event_rad / CYCLE_rad;
  return { shared: all.blendedFactor ?? all.factor, own: one.factor, ownPeakToMean: one.peakToMean, eventShare, atLeast: true };
}

/** The part as the ladder takes it. */
function corePart(part: PartDoc, fitted: Fitted, openingEdge_m: number, ahead_m: number | null): PathPart {
  const { id: _id, bench, ...rest } = part;
  const name = part.name ?? part.id;
  const record = (figure: Pick<FittedBench, 'flow_m3ps' | 'depression_Pa' | 'entryK'> | undefined): object =>
    figure ? { benchFlow_m3ps: figure.flow_m3ps, benchDepression_Pa: figure.depression_Pa, benchEntryK: figure.entryK } : {};
  switch (part.type) {
    case 'throttle':
      return {
        type: 'throttle',
        name: 'throttle',
        throttle: fitted.throttle,
        join: { ...part.join, edgeRadius_m: openingEdge_m },
        ...record(fitted.bench),
        ...(fitted.bench?.kind === 'claim' && { benchTolerance: CLAIM_TOLERANCE }),
      };
    case 'opening': {
      const count = fitted.throttle.shape === 'individual' ? fitted.throttle.count : 1;
      if (count === 1) return { type: 'section', name: 'opening', bore_m: fitted.opening_m, join: part.join };
      return { type: 'section', name: 'opening', area_m2: (count * Math.PI * fitted.opening_m ** 2) / 4, join: part.join };
    }
    case 'airbox':
      return { type: 'section', name, bore_m: part.bore_m, join: part.join, ...record(bench) };
    case 'restrictor': {
      const { Cd, recovery, ...plain } = part;
      const own =
        Cd ?? (part.kind === 'plate' && ahead_m !== null ? plateDischarge((part.bore_m * Math.sqrt(part.count)) / ahead_m) : null);
      const { id: _own, bench: _none, ...kept } = plain;
      return { ...kept, name, ...(own !== null && { Cd: own }), ...(recovery !== null && { recovery }) };
    }
    default:
      return { ...rest, name, ...record(bench) } as PathPart;
  }
}

/** Bore of the part that a restrictor stands in, m: the one ahead of it that has a bore; null: open air. */
function boreAhead(parts: readonly PartDoc[], at: number): number | null {
  const ahead = parts
    .slice(0, at)
    .filter((p) => p.type !== 'restrictor')
    .at(-1);
  if (!ahead) return null;
  return ahead.type === 'taper' ? ahead.outBore_m : 'bore_m' in ahead ? ahead.bore_m : null;
}

/** A job's intake: the path with the throttle in it, and where a compressor stands ahead of it, what lies before that. */
export interface JobIntake {
  readonly before: Path | null;
  readonly path: Path;
  /** Index in the job's parts of the first part of `path`. */
  readonly offset: number;
}

/** The job's intake with a given unit in it. The radius on the opening's edge counts where the throttle steps down into it. */
export function jobIntake(doc: SizedJob, fitted: Fitted): JobIntake {
  const opening = doc.air.parts.find((p) => p.type === 'opening');
  const edge_m = opening?.type === 'opening' ? opening.edgeRadius_m : 0;
  const pulsation = jobPulsation(doc);
  const { lossFactor } = doc.air;
  const box = doc.air.parts.findIndex((p) => p.type === 'airbox');
  const at = doc.air.parts.findIndex((p) => p.type === 'compressor');
  const core = doc.air.parts.map((part, i): PathPart => {
    const made = corePart(part, fitted, edge_m, boreAhead(doc.air.parts, i));
    // A compressor draws evenly: what the cylinders do reaches no further than its outlet.
    const pulses = i > at ? pulsation : null;
    const shared = box >= 0 && i <= box;
    const eventShare = shared ? null : (pulses?.eventShare ?? null);
    const factor = pulses === null ? 1 : shared ? pulses.shared : eventShare === null || made.type === 'filter' ? pulses.own : 1;
    return {
      ...made,
      ...(lossFactor * factor !== 1 && { pulsationFactor: lossFactor * factor }),
      ...(eventShare !== null && made.type !== 'filter' && { eventShare }),
    };
  });
  if (at < 0) return { before: null, path: { parts: core }, offset: 0 };
  return { before: { parts: core.slice(0, at) }, path: { parts: core.slice(at + 1) }, offset: at + 1 };
}

/** The path the throttle is in. */
export const jobPath = (doc: SizedJob, fitted: Fitted): Path => jobIntake(doc, fitted).path;
