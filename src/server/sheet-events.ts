import { readKept } from '@/core/documents/kept';
import { sheetEventDoc, type SheetEventDoc } from '@/core/documents/sheet';
import type { Db, Trx } from './db/client';
import { isUuid } from './ids';

/** Everything written down on a job's run-sheet, in the order it was. */
export async function listSheet(db: Db | Trx, jobId: string): Promise<SheetEventDoc[]> {
  if (!isUuid(jobId)) return [];
  const rows = await db.selectFrom('sheet_event').select('event').where('job_id', '=', jobId).orderBy('seq').execute();
  return rows.map((r) => readKept(sheetEventDoc, r.event) as SheetEventDoc);
}
