import { comparisonCsv } from '@/core/export/comparison';
import { comparisonAnswer, formatQuery } from '@/server/api/operations';
import { answer, apiRoute, csvFile, query } from '@/server/api/route';
import { db } from '@/server/db/client';
import { jobComparison } from '@/server/comparison';
import { ServerProblem } from '@/server/errors';
import { readJob } from '@/server/jobs';

export const GET = apiRoute<{ id: string }>(false, async (req, { id }) => {
  const { format, form } = query(req, formatQuery);
  const { doc } = await readJob(db(), id);
  const full = await jobComparison(db(), id, doc);
  const { compared: c } = full;
  if (!c) throw new ServerProblem(404, 'no_comparison', 'This job has no runs of both sides that could be compared yet.');
  if (format === 'csv') return csvFile(comparisonCsv(c, full.extras, form), `${doc.name} comparison`);
  return answer(comparisonAnswer, {
    unitId: full.unitId,
    word: c.word,
    threshold_pct: c.threshold_pct,
    deciding: c.deciding,
    thirds: [...c.thirds],
    whole: c.whole,
    own: [...c.own],
    grid_rpm: c.grid_rpm,
    stock_W: c.a_W,
    new_W: c.b_W,
    difference_pct: c.difference_pct,
    bandHalfWidth_pct: c.band?.halfWidth_pct ?? null,
    clear: [...c.clear],
    runs: [...full.runs],
    confounders: [...full.confounders],
  });
});
