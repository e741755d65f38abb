import { sql } from 'kysely';
import type { z } from 'zod';
import { jobDoc, type JobDoc } from '@/core/documents/job';
import { readKept, withoutBounds } from '@/core/documents/kept';
import { runDoc, type RunDoc } from '@/core/documents/run';
import { stripPassDoc, stripVisitDoc, type StripPassDoc, type StripVisitDoc } from '@/core/documents/strip';
import { testedPartDoc, unitDoc, type TestedPartDoc, type UnitDoc } from '@/core/documents/unit';
import type { Db, Trx } from './db/client';
import { notFound } from './errors';
import { isUuid } from './ids';
import { refreshFinding, saveJob } from './jobs';
import { savePart } from './parts';
import { saveRun } from './runs';
import { jobOfPass, savePass, saveVisit } from './strip';
import { saveUnit } from './units';
import type { Trashable } from './trash';

const SCHEMAS: Readonly<Record<Trashable, z.ZodType<object>>> = {
  job: jobDoc,
  unit: unitDoc,
  tested_part: testedPartDoc,
  run: runDoc,
  strip_visit: stripVisitDoc,
  strip_pass: stripPassDoc,
};

/** A document as it once was, or is. */
export interface DocumentVersion {
  readonly version: number;
  readonly doc: object;
  readonly savedBy: string;
  readonly savedAt: string;
}

/** What a document is now and was before, the newest first; of long typing one state every two minutes. */
export async function listVersions(db: Db | Trx, kind: Trashable, id: string): Promise<DocumentVersion[]> {
  if (!isUuid(id)) throw notFound('document');
  const { rows } = await sql<{ version: number; doc: unknown; saved_by: string; saved_at: Date }>`
    SELECT version, doc, saved_by, saved_at FROM ${sql.table(kind)} WHERE id = ${id}
    UNION ALL (SELECT version, doc, saved_by, saved_at FROM document_version WHERE kind = ${kind} AND doc_id = ${id} ORDER BY version DESC LIMIT 200)
    ORDER BY version DESC`.execute(db);
  if (rows.length === 0) throw notFound('document');
  return rows.map((r) => ({
    version: r.version,
    // An older version is read in today's form; one that cannot be is shown as it stands.
    doc: withoutBounds(SCHEMAS[kind]).safeParse(r.doc).data ?? (r.doc as object),
    savedBy: r.saved_by,
    savedAt: r.saved_at.toISOString(),
  }));
}

/** Saves an older version as the newest. What stood there is kept too, whatever the pace of saving. */
export async function restoreVersion(trx: Trx, kind: Trashable, id: string, version: number, at: number): Promise<void> {
  const found = (await listVersions(trx, kind, id)).find((v) => v.version === version);
  if (!found) throw notFound('version');
  await sql`SELECT set_config('vanner.keep', 'always', true)`.execute(trx);
  const doc = readKept(SCHEMAS[kind], found.doc);
  switch (kind) {
    case 'job':
      await saveJob(trx, id, at, doc as JobDoc);
      return;
    case 'unit':
      await saveUnit(trx, id, at, doc as UnitDoc);
      return;
    case 'tested_part':
      await savePart(trx, id, at, doc as TestedPartDoc);
      return;
    // What the job comes to may hang on these.
    case 'run':
      await refreshFinding(trx, (await saveRun(trx, id, at, doc as RunDoc)).jobId);
      return;
    case 'strip_visit':
      await refreshFinding(trx, (await saveVisit(trx, id, at, doc as StripVisitDoc)).jobId);
      return;
    case 'strip_pass':
      await savePass(trx, id, at, doc as StripPassDoc);
      await refreshFinding(trx, await jobOfPass(trx, id));
  }
}
