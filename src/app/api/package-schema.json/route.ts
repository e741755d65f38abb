import { packageJsonSchema } from '@/core/documents/package';
import { route } from '@/server/http';

/** What a job's archive holds, for other programs. */
export const GET = route(() => Promise.resolve(Response.json(packageJsonSchema())));
