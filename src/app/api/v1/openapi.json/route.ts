import { openApiDocument } from '@/server/api/openapi';
import { admit } from '@/server/access';
import { route } from '@/server/http';

export const GET = route(async (req) => {
  await admit(req);
  return Response.json(openApiDocument(), { headers: { 'cache-control': 'no-store' } });
});
