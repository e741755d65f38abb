import { openApiDocument } from '@/server/api/openapi';
import { apiRoute } from '@/server/api/route';

export const GET = apiRoute(false, () => Promise.resolve(Response.json(openApiDocument())));
