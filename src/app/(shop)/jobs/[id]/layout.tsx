import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import type { ReactNode } from 'react';
import { JobFrame } from '@/features/job/frame';
import { PackedJobProvider, type JobAsSent } from '@/features/job/packed-provider';
import { db } from '@/server/db/client';
import { isUuid } from '@/server/ids';
import { currentFinding, unitsOf } from '@/server/jobs';
import { listParts } from '@/server/parts';
import { listRuns } from '@/server/runs';
import { listUnits } from '@/server/units';
import { packed } from '@/server/packed';
import { openJob } from './open-job';

type Params = { params: Promise<{ id: string }> };

export async function generateMetadata({ params }: Params): Promise<Metadata> {
  const { name } = (await openJob((await params).id)).doc;
  return { title: { default: `${name} · Vanner`, template: `%s · ${name} · Vanner` } };
}

export default async function Layout({ params, children }: Params & { children: ReactNode }) {
  const { id } = await params;
  if (!isUuid(id)) notFound();
  // Asked for together: each wait for the database is also one for the other pages that are being written.
  const reading = Promise.all([listRuns(db(), id), currentFinding(db(), id), listParts(db())]);
  reading.catch(() => {}); // A job that is not there says so first.
  const stored = await openJob(id);
  const [runs, findings, parts] = await reading;
  const tested = runs.flatMap((r) => (r.doc.side?.kind === 'unit' ? [r.doc.side.unitId] : []));
  const units = await listUnits(db(), [...unitsOf(stored.doc), ...tested]);
  return (
    <PackedJobProvider sent={packed<JobAsSent>({ job: stored, findings, units, parts, runs })}>
      <JobFrame>{children}</JobFrame>
    </PackedJobProvider>
  );
}
