import type { JobDoc } from '../documents/job';
import type { PartDoc } from '../documents/part';
import type { ThrottleDoc } from '../documents/throttle';
import type { BenchRecord, UnitDoc } from '../documents/unit';
import { evenStarts, pulsationFactor } from '../engine/pulsation';
import { isFailure } from '../failure';
import type { Path, PathPart } from '../flow/path';
import { equalAreaBore, throttleWideOpen } from '../flow/throttle';

/** What is on the car: the stock unit, or another on the opening as it is or opened to match. */
export interface Fitted {
  readonly throttle: ThrottleDoc;
  /** Of one opening: behind individual throttles there are as many as bores. */
  readonly opening_m: number;
  readonly bench?: { readonly flow_m3ps: number; readonly depression_Pa: number; readonly entryK: number } | undefined;
}

/** The parts of a job that decide what air does; notes, runs and choices do not. */
export type SizedJob = Pick<JobDoc, 'car' | 'air' | 'sizing'>;

export type OpeningChoice = JobDoc['pick']['opening'];

/** The bore that air sees after the throttle: a gasket that stands into the flow is the smaller one. */
export function effectiveOpening(doc: Pick<JobDoc, 'car'>): number {
  return Math.min(doc.car.stock.manifoldOpening_m, doc.car.stock.gasketOpening_m);
}

export function stockFitted(doc: SizedJob): Fitted {
  return { throttle: doc.car.stock.throttle, opening_m: effectiveOpening(doc) };
}

/** Round bore with the same gross area as the throttle, m: what the manifold is opened to when it is matched. */
export function grossBore(throttle: ThrottleDoc): number {
  if (throttle.shape === 'individual') return throttle.bore_m;
  const wide = throttleWideOpen(throttle);
  return isFailure(wide) ? throttle.bore_m : equalAreaBore(wide.grossArea_m2);
}

/** The opening a bore ends up on: as it is, or taken to match as far as the manifold's metal lets it. */
export function openingFor(doc: Pick<JobDoc, 'car'>, bore_m: number, opening: OpeningChoice): number {
  const asItIs = effectiveOpening(doc);
  return opening === 'matched' ? Math.max(asItIs, Math.min(bore_m, doc.car.stock.openingLimit_m ?? Infinity)) : asItIs;
}

/** A bench figure brought to all bores of its unit: sets are often tested one bore at a time. */
export const wholeFlow = (unit: UnitDoc, record: BenchRecord): number =>
  (record.flow_m3ps * unit.throttle.count) / (record.bores ?? unit.throttle.count);

export function unitFitted(doc: SizedJob, unit: UnitDoc, opening: OpeningChoice): Fitted {
  const opening_m = openingFor(doc, grossBore(unit.throttle), opening);
  const [record] = unit.bench;
  return { throttle: unit.throttle, opening_m, bench: record && { ...record, flow_m3ps: wholeFlow(unit, record) } };
}

/** Pulsation before and after an airbox, where each cylinder breathes through its own throttle; null on a shared one. */
export interface JobPulsation {
  /** Of the flow that all cylinders share: behind the airbox's volume it is nearly steady. */
  readonly shared: number;
  readonly own: number;
  readonly ownPeakToMean: number;
}

export function jobPulsation(doc: SizedJob): JobPulsation | null {
  const { induction, engine } = doc.car;
  if (induction.kind !== 'individual') return null;
  const box = doc.air.parts.find((p) => p.type === 'airbox');
  const one = pulsationFactor({ startAngles_rad: [0], eventLength_rad: induction.event_rad });
  const all = pulsationFactor({
    startAngles_rad: evenStarts(engine.cylinders),
    eventLength_rad: induction.event_rad,
    ...(box?.type === 'airbox' && { plenum_m3: box.volume_m3, displacement_m3: engine.displacement_m3 }),
  });
  if (isFailure(one) || isFailure(all)) return null;
  return { shared: all.blendedFactor ?? all.factor, own: one.factor, ownPeakToMean: one.peakToMean };
}

/** The part as the ladder takes it. */
function corePart(part: PartDoc, fitted: Fitted, openingEdge_m: number): PathPart {
  const { id: _id, bench, ...rest } = part;
  const name = part.name ?? part.id;
  const record = (figure: Fitted['bench']): object =>
    figure ? { benchFlow_m3ps: figure.flow_m3ps, benchDepression_Pa: figure.depression_Pa, benchEntryK: figure.entryK } : {};
  switch (part.type) {
    case 'throttle':
      return {
        type: 'throttle',
        name: 'throttle',
        throttle: fitted.throttle,
        join: { ...part.join, edgeRadius_m: openingEdge_m },
        ...record(fitted.bench),
      };
    case 'opening': {
      const count = fitted.throttle.shape === 'individual' ? fitted.throttle.count : 1;
      if (count === 1) return { type: 'section', name: 'opening', bore_m: fitted.opening_m, join: part.join };
      return { type: 'section', name: 'opening', area_m2: (count * Math.PI * fitted.opening_m ** 2) / 4, join: part.join };
    }
    case 'airbox':
      return { type: 'section', name, bore_m: part.bore_m, join: part.join, ...record(bench) };
    default:
      return { ...rest, name, ...record(bench) } as PathPart;
  }
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
  const core = doc.air.parts.map((part, i): PathPart => {
    const made = corePart(part, fitted, edge_m);
    const factor = lossFactor * (pulsation ? (box >= 0 && i <= box ? pulsation.shared : pulsation.own) : 1);
    return factor === 1 ? made : { ...made, pulsationFactor: factor };
  });
  const at = doc.air.parts.findIndex((p) => p.type === 'compressor');
  if (at < 0) return { before: null, path: { parts: core }, offset: 0 };
  return { before: { parts: core.slice(0, at) }, path: { parts: core.slice(at + 1) }, offset: at + 1 };
}

/** The path the throttle is in. */
export const jobPath = (doc: SizedJob, fitted: Fitted): Path => jobIntake(doc, fitted).path;
