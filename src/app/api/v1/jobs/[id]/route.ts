import { storedJob } from '@/server/api/operations';
import { answer, apiRoute } from '@/server/api/route';
import { db } from '@/server/db/client';
import { readJob } from '@/server/jobs';

export const GET = apiRoute<{ id: string }>(false, async (_req, { id }) => answer(storedJob, await readJob(db(), id)));
