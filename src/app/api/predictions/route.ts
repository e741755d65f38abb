import { predictionDoc } from '@/core/documents/prediction';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { addPrediction, listPredictions } from '@/server/predictions';

export const GET = route(async () => Response.json(await listPredictions(db(), 'bench')));
export const POST = route(async (req) => Response.json(await addPrediction(db(), await body(req, predictionDoc)), { status: 201 }));
