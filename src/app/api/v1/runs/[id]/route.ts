import { runCsv } from '@/core/export/comparison';
import { formatQuery, runAnswer } from '@/server/api/operations';
import { answer, apiRoute, csvFile, query } from '@/server/api/route';
import { db } from '@/server/db/client';
import { doubles } from '@/server/logs';
import { readChannel, readRun } from '@/server/runs';

export const GET = apiRoute<{ id: string }>(false, async (req, { id }) => {
  const { format, form } = query(req, formatQuery);
  const run = await readRun(db(), id);
  const channels = [];
  for (const [column, { name, unit }] of run.columns.entries())
    channels.push({
      name,
      unit,
      quantity: run.doc.channels.find((c) => c.column === column)?.quantity ?? 'other',
      values: doubles(await readChannel(db(), id, column)),
    });
  if (format === 'csv') return csvFile(runCsv(channels, form), run.doc.name);
  const asNull = (values: Float64Array): (number | null)[] => Array.from(values, (v) => (Number.isFinite(v) ? v : null));
  return answer(runAnswer, {
    ...run,
    columns: [...run.columns.map((c) => ({ ...c }))],
    channels: channels.map((c) => ({ ...c, values: asNull(c.values) })),
  });
});
