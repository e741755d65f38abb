import { solveAnswer, solveRequest } from '@/server/api/operations';
import { answer, apiRoute } from '@/server/api/route';
import { solveJob } from '@/server/api/solve';
import { db } from '@/server/db/client';
import { body } from '@/server/http';

export const POST = apiRoute(false, async (req) => answer(solveAnswer, await solveJob(db(), await body(req, solveRequest))));
