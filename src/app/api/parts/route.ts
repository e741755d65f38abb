import { testedPartDoc } from '@/core/documents/unit';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { addPart, listParts } from '@/server/parts';

export const GET = route(async () => Response.json(await listParts(db())));
export const POST = route(async (req) => Response.json(await addPart(db(), await body(req, testedPartDoc)), { status: 201 }));
