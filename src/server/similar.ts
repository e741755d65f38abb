import { sql } from 'kysely';
import type { InductionKind } from '@/core/documents/induction';
import type { Learnt } from '@/core/verdict/findings';
import type { FinishedJob } from '@/core/verdict/similar';
import type { Db } from './db/client';

/** Every job of the shop whose dyno comparison has an interval: what it says of its unit and its engine. */
export async function finishedJobs(db: Db): Promise<FinishedJob[]> {
  const { rows } = await sql<{
    id: string;
    name: string;
    induction: InductionKind;
    displacement: number;
    learnt: Learnt;
    predicted: number | null;
  }>`
    SELECT j.id, j.doc->>'name' AS name, j.doc#>>'{car,induction,kind}' AS induction,
      (j.doc#>>'{car,engine,displacement_m3}')::float AS displacement, s->'learnt' AS learnt,
      (SELECT p.predicted FROM prediction p WHERE p.subject = 'dyno' AND p.subject_id = j.id AND p.source = 'the model'
        ORDER BY p.made_at LIMIT 1) AS predicted
    FROM job j, jsonb_array_elements(j.finding->'stops') AS s
    WHERE j.trashed_at IS NULL AND s->>'stop' = 'test' AND jsonb_typeof(s->'learnt') = 'object'
    ORDER BY j.saved_at DESC LIMIT 400`.execute(db);
  return rows.map((r) => ({
    ...r.learnt,
    id: r.id,
    name: r.name,
    induction: r.induction,
    displacement_m3: r.displacement,
    predicted_pct: r.predicted,
  }));
}
