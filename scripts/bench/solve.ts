/** Warm median of the sums behind a keystroke on Air and Pick: stock and three units at 60 rpm. One JSON line a measure. */
import type { StoredUnit } from '@/core/documents/unit';
import { must } from '@/core/failure';
import { leftOnTable } from '@/core/job/findings';
import { jobModel } from '@/core/job/model';
import { rankUnits } from '@/core/job/ranking';
import { DEMO_UNITS, larkspurJob } from '../demo/larkspur';

const RUNS = 200;
const WARM_UP = 60;

function medianMs(work: () => unknown): { median: number; worst: number } {
  for (let i = 0; i < WARM_UP; i += 1) work();
  const times: number[] = [];
  for (let i = 0; i < RUNS; i += 1) {
    const from = performance.now();
    work();
    times.push(performance.now() - from);
  }
  times.sort((a, b) => a - b);
  return { median: times[RUNS / 2]!, worst: times[Math.floor(RUNS * 0.99)]! };
}

const say = (name: string, value: number, unit: string, limit: number): void =>
  console.log(JSON.stringify({ name, value: Number(value.toFixed(3)), unit, limit, ok: value <= limit }));

const units: StoredUnit[] = DEMO_UNITS.map((doc, i) => ({ id: String(i), version: 1, doc }));
const doc = larkspurJob(units.map((u) => u.id));
const rpm = Array.from({ length: 60 }, (_, i) => 1500 + (5300 * i) / 59);
const solve = (): unknown =>
  jobModel(
    doc,
    units.map((unit) => ({ unit, opening: 'matched' as const })),
    rpm,
  );
const keystroke = (): unknown => {
  const model = must(
    jobModel(
      doc,
      units.map((unit) => ({ unit, opening: 'matched' as const })),
    ),
  );
  return [leftOnTable(doc, model), rankUnits(doc, model, units)];
};
const { median } = medianMs(solve);
say('solve: stock + 3 units x 60 rpm, median', median, 'ms', 8);
const all = medianMs(keystroke);
say('one keystroke: solve, ranking and what is left on the table, median', all.median, 'ms', 16);
say('one keystroke, 99 % point', all.worst, 'ms', 16);
