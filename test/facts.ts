import { compareSides, type SideComparison } from '@/core/compare/sides';
import type { StoredPass, StripBook } from '@/core/documents/strip';
import { stripPassDoc, stripVisitDoc } from '@/core/documents/strip';
import { must } from '@/core/failure';
import type { PracticeScore } from '@/core/stand-ins/practice';
import { towerSlip } from '@/core/stand-ins/tower';
import { analyseStrip } from '@/core/strip/analyse';
import type { StripAnalysis } from '@/core/strip/analysis';
import { NO_FACTS, type JobFacts } from '@/core/verdict/facts';

const rpm = Array.from({ length: 200 }, (_, i) => 2000 + 24 * i);
/** A run: power in proportion to speed, with so much more in the lowest and the highest third. */
const run = (low = 0, high = 0, k = 0) => ({
  rpm,
  power_W: rpm.map((n) => 20 * n * (n < 3600 ? 1 + low : n > 5180 ? 1 + high : 1) * (1 + 0.001 * (k % 3))),
});

/** Stock against a throttle that gains so much in the lowest and the highest third, alternate every run. */
export const comparedSides = (low: number, high: number, runs = 3, bands_rpm: [number, number][] = []): SideComparison =>
  must(
    compareSides(
      Array.from({ length: runs }, (_, k) => ({ ...run(0, 0, k), order: 2 * k })),
      Array.from({ length: runs }, (_, k) => ({ ...run(low, high, k), order: 2 * k + 1 })),
      { fwhm_rpm: 0, bands_rpm },
    ),
  );

export const UNIT_ID = '00000000-0000-4000-8000-000000000066';

/** A day of passes by the stand-in tower, alternate every run. */
export function stripBook(passes: number, gain: number, unitId = UNIT_ID, start = 0): StripBook {
  const visit = {
    id: '00000000-0000-4000-8000-0000000000a1',
    jobId: 'job-1',
    version: 1,
    doc: stripVisitDoc.parse({
      schema: 1,
      track: 'Thornby strip',
      takenOn: '2026-04-25',
      mass_kg: 1500,
      entryFee: 55,
      weather: Array.from({ length: 10 }, (_, h) => ({ at: `1${h}:00`, p_Pa: 100_400 - 20 * h, T_K: 291 + 0.3 * h, rh: 0.5 })),
    }),
  };
  return {
    visits: [visit],
    passes: Array.from({ length: passes }, (_, i): StoredPass => ({
      id: `00000000-0000-4000-8000-00000000010${i}`,
      visitId: visit.id,
      version: 1,
      doc: stripPassDoc.parse({
        schema: 1,
        at: `1${i % 10}:20`,
        side: i % 2 === 0 ? { kind: 'stock' } : { kind: 'unit', unitId },
        slip: towerSlip({
          car: { power_W: 150_000 * (1 + (i % 2) * gain), mass_kg: 1500, launch_mps2: 4.6 * (1 + (i % 2) * start) },
          seed: 4,
          pass: i,
        }),
      }),
    })),
  };
}

export const stripOf = (passes: number, gain: number, unitId = UNIT_ID): StripAnalysis =>
  analyseStrip(stripBook(passes, gain, unitId), { kind: 'na', unitId });

/** Facts of a job in which this much was measured. */
export const factsOf = (more: Partial<JobFacts>): JobFacts => ({ ...NO_FACTS, unitId: 'unit-1', ...more });

/** How a session of practice went: right, by luck. */
export const PRACTICE_SCORE: PracticeScore = {
  true_value: 1.9,
  true_pct: 1.9,
  trueWord: 'gain',
  right: true,
  carried: "can't tell yet",
  honest: false,
  error_pct: 0.1,
  runs: 4,
  stays: 2,
  minutes: 90,
  cost: 0,
  lesson: null,
};
