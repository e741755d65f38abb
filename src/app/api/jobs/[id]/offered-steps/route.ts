import { db } from '@/server/db/client';
import { route } from '@/server/http';
import { offeredSteps } from '@/server/sheet';

/** Steps the shop added on other cars of this kind. */
export const GET = route<{ id: string }>(async (_req, { id }) => Response.json(await offeredSteps(db(), id)));
