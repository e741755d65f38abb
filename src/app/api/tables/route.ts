import { z } from 'zod';
import { ServerProblem } from '@/server/errors';
import { query, route } from '@/server/http';
import { admit } from '@/server/access';
import { refusalText } from '@/core/read/refusal-text';
import { tableText } from '@/server/work/table-text';

/** A small table, in whatever file it is, as lines of tabs: for the places that take pasted text. Nothing is kept. */
export const POST = route(async (req) => {
  await admit(req);
  const { table } = query(req, z.object({ fileName: z.string().max(255), table: z.string().max(400).optional() }));
  if (!req.body) throw new ServerProblem(422, 'empty_file', 'The file is empty.');
  const answer = await tableText(req.body as ReadableStream<Uint8Array>, table ?? null, req.signal);
  if (answer.refused !== null) throw new ServerProblem(422, answer.refused, refusalText(answer), { refusal: answer });
  return Response.json(answer);
});
