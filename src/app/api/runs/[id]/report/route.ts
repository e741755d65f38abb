import { db } from '@/server/db/client';
import { route } from '@/server/http';
import { runReport } from '@/server/runs';

export const GET = route<{ id: string }>(async (_req, { id }) => Response.json(await runReport(db(), id)));
