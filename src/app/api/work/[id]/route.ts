import { z } from 'zod';
import { db } from '@/server/db/client';
import { notFound } from '@/server/errors';
import { route } from '@/server/http';
import { seeWork, stopWork } from '@/server/queue/work';

const known = (id: string): string => {
  if (!z.uuid().safeParse(id).success) throw notFound('piece of work');
  return id;
};

/** How far a piece of work is, and what came of it. */
export const GET = route<{ id: string }>(async (_, { id }) => Response.json(await seeWork(db(), known(id))));

/** Stops it; answers with what it is then. */
export const DELETE = route<{ id: string }>(async (_, { id }) => Response.json(await stopWork(db(), known(id))));
