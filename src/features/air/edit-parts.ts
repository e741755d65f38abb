import type { JobDoc } from '@/core/documents/job';
import type { PartDoc, PartType } from '@/core/documents/part';

/** Parts a person can add; the throttle and its opening are the car's and always there. */
export const ADDABLE: readonly { readonly type: PartType; readonly title: string }[] = [
  { type: 'pipe', title: 'Pipe or hose' },
  { type: 'filter', title: 'Filter' },
  { type: 'meter', title: 'MAF housing' },
  { type: 'taper', title: 'Taper or coupler' },
  { type: 'restrictor', title: 'Restrictor of a class' },
  { type: 'section', title: 'Anything with a loss' },
  { type: 'openEnd', title: 'Inlet mouth' },
  { type: 'airbox', title: 'Airbox' },
];

function neighbourBore(parts: readonly PartDoc[], at: number): number {
  const part = parts[at];
  if (part === undefined) return 0.07;
  if (part.type === 'taper') return part.outBore_m;
  return 'bore_m' in part ? part.bore_m : 0.07;
}

function freshPart(type: PartType, id: string, bore_m: number): PartDoc {
  switch (type) {
    case 'openEnd':
      return { id, type, bore_m, edgeRadius_m: 0.005 };
    case 'filter':
      return { id, type, bore_m: bore_m * 1.35, ratedFlow_m3ps: 0.25, ratedLoss_Pa: 1000, loading: 1 };
    case 'pipe':
      return { id, type, bore_m, length_m: 0.2, roughness_m: 1e-5, count: 1, bends: [] };
    case 'meter':
      return { id, type, bore_m, K: 0.3 };
    case 'taper':
      return { id, type, inBore_m: bore_m, outBore_m: Math.max(0.02, bore_m - 0.006), halfAngle_rad: 0.14 };
    case 'airbox':
      return { id, type, bore_m: 0.18, volume_m3: 0.006 };
    case 'section':
      return { id, type, bore_m, K: 0.1 };
    case 'restrictor':
      return { id, type, name: 'restrictor', bore_m: 0.034, kind: 'venturi', count: 1, Cd: null, recovery: null };
    default:
      throw new RangeError(`a ${type} cannot be added`);
  }
}

const withParts = (doc: JobDoc, parts: PartDoc[]): JobDoc => ({ ...doc, air: { ...doc.air, parts } });

/** A name for a new part that no other has: "pipe", "pipe 2", … */
function freeId(parts: readonly PartDoc[], type: string): string {
  let n = 1;
  const name = (): string => (n === 1 ? type : `${type}-${n}`);
  while (parts.some((p) => p.id === name())) n += 1;
  return name();
}

/** Adds a part ahead of the throttle, after the selected one where that is ahead of it too. Returns the document and its id. */
export function addPart(doc: JobDoc, type: PartType, after: string | null): { doc: JobDoc; id: string } {
  const { parts } = doc.air;
  const throttle = parts.findIndex((p) => p.type === 'throttle');
  const selected = parts.findIndex((p) => p.id === after);
  // A class restricts what the compressor draws, not what it hands on.
  const compressor = type === 'restrictor' ? parts.findIndex((p) => p.type === 'compressor') : -1;
  const last = compressor >= 0 ? compressor : throttle;
  const at = selected >= 0 && selected < throttle ? selected + 1 : last;
  const id = freeId(parts, type);
  return { id, doc: withParts(doc, [...parts.slice(0, at), freshPart(type, id, neighbourBore(parts, at - 1)), ...parts.slice(at)]) };
}

export function removePart(doc: JobDoc, id: string): JobDoc {
  return withParts(
    doc,
    doc.air.parts.filter((p) => p.id !== id),
  );
}

/** Whether a part may be moved or taken out: the throttle, its opening and a compressor stay where they are. */
export const isMovable = (part: PartDoc): boolean => !['throttle', 'opening', 'compressor'].includes(part.type);

/** Puts a part in another's place, pushing that one on. Past the throttle nothing moves. */
export function movePart(doc: JobDoc, id: string, to: number): JobDoc {
  const { parts } = doc.air;
  const from = parts.findIndex((p) => p.id === id);
  const throttle = parts.findIndex((p) => p.type === 'throttle');
  const part = parts[from];
  if (!part || !isMovable(part)) return doc;
  const target = Math.max(0, Math.min(to, throttle - (from < throttle ? 1 : 0)));
  const rest = parts.filter((p) => p.id !== id);
  return withParts(doc, [...rest.slice(0, target), part, ...rest.slice(target)]);
}
