import type { StoredPart, StoredUnit } from '@/core/documents/unit';
import { isFailure } from '@/core/failure';
import type { BenchEntry } from '@/core/flow/bench-rank';
import { equalAreaBore, throttleWideOpen } from '@/core/flow/throttle';
import { wholeFlow } from '@/core/job/path';

/** Something that can go on the bench: a throttle body of the shelf, or another part. */
export type Subject = { readonly kind: 'unit'; readonly unit: StoredUnit } | { readonly kind: 'part'; readonly part: StoredPart };

export const subjectId = (s: Subject): string => (s.kind === 'unit' ? s.unit.id : s.part.id);
export const subjectName = (s: Subject): string => (s.kind === 'unit' ? s.unit.doc.name : s.part.doc.name);
export const subjectRecords = (s: Subject) => (s.kind === 'unit' ? s.unit.doc.bench : s.part.doc.bench);

/** Areas a subject's figure is read against, m². */
export function subjectAreas(s: Subject): { bore_m: number; netArea_m2: number; grossArea_m2: number; K: number } | null {
  if (s.kind === 'part') {
    const area = (Math.PI / 4) * s.part.doc.bore_m ** 2;
    return { bore_m: s.part.doc.bore_m, netArea_m2: area, grossArea_m2: area, K: s.part.doc.kind === 'air meter' ? 0.3 : 0.1 };
  }
  const wide = throttleWideOpen(s.unit.doc.throttle);
  if (isFailure(wide)) return null;
  return { bore_m: equalAreaBore(wide.grossArea_m2), netArea_m2: wide.netArea_m2, grossArea_m2: wide.grossArea_m2, K: wide.K };
}

/** Every record of the subjects, ready to be ranked. */
export function entriesOf(subjects: readonly Subject[]): BenchEntry[] {
  return subjects.flatMap((s) => {
    const areas = subjectAreas(s);
    if (!areas) return [];
    return subjectRecords(s).map((r, i) => ({
      id: `${subjectId(s)}/${i}`,
      name: subjectName(s),
      bench: r.bench,
      flow_m3ps: s.kind === 'unit' ? wholeFlow(s.unit.doc, r) : r.flow_m3ps,
      depression_Pa: r.depression_Pa,
      entryK: r.entryK,
      bore_m: areas.bore_m,
      netArea_m2: areas.netArea_m2,
      grossArea_m2: areas.grossArea_m2,
    }));
  });
}
