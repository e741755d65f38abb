import { jobDoc, type JobDoc } from '@/core/documents/job';
import { unitDoc, type StoredUnit, type UnitDoc } from '@/core/documents/unit';
import { presetJob } from '@/core/job/presets';

/** A throttle on a shelf, one round bore unless said otherwise. */
export function aUnit(bore_mm: number, more: Partial<UnitDoc> = {}): StoredUnit {
  return {
    id: `u${bore_mm}`,
    version: 1,
    doc: unitDoc.parse({
      schema: 1,
      name: `Unit ${bore_mm}`,
      throttle: {
        shape: 'single',
        bore_m: bore_mm / 1000,
        count: 1,
        shaft_m: 0.008,
        edge: 'flattened',
        closedAngle_rad: 0.1222,
        clearance_m: 4e-5,
      },
      controls: 'cable',
      price: 300,
      largestOpening_m: null,
      bench: [],
      note: '',
      ...more,
    }),
  };
}

export const aRecord = (flow_m3ps: number, more: Partial<UnitDoc['bench'][number]> = {}): UnitDoc['bench'][number] => ({
  flow_m3ps,
  depression_Pa: 6974.49,
  entryK: 0.04,
  bench: 'ours',
  kind: 'reading',
  bores: null,
  takenOn: null,
  note: '',
  ...more,
});

export const SIX = 'straight six, 2.9 L';
export const BLOWN = 'V6, 3.3 L with a blower behind its throttle';
export const CENTRIFUGAL = 'V8, 4.8 L with a centrifugal';
export const TURBO = 'four, 1.8 L turbo';
export const INDIVIDUAL = 'straight six, 2.4 L, individual throttles';

export const aJob = (preset = SIX): JobDoc => jobDoc.parse(presetJob('Test car', preset));
