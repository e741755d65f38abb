/** Warm medians of the sums behind Air and Pick, for every kind of engine. One JSON line a measure. */
import type { StoredUnit } from '@/core/documents/unit';
import { must } from '@/core/failure';
import { jobBounds } from '@/core/job/bounds';
import { leftOnTable } from '@/core/job/knee';
import { jobKnee } from '@/core/job/knee';
import { jobModel } from '@/core/job/model';
import { presetJob } from '@/core/job/presets';
import { rangeProblem } from '@/core/job/ranges';
import { rankUnits } from '@/core/job/ranking';
import { uncertaintyRun } from '@/core/sizing/uncertainty';
import { DEMO_UNITS, larkspurJob } from '@/server/demo/larkspur';
import { say, timesOf } from './measure';

const units: StoredUnit[] = DEMO_UNITS.map((doc, i) => ({ id: String(i), version: 1, doc }));
const doc = larkspurJob(units.map((u) => u.id));
const RPM_POINTS = 60;
const rpmOf = (from: number, to: number): number[] =>
  Array.from({ length: RPM_POINTS }, (_, i) => from + ((to - from) * i) / (RPM_POINTS - 1));
const shown = units.map((unit) => ({ unit, opening: 'matched' as const }));

function keystroke(): void {
  const work = (): unknown => {
    const model = must(jobModel(doc, shown));
    return [leftOnTable(doc, model), rankUnits(doc, model, units)];
  };
  const all = timesOf(work, 200, 60);
  say('one keystroke: solve, ranking and what is left on the table, median', all.median, 'ms', 8);
  say('one keystroke, 99 % point', all.worst, 'ms', 12);
}

const PRESETS = {
  'no compressor': 'straight six, 2.9 L',
  'individual throttles': 'straight six, 2.4 L, individual throttles',
  'blower behind the throttle': 'V6, 3.3 L with a blower behind its throttle',
  centrifugal: 'V8, 4.8 L with a centrifugal',
  turbo: 'four, 1.8 L turbo',
} as const;

/** Twelve units round a stock bore, of the stock's own kind. */
function twelve(job: ReturnType<typeof presetJob>): StoredUnit[] {
  const { throttle } = job.car.stock;
  return Array.from({ length: 12 }, (_, i) => ({
    id: `u${i}`,
    version: 1,
    doc: { ...DEMO_UNITS[0]!, name: `Unit ${i}`, throttle: { ...throttle, bore_m: throttle.bore_m * (0.96 + 0.03 * i) } },
  }));
}

function everyKind(): void {
  for (const [name, preset] of Object.entries(PRESETS)) {
    const job = presetJob('Bench', preset);
    const rpm = rpmOf(job.car.engine.lowest_rpm, job.car.engine.redline_rpm);
    const sides = twelve(job).map((unit) => ({ unit, opening: 'matched' as const }));
    const { median } = timesOf(() => must(jobModel(job, sides, rpm)), 60, 20);
    say(`full solve, ${name}: stock + 12 units x 60 rpm, median`, median, 'ms', 40);
  }
}

function knee(): void {
  const rpm = rpmOf(doc.car.engine.lowest_rpm, doc.car.engine.redline_rpm);
  const model = must(jobModel(doc, shown, rpm));
  const bores = Array.from({ length: 60 }, (_, i) => 0.045 + (0.06 * i) / 59);
  say('knee curve: 60 bores x 60 rpm, both openings, median', timesOf(() => jobKnee(doc, model, bores), 40, 15).median, 'ms', 60);
  say('the seven bounds, median', timesOf(() => jobBounds(doc, model), 40, 15).median, 'ms', 40);
}

const DRAWS = 2000;

function monteCarlo(): void {
  for (const [name, preset] of Object.entries(PRESETS)) {
    const job = presetJob('Bench', preset);
    const rpm = rpmOf(job.car.engine.lowest_rpm, job.car.engine.redline_rpm);
    const sides = twelve(job)
      .slice(1, 5)
      .map((unit) => ({ unit, opening: 'matched' as const }));
    const model = must(jobModel(job, sides, rpm));
    const work = (): unknown => {
      const run = must(
        uncertaintyRun({
          ...rangeProblem(model, job.car.engine.cylinders),
          seed: 7,
        }),
      );
      run.draw(DRAWS);
      return run.ranges();
    };
    say(`ranges, ${name}: ${DRAWS} draws x 60 rpm x 4 units, median`, timesOf(work, 3, 1).median / 1000, 's', 1.5);
  }
}

keystroke();
everyKind();
knee();
monteCarlo();
