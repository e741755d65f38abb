import { z } from 'zod';
import { jobLine } from '@/server/api/operations';
import { answer, apiRoute } from '@/server/api/route';
import { db } from '@/server/db/client';
import { listJobs } from '@/server/jobs';

export const GET = apiRoute(false, async () => answer(z.array(jobLine), await listJobs(db())));
