import { practiceDecision } from '@/core/documents/practice';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { decidePractice, scoreOf } from '@/server/practice';

/** How a decided session went. */
export const GET = route<{ id: string }>(async (_req, { id }) => Response.json(await scoreOf(db(), id)));

/** Decides: the truth is told. */
export const POST = route<{ id: string }>(async (req, { id }) => {
  const decision = await body(req, practiceDecision);
  return Response.json(
    await db()
      .transaction()
      .execute((trx) => decidePractice(trx, id, decision)),
  );
});
