import { readFileSync } from 'node:fs';
import { sql } from 'kysely';
import { isFailure, must } from '@/core/failure';
import { jobModel } from '@/core/job/model';
import type { JobDoc } from '@/core/documents/job';
import type { UnitDoc } from '@/core/documents/unit';
import { freshDatabase } from '../../test/database';
import { migrate } from './db/migrate';
import { readJob, saveJob } from './jobs';
import { listUnits } from './units';

interface Release {
  readonly ids: readonly string[];
  readonly job: JobDoc;
  readonly units: readonly UnitDoc[];
  readonly peakPower_W: number;
  readonly gains_pct: readonly number[];
}
const release = JSON.parse(readFileSync('test/fixtures/first-release.json', 'utf8')) as Release;

it('a shop that ran the first release opens the next with everything it had, and the same answers', async () => {
  const { db, drop } = await freshDatabase('001-first');
  try {
    for (const [i, doc] of release.units.entries())
      await sql`INSERT INTO unit (id, doc) VALUES (${release.ids[i]}, ${JSON.stringify(doc)}::jsonb)`.execute(db);
    const { rows } = await sql<{ id: string }>`
      INSERT INTO job (doc, finding) VALUES (${JSON.stringify(release.job)}::jsonb, '{"stops":[]}'::jsonb) RETURNING id`.execute(db);
    expect(await migrate(db)).toEqual(['002-workshop', '003-run-sheet']);
    const job = await readJob(db, rows[0]!.id);
    const units = await listUnits(db);
    expect(job.doc).toMatchObject({ ...release.job, air: { allowedLoss_Pa: release.job.air.allowedLoss_Pa } });
    expect(units.map((u) => u.doc)).toMatchObject(release.units);
    const model = must(
      jobModel(
        job.doc,
        release.ids.map((id) => ({ unit: units.find((u) => u.id === id)!, opening: 'matched' as const })),
      ),
    );
    const peak = Math.max(...model.reference.result.power_W);
    expect(peak / release.peakPower_W).toBeCloseTo(1, 9);
    model.candidates.forEach((c, i) => {
      if (isFailure(c.solved)) throw new Error('not solved');
      expect(100 * (Math.max(...c.solved.power_W) / peak - 1)).toBeCloseTo(release.gains_pct[i]!, 6);
    });
    // And it can be saved again in today's form.
    const { job: saved } = await db.transaction().execute((trx) => saveJob(trx, job.id, 1, { ...job.doc, name: 'Still mine' }));
    expect(saved).toMatchObject({ version: 2, doc: { name: 'Still mine' } });
  } finally {
    await drop();
  }
});
