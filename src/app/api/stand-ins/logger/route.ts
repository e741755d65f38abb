import { z } from 'zod';
import { loggerDrive, loggerStandIn } from '@/server/devices/logger';
import { db } from '@/server/db/client';
import { query, route, streamed } from '@/server/http';
import { readJob } from '@/server/jobs';
import { LOGGER_COLUMNS, loggerRows } from '@/core/stand-ins/logger';
import { WARTS, wartFile } from '@/core/stand-ins/warts';

const settings = z.object({
  job: z.uuid(),
  unit: z.uuid().optional(),
  seed: z.coerce
    .number()
    .int()
    .min(0)
    .max(2 ** 31),
  hunting: z.coerce.number().min(0).max(400).default(0),
  wart: z.enum(WARTS.map((w) => w.id)).default('plain'),
  live: z.enum(['0', '1']).default('0'),
});

/** A minute's drive of the job's car: live as server-sent events, or as a file with one thing odd about it. */
export const GET = route(async (req) => {
  const wanted = query(req, settings);
  const { doc } = await readJob(db(), wanted.job);
  const drive = await loggerDrive(db(), doc, wanted.unit ?? null, wanted.seed, wanted.hunting);
  if (wanted.live === '1') return streamed(req, loggerStandIn, drive);
  const table = { names: LOGGER_COLUMNS.map((c) => c.name), units: LOGGER_COLUMNS.map((c) => c.unit), rows: [...loggerRows(drive)] };
  const { bytes, fileName } = wartFile(wanted.wart, table, wanted.seed);
  return new Response(bytes, {
    headers: {
      'content-type': 'application/octet-stream',
      'content-disposition': `attachment; filename="${fileName}"`,
      'cache-control': 'no-store',
    },
  });
});
